import { randomUUID } from 'node:crypto';
import type { RunView } from '@kestfog/core/wire';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Started, startApp } from './harness.js';
import { beginRun, event } from './run-harness.js';

/** A hundred by hand: APPEND_ROUNDS=100. */
const ROUNDS = Number(process.env['APPEND_ROUNDS'] ?? 5);

let s: Started;
let run: RunView;
beforeAll(async () => {
  s = await startApp();
  run = await beginRun(s.url);
});
afterAll(() => s.stop());

const post = (path: string, body: unknown, signal: AbortSignal = AbortSignal.timeout(15_000)) =>
  fetch(`${s.url}/api${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body), signal });

const get = (path: string, signal: AbortSignal = AbortSignal.timeout(15_000)) => fetch(`${s.url}/api${path}`, { signal });

describe('a. taps at the same moment', () => {
  it(`forty devices that tap at once are all answered and kept, ${ROUNDS} times in a row`, { timeout: 20_000 + ROUNDS * 10_000 }, async () => {
    const task = run.plan.tasks[0]?.id as string;
    const devices = Array.from({ length: 40 }, () => randomUUID());
    for (let round = 1; round <= ROUNDS; round++) {
      const answers = await Promise.all(devices.map((d) => post(`/runs/${run.id}/events`, event(d, round, 'taskBegun', { taskId: task }))));
      expect(answers.map((a) => a.status)).toEqual(devices.map(() => 201));
    }
    const [row] = await s.query('SELECT count(*)::int AS n, max(seq) AS top FROM run_event WHERE "runId" = $1', [run.id]);
    expect(row).toEqual({ n: 40 * ROUNDS, top: 40 * ROUNDS });
  });
  it('requests whose clients have left leave the way free', async () => {
    const leaving = new AbortController();
    const left = Array.from({ length: 60 }, () => get('/orders', leaving.signal).catch(() => null));
    setTimeout(() => leaving.abort(), 30);
    await Promise.all(left);
    expect((await get(`/runs/${run.id}`)).status).toBe(200);
  });
});

describe('a database that is not there', () => {
  it('is said so, with what is known: 503, also by health, and all goes on once it is back', async () => {
    const own = await startApp();
    const name = own.databaseUrl.split('/').at(-1) as string;
    const admin = async (sql: string) => {
      const client = new pg.Client(own.databaseUrl.replace(/\/[^/]*$/, '/postgres'));
      await client.connect();
      await client.query(sql).finally(() => client.end());
    };
    const ask = (path: string) => fetch(`${own.url}/api${path}`, { signal: AbortSignal.timeout(15_000) });
    await admin(`ALTER DATABASE ${name} ALLOW_CONNECTIONS false`);
    await admin(`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '${name}'`);
    for (const path of ['/health', '/orders', '/kitchen']) {
      const answer = await ask(path);
      expect([path, answer.status]).toEqual([path, 503]);
      expect(answer.headers.get('retry-after')).toBe('2');
      expect(await answer.json()).toMatchObject({ code: 'database', message: expect.stringContaining('database') });
    }
    await admin(`ALTER DATABASE ${name} ALLOW_CONNECTIONS true`);
    expect((await ask('/health')).status).toBe(200);
    expect((await ask('/orders')).status).toBe(200);
    await own.stop();
  });
});
