import type { ClockView } from '@kestfog/core/wire';
import { Body, Controller, Get, HttpCode, NotFoundException, Post } from '@nestjs/common';
import { IsNumber, Max, Min } from 'class-validator';
import { Clock, SimulatedClock } from './clock.js';
import { IfGiven } from './validators.js';

class MoveClock {
  /** seconds to move on by */
  @IfGiven() @IsNumber() @Min(0) @Max(30 * 86_400) advance?: number;
  @IfGiven() @IsNumber() @Min(0) @Max(3600) speed?: number;
}

/** Only a simulated clock answers here; a normal start says 404. */
@Controller('clock')
export class ClockController {
  constructor(private readonly clock: Clock) {}

  @Get()
  read(): ClockView {
    return this.simulated().view();
  }

  @Post()
  @HttpCode(200)
  move(@Body() body: MoveClock): ClockView {
    const clock = this.simulated();
    if (body.advance !== undefined) clock.advance(body.advance);
    if (body.speed !== undefined) clock.setSpeed(body.speed);
    return clock.view();
  }

  private simulated(): SimulatedClock {
    if (!(this.clock instanceof SimulatedClock)) throw new NotFoundException();
    return this.clock;
  }
}
