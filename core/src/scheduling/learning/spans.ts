import type { Engine, Propagator } from './engine.js';
import { calendarPropagator, timeTable, type Usage } from './propagators.js';
import { energyPropagator, lagPropagator, leastWhere, maximumPropagator } from './span-lags.js';
import type { SearchParts, Span, SpanAt, SpanModel, SpanVariables } from './span-model.js';

/** So often a bound is raised by just what a lag asks for, before it is raised by more. */
const SETTLED_STEP_BY_STEP = 3;

/** Spans within a search over orders: adds their variables, differences and propagators, and settles their lengths at its leaves. */
export class SearchedSpans {
  private readonly variables: readonly SpanVariables[];
  private readonly pairs: Pair[] = [];
  /** how often each bound was settled since the last decision of another kind, and the level of the trail then */
  private readonly settled = new Map<number, number>();
  private settledAt = -1;

  constructor(
    private readonly model: SpanModel,
    parts: SearchParts,
    hint: ReadonlySet<number>,
  ) {
    const { m, edges, propagators, makespan } = parts;
    // Of a span that is not there the strokes are anywhere, closed hours or not.
    const never = 2 * Math.max(parts.mostMakespan, ...m.resources.flatMap((r) => r.closed.map((c) => c.fromS))) + 1;
    this.variables = model.spans.map((s, i) => {
      const there = s.always ? parts.add(1, 1) : parts.choice(hint.has(i) ? 1 : 0);
      const [begin, end] = [parts.add(0, never), parts.add(0, never)];
      const only = { when: there, is: 1 } as const;
      edges.push({ from: begin, to: end, weight: s.strokeS + s.leastS, ...only });
      if (s.mostS < parts.mostMakespan) edges.push({ from: end, to: begin, weight: -(s.strokeS + s.mostS), ...only });
      edges.push({ from: end, to: makespan, weight: s.strokeS, ...only });
      for (const u of s.before) edges.push({ from: u, to: begin, weight: m.duration[u], ...only });
      for (const v of s.after) edges.push({ from: end, to: v, weight: s.strokeS, ...only });
      for (const { task, mostS } of s.soonAfter) edges.push({ from: begin, to: task, weight: -(m.duration[task] + mostS), ...only });
      const { closed } = m.resources[s.worker];
      if (closed.length > 0) propagators.push(calendarPropagator(begin, s.strokeS, closed), calendarPropagator(end, s.strokeS, closed));
      return { there, begin, end };
    });
    for (const [a, b] of model.excludes)
      propagators.push(oneOf([2 * this.variables[a].there + 1, 2 * this.variables[b].there + 1], [0, 0]));
    this.addWork(parts);
    this.addPlaces(parts);
    for (const lag of model.lags) propagators.push(lagPropagator(lag, model.spans, this.variables));
    for (const maximum of model.maxima) propagators.push(maximumPropagator(maximum, model.spans, this.variables));
    const energy = energyPropagator(model, parts);
    if (energy) propagators.push(energy);
  }

  /** 0–1 variables: which spans are there */
  get there(): readonly number[] {
    return this.variables.map((v) => v.there);
  }

  /** Both strokes keep apart from the worker's other work. */
  private addWork(parts: SearchParts): void {
    const { m } = parts;
    const { spans } = this.model;
    const strokes = (i: number): Held[] =>
      [this.variables[i].begin, this.variables[i].end].map((x) => ({ from: x, fromS: 0, to: x, toS: spans[i].strokeS }));
    for (const [i, s] of spans.entries()) {
      const known = new Set([...s.before, ...s.after]);
      for (let v = 0; v < m.n; v++) {
        if (known.has(v) || !m.demands[v].some((d) => d.resource === s.worker) || m.duration[v] === 0) continue;
        const task = { from: v, fromS: 0, to: v, toS: m.duration[v] };
        for (const stroke of strokes(i)) this.keepApart(parts, [this.variables[i].there], stroke, task);
      }
      for (let j = i + 1; j < spans.length; j++) {
        if (spans[j].worker !== s.worker || this.areOrdered(i, j)) continue;
        const when = [this.variables[i].there, this.variables[j].there];
        for (const a of strokes(i)) for (const b of strokes(j)) this.keepApart(parts, when, a, b);
      }
    }
  }

  /** Never more spans at a place than it has units. */
  private addPlaces(parts: SearchParts): void {
    const { m, propagators, usages, incumbent } = parts;
    const { spans, places } = this.model;
    // Taken once it is carried there, free once it is taken out.
    const held = (i: number): Held => {
      const { begin, end } = this.variables[i];
      return { from: begin, fromS: spans[i].strokeS, to: end, toS: spans[i].strokeS };
    };
    const readyS = (i: number) => Math.max(0, ...spans[i].before.map((u) => incumbent[u] + m.duration[u]));
    for (const [p, resource] of places.entries()) {
      const own = [...spans.keys()].filter((i) => spans[i].place === p);
      const { capacity } = m.resources[resource];
      if (own.length <= capacity) continue;
      if (capacity === 1) {
        for (const i of own)
          for (const j of own)
            if (j > i && !this.areOrdered(i, j))
              this.keepApart(parts, [this.variables[i].there, this.variables[j].there], held(i), held(j), readyS(i) <= readyS(j));
        continue;
      }
      const list: Usage[] & { capacity?: number } = own.map((i) => {
        const { from, fromS, to, toS } = held(i);
        return { from, to, lengthS: toS, amount: 1, takenAfterS: fromS, when: this.variables[i].there };
      });
      list.capacity = capacity;
      usages.push(list);
      propagators.push(timeTable(list, capacity));
    }
  }

  /**
   * One of two after the other, where these spans are there. Which is branched on as what counts most where a first guess is given, else
   * decided only where they would be at the same time ({@link toOrder}).
   */
  private keepApart(parts: SearchParts, when: readonly number[], a: Held, b: Held, isFirst?: boolean): void {
    const { edges, propagators, add, choice } = parts;
    const [ab, ba] = isFirst === undefined ? [add(0, 1), add(0, 1)] : [choice(isFirst ? 1 : 0), choice(isFirst ? 0 : 1)];
    edges.push(
      { from: a.to, to: b.from, weight: a.toS - b.fromS, when: ab, is: 1 },
      { from: b.to, to: a.from, weight: b.toS - a.fromS, when: ba, is: 1 },
    );
    propagators.push(oneOf([...when.map((x) => 2 * x + 1), 2 * ab, 2 * ba], [...when.map(() => 0), 1, 1]));
    this.pairs.push({ when, a, b, ab, ba });
  }

  /** Two that are to be kept apart and, each at its least start, are not: one of them goes first. null where all are apart. */
  toOrder(engine: Engine): number | null {
    for (const { when, a, b, ab, ba } of this.pairs) {
      if (engine.least(ab) === 1 || engine.least(ba) === 1 || when.some((x) => engine.least(x) === 0)) continue;
      const [fromA, fromB] = [engine.least(a.from) + a.fromS, engine.least(b.from) + b.fromS];
      if (engine.least(a.to) + a.toS <= fromB || engine.least(b.to) + b.toS <= fromA) continue;
      const first = fromA <= fromB ? ab : ba;
      return engine.greatest(first) === 1 ? first : first === ab ? ba : ab;
    }
    return null;
  }

  /** Whether one of two spans always comes before the other, or at most one of them is there. */
  private areOrdered(i: number, j: number): boolean {
    const { spans, excludes } = this.model;
    const [a, b] = [spans[i], spans[j]];
    const between = (x: Span, y: Span) => x.after.some((v) => y.before.includes(v));
    return between(a, b) || between(b, a) || excludes.some(([x, y]) => (x === i && y === j) || (x === j && y === i));
  }

  /**
   * What {@link notSettled} asks for. Making a span longer also moves what comes after it, so that the lag may be short by as much again:
   * what is asked for again and again is raised by twice as much each time.
   */
  toSettle(engine: Engine): { readonly bound: number; readonly value: number } | null {
    const ask = this.notSettled(engine) ?? this.tooFarApart(engine);
    if (engine.trail.level !== this.settledAt + 1) this.settled.clear();
    this.settledAt = engine.trail.level;
    if (!ask) return null;
    const times = (this.settled.get(ask.bound) ?? 0) + 1;
    this.settled.set(ask.bound, times);
    const at = engine.trail.at[ask.bound];
    const most = -engine.trail.at[ask.bound ^ 1];
    return { bound: ask.bound, value: Math.min(most, at + (ask.value - at) * 2 ** Math.max(0, times - SETTLED_STEP_BY_STEP)) };
  }

  /**
   * At a leaf, each task at its least start, a lag may not be kept yet: a span to make longer, or the later task to begin later, or what
   * lies before a span to come closer to it. null where all are kept.
   */
  private notSettled(engine: Engine): { readonly bound: number; readonly value: number } | null {
    for (const lag of this.model.lags) {
      const { from, to, spans, leastS } = lag;
      const v = spans.map((i) => this.variables[i]);
      const s = spans.map((i) => this.model.spans[i]);
      const there = v.map((x) => engine.least(x.there) === 1);
      const haveS = engine.least(to) - engine.least(from);
      /** the lag with every stroke at its least, but the end of one span */
      const needed = (k: number, endS: number): number => {
        let before = engine.least(from);
        const since = v.map(() => 0);
        const lengths = v.map((x, j) => {
          if (!there[j]) return 0;
          const [begin, end] = [engine.least(x.begin), j === k ? endS : engine.least(x.end)];
          since[j] = Math.max(0, begin + s[j].strokeS - before);
          before = end;
          return Math.min(s[j].mostS, Math.max(0, end - begin - s[j].strokeS));
        });
        return leastS(lengths, there, since);
      };
      const needS = needed(-1, 0);
      if (needS <= haveS) continue;
      let longer: { bound: number; value: number } | null = null;
      for (let k = spans.length - 1; k >= 0; k--) {
        const { end, begin } = v[k];
        const most = Math.min(engine.greatest(end), engine.least(begin) + s[k].strokeS + s[k].mostS, engine.least(to));
        const least = engine.least(end);
        if (!there[k] || most <= least) continue;
        const isKept = (x: number) => needed(k, least + x) <= haveS;
        if (isKept(most - least)) return { bound: 2 * end, value: least + leastWhere(most - least, isKept) };
        longer ??= { bound: 2 * end, value: most };
      }
      const later = engine.least(from) + needS;
      if (later <= engine.greatest(to)) return { bound: 2 * to, value: later };
      if (longer) return longer;
      const between = [from, ...v.flatMap((x, k) => (there[k] ? [x.begin, x.end] : [])), to];
      const [first] = between.filter((x) => !engine.isFixed(x)).sort((a, b) => width(engine, b) - width(engine, a));
      if (first !== undefined) return { bound: 2 * first, value: engine.least(first) + Math.ceil(width(engine, first) / 2) };
    }
    return null;
  }

  /** At a leaf, a greatest lag may not be kept yet: the earlier task begins later, or a span is made shorter. null where all are kept. */
  private tooFarApart(engine: Engine): { readonly bound: number; readonly value: number } | null {
    for (const { from, to, spans, mostS } of this.model.maxima) {
      const own = spans.map((i) => ({ ...this.variables[i], strokeS: this.model.spans[i].strokeS }));
      const lengths = own.map((x) => (engine.least(x.there) === 1 ? engine.least(x.end) - engine.least(x.begin) - x.strokeS : 0));
      const leastFrom = engine.least(to) - mostS(lengths);
      if (engine.least(from) >= leastFrom) continue;
      if (!engine.isFixed(from)) return { bound: 2 * from, value: Math.min(engine.greatest(from), leastFrom) };
      const there = own.flatMap((x) => (engine.least(x.there) === 1 ? [x.begin, x.end] : []));
      const [first] = [...there, to].filter((x) => !engine.isFixed(x));
      if (first !== undefined) return { bound: 2 * first, value: engine.least(first) + Math.ceil(width(engine, first) / 2) };
    }
    return null;
  }

  /** The spans that are there, at the least starts of their strokes. */
  found(engine: Engine): SpanAt[] {
    return this.variables.flatMap((v, span) =>
      engine.least(v.there) === 1 ? [{ span, beginS: engine.least(v.begin), endS: engine.least(v.end) }] : [],
    );
  }
}

/** From some seconds after one start to some after another. */
interface Held {
  readonly from: number;
  readonly fromS: number;
  readonly to: number;
  readonly toS: number;
}

/** Two that must not be at the same time where these spans are there: a before b, or b before a, each a 0–1 variable. */
interface Pair {
  readonly when: readonly number[];
  readonly a: Held;
  readonly b: Held;
  readonly ab: number;
  readonly ba: number;
}

const width = (engine: Engine, x: number): number => engine.greatest(x) - engine.least(x);

/** At least one of the literals "bound ≥ value" holds. */
export function oneOf(bounds: readonly number[], values: readonly number[]): Propagator {
  return {
    wakes: bounds.map((b) => b ^ 1),
    run: (engine) => {
      let open = -1;
      for (let k = 0; k < bounds.length; k++) {
        if (engine.trail.at[bounds[k]] >= values[k]) return true;
        if (engine.trail.at[bounds[k] ^ 1] >= 1 - values[k]) continue;
        if (open >= 0) return true;
        open = k;
      }
      const r = engine.reason();
      for (let k = 0; k < bounds.length; k++) if (k !== open) engine.trail.because(bounds[k] ^ 1, 1 - values[k]);
      return open < 0 ? engine.fail(r) : engine.raise(bounds[open], values[open], r);
    },
  };
}
