import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { NestExpressApplication } from '@nestjs/platform-express';
import pg from 'pg';
import { createApp } from '../src/create-app.js';
import type { Config } from '../src/platform/config.js';

const CLUSTER = process.env['DATABASE_URL'];

/** A database of its own in the throwaway cluster. */
export async function freshDatabase(): Promise<string> {
  if (!CLUSTER) throw new Error('DATABASE_URL is not set: run the tests with "npm test", or with bin/dev.sh before the command.');
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  const client = new pg.Client(CLUSTER);
  await client.connect();
  await client.query(`CREATE DATABASE ${name}`);
  await client.end();
  return CLUSTER.replace(/\/[^/]*$/, `/${name}`);
}

export interface Started {
  readonly app: NestExpressApplication;
  readonly url: string;
  readonly databaseUrl: string;
  readonly query: (sql: string, values?: unknown[]) => Promise<Record<string, unknown>[]>;
  readonly stop: () => Promise<void>;
}

export async function startApp(more: Partial<Config> = {}): Promise<Started> {
  const databaseUrl = more.databaseUrl ?? (await freshDatabase());
  const app = await createApp({
    databaseUrl,
    host: '127.0.0.1',
    port: 0,
    simulatedClock: true,
    clockStart: new Date('2026-06-04T12:00:00Z'),
    demo: 'none',
    lan: null,
    isShared: false,
    isBehindProxy: false,
    onlyPlans: false,
    ...more,
  });
  await app.listen(0, '127.0.0.1');
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 2 });
  return {
    app,
    databaseUrl,
    url: (await app.getUrl()).replace('[::1]', '127.0.0.1'),
    query: async (sql, values) => (await pool.query(sql, values)).rows as Record<string, unknown>[],
    stop: async () => {
      await pool.end();
      await app.close();
    },
  };
}

/** The first bytes of a JPEG: what tells one from other files (ISO/IEC 10918-1 Annex B). */
export const JPEG = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0, 0xff, 0xd9]);

export const drawing = (file: string): string => readFileSync(new URL(`../demo/${file}`, import.meta.url), 'utf8');

export const orderInput = (designId: string, more: object = {}) => ({
  name: 'Regatta',
  designs: [{ designId, count: 6 }],
  trays: [{ id: 'A', places: 6 }],
  openingHours: [
    { from: '2026-06-05T14:00:00Z', to: '2026-06-05T22:00:00Z' },
    { from: '2026-06-06T07:00:00Z', to: '2026-06-06T19:00:00Z' },
  ],
  air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
  fan: null,
  school: 'two-bags',
  margin: 'normal',
  packBy: '2026-06-06T19:00:00Z',
  ...more,
});

/** Icing that was touched ten minutes after it was laid and had no crust, and twenty after and had one. */
export const touchInput = {
  state: 'crusted',
  seconds: 15,
  depthMm: 2,
  on: 'cookie',
  tempC: 22,
  humidityPct: 50,
  airMPerS: 0.1,
  notYetMin: 10,
  reachedMin: 20,
};
