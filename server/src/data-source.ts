import 'reflect-metadata';
import pg from 'pg';
import { DataSource, type DataSourceOptions } from 'typeorm';
import { LearnedRunEntity, ThinningStepEntity, TouchEntity } from './calibration/calibration.entities.js';
import { DesignEntity, DesignVersionEntity } from './designs/design.entity.js';
import { ColourMixEntity, LeftoverEntity } from './icing/icing.entities.js';
import { KitchenEntity } from './kitchen/kitchen.entity.js';
import { DeviceEntity } from './lan/device.entity.js';
import { migrations } from './migrations/index.js';
import { LessonEntity, RecordingEntity, RunCorrectionEntity } from './notebook/notebook.entities.js';
import { BagEntity } from './orders/bag.entity.js';
import { OrderDesignEntity, OrderEntity } from './orders/order.entity.js';
import { PlanEntity } from './plans/plan.entity.js';
import { SettingEntity } from './platform/setting.entity.js';
import { RunEntity, RunEventEntity } from './runs/run.entity.js';
import { SchoolEntity } from './schools/school.entity.js';
import { StockBookingEntity, StockThingEntity } from './stock/stock.entities.js';

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
  DeviceEntity,
  LessonEntity,
  RecordingEntity,
  RunCorrectionEntity,
  StockThingEntity,
  StockBookingEntity,
];

/**
 * The database answers within so long or the request ends with a sentence: *assumed*, well beyond what anything here takes. A connection
 * that is not given back, a lock that is not let go and a statement that does not end would else stop everybody.
 */
export const DATABASE_LIMITS = {
  max: 10,
  connectionTimeoutMillis: 5_000,
  statement_timeout: 15_000,
  lock_timeout: 8_000,
  idle_in_transaction_session_timeout: 15_000,
  query_timeout: 20_000,
  keepAlive: true,
} as const;

/** `limits` are left out where a table is changed as a whole. */
export function dataSourceOptions(url: string, limits: object = DATABASE_LIMITS): DataSourceOptions {
  return {
    type: 'postgres',
    url,
    extra: limits,
    entities,
    migrations,
    migrationsTransactionMode: 'each',
    synchronize: false,
    // gen_random_uuid() is built in; the other extension would need a superuser.
    uuidExtension: 'pgcrypto',
    installExtensions: false,
  };
}

/** Brings a database up to date, before anybody is served, however long that takes; of several that begin at once one does. */
export async function migrate(url: string): Promise<void> {
  await alone(url, async () => {
    const db = await new DataSource(dataSourceOptions(url, { max: 1 })).initialize();
    await db.runMigrations().finally(() => db.destroy());
  });
}

/** Known to every release: of those that begin on one database each waits for the one before. */
const BEGINNING = 4_738_211;
/** Does `work` while no other process on this database does what it may do alone. */
export async function alone<T>(url: string, work: () => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url, keepAlive: true });
  await client.connect();
  try {
    // Of the session: let go also where this process is killed.
    await client.query('SELECT pg_advisory_lock($1)', [BEGINNING]);
    return await work();
  } finally {
    await client.end();
  }
}
