import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import { type DesignSummary, foldRun, type OrderView, type RunView, type StoredEvent } from '@kestfog/core';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { drawing, freshDatabase, orderInput, type Started, startApp } from './harness.js';

let s: Started;
let run: RunView;
const tablet = randomUUID();
const phone = randomUUID();
const event = (deviceId: string, deviceSeq: number, type: string, data: object = {}, more: object = {}) => ({
  id: randomUUID(),
  deviceId,
  deviceSeq,
  atMs: Date.parse('2026-06-05T14:00:00Z') + deviceSeq * 60_000,
  type,
  data,
  ...more,
});

async function beginRun(url: string): Promise<RunView> {
  const post = (path: string, body: object) => request(url).post(`/api${path}`).send(body);
  const design = (await post('/designs', { name: 'Mackerel', svg: drawing('mackerel.svg') })).body as DesignSummary;
  const order = (await post('/orders', orderInput(design.id))).body as OrderView;
  await post(`/orders/${order.id}/plan`, {}).expect(201);
  return (await post(`/orders/${order.id}/run`, {}).expect(201)).body as RunView;
}

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
    const both = await Promise.all([append(event(tablet, 2, 'taskDone', { taskId: task(0) })), append(event(phone, 1, 'taskDone', { taskId: task(0) }))]);
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
  it('keeps what a finger found still wet, with when it is looked at again', async () => {
    const other = randomUUID();
    expect((await append(event(other, 1, 'stillWet', { taskId: task(4) }))).body).toMatchObject({ code: 'incomplete', message: 'data.untilS is missing.' });
    expect((await append(event(other, 1, 'stillWet', { taskId: 'nonsense', untilS: 9000 }))).body).toMatchObject({ code: 'unknown-task' });
    const wet = (await append(event(other, 1, 'stillWet', { taskId: task(4), untilS: 9000 })).expect(201)).body as StoredEvent;
    const view = await logOf();
    expect(foldRun(view.plan, view.events).notBeforeMs.get(task(4))).toBe(Date.parse(run.plan.epoch as string) + 9_000_000);
    await append(event(other, 2, 'undone', { eventId: wet.id })).expect(201);
    expect(foldRun(run.plan, (await logOf()).events).notBeforeMs.size).toBe(0);
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
});

const MAIN = fileURLToPath(new URL('../dist/main.js', import.meta.url));
async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as { port: number };
  probe.close();
  await once(probe, 'close');
  return port;
}

describe('the built server, killed', () => {
  it('loses nothing it acknowledged, through kill -9 in the middle of a stream of taps', async () => {
    const databaseUrl = await freshDatabase();
    const port = await freePort();
    const url = `http://127.0.0.1:${port}`;
    const launch = async (): Promise<ChildProcess> => {
      const child = spawn('node', [MAIN], {
        env: { ...process.env, DATABASE_URL: databaseUrl, PORT: String(port), KESTFOG_DEMO: 'none', KESTFOG_CLOCK: 'simulated' },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      await new Promise<void>((resolve, reject) => {
        child.stdout?.on('data', (d: Buffer) => d.toString().includes('is ready') && resolve());
        child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
      });
      return child;
    };
    let child = await launch();
    const own = await beginRun(url);
    const acknowledged: string[] = [];
    let seq = 0;
    for (let round = 0; round < 4; round++) {
      const killAfterMs = 60 + round * 60;
      const gone = once(child, 'exit');
      setTimeout(() => child.kill('SIGKILL'), killAfterMs);
      for (;;) {
        const e = event(tablet, seq + 1, round % 2 ? 'resumed' : 'paused');
        try {
          const r = await fetch(`${url}/api/runs/${own.id}/events`, {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body: JSON.stringify(e),
          });
          if (!r.ok) throw new Error(`refused: ${await r.text()}`);
          acknowledged.push(e.id);
          seq += 1;
        } catch (error) {
          if ((error as Error).message.startsWith('refused')) throw error;
          break;
        }
      }
      await gone;
      child = await launch();
      const view = (await (await fetch(`${url}/api/runs/${own.id}`)).json()) as RunView;
      const kept = view.events.map((e) => e.id);
      expect(kept.slice(0, acknowledged.length)).toEqual(acknowledged);
      // One tap may have been committed without its answer getting out; it is there whole, or not at all.
      expect(kept.length - acknowledged.length).toBeLessThanOrEqual(1);
      seq = kept.length;
      acknowledged.splice(0, acknowledged.length, ...kept);
    }
    expect(acknowledged.length).toBeGreaterThan(4);
    const end = once(child, 'exit');
    child.kill('SIGTERM');
    await end;
  });
});
