import { type DynamicModule, Module } from '@nestjs/common';
import { APP_GUARD, APP_INTERCEPTOR } from '@nestjs/core';
import { ThrottlerModule } from '@nestjs/throttler';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ArchiveController } from './archive/archive.controller.js';
import { ArchiveService } from './archive/archive.service.js';
import { CalendarController } from './calendar/calendar.controller.js';
import { CalendarService } from './calendar/calendar.service.js';
import { CalibrationController } from './calibration/calibration.controller.js';
import { CalibrationService } from './calibration/calibration.service.js';
import { ClimateController } from './climate/climate.controller.js';
import { dataSourceOptions, entities } from './data-source.js';
import { DemoService } from './demo/demo.service.js';
import { DesignsController } from './designs/designs.controller.js';
import { DesignsService } from './designs/designs.service.js';
import { DrawingsService } from './designs/drawings.service.js';
import { IcingController } from './icing/icing.controller.js';
import { KitchenController } from './kitchen/kitchen.controller.js';
import { KitchenService } from './kitchen/kitchen.service.js';
import { DevicesController } from './lan/devices.controller.js';
import { DevicesService } from './lan/devices.service.js';
import { NotebookController } from './notebook/notebook.controller.js';
import { NotebookService } from './notebook/notebook.service.js';
import { RecordingsController } from './notebook/recordings.controller.js';
import { RecordingsService } from './notebook/recordings.service.js';
import { OrderLoader } from './orders/order-loader.service.js';
import { OrdersController } from './orders/orders.controller.js';
import { OrdersService } from './orders/orders.service.js';
import { PlanQueue } from './plans/plan-queue.js';
import { PlansController } from './plans/plans.controller.js';
import { PlansService } from './plans/plans.service.js';
import { ClockController } from './platform/clock.controller.js';
import { Clock, SimulatedClock, WallClock } from './platform/clock.js';
import { CONFIG, type Config } from './platform/config.js';
import { Gate } from './platform/gate.js';
import { HealthController } from './platform/health.controller.js';
import { Notices } from './platform/notices.js';
import { RATES, Rates } from './platform/rates.js';
import { TrashService } from './platform/trash.service.js';
import { RunFactsService } from './runs/run-facts.service.js';
import { RunsController } from './runs/runs.controller.js';
import { RunsService } from './runs/runs.service.js';
import { SchoolsController } from './schools/schools.controller.js';
import { SchoolsService } from './schools/schools.service.js';
import { StockController } from './stock/stock.controller.js';
import { StockService } from './stock/stock.service.js';

@Module({})
export class AppModule {
  static with(config: Config): DynamicModule {
    return {
      module: AppModule,
      imports: [
        TypeOrmModule.forRoot({ ...dataSourceOptions(config.databaseUrl), retryAttempts: 3 }),
        TypeOrmModule.forFeature(entities),
        ThrottlerModule.forRoot(RATES),
      ],
      controllers: [
        HealthController,
        ClockController,
        ClimateController,
        DevicesController,
        KitchenController,
        CalendarController,
        CalibrationController,
        IcingController,
        DesignsController,
        SchoolsController,
        OrdersController,
        PlansController,
        RunsController,
        StockController,
        ArchiveController,
        NotebookController,
        RecordingsController,
      ],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: APP_GUARD, useClass: Rates },
        { provide: APP_INTERCEPTOR, useClass: Gate },
        {
          provide: Clock,
          useFactory: () => (config.simulatedClock ? new SimulatedClock(config.clockStart ?? new Date()) : new WallClock()),
        },
        CalendarService,
        CalibrationService,
        DevicesService,
        KitchenService,
        DrawingsService,
        DesignsService,
        SchoolsService,
        OrderLoader,
        OrdersService,
        Notices,
        PlanQueue,
        PlansService,
        RunFactsService,
        RunsService,
        StockService,
        ArchiveService,
        NotebookService,
        RecordingsService,
        TrashService,
        DemoService,
      ],
    };
  }
}
