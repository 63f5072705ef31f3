import type { Model } from '../model.js';
import type { Edge } from './differences.js';
import type { Engine, Propagator } from './engine.js';
import { calendarPropagator, timeTable, type Usage } from './propagators.js';

/**
 * A span that may be there or not: a stroke of work begins it, another ends it, and between the two it holds one unit of a place, as
 * long as is best. Where it is there, some tasks come before it and some after.
 */
export interface Span {
  /** resource of capacity 1 that does both strokes, by index */
  readonly worker: number;
  /** resource it holds one unit of, from the end of the first stroke to the end of the second, by index in {@link SpanModel.places} */
  readonly place: number;
  readonly strokeS: number;
  readonly before: readonly number[];
  readonly after: readonly number[];
  /** how long it is at least and at most, from the end of the first stroke to the start of the second */
  readonly leastS: number;
  readonly mostS: number;
  /** it is there in any case */
  readonly always: boolean;
  /** tasks it begins no later than so long after the end of */
  readonly soonAfter: readonly { readonly task: number; readonly mostS: number }[];
}

/** A lag from the start of one task to the start of another that is shorter by spans between them. */
export interface SpannedLag {
  readonly from: number;
  readonly to: number;
  /** spans that may lie between, in their order, by index in {@link SpanModel.spans} */
  readonly spans: readonly number[];
  /** least lag with spans as far as they are known; never more where one is longer, or where less is known */
  readonly leastS: LeastLag;
}

/**
 * `lengthsS`: how long each span is at most; one that is not there has length 0. `there`: those that certainly are. `sinceS`: of those, how
 * long before it begins the one before ended its hold, or the earlier task began, at least; 0 where that is not known.
 */
export type LeastLag = (lengthsS: readonly number[], there: readonly boolean[], sinceS: readonly number[]) => number;

/** Spans, what they shorten, and where they are held. Of two that exclude each other at most one is there. */
export interface SpanModel {
  readonly spans: readonly Span[];
  readonly lags: readonly SpannedLag[];
  readonly places: readonly number[];
  readonly excludes: readonly (readonly [number, number])[];
}

/** Where a span is in a schedule: when its first and its second stroke begin. */
export interface SpanAt {
  readonly span: number;
  readonly beginS: number;
  readonly endS: number;
}

/** What a search is built from, as far as spans add to it. */
export interface SearchParts {
  readonly m: Model;
  readonly earliest: readonly number[];
  readonly incumbent: readonly number[];
  readonly edges: Edge[];
  readonly propagators: Propagator[];
  readonly add: (lo: number, hi: number) => number;
  /** a 0–1 variable that is branched on */
  readonly choice: (phase: 0 | 1) => number;
  readonly usages: (Usage[] & { capacity?: number })[];
  readonly makespan: number;
  readonly mostMakespan: number;
}

/** The variables of a span: whether it is there, and the starts of its two strokes. */
interface Variables {
  readonly there: number;
  readonly begin: number;
  readonly end: number;
}

/** Spans within a search over orders: adds their variables, differences and propagators, and settles their lengths at its leaves. */
export class SearchedSpans {
  private readonly variables: readonly Variables[];
  private readonly pairs: Pair[] = [];

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
    for (const lag of model.lags) propagators.push(this.lagPropagator(lag));
    const energy = this.energyPropagator(parts);
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

  /** How long a span may be at most as its bounds stand. */
  private longestS(engine: Engine, i: number): number {
    const { there, begin, end } = this.variables[i];
    const s = this.model.spans[i];
    if (engine.greatest(there) === 0) return 0;
    return Math.min(s.mostS, Math.max(0, engine.greatest(end) - engine.least(begin) - s.strokeS));
  }

  private lagPropagator(lag: SpannedLag): Propagator {
    const { from, to, leastS } = lag;
    const own = lag.spans.map((i) => ({ ...this.variables[i], ...this.model.spans[i], i }));
    const n = own.length;
    const lengths = new Array<number>(n).fill(0);
    const told = new Array<number>(n).fill(0);
    const there = new Array<boolean>(n).fill(false);
    const since = new Array<number>(n).fill(0);
    const unknown = new Array<number>(n).fill(0);
    /** of each span that is there, what ended or began before it: the variable `since` is reckoned from; −1 where that is not known */
    const after = new Int32Array(n);
    const look = (engine: Engine) => {
      let before = from;
      for (let j = 0; j < n; j++) {
        const s = own[j];
        lengths[j] = this.longestS(engine, s.i);
        there[j] = engine.least(s.there) === 1;
        since[j] = 0;
        after[j] = -1;
        if (there[j]) {
          if (before >= 0) {
            since[j] = Math.max(0, engine.least(s.begin) + s.strokeS - engine.greatest(before));
            after[j] = before;
          }
          before = s.end;
        } else if (engine.greatest(s.there) === 1) before = -1;
      }
    };
    /** Writes why no span but `k` is longer, and none begins sooner, as far as a lag of `needS` asks for it. Whether it names `begin` of k. */
    const because = (engine: Engine, needS: number, k: number, as: number): boolean => {
      for (let j = 0; j < n; j++) told[j] = j === k ? as : lengths[j];
      const isTimed = leastS(told, there, unknown) < needS;
      const at = isTimed ? since : unknown;
      for (let j = 0; j < n; j++) {
        if (j === k) continue;
        const { there: is, begin, end, mostS } = own[j];
        const was = told[j];
        if (was < mostS) {
          told[j] = mostS;
          if (leastS(told, there, at) >= needS) continue;
          told[j] = was;
          if (engine.greatest(is) === 0) engine.trail.because(2 * is + 1, 0);
          else {
            engine.trail.because(2 * end + 1, -engine.greatest(end));
            engine.trail.because(2 * begin, engine.least(begin));
          }
        }
      }
      for (let j = 0; j < n; j++) {
        if (there[j]) engine.trail.because(2 * own[j].there, 1);
        else if (isTimed && engine.greatest(own[j].there) === 0) engine.trail.because(2 * own[j].there + 1, 0);
        if (!isTimed || since[j] <= 0) continue;
        engine.trail.because(2 * own[j].begin, engine.least(own[j].begin));
        engine.trail.because(2 * after[j] + 1, -engine.greatest(after[j]));
      }
      return isTimed;
    };
    return {
      wakes: [
        ...new Set([
          2 * from,
          2 * from + 1,
          2 * to + 1,
          ...own.flatMap((s) => [s.there, s.begin, s.end].flatMap((x) => [2 * x, 2 * x + 1])),
        ]),
      ],
      run: (engine) => {
        look(engine);
        const needS = leastS(lengths, there, since);
        if (engine.least(from) + needS > engine.least(to)) {
          const r = engine.reason();
          engine.trail.because(2 * from, engine.least(from));
          because(engine, needS, -1, 0);
          if (!engine.raise(2 * to, engine.least(from) + needS, r, true)) return false;
        }
        if (isNews(engine, 2 * from + 1, needS - engine.greatest(to))) {
          const r = engine.reason();
          engine.trail.because(2 * to + 1, -engine.greatest(to));
          because(engine, needS, -1, 0);
          if (!engine.raise(2 * from + 1, -(engine.greatest(to) - needS), r, true)) return false;
        }
        const mostS = engine.greatest(to) - engine.least(from);
        for (let k = 0; k < n; k++) {
          if (lengths[k] === 0) continue;
          const s = own[k];
          const was = lengths[k];
          const at = (lengthS: number) => {
            lengths[k] = lengthS;
            const needed = leastS(lengths, there, since);
            lengths[k] = was;
            return needed;
          };
          if (at(0) <= mostS) continue;
          const tell = (lengthS: number): boolean => {
            engine.trail.because(2 * from, engine.least(from));
            engine.trail.because(2 * to + 1, -engine.greatest(to));
            return because(engine, mostS + 1, k, lengthS);
          };
          if (!there[k]) {
            const r = engine.reason();
            tell(0);
            if (!engine.raise(2 * s.there, 1, r)) return false;
          }
          // Most of the time a span is already as long as it must be at its least.
          const [leastEnd, greatestBegin] = [engine.least(s.end), engine.greatest(s.begin)];
          const atLeastS = Math.min(was, Math.max(0, leastEnd - engine.least(s.begin) - s.strokeS));
          const atGreatestS = Math.min(was, Math.max(0, engine.greatest(s.end) - greatestBegin - s.strokeS));
          if (at(Math.min(atLeastS, atGreatestS)) <= mostS) continue;
          const leastLengthS = leastWhere(was, (x) => at(x) <= mostS);
          if (isNews(engine, 2 * s.end, engine.least(s.begin) + s.strokeS + leastLengthS)) {
            const r = engine.reason();
            engine.trail.because(2 * s.begin, engine.least(s.begin));
            if (!there[k]) engine.trail.because(2 * s.there, 1);
            // Where it also counts since when the span is there, an earlier begin says less than so much less.
            const isTimed = tell(leastLengthS - 1);
            if (!engine.raise(2 * s.end, engine.least(s.begin) + s.strokeS + leastLengthS, r, !isTimed)) return false;
          }
          if (isNews(engine, 2 * s.begin + 1, s.strokeS + leastLengthS - engine.greatest(s.end))) {
            const r = engine.reason();
            engine.trail.because(2 * s.end + 1, -engine.greatest(s.end));
            if (!there[k]) engine.trail.because(2 * s.there, 1);
            const isTimed = tell(leastLengthS - 1);
            if (!engine.raise(2 * s.begin + 1, -(engine.greatest(s.end) - s.strokeS - leastLengthS), r, !isTimed)) return false;
          }
        }
        return true;
      },
    };
  }

  /**
   * The places are held no shorter than all lags together ask for: of each chain of spans its longest lags say how long all its spans
   * must be together at least, and all that has room only between the first moment there can be a span and the end.
   */
  private energyPropagator({ m, earliest, makespan }: SearchParts): Propagator | null {
    const { spans, lags, places } = this.model;
    const units = places.reduce((sum, r) => sum + m.resources[r].capacity, 0);
    const chains = new Map<number, SpannedLag[]>();
    for (const lag of lags) {
      const first = Math.min(...lag.spans);
      const known = chains.get(first) ?? [];
      const longest = Math.max(0, ...known.map((l) => l.spans.length));
      if (lag.spans.length >= longest) chains.set(first, [...known.filter((l) => l.spans.length === lag.spans.length), lag]);
    }
    // Chains that share no span: each by its longest lags.
    const seen = new Set<number>();
    const groups: SpannedLag[][] = [];
    for (const own of [...chains.values()].sort((a, b) => b[0].spans.length - a[0].spans.length)) {
      if (own.some((l) => l.spans.some((i) => seen.has(i)))) continue;
      for (const l of own) for (const i of l.spans) seen.add(i);
      groups.push(own);
    }
    if (groups.length <= units || units === 0) return null;
    const strokeS = Math.min(...spans.map((s) => s.strokeS));
    const headS = Math.min(...spans.map((s) => Math.max(0, ...s.before.map((u) => earliest[u] + m.duration[u])) + s.strokeS));
    const tailS = Math.min(...spans.map((s) => Math.max(0, ...s.after.map((v) => m.duration[v]))));
    const none = groups.map((own) => own[0].spans.map(() => false));
    const unknown = groups.map((own) => own[0].spans.map(() => 0));
    const together = (g: number, lag: SpannedLag, mostS: number) => {
      const lengths = lag.spans.map(() => 0);
      const at = (x: number) => {
        lengths[0] = x;
        return lag.leastS(lengths, none[g], unknown[g]);
      };
      return at(0) <= mostS ? 0 : leastWhere(Math.max(0, mostS), (x) => at(x) <= mostS);
    };
    return {
      wakes: groups.flat().flatMap((l) => [2 * l.from, 2 * l.to + 1]),
      run: (engine) => {
        let heldS = 0;
        const by: SpannedLag[] = [];
        for (const [g, own] of groups.entries()) {
          let most = 0;
          let why: SpannedLag | null = null;
          for (const l of own) {
            const x = together(g, l, engine.greatest(l.to) - engine.least(l.from));
            if (x <= most) continue;
            most = x;
            why = l;
          }
          if (!why) continue;
          heldS += most + strokeS;
          by.push(why);
        }
        const endS = headS + Math.ceil(heldS / units) + tailS;
        if (endS <= engine.least(makespan)) return true;
        const r = engine.reason();
        for (const l of by) {
          engine.trail.because(2 * l.from, engine.least(l.from));
          engine.trail.because(2 * l.to + 1, -engine.greatest(l.to));
        }
        return engine.raise(2 * makespan, endS, r);
      },
    };
  }

  /**
   * At a leaf, each task at its least start, a lag may not be kept yet: a span to make longer, or the later task to begin later, or what
   * lies before a span to come closer to it. null where all are kept.
   */
  toSettle(engine: Engine): { readonly bound: number; readonly value: number } | null {
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

/**
 * Bounds that only narrow the search are raised by a good step at least, or where they fail: else lags that depend on each other would creep
 * from second to second.
 */
const MOST_STEP_S = 16;
const isNews = (engine: Engine, bound: number, value: number): boolean => {
  const roomS = -engine.trail.at[bound ^ 1] - engine.trail.at[bound];
  const gainS = value - engine.trail.at[bound];
  return gainS > roomS || gainS >= Math.min(MOST_STEP_S, 1 + Math.floor(roomS / MOST_STEP_S));
};

const width = (engine: Engine, x: number): number => engine.greatest(x) - engine.least(x);

/** The least whole number up to `most` that a rising condition holds for; `most` where none does. */
function leastWhere(most: number, holds: (x: number) => boolean): number {
  let [lo, hi] = [0, Math.ceil(most)];
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (holds(mid)) hi = mid;
    else lo = mid + 1;
  }
  return lo;
}

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
