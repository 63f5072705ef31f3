import { benchTouches, foldRun, runIndex, type StoredEvent, visitPaces } from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import { Injectable, Logger } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Brackets, Repository } from 'typeorm';
import { PlanEntity } from '../plans/plan.entity.js';
import { RunEntity, RunEventEntity, type RunTaught } from './run.entity.js';
import { toStored } from './stored-event.js';

/** Raised when folding or what a run teaches changes its meaning: then all runs are folded once more. */
export const FACTS_BY = 'kestfog-facts/1';

interface RunFacts {
  readonly done: number;
  readonly total: number;
  readonly finished: boolean;
  readonly liftedAt: Date | null;
  readonly taught: RunTaught | null;
}

/**
 * What follows from the log of a run, kept beside it: folding is done once after its log has grown, not for every reader of a list.
 */
@Injectable()
export class RunFactsService {
  private readonly logger = new Logger('runs');
  private underWay: Promise<void> | null = null;
  private next: Promise<void> | null = null;

  constructor(
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    @InjectRepository(RunEventEntity) private readonly events: Repository<RunEventEntity>,
    @InjectRepository(PlanEntity) private readonly plans: Repository<PlanEntity>,
  ) {}

  /** Brings the facts of all runs up to what was logged when this was called. Readers that come at the same time share the work. */
  upToDate(): Promise<void> {
    if (!this.underWay) {
      this.underWay = this.refresh().finally(() => {
        this.underWay = null;
      });
      return this.underWay;
    }
    // What is under way may have looked before the last tap.
    this.next ??= this.underWay
      .catch(() => undefined)
      .then(() => {
        this.next = null;
        return this.upToDate();
      });
    return this.next;
  }

  private async refresh(): Promise<void> {
    const behind = await this.runs
      .createQueryBuilder('r')
      .select(['r.id', 'r.planId', 'r.lastSeq'])
      .where(new Brackets((w) => w.where('r.factsSeq IS DISTINCT FROM r.lastSeq').orWhere('r.factsBy IS DISTINCT FROM :by', { by: FACTS_BY })))
      .getMany();
    for (const run of behind) {
      const plan = await this.plans.findOneBy({ id: run.planId });
      if (!plan) continue;
      const log = (await this.events.find({ where: { runId: run.id }, order: { seq: 'ASC' } })).map(toStored);
      const seq = log.at(-1)?.seq ?? 0;
      const facts = this.told(run.id, plan.plan, log);
      await this.runs.update({ id: run.id }, { ...facts, factsSeq: seq, factsBy: FACTS_BY });
    }
  }

  /** A log that cannot be folded any more says nothing of its run, and does not take the lists of all others with it. */
  private told(id: string, plan: Plan, log: readonly StoredEvent[]): RunFacts {
    try {
      return factsOf(id, plan, log);
    } catch (error) {
      this.logger.error(`run ${id} cannot be folded: ${error instanceof Error ? error.stack : String(error)}`);
      return { done: 0, total: plan.tasks.length, finished: false, liftedAt: null, taught: null };
    }
  }
}

function factsOf(id: string, plan: Plan, log: readonly StoredEvent[]): RunFacts {
  const state = foldRun(plan, log);
  const index = runIndex(state);
  const { tasks } = state.plan;
  const lifts = tasks.filter((t) => t.kind === 'pack').map((t) => index.doneMs(t.id) ?? index.plan.msOf(t.endS));
  return {
    done: tasks.length - index.open.length,
    total: tasks.length,
    finished: state.finished,
    liftedAt: lifts.length > 0 ? new Date(Math.max(...lifts)) : null,
    taught: state.finished ? { touches: benchTouches(plan, log), visits: visitPaces(plan, log, id) } : null,
  };
}
