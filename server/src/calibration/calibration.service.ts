import { benchTouches, foldRun, reportOfBench } from '@kestfog/core/bench';
import { factorsOf, learnFactors, reportOfTold } from '@kestfog/core/calibration';
import type { Factors } from '@kestfog/core/drying';
import type { BenchTouchView, NewThinningStep, NewTouch, ThinningStepView, TouchView } from '@kestfog/core/wire';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { RunEntity } from '../runs/run.entity.js';
import { toStored } from '../runs/stored-event.js';
import { ThinningStepEntity, TouchEntity } from './calibration.entities.js';

@Injectable()
export class CalibrationService {
  constructor(
    @InjectRepository(ThinningStepEntity) private readonly steps: Repository<ThinningStepEntity>,
    @InjectRepository(TouchEntity) private readonly touches: Repository<TouchEntity>,
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
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

  /** What fingers found at the bench in runs that are finished; the newest last. */
  async listBenchTouches(): Promise<BenchTouchView[]> {
    const told = await this.runs
      .createQueryBuilder('run')
      .innerJoinAndSelect('run.events', 'event')
      .innerJoinAndSelect('run.plan', 'plan')
      .innerJoinAndSelect('run.order', 'order')
      .orderBy('run.startedAt', 'ASC')
      .getMany();
    return told.flatMap((run) => {
      const { plan } = run.plan;
      const events = [...run.events].sort((a, b) => a.seq - b.seq).map(toStored);
      // While a run goes on its plan is not planned away under it.
      if (!foldRun(plan, events).finished) return [];
      return benchTouches(plan, events).map((t): BenchTouchView => ({ ...t, runId: run.id, orderName: run.order.name }));
    });
  }

  /** What plans are made with: the book's spreads, sharpened by every touch that was kept, told on a quiet day or at the bench. */
  async factors(): Promise<Factors> {
    const touches = await this.touches.find();
    const atBench = (await this.listBenchTouches()).map((t) => reportOfBench(t, t.runId));
    return factorsOf(learnFactors([...atBench, ...touches.map(reportOfTold)]));
  }
}
