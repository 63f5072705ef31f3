import { Controller, type DynamicModule, Get, Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CalibrationController } from './calibration/calibration.controller.js';
import { CalibrationService } from './calibration/calibration.service.js';
import { ClimateController } from './climate/climate.controller.js';
import { dataSourceOptions, entities } from './data-source.js';
import { DemoService } from './demo/demo.service.js';
import { DesignsController } from './designs/designs.controller.js';
import { DesignsService } from './designs/designs.service.js';
import { IcingController } from './icing/icing.controller.js';
import { KitchenController } from './kitchen/kitchen.controller.js';
import { KitchenService } from './kitchen/kitchen.service.js';
import { DevicesController } from './lan/devices.controller.js';
import { OrdersController } from './orders/orders.controller.js';
import { OrdersService } from './orders/orders.service.js';
import { PlansController } from './plans/plans.controller.js';
import { PlansService } from './plans/plans.service.js';
import { ClockController } from './platform/clock.controller.js';
import { Clock, SimulatedClock, WallClock } from './platform/clock.js';
import { CONFIG, type Config } from './platform/config.js';
import { RunsController } from './runs/runs.controller.js';
import { RunsService } from './runs/runs.service.js';
import { SchoolsController } from './schools/schools.controller.js';
import { SchoolsService } from './schools/schools.service.js';

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
      imports: [TypeOrmModule.forRoot({ ...dataSourceOptions(config.databaseUrl), migrationsRun: true, retryAttempts: 3 }), TypeOrmModule.forFeature(entities)],
      controllers: [
        HealthController,
        ClockController,
        ClimateController,
        DevicesController,
        KitchenController,
        CalibrationController,
        IcingController,
        DesignsController,
        SchoolsController,
        OrdersController,
        PlansController,
        RunsController,
      ],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: Clock, useFactory: () => (config.simulatedClock ? new SimulatedClock(config.clockStart ?? new Date()) : new WallClock()) },
        CalibrationService,
        KitchenService,
        DesignsService,
        SchoolsService,
        OrdersService,
        PlansService,
        RunsService,
        DemoService,
      ],
    };
  }
}
