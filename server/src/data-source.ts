import 'reflect-metadata';
import type { DataSourceOptions } from 'typeorm';
import { LearnedRunEntity, ThinningStepEntity, TouchEntity } from './calibration/calibration.entities.js';
import { SettingEntity } from './demo/setting.entity.js';
import { DesignEntity, DesignVersionEntity } from './designs/design.entity.js';
import { ColourMixEntity, LeftoverEntity } from './icing/icing.entities.js';
import { KitchenEntity } from './kitchen/kitchen.entity.js';
import { migrations } from './migrations/index.js';
import { BagEntity } from './orders/bag.entity.js';
import { OrderDesignEntity, OrderEntity } from './orders/order.entity.js';
import { PlanEntity } from './plans/plan.entity.js';
import { RunEntity, RunEventEntity } from './runs/run.entity.js';
import { SchoolEntity } from './schools/school.entity.js';

/** Everything that is kept. */
export const entities = [
  DesignEntity,
  DesignVersionEntity,
  SchoolEntity,
  OrderEntity,
  OrderDesignEntity,
  BagEntity,
  ColourMixEntity,
  LeftoverEntity,
  KitchenEntity,
  ThinningStepEntity,
  TouchEntity,
  LearnedRunEntity,
  PlanEntity,
  RunEntity,
  RunEventEntity,
  SettingEntity,
];

export function dataSourceOptions(url: string): DataSourceOptions {
  return {
    type: 'postgres',
    url,
    entities,
    migrations,
    migrationsTransactionMode: 'each',
    synchronize: false,
    // gen_random_uuid() is built in; the other extension would need a superuser.
    uuidExtension: 'pgcrypto',
    installExtensions: false,
  };
}
