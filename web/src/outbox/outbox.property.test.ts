import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { ApiFailure } from '../api/client.js';
import { type Entry, Outbox, type Shelf, type Way } from './outbox.js';
import { readWaitingFile, waitingFile } from './waiting-file.js';

/** One browser: a shelf all its tabs share, a lock across them, and a server that is there or not. */
class Browser {
  readonly kept = new Map<string, Entry>();
  readonly tabs: Outbox[] = [];
  online = true;
  /** what the server has, by id; sent twice it counts once */
  readonly server = new Map<string, unknown>();
  readonly order: string[] = [];
  answersLost = false;
  /** what everything but taps waits for on the server */
  slow: Promise<void> = Promise.resolve();
  private readonly locks = new Map<Way, Promise<void>>();
  private ids = 0;
  private readonly shelf: Shelf = {
    all: async () => [...this.kept.values()],
    put: async (e) => void this.kept.set(e.id, structuredClone(e)),
    remove: async (id) => void this.kept.delete(id),
  };

  /** A tab that is closed sends nothing more. */
  close(tab: Outbox | undefined): void {
    if (tab) this.closed.add(tab);
  }
  private readonly closed = new Set<Outbox>();

  open(): Outbox {
    const tab: Outbox = new Outbox({
      shelf: this.shelf,
      send: async (e) => {
        await Promise.resolve();
        if (e.kind !== 'tap') await this.slow;
        if (!this.online || this.closed.has(tab)) throw new ApiFailure(0, 'offline', 'nobody answers');
        if ((e.request.body as { bad?: true }).bad) throw new ApiFailure(409, 'no', 'The server said no.');
        if (!this.server.has(e.id)) this.order.push(e.id);
        this.server.set(e.id, e.request.body);
        if (this.answersLost) throw new ApiFailure(0, 'offline', 'the answer was lost');
        return e.request.body;
      },
      alone: (way, work) => {
        const mine = (this.locks.get(way) ?? Promise.resolve()).then(work);
        this.locks.set(
          way,
          mine.catch(() => undefined),
        );
        return mine;
      },
      tell: () => void Promise.resolve().then(() => Promise.all(this.tabs.map((t) => t.load()))),
      nowMs: () => Date.now(),
      newId: () => `refused ${++this.ids}`,
    });
    this.tabs.push(tab);
    return tab;
  }
}

let made = 0;
const entry = (queue: string, body: object, id = `e${++made}`, kind: Entry['kind'] = 'tap'): Entry => ({
  id,
  queue,
  kind,
  what: 'a pause',
  place: '/',
  order: String(++made).padStart(8, '0'),
  notBeforeMs: 0,
  request: { method: 'POST', path: '/', body },
  quietCodes: [],
  refused: null,
});

describe('the outbox of a browser', () => {
  it('any taps and edits in three tabs, with the network coming and going, end on the server once, and what was refused in the list (seed 1516)', async () => {
    vi.useFakeTimers();
    const act = fc.oneof(
      { weight: 6, arbitrary: fc.record({ kind: fc.constant('tap' as const), tab: fc.nat(2), queue: fc.nat(2), bad: fc.boolean() }) },
      { weight: 4, arbitrary: fc.record({ kind: fc.constant('edit' as const), tab: fc.nat(2), design: fc.nat(1) }) },
      { weight: 3, arbitrary: fc.record({ kind: fc.constant('network' as const), up: fc.boolean(), lost: fc.boolean() }) },
      { weight: 2, arbitrary: fc.record({ kind: fc.constant('reload' as const), tab: fc.nat(2) }) },
      { weight: 4, arbitrary: fc.record({ kind: fc.constant('wait' as const), ms: fc.nat(4000) }) },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(act, { minLength: 3, maxLength: 30 }), async (acts) => {
        const b = new Browser();
        for (let t = 0; t < 3; t++) b.open();
        const good: string[] = [];
        let bad = 0;
        const edits = new Map<string, number>();
        for (const a of acts) {
          if (a.kind === 'tap') {
            const isBad = a.bad && a.queue === 0;
            const e = entry(`run:${a.queue}`, isBad ? { bad: true } : { n: made });
            if (isBad) bad += 1;
            else good.push(e.id);
            b.tabs[a.tab]?.put(e);
          } else if (a.kind === 'edit') {
            const id = `design:${a.design}`;
            edits.set(id, made + 1);
            b.tabs[a.tab]?.put(entry(id, { edit: made + 1 }, id, 'design'));
          } else if (a.kind === 'network') {
            b.online = a.up;
            b.answersLost = a.lost;
          } else if (a.kind === 'reload') {
            // What was put is on the shelf a moment later; the tab that comes next finds it there.
            await vi.advanceTimersByTimeAsync(1);
            b.close(b.tabs[a.tab]);
            b.tabs[a.tab] = b.open();
            b.tabs.pop();
            void b.tabs[a.tab]?.send();
          } else await vi.advanceTimersByTimeAsync(a.ms);
        }
        b.online = true;
        b.answersLost = false;
        for (const t of b.tabs) void t.send();
        await vi.advanceTimersByTimeAsync(10_000);
        expect([...b.server.keys()].filter((k) => k.startsWith('e')).sort()).toEqual([...good].sort());
        for (const [id, last] of edits) expect(b.server.get(id)).toEqual({ edit: last });
        expect([...b.kept.values()].filter((e) => e.refused)).toHaveLength(bad);
        expect([...b.kept.values()].filter((e) => !e.refused)).toEqual([]);
        for (const t of b.tabs) expect(t.all().map((e) => e.id)).toEqual([...b.kept.keys()]);
      }),
      { seed: 1516, numRuns: 200 },
    );
    vi.useRealTimers();
  });
  it('taps of one run keep their order, whichever tab sends them', async () => {
    vi.useFakeTimers();
    const b = new Browser();
    const [one, two] = [b.open(), b.open()];
    b.online = false;
    const ids = [...Array(6).keys()].map((k) => {
      const e = entry('run:1', {});
      (k % 2 ? two : one).put(e);
      return e.id;
    });
    await vi.advanceTimersByTimeAsync(100);
    b.online = true;
    await vi.advanceTimersByTimeAsync(5000);
    expect(b.order).toEqual(ids);
    vi.useRealTimers();
  });
  it('what was refused is kept with its reason, tried again, and let go only by hand', async () => {
    const b = new Browser();
    const tab = b.open();
    tab.put(entry('run:1', { bad: true }));
    await vi.waitFor(() => expect(tab.all()).toMatchObject([{ refused: { code: 'no', reason: 'The server said no.' } }]));
    const [refused] = tab.all() as [Entry];
    tab.tryAgain(refused.id);
    await vi.waitFor(() => expect(tab.all().filter((e) => e.refused)).toHaveLength(1));
    tab.letGo((tab.all()[0] as Entry).id);
    await vi.waitFor(() => expect(b.kept.size).toBe(0));
    expect(tab.all()).toEqual([]);
  });
  it('who asks is answered with what became of it: taken, refused to their face and not kept besides, or kept until the server answers', async () => {
    vi.useFakeTimers();
    const b = new Browser();
    const [one, two] = [b.open(), b.open()];
    expect(await one.ask(entry('typed', { n: 1 }, 'x', 'write'))).toEqual({ as: 'taken', answer: { n: 1 } });
    expect(await one.ask(entry('typed', { bad: true }, 'y', 'write'))).toMatchObject({
      as: 'refused',
      why: { message: 'The server said no.' },
    });
    expect(one.all()).toEqual([]);
    b.online = false;
    expect(await one.ask(entry('typed', { n: 2 }, 'z', 'write'))).toEqual({ as: 'waiting' });
    expect(one.all().map((e) => e.id)).toEqual(['z']);
    // What is typed on takes its place; sent by another tab, it is taken, only its answer is not known here.
    const asked = one.ask(entry('typed', { n: 3 }, 'z', 'write'));
    b.online = true;
    void two.send();
    await vi.advanceTimersByTimeAsync(3000);
    expect(await asked).toMatchObject({ as: expect.stringMatching(/taken|waiting/) });
    expect(b.server.get('z')).toEqual({ n: 3 });
    expect(one.all()).toEqual([]);
    vi.useRealTimers();
  });
  it('refused because somebody else came first, it is sent instead over what is there, under the name it had', async () => {
    const b = new Browser();
    const tab = b.open();
    tab.put(entry('typed', { bad: true }, 'order 1', 'write'));
    await vi.waitFor(() => expect(tab.all()[0]?.refused).toBeTruthy());
    tab.sendInstead((tab.all()[0] as Entry).id, { n: 4 });
    await vi.waitFor(() => expect(b.server.get('order 1')).toEqual({ n: 4 }));
    await vi.waitFor(() => expect(b.kept.size).toBe(0));
  });
  it('a tap does not wait behind a drawing that takes its time', async () => {
    const b = new Browser();
    const tab = b.open();
    let done: () => void = () => undefined;
    b.slow = new Promise((r) => {
      done = r;
    });
    const drawing = tab.ask(entry('typed', { svg: '' }, 'drawing', 'write'));
    expect(await tab.ask(entry('run:1', { n: 5 }, 'tap'))).toMatchObject({ as: 'taken' });
    expect(b.server.has('drawing')).toBe(false);
    done();
    expect(await drawing).toMatchObject({ as: 'taken' });
  });
  it('what is still being typed rests first, and the newest of it is what is sent', async () => {
    vi.useFakeTimers();
    const b = new Browser();
    const tab = b.open();
    for (const edit of [1, 2, 3]) tab.put({ ...entry('design:1', { edit }, 'design:1'), notBeforeMs: Date.now() + 500 });
    await vi.advanceTimersByTimeAsync(400);
    expect(b.server.size).toBe(0);
    await vi.advanceTimersByTimeAsync(300);
    expect([...b.server.values()]).toEqual([{ edit: 3 }]);
    expect(tab.all()).toEqual([]);
    vi.useRealTimers();
  });
  it('what waited under one address is carried to another in a file, in its order, and taken in twice it is kept once', async () => {
    vi.useFakeTimers();
    const [old, now] = [new Browser(), new Browser()];
    const tab = old.open();
    old.online = false;
    const waiting = [1, 2, 3].map((n) => ({
      ...entry('run:1', { n }),
      request: { method: 'POST' as const, path: '/runs/1/events', body: { n } },
    }));
    for (const e of waiting) tab.put(e);
    tab.put({ ...entry('typed', {}), refused: { code: 'x', reason: 'no' } });
    await vi.advanceTimersByTimeAsync(100);
    const file = waitingFile(tab.all());
    const there = now.open();
    for (const _ of ['once', 'again']) {
      there.takeIn(readWaitingFile(file));
      await vi.advanceTimersByTimeAsync(1000);
    }
    expect([...now.server.keys()]).toEqual(waiting.map((e) => e.id));
    expect(there.all()).toEqual([]);
    const spoilt = (change: object) => JSON.stringify({ format: 'kestfog-waiting/1', entries: [{ ...waiting[0], ...change }] });
    for (const [text, why] of [
      ['{', /nothing that waits/],
      ['null', /nothing that waits/],
      ['{"format":"kestfog-waiting/2","entries":[]}', /nothing that waits/],
      [spoilt({ kind: 'other' }), /Thing 1 .* changed or cut off/],
      [spoilt({ queue: undefined }), /Thing 1/],
      [spoilt({ quietCodes: [1] }), /Thing 1/],
      [spoilt({ request: { method: 'GET', path: '/x', body: {} } }), /Thing 1/],
      [spoilt({ request: { method: 'POST', path: '//elsewhere.test/x', body: {} } }), /Thing 1/],
      [spoilt({ request: { method: 'POST', path: 'https://elsewhere.test', body: {} } }), /Thing 1/],
    ] as const)
      expect(() => readWaitingFile(text)).toThrow(why);
    vi.useRealTimers();
  });
});
