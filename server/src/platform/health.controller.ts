import { type EventLoopUtilization, performance } from 'node:perf_hooks';
import { setTimeout as after } from 'node:timers/promises';
import type { HealthView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Controller, Get } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DataSource } from 'typeorm';
import { Clock } from './clock.js';
import { Refusal } from './errors.js';
import { Ungated } from './gate.js';

/** A database that does not answer within this is not there. */
const ANSWERS_WITHIN_MS = 2_000;

/** Whether Kestfog can work: its own thread answers, how busy it was since it was last asked, and the database answers it. */
@Controller('health')
export class HealthController {
  private since: EventLoopUtilization = performance.eventLoopUtilization();

  constructor(
    private readonly clock: Clock,
    @InjectDataSource() private readonly db: DataSource,
  ) {}

  @Ungated()
  @Get()
  async health(): Promise<HealthView> {
    const asked = this.db.query('SELECT 1').then(
      () => true,
      () => false,
    );
    const isThere = await Promise.race([asked, after(ANSWERS_WITHIN_MS, false, { ref: false })]);
    if (!isThere)
      throw new Refusal(503, 'database', msg`The database does not answer: wait a moment; if it stays so, start Kestfog again.`);
    const now = performance.eventLoopUtilization();
    const { utilization } = performance.eventLoopUtilization(now, this.since);
    this.since = now;
    return { ok: true, busy: Math.round(utilization * 1000) / 1000, ...this.clock.view() };
  }
}
