import { benchTouches, foldRun, runIndex, type StoredEvent, visitPaces } from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import { type RunAccount, runAccount } from '@kestfog/core/notebook';
import { msg } from '@kestfog/core/words';
import { Injectable, Logger } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Brackets, Repository } from 'typeorm';
import { RunCorrectionEntity } from '../notebook/notebook.entities.js';
import { PlanEntity } from '../plans/plan.entity.js';
import { RunEntity, RunEventEntity, type RunTaught } from './run.entity.js';
import { toStored } from './stored-event.js';

/** Raised when folding or what a run teaches changes its meaning: then all runs are folded once more. */
export const FACTS_BY = 'kestfog-facts/5';

interface RunFacts {
  readonly done: number;
  readonly total: number;
  readonly finished: boolean;
  readonly liftedAt: Date | null;
  readonly taught: RunTaught | null;
  readonly account: RunAccount | null;
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
    @InjectRepository(RunCorrectionEntity) private readonly corrections: Repository<RunCorrectionEntity>,
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

  /** Works out anew what follows from a run. */
  async again(runId: string): Promise<void> {
    await this.runs.update({ id: runId }, { factsSeq: null });
    await this.upToDate();
  }

  private async refresh(): Promise<void> {
    const behind = await this.runs
      .createQueryBuilder('r')
      .select(['r.id', 'r.planId', 'r.lastSeq', 'r.recipe'])
      .where(
        new Brackets((w) => w.where('r.factsSeq IS DISTINCT FROM r.lastSeq').orWhere('r.factsBy IS DISTINCT FROM :by', { by: FACTS_BY })),
      )
      .getMany();
    for (const run of behind) {
      const plan = await this.plans.findOneBy({ id: run.planId });
      if (!plan) continue;
      const right = new Map((await this.corrections.findBy({ runId: run.id })).map((c) => [c.eventId, c.at.getTime()]));
      const said = (await this.events.find({ where: { runId: run.id }, order: { seq: 'ASC' } })).map(toStored);
      // What was entered wrongly and put right since counts as it was; the log keeps what was said.
      const log = said.map((e) => ({ ...e, atMs: right.get(e.id) ?? e.atMs }));
      const seq = log.at(-1)?.seq ?? 0;
      const facts = this.factsOrNone(run, plan.plan, log);
      await this.runs.update({ id: run.id }, { ...facts, factsSeq: seq, factsBy: FACTS_BY });
    }
  }

  /** A log that cannot be folded any more says nothing of its run, and does not take the lists of all others with it. */
  private factsOrNone({ id, recipe }: Pick<RunEntity, 'id' | 'recipe'>, plan: Plan, log: readonly StoredEvent[]): RunFacts {
    try {
      return factsOf(id, plan, log, recipe);
    } catch (error) {
      this.logger.error(msg`run ${id} cannot be folded: ${error instanceof Error ? error.stack : String(error)}`);
      return { done: 0, total: plan.tasks.length, finished: false, liftedAt: null, taught: null, account: null };
    }
  }
}

function factsOf(id: string, plan: Plan, log: readonly StoredEvent[], recipe: string | null): RunFacts {
  const state = foldRun(plan, log);
  const index = runIndex(state);
  const { tasks } = state.plan;
  const touches = state.finished ? benchTouches(plan, log) : null;
  const lifts = tasks.filter((t) => t.kind === 'pack').map((t) => index.doneMs(t.id) ?? index.plan.msOf(t.endS));
  return {
    done: tasks.length - index.open.length,
    total: tasks.length,
    finished: state.finished,
    liftedAt: lifts.length > 0 ? new Date(Math.max(...lifts)) : null,
    taught: touches && { touches, visits: visitPaces(plan, log, id) },
    account: touches && runAccount(plan, log, touches, recipe),
  };
}
