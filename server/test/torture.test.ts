import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { setTimeout as after } from 'node:timers/promises';
import { foldRun } from '@kestfog/core/bench';
import { seededRng } from '@kestfog/core/time';
import type { DesignView, RunView } from '@kestfog/core/wire';
import pg from 'pg';
import { afterAll, describe, expect, it } from 'vitest';
import { type FaultyLine, faultyLine } from './faulty-line.js';
import { drawing, freshDatabase, orderInput, touchInput } from './harness.js';
import { listen } from './listen.js';
import { beginRun, event, freePort, kill, launch } from './run-harness.js';

/** A sample; more by hand with `npm run torture`. */
const ROUNDS = Number(process.env['TORTURE_ROUNDS'] ?? 8);
const DEVICES = Number(process.env['TORTURE_DEVICES'] ?? 10);
const HOURS = Number(process.env['TORTURE_HOURS'] ?? 1);
const SEED = Number(process.env['TORTURE_SEED'] ?? 20261130);
const rng = seededRng(SEED);
const pick = <T>(list: readonly T[]): T => list[Math.floor(rng() * list.length)] as T;

const ended: (() => unknown)[] = [];
afterAll(async () => {
  for (const end of ended.reverse()) await end();
});

/** What is answered while something is wrong: taken, said before, too much at once, or the database away. All else is a fault. */
const EXPECTED = new Set([200, 201, 204, 429, 503]);

describe(`everything that goes wrong at once (seed ${SEED})`, () => {
  it(`${ROUNDS} faults under ${DEVICES} devices on two processes: nothing acknowledged is lost, nothing is there twice, nothing is answered wrongly`, {
    timeout: 120_000 + ROUNDS * 20_000,
  }, async () => {
    const databaseUrl = await freshDatabase();
    const db = new pg.Client(databaseUrl);
    await db.connect();
    ended.push(() => db.end());
    interface Server {
      readonly line: FaultyLine;
      readonly port: number;
      child: ChildProcess;
    }
    /** What went wrong inside, as they say it themselves. */
    const said: string[] = [];
    const begin = async (s: Pick<Server, 'line' | 'port'>) => {
      const child = await launch(s.line.url, s.port, { KESTFOG_SHARED: 'yes' });
      for (const stream of [child.stdout, child.stderr])
        stream?.on('data', (d: Buffer) =>
          said.push(
            ...d
              .toString()
              .split('\n')
              .filter((line) => line.includes('"level":"error"')),
          ),
        );
      return child;
    };
    const servers: Server[] = [];
    for (const _ of [0, 1]) {
      const of = { line: await faultyLine(databaseUrl), port: await freePort() };
      servers.push({ ...of, child: await begin(of) });
    }
    ended.push(async () => {
      for (const { child, line } of servers) {
        await kill(child);
        await line.close();
      }
    });
    const urlOf = ({ port }: Server) => `http://127.0.0.1:${port}`;
    const home = urlOf(servers[0] as Server);
    const run = await beginRun(home);
    const post = async (url: string, path: string, body: object) =>
      fetch(`${url}/api${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(4_000),
      });
    const design = (await (await post(home, '/designs', { name: 'Flag', svg: drawing('signal-flag.svg') })).json()) as DesignView;

    const wrong: string[] = [];
    let again = 0;
    /** As a device does: the same once more, to whichever answers, until it is acknowledged. */
    const sent = async (path: string, body: object): Promise<void> => {
      const until = Date.now() + 60_000;
      for (let turn = Math.floor(rng() * 2); ; turn++) {
        try {
          const answer = await post(urlOf(servers[turn % 2] as Server), path, body);
          const text = await answer.text();
          if (answer.ok) return;
          if (!EXPECTED.has(answer.status)) wrong.push(`${answer.status} ${path} ${text.slice(0, 200)}`);
        } catch {
          // No answer: it may have been kept all the same.
        }
        again += 1;
        if (Date.now() > until) throw new Error(`never taken: ${path}`);
        await after(60);
      }
    };
    let isOver = false;
    const taps = new Set<string>();
    const tapping = Array.from({ length: DEVICES }, async () => {
      const device = randomUUID();
      for (let seq = 1; !isOver; seq++) {
        const e = event(device, seq, seq % 2 ? 'paused' : 'resumed');
        await sent(`/runs/${run.id}/events`, e);
        taps.add(e.id);
        await after(20 + rng() * 60);
      }
    });
    const made: Record<'order' | 'lesson' | 'touch', Set<string>> = { order: new Set(), lesson: new Set(), touch: new Set() };
    const makings = {
      order: ['/orders', () => orderInput(design.id)],
      lesson: ['/lessons', () => ({ text: 'Wait longer.', runId: run.id, design: null, step: null })],
      touch: ['/touches', () => touchInput],
    } as const;
    const making = (Object.keys(makings) as (keyof typeof makings)[]).map(async (kind) => {
      const [path, body] = makings[kind];
      while (!isOver) {
        const id = randomUUID();
        await sent(path, { ...body(), id });
        made[kind].add(id);
        await after(60 + rng() * 120);
      }
    });

    const faults: Record<string, (s: Server) => Promise<void>> = {
      'the connections are cut': async ({ line }) => line.cut(),
      'the database is slow': async ({ line }) => {
        line.slow(150);
        await after(1_500);
        line.slow(0);
      },
      'the database is silent': async ({ line }) => {
        line.still(true);
        await after(1_500);
        line.still(false);
      },
      'a table is locked': async () => {
        const other = new pg.Client(databaseUrl);
        await other.connect();
        await other.query(`BEGIN; LOCK TABLE "${pick(['run', 'run_event', 'order', 'lesson'])}" IN ACCESS EXCLUSIVE MODE`);
        await after(1_500);
        await other.end();
      },
      'the disk is full': async () => {
        const table = pick(['run_event', 'order_design', 'lesson', 'touch']);
        await db.query(
          `CREATE OR REPLACE FUNCTION full_disk() RETURNS trigger AS $$ BEGIN RAISE EXCEPTION 'No space left on device' USING ERRCODE = '53100'; END $$ LANGUAGE plpgsql`,
        );
        await db.query(`CREATE TRIGGER full_disk BEFORE INSERT ON "${table}" FOR EACH ROW EXECUTE FUNCTION full_disk()`);
        await after(1_000);
        await db.query(`DROP TRIGGER full_disk ON "${table}"`);
      },
      'the database throws everybody off': async () => {
        await db.query(
          'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
        );
      },
      'a process is killed': async (s) => {
        await kill(s.child);
        s.child = await begin(s);
      },
      'its clock jumps': async (s) => {
        const by = pick([26 * 3600, 3600, 400]);
        await post(urlOf(s), '/clock', { advance: by }).catch(() => undefined);
      },
    };
    const names = Object.keys(faults);
    for (let round = 0; round < ROUNDS; round++) {
      // Each kind comes once before any comes again; more than one at a time now and then.
      const fault = faults[names[round % names.length] as string] as (s: Server) => Promise<void>;
      const other = rng() < 0.3 ? faults[pick(names.filter((n) => n !== 'the disk is full'))] : undefined;
      await Promise.all([fault(pick(servers)), other === fault ? undefined : other?.(pick(servers))]);
      await after(150 + rng() * 300);
    }
    isOver = true;
    await Promise.all([...tapping, ...making]);

    expect([wrong, wrong.length > 0 ? said : []]).toEqual([[], []]);
    expect(again).toBeGreaterThan(0);
    for (const server of servers) {
      const log = ((await (await fetch(`${urlOf(server)}/api/runs/${run.id}`)).json()) as RunView).events;
      // Everything was sent until it was acknowledged, so what is there is exactly that.
      expect(log.map((e) => e.seq)).toEqual(log.map((_, i) => i + 1));
      expect(log.map((e) => e.id).sort()).toEqual([...taps].sort());
      expect(() => foldRun(run.plan, log)).not.toThrow();
      for (const path of [
        '/orders',
        '/orders?state=trash',
        '/designs',
        '/runs',
        '/lessons',
        '/touches',
        '/notebook/runs',
        '/kitchen',
        '/paces',
      ])
        expect([path, (await fetch(`${urlOf(server)}/api${path}`)).status]).toEqual([path, 200]);
    }
    for (const [kind, ids] of Object.entries(made)) {
      const { rows } = await db.query(`SELECT "id" FROM "${kind}" WHERE "id" = ANY($1)`, [[...ids]]);
      expect([kind, rows.length]).toEqual([kind, ids.size]);
      const all = await db.query(`SELECT count(*)::int AS n FROM "${kind}"`);
      // And the order of the run itself.
      expect([kind, all.rows[0].n]).toEqual([kind, ids.size + (kind === 'order' ? 1 : 0)]);
    }
    const orders = await db.query('SELECT count(*)::int AS n FROM "order_design"');
    expect(orders.rows[0].n).toBe(made.order.size + 1);
    process.stdout.write(
      `${ROUNDS} faults: ${taps.size} taps and ${Object.values(made).reduce((n, ids) => n + ids.size, 0)} other things acknowledged, ${again} sent more than once\n`,
    );
  });
});

describe(`a long day (seed ${SEED})`, () => {
  it(`${DEVICES} devices on one run for ${HOURS} simulated hours: each hears everything, and the process does not grow`, {
    timeout: 120_000 + HOURS * 60_000,
  }, async () => {
    const databaseUrl = await freshDatabase();
    const port = await freePort();
    const url = `http://127.0.0.1:${port}`;
    const child = await launch(databaseUrl, port);
    ended.push(() => kill(child));
    const run = await beginRun(url);
    const post = async (path: string, body: object) => {
      const answer = await fetch(`${url}/api${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`);
      return answer.json();
    };
    const memoryMB = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1]) / 1024;
    const devices = Array.from({ length: DEVICES }, () => ({ id: randomUUID(), seq: 0, ...listen(url, run.id) }));
    const { nowMs } = (await (await fetch(`${url}/api/clock`)).json()) as { nowMs: number };
    const STEPS_AN_HOUR = 6;
    let warmMB = 0;
    for (let step = 0; step < HOURS * STEPS_AN_HOUR; step++) {
      await post('/clock', { advance: 3600 / STEPS_AN_HOUR });
      const atMs = nowMs + (step + 1) * (3_600_000 / STEPS_AN_HOUR);
      await Promise.all(
        devices.map(async (d) => {
          d.seq += 1;
          const said = d.seq % 3;
          const [type, data] =
            said === 0
              ? ['airRead', { tempC: 20 + rng() * 6, humidityPct: 40 + rng() * 30 }]
              : said === 1
                ? ['paused', {}]
                : ['resumed', {}];
          await post(`/runs/${run.id}/events`, event(d.id, d.seq, type as string, data as object, { atMs }));
        }),
      );
      // One goes to sleep and comes back: its stream ends and begins again where it was.
      if (rng() < 0.3) pick(devices).doze();
      for (const path of [`/runs/${run.id}`, '/orders', '/runs']) expect((await fetch(`${url}/api${path}`)).status).toBe(200);
      if (step === Math.floor((HOURS * STEPS_AN_HOUR) / 3)) warmMB = memoryMB();
    }
    const all = Array.from({ length: DEVICES * HOURS * STEPS_AN_HOUR }, (_, i) => i + 1);
    for (const d of devices) await expect.poll(() => d.heard.length, { timeout: 20_000 }).toBe(all.length);
    for (const d of devices) {
      expect(d.heard).toEqual(all);
      d.close();
    }
    const endMB = memoryMB();
    process.stdout.write(
      `${HOURS} h, ${DEVICES} devices, ${all.length} taps: ${Math.round(warmMB)} MB after a third, ${Math.round(endMB)} MB at the end\n`,
    );
    // What a third of the day needs is enough for the rest, but for the log itself, which is asked for whole.
    expect(endMB).toBeLessThan(warmMB * 1.5 + 50);
  });
});
