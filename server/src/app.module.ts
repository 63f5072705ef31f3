import { Controller, type DynamicModule, Get, Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { dataSourceOptions } from './data-source.js';
import { DemoService } from './demo/demo.service.js';
import { SettingEntity } from './demo/setting.entity.js';
import { DesignEntity } from './designs/design.entity.js';
import { DesignsController } from './designs/designs.controller.js';
import { DesignsService } from './designs/designs.service.js';
import { BagEntity } from './orders/bag.entity.js';
import { OrderDesignEntity, OrderEntity } from './orders/order.entity.js';
import { OrdersController } from './orders/orders.controller.js';
import { OrdersService } from './orders/orders.service.js';
import { PlanEntity } from './plans/plan.entity.js';
import { PlansController } from './plans/plans.controller.js';
import { PlansService } from './plans/plans.service.js';
import { ClockController } from './platform/clock.controller.js';
import { Clock, SimulatedClock, WallClock } from './platform/clock.js';
import { CONFIG, type Config } from './platform/config.js';
import { RunEntity, RunEventEntity } from './runs/run.entity.js';
import { RunsController } from './runs/runs.controller.js';
import { RunsService } from './runs/runs.service.js';

@Controller('health')
class HealthController {
  constructor(private readonly clock: Clock) {}
  @Get()
  health(): { ok: true; nowMs: number; speed: number } {
    return { ok: true, ...this.clock.view() };
  }
}

@Module({})
export class AppModule {
  static with(config: Config): DynamicModule {
    return {
      module: AppModule,
      imports: [
        TypeOrmModule.forRoot({ ...dataSourceOptions(config.databaseUrl), migrationsRun: true, retryAttempts: 3 }),
        TypeOrmModule.forFeature([DesignEntity, OrderEntity, OrderDesignEntity, BagEntity, PlanEntity, RunEntity, RunEventEntity, SettingEntity]),
      ],
      controllers: [HealthController, ClockController, DesignsController, OrdersController, PlansController, RunsController],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: Clock, useFactory: () => (config.simulatedClock ? new SimulatedClock(config.clockStart ?? new Date()) : new WallClock()) },
        DesignsService,
        OrdersService,
        PlansService,
        RunsService,
        DemoService,
      ],
    };
  }
}
