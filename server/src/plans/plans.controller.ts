import type { PlanView } from '@kestfog/core/wire';
import { Controller, Get, Param, ParseUUIDPipe, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { Ungated } from '../platform/gate.js';
import { PlansService } from './plans.service.js';

@Controller('orders/:orderId/plan')
export class PlansController {
  constructor(private readonly plans: PlansService) {}

  @Get()
  latest(@Param('orderId', ParseUUIDPipe) orderId: string): Promise<PlanView> {
    return this.plans.latest(orderId);
  }

  /** Who asked and went away does not want it any more: the thread that plans is ended. */
  @Ungated()
  @Post()
  make(@Param('orderId', ParseUUIDPipe) orderId: string, @Res({ passthrough: true }) response: Response): Promise<PlanView> {
    const gone = new AbortController();
    response.on('close', () => {
      if (!response.writableEnded) gone.abort();
    });
    return this.plans.make(orderId, gone.signal);
  }
}
