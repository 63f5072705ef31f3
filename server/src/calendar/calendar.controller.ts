import type { CalendarAddress } from '@kestfog/core/wire';
import { Controller, Get, Header, HttpCode, Param, Post } from '@nestjs/common';
import { CalendarService } from './calendar.service.js';

@Controller('calendar')
export class CalendarController {
  constructor(private readonly calendar: CalendarService) {}

  @Get()
  address(): Promise<CalendarAddress> {
    return this.calendar.address();
  }

  @Post('renew')
  @HttpCode(200)
  renew(): Promise<CalendarAddress> {
    return this.calendar.renew();
  }

  /** What calendar programs ask for: they know no passphrase, so that the secret in the path is all there is. */
  @Get(':secret/orders.ics')
  @Header('content-type', 'text/calendar; charset=utf-8')
  @Header('cache-control', 'private, no-cache')
  read(@Param('secret') secret: string): Promise<string> {
    return this.calendar.read(secret);
  }
}
