import { type ChildProcess, execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { CalendarAddress, ClimateReading, DesignSummary, DeviceView, OrderView, PlanView, RunView } from '@kestfog/core/wire';
import pg from 'pg';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { drawing, freshDatabase, orderInput } from './harness.js';
import { listen } from './listen.js';
import { beginRun, event, freePort, kill, launch, sendUntilTaken } from './run-harness.js';

const PASSPHRASE_CLI = fileURLToPath(new URL('../dist/passphrase-cli.js', import.meta.url));
/** More by hand: TORTURE_DEVICES=50. */
const DEVICES = Number(process.env['TORTURE_DEVICES'] ?? 8);
const SHARED = { KESTFOG_SHARED: 'yes' };
let databaseUrl: string;
let db: pg.Client;
const servers: { url: string; child: ChildProcess }[] = [];
/** What they said of themselves. */
let said = '';
async function begin(more: NodeJS.ProcessEnv = {}): Promise<{ url: string; child: ChildProcess }> {
  const port = await freePort();
  const server = { url: `http://127.0.0.1:${port}`, child: await launch(databaseUrl, port, { ...SHARED, ...more }) };
  server.child.stdout?.on('data', (d: Buffer) => {
    said += d.toString();
  });
  servers.push(server);
  return server;
}

beforeAll(async () => {
  databaseUrl = await freshDatabase();
  db = new pg.Client(databaseUrl);
  await db.connect();
  // Both at once, on a database that has nothing yet.
  await Promise.all([begin(), begin()]);
}, 120_000);
afterAll(async () => {
  for (const { child } of servers) await kill(child);
  await db.end();
});

describe('several processes on one database', () => {
  it('begin at once on an empty one: its tables are made once', async () => {
    const { rows } = await db.query('SELECT count(*)::int AS all, count(DISTINCT "name")::int AS named FROM "migrations"');
    expect(rows[0].all).toBe(rows[0].named);
    for (const { url } of servers) expect((await fetch(`${url}/api/health`)).status).toBe(200);
  });
  it('what is tapped through one is heard through the other, also after the connection they talk by was cut', async () => {
    const [a, b] = servers as [(typeof servers)[0], (typeof servers)[0]];
    const run = await beginRun(a.url);
    const [fromA, fromB] = [listen(a.url, run.id), listen(b.url, run.id)];
    const device = randomUUID();
    for (const seq of [1, 2, 3, 4]) {
      if (seq === 3)
        await db.query(
          `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'kestfog notices' AND datname = current_database()`,
        );
      await sendUntilTaken(seq % 2 ? a.url : b.url, run.id, event(device, seq, seq % 2 ? 'paused' : 'resumed'));
    }
    await expect
      .poll(() => [fromA.heard, fromB.heard], { timeout: 15_000 })
      .toEqual([
        [1, 2, 3, 4],
        [1, 2, 3, 4],
      ]);
    fromA.close();
    fromB.close();
  });
  it('the same weather is played through both', async () => {
    const [a, b] = servers as [(typeof servers)[0], (typeof servers)[0]];
    const scenario = async (url: string) => ((await (await fetch(`${url}/api/climate`)).json()) as ClimateReading).simulated?.scenario;
    expect(await scenario(b.url)).toBe('steady');
    const played = await fetch(`${a.url}/api/climate`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ scenario: 'oven-on' }),
    });
    expect([played.status, await scenario(a.url)]).toEqual([200, 'oven-on']);
    await expect.poll(() => scenario(b.url)).toBe('oven-on');
  });
  it('says of each request what was asked and how it ended, a line of JSON each, and no secret', async () => {
    const [a] = servers as [(typeof servers)[0]];
    const { path } = (await (await fetch(`${a.url}/api/calendar`)).json()) as CalendarAddress;
    const headers = { cookie: 'kestfog_device=SECRETPASS' };
    expect((await fetch(`${a.url}${path}?token=SECRETQUERY`, { headers })).status).toBe(200);
    expect((await fetch(`${a.url}/api/orders/${randomUUID()}`, { headers })).status).toBe(404);
    const lines = () =>
      said
        .split('\n')
        .filter((l) => l.startsWith('{'))
        .map((l) => JSON.parse(l) as { context: string; message: { path: string; status: number; ms: number } })
        .filter((l) => l.context === 'request');
    await expect.poll(() => lines().some((l) => l.message.status === 404)).toBe(true);
    expect(lines().find((l) => l.message.path.endsWith('/orders.ics'))?.message).toMatchObject({
      method: 'GET',
      status: 200,
      answered: true,
    });
    for (const secret of [path.split('/')[3] as string, 'SECRETPASS', 'SECRETQUERY'])
      expect([secret, said.includes(secret)]).toEqual([secret, false]);
  });
  it('behind a proxy only its address is answered; a device let in by one is known to all, and shut out of all', {
    timeout: 60_000,
  }, async () => {
    const both = [await begin({ KESTFOG_ADDRESS: 'https://kitchen.test' }), await begin({ KESTFOG_ADDRESS: 'https://kitchen.test' })];
    const { stdout } = await promisify(execFile)('node', [PASSPHRASE_CLI], { env: { ...process.env, DATABASE_URL: databaseUrl } });
    const call = (at: number, method: 'get' | 'post' | 'delete', path: string, pass = '') =>
      request(both[at]?.url as string)
        [method](`/api${path}`)
        .set({ Host: 'kitchen.test', Cookie: pass, 'X-Forwarded-For': `203.0.113.${at}` });
    expect((await fetch(`${both[0]?.url}/api/orders`)).status).toBe(403);
    expect((await call(0, 'get', '/orders')).body).toMatchObject({ code: 'unknown-device' });
    expect((await call(0, 'get', '/health')).status).toBe(200);
    const entered = await call(0, 'post', '/devices').send({ passphrase: stdout.trim(), name: 'tablet' });
    const cookie = String(entered.headers['set-cookie']);
    expect(cookie).toContain('Secure');
    const pass = cookie.split(';')[0] as string;
    for (const at of [0, 1]) expect((await call(at, 'get', '/orders', pass)).status).toBe(200);
    // Whoever guesses waits, and nobody else.
    for (let i = 0; i < 12; i++) await call(0, 'post', '/devices').send({ passphrase: 'x', name: 'x' });
    expect((await call(0, 'post', '/devices').send({ passphrase: 'x', name: 'x' })).status).toBe(429);
    expect((await call(0, 'post', '/devices').set('X-Forwarded-For', '203.0.113.99').send({ passphrase: 'x', name: 'x' })).status).toBe(
      403,
    );
    const [own] = (await call(1, 'get', '/devices/known', pass)).body as DeviceView[];
    await call(1, 'delete', `/devices/${own?.id}`, pass);
    for (const at of [0, 1]) expect((await call(at, 'get', '/orders', pass)).status).toBe(401);
    for (const { child } of servers.splice(2)) await kill(child);
  });
  it('orders are planned from one queue; those of a process that is killed are planned by another', { timeout: 120_000 }, async () => {
    const [a] = servers as [(typeof servers)[0]];
    const post = async <T>(path: string, body: object): Promise<{ status: number; body: T }> => {
      const answer = await fetch(`${a.url}/api${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      return { status: answer.status, body: (await answer.json()) as T };
    };
    const worker = await launch(databaseUrl, 0, { ...SHARED, KESTFOG_ONLY_PLANS: 'yes' });
    const { body: design } = await post<DesignSummary>('/designs', { name: 'Flag', svg: drawing('signal-flag.svg') });
    const orders: OrderView[] = [];
    for (let i = 0; i < 5; i++) orders.push((await post<OrderView>('/orders', { ...orderInput(design.id), name: `Order ${i}` })).body);
    const asked = orders.map((o) => post<PlanView>(`/orders/${o.id}/plan`, {}));
    const at = (state: string) =>
      db.query('SELECT count(*)::int AS n FROM pgboss.job WHERE "name" = $1 AND "state" = $2', ['plan', state]).then((r) => r.rows[0].n);
    // Some are being planned, by both servers and the worker, as the worker and one server are killed.
    await expect.poll(() => at('active'), { timeout: 10_000, interval: 20 }).toBeGreaterThan(1);
    await Promise.all([kill(worker), kill((servers[1] as (typeof servers)[0]).child)]);
    const answers = await Promise.all(asked);
    expect(answers.map(({ status, body }) => [status, body.orderId])).toEqual(orders.map((o) => [201, o.id]));
    // A refusal comes back as it was said.
    const none = await post<{ code: string }>(`/orders/${randomUUID()}/plan`, {});
    expect([none.status, none.body.code]).toEqual([404, 'not-found']);
    servers.pop();
    await begin();
  });
  it('one killed under those who tap: what was acknowledged is there once, in its order, and heard by all', {
    timeout: 90_000,
  }, async () => {
    const [a, b] = servers as [(typeof servers)[0], (typeof servers)[0]];
    const run = await beginRun(a.url);
    const listeners = [a, a, b].map(({ url }) => listen(url, run.id));
    const devices = Array.from({ length: DEVICES }, (_, i) => ({ id: randomUUID(), own: i % 2 ? a : b }));
    const acknowledged = new Set<string>();
    const tapping = devices.map(async ({ id, own }) => {
      for (let seq = 1; seq <= 12; seq++) {
        const e = event(id, seq, seq % 2 ? 'paused' : 'resumed');
        // As behind a proxy: who does not answer is left for the other.
        const isThere = async (url: string) => (await fetch(`${url}/api/health`).catch(() => null))?.ok === true;
        await sendUntilTaken((await isThere(own.url)) ? own.url : a.url, run.id, e, 2_000).catch(() => sendUntilTaken(a.url, run.id, e));
        acknowledged.add(e.id);
      }
    });
    await new Promise((done) => setTimeout(done, 300));
    await kill(b.child);
    await Promise.all(tapping);
    const { events } = (await (await fetch(`${a.url}/api/runs/${run.id}`)).json()) as RunView;
    expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i + 1));
    expect(new Set(events.map((e) => e.id))).toEqual(acknowledged);
    expect(events).toHaveLength(DEVICES * 12);
    for (const l of listeners.slice(0, 2)) await expect.poll(() => l.heard, { timeout: 10_000 }).toEqual(events.map((e) => e.seq));
    for (const l of listeners) l.close();
  });
});
