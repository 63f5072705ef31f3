import { type ClimateReading, type ClimateScenario, climateScenarios } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Body, Controller, Get, HttpCode, type MessageEvent, type OnModuleInit, Post, Sse } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { IsIn } from 'class-validator';
import { filter, interval, map, merge, type Observable, of } from 'rxjs';
import type { Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { Notices } from '../platform/notices.js';
import { SettingEntity } from '../platform/setting.entity.js';
import { simulatedReading } from './simulated-sensor.js';

class ScenarioDto {
  @IsIn(climateScenarios) scenario: ClimateScenario;
}

const EVERY_MS = 2000;
const PLAYED = msg`weather played`;
interface Played {
  readonly scenario: ClimateScenario;
  readonly sinceMs: number;
}

/** The climate sensor, streamed. The stand-in that ships plays a weather; which one is chosen here. */
@Controller('climate')
export class ClimateController implements OnModuleInit {
  private played: Played;

  constructor(
    private readonly clock: Clock,
    private readonly notices: Notices,
    @InjectRepository(SettingEntity) private readonly settings: Repository<SettingEntity>,
  ) {
    this.played = { scenario: 'steady', sinceMs: clock.nowMs() };
  }

  /** Whichever process is asked for the weather, it plays the same. */
  onModuleInit(): void {
    this.notices.heard.pipe(filter(({ of }) => of !== 'run')).subscribe(() => void this.readPlayed().catch(() => undefined));
  }

  @Get()
  read(): ClimateReading {
    const nowMs = this.clock.nowMs();
    return simulatedReading(this.played.scenario, (nowMs - this.played.sinceMs) / 1000, nowMs);
  }

  @Post()
  @HttpCode(200)
  async play(@Body() body: ScenarioDto): Promise<ClimateReading> {
    this.played = { scenario: body.scenario, sinceMs: this.clock.nowMs() };
    await this.settings.manager.transaction(async (m) => {
      await m.upsert(SettingEntity, { key: PLAYED, value: JSON.stringify(this.played) }, ['key']);
      await this.notices.tellOthers(m, { of: 'climate' });
    });
    this.notices.tellHere({ of: 'climate' });
    return this.read();
  }

  @Sse('stream')
  stream(): Observable<MessageEvent> {
    return merge(of(null), interval(EVERY_MS), this.notices.heard.pipe(filter((n) => n.of === 'climate')), this.clock.changes).pipe(
      map((): MessageEvent => {
        const data = this.read();
        return { id: String(data.atMs), type: 'climate', data };
      }),
    );
  }

  private async readPlayed(): Promise<void> {
    const kept = await this.settings.findOneBy({ key: PLAYED });
    if (kept) this.played = JSON.parse(kept.value) as Played;
  }
}
