import { randomUUID } from 'node:crypto';
import { foldRun, openRun, type StoredEvent, withPlan } from '@kestfog/core/bench';
import type { PaceKind } from '@kestfog/core/calibration';
import type { BenchTouchView, PacesView, RunView } from '@kestfog/core/wire';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Clock, type SimulatedClock } from '../src/platform/clock.js';
import { type Started, startApp } from './harness.js';
import { beginRun, event } from './run-harness.js';

let s: Started;
let run: RunView;
const tablet = randomUUID();
const phone = randomUUID();
beforeAll(async () => {
  s = await startApp();
  run = await beginRun(s.url);
});
afterAll(() => s.stop());

const append = (e: object) => request(s.url).post(`/api/runs/${run.id}/events`).send(e);
const logOf = async () => (await request(s.url).get(`/api/runs/${run.id}`)).body as RunView;
const task = (i: number) => run.plan.tasks[i]?.id as string;

describe('the log of a run', () => {
  it('beginning twice finds the same run, and the order can no longer change', async () => {
    const again = (await request(s.url).post(`/api/orders/${run.orderId}/run`)).body as RunView;
    expect(again.id).toBe(run.id);
    expect((await request(s.url).post(`/api/orders/${run.orderId}/plan`)).body).toMatchObject({ code: 'run-begun' });
  });
  it('counts an event sent twice once, refuses a gap, an unknown task and an unknown field', async () => {
    const first = event(tablet, 1, 'runStarted');
    expect((await append(first).expect(201)).body).toMatchObject({ seq: 1 });
    expect((await append(first).expect(201)).body).toMatchObject({ seq: 1 });
    expect((await append(event(tablet, 3, 'taskDone', { taskId: task(0) }))).body).toMatchObject({ code: 'device-seq' });
    expect((await append(event(tablet, 2, 'taskDone', { taskId: 'nonsense' }))).body).toMatchObject({ code: 'unknown-task' });
    expect((await append(event(tablet, 2, 'taskDone', { taskId: task(0) }, { colour: 'red' }))).status).toBe(400);
    expect((await append(event(tablet, 2, 'dance'))).status).toBe(400);
    expect((await logOf()).events).toHaveLength(1);
  });
  it('keeps two devices that press done at once in one order, and it is done once', async () => {
    const both = await Promise.all([
      append(event(tablet, 2, 'taskDone', { taskId: task(0) })),
      append(event(phone, 1, 'taskDone', { taskId: task(0) })),
    ]);
    expect(both.map((r) => (r.body as StoredEvent).seq).sort()).toEqual([2, 3]);
    const view = await logOf();
    expect([...foldRun(view.plan, view.events).tasks.values()].filter((t) => t.doneAtMs !== null)).toHaveLength(1);
  });
  it('takes back a step, and refuses where another was begun on the strength of it', async () => {
    const done = event(tablet, 3, 'taskDone', { taskId: task(1) });
    await append(done).expect(201);
    const firstDone = (await logOf()).events.find((e) => e.type === 'taskDone') as StoredEvent;
    expect((await append(event(tablet, 4, 'undone', { eventId: firstDone.id }))).body).toMatchObject({ code: 'built-upon' });
    await append(event(tablet, 4, 'undone', { eventId: done.id })).expect(201);
    expect((await append(event(tablet, 5, 'undone', { eventId: done.id }))).body).toMatchObject({ code: 'unknown' });
    const view = await logOf();
    expect(foldRun(view.plan, view.events).tasks.get(task(1))?.doneAtMs).toBeNull();
    const rows = await s.query('SELECT seq, type FROM run_event WHERE "runId" = $1 ORDER BY seq', [run.id]);
    expect(rows.map((r) => r['type'])).toEqual(view.events.map((e) => e.type));
  });
  it('keeps what a finger found, and takes it as an earlier page says it', async () => {
    const other = randomUUID();
    expect((await append(event(other, 1, 'touched', { taskId: task(4) }))).body).toMatchObject({
      code: 'incomplete',
      message: 'data.found is missing.',
    });
    expect((await append(event(other, 1, 'touched', { taskId: 'nonsense', found: 'not-yet' }))).body).toMatchObject({
      code: 'unknown-task',
    });
    expect((await append(event(other, 1, 'touched', { taskId: task(4), found: 'somewhat' }))).status).toBe(400);
    const wet = (await append(event(other, 1, 'stillWet', { taskId: task(4), untilS: 9000 })).expect(201)).body as StoredEvent;
    const nobodySaid = { taskId: task(4), cookie: null, part: null, state: null };
    expect(wet).toMatchObject({ type: 'touched', data: { ...nobodySaid, found: 'not-yet' } });
    expect(foldRun(run.plan, (await logOf()).events).looks).toMatchObject([{ ...nobodySaid, found: 'not-yet' }]);
    await append(event(other, 2, 'undone', { eventId: wet.id })).expect(201);
    expect(foldRun(run.plan, (await logOf()).events).looks).toEqual([]);
  });
  it('takes a re-plan made for the log as it stands, and no other', async () => {
    const top = (await logOf()).events.length;
    const starts = { [task(2)]: 9000.5, [task(3)]: 9400 };
    const revised = (deviceSeq: number, data: object) => append(event(tablet, deviceSeq, 'planRevised', data));
    expect((await revised(5, { baseSeq: top - 1, starts })).body).toMatchObject({ code: 'plan-base' });
    expect((await revised(5, { baseSeq: top, starts: { nonsense: 1 } })).body).toMatchObject({ code: 'bad-revision' });
    expect((await revised(5, { baseSeq: top, starts: { [task(2)]: 'soon' } })).body).toMatchObject({ code: 'bad-revision' });
    expect((await revised(5, { baseSeq: top })).body).toMatchObject({ code: 'bad-revision' });
    const taken = (await revised(5, { baseSeq: top, starts }).expect(201)).body as StoredEvent;
    const view = await logOf();
    expect(foldRun(view.plan, view.events).plan.tasks.find((t) => t.id === task(2))?.startS).toBe(9000.5);
    // It can be refused like any other step.
    await append(event(tablet, 6, 'undone', { eventId: taken.id })).expect(201);
    const back = await logOf();
    expect(foldRun(back.plan, back.events).plan.tasks).toEqual(back.plan.tasks);
  });
  it('streams what was missed, then what happens, each message with the server’s time', async () => {
    const abort = new AbortController();
    const response = await fetch(`${s.url}/api/runs/${run.id}/stream?last=3`, { signal: abort.signal });
    const reader = (response.body as ReadableStream<Uint8Array>).getReader();
    let text = '';
    const until = async (pattern: RegExp) => {
      while (!pattern.test(text)) {
        const { value, done } = await reader.read();
        if (done) break;
        text += new TextDecoder().decode(value);
      }
    };
    await until(/id: 9\n/);
    expect(text).not.toMatch(/id: 3\nevent: event|"seq":3/);
    await append(event(phone, 2, 'paused')).expect(201);
    await until(/"type":"paused"/);
    expect(text).toMatch(/"clock":\{"nowMs":\d+,"speed":0\}/);
    abort.abort();
  });
  it('takes reports that make sense, says what is missing in others, and knows the tasks they bring', async () => {
    const own = randomUUID();
    const lotId = run.plan.trays[0]?.lots[0]?.id as string;
    const wet = run.plan.tasks.find((t) => t.motions.some((m) => m.windowS !== null))?.id as string;
    const refused = async (type: string, data: object) =>
      (await append(event(own, 1, type, data))).body as { code: string; message: string };
    expect(await refused('cookieDone', { taskId: wet })).toMatchObject({ code: 'incomplete', message: 'data.cookie is missing.' });
    expect(await refused('swapped', { taskId: wet, insteadOf: 'nonsense' })).toMatchObject({ code: 'unknown-task' });
    expect((await refused('windowShut', { taskId: wet, cookies: [1], choice: 'eat' })).message).toMatch(/data\.choice/);
    expect((await refused('windowShut', { taskId: wet, cookies: [], choice: 'skip' })).message).toMatch(/data\.cookies/);
    expect((await refused('airRead', { tempC: 22, humidityPct: 140 })).message).toMatch(/humidityPct/);
    expect((await refused('bagCounted', { colour: 'red', seconds: 15, countedS: 18 })).message).toMatch(/colour/);
    const report = { lotId, cookie: 2, part: null, seen: 'dent', surface: 'crusted', outcome: 'again' };
    expect(await refused('defect', { ...report, cookie: 60 })).toMatchObject({ code: 'unknown-cookie' });
    expect(await refused('defect', { ...report, seen: 'haunted' })).toMatchObject({ code: 'invalid' });
    await append(event(own, 1, 'defect', report)).expect(201);
    const { plan } = foldRun(run.plan, (await logOf()).events);
    const again = plan.tasks.find((t) => t.lotId === `${lotId}.again3`)?.id as string;
    expect(again).toBeDefined();
    const done = (await append(event(own, 2, 'taskDone', { taskId: again })).expect(201)).body as StoredEvent;
    // What was begun on the strength of a report holds it.
    const defect = (await logOf()).events.find((e) => e.type === 'defect') as StoredEvent;
    expect((await append(event(own, 3, 'undone', { eventId: defect.id }))).body).toMatchObject({ code: 'built-upon' });
    await append(event(own, 3, 'undone', { eventId: done.id })).expect(201);
    await append(event(own, 4, 'undone', { eventId: defect.id })).expect(201);
    expect(foldRun(run.plan, (await logOf()).events).out.size).toBe(0);
    await append(event(own, 5, 'airRead', { tempC: 20.5, humidityPct: 68 })).expect(201);
    expect(foldRun(run.plan, (await logOf()).events).room).toHaveLength(1);
    // A page that was open before an update says it the earlier way.
    expect((await append(event(own, 6, 'boxOff')).expect(201)).body).toMatchObject({ type: 'dehydratorOff' });
  });
});

describe('what a finished run teaches', () => {
  it('is listed, and the next plan counts on it; while the run goes on nothing is planned away under it', async () => {
    const own = await beginRun(s.url);
    const { plan } = own;
    const epochMs = Date.parse(plan.epoch as string);
    const device = randomUUID();
    let seq = 0;
    const send = async (type: string, data: object, atMs: number) => {
      seq += 1;
      const body = { ...event(device, seq, type, data), atMs: Math.round(atMs) };
      expect((await request(s.url).post(`/api/runs/${own.id}/events`).send(body)).status).toBe(201);
    };
    const learned = async () => (await request(s.url).get('/api/bench-touches')).body as BenchTouchView[];
    // The clock of this server stands days before the run; nothing of it may look doubtful.
    (s.app.get(Clock) as SimulatedClock).advance((epochMs - Date.parse('2026-06-04T12:00:00Z')) / 1000);
    await send('runStarted', {}, epochMs);
    const wet = plan.tasks.find((t) => t.because.kind === 'drying' && t.kind === 'wet');
    for (const t of plan.tasks) {
      if (t.id === wet?.id) await send('touched', { taskId: t.id, found: 'not-yet' }, epochMs + t.startS * 1000);
      if (t === plan.tasks.at(-1)) {
        expect(await learned()).toEqual([]);
        (s.app.get(Clock) as SimulatedClock).advance(t.startS);
      }
      await send('taskDone', { taskId: t.id }, epochMs + t.endS * 1000);
    }
    const touches = await learned();
    // One was looked at; the others were begun without a word, and count as what they are.
    const [looked] = touches.filter((t) => !t.silent);
    expect(touches.filter((t) => !t.silent)).toHaveLength(1);
    expect(looked).toMatchObject({ orderName: 'Regatta', runId: own.id });
    expect(looked?.notYetShare).toBeGreaterThan(0);
    expect(touches.filter((t) => t.silent).every((t) => t.notYetShare === null && t.reachedShare !== null)).toBe(true);
    const next = await beginRun(s.url);
    expect(next.plan.factors.crusted.mean).toBeGreaterThan(plan.factors.crusted.mean);
    // How long its visits took is known of the hands that worked them, and the next plan is made at it where it is worth a word.
    const paces = async () => (await request(s.url).get('/api/paces').expect(200)).body as PacesView;
    const seen = await paces();
    const [hands] = plan.order.decorators;
    expect(Object.keys(seen)).toEqual([hands?.id]);
    expect(seen[hands?.id as string]?.flood.visits).toBeGreaterThan(0);
    // Of a run in the trash nothing is learned, and again once it is back.
    await request(s.url).delete(`/api/runs/${own.id}`).expect(204);
    expect([await paces(), await learned()]).toEqual([{}, []]);
    await request(s.url).post(`/api/runs/${own.id}/restore`).expect(200);
    expect([await paces(), await learned()]).toEqual([seen, touches]);
    for (const [kind, takes] of Object.entries(next.plan.order.decorators[0]?.takes ?? {}))
      expect(takes).toBeCloseTo(seen[hands?.id as string]?.[kind as PaceKind].takes ?? 0, 2);
    // What the kitchen knows is not the order's: the order goes, what it taught stays.
    await request(s.url).delete(`/api/orders/${own.orderId}`).expect(204);
    // From the trash it still teaches; for good, what it taught is kept.
    expect((await request(s.url).get(`/api/runs/${own.id}`)).status).toBe(200);
    await request(s.url).delete(`/api/orders/${own.orderId}/for-good`).expect(204);
    await request(s.url).get(`/api/runs/${own.id}`).expect(404);
    expect(await learned()).toEqual(touches);
    expect(await paces()).toEqual(seen);
    expect((await beginRun(s.url)).plan.factors).toEqual(next.plan.factors);
    // A run whose taps were not meant is left out, and counted again.
    const leaveOut = (runId: string, leftOut: unknown) => request(s.url).put(`/api/bench-touches/${runId}`).send({ leftOut });
    await leaveOut(own.id, true).expect(204);
    expect((await learned()).every((t) => t.leftOut)).toBe(true);
    expect(await paces()).toEqual({});
    expect((await beginRun(s.url)).plan.factors).toEqual(plan.factors);
    await leaveOut(own.id, false).expect(204);
    expect(await learned()).toEqual(touches);
    await leaveOut(randomUUID(), true).expect(404);
    await leaveOut(own.id, 'perhaps').expect(400);
  });
  it('can be exported whole, and is opened again', async () => {
    const { body } = await request(s.url)
      .get(`/api/runs/${run.id}/export`)
      .expect(200)
      .expect('Content-Disposition', /run\.json/);
    const opened = openRun(body);
    expect(opened.events).toEqual((await logOf()).events);
    expect(withPlan(opened).plan.tasks).toEqual(run.plan.tasks);
  });
});
