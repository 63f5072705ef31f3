import { randomUUID } from 'node:crypto';
import { reportsOfRuns } from '@kestfog/core/bench';
import { factorsOf, learnFactors, learnPace, type PaceOf, reportOfTold } from '@kestfog/core/calibration';
import type { Factors } from '@kestfog/core/drying';
import { monthIn } from '@kestfog/core/time';
import type { BenchTouchView, NewThinningStep, NewTouch, NotebookMonth, ThinningStepView, TouchView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { type EntityManager, type FindOptionsWhere, IsNull, Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { once } from '../platform/once.js';
import { RunEntity, type RunTaught } from '../runs/run.entity.js';
import { RunFactsService } from '../runs/run-facts.service.js';
import { LearnedRunEntity, ThinningStepEntity, TouchEntity } from './calibration.entities.js';

/** So many months are shown one by one. */
const MOST_MONTHS = 36;

/** What the device that tells it has named it. */
interface Named {
  readonly id?: string | undefined;
}

@Injectable()
export class CalibrationService {
  constructor(
    @InjectRepository(ThinningStepEntity) private readonly steps: Repository<ThinningStepEntity>,
    @InjectRepository(TouchEntity) private readonly touches: Repository<TouchEntity>,
    @InjectRepository(LearnedRunEntity) private readonly learned: Repository<LearnedRunEntity>,
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    private readonly clock: Clock,
    private readonly facts: RunFactsService,
  ) {}

  private known: { readonly key: string; readonly learned: Learned } | null = null;

  async listSteps(): Promise<ThinningStepView[]> {
    return (await this.steps.find({ order: { at: 'ASC' } })).map((s) => ({ ...s, at: s.at.toISOString() }));
  }

  async addStep({ id = randomUUID(), ...step }: NewThinningStep & Named): Promise<ThinningStepView> {
    if (step.toS >= step.fromS)
      throw new Refusal(
        400,
        'not-thinner',
        msg`The count went from ${step.fromS} to ${step.toS} s: water makes it shorter, so count both again.`,
      );
    await once(
      id,
      (known) => this.steps.exists({ where: { id: known }, withDeleted: true }),
      () => this.steps.insert({ ...step, id, at: new Date(this.clock.nowMs()) }),
    );
    const saved = await this.steps.findOneOrFail({ where: { id }, withDeleted: true });
    return { ...saved, at: saved.at.toISOString() };
  }

  async removeStep(id: string): Promise<void> {
    if (!(await this.steps.softDelete({ id, deletedAt: IsNull() })).affected) throw notFound(msg`thinning test`);
  }
  async restoreStep(id: string): Promise<void> {
    if (!(await this.steps.restore({ id })).affected) throw notFound(msg`thinning test`);
  }

  async listTouches(): Promise<TouchView[]> {
    return (await this.touches.find({ order: { at: 'ASC' } })).map((t) => ({ ...t, at: t.at.toISOString() }));
  }

  async addTouch({ id = randomUUID(), ...touch }: NewTouch & Named): Promise<TouchView> {
    if (touch.notYetMin === null && touch.reachedMin === null)
      throw new Refusal(400, 'nothing-found', msg`Say when it was not there yet, or when it had come: at least one of the two minutes.`);
    if (touch.notYetMin !== null && touch.reachedMin !== null && touch.notYetMin >= touch.reachedMin)
      throw new Refusal(
        400,
        'touch-order',
        msg`"Not yet" at ${touch.notYetMin} min must lie before "had come" at ${touch.reachedMin} min.`,
      );
    await once(
      id,
      (known) => this.touches.exists({ where: { id: known }, withDeleted: true }),
      () => this.touches.insert({ ...touch, id, at: new Date(this.clock.nowMs()) }),
    );
    const saved = await this.touches.findOneOrFail({ where: { id }, withDeleted: true });
    return { ...saved, at: saved.at.toISOString() };
  }

  async removeTouch(id: string): Promise<void> {
    if (!(await this.touches.softDelete({ id, deletedAt: IsNull() })).affected) throw notFound('touch');
  }
  async restoreTouch(id: string): Promise<void> {
    if (!(await this.touches.restore({ id })).affected) throw notFound('touch');
  }

  /** What was found at the bench in runs that are finished, also where their orders are gone; the newest last. */
  async listBenchTouches(): Promise<BenchTouchView[]> {
    return touchesOf(await this.taught());
  }

  /** How quick each pair of hands is by kind of motion, from all finished runs that count, also where their orders are gone. */
  async paces(): Promise<ReadonlyMap<string, PaceOf>> {
    return pacesOf(await this.taught());
  }

  /** What each month's runs taught by themselves: how icing dried, and how quick the hands were. Runs that are left out are not in it. */
  async byMonth(simulated: boolean, zone: string): Promise<NotebookMonth[]> {
    const months = new Map<string, TaughtRun[]>();
    for (const run of (await this.taught(simulated)).filter((t) => !t.leftOut)) {
      const month = monthIn(run.startedAt.getTime(), zone);
      months.set(month, [...(months.get(month) ?? []), run]);
    }
    return [...months]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .slice(-MOST_MONTHS)
      .map(([month, runs]): NotebookMonth => {
        const touches = touchesOf(runs);
        return {
          month,
          runs: runs.length,
          looks: touches.length,
          factors: factorsOf(learnFactors(reportsOfRuns(touches))),
          paces: Object.fromEntries(pacesOf(runs)),
        };
      });
  }

  /** What plans are made with: the book's spreads, sharpened by every touch that was kept, and the paces that were seen. */
  async learnedForPlans(): Promise<Learned> {
    await this.facts.upToDate();
    const key = await this.whatIsKnown();
    if (this.known?.key !== key) {
      const [taught, touches] = [await this.taught(), await this.touches.find()];
      const factors = factorsOf(learnFactors([...reportsOfRuns(touchesOf(taught)), ...touches.map(reportOfTold)]));
      this.known = { key, learned: { factors, paces: pacesOf(taught) } };
    }
    return this.known.learned;
  }

  /** Changes with whatever there is to learn from. */
  private async whatIsKnown(): Promise<string> {
    const [row] = await this.runs.query(`SELECT md5(concat(
      (SELECT string_agg(concat(r."id", r."factsSeq"), ',' ORDER BY r."id") FROM "run" r WHERE r."finished" AND r."deletedAt" IS NULL), ';',
      (SELECT string_agg(concat(l."runId", l."leftOut", l."touches" IS NULL), ',' ORDER BY l."runId") FROM "learned_run" l), ';',
      (SELECT string_agg(concat(t."id"), ',' ORDER BY t."id") FROM "touch" t WHERE t."deletedAt" IS NULL))) AS key`);
    return row.key;
  }

  /** Everything finished runs taught, the oldest first: those that are there, and what was kept of those whose orders are gone. */
  private async taught(simulated = false): Promise<TaughtRun[]> {
    await this.facts.upToDate();
    const kept = new Map((await this.learned.find()).map((k) => [k.runId, k]));
    const there = (await this.runsWhere({ finished: true })).flatMap((run): TaughtRun[] => {
      const leftOut = kept.get(run.id)?.leftOut ?? false;
      return run.taught ? [{ runId: run.id, orderName: run.order.name, startedAt: run.startedAt, leftOut, ...run.taught }] : [];
    });
    const gone = [...kept.values()].flatMap((k): TaughtRun[] =>
      k.touches && k.simulated === simulated ? [{ ...k, touches: k.touches, visits: k.visits ?? [] }] : [],
    );
    if (simulated) return gone;
    return [...there, ...gone].sort((a, b) => a.startedAt.getTime() - b.startedAt.getTime());
  }

  /** Leaves a run out of the learning, or counts it again. */
  async leaveOut(runId: string, leftOut: boolean): Promise<void> {
    if ((await this.learned.update({ runId }, { leftOut })).affected) return;
    const [run] = await this.runsWhere({ id: runId });
    if (!run) throw notFound('run');
    await this.learned.insert({
      runId,
      orderName: run.order.name,
      startedAt: run.startedAt,
      touches: null,
      visits: null,
      account: null,
      simulated: false,
      leftOut,
    });
  }

  /** Keeps what the run of an order taught, before both are deleted within `m`: what a kitchen knows is not the order's. */
  async keepWhatTaught(m: EntityManager, orderId: string): Promise<void> {
    for (const { id, order, startedAt, taught, account } of await this.runsWhere({ orderId }, m, true))
      if (taught)
        await m.save(LearnedRunEntity, {
          ...(await m.findOneBy(LearnedRunEntity, { runId: id })),
          runId: id,
          orderName: order.name,
          startedAt,
          ...taught,
          account,
        });
  }

  /** Runs, also of orders in the trash; one that lies in the trash itself is not to be learned from. */
  private runsWhere(where: FindOptionsWhere<RunEntity>, m: EntityManager = this.runs.manager, account = false): Promise<RunEntity[]> {
    const select = { id: true, startedAt: true, taught: true, account, order: { id: true, name: true } } as const;
    return m.find(RunEntity, {
      where: { ...where, deletedAt: IsNull() },
      relations: { order: true },
      select,
      order: { startedAt: 'ASC' },
      withDeleted: true,
    });
  }
}

/** What plans are made with. */
export interface Learned {
  readonly factors: Factors;
  readonly paces: ReadonlyMap<string, PaceOf>;
}
interface TaughtRun extends RunTaught {
  readonly runId: string;
  readonly orderName: string;
  readonly startedAt: Date;
  readonly leftOut: boolean;
}
const touchesOf = (taught: readonly TaughtRun[]): BenchTouchView[] =>
  taught.flatMap(({ runId, orderName, leftOut, touches }) => touches.map((t): BenchTouchView => ({ ...t, runId, orderName, leftOut })));
const pacesOf = (taught: readonly TaughtRun[]): ReadonlyMap<string, PaceOf> =>
  learnPace(taught.flatMap((t) => (t.leftOut ? [] : t.visits)));
