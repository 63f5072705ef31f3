import { randomUUID } from 'node:crypto';
import { parseOrder } from '@kestfog/core/formats';
import type { Why } from '@kestfog/core/steps';
import type {
  ApiError,
  BenchTouchView,
  DesignSummary,
  HostChoice,
  Kitchen,
  KitchenView,
  OrderFileView,
  OrderView,
  PlanView,
} from '@kestfog/core/wire';
import { consequenceOf, reasonOf } from '@kestfog/core/wording';
import request from 'supertest';
import { DataSource, type MigrationInterface } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dataSourceOptions } from '../src/data-source.js';
import { WholeBench1795574400000 } from '../src/migrations/1795574400000-whole-bench.js';
import { FullNames1795914000000 } from '../src/migrations/1795914000000-full-names.js';
import { migrations } from '../src/migrations/index.js';
import { drawing, orderInput, type Started, startApp } from './harness.js';
import { beginRun, event } from './run-harness.js';

let s: Started;
let mackerel: DesignSummary;
let flag: DesignSummary;
const post = (path: string, body: object = {}) => request(s.url).post(`/api${path}`).send(body);
const put = (path: string, body: object) => request(s.url).put(`/api${path}`).send(body);
const get = async <T>(path: string) => (await request(s.url).get(`/api${path}`).expect(200)).body as T;
const order = async (more: object = {}) => (await post('/orders', orderInput(mackerel.id, more)).expect(201)).body as OrderView;

beforeAll(async () => {
  s = await startApp();
  const add = async (name: string, file: string) =>
    (await post('/designs', { name, svg: drawing(file) }).expect(201)).body as DesignSummary;
  mackerel = await add('Mackerel', 'mackerel.svg');
  flag = await add('Flag', 'signal-flag.svg');
});
afterAll(() => s.stop());

/** A whole set-up: sized trays, dehydrator, two paces, bags, pins, spares, notes. */
const bench = () => ({
  designs: [{ designId: mackerel.id, count: 6, spares: 1 }],
  trays: [
    { id: 'A', widthMm: 420, depthMm: 300 },
    { id: 'B', places: 8 },
  ],
  handGapMm: 12,
  dehydrator: { places: 2, tempC: 35, airMPerS: 1 },
  decorators: [
    { id: 'Ada', pace: 1 },
    { id: 'Bo', pace: 0.8 },
  ],
  openBags: 6,
  pins: [
    { kind: 'away', from: '2026-06-05T18:00:00Z', to: '2026-06-05T18:30:00Z', label: 'supper', who: null },
    { kind: 'not-before', tray: 'A', at: '2026-06-05T15:00:00Z' },
    { kind: 'tray-first', tray: 'A' },
  ],
  notes: 'Ring when it is packed.',
});

describe('an order with the whole bench', () => {
  it('comes back as it was sent, and is planned so', async () => {
    const made = await order(bench());
    expect(made).toMatchObject(bench());
    expect(await get<OrderView>(`/orders/${made.id}`)).toEqual(made);
    const { plan } = (await post(`/orders/${made.id}/plan`).expect(201)).body as PlanView;
    expect(plan.trays.flatMap((t) => t.lots).reduce((n, l) => n + l.cookies, 0)).toBe(7);
    const supper = [4 * 3600, 4.5 * 3600] as const;
    for (const t of plan.tasks) expect(t.endS <= supper[0] || t.startS >= supper[1]).toBe(true);
    expect(Math.min(...plan.tasks.map((t) => t.startS))).toBeGreaterThanOrEqual(3600);
    expect((await get<OrderView>(`/orders/${made.id}`)).plan?.stale).toBe(false);
    await put(`/orders/${made.id}`, orderInput(mackerel.id, { ...bench(), notes: 'Other notes.' })).expect(200);
    // Notes do not move a cookie; another spare does.
    expect((await get<OrderView>(`/orders/${made.id}`)).plan?.stale).toBe(false);
    await put(
      `/orders/${made.id}`,
      orderInput(mackerel.id, { ...bench(), designs: [{ designId: mackerel.id, count: 6, spares: 2 }] }),
    ).expect(200);
    expect((await get<OrderView>(`/orders/${made.id}`)).plan?.stale).toBe(true);
  });
  it('is given as a file that reads back as itself', async () => {
    const made = await order(bench());
    const file = await get<OrderFileView>(`/orders/${made.id}/file`);
    expect(parseOrder(JSON.parse(JSON.stringify(file.order)))).toEqual(file.order);
    expect(file.order.pins).toHaveLength(3);
    expect(file.drawings.map((d) => d.name)).toEqual(['Mackerel']);
  });
  it.each([
    [
      'a tray described twice over',
      { trays: [{ id: 'A', places: 6, widthMm: 300, depthMm: 300 }] },
      /^tray 1: must be given either by places or/,
    ],
    ['a tray not described at all', { trays: [{ id: 'A' }] }, /^tray A, its width in mm: /],
    ['four pairs of hands', { decorators: ['a', 'b', 'c', 'd'].map((id) => ({ id, pace: 1 })) }, /decorators/],
    ['a pin on a tray that is not there', { pins: [{ kind: 'tray-first', tray: 'Q' }] }, /^wish 1, its tray: names no tray/],
    [
      'a break that ends before it begins',
      { pins: [{ kind: 'away', from: '2026-06-05T18:00:00Z', to: '2026-06-05T17:00:00Z' }] },
      /^wish 1: must end after/,
    ],
    ['nobody’s break', { pins: [{ kind: 'away', from: '2026-06-05T17:00:00Z', to: '2026-06-05T18:00:00Z', who: 'Cy' }] }, /names nobody/],
    ['a pin of an unknown kind', { pins: [{ kind: 'later' }] }, /^wish 1, its kind: /],
  ])('%s is refused by its place', async (_what, more, sentence) => {
    const answer = await post('/orders', orderInput(mackerel.id, more));
    expect(answer.status).toBe(400);
    expect((answer.body as ApiError).message).toMatch(sentence);
  });
});

describe('several orders on one bench', () => {
  it('a guest is planned with its host, by its own time, and goes when it is let go', async () => {
    const host = await order({
      name: 'Regatta',
      trays: [
        { id: 'A', places: 8 },
        { id: 'B', places: 8 },
      ],
    });
    const guest = await order({
      name: 'Christening',
      hostId: host.id,
      designs: [{ designId: flag.id, count: 3 }],
      packBy: '2026-06-06T12:00:00Z',
    });
    expect(guest).toMatchObject({ hostId: host.id, hostName: 'Regatta' });
    const seen = await get<OrderView>(`/orders/${host.id}`);
    expect(seen.designs.map((d) => [d.name, d.guestOf?.name ?? null])).toEqual([
      ['Mackerel', null],
      ['Flag', 'Christening'],
    ]);
    const { plan } = (await post(`/orders/${host.id}/plan`).expect(201)).body as PlanView;
    expect(plan.designs.map((d) => d.for)).toEqual([null, 'Christening']);
    const lots = plan.trays.flatMap((t) => t.lots);
    const packed = (designId: string) =>
      Math.max(
        ...plan.tasks.filter((t) => t.kind === 'pack' && lots.find((l) => l.id === t.lotId)?.designId === designId).map((t) => t.endS),
      );
    expect(packed('flag')).toBeLessThanOrEqual(22 * 3600);
    expect((await post(`/orders/${guest.id}/plan`)).body).toMatchObject({ code: 'guest' });
    // A host that has guests stays one; a guest may choose another bench, and a new order any that is not begun.
    const hosts = async (of?: string) => (await get<HostChoice[]>(`/orders/hosts${of ? `?for=${of}` : ''}`)).map((h) => h.id);
    expect(await hosts(host.id)).toEqual([]);
    expect(await hosts(guest.id)).toContain(host.id);
    expect(await hosts()).toContain(host.id);
    expect(await hosts()).not.toContain(guest.id);
    await put(`/orders/${guest.id}`, orderInput(flag.id, { hostId: null })).expect(200);
    expect((await get<OrderView>(`/orders/${host.id}`)).plan?.stale).toBe(true);
  });
  it('nobody is a guest of a guest, of oneself, or of nothing; a host that goes leaves its guests an order of their own', async () => {
    const host = await order();
    const guest = await order({ hostId: host.id });
    const refused = async (id: string, hostId: string) =>
      (await put(`/orders/${id}`, orderInput(mackerel.id, { hostId }))).body as ApiError;
    expect((await refused(host.id, host.id)).message).toMatch(/own bench/);
    expect((await refused(host.id, guest.id)).message).toMatch(/itself worked on another bench/);
    const third = await order();
    expect((await refused(host.id, third.id)).message).toMatch(/let them go first/);
    expect((await refused(third.id, '00000000-0000-4000-8000-000000000000')).message).toMatch(/does not exist/);
    await request(s.url).delete(`/api/orders/${host.id}`).expect(204);
    expect((await get<OrderView>(`/orders/${guest.id}`)).hostId).toBeNull();
  });
});

describe('plans made before the bench was whole', () => {
  it('are read on, marked stale, and what they said of time stays what it was', async () => {
    const other = await startApp();
    const at = (path: string) => request(other.url).get(`/api${path}`);
    const send = (path: string, body: object = {}) => request(other.url).post(`/api${path}`).send(body);
    const design = (await send('/designs', { name: 'Mackerel', svg: drawing('mackerel.svg') })).body as DesignSummary;
    const made = (
      await send(
        '/orders',
        orderInput(design.id, { fan: { places: 1, airMPerS: 1 }, pins: [{ kind: 'not-before', tray: 'A', at: '2026-06-05T14:00:00Z' }] }),
      )
    ).body as OrderView;
    const { plan } = (await send(`/orders/${made.id}/plan`)).body as PlanView;
    const first = (await at('/kitchen')).body as Kitchen;
    await request(other.url)
      .put('/api/kitchen')
      .send({ ...first, prices: { ...first.prices, cartonEach: 1.1 } })
      .expect(200);
    const db = await new DataSource(dataSourceOptions(other.databaseUrl)).initialize();
    // One migration gave things their full names, the one before it turned what runs taught from words into facts.
    const run = await beginRun(other.url);
    const said = [
      event(randomUUID(), 1, 'carried', { trayId: 'A', where: 'dehydrator', minutes: 20 }),
      event(randomUUID(), 1, 'dehydratorOff'),
    ];
    for (const e of said) await send(`/runs/${run.id}/events`, e).expect(201);
    const log = async () => (await db.query(`SELECT "type", "data"->>'where' AS "where" FROM "run_event" ORDER BY "seq"`)) as object[];
    const kept = await log();
    const names = async () => (await db.query('SELECT "kitchen" FROM "kitchen"')) as { kitchen: object }[];
    const kitchen = (await at('/kitchen')).body as Kitchen;
    // A migration, and all that came after it.
    const undo = async (first: new () => MigrationInterface) => {
      for (const _ of migrations.slice(migrations.indexOf(first))) await db.undoLastMigration({ transaction: 'each' });
    };
    await undo(FullNames1795914000000);
    expect(await names()).toMatchObject([{ kitchen: { box: kitchen.dehydrator, packBox: kitchen.carton, prices: { boxEach: 1.1 } } }]);
    expect(await db.query('SELECT "box", jsonb_array_length("bench") FROM "order"')).toHaveLength(2);
    expect(await log()).toEqual([
      { type: 'carried', where: 'box' },
      { type: 'boxOff', where: null },
    ]);
    await db.undoLastMigration({ transaction: 'each' });
    const touch = {
      body: 'a 0 flood.back crusted',
      atMs: 0,
      state: 'crusted',
      notYetShare: 0.8,
      reachedShare: null,
      silent: false,
      reason: 'back crusts first',
    };
    await db.query('INSERT INTO "learned_run" ("runId", "orderName", "startedAt", "touches") VALUES ($1, $2, now(), $3)', [
      made.id,
      'gone',
      JSON.stringify([touch]),
    ]);
    await db.runMigrations({ transaction: 'each' });
    expect(await log()).toEqual(kept);
    expect((await at('/kitchen').expect(200)).body).toEqual(kitchen);
    expect(((await at(`/orders/${made.id}`)).body as OrderView).pins).toEqual(made.pins);
    const [learned] = (await at('/bench-touches').expect(200)).body as BenchTouchView[];
    expect(learned).toMatchObject({ notYetShare: 0.8, about: { kind: 'in-words', reason: touch.reason } });
    await undo(WholeBench1795574400000);
    const { order: _order, arrangement: _arrangement, dehydratorAir: _dehydratorAir, openingHours, ...rest } = plan;
    const inWords = ({ facts, ...x }: Why) => ({ ...x, reason: reasonOf({ facts }), consequence: consequenceOf({ rule: x.rule, facts }) });
    const asWritten = ({ facts, ...x }: Why) => ({
      ...x,
      facts: { kind: 'in-words', reason: reasonOf({ facts }), consequence: consequenceOf({ rule: x.rule, facts }) },
    });
    const earlier = (change: (w: Why) => object) => ({
      tasks: plan.tasks.map((t) => (t.because.kind === 'drying' ? { ...t, because: change(t.because) } : t)),
      designs: plan.designs.map((d) => ({ ...d, graph: { ...d.graph, gaps: d.graph.gaps.map(change) } })),
      waits: plan.waits.map(change),
    });
    const before = earlier(inWords);
    const old = {
      ...rest,
      ...before,
      bench: openingHours,
      format: 'kestfog-plan/2',
      modelVersion: 'kestfog-model/1',
      tasks: before.tasks.map(({ by: _, batch: _b, ...t }) => t),
      stays: plan.stays.map(({ where: _w, forS: _f, batch: _c, why: _y, ...x }) => x),
      designs: before.designs.map(({ spares: _s, packBy: _p, for: _o, pieces: _x, ...d }) => d),
    };
    await db.query('UPDATE "plan" SET "plan" = $1, "inputHash" = $2', [JSON.stringify(old), 'of another model']);
    await db.runMigrations({ transaction: 'each' });
    await db.destroy();
    const read = ((await at(`/orders/${made.id}/plan`).expect(200)).body as PlanView).plan;
    expect(read.tasks).toEqual(earlier(asWritten).tasks.map((t) => ({ ...t, by: 'me', batch: 1 })));
    expect(read.stays).toEqual(plan.stays);
    expect(read.designs).toEqual(earlier(asWritten).designs);
    expect(read.waits).toEqual(earlier(asWritten).waits);
    const { school: _school, name: _name, pins: _pins, ...order } = plan.order;
    expect(read.order).toMatchObject(order);
    expect(((await at(`/orders/${made.id}`)).body as OrderView).plan?.stale).toBe(true);
    await other.stop();
  });
});

describe('prices and cartons of the kitchen', () => {
  it('are nothing until they are entered, kept, and refused out of range', async () => {
    const kitchen = await get<KitchenView>('/kitchen');
    expect(kitchen.prices).toEqual({ currency: '€', handsPerHour: 0, icingPerKg: 0, cookieEach: 0, cartonEach: 0 });
    const told = { ...kitchen, prices: { currency: '$', handsPerHour: 28, icingPerKg: 5, cookieEach: 0.4, cartonEach: 1.1 } };
    expect((await put('/kitchen', told).expect(200)).body).toEqual({ ...told, revision: kitchen.revision + 1 });
    expect((await put('/kitchen', { ...told, prices: { ...told.prices, handsPerHour: -1 } })).status).toBe(400);
    expect((await put('/kitchen', { ...told, carton: { ...told.carton, layers: 0 } })).status).toBe(400);
    expect(await get<KitchenView>('/kitchen')).toEqual({ ...told, revision: kitchen.revision + 1 });
  });
});
