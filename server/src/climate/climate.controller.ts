import { type ClimateReading, type ClimateScenario, climateScenarios } from '@kestfog/core/wire';
import { Body, Controller, Get, HttpCode, type MessageEvent, Post, Sse } from '@nestjs/common';
import { IsIn } from 'class-validator';
import { interval, map, merge, type Observable, of, Subject } from 'rxjs';
import { Clock } from '../platform/clock.js';
import { simulatedReading } from './simulated-sensor.js';

class ScenarioDto {
  @IsIn(climateScenarios) scenario: ClimateScenario;
}

const EVERY_MS = 2000;

/** The climate sensor, streamed. The stand-in that ships plays a weather; which one is chosen here. */
@Controller('climate')
export class ClimateController {
  private scenario: ClimateScenario = 'steady';
  private sinceMs: number;
  private readonly chosen = new Subject<void>();

  constructor(private readonly clock: Clock) {
    this.sinceMs = clock.nowMs();
  }

  @Get()
  read(): ClimateReading {
    const nowMs = this.clock.nowMs();
    return simulatedReading(this.scenario, (nowMs - this.sinceMs) / 1000, nowMs);
  }

  @Post()
  @HttpCode(200)
  play(@Body() body: ScenarioDto): ClimateReading {
    this.scenario = body.scenario;
    this.sinceMs = this.clock.nowMs();
    this.chosen.next();
    return this.read();
  }

  @Sse('stream')
  stream(): Observable<MessageEvent> {
    return merge(of(null), interval(EVERY_MS), this.chosen, this.clock.changes).pipe(
      map((): MessageEvent => {
        const data = this.read();
        return { id: String(data.atMs), type: 'climate', data };
      }),
    );
  }
}
