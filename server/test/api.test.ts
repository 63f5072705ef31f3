import type {
  ApiError,
  ClimateReading,
  DesignSummary,
  Kitchen,
  KitchenView,
  OrderFileView,
  OrderView,
  PlanView,
  TouchView,
} from '@kestfog/core/wire';
import request from 'supertest';
import { DataSource } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dataSourceOptions } from '../src/data-source.js';
import { TrashService } from '../src/platform/trash.service.js';
import { drawing, orderInput, type Started, startApp } from './harness.js';

let s: Started;
let design: DesignSummary;
const post = (path: string, body: object | string) => request(s.url).post(`/api${path}`).send(body);
const count = async (table: string) => Number((await s.query(`SELECT count(*) AS n FROM "${table}"`))[0]?.['n']);

beforeAll(async () => {
  s = await startApp();
  design = (await post('/designs', { name: 'Mackerel', svg: drawing('mackerel.svg') }).expect(201)).body as DesignSummary;
});
afterAll(() => s.stop());

describe('what is refused gets one clear sentence, and nothing is stored', () => {
  const svg = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" viewBox="0 0 80 80">${inner}</svg>`;
  const rect = '<rect width="40" height="40" fill="#fff"/>';
  const refused = async (path: string, body: object | string, status: number, text: RegExp, table: string) => {
    const before = await count(table);
    const answer = await post(path, body);
    expect(answer.status).toBe(status);
    expect((answer.body as ApiError).message).toMatch(text);
    expect((answer.body as ApiError).message).toMatch(/^[^\n]+\.$/);
    expect(await count(table)).toBe(before);
  };
  it.each([
    ['a script', svg(`<script>alert(1)</script>${rect}`), /script/],
    ['an event handler', svg('<rect width="40" height="40" onload="x()"/>'), /onload/],
    ['an external reference', svg(`<image href="https://example.invalid/x.png"/>${rect}`), /outside itself/],
    ['an XML bomb', `<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;">]>${svg(`<title>&b;</title>${rect}`)}`, /entities/],
    ['no drawing', 'hello', /well-formed/],
    ['nothing to flood', svg(''), /no area to flood/],
  ])('a drawing with %s', (_what, text, sentence) => refused('/designs', { name: 'x', svg: text }, 400, sentence, 'design'));
  it('a file of 20 MB', () =>
    refused('/designs', { name: 'x', svg: svg(`<desc>${'x'.repeat(20_000_000)}</desc>`) }, 413, /larger than 2.5 MB/, 'design'));
  it('broken JSON', async () => {
    const answer = await request(s.url).post('/api/designs').set('content-type', 'application/json').send('{"name": ');
    expect([answer.status, (answer.body as ApiError).code]).toEqual([400, 'not-json']);
  });
  it.each([
    ['an unknown field', { colour: 'red' }, /"colour" is not known here/],
    ['an unknown nested field', { air: { tempC: 22, humidityPct: 50, airMPerS: 0.1, tempF: 72 } }, /"air.tempF" is not known here/],
    ['a temperature in the wrong unit', { air: { tempC: 72, humidityPct: 50, airMPerS: 0.1 } }, /air.tempC must not be greater than 45/],
    ['humidity of 140 %', { air: { tempC: 22, humidityPct: 140, airMPerS: 0.1 } }, /air.humidityPct must not be greater than 100/],
    [
      'a negative count',
      { designs: [{ designId: '00000000-0000-4000-8000-000000000000', count: -3 }] },
      /^design 1, its count: must not be less than 1\.$/,
    ],
    ['letters for a number', { trays: [{ id: 'A', places: 'eight' }] }, /^tray 1, what it holds: must/],
    ['an unknown design', { designs: [{ designId: '00000000-0000-4000-8000-000000000000', count: 3 }] }, /does not exist/],
    [
      'a bench that closes before it opens',
      { openingHours: [{ from: '2026-06-05T22:00:00Z', to: '2026-06-05T14:00:00Z' }] },
      /^opening 1: must end after it begins/,
    ],
    ['an unknown school', { school: 'academy' }, /school "academy" does not exist/],
    ['no name', { name: '' }, /name must be longer/],
  ])('an order with %s', (_what, more, sentence) => refused('/orders', orderInput(design.id, more), 400, sentence, 'order'));
  it('addresses that lead nowhere', async () => {
    expect((await request(s.url).get('/api/nothing')).body).toMatchObject({ code: 'not-found' });
    expect((await request(s.url).get('/api/orders/00000000-0000-4000-8000-000000000000')).status).toBe(404);
    expect((await request(s.url).get('/api/orders/not-an-id')).status).toBe(400);
  });
});

describe('an order from drawing to plan', () => {
  it('is kept, planned, marked stale when it changes, planned anew, and deleted with its plan', async () => {
    const made = (await post('/orders', orderInput(design.id)).expect(201)).body as OrderView;
    expect(made).toMatchObject({ name: 'Regatta', plan: null, run: null });
    const plan = (await post(`/orders/${made.id}/plan`, {}).expect(201)).body as PlanView;
    expect(plan.plan.tasks.length).toBeGreaterThan(5);
    const get = async () => (await request(s.url).get(`/api/orders/${made.id}`)).body as OrderView;
    expect((await get()).plan).toMatchObject({ id: plan.id, stale: false });
    await request(s.url)
      .put(`/api/orders/${made.id}`)
      .send(orderInput(design.id, { designs: [{ designId: design.id, count: 4 }] }))
      .expect(200);
    expect((await get()).plan?.stale).toBe(true);
    expect((await get()).designs).toMatchObject([{ designId: design.id, count: 4, version: 1, latest: 1 }]);
    expect((await post(`/orders/${made.id}/run`, {})).body).toMatchObject({ code: 'stale-plan' });
    const again = (await post(`/orders/${made.id}/plan`, {}).expect(201)).body as PlanView;
    expect(again.inputHash).not.toBe(plan.inputHash);
    await request(s.url).delete(`/api/orders/${made.id}`).expect(204);
    await request(s.url).delete(`/api/orders/${made.id}/for-good`).expect(204);
    expect(await s.query('SELECT 1 FROM plan WHERE "orderId" = $1', [made.id])).toEqual([]);
  });
  it('a counted bag is kept, makes the plan stale, and is refused where it makes no sense', async () => {
    const made = (await post('/orders', orderInput(design.id)).expect(201)).body as OrderView;
    await post(`/orders/${made.id}/plan`, {}).expect(201);
    const bag = { colour: '#3f7f86', seconds: 15, mixedG: 80, countedS: null, word: null };
    const put = (body: object) => request(s.url).put(`/api/orders/${made.id}/bags`).send(body);
    expect(((await put(bag).expect(200)).body as OrderView).plan?.stale).toBe(false);
    const counted = (await put({ ...bag, countedS: 11.5, word: 'my flood' }).expect(200)).body as OrderView;
    expect(counted.bags).toEqual([{ ...bag, countedS: 11.5, word: 'my flood', revision: 2 }]);
    expect(counted.plan?.stale).toBe(true);
    for (const wrong of [{ countedS: 0 }, { mixedG: -3 }, { colour: 'red' }, { seconds: 'fifteen' }, { word: '' }, { taste: 'sweet' }])
      expect((await put({ ...bag, ...wrong })).status).toBe(400);
    expect(((await request(s.url).get(`/api/orders/${made.id}`)).body as OrderView).bags).toHaveLength(1);
  });
  it('what cannot be done is answered with its reason', async () => {
    const made = (await post('/orders', orderInput(design.id, { designs: [{ designId: design.id, count: 60 }] })).expect(201))
      .body as OrderView;
    expect((await request(s.url).get(`/api/orders/${made.id}/plan`)).body).toMatchObject({ code: 'no-plan' });
    const answer = await post(`/orders/${made.id}/plan`, {});
    expect([answer.status, answer.body]).toMatchObject([422, { code: 'trays-full' }]);
  });
});

describe('the house', () => {
  it('migrations make exactly what the entities say', async () => {
    const db = await new DataSource(dataSourceOptions(s.databaseUrl)).initialize();
    expect((await db.driver.createSchemaBuilder().log()).upQueries.map((q) => q.query)).toEqual([]);
    await db.destroy();
  });
  it('answers only to its own address, and changes only from its own page', async () => {
    expect((await request(s.url).get('/api/health').set('host', 'evil.example')).status).toBe(403);
    expect((await post('/designs', { name: 'x', svg: drawing('mackerel.svg') }).set('origin', 'http://evil.example')).status).toBe(403);
    expect((await post('/designs', { name: 'x', svg: drawing('mackerel.svg') }).set('origin', 'null')).status).toBe(403);
    // What a browser says of itself where it sends no origin: a picture of another page, a form, another port of this machine.
    const from = (site: string, path: string) => request(s.url).get(path).set('sec-fetch-site', site);
    expect((await from('cross-site', '/api/orders')).status).toBe(403);
    expect((await from('same-site', '/api/orders')).status).toBe(403);
    expect((await post('/lessons', {}).set('sec-fetch-site', 'cross-site')).status).toBe(403);
    for (const own of ['same-origin', 'none']) expect((await from(own, '/api/orders')).status).toBe(200);
    expect((await from('cross-site', '/orders')).status).not.toBe(403);
  });
  it('sends a strict content security policy', async () => {
    const policy = (await request(s.url).get('/api/health')).headers['content-security-policy'];
    expect(policy).toContain("script-src 'self'");
    expect(policy).not.toContain('unsafe');
  });
  it('has no clock to move on a normal start', async () => {
    const wall = await startApp({ simulatedClock: false });
    expect((await request(wall.url).get('/api/clock')).status).toBe(404);
    expect((await request(wall.url).post('/api/clock').send({ advance: 5 })).status).toBe(404);
    await wall.stop();
    const before = (await request(s.url).get('/api/clock')).body as { nowMs: number };
    expect((await post('/clock', { advance: 3600 })).body).toEqual({ nowMs: before.nowMs + 3_600_000, speed: 0 });
    expect((await post('/clock', { advance: -5 })).status).toBe(400);
  });
});

describe('the kitchen, its air, and what it teaches', () => {
  const get = async (path: string) => (await request(s.url).get(`/api${path}`)).body as unknown;
  const put = (path: string, body: object) => request(s.url).put(`/api${path}`).send(body);
  it('keeps how the decorator counts, and refuses what makes no sense', async () => {
    const { revision: _, ...kitchen } = (await get('/kitchen')) as KitchenView;
    expect(kitchen).toMatchObject({ countsBy: 'line', floodCount: 15 });
    expect((await put('/kitchen', { ...kitchen, floodCount: 10 })).body).toMatchObject({ floodCount: 10 });
    for (const wrong of [
      { floodCount: 0 },
      { countsBy: 'guess' },
      { fan: { distanceM: -1, setting: 'low', measuredMPerS: null } },
      { dehydrator: { tempC: 300, airMPerS: 1 } },
    ])
      expect((await put('/kitchen', { ...kitchen, ...wrong })).status).toBe(400);
    expect(((await get('/kitchen')) as Kitchen).floodCount).toBe(10);
    await put('/kitchen', kitchen).expect(200);
  });
  it('the climate sensor plays its weather on the injected clock', async () => {
    const play = async (scenario: string, laterS: number) => {
      await post('/climate', { scenario }).expect(200);
      await post('/clock', { advance: laterS }).expect(200);
      return (await get('/climate')) as ClimateReading;
    };
    expect(await play('steady', 0)).toMatchObject({ tempC: 22, humidityPct: 50, simulated: { scenario: 'steady' } });
    const rain = await play('rainy-evening', 7200);
    expect(rain.humidityPct).toBeGreaterThan(70);
    const oven = await play('oven-on', 1800);
    expect(oven.tempC).toBeGreaterThan(26.5);
    // Warmer air, the same vapour: relative humidity falls.
    expect(oven.humidityPct).toBeLessThan(40);
    expect((await post('/climate', { scenario: 'blizzard' })).status).toBe(400);
  });
  it('touches sharpen what plans wait, and can be taken back', async () => {
    const made = (await post('/orders', orderInput(design.id)).expect(201)).body as OrderView;
    await post(`/orders/${made.id}/plan`, {}).expect(201);
    const touch = {
      state: 'crusted',
      seconds: 15,
      depthMm: 2.5,
      on: 'cookie',
      tempC: 22,
      humidityPct: 50,
      airMPerS: 0.1,
      notYetMin: null,
      reachedMin: 12,
    };
    const kept = (await post('/touches', touch).expect(201)).body as TouchView;
    const order = async () => (await get(`/orders/${made.id}`)) as OrderView;
    expect((await order()).plan?.stale).toBe(true);
    const plan = (await post(`/orders/${made.id}/plan`, {}).expect(201)).body as PlanView;
    expect(plan.plan.factors.crusted.mean).toBeLessThan(-0.1);
    expect(plan.plan.factors.crusted.sigma).toBeLessThan(0.35);
    expect((await post('/touches', { ...touch, reachedMin: null })).body).toMatchObject({ code: 'nothing-found' });
    expect((await post('/touches', { ...touch, notYetMin: 20 })).body).toMatchObject({ code: 'touch-order' });
    await request(s.url).delete(`/api/touches/${kept.id}`).expect(204);
    await request(s.url).delete(`/api/touches/${kept.id}`).expect(404);
    expect((await order()).plan?.stale).toBe(true);
    await request(s.url).delete(`/api/orders/${made.id}`).expect(204);
  });
  it('thinning steps, colour mixes and leftovers are kept, each with its bounds', async () => {
    const step = { recipe: 'mine', grams: 200, addedG: 4.6, fromS: 40, toS: 15 };
    const kept = (await post('/thinning-steps', step).expect(201)).body as { id: string };
    expect((await post('/thinning-steps', { ...step, toS: 50 })).body).toMatchObject({ code: 'not-thinner' });
    expect((await post('/thinning-steps', { ...step, grams: -3 })).status).toBe(400);
    expect(await get('/thinning-steps')).toMatchObject([step]);
    await request(s.url).delete(`/api/thinning-steps/${kept.id}`).expect(204);
    const mix = { recipe: 'mine', colour: '#3f7f86', gelGPer100G: 1.2, parts: [{ gel: 'teal', parts: 3 }], note: 'deepens overnight' };
    await put('/colour-mixes', mix).expect(200);
    await put('/colour-mixes', { ...mix, note: 'a drop of black' }).expect(200);
    expect(await get('/colour-mixes')).toEqual([{ ...mix, note: 'a drop of black', revision: 2 }]);
    // Another recipe takes the same colour otherwise.
    await put('/colour-mixes', { ...mix, recipe: 'meringue', gelGPer100G: null }).expect(200);
    expect(await get('/colour-mixes')).toHaveLength(2);
    expect((await put('/colour-mixes', { ...mix, parts: [{ gel: 'teal', parts: 0 }] })).status).toBe(400);
    const left = (await post('/leftovers', { colour: '#3f7f86', seconds: 15, grams: 40, orderId: null }).expect(201)).body as {
      id: string;
    };
    expect((await post('/leftovers', { colour: 'teal', seconds: 15, grams: 40, orderId: null })).status).toBe(400);
    // Frozen, thawed and kneaded: how it is kept is known, and when it was stirred last.
    expect((await put(`/leftovers/${left.id}/kept`, { frozen: true, kneaded: false }).expect(200)).body).toMatchObject({
      frozen: true,
      kneadedAt: null,
    });
    expect((await put(`/leftovers/${left.id}/kept`, { frozen: false, kneaded: true }).expect(200)).body).toMatchObject({
      frozen: false,
      kneadedAt: expect.stringMatching(/^2/),
    });
    expect((await put(`/leftovers/${left.id}/kept`, { frozen: 'a bit', kneaded: true })).status).toBe(400);
    const use = { orderId: '6b1f0c8e-6a55-4d0e-9c2c-0f6f3d1f7a11', colour: '#3f7f86', seconds: 15, grams: 25 };
    expect((await put(`/leftovers/${left.id}/uses`, use).expect(200)).body).toMatchObject({ uses: [use] });
    // The same bag again changes its share; another bag only gets what is left; taken back, it is there again.
    expect((await put(`/leftovers/${left.id}/uses`, { ...use, grams: 30 }).expect(200)).body).toMatchObject({
      uses: [{ ...use, grams: 30 }],
    });
    expect((await put(`/leftovers/${left.id}/uses`, { ...use, seconds: 20 }).expect(409)).body).toMatchObject({ code: 'leftover-short' });
    expect((await put(`/leftovers/${left.id}/uses`, { ...use, grams: 0 }).expect(200)).body).toMatchObject({ uses: [] });
    await request(s.url).delete(`/api/leftovers/${left.id}`).expect(204);
  });
  it('icing left over, touches and weighed steps that were taken away are put back as they were, and go for good after 30 days', async () => {
    const touch = { state: 'crusted', seconds: 15, depthMm: 2.5, on: 'cookie', tempC: 22, humidityPct: 50, airMPerS: 0.1, notYetMin: null };
    const lists: readonly [string, string, object][] = [
      ['/leftovers', 'leftover', { colour: '#3f7f86', seconds: 15, grams: 40, orderId: null }],
      ['/touches', 'touch', { ...touch, reachedMin: 12 }],
      ['/thinning-steps', 'thinning_step', { recipe: 'put back', grams: 200, addedG: 4.6, fromS: 40, toS: 15 }],
    ];
    for (const [path, table, body] of lists) {
      const { id } = (await post(path, body).expect(201)).body as { id: string };
      const before = await get(path);
      await request(s.url).delete(`/api${path}/${id}`).expect(204);
      expect(JSON.stringify(await get(path))).not.toContain(id);
      // Sent twice, the removal or the making changes nothing more.
      await request(s.url).delete(`/api${path}/${id}`).expect(404);
      await post(path, { ...body, id }).expect(201);
      expect(JSON.stringify(await get(path))).not.toContain(id);
      await post(`${path}/${id}/restore`, {}).expect(204);
      expect(await get(path)).toEqual(before);
      await post(`${path}/00000000-0000-4000-8000-000000000000/restore`, {}).expect(404);
      await request(s.url).delete(`/api${path}/${id}`).expect(204);
      await s.query(`UPDATE "${table}" SET "deletedAt" = '2026-05-04T00:00Z' WHERE "id" = $1`, [id]);
      await s.app.get(TrashService).empty();
      await post(`${path}/${id}/restore`, {}).expect(404);
    }
    expect((await put('/leftovers/00000000-0000-4000-8000-000000000000/kept', { frozen: true, kneaded: false })).status).toBe(404);
  });
  it('tips, the usual air and a recipe of one’s own are kept, and reach the plan', async () => {
    const { revision: _, ...kitchen } = (await get('/kitchen')) as KitchenView;
    const told: Kitchen = {
      ...kitchen,
      tips: [{ name: 'round tip 3', shape: 'round', openingMm: 2 }],
      air: { ...kitchen.air, humidityPct: 61 },
      mix: { sugarG: 900, egg: 'dried', eggG: 30, waterG: 200, lemonG: 10, mixing: 'slowly' },
    };
    expect((await put('/kitchen', told).expect(200)).body).toMatchObject(told);
    expect((await put('/kitchen', { ...told, tips: [...told.tips, { name: ' Round tip 3', shape: 'star', openingMm: 4 }] })).status).toBe(
      400,
    );
    expect((await put('/kitchen', { ...told, tips: [{ name: 'x', shape: 'round', openingMm: 0.1 }] })).status).toBe(400);
    expect((await put('/kitchen', { ...told, mix: { ...told.mix, sugarG: 0 } })).status).toBe(400);
    // A label says what somebody looked up, and nothing that is no allergen.
    const allergens = { cookie: ['wheat', 'milk'], laidOn: { 'sprinkles #ffffff': [] }, traces: null };
    expect((await put('/kitchen', { allergens }).expect(200)).body).toMatchObject({ allergens });
    for (const bad of [
      { cookie: ['gravel'] },
      { cookie: ['milk', 'milk'] },
      { cookie: undefined },
      { laidOn: { pen: 'milk' } },
      { laidOn: { pen: ['gravel'] } },
    ])
      expect([bad, (await put('/kitchen', { allergens: { ...allergens, ...bad } })).status]).toEqual([bad, 400]);
    const made = (await post('/orders', orderInput(design.id)).expect(201)).body as OrderView;
    const { order, drawings } = (await get(`/orders/${made.id}/file`)) as OrderFileView;
    expect(order.tips).toEqual(told.tips);
    expect(drawings).toHaveLength(1);
    const plan = ((await post(`/orders/${made.id}/plan`, {}).expect(201)).body as PlanView).plan;
    const dams = plan.designs.flatMap((d) => d.graph.steps.filter((x) => x.kind === 'dam'));
    expect(new Set(dams.map((d) => `${d.tip} ${d.openingMm}`))).toEqual(new Set(['round tip 3 2']));
    await put('/kitchen', kitchen).expect(200);
    expect(((await get(`/orders/${made.id}`)) as OrderView).plan?.stale).toBe(true);
    await request(s.url).delete(`/api/orders/${made.id}`).expect(204);
  });
  it('the usual week is seven days from Monday, each closing after it opens, or none', async () => {
    const day = { from: '14:00', to: '22:00' };
    const week = [null, null, day, day, null, { from: '08:00', to: '12:30' }, null];
    expect((await put('/kitchen', { week }).expect(200)).body).toMatchObject({ week });
    const wrong = [
      week.slice(1),
      [...week.slice(1), { from: '22:00', to: '14:00' }],
      [...week.slice(1), { ...day, from: '24:00' }],
      [...week.slice(1), 'closed'],
    ];
    for (const x of wrong) {
      const refused = await put('/kitchen', { week: x }).expect(400);
      expect((refused.body as { message: string }).message).toMatch(/seven days from Monday/);
    }
    expect((await get('/kitchen')) as KitchenView).toMatchObject({ week });
    expect((await put('/kitchen', { week: null }).expect(200)).body).toMatchObject({ week: null });
  });
  it('a merged colour is one bag in the plan', async () => {
    const merges = [{ from: '#22343c', to: '#3f7f86' }];
    const made = (await post('/orders', orderInput(design.id, { merges })).expect(201)).body as OrderView;
    const plan = (await post(`/orders/${made.id}/plan`, {}).expect(201)).body as PlanView;
    const colours = plan.plan.tasks.flatMap((t) => t.bags.map((b) => b.colour));
    expect(colours).not.toContain('#22343c');
    expect(colours).toContain('#3f7f86');
    const round = { merges: [...merges, { from: '#3f7f86', to: '#22343c' }] };
    expect((await post('/orders', orderInput(design.id, round))).status).toBe(400);
    await request(s.url).delete(`/api/orders/${made.id}`).expect(204);
  });
});
