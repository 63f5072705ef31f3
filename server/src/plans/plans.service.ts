import { fileURLToPath } from 'node:url';
import type { Plan } from '@kestfog/core/formats';
import type { PlanView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { LRUCache } from 'lru-cache';
import { Piscina } from 'piscina';
import { Repository } from 'typeorm';
import type { OrderEntity } from '../orders/order.entity.js';
import { OrderLoader } from '../orders/order-loader.service.js';
import { OrdersService } from '../orders/orders.service.js';
import { Clock } from '../platform/clock.js';
import { CONFIG, type Config } from '../platform/config.js';
import { notFound, Refusal } from '../platform/errors.js';
import { RunEntity } from '../runs/run.entity.js';
import { PlanEntity, planSummary } from './plan.entity.js';
import { PlanQueue, wasStopped } from './plan-queue.js';
import type { PlanAnswer, PlanJob } from './plan-worker.js';

/** The worker is always the built one: a thread cannot load TypeScript. */
const WORKER = fileURLToPath(new URL('../../dist/plans/plan-worker.js', import.meta.url));
const PLAN_SECONDS = 5;
/** Orders that may wait to be planned. */
const MOST_WAITING = 12;
const PLANS_AT_HAND = 8;

@Injectable()
export class PlansService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly pool = new Piscina<PlanJob, PlanAnswer>({
    filename: WORKER,
    execArgv: [],
    minThreads: 0,
    maxThreads: 1,
    maxQueue: MOST_WAITING,
    idleTimeout: 60_000,
  });
  private readonly known = new LRUCache<string, PlanEntity>({ max: PLANS_AT_HAND });

  constructor(
    @InjectRepository(PlanEntity) private readonly plans: Repository<PlanEntity>,
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    private readonly orders: OrdersService,
    private readonly loader: OrderLoader,
    private readonly queue: PlanQueue,
    private readonly clock: Clock,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async onModuleDestroy(): Promise<void> {
    await this.pool.destroy();
  }

  /** Where several processes share the database, this one takes its part of the orders to plan. */
  async onApplicationBootstrap(): Promise<void> {
    if (!this.config.isShared) return;
    await this.queue.takeJobs(async (orderId, isWanted) => {
      try {
        return { planId: (await this.plan(await this.toPlan(orderId), isWanted)).id };
      } catch (error) {
        // Errors lose their class on the way, and would be tried again.
        if (!(error instanceof Refusal)) throw error;
        return { refused: { status: error.getStatus(), code: error.code, message: error.message } };
      }
    });
  }

  /** Plans the order as it stands now and keeps the plan. */
  async make(orderId: string, stopped?: AbortSignal): Promise<PlanView> {
    const order = await this.toPlan(orderId);
    if (!this.config.isShared) return this.view(await this.plan(order, async () => true, stopped), order.name);
    const end = await this.queue.ask(orderId, MOST_WAITING, stopped);
    if ('refused' in end) throw new Refusal(end.refused.status, end.refused.code, end.refused.message);
    return this.view(await this.get(end.planId), order.name);
  }

  /** The order, where it may be planned at all. */
  private async toPlan(orderId: string): Promise<OrderEntity> {
    const order = await this.orders.get(orderId);
    if (await this.runs.existsBy({ orderId }))
      throw new Refusal(409, 'run-begun', msg`Work on this order has begun with its plan: finish it at the bench.`);
    if (order.hostId) throw new Refusal(409, 'guest', msg`This order is worked on the bench of another one: plan that one.`);
    return order;
  }

  private async plan(order: OrderEntity, isWanted: () => Promise<boolean>, stopped?: AbortSignal): Promise<PlanEntity> {
    const { order: file, drawings, inputHash } = await this.loader.forPlanning(await this.loader.loadOne(order));
    const job: PlanJob = { order: file, designs: drawings, seconds: PLAN_SECONDS };
    const answer = await this.pool.run(job, stopped ? { signal: stopped } : {}).catch((error: unknown) => {
      if (error instanceof Error && /queue is at limit/i.test(error.message))
        throw new Refusal(429, 'busy', msg`Many orders are being planned already: try again in a minute.`);
      if (stopped?.aborted) throw wasStopped();
      throw error;
    });
    if (!answer.ok) throw new Refusal(answer.kind === 'no-answer' ? 422 : 400, answer.code, answer.message);
    if (!(await isWanted())) throw wasStopped();
    return this.plans.save(
      this.plans.create({
        orderId: order.id,
        inputHash,
        modelVersion: answer.plan.modelVersion,
        plan: answer.plan as Plan,
        summary: planSummary(answer.plan),
      }),
    );
  }

  async latest(orderId: string): Promise<PlanView> {
    const order = await this.orders.get(orderId);
    const plan = await this.plans.findOne({ where: { orderId }, order: { createdAt: 'DESC' } });
    if (!plan) throw new Refusal(404, 'no-plan', msg`This order has no plan yet: plan it first.`);
    return this.view(plan, order.name);
  }

  /** A plan never changes once it is kept: the last few are not asked for again. */
  async get(id: string): Promise<PlanEntity> {
    const known = this.known.get(id);
    if (known) return known;
    const plan = await this.plans.findOneBy({ id });
    if (!plan) throw notFound('plan');
    this.known.set(id, plan);
    return plan;
  }

  private view(p: PlanEntity, orderName: string): PlanView {
    return {
      id: p.id,
      orderId: p.orderId,
      orderName,
      createdAt: p.createdAt.toISOString(),
      inputHash: p.inputHash,
      plan: p.plan,
      serverNowMs: this.clock.nowMs(),
    };
  }
}
