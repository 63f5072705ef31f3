import { randomUUID } from 'node:crypto';
import { schools } from '@kestfog/core/steps';
import type {
  ApiError,
  DesignView,
  KitchenView,
  OrderSummary,
  OrderView,
  Page,
  RunListItem,
  RunView,
  SchoolView,
} from '@kestfog/core/wire';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Clock, type SimulatedClock } from '../src/platform/clock.js';
import { TRASH_DAYS, TrashService } from '../src/platform/trash.service.js';
import { drawing, orderInput, type Started, startApp, touchInput } from './harness.js';
import { beginRun, event } from './run-harness.js';

let s: Started;
beforeAll(async () => {
  s = await startApp();
});
afterAll(() => s.stop());
interface Answer<T> {
  readonly status: number;
  readonly body: T;
}
async function ask<T>(method: string, path: string, body?: object, to = s): Promise<Answer<T & ApiError>> {
  const answer = await fetch(`${to.url}/api${path}`, {
    method,
    ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
  });
  return { status: answer.status, body: (await answer.json().catch(() => null)) as T & ApiError };
}
const get = async <T>(path: string): Promise<T> => (await ask<T>('GET', path)).body;
const own = { ...(schools[0] as (typeof schools)[number]), label: 'mine' };

describe('what a device makes and names itself', () => {
  const mix = { recipe: 'my icing', grams: 100, addedG: 2, fromS: 20, toS: 15 };
  const rest = { colour: '#f6f3ea', seconds: 15, grams: 40, orderId: null };
  it('is made once, sent again because its answer was lost, and by two tabs at the same moment', async () => {
    const designId = randomUUID();
    const made: readonly (readonly [string, (id: string) => object, string])[] = [
      ['/designs', () => ({ name: 'Flag', svg: drawing('signal-flag.svg') }), 'design'],
      [`/designs/${designId}/copy`, () => ({ name: 'Flag, night' }), 'design'],
      ['/orders', () => orderInput(designId), 'order'],
      ['/schools', () => ({ school: own }), 'school'],
      ['/thinning-steps', () => mix, 'thinning_step'],
      ['/touches', () => touchInput, 'touch'],
      ['/leftovers', () => rest, 'leftover'],
    ];
    for (const [path, body, table] of made) {
      const id = path === '/designs' ? designId : randomUUID();
      const sent = { ...body(id), id };
      const first = await ask<{ id: string }>('POST', path, sent);
      expect([path, first.status, first.body.id]).toEqual([path, 201, id]);
      const again = await Promise.all([1, 2, 3].map(() => ask<{ id: string }>('POST', path, sent)));
      for (const a of again) expect([path, a]).toEqual([path, first]);
      const other = randomUUID();
      const both = await Promise.all([1, 2].map(() => ask<{ id: string }>('POST', path, { ...sent, id: other })));
      expect(both.map((a) => [path, a.status, a.body.id])).toEqual([
        [path, 201, other],
        [path, 201, other],
      ]);
      expect(await s.query(`SELECT count(*)::int AS n FROM "${table}" WHERE "id" = ANY($1)`, [[id, other]])).toEqual([{ n: 2 }]);
    }
    expect((await ask('POST', '/touches', { ...touchInput, id: 'mine' })).status).toBe(400);
  });
});

describe('5. two devices at the same thing', () => {
  it('a change that is sent again because its answer was lost goes against nobody: not against itself', async () => {
    const { body: design } = await ask<DesignView>('POST', '/designs', { name: 'Flag', svg: drawing('signal-flag.svg') });
    const { body: order } = await ask<OrderView>('POST', '/orders', orderInput(design.id));
    const { body: school } = await ask<SchoolView>('POST', '/schools', { school: own });
    const { revision, prices } = await get<KitchenView>('/kitchen');
    const bag = { colour: '#f6f3ea', seconds: 15, mixedG: 40, countedS: null, word: null, revision: 0 };
    const mix = { recipe: 'again', colour: '#aa0000', gelGPer100G: null, parts: [{ gel: 'red', parts: 1 }], note: 'one drop', revision: 0 };
    const changes: readonly (readonly [string, object])[] = [
      [`/orders/${order.id}`, { ...orderInput(design.id), name: 'Renamed', basedOn: order.revision }],
      [`/orders/${order.id}/bags`, bag],
      ['/colour-mixes', mix],
      [`/schools/${school.id}`, { school: { ...own, label: 'renamed' }, basedOn: school.revision }],
      ['/kitchen', { revision, prices: { ...prices, handsPerHour: 31 } }],
    ];
    for (const [path, body] of changes)
      for (const time of ['first', 'again', 'once more'])
        expect([path, time, (await ask('PUT', path, body)).status]).toEqual([path, time, 200]);
    expect((await get<OrderView>(`/orders/${order.id}`)).revision).toBe(order.revision + 1);
    expect((await get<OrderView>(`/orders/${order.id}`)).bags).toMatchObject([{ mixedG: 40, revision: 1 }]);
  });
  it('fields of the kitchen: different ones go together, one that was changed since is not overwritten', async () => {
    const { revision, tips, prices } = await get<KitchenView>('/kitchen');
    expect((await ask('PUT', '/kitchen', { revision, tips: tips.slice(1) })).status).toBe(200);
    expect((await ask('PUT', '/kitchen', { revision, prices: { ...prices, handsPerHour: 30 } })).status).toBe(200);
    expect(await ask('PUT', '/kitchen', { revision, tips })).toMatchObject({
      status: 409,
      body: { code: 'changed-elsewhere', now: { tips: tips.slice(1) } },
    });
    const now = await get<KitchenView>('/kitchen');
    expect(now).toMatchObject({ tips: tips.slice(1), prices: { handsPerHour: 30 }, revision: revision + 2 });
    // Chosen all the same, with what is there in view.
    expect((await ask<KitchenView>('PUT', '/kitchen', { revision: now.revision, tips })).body.tips).toEqual(tips);
  });
  it('names of colours are kept, and refused where they name none', async () => {
    const put = (colourNames: unknown) => ask<KitchenView>('PUT', '/kitchen', { colourNames });
    expect((await put({ '#3f7f86': 'harbour teal' })).body.colourNames).toEqual({ '#3f7f86': 'harbour teal' });
    for (const wrong of [{ teal: 'x' }, { '#3f7f86': '' }, { '#3f7f86': 7 }, ['x'], null, { '#3f7f86': 'x'.repeat(41) }])
      expect([wrong, (await put(wrong)).status]).toEqual([wrong, 400]);
    expect((await put({})).body.colourNames).toEqual({});
  });
  it('a bag and a colour: what was counted or noted since is not overwritten', async () => {
    const { body: design } = await ask<DesignView>('POST', '/designs', { name: 'Flag', svg: drawing('signal-flag.svg') });
    const { body: order } = await ask<OrderView>('POST', '/orders', orderInput(design.id));
    const bag = { colour: '#f6f3ea', seconds: 15, mixedG: 40, countedS: null, word: null };
    const mix = { recipe: 'my icing', colour: '#aa0000', gelGPer100G: null, parts: [], note: 'one drop' };
    for (const [path, body, change] of [
      [`/orders/${order.id}/bags`, bag, { mixedG: 50 }],
      ['/colour-mixes', mix, { note: 'two drops' }],
    ] as const) {
      expect((await ask('PUT', path, { ...body, revision: 0 })).status).toBe(200);
      const refused = await ask('PUT', path, { ...body, ...change, revision: 0 });
      expect(refused).toMatchObject({ status: 409, body: { code: 'changed-elsewhere', now: expect.anything() } });
      expect((await ask('PUT', path, { ...body, ...change, revision: 1 })).status).toBe(200);
      // As an older page does it, which knows no revisions.
      expect((await ask('PUT', path, body)).status).toBe(200);
    }
    expect((await get<OrderView>(`/orders/${order.id}`)).bags).toEqual([{ ...bag, revision: 3 }]);
  });
  it('a school: the second is refused with what is there now', async () => {
    const { body: made } = await ask<SchoolView>('POST', '/schools', { school: own });
    const change = (label: string, basedOn?: number) =>
      ask<SchoolView>('PUT', `/schools/${made.id}`, { school: { ...own, label }, basedOn });
    expect(await change('one', made.revision)).toMatchObject({ status: 200, body: { label: 'one', revision: made.revision + 1 } });
    expect(await change('two', made.revision)).toMatchObject({ status: 409, body: { code: 'changed-elsewhere', now: { label: 'one' } } });
    expect(await change('two')).toMatchObject({ status: 200, body: { label: 'two' } });
  });
});

describe('7. the trash of schools and runs', () => {
  it('a school comes back, and orders that kept it follow it again', async () => {
    const { body: school } = await ask<SchoolView>('POST', '/schools', { school: own });
    const { body: design } = await ask<DesignView>('POST', '/designs', { name: 'Flag', svg: drawing('signal-flag.svg') });
    const { body: order } = await ask<OrderView>('POST', '/orders', orderInput(design.id, { school: school.id }));
    const ids = async (state: string) => (await get<SchoolView[]>(`/schools?state=${state}`)).map((x) => x.id);
    expect((await ask('DELETE', `/schools/${school.id}/for-good`)).status).toBe(404);
    expect((await ask('DELETE', `/schools/${school.id}`)).status).toBe(204);
    expect([await ids('there'), await ids('trash')].map((l) => l.includes(school.id))).toEqual([false, true]);
    expect((await get<OrderView>(`/orders/${order.id}`)).schoolUsed).toMatchObject({ id: school.id, label: 'mine' });
    expect((await ask<SchoolView>('POST', `/schools/${school.id}/restore`)).body).toEqual(school);
    await ask('PUT', `/schools/${school.id}`, { school: { ...own, label: 'ours' } });
    expect((await get<OrderView>(`/orders/${order.id}`)).schoolUsed.label).toBe('ours');
  });
  it('an order whose run lies in the trash can be begun anew; the run comes back only to an order without one', async () => {
    const run = await beginRun(s.url);
    const device = randomUUID();
    const tap = (seq: number) => ask('POST', `/runs/${run.id}/events`, event(device, seq, seq === 1 ? 'runStarted' : 'paused'));
    const going = async () => (await get<RunListItem[]>('/runs?state=going')).map((r) => r.id);
    expect(await going()).not.toContain(run.id);
    await tap(1);
    expect(await going()).toContain(run.id);
    // Left for two days, it calls nobody any more, until something is heard of it again.
    await s.query(`UPDATE "run_event" SET "receivedAt" = "receivedAt" - interval '37 hours' WHERE "runId" = $1`, [run.id]);
    expect(await going()).not.toContain(run.id);
    await s.query(`UPDATE "run_event" SET "receivedAt" = "receivedAt" + interval '37 hours' WHERE "runId" = $1`, [run.id]);
    // Of an order in the trash nobody has to be called.
    await ask('DELETE', `/orders/${run.orderId}`);
    expect(await going()).not.toContain(run.id);
    await ask('POST', `/orders/${run.orderId}/restore`);
    const order = () => get<OrderView>(`/orders/${run.orderId}`);
    expect((await ask('DELETE', `/runs/${run.id}`)).status).toBe(204);
    expect((await order()).run).toBeNull();
    expect(await going()).not.toContain(run.id);
    expect((await get<Page<OrderSummary>>('/orders')).items.find((o) => o.id === run.orderId)?.run).toBeNull();
    expect((await get<RunListItem[]>('/runs?state=trash')).find((r) => r.id === run.id)).toMatchObject({
      orderName: 'Regatta',
      done: 0,
      total: run.plan.tasks.length,
    });
    for (const answer of [await tap(2), await ask('GET', `/runs/${run.id}`)])
      expect(answer).toMatchObject({ status: 404, body: { code: 'run-deleted', message: expect.stringContaining('trash') } });
    const { body: anew } = await ask<RunView>('POST', `/orders/${run.orderId}/run`, {});
    expect(anew.id).not.toBe(run.id);
    expect(await ask('POST', `/runs/${run.id}/restore`)).toMatchObject({ status: 409, body: { code: 'run-begun' } });
    await ask('DELETE', `/runs/${anew.id}`);
    expect((await ask<RunView>('POST', `/runs/${run.id}/restore`)).body).toMatchObject({ id: run.id, events: [{ type: 'runStarted' }] });
    expect((await order()).run?.id).toBe(run.id);
    expect((await tap(2)).status).toBe(201);
    expect((await ask('DELETE', `/runs/${run.id}/for-good`)).status).toBe(404);
    expect((await ask('DELETE', `/runs/${anew.id}/for-good`)).status).toBe(204);
  });
  it('both go for good after thirty days', async () => {
    const other = await startApp();
    const clock = other.app.get<SimulatedClock>(Clock);
    await beginRun(other.url);
    await ask('POST', '/schools', { school: own }, other);
    for (const table of ['run', 'school']) await other.query(`UPDATE "${table}" SET "deletedAt" = $1`, [new Date(clock.nowMs())]);
    const left = () => other.query('SELECT (SELECT count(*)::int FROM "run") AS runs, (SELECT count(*)::int FROM "school") AS schools');
    clock.advance((TRASH_DAYS - 1) * 86_400);
    await other.app.get(TrashService).empty();
    expect(await left()).toEqual([{ runs: 1, schools: 1 }]);
    clock.advance(2 * 86_400);
    await other.app.get(TrashService).empty();
    expect(await left()).toEqual([{ runs: 0, schools: 0 }]);
    await other.stop();
  });
});

describe('a disk that is full, a connection that is cut', () => {
  /** What PostgreSQL does as a row is put into `table`, said by a trigger of its own. */
  const breaking = async (table: string, act: string, work: () => Promise<void>) => {
    await s.query(`CREATE FUNCTION break_it() RETURNS trigger AS $$ BEGIN ${act} RETURN NEW; END $$ LANGUAGE plpgsql`);
    await s.query(`CREATE TRIGGER breaks BEFORE INSERT ON "${table}" FOR EACH ROW EXECUTE FUNCTION break_it()`);
    try {
      await work();
    } finally {
      await s.query(`DROP TRIGGER breaks ON "${table}"`);
      await s.query('DROP FUNCTION break_it()');
    }
  };
  it.each([
    ['full', `RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = '53100';`],
    ['cut', 'PERFORM pg_terminate_backend(pg_backend_pid());'],
  ])('%s: 503 with what is known, nothing half kept, and sent again it is kept once', async (_what, act) => {
    const run = await beginRun(s.url);
    const id = randomUUID();
    const order = { ...orderInput((await get<OrderView>(`/orders/${run.orderId}`)).designs[0]?.designId ?? ''), id };
    const tap = event(randomUUID(), 1, 'runStarted');
    const sendBoth = async () => [await ask('POST', '/orders', order), await ask('POST', `/runs/${run.id}/events`, tap)] as const;
    await breaking('order_design', act, async () => {
      expect(await ask('POST', '/orders', order)).toMatchObject({ status: 503, body: { code: 'database' } });
    });
    await breaking('run_event', act, async () => {
      expect(await ask('POST', `/runs/${run.id}/events`, tap)).toMatchObject({ status: 503, body: { code: 'database' } });
    });
    expect(await s.query('SELECT 1 FROM "order" WHERE "id" = $1', [id])).toEqual([]);
    expect((await get<RunView>(`/runs/${run.id}`)).events).toEqual([]);
    for (const _ of [1, 2]) expect((await sendBoth()).map((a) => a.status)).toEqual([201, 201]);
    expect((await get<RunView>(`/runs/${run.id}`)).events).toHaveLength(1);
  });
});
