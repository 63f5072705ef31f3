import { randomUUID } from 'node:crypto';
import { RECORDING_MOST_BYTES } from '@kestfog/core/notebook';
import type { ApiError, LessonView, NotebookAcross, NotebookRun, NotebookRunView, Page, RecordingView, RunView } from '@kestfog/core/wire';
import { DataSource } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dataSourceOptions } from '../src/data-source.js';
import { WaitsKnown1796428800000 } from '../src/migrations/1796428800000-waits-known.js';
import { JPEG, type Started, startApp } from './harness.js';
import { beginRun, event } from './run-harness.js';

/** The first bytes of an Ogg file with Opus in it: what tells one from other files (RFC 3533, RFC 7845). */
const OGG = Buffer.concat([Buffer.from('OggS\0\x02'), Buffer.alloc(22), Buffer.from('OpusHead'), Buffer.alloc(16)]);

let s: Started;
let run: RunView;
const device = randomUUID();
const ask = (method: string, path: string, body?: object) =>
  fetch(`${s.url}/api${path}`, {
    method,
    ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
  });
const json = async <T>(path: string): Promise<T> => (await (await ask('GET', path)).json()) as T;
const list = (q = '') => json<Page<NotebookRun>>(`/notebook/runs?q=${encodeURIComponent(q)}`);
const view = () => json<NotebookRunView>(`/notebook/runs/${run.id}`);
beforeAll(async () => {
  s = await startApp();
  run = await beginRun(s.url);
  const epochMs = Date.parse(run.plan.epoch as string);
  let seq = 0;
  const tell = async (atS: number, type: string, data: object = {}) => {
    const answer = await ask('POST', `/runs/${run.id}/events`, event(device, ++seq, type, data, { atMs: epochMs + atS * 1000 }));
    if (!answer.ok) throw new Error(await answer.text());
  };
  await tell(run.plan.tasks[0]?.startS as number, 'runStarted');
  for (const [i, t] of run.plan.tasks.entries()) {
    await tell(t.startS, 'taskBegun', { taskId: t.id });
    await tell(t.endS, 'taskDone', { taskId: t.id });
    if (i === 3)
      await tell(t.endS, 'defect', {
        lotId: run.plan.trays[0]?.lots[0]?.id,
        cookie: 1,
        part: null,
        seen: 'ran-together',
        surface: 'wet',
        outcome: 'left',
      });
  }
});
afterAll(() => s.stop());

describe('the notebook', () => {
  it('has every finished run compared with its plan, found by order, design, and what went wrong', async () => {
    const { items, total } = await list();
    expect(total).toBe(1);
    expect(items[0]).toMatchObject({
      runId: run.id,
      orderId: run.orderId,
      leftOut: false,
      summary: { defects: [{ seen: 'ran-together', cookie: 2 }] },
    });
    for (const [q, n] of [
      ['mackerel', 1],
      ['ran together', 1],
      ['crater', 0],
      // What only the keeping calls by such a name is not what anybody looks for.
      ['packed', 0],
      ['handsOnS', 0],
      ['%', 0],
    ] as const)
      expect([q, (await list(q)).total]).toEqual([q, n]);
    const { account } = await view();
    expect(account.visits).toHaveLength(run.plan.tasks.length);
    expect(account.slips).toEqual([]);
    expect((await ask('GET', `/notebook/runs/${randomUUID()}`)).status).toBe(404);
  });
  it('a moment that was entered wrongly is put right: all that follows is worked out anew, the log keeps what was said', async () => {
    const visit = (await view()).account.visits[2];
    const [eventId, saidMs] = [visit?.doneBy as string, (visit?.doneS as number) * 1000];
    const put = (atMs: number | null, id = eventId) => ask('PUT', `/notebook/runs/${run.id}/corrections`, { eventId: id, atMs });
    const put1 = (await (await put(saidMs + 240_000)).json()) as NotebookRunView;
    expect(put1.account.visits[2]?.doneS).toBe(saidMs / 1000 + 240);
    expect(put1.corrections).toEqual([{ eventId, atMs: saidMs + 240_000, wasMs: saidMs }]);
    expect((await json<RunView>(`/runs/${run.id}`)).events.find((e) => e.id === eventId)?.atMs).toBe(saidMs);
    expect((await put(saidMs + 2 * 86_400_000)).status).toBe(400);
    const before = await put((visit?.begunS as number) * 1000 - 1000);
    expect([before.status, ((await before.json()) as ApiError).message]).toEqual([
      400,
      expect.stringContaining('would end before it began'),
    ]);
    expect((await view()).corrections).toHaveLength(1);
    expect((await put(saidMs, randomUUID())).status).toBe(404);
    expect((await ask('PUT', `/notebook/runs/${randomUUID()}/corrections`, { eventId, atMs: saidMs })).status).toBe(404);
    const back = (await (await put(null)).json()) as NotebookRunView;
    expect([back.account.visits[2]?.doneS, back.corrections]).toEqual([saidMs / 1000, []]);
  });
  it('a lesson is kept, found, and comes back with what it is about', async () => {
    const lesson = { text: ' Next time 20 s for the waterline. ', runId: run.id, design: 'Mackerel', step: null, school: 'Two bags' };
    const id = randomUUID();
    const kept = (await (await ask('POST', '/lessons', { ...lesson, id })).json()) as LessonView;
    expect(kept).toMatchObject({ ...lesson, id, text: 'Next time 20 s for the waterline.' });
    await ask('POST', '/lessons', { ...lesson, id });
    expect(await json<LessonView[]>('/lessons')).toHaveLength(1);
    expect([(await list('waterline')).total, (await view()).lessons.length]).toEqual([1, 1]);
    for (const wrong of [{ text: '  ' }, { text: 'x'.repeat(501) }, { runId: 'mine' }])
      expect([wrong, (await ask('POST', '/lessons', { ...lesson, ...wrong })).status]).toEqual([wrong, 400]);
  });
  it('keeps photos and spoken words as what their bytes are, once, and gives the file out so that nobody runs it', async () => {
    const about = { runId: run.id, atMs: Date.parse('2026-06-04T11:00:00Z'), design: 'Mackerel', step: null, school: null };
    const made = (kind: string, bytes: Buffer, more: object = {}) => ({
      id: randomUUID(),
      kind,
      ...about,
      base64: bytes.toString('base64'),
      ...more,
    });
    const photo = made('photo', JPEG);
    const [first, again] = [await ask('POST', '/recordings', photo), await ask('POST', '/recordings', photo)];
    expect([first.status, again.status]).toEqual([201, 201]);
    const { base64: _, ...rest } = photo;
    expect(await again.json()).toEqual({ ...rest, type: 'image/jpeg', sizeBytes: JPEG.length });
    expect((await ask('POST', '/recordings', made('voice', OGG))).status).toBe(201);
    expect((await view()).recordings.map((r) => [r.kind, r.type])).toEqual(
      expect.arrayContaining([
        ['photo', 'image/jpeg'],
        ['voice', 'audio/ogg'],
      ]),
    );
    expect((await json<RecordingView[]>('/recordings')).map((r) => r.kind)).toEqual(['voice']);
    const file = await ask('GET', `/recordings/${photo.id}/file`);
    expect(Buffer.from(await file.arrayBuffer())).toEqual(JPEG);
    expect([file.headers.get('content-type'), file.headers.get('x-content-type-options')]).toEqual(['image/jpeg', 'nosniff']);
    expect(file.headers.get('content-security-policy')).toContain('sandbox');
    const page = Buffer.from('<html><script>alert(1)</script></html>');
    for (const [wrong, status] of [
      [made('photo', page), 400],
      [made('photo', OGG), 400],
      [made('voice', JPEG), 400],
      [made('photo', JPEG, { runId: randomUUID() }), 404],
      [made('photo', JPEG, { base64: 'not base64!' }), 400],
      [made('photo', Buffer.concat([JPEG, Buffer.alloc(RECORDING_MOST_BYTES)])), 400],
      [made('photo', JPEG, { extra: 1 }), 400],
    ] as const)
      expect([wrong.kind, (await ask('POST', '/recordings', wrong)).status]).toEqual([wrong.kind, status]);
    // However far ahead a device's clock is, nothing was taken later than now.
    const ahead = await ask('POST', '/recordings', made('photo', JPEG, { atMs: 8_000_000_000_000 }));
    const { atMs, id } = (await ahead.json()) as RecordingView;
    expect(atMs).toBeLessThan(8_000_000_000_000);
    expect((await ask('DELETE', `/recordings/${id}`)).status).toBe(204);
    expect([(await ask('DELETE', `/recordings/${id}`)).status, (await ask('GET', `/recordings/${id}/file`)).status]).toEqual([404, 404]);
  });
  it('is whole once the order is deleted for good; what is left out of the learning is listed and not counted', async () => {
    const before = await json<NotebookAcross>('/notebook/across');
    expect(await json<NotebookAcross>('/notebook/across?zone=UTC')).toEqual(before);
    const nowhere = await ask('GET', '/notebook/across?zone=Nowhere');
    expect([nowhere.status, await nowhere.text()]).toEqual([400, expect.stringContaining('zone')]);
    expect([before.runs, before.months.length, before.defects.map((d) => d.seen)]).toEqual([1, 1, ['ran-together']]);
    const was = await view();
    await ask('DELETE', `/orders/${run.orderId}`);
    expect((await ask('DELETE', `/orders/${run.orderId}/for-good`)).ok).toBe(true);
    expect(await view()).toEqual({ ...was, orderId: null });
    expect(await json<NotebookAcross>('/notebook/across')).toEqual(before);
    await ask('PUT', `/bench-touches/${run.id}`, { leftOut: true });
    const after = await json<NotebookAcross>('/notebook/across');
    expect([after.runs, after.months, (await list()).items[0]?.leftOut]).toEqual([0, [], true]);
  });
  it('of evenings kept before the waits were, those that were counted go on as counted', async () => {
    const db = await new DataSource(dataSourceOptions(s.databaseUrl)).initialize();
    const runner = db.createQueryRunner();
    const kept = async () =>
      (await s.query(`SELECT "account"->'summary'->'honesty' AS "honesty" FROM "learned_run" WHERE "runId" = $1`, [run.id]))[0];
    const put = (honesty: object) =>
      s.query(`UPDATE "learned_run" SET "account" = jsonb_set("account", '{summary,honesty}', $2::jsonb) WHERE "runId" = $1`, [
        run.id,
        JSON.stringify(honesty),
      ]);
    await put({ promised: 0.8, held: 2, failed: 1 });
    await new WaitsKnown1796428800000().up(runner);
    const waits = [
      [0, 1],
      [0, 1],
      [1, null],
    ];
    expect(await kept()).toEqual({ honesty: { promised: 0.8, waits } });
    await new WaitsKnown1796428800000().down(runner);
    expect(await kept()).toEqual({ honesty: { promised: 0.8, held: 2, failed: 1 } });
    await new WaitsKnown1796428800000().up(runner);
    await ask('PUT', `/bench-touches/${run.id}`, { leftOut: false });
    expect((await json<NotebookAcross>('/notebook/across')).honesty).toMatchObject([
      { promised: 0.8, all: 3, share: expect.closeTo(2 / 3, 6) },
    ]);
    await runner.release();
    await db.destroy();
  });
});
