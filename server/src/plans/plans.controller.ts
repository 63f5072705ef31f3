import type { PlanView } from '@kestfog/core';
import { Controller, Get, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { PlansService } from './plans.service.js';

@Controller('orders/:orderId/plan')
export class PlansController {
  constructor(private readonly plans: PlansService) {}

  @Get()
  latest(@Param('orderId', ParseUUIDPipe) orderId: string): Promise<PlanView> {
    return this.plans.latest(orderId);
  }

  @Post()
  make(@Param('orderId', ParseUUIDPipe) orderId: string): Promise<PlanView> {
    return this.plans.make(orderId);
  }
}
