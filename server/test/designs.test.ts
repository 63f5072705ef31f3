import type { DesignEdit } from '@kestfog/core/design';
import { foldDesign, sectionsOf } from '@kestfog/core/design';
import type { FlowedDesign } from '@kestfog/core/marbling';
import { schools } from '@kestfog/core/steps';
import type { ApiError, DesignSummary, DesignView, OrderView, Page, PlanView, SchoolView } from '@kestfog/core/wire';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { drawing, orderInput, type Started, startApp } from './harness.js';

let s: Started;
beforeAll(async () => {
  s = await startApp();
});
afterAll(() => s.stop());
const post = (path: string, body: object = {}) => request(s.url).post(`/api${path}`).send(body);
const put = (path: string, body: object) => request(s.url).put(`/api${path}`).send(body);
const get = async <T>(path: string) => (await request(s.url).get(`/api${path}`)).body as T;
const flag = async () => (await post('/designs', { name: 'Flag', svg: drawing('signal-flag.svg') }).expect(201)).body as DesignView;

describe('a design is worked on', () => {
  it('what is piped by hand is folded here as on the page, where it flows is kept with it, and too much of it is refused by place', async () => {
    const design = await flag();
    const line = {
      type: 'draw',
      id: 'wet',
      name: 'wet line',
      technique: 'wet-line',
      strokes: [
        {
          points: [
            { x: 14, y: 20 },
            { x: 30, y: 20 },
          ],
          closed: false,
        },
      ],
      area: false,
      layer: false,
      colour: '#f2c14e',
      widthMm: 1.4,
    } as const;
    const pull = {
      ...line,
      id: 'pull',
      name: 'pull',
      technique: 'drag',
      strokes: [
        {
          points: [
            { x: 22, y: 14 },
            { x: 22, y: 28 },
          ],
          closed: false,
        },
      ],
      widthMm: 1,
    } as const;
    const changed = (await put(`/designs/${design.id}`, { edits: [line, pull] }).expect(200)).body as DesignView;
    const here = foldDesign(changed.document);
    expect(changed.drawing.parts).toEqual(JSON.parse(JSON.stringify(here.parts)));
    const { wet } = changed.drawing as FlowedDesign;
    expect(wet?.map((w) => w.made)).toEqual([[], ['wet'], ['wet', 'pull']]);
    expect(JSON.stringify(wet?.at(-1)?.inks)).not.toBe(JSON.stringify(wet?.at(1)?.inks));
    const many = {
      ...line,
      strokes: Array.from({ length: 5 }, () => ({ points: Array.from({ length: 3000 }, (_, i) => ({ x: i / 100, y: 1 })), closed: false })),
    };
    const refused = (await put(`/designs/${design.id}`, { edits: [many] })).body as ApiError;
    expect(refused).toMatchObject({ message: expect.stringMatching(/at most 12000 points/) as string });
  });
  it('every edit is kept in order, folded, and read back the same', async () => {
    const design = await flag();
    expect(design).toMatchObject({ name: 'Flag', version: 1, pinned: false, rounds: 2 });
    const edits: DesignEdit[] = [
      { type: 'say', part: 'upper-left', said: { flush: 'upper-right' } },
      { type: 'say', part: 'lower-left', said: { flush: 'lower-right' } },
      { type: 'undo' },
      { type: 'rename', name: 'Signal flag, level' },
    ];
    const changed = (await put(`/designs/${design.id}`, { edits }).expect(200)).body as DesignView;
    expect(changed.document.edits).toEqual(edits);
    expect(changed.name).toBe('Signal flag, level');
    expect(sectionsOf(changed.drawing).find((x) => x.id === 'upper-left')?.flushWith).toEqual(['upper-right']);
    expect(await get<DesignView>(`/designs/${design.id}`)).toEqual(changed);
    expect((await get<Page<DesignSummary>>('/designs')).items.find((d) => d.id === design.id)?.name).toBe('Signal flag, level');
  });
  it('what was changed elsewhere is not overwritten, and what cannot be is refused with its place', async () => {
    const design = await flag();
    const edits: DesignEdit[] = [{ type: 'rename', name: 'one' }];
    await put(`/designs/${design.id}`, { edits }).expect(200);
    expect((await put(`/designs/${design.id}`, { edits: [{ type: 'rename', name: 'two' }] })).body).toMatchObject({
      code: 'changed-elsewhere',
    });
    const refused = async (edit: object, sentence: RegExp) => {
      const answer = await put(`/designs/${design.id}`, { edits: [...edits, edit] });
      expect(answer.status).toBe(400);
      expect((answer.body as ApiError).message).toMatch(sentence);
    };
    await refused({ type: 'resize', widthMm: 9000 }, /edits.1.widthMm: must be 400 or less/);
    await refused({ type: 'say', part: 'upper-left', said: { 'depth-mm': '99' } }, /data-depth-mm="99"/);
    await refused({ type: 'paint' }, /edits.1.type: must be one of rename, resize, say,/);
    const cycle: DesignEdit[] = [
      { type: 'first', first: 'upper-left', next: 'upper-right' },
      { type: 'first', first: 'upper-right', next: 'lower-right' },
      { type: 'first', first: 'lower-right', next: 'upper-left' },
    ];
    expect((await put(`/designs/${design.id}`, { edits: [...edits, ...cycle] })).status).toBe(400);
    expect((await get<DesignView>(`/designs/${design.id}`)).document.edits).toEqual(edits);
  });
  it('an order keeps the version it was made with, and is offered the newer', async () => {
    const design = await flag();
    const made = (await post('/orders', orderInput(design.id)).expect(201)).body as OrderView;
    await post(`/orders/${made.id}/plan`).expect(201);
    const changed = (await put(`/designs/${design.id}`, { edits: [{ type: 'recolour', from: '#1f3f6b', to: '#2e3a46' }] }).expect(200))
      .body as DesignView;
    expect(changed.version).toBe(2);
    const order = () => get<OrderView>(`/orders/${made.id}`);
    expect((await order()).designs).toMatchObject([{ version: 1, latest: 2 }]);
    expect((await order()).plan?.stale).toBe(false);
    expect(sectionsOf((await order()).designs[0]?.drawing as DesignView['drawing']).map((x) => x.colour)).toContain('#1f3f6b');
    // Changing something else of the order does not slip the newer one in.
    await put(`/orders/${made.id}`, orderInput(design.id, { name: 'Regatta again' })).expect(200);
    expect((await order()).designs).toMatchObject([{ version: 1 }]);
    await put(`/orders/${made.id}`, orderInput(design.id, { designs: [{ designId: design.id, count: 6, version: 2 }] })).expect(200);
    expect((await order()).plan?.stale).toBe(true);
    expect(
      (await put(`/orders/${made.id}`, orderInput(design.id, { designs: [{ designId: design.id, count: 6, version: 7 }] }))).body,
    ).toMatchObject({
      code: 'unknown-version',
    });
    expect((await request(s.url).delete(`/api/designs/${design.id}`)).body).toMatchObject({ code: 'design-used' });
    await request(s.url).delete(`/api/orders/${made.id}`).expect(204);
    await request(s.url).delete(`/api/designs/${design.id}`).expect(204);
  });
  it('a copy goes its own way', async () => {
    const design = await flag();
    const copy = (await post(`/designs/${design.id}/copy`, { name: 'Night flag' }).expect(201)).body as DesignView;
    await put(`/designs/${copy.id}`, { edits: [...copy.document.edits, { type: 'recolour', from: '#f6f3ea', to: '#c8d6d8' }] }).expect(200);
    expect(sectionsOf((await get<DesignView>(`/designs/${design.id}`)).drawing).some((x) => x.colour === '#f6f3ea')).toBe(true);
    expect(sectionsOf((await get<DesignView>(`/designs/${copy.id}`)).drawing).some((x) => x.colour === '#f6f3ea')).toBe(false);
  });
});

describe('schools of one’s own', () => {
  it('begin as a copy, are planned with, and refuse what is out of range', async () => {
    const preset = schools[2] as (typeof schools)[number];
    const mine = { ...preset, label: 'Mine', neighbourCrusts: 2.5 };
    const kept = (await post('/schools', { school: mine }).expect(201)).body as SchoolView;
    expect(kept).toMatchObject({ label: 'Mine', neighbourCrusts: 2.5, preset: false });
    expect((await get<SchoolView[]>('/schools')).map((x) => x.label)).toEqual([...schools.map((x) => x.label), 'Mine']);
    expect((await post('/schools', { school: { ...mine, floodS: 3 } })).body).toMatchObject({
      message: expect.stringMatching(/floodS: must be a number from 6 to 30/) as string,
    });
    expect((await post('/schools', { school: { ...mine, magic: 1 } })).status).toBe(400);
    const design = (await post('/designs', { name: 'Mackerel', svg: drawing('mackerel.svg') }).expect(201)).body as DesignView;
    const wait = async (school: string) => {
      const order = (await post('/orders', orderInput(design.id, { school })).expect(201)).body as OrderView;
      const { plan } = (await post(`/orders/${order.id}/plan`).expect(201)).body as PlanView;
      return plan.waits.find((w) => w.rule === 'touching-sections')?.minS as number;
    };
    expect(await wait(kept.id)).toBeGreaterThan(2 * (await wait('two-bags')));
    await put(`/schools/${kept.id}`, { school: { ...mine, label: 'Mine, calmer' } }).expect(200);
    expect((await get<SchoolView[]>('/schools')).at(-1)?.label).toBe('Mine, calmer');
    await request(s.url).delete(`/api/schools/${kept.id}`).expect(204);
  });
});
