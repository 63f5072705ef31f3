import { foldRun, type RunEvent, type RunView, type StoredEvent, whyNotUndone } from '@kestfog/core';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Subject } from 'rxjs';
import { type EntityManager, MoreThan, Repository } from 'typeorm';
import { OrdersService } from '../orders/orders.service.js';
import { PlansService } from '../plans/plans.service.js';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { RunEntity, RunEventEntity } from './run.entity.js';
import type { RunEventDto } from './run-event.dto.js';
import { toStored } from './stored-event.js';

@Injectable()
export class RunsService {
  /** every event after it was committed, for the streams */
  readonly appended = new Subject<{ runId: string; event: StoredEvent }>();

  constructor(
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    @InjectRepository(RunEventEntity) private readonly events: Repository<RunEventEntity>,
    private readonly orders: OrdersService,
    private readonly plans: PlansService,
    private readonly clock: Clock,
  ) {}

  /** Begins work on an order with its latest plan; a second call finds the run that is there. */
  async begin(orderId: string): Promise<RunView> {
    const known = await this.runs.findOneBy({ orderId });
    if (known) return this.view(known.id);
    const plan = await this.plans.latest(orderId);
    const order = await this.orders.getView(orderId);
    if (order.plan?.stale) throw new Refusal(409, 'stale-plan', 'The order has changed since it was planned: plan it again first.');
    await this.runs
      .createQueryBuilder()
      .insert()
      .values({ orderId, planId: plan.id, startedAt: new Date(this.clock.nowMs()) })
      .orIgnore()
      .execute();
    const made = await this.runs.findOneByOrFail({ orderId });
    return this.view(made.id);
  }

  async view(id: string): Promise<RunView> {
    const run = await this.runs.findOne({ where: { id }, relations: { plan: true, order: true } });
    if (!run) throw notFound('run');
    return { id, orderId: run.orderId, orderName: run.order.name, plan: run.plan.plan, events: await this.eventsAfter(id, 0), serverNowMs: this.clock.nowMs() };
  }

  async exists(id: string): Promise<boolean> {
    return this.runs.existsBy({ id });
  }

  async eventsAfter(runId: string, seq: number): Promise<StoredEvent[]> {
    const rows = await this.events.find({ where: { runId, seq: MoreThan(seq) }, order: { seq: 'ASC' } });
    return rows.map(toStored);
  }

  /**
   * Adds one event. Answered only after it is committed; a repeated id counts once; a gap in a device's own numbers is
   * refused, since something it said is then missing; undoing what others built on is refused with the reason.
   */
  async append(runId: string, dto: RunEventDto): Promise<StoredEvent> {
    const { stored, fresh } = await this.events.manager.transaction(async (m): Promise<{ stored: StoredEvent; fresh: boolean }> => {
      // The row lock puts events of one run in line; the order they get here is the order that counts.
      const run = await m.findOne(RunEntity, { where: { id: runId }, lock: { mode: 'pessimistic_write' } });
      if (!run) throw notFound('run');
      const repeated = await m.findOneBy(RunEventEntity, { id: dto.id });
      if (repeated) {
        if (repeated.runId !== runId) throw new Refusal(409, 'event-id', 'An event with this id belongs to another run.');
        return { stored: toStored(repeated), fresh: false };
      }
      const last = await m.findOne(RunEventEntity, { where: { runId, deviceId: dto.deviceId }, order: { deviceSeq: 'DESC' } });
      const expected = (last?.deviceSeq ?? 0) + 1;
      if (dto.deviceSeq !== expected)
        throw new Refusal(
          409,
          'device-seq',
          `This device's event ${dto.deviceSeq} came where ${expected} was expected: reload the page to bring both together.`,
        );
      const event = await this.check(m, run, dto);
      const top = await m.findOne(RunEventEntity, { where: { runId }, order: { seq: 'DESC' } });
      const row = m.create(RunEventEntity, {
        runId,
        seq: (top?.seq ?? 0) + 1,
        id: event.id,
        deviceId: event.deviceId,
        deviceSeq: event.deviceSeq,
        at: new Date(event.atMs),
        receivedAt: new Date(this.clock.nowMs()),
        type: event.type,
        data: event.data,
      });
      await m.insert(RunEventEntity, row);
      return { stored: toStored(row), fresh: true };
    });
    if (fresh) this.appended.next({ runId, event: stored });
    return stored;
  }

  /** The event as the core's closed union knows it, or why it cannot be one. */
  private async check(m: EntityManager, run: RunEntity, dto: RunEventDto): Promise<RunEvent> {
    const base = { id: dto.id, deviceId: dto.deviceId, deviceSeq: dto.deviceSeq, atMs: dto.atMs };
    const { plan } = await this.plans.get(run.planId);
    switch (dto.type) {
      case 'taskBegun':
      case 'taskDone':
      case 'stillWet': {
        const { taskId, untilS } = dto.data;
        if (!taskId || !plan.tasks.some((t) => t.id === taskId))
          throw new Refusal(400, 'unknown-task', `data.taskId must name a task of the plan, not "${taskId ?? ''}".`);
        if (dto.type !== 'stillWet') return { ...base, type: dto.type, data: { taskId } };
        if (untilS === undefined) throw new Refusal(400, 'no-time', 'data.untilS must say when it is looked at again.');
        return { ...base, type: 'stillWet', data: { taskId, untilS } };
      }
      case 'undone': {
        const { eventId } = dto.data;
        if (!eventId) throw new Refusal(400, 'unknown-event', 'data.eventId must name the event to take back.');
        const rows = await m.find(RunEventEntity, { where: { runId: run.id }, order: { seq: 'ASC' } });
        const why = whyNotUndone(plan, foldRun(plan, rows.map(toStored)).standing, eventId);
        if (why?.code === 'built-upon')
          throw new Refusal(409, why.code, `This cannot be taken back: ${why.facts['taskId']} was begun on the strength of it. Take that back first.`);
        if (why) throw new Refusal(409, why.code, 'There is nothing to take back: that step is not standing any more.');
        return { ...base, type: 'undone', data: { eventId } };
      }
      case 'planRevised': {
        const { baseSeq, starts } = dto.data;
        const known = new Set(plan.tasks.map((t) => t.id));
        const wrong = Object.entries(starts ?? {}).find(([id, at]) => !known.has(id) || typeof at !== 'number' || !Number.isFinite(at) || at < 0);
        if (baseSeq === undefined || !starts || wrong)
          throw new Refusal(400, 'bad-revision', `data.starts must give tasks of the plan their seconds${wrong ? `, not ${wrong[0].slice(0, 80)}` : ''}.`);
        const top = await m.findOne(RunEventEntity, { where: { runId: run.id }, order: { seq: 'DESC' } });
        // Something happened after it was made: whoever made it plans again from there.
        if ((top?.seq ?? 0) !== baseSeq) throw new Refusal(409, 'plan-base', 'The bench has gone on since this was planned: it is planned again.');
        return { ...base, type: 'planRevised', data: { baseSeq, starts: starts as Record<string, number> } };
      }
      default:
        return { ...base, type: dto.type, data: {} };
    }
  }
}
