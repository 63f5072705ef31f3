import {
  type Factors,
  factorsOf,
  learnFactors,
  type NewThinningStep,
  type NewTouch,
  type ThinningStepView,
  type TouchView,
  touchReportOf,
} from '@kestfog/core';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { ThinningStepEntity, TouchEntity } from './calibration.entities.js';

@Injectable()
export class CalibrationService {
  constructor(
    @InjectRepository(ThinningStepEntity) private readonly steps: Repository<ThinningStepEntity>,
    @InjectRepository(TouchEntity) private readonly touches: Repository<TouchEntity>,
    private readonly clock: Clock,
  ) {}

  async listSteps(): Promise<ThinningStepView[]> {
    return (await this.steps.find({ order: { at: 'ASC' } })).map((s) => ({ ...s, at: s.at.toISOString() }));
  }

  async addStep(step: NewThinningStep): Promise<ThinningStepView> {
    if (step.toS >= step.fromS)
      throw new Refusal(400, 'not-thinner', `The count went from ${step.fromS} to ${step.toS} s: water makes it shorter, so count both again.`);
    const saved = await this.steps.save(this.steps.create({ ...step, at: new Date(this.clock.nowMs()) }));
    return { ...saved, at: saved.at.toISOString() };
  }

  async removeStep(id: string): Promise<void> {
    if (!(await this.steps.delete({ id })).affected) throw notFound('thinning test');
  }

  async listTouches(): Promise<TouchView[]> {
    return (await this.touches.find({ order: { at: 'ASC' } })).map((t) => ({ ...t, at: t.at.toISOString() }));
  }

  async addTouch(touch: NewTouch): Promise<TouchView> {
    if (touch.notYetMin === null && touch.reachedMin === null)
      throw new Refusal(400, 'nothing-found', 'Say when it was not there yet, or when it had come: at least one of the two minutes.');
    if (touch.notYetMin !== null && touch.reachedMin !== null && touch.notYetMin >= touch.reachedMin)
      throw new Refusal(400, 'touch-order', `"Not yet" at ${touch.notYetMin} min must lie before "had come" at ${touch.reachedMin} min.`);
    const saved = await this.touches.save(this.touches.create({ ...touch, at: new Date(this.clock.nowMs()) }));
    return { ...saved, at: saved.at.toISOString() };
  }

  async removeTouch(id: string): Promise<void> {
    if (!(await this.touches.delete({ id })).affected) throw notFound('touch');
  }

  /** What plans are made with: the book's spreads, sharpened by every touch that was kept. */
  async factors(): Promise<Factors> {
    const touches = await this.touches.find();
    return factorsOf(
      learnFactors(
        touches.map((t) =>
          touchReportOf({
            ...t,
            region: { seconds: t.seconds, depthMm: t.depthMm, on: t.on },
            air: { tempC: t.tempC, humidityFrac: t.humidityPct / 100, airMPerS: t.airMPerS },
          }),
        ),
      ),
    );
  }
}
