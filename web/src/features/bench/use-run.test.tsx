import { foldRun, type RunEvent, type StoredEvent } from '@kestfog/core/bench';
import { readDesign } from '@kestfog/core/design';
import { type Plan, parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import type { ClockView } from '@kestfog/core/wire';
import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { outbox } from '../../outbox/index.js';
import { useRun } from './use-run.js';

vi.mock('idb-keyval', () => {
  const kept = new Map<string, unknown>();
  const own = new Map<string, unknown>();
  const of = (store: unknown) => (store ? own : kept);
  return {
    createStore: () => 'own',
    entries: async (s: unknown) => [...of(s)],
    del: async (k: string, s: unknown) => void of(s).delete(k),
    get: async (k: string) => kept.get(k),
    set: async (k: string, v: unknown, s: unknown) => void of(s).set(k, structuredClone(v)),
  };
});

const plan: Plan = planOrder({
  order: parseOrder({
    format: 'kestfog-order/3',
    designs: [{ file: 'flag.svg', count: 2 }],
    trays: [{ id: 'A', places: 2 }],
    openingHours: [['2026-06-05T14:00:00Z', '2026-06-06T14:00:00Z']],
  }),
  designs: [
    readDesign(
      '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40"><rect id="a" width="40" height="40" fill="#ffffff"/></svg>',
      'Flag',
    ),
  ],
  passes: 5,
});

/** A server that can be gone, full, or strict; its log is what it acknowledged. */
class FakeServer {
  log: StoredEvent[] = [];
  refuse: { status: number; code: string } | null = null;
  gone = false;
  readonly clock: ClockView = { nowMs: Date.parse(plan.epoch as string), speed: 0 };
  streams: FakeStream[] = [];

  readonly fetch = async (path: string, init?: RequestInit): Promise<Response> => {
    if (this.gone) throw new TypeError('network');
    const json = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });
    if (path.endsWith('/health')) return json(200, { ok: true, ...this.clock });
    if (init?.method !== 'POST')
      return json(200, { id: 'r', orderId: 'o', orderName: 'Flags', plan, events: this.log, serverNowMs: this.clock.nowMs });
    if (this.refuse) return json(this.refuse.status, { code: this.refuse.code, message: `refused: ${this.refuse.code}` });
    const e = JSON.parse(String(init.body)) as RunEvent;
    const known = this.log.find((x) => x.id === e.id);
    if (known) return json(201, known);
    const expected = 1 + Math.max(0, ...this.log.filter((x) => x.deviceId === e.deviceId).map((x) => x.deviceSeq));
    if (e.deviceSeq !== expected) return json(409, { code: 'device-seq', message: 'out of order' });
    const stored = { ...e, seq: this.log.length + 1 } as StoredEvent;
    this.log = [...this.log, stored];
    return json(201, stored);
  };
}
class FakeStream extends EventTarget {
  static server: FakeServer;
  readyState = 1;
  onerror: (() => void) | null = null;
  constructor(readonly url: string) {
    super();
    FakeStream.server.streams.push(this);
  }
  close(): void {
    this.readyState = 2;
  }
  say(type: string, data: object): void {
    this.dispatchEvent(new MessageEvent(type, { data: JSON.stringify(data) }));
  }
}

let server: FakeServer;
beforeEach(() => {
  vi.useFakeTimers({ shouldAdvanceTime: true });
  localStorage.clear();
  server = new FakeServer();
  FakeStream.server = server;
  vi.stubGlobal('fetch', server.fetch);
  vi.stubGlobal('EventSource', FakeStream);
});
afterEach(() => {
  cleanup();
  for (const e of outbox.all()) outbox.letGo(e.id);
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const settle = (ms = 0) => act(async () => void (await vi.advanceTimersByTimeAsync(ms + 5)));
const opened = async () => {
  const hook = renderHook(() => useRun('r'));
  await settle();
  return hook;
};

describe('a run on a device', () => {
  it('is folded with its own taps at once, and they are the server’s when it has taken them', async () => {
    const { result } = await opened();
    act(() => result.current.send({ type: 'runStarted', data: {} }));
    expect(result.current.state?.startedAtMs).toBe(server.clock.nowMs);
    expect(result.current.waiting).toBe(1);
    await settle();
    expect(result.current.waiting).toBe(0);
    expect(server.log.map((e) => [e.type, e.seq])).toEqual([['runStarted', 1]]);
    expect(result.current.lastSeq).toBe(1);
  });
  it('keeps its taps while the server is gone, has to be let in again, or is too busy; and sends each once', async () => {
    const { result } = await opened();
    for (const trouble of ['gone', 401, 429, 503] as const) {
      server.gone = trouble === 'gone';
      server.refuse = trouble === 'gone' ? null : { status: trouble, code: trouble === 401 ? 'unknown-device' : 'busy' };
      act(() => result.current.send({ type: 'paused', data: {} }));
      await settle();
      expect(result.current.online).toBe(false);
      expect(result.current.waiting).toBe(1);
      expect(outbox.all()).toHaveLength(1);
      server.gone = false;
      server.refuse = null;
      await settle(2100);
      expect(result.current.waiting).toBe(0);
      expect(outbox.all()).toHaveLength(0);
    }
    expect(server.log).toHaveLength(4);
    expect(new Set(server.log.map((e) => e.id)).size).toBe(4);
  });
  it('keeps what is refused for good with its reason, out of the way of what comes after; not a re-plan that came too late', async () => {
    const { result } = await opened();
    server.refuse = { status: 409, code: 'built-upon' };
    act(() => result.current.send({ type: 'paused', data: {} }));
    await settle();
    expect(result.current.refusal).toBe('refused: built-upon');
    expect(result.current.waiting).toBe(0);
    expect(outbox.all()).toMatchObject([{ what: 'a pause', refused: { code: 'built-upon', reason: 'refused: built-upon' } }]);
    expect(result.current.state?.pausedAtMs).toBeNull();
    server.refuse = { status: 409, code: 'plan-base' };
    act(() => result.current.send({ type: 'planRevised', data: { baseSeq: 0, starts: {} } }));
    await settle();
    expect(result.current.refusal).toBeNull();
    expect(result.current.waiting).toBe(0);
  });
  it('numbers its taps anew behind what another tab of this browser wrote', async () => {
    const { result } = await opened();
    act(() => result.current.send({ type: 'runStarted', data: {} }));
    await settle();
    const first = server.log[0] as StoredEvent;
    server.log = [...server.log, { ...first, id: 'other tab', deviceSeq: 2, seq: 2, type: 'paused', data: {} }];
    act(() => result.current.send({ type: 'resumed', data: {} }));
    await settle();
    expect(server.log.map((e) => [e.type, e.deviceSeq])).toEqual([
      ['runStarted', 1],
      ['paused', 2],
      ['resumed', 3],
    ]);
    expect(result.current.state?.pausedAtMs).toBeNull();
  });
  it('hears of others over the stream, and knows the server’s time from each message', async () => {
    const { result } = await opened();
    const other = { id: 'x', deviceId: 'other', deviceSeq: 1, seq: 1, atMs: server.clock.nowMs, type: 'runStarted', data: {} } as const;
    act(() => server.streams[0]?.say('event', { event: other, clock: { nowMs: server.clock.nowMs + 60_000, speed: 0 } }));
    expect(result.current.state?.startedAtMs).toBe(server.clock.nowMs);
    expect(result.current.nowMs).toBe(server.clock.nowMs + 60_000);
    // The same again counts once.
    act(() => server.streams[0]?.say('event', { event: other, clock: server.clock }));
    expect(result.current.log).toHaveLength(1);
  });
  it('opened without the network it is there as this device last had it, and is fetched when the network is back', async () => {
    const first = await opened();
    act(() => first.result.current.send({ type: 'runStarted', data: {} }));
    await settle();
    first.unmount();
    server.gone = true;
    const { result } = await opened();
    expect(result.current.online).toBe(false);
    expect(result.current.run?.orderName).toBe('Flags');
    expect(result.current.state?.startedAtMs).toBe(server.clock.nowMs);
    act(() => result.current.send({ type: 'taskDone', data: { taskId: plan.tasks[0]?.id as string } }));
    expect(foldRun(plan, result.current.log).tasks.get(plan.tasks[0]?.id as string)?.doneAtMs).not.toBeNull();
    server.gone = false;
    act(() => server.streams.at(-1)?.say('clock', { clock: server.clock }));
    await settle(2100);
    expect(result.current.waiting).toBe(0);
    expect(server.log.map((e) => e.type)).toEqual(['runStarted', 'taskDone']);
  });
});
