import { randomBytes, timingSafeEqual } from 'node:crypto';
import { foldRun } from '@kestfog/core/bench';
import { type InCalendar, keptPlan, plansCalendar } from '@kestfog/core/calendar';
import type { CalendarAddress } from '@kestfog/core/wire';
import { Injectable } from '@nestjs/common';
import { DataSource, In } from 'typeorm';
import { PlanEntity } from '../plans/plan.entity.js';
import { Clock } from '../platform/clock.js';
import { notFound } from '../platform/errors.js';
import { SettingEntity } from '../platform/setting.entity.js';
import { RunEntity, RunEventEntity } from '../runs/run.entity.js';
import { RunsService } from '../runs/runs.service.js';

const SECRET = 'calendar-secret';
const SECRET_BYTES = 24;
/** Orders that were due so long ago are no longer in the calendar. */
const DUE_FOR_MS = 3 * 24 * 3600_000;
/** A plan is half a megabyte: no more than this are read for one calendar. */
const MOST_ORDERS = 40;

/** All open orders as one calendar, for programs that ask for it by its address. */
@Injectable()
export class CalendarService {
  constructor(
    private readonly db: DataSource,
    private readonly clock: Clock,
    private readonly runs: RunsService,
  ) {}

  async address(): Promise<CalendarAddress> {
    return { path: pathOf((await this.kept()) ?? (await this.renewed(false))) };
  }

  /** Another address; the one before leads nowhere from then on. */
  async renew(): Promise<CalendarAddress> {
    return { path: pathOf(await this.renewed(true)) };
  }

  /** The calendar, for who knows the secret; anybody else finds nothing there. */
  async read(secret: string): Promise<string> {
    const kept = await this.kept();
    if (kept === null || !isSame(kept, secret)) throw notFound('calendar');
    const since = new Date(this.clock.nowMs() - DUE_FOR_MS);
    // What shares another order's bench is planned with that one.
    const latest = await this.db.query<{ id: string }[]>(
      `SELECT p."id" FROM "order" o
        JOIN LATERAL (SELECT "id" FROM "plan" WHERE "orderId" = o."id" ORDER BY "createdAt" DESC LIMIT 1) p ON true
        WHERE o."deletedAt" IS NULL AND o."hostId" IS NULL AND o."packBy" >= $1 ORDER BY o."packBy" LIMIT ${MOST_ORDERS}`,
      [since],
    );
    const plans = await this.db.getRepository(PlanEntity).findBy({ id: In(latest.map((p) => p.id)) });
    return plansCalendar(await Promise.all(plans.map((p) => this.asItStands(p))), 'Kestfog');
  }

  /** The plan of an order, as the bench has re-planned it since where it is being worked on. */
  private async asItStands({ id, plan, orderId, createdAt }: PlanEntity): Promise<InCalendar> {
    const run = await this.db.getRepository(RunEntity).findOneBy({ orderId, planId: id });
    const latest =
      run &&
      (await this.db.getRepository(RunEventEntity).findOne({ where: { runId: run.id, type: 'planRevised' }, order: { seq: 'DESC' } }));
    if (!run || !latest) return keptPlan(plan, orderId, createdAt.getTime());
    const { plan: revised } = foldRun(plan, await this.runs.eventsAfter(run.id, 0));
    // A second on for each event: later than the plan and the re-plans before it, and sooner than any plan that is made afterwards.
    return keptPlan(revised, orderId, createdAt.getTime() + latest.seq * 1000);
  }

  private async kept(): Promise<string | null> {
    return (await this.db.getRepository(SettingEntity).findOneBy({ key: SECRET }))?.value ?? null;
  }
  private async renewed(overAnother: boolean): Promise<string> {
    const value = randomBytes(SECRET_BYTES).toString('base64url');
    const settings = this.db.getRepository(SettingEntity);
    if (overAnother) await settings.upsert({ key: SECRET, value }, ['key']);
    // Two pages that ask for the first time get the same.
    else await settings.createQueryBuilder().insert().values({ key: SECRET, value }).orIgnore().execute();
    return (await this.kept()) ?? value;
  }
}

const pathOf = (secret: string): string => `/api/calendar/${secret}/orders.ics`;
function isSame(a: string, b: string): boolean {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
}
