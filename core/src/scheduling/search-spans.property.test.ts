import { describe, expect, it } from 'vitest';
import { type Rng, seededRng } from '../time/rng.js';
import type { LeastLag } from './learning/span-model.js';
import type { Problem, Task } from './problem.js';
import { beginSpans, type CappedLag, type OptionalSpan, type ShortenedLag } from './search-spans.js';

const SEED = 20261201;
const CASES = Number(process.env['CASES'] ?? 150);
const HORIZON = 11;
const STROKE = 1;

const upTo = (rng: Rng, most: number): number => Math.floor(rng() * (most + 1));

/** What has to ripen for so long does so three times as fast within a span, and not at all on the way to one. */
const ripening =
  (need: number): LeastLag =>
  (lengths, there, since) => {
    const onTheWay = since.reduce((sum, s, k) => sum + (there[k] ? Math.max(s, STROKE) : 0), 0);
    const within = Math.min(
      lengths.reduce((a, b) => a + b, 0),
      Math.ceil(need / 3),
    );
    return onTheWay + within + Math.max(0, need - 3 * within);
  };

/** What is over-ripe after so long is so the sooner, the longer it lay within spans. */
const overRipe =
  (most: number) =>
  (lengths: readonly number[]): number =>
    Math.max(3, most - 2 * lengths.reduce((a, b) => a + b, 0));

interface Case {
  readonly problem: Problem;
  readonly spans: readonly OptionalSpan[];
  readonly lags: readonly ShortenedLag[];
  readonly maxima: readonly CappedLag[];
}

const taskOf = (chain: string, k: number) => `${chain}${k}`;

/** A chain of tasks by one worker; between each and the next a span may lie, or must, and what lies between any two ripens. */
function chainOf(rng: Rng, chain: string, tasks: number, worker: string): { tasks: Task[]; spans: OptionalSpan[]; lags: ShortenedLag[] } {
  const ids = [...Array(tasks).keys()].map((k) => taskOf(chain, k));
  const spanId = (k: number) => `span ${chain}${k}`;
  return {
    tasks: ids.map((id, k): Task => ({ id, duration: 1 + (tasks === 2 ? upTo(rng, 1) : 0), uses: { [worker]: 1 }, family: `${k}` })),
    spans: ids.slice(1).map(
      (_, k): OptionalSpan => ({
        id: spanId(k),
        worker,
        place: 'place',
        strokeS: STROKE,
        before: ids.slice(0, k + 1),
        after: ids.slice(k + 1),
        leastS: upTo(rng, 1),
        mostS: rng() < 0.5 ? 2 : Number.MAX_SAFE_INTEGER,
        always: rng() < 0.2,
        soonAfter: rng() < 0.3 ? [{ task: ids[k] as string, mostS: upTo(rng, 2) }] : [],
        excludes: [],
      }),
    ),
    lags: ids.flatMap((from, a) =>
      ids.flatMap((to, b): ShortenedLag[] =>
        b > a ? [{ from, to, spans: [...Array(b - a).keys()].map((k) => spanId(a + k)), leastS: ripening(2 + upTo(rng, 9)) }] : [],
      ),
    ),
  };
}

/** Two chains of two tasks, by one or two workers, or one of three; a place that holds one or two. */
function made(rng: Rng): Case {
  const workers = 1 + upTo(rng, 1);
  const isLong = rng() < 0.4;
  const chains = isLong ? [chainOf(rng, 'a', 3, 'worker 0')] : ['a', 'b'].map((c, k) => chainOf(rng, c, 2, `worker ${k % workers}`));
  const spans = chains.flatMap((c) => c.spans);
  // Of two that exclude each other none must be there.
  const isExclusive = rng() < 0.3;
  const other = (id: string) => spans.filter((s) => s.id !== id).map((s) => s.id);
  const lags = chains.flatMap((c) => c.lags);
  const withMaxima = rng() < 0.3;
  return {
    maxima: withMaxima
      ? [
          ...lags.map(({ from, to, spans: between }) => ({ from, to, spans: between, mostS: overRipe(6 + upTo(rng, 5)) })),
          // And one that no span brings nearer.
          ...lags.slice(0, 1).map(({ from, to }) => ({ from, to, spans: [], mostS: overRipe(6 + upTo(rng, 4)) })),
        ]
      : [],
    problem: {
      format: 'kestfog-problem/1',
      resources: [
        ...[...Array(workers).keys()].map((w) => ({
          id: `worker ${w}`,
          capacity: 1,
          changeover: upTo(rng, 1),
          closed: rng() < 0.3 ? ([[4, 6]] as const) : [],
        })),
        { id: 'place', capacity: 1 + upTo(rng, 1) },
      ],
      tasks: chains.flatMap((c) => c.tasks),
      links: chains.flatMap((c) => c.tasks.slice(1).map((t, k) => ({ from: (c.tasks[k] as Task).id, to: t.id, min: 0 }))),
      objective: 'makespan',
    },
    spans: isExclusive ? spans.map((s) => ({ ...s, always: false, excludes: other(s.id) })) : spans,
    lags,
  };
}

interface Held {
  readonly fromS: number;
  readonly toS: number;
}
type Starts = Readonly<Record<string, number>>;

/** Whether starts and spans keep everything, written anew from what the words say. */
function isKept({ problem, spans, lags, maxima }: Case, start: Starts, held: ReadonlyMap<string, Held>): boolean {
  const task = new Map(problem.tasks.map((t) => [t.id, t]));
  const endOf = (id: string) => (start[id] as number) + (task.get(id) as Task).duration;
  for (const s of spans) {
    const h = held.get(s.id);
    if (!h) {
      if (s.always) return false;
      continue;
    }
    const length = h.toS - h.fromS;
    if (length < s.leastS || length > s.mostS) return false;
    if (s.excludes.some((id) => held.has(id))) return false;
    if (s.before.some((id) => endOf(id) > h.fromS - s.strokeS)) return false;
    if (s.after.some((id) => (start[id] as number) < h.toS + s.strokeS)) return false;
    if (s.soonAfter.some((x) => h.fromS - s.strokeS > endOf(x.task) + x.mostS)) return false;
  }
  for (const l of problem.links) if ((start[l.to] as number) < endOf(l.from) + l.min) return false;
  for (const l of lags) {
    let before = start[l.from] as number;
    const since = l.spans.map((id) => {
      const h = held.get(id);
      if (!h) return 0;
      const s = h.fromS - before;
      before = h.toS;
      return s;
    });
    const lengths = l.spans.map((id) => (held.has(id) ? (held.get(id) as Held).toS - (held.get(id) as Held).fromS : 0));
    const there = l.spans.map((id) => held.has(id));
    if ((start[l.to] as number) - (start[l.from] as number) < l.leastS(lengths, there, since)) return false;
  }
  for (const l of maxima) {
    const lengths = l.spans.map((id) => (held.has(id) ? (held.get(id) as Held).toS - (held.get(id) as Held).fromS : 0));
    if ((start[l.to] as number) - (start[l.from] as number) > l.mostS(lengths)) return false;
  }
  for (const r of problem.resources) {
    const strokes = spans.flatMap((s) => {
      const h = held.get(s.id);
      return h && s.worker === r.id ? [h.fromS - s.strokeS, h.toS].map((at) => ({ at, length: s.strokeS, family: null })) : [];
    });
    const own = problem.tasks.flatMap((t) =>
      t.uses?.[r.id] ? [{ at: start[t.id] as number, length: t.duration, family: t.family ?? null }] : [],
    );
    const work = [...own, ...strokes];
    if (work.some((w) => (r.closed ?? []).some(([from, to]) => w.at < to && w.at + w.length > from))) return false;
    for (const [i, a] of work.entries())
      for (const b of work.slice(i + 1)) {
        const gap = a.family && b.family && a.family !== b.family ? (r.changeover ?? 0) : 0;
        if (a.at < b.at + b.length + gap && b.at < a.at + a.length + gap) return false;
      }
    const places = spans.flatMap((s) => {
      const h = held.get(s.id);
      return h && s.place === r.id ? [{ from: h.fromS, to: h.toS + s.strokeS }] : [];
    });
    if (places.some((p) => places.filter((q) => q.from <= p.from && p.from < q.to).length > r.capacity)) return false;
  }
  return true;
}

/** The soonest end of all there is within the horizon, every start and every span tried; null where nothing can be. */
function soonest(c: Case): number | null {
  const tasks = c.problem.tasks;
  let best: number | null = null;
  const start: Record<string, number> = {};
  const held = new Map<string, Held>();
  const span = (i: number): void => {
    const s = c.spans[i];
    if (!s) {
      const end = Math.max(...tasks.map((t) => (start[t.id] as number) + t.duration), ...[...held.values()].map((h) => h.toS + STROKE));
      if ((best === null || end < best) && isKept(c, start, held)) best = end;
      return;
    }
    span(i + 1);
    const of = (id: string) => tasks.find((t) => t.id === id) as Task;
    const leastS = Math.max(...s.before.map((id) => (start[id] as number) + of(id).duration)) + STROKE;
    const mostS = Math.min(...s.after.map((id) => start[id] as number)) - STROKE;
    for (let fromS = leastS; fromS <= mostS; fromS++)
      for (let toS = fromS; toS <= mostS; toS++) {
        held.set(s.id, { fromS, toS });
        span(i + 1);
        held.delete(s.id);
      }
  };
  const place = (i: number): void => {
    const t = tasks[i];
    if (!t) {
      span(0);
      return;
    }
    const follows = c.problem.links.find((l) => l.to === t.id)?.from;
    const least = follows ? (start[follows] as number) + (tasks.find((x) => x.id === follows) as Task).duration : 0;
    for (let s = least; s + t.duration <= HORIZON && (best === null || s + t.duration < best); s++) {
      start[t.id] = s;
      place(i + 1);
    }
  };
  place(0);
  return best;
}

describe(`spans that may be there or not, against every start and every span (seed ${SEED})`, () => {
  const rng = seededRng(SEED);
  const cases = [...Array(CASES).keys()].map(() => made(rng));
  const run = (c: Case) => beginSpans({ ...c, hint: { start: {}, spans: [] }, endsByS: HORIZON, stop: () => false, seed: 1 });
  it('the soonest end is found and proven, or that there is none; what is found keeps everything', () => {
    let withSpans = 0;
    let none = 0;
    for (const [i, c] of cases.entries()) {
      const best = soonest(c);
      const r = run(c).more(100_000);
      expect(r.exhausted, `case ${i}`).toBe(true);
      if (best === null) {
        none += 1;
        expect(r.found, `case ${i}`).toBeNull();
        continue;
      }
      const found = r.found as NonNullable<typeof r.found>;
      expect(r.leastEndS, `case ${i}`).toBe(best);
      const held = new Map(found.spans.map((s) => [s.id, s]));
      expect(isKept(c, found.start, held), `case ${i}: ${JSON.stringify(found)}`).toBe(true);
      if (found.spans.length > 0) withSpans += 1;
    }
    // Of every kind there are some, else nothing is shown.
    expect(withSpans).toBeGreaterThan(CASES / 5);
    expect(none).toBeGreaterThan(0);
    expect(none).toBeLessThan(CASES / 2);
  });
  it('gone on with in small steps it comes to the same end, and its bound never goes beyond it', () => {
    for (const c of cases.slice(0, 40)) {
      const whole = run(c).more(100_000);
      const inSteps = run(c);
      let found = null as typeof whole.found;
      for (let i = 0; i < 1000; i++) {
        const r = inSteps.more(32);
        found = r.found ?? found;
        expect(r.leastEndS).toBeLessThanOrEqual(whole.leastEndS);
        if (r.exhausted) break;
      }
      expect(found === null).toBe(whole.found === null);
    }
  });
  it('what must end sooner than there is anything is not found', () => {
    for (const c of cases.slice(0, 40)) {
      const best = soonest(c);
      if (best === null) continue;
      const r = run(c);
      r.endsBy(best - 1);
      expect(r.more(100_000)).toMatchObject({ found: null, exhausted: true });
    }
  });

  // By hand: three chains take turns at the place that helps, held for two seconds each from the second on; the other helps nothing.
  it('what places of two kinds are held together is not reckoned by the slower of them', () => {
    const chains = [0, 1, 2];
    const span = (c: number, place: string): OptionalSpan => ({
      id: `${place} ${c}`,
      worker: `worker ${c}`,
      place,
      strokeS: STROKE,
      before: [`from ${c}`],
      after: [`to ${c}`],
      leastS: 0,
      mostS: Number.MAX_SAFE_INTEGER,
      always: false,
      soonAfter: [],
      excludes: [place === 'slow' ? `fast ${c}` : `slow ${c}`],
    });
    const need = 9;
    const r = beginSpans({
      problem: {
        format: 'kestfog-problem/1',
        resources: [...chains.map((c) => ({ id: `worker ${c}`, capacity: 1 })), { id: 'slow', capacity: 1 }, { id: 'fast', capacity: 1 }],
        tasks: chains.flatMap((c) => ['from', 'to'].map((k): Task => ({ id: `${k} ${c}`, duration: 1, uses: { [`worker ${c}`]: 1 } }))),
        links: chains.map((c) => ({ from: `from ${c}`, to: `to ${c}`, min: 0 })),
        objective: 'makespan',
      },
      spans: chains.flatMap((c) => [span(c, 'slow'), span(c, 'fast')]),
      lags: chains.map((c) => ({
        from: `from ${c}`,
        to: `to ${c}`,
        spans: [`slow ${c}`, `fast ${c}`],
        leastS: ([slow = 0, fast = 0]) => (fast >= 1 ? 1 : slow + Math.max(0, need - slow)),
      })),
      hint: { start: {}, spans: [] },
      endsByS: 9,
      stop: () => false,
      seed: 1,
    }).more(100_000);
    expect(r.found).not.toBeNull();
    expect(r).toMatchObject({ exhausted: true, leastEndS: 9 });
  });
});
