import { setTimeout as after } from 'node:timers/promises';
import { msg } from '@kestfog/core/words';
import { Inject, Injectable, Logger, type OnModuleDestroy } from '@nestjs/common';
import PgBoss from 'pg-boss';
import { CONFIG, type Config } from '../platform/config.js';
import { Refusal } from '../platform/errors.js';

const QUEUE = 'plan';
/** A job that did not end within this is taken by another: its process was killed. A plan takes 5 s. */
const ENDS_WITHIN_S = 30;
const LOOKED_AFTER_EACH_S = 5;
/** A worker looks for jobs so often, which is as often as the queue's package allows. */
const LOOKS_EACH_S = 0.5;
const ASKED_EACH_MS = 200;
/** Twice killed, it is not the process: nobody waits for longer. */
const ANSWERED_WITHIN_MS = 100_000;
const KEPT_S = 600;

export const wasStopped = () => new Refusal(409, 'stopped', msg`The planning was stopped: nothing was changed.`);

/** What became of a job: a plan that is kept, or a refusal as it is told. */
export type PlanJobEnd =
  | { readonly planId: string }
  | { readonly refused: { readonly status: number; readonly code: string; readonly message: string } };

/**
 * Orders that wait to be planned, where several processes share one database: a queue in PostgreSQL, from which every process takes,
 * also one on another machine that does nothing else. A job whose process is killed is given to another.
 */
@Injectable()
export class PlanQueue implements OnModuleDestroy {
  private boss: PgBoss | null = null;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /** Begins to take jobs, each of which is done by `plan`; `isWanted` is asked before what it made is kept. */
  async takeJobs(plan: (orderId: string, isWanted: () => Promise<boolean>) => Promise<PlanJobEnd>): Promise<void> {
    const boss = new PgBoss({
      connectionString: this.config.databaseUrl,
      application_name: 'kestfog queue',
      max: 3,
      schedule: false,
      maintenanceIntervalSeconds: LOOKED_AFTER_EACH_S,
      archiveCompletedAfterSeconds: KEPT_S,
      deleteAfterSeconds: KEPT_S,
    });
    boss.on('error', (error) => Logger.warn(msg`The queue of plans: ${error.message}`, PlanQueue.name));
    await boss.start();
    await boss.createQueue(QUEUE, { name: QUEUE, retryLimit: 2, retryDelay: 0, expireInSeconds: ENDS_WITHIN_S });
    await boss.work<{ orderId: string }>(QUEUE, { pollingIntervalSeconds: LOOKS_EACH_S, batchSize: 1 }, async ([job]) =>
      job ? plan(job.data.orderId, async () => (await boss.getJobById(QUEUE, job.id))?.state === 'active') : undefined,
    );
    this.boss = boss;
  }

  async onModuleDestroy(): Promise<void> {
    await this.boss?.stop({ graceful: true, wait: true, timeout: 4_000 }).catch(() => undefined);
  }

  /** Has an order planned by whoever is free, and waits for what becomes of it. */
  async ask(orderId: string, mostWaiting: number, stopped?: AbortSignal): Promise<PlanJobEnd> {
    const boss = this.boss;
    if (!boss) throw new Refusal(503, 'busy', msg`Kestfog is only just beginning: try again in a moment.`);
    if ((await boss.getQueueSize(QUEUE, { before: 'active' })) >= mostWaiting)
      throw new Refusal(429, 'busy', msg`Many orders are being planned already: try again in a minute.`);
    const id = await boss.send(QUEUE, { orderId });
    if (id === null) throw new Error('The queue took no job.');
    const untilMs = Date.now() + ANSWERED_WITHIN_MS;
    while (Date.now() < untilMs) {
      if (stopped?.aborted) {
        await boss.cancel(QUEUE, id);
        throw wasStopped();
      }
      const job = await boss.getJobById(QUEUE, id);
      if (job?.state === 'completed') return job.output as PlanJobEnd;
      if (!job || job.state === 'failed' || job.state === 'cancelled') break;
      await after(ASKED_EACH_MS);
    }
    await boss.cancel(QUEUE, id);
    throw new Refusal(503, 'busy', msg`The order could not be planned just now: try again in a minute.`);
  }
}
