import { randomUUID } from 'node:crypto';
import { schoolById } from '@kestfog/core/steps';
import { seededRng } from '@kestfog/core/time';
import type {
  ApiError,
  DesignSummary,
  DesignView,
  KitchenView,
  OrderSummary,
  OrderView,
  Page,
  RunView,
  SchoolView,
} from '@kestfog/core/wire';
import type { CallHandler, ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import pg from 'pg';
import { lastValueFrom, Subject } from 'rxjs';
import { DataSource, QueryRunnerAlreadyReleasedError, QueryRunnerProviderAlreadyReleasedError } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { DemoService } from '../src/demo/demo.service.js';
import { Clock, type SimulatedClock } from '../src/platform/clock.js';
import type { Refusal } from '../src/platform/errors.js';
import { isDatabaseAway } from '../src/platform/errors.js';
import { Gate } from '../src/platform/gate.js';
import { TRASH_DAYS, TrashService } from '../src/platform/trash.service.js';
import { RunFactsService } from '../src/runs/run-facts.service.js';
import { drawing, orderInput, type Started, startApp } from './harness.js';
import { beginRun, event } from './run-harness.js';
import { season } from './season.js';

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

/** Any request to any server. */
const send = (to: Started, method: string, path: string, body?: unknown) =>
  fetch(`${to.url}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    signal: AbortSignal.timeout(30_000),
  });
const read = async <T>(answer: Promise<Response>): Promise<T> => (await (await answer).json()) as T;
const get = (path: string, signal: AbortSignal = AbortSignal.timeout(15_000)) => fetch(`${s.url}/api${path}`, { signal });

describe('a. taps at the same moment', () => {
  it(`forty devices that tap at once are all answered and kept, ${ROUNDS} times in a row`, {
    timeout: 20_000 + ROUNDS * 10_000,
  }, async () => {
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
  it('health tells how busy it is', async () => {
    expect(await (await get('/health')).json()).toMatchObject({ ok: true, busy: expect.any(Number) });
  });
});

describe('a database that is not there', () => {
  it('is told from faults of ours, also where it throws somebody off in the middle of a transaction', () => {
    for (const away of [
      new QueryRunnerAlreadyReleasedError(),
      new QueryRunnerProviderAlreadyReleasedError(),
      Object.assign(new Error('connect'), { code: 'ECONNREFUSED' }),
      Object.assign(new Error('No space left on device'), { code: '53100' }),
      { driverError: Object.assign(new Error('terminating connection'), { code: '57P01' }) },
    ])
      expect([away, isDatabaseAway(away)]).toEqual([away, true]);
    for (const ours of [new TypeError('x is not a function'), Object.assign(new Error('syntax error'), { code: '42601' }), null])
      expect([ours, isDatabaseAway(ours)]).toEqual([ours, false]);
  });
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

describe('the line of requests', () => {
  const gate = new Gate(new Reflector());
  /** A request that is worked on until `end`. */
  const ask = () => {
    const res = { destroyed: false, setHeader: vi.fn() };
    const end = new Subject<void>();
    const begun = vi.fn(() => end);
    const context = {
      getHandler: () => ask,
      switchToHttp: () => ({ getRequest: () => ({ socket: { destroyed: false } }), getResponse: () => res }),
    };
    const answer = (): Promise<unknown> => {
      const next: CallHandler = { handle: begun };
      return lastValueFrom(gate.intercept(context as unknown as ExecutionContext, next), { defaultValue: 'done' });
    };
    return { res, end, begun, answer };
  };
  const settled = () => new Promise((done) => setTimeout(done, 5));

  it('lets eight in and four hundred wait, tells the next when to come again, and does not work for who has left', async () => {
    const asked = Array.from({ length: 408 }, ask);
    const answers = asked.map((a) => a.answer().catch((e: Refusal) => e.getStatus()));
    await settled();
    expect(asked.filter((a) => a.begun.mock.calls.length > 0)).toHaveLength(8);
    const late = ask();
    expect(() => late.answer()).toThrow(/too much to answer/);
    expect(late.res.setHeader).toHaveBeenCalledWith('Retry-After', '2');
    for (const a of asked.slice(8, 300)) a.res.destroyed = true;
    for (const a of asked) a.end.complete();
    const results = await Promise.all(answers);
    expect(results.filter((r) => r === 499)).toHaveLength(292);
    expect(asked.filter((a) => a.begun.mock.calls.length > 0)).toHaveLength(408 - 292);
  });
});

describe('b. drawings that ask for more than a drawing may', () => {
  const svg = (inner: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><path id="a" d="M4 4H76V76H4Z" fill="#ffffff"/>${inner}</svg>`;
  const random = seededRng(15);
  const at = () => `${(4 + 72 * random()).toFixed(2)} ${(4 + 72 * random()).toFixed(2)}`;
  const uses = [...Array(7).keys()].map((k) => `<g id="u${k + 1}">${`<use href="#u${k}"/>`.repeat(10)}</g>`).join('');
  const drawings: readonly (readonly [string, string])[] = [
    ['a scribble of 500 points', svg(`<path d="M${[...Array(500).keys()].map(at).join('L')}Z" fill="#b3261e"/>`)],
    [
      '300 circles',
      svg([...Array(300).keys()].map(() => `<circle cx="${4 + 72 * random()}" cy="${4 + 72 * random()}" r="9" fill="#1f3f6b"/>`).join('')),
    ],
    ['a line to 1e9', svg('<path d="M4 4L1e9 1e9L4 60Z" fill="#b3261e"/>')],
    ['a circle of 1e7', svg('<circle cx="40" cy="40" r="1e7" fill="#b3261e"/>')],
    ['an arc of 1e9', svg('<path d="M4 4A1e9 1e9 0 0 1 70 70Z" fill="#b3261e"/>')],
    ['seven levels of use', svg(`<defs><rect id="u0" width="2" height="2"/>${uses}</defs><use href="#u7"/>`)],
    ['20,000 translations', svg(`<rect width="5" height="5" fill="#b3261e" transform="${'translate(1)'.repeat(20_000)}"/>`)],
    ['100,000 points', svg(`<path d="M${[...Array(100_000).keys()].map(at).join('L')}Z" fill="#b3261e"/>`)],
    ['60 groups in each other', svg(`${'<g>'.repeat(60)}<rect width="5" height="5"/>${'</g>'.repeat(60)}`)],
  ];
  it.each(drawings)('%s: kept or refused in a sentence, while taps go on', { timeout: 30_000 }, async (_what, drawn) => {
    const count = async () => (await s.query('SELECT count(*)::int AS n FROM design'))[0]?.['n'] as number;
    const before = await count();
    const reading = post('/designs', { name: 'Scribble', svg: drawn }, AbortSignal.timeout(25_000));
    let done = false;
    void reading.finally(() => {
      done = true;
    });
    // The thread that answers is free all the while.
    const waits: number[] = [];
    while (!done) {
      const asked = performance.now();
      await get('/health', AbortSignal.timeout(5000));
      waits.push(performance.now() - asked);
      await new Promise((r) => setTimeout(r, 20));
    }
    const answer = await reading;
    const body = (await answer.json()) as { message: string; id: string };
    expect([answer.status, body.message]).toEqual(answer.status === 201 ? [201, undefined] : [400, expect.stringMatching(/^.{20,260}\.$/)]);
    expect(await count()).toBe(before + (answer.status === 201 ? 1 : 0));
    if (answer.status === 201) await fetch(`${s.url}/api/designs/${body.id}`, { method: 'DELETE' });
    expect((await get('/designs')).status).toBe(200);
  });
});

describe('c. lists of a season', () => {
  let own: Started;
  let made: RunView;
  beforeAll(async () => {
    own = await startApp();
    made = await season(own, 60, 40);
  });
  afterAll(() => own.stop());
  const list = async (path: string) => {
    const answer = await fetch(`${own.url}/api${path}`);
    const text = await answer.text();
    return { bytes: text.length, page: JSON.parse(text) as Page<OrderSummary> };
  };

  it('are short pages without drawings, plans or logs; what is packed lies apart', async () => {
    const open = await list('/orders');
    expect(open.page).toMatchObject({ total: 20, page: 0, pages: 2 });
    expect(open.page.items).toHaveLength(12);
    expect(open.bytes).toBeLessThan(20_000);
    const packed = await list('/orders?state=packed&page=3');
    expect(packed.page).toMatchObject({ total: 40, page: 3, pages: 4, items: expect.arrayContaining([]) });
    expect(packed.page.items.map((o) => o.run?.finished)).toEqual([true, true, true, true]);
    expect((await list('/designs')).bytes).toBeLessThan(2000);
    const found = await list(`/orders?state=packed&q=${encodeURIComponent('regatta 17')}`);
    expect(found.page.items.map((o) => o.name)).toEqual(['Regatta 17']);
    expect((await list('/orders?q=%25')).page.total).toBe(0);
  });
  it('ask the database as often for many as for few, and fold no log that has not grown', async () => {
    const db = own.app.get(DataSource);
    const asked = vi.spyOn(db.driver as unknown as { createQueryRunner: () => object }, 'createQueryRunner');
    const folded = vi.spyOn(own.app.get(RunFactsService) as unknown as { refresh: () => Promise<void> }, 'refresh');
    const queriesFor = async (path: string) => {
      asked.mockClear();
      await list(path);
      return asked.mock.calls.length;
    };
    const [one, many] = [await queriesFor('/orders?state=packed&q=regatta%2017'), await queriesFor('/orders?state=packed')];
    expect(many).toBe(one);
    expect(folded).toHaveBeenCalled();
    asked.mockRestore();
    const before = await own.query('SELECT max(xmin::text::bigint) AS x FROM run');
    await list('/orders');
    expect(await own.query('SELECT max(xmin::text::bigint) AS x FROM run')).toEqual(before);
  });
  it('two hundred at the same moment are all answered', { timeout: 60_000 }, async () => {
    const answers = await Promise.all(
      Array.from({ length: 200 }, () => fetch(`${own.url}/api/orders`, { signal: AbortSignal.timeout(50_000) })),
    );
    expect(new Set(answers.map((a) => a.status))).toEqual(new Set([200]));
  });
  it('a tap is seen in the list at once', async () => {
    const again = async () => (await list('/orders?state=packed&q=first')).page.items.some((o) => o.id === made.orderId);
    expect(await again()).toBe(true);
    const last = made.plan.tasks.at(-1)?.id;
    const [row] = await own.query(`SELECT "id", "deviceId", "deviceSeq" FROM run_event WHERE "runId" = $1 ORDER BY seq DESC LIMIT 1`, [
      made.id,
    ]);
    const undo = event(row?.['deviceId'] as string, (row?.['deviceSeq'] as number) + 1, 'undone', { eventId: row?.['id'] });
    expect(
      (
        await fetch(`${own.url}/api/runs/${made.id}/events`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(undo),
        })
      ).status,
    ).toBe(201);
    expect(last).toBeDefined();
    expect(await again()).toBe(false);
  });
  it('1. a run whose log cannot be folded any more is listed, and all others with it', async () => {
    const [bad] = await own.query(`SELECT r.id, r."orderId" FROM run r WHERE r.id <> $1 LIMIT 1`, [made.id]);
    await own.query(`UPDATE run_event SET type = 'cookieDone', data = 'null'::jsonb WHERE "runId" = $1`, [bad?.['id']]);
    await own.query('UPDATE run SET "factsSeq" = NULL WHERE id = $1', [bad?.['id']]);
    expect((await list('/orders')).page.items.length).toBeGreaterThan(0);
    expect((await send(own, 'GET', `/orders/${bad?.['orderId']}`)).status).toBe(200);
  });
  it('1. a design that cannot be read any more is listed with the reason, and orders of it too', async () => {
    const design = await read<DesignView>(send(own, 'POST', '/designs', { name: 'Worn', svg: drawing('signal-flag.svg') }));
    await send(own, 'POST', '/orders', orderInput(design.id, { name: 'Worn order' }));
    await own.query(
      `UPDATE design_version SET document = jsonb_set(document, '{svg}', '"no drawing"'), summary = NULL, drawing = NULL, "derivedBy" = NULL WHERE "designId" = $1`,
      [design.id],
    );
    const designs = await read<Page<DesignSummary>>(send(own, 'GET', '/designs'));
    expect(designs.items.find((d) => d.id === design.id)?.problem).toMatch(/well-formed/);
    expect((await list('/orders?q=Worn')).page.items).toHaveLength(1);
  });
  it('1. an order whose school was deleted is listed, opened and changed as before', async () => {
    const school = await read<SchoolView>(send(own, 'POST', '/schools', { school: { ...schoolById('two-bags'), label: 'Ours' } }));
    const [design] = (await list('/designs')).page.items;
    const order = await read<OrderView>(
      send(own, 'POST', '/orders', orderInput(design?.id as string, { name: 'Ours', school: school.id })),
    );
    expect((await send(own, 'DELETE', `/schools/${school.id}`)).status).toBe(204);
    expect((await list('/orders?q=Ours')).page.items).toHaveLength(1);
    const seen = (await (await send(own, 'GET', `/orders/${order.id}`)).json()) as OrderView;
    expect(seen.schoolUsed).toMatchObject({ label: 'Ours' });
    expect(
      (await send(own, 'PUT', `/orders/${order.id}`, orderInput(design?.id as string, { name: 'Ours again', school: school.id }))).status,
    ).toBe(200);
    expect((await send(own, 'POST', `/orders/${order.id}/plan`)).status).toBe(201);
  });
});

describe('e. work and changes at the same moment', () => {
  const made = async (more: object = {}) => {
    const design = await read<DesignView>(send(s, 'POST', '/designs', { name: 'Flag', svg: drawing('signal-flag.svg') }));
    const order = await read<OrderView>(send(s, 'POST', '/orders', orderInput(design.id, more)));
    await send(s, 'POST', `/orders/${order.id}/plan`);
    return { design, order };
  };
  it('a run never begins on an order that is being changed', { timeout: 60_000 }, async () => {
    const { design, order } = await made();
    for (let k = 0; k < 5; k++) {
      const [begun, changed] = await Promise.all([
        send(s, 'POST', `/orders/${order.id}/run`),
        send(s, 'PUT', `/orders/${order.id}`, orderInput(design.id, { designs: [{ designId: design.id, count: 5 - k }] })),
      ]);
      // One of them is too late, whichever.
      expect([begun.status, changed.status].filter((c) => c === 409)).toHaveLength(1);
      const view = (await (await send(s, 'GET', `/orders/${order.id}`)).json()) as OrderView;
      if (begun.ok) return expect(view.plan?.stale).toBe(false);
      await send(s, 'POST', `/orders/${order.id}/plan`);
    }
  });
  it('a design deleted as an order names it is refused in a sentence, or gone before', async () => {
    for (let k = 0; k < 5; k++) {
      const design = await read<DesignView>(send(s, 'POST', '/designs', { name: 'Flag', svg: drawing('signal-flag.svg') }));
      const [deleted, ordered] = await Promise.all([
        send(s, 'DELETE', `/designs/${design.id}`),
        send(s, 'POST', '/orders', orderInput(design.id)),
      ]);
      expect([
        [204, 400],
        [409, 201],
      ]).toContainEqual([deleted.status, ordered.status]);
    }
  });
  it('5. a change that goes on from what is there no more is refused', async () => {
    const { design, order } = await made();
    const change = (name: string) => send(s, 'PUT', `/orders/${order.id}`, { ...orderInput(design.id, { name }), basedOn: order.revision });
    expect((await change('one')).status).toBe(200);
    const second = await change('two');
    expect([second.status, ((await second.json()) as ApiError).code]).toEqual([409, 'changed-elsewhere']);
  });
});

describe('f. what was sent wrongly is answered with its place', () => {
  const refused = async (method: string, path: string, body: unknown, sentence: RegExp) => {
    const answer = await send(s, method, path, body);
    expect([answer.status, ((await answer.json()) as ApiError).message]).toEqual([400, expect.stringMatching(sentence)]);
  };
  const id = '00000000-0000-4000-8000-000000000000';
  it.each<[string, object, RegExp]>([
    ['no air', { air: undefined }, /air should not be null or undefined/],
    ['a list for the air', { air: [{ tempC: 22, humidityPct: 50, airMPerS: 0.1 }] }, /air must be an object/],
    ['a pin without its time', { pins: [{ kind: 'not-before', tray: 'A' }] }, /^wish 1/],
    ['a week for a date', { packBy: '2026-W23-6' }, /packBy must be a moment/],
    ['a day of the year', { packBy: '2026-157' }, /packBy must be a moment/],
    ['30 February', { packBy: '2026-02-30T10:00:00Z' }, /packBy must be a moment/],
    ['a zero character', { notes: 'a\u0000b' }, /"notes" holds a character/],
    ['half a character', { notes: 'a\ud800' }, /"notes" holds a character/],
    ['no tray but nothing', { trays: [null] }, /trays/],
  ])('an order with %s', (_what, more, sentence) => refused('POST', '/orders', orderInput(id, more), sentence));
  it('a body nested ten thousand deep, on every route that takes one', async () => {
    const body = `{"name":${'['.repeat(10_000)}${']'.repeat(10_000)}}`;
    for (const [method, path] of [
      ['POST', '/orders'],
      ['PUT', `/orders/${id}`],
      ['POST', '/designs'],
      ['PUT', '/kitchen'],
      ['POST', `/runs/${id}/events`],
    ] as const) {
      const answer = await fetch(`${s.url}/api${path}`, { method, headers: { 'content-type': 'application/json' }, body });
      expect([path, answer.status, ((await answer.json()) as ApiError).code]).toEqual([path, 400, 'too-deep']);
    }
  });
  it('a moment beyond all calendars', () =>
    refused('POST', `/runs/${run.id}/events`, event(randomUUID(), 1, 'paused', {}, { atMs: 8.64e15 }), /atMs must not be greater/));
  it('what is left out of the kitchen stays as it was, and a list is no kitchen', async () => {
    const { revision: _, ...kitchen } = await read<KitchenView>(send(s, 'GET', '/kitchen'));
    const told = { ...kitchen, carton: { ...kitchen.carton, layers: 3 }, air: { tempC: 19, humidityPct: 61, airMPerS: 0.1 } };
    expect((await send(s, 'PUT', '/kitchen', told)).status).toBe(200);
    const { carton: _carton, air: _air, tips: _tips, prices: _prices, ...rest } = told;
    expect(await read<KitchenView>(send(s, 'PUT', '/kitchen', { ...rest, floodCount: 12 }))).toMatchObject({ ...told, floodCount: 12 });
    await refused('PUT', '/kitchen', { ...told, fan: [told.fan] }, /fan must be an object/);
    await refused('PUT', '/kitchen', { ...told, carton: null }, /carton/);
  });
});

describe('a demo that was cut off while it was put in', () => {
  it('is put in anew as a whole, or left out as a whole', async () => {
    const own = await startApp();
    await send(own, 'POST', '/designs', { name: 'Half', svg: drawing('signal-flag.svg') });
    await own.query(`INSERT INTO setting ("key", "value") VALUES ('demo', 'being put in')`);
    await own.app.get(DemoService).prepare();
    expect(await own.query('SELECT (SELECT count(*)::int FROM design) AS n, (SELECT "value" FROM setting) AS v')).toEqual([
      { n: 0, v: 'left out' },
    ]);
    await own.stop();
  });
});

describe('7. the trash', () => {
  const flag = (to: Started) => read<DesignView>(send(to, 'POST', '/designs', { name: 'Flag', svg: drawing('signal-flag.svg') }));
  const names = async (path: string) => (await read<Page<{ name: string }>>(send(s, 'GET', path))).items.map((x) => x.name);

  it('an order that was deleted can be put back with its plan, its run and its designs', async () => {
    const began = await beginRun(s.url);
    const { designs } = await read<OrderView>(send(s, 'GET', `/orders/${began.orderId}`));
    expect((await send(s, 'DELETE', `/orders/${began.orderId}`)).status).toBe(204);
    expect((await send(s, 'GET', `/orders/${began.orderId}`)).status).toBe(404);
    expect(await names('/orders?state=trash')).toContain('Regatta');
    // Whoever is at its bench goes on, and nothing tapped is lost.
    expect((await send(s, 'POST', `/runs/${began.id}/events`, event(randomUUID(), 1, 'runStarted'))).status).toBe(201);
    const designId = designs[0]?.designId as string;
    expect((await send(s, 'DELETE', `/designs/${designId}`)).status).toBe(204);
    expect((await send(s, 'DELETE', `/designs/${designId}/for-good`)).status).toBe(409);
    const back = await read<OrderView>(send(s, 'POST', `/orders/${began.orderId}/restore`));
    expect(back).toMatchObject({ id: began.orderId, plan: { stale: false }, run: { id: began.id } });
    expect((await send(s, 'GET', `/designs/${designId}`)).status).toBe(200);
    expect((await send(s, 'DELETE', `/designs/${designId}`)).status).toBe(409);
    expect((await send(s, 'POST', `/orders/${began.orderId}/restore`)).status).toBe(404);
  });
  it('a design in the trash is in no list and no new order, and back when it is put back', async () => {
    const design = await flag(s);
    await send(s, 'DELETE', `/designs/${design.id}`);
    const choices = async () => (await read<{ id: string }[]>(send(s, 'GET', '/designs/choices'))).some((d) => d.id === design.id);
    expect(await choices()).toBe(false);
    expect((await send(s, 'POST', '/orders', orderInput(design.id))).status).toBe(400);
    await send(s, 'POST', `/designs/${design.id}/restore`);
    expect(await choices()).toBe(true);
  });
  it('what has lain there for thirty days goes for good, and nothing else; only from the trash can it go', async () => {
    const own = await startApp();
    const clock = own.app.get<SimulatedClock>(Clock);
    const [old, young, used] = [await flag(own), await flag(own), await flag(own)];
    const order = await read<OrderView>(send(own, 'POST', '/orders', orderInput(used.id)));
    expect((await send(own, 'DELETE', `/orders/${order.id}/for-good`)).status).toBe(404);
    expect((await send(own, 'DELETE', `/designs/${old.id}/for-good`)).status).toBe(404);
    await own.query(`UPDATE design SET "deletedAt" = $1 WHERE id = $2`, [new Date(clock.nowMs()), old.id]);
    await own.query(`UPDATE "order" SET "deletedAt" = $1`, [new Date(clock.nowMs())]);
    clock.advance((TRASH_DAYS - 1) * 86_400);
    await own.query(`UPDATE design SET "deletedAt" = $1 WHERE id = $2`, [new Date(clock.nowMs()), young.id]);
    const left = async () =>
      own.query('SELECT (SELECT count(*)::int FROM design) AS designs, (SELECT count(*)::int FROM "order") AS orders');
    await own.app.get(TrashService).empty();
    expect(await left()).toEqual([{ designs: 3, orders: 1 }]);
    clock.advance(2 * 86_400);
    await own.app.get(TrashService).empty();
    expect(await left()).toEqual([{ designs: 2, orders: 0 }]);
    await own.stop();
  });
});
