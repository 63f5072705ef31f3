import type { Engine, Propagator } from './engine.js';
import type { SearchParts, Span, SpanModel, SpannedLag, SpannedMaximum, SpanVariables } from './span-model.js';

/** How long a span may be at most as its bounds stand. */
function longestS(engine: Engine, s: Span, { there, begin, end }: SpanVariables): number {
  if (engine.greatest(there) === 0) return 0;
  return Math.min(s.mostS, Math.max(0, engine.greatest(end) - engine.least(begin) - s.strokeS));
}

/** A lag kept as far as its spans are known, and what it asks of them. */
export function lagPropagator(lag: SpannedLag, spans: readonly Span[], variables: readonly SpanVariables[]): Propagator {
  const { from, to, leastS } = lag;
  const own = lag.spans.map((i) => ({ ...variables[i], ...spans[i], span: spans[i], at: variables[i] }));
  const n = own.length;
  const lengths = new Array<number>(n).fill(0);
  const told = new Array<number>(n).fill(0);
  const there = new Array<boolean>(n).fill(false);
  const since = new Array<number>(n).fill(0);
  const unknown = new Array<number>(n).fill(0);
  const noLength = unknown;
  /** of each span that is there, what ended or began before it: the variable `since` is reckoned from; −1 where that is not known */
  const after = new Int32Array(n);
  const look = (engine: Engine) => {
    let before = from;
    for (let j = 0; j < n; j++) {
      const s = own[j];
      lengths[j] = longestS(engine, s.span, s.at);
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
  // What is asked of the law again and again, as long as no span changes.
  const asked = { lengths: new Array<number>(n).fill(Number.NaN), there: there.slice(), since: since.slice() };
  let needS = 0;
  let withoutS = 0;
  const atZero = new Array<number>(n).fill(Number.NaN);
  /** Whether as much is known of the spans as when it was asked last. */
  const isSame = (): boolean => {
    let same = true;
    for (let j = 0; j < n; j++) {
      if (lengths[j] === asked.lengths[j] && there[j] === asked.there[j] && since[j] === asked.since[j]) continue;
      same = false;
      asked.lengths[j] = lengths[j];
      asked.there[j] = there[j];
      asked.since[j] = since[j];
    }
    return same;
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
    // Not when a span must end later or begin sooner: that says nothing new of how long it may be.
    wakes: [
      ...new Set([2 * from, 2 * from + 1, 2 * to + 1, ...own.flatMap((s) => [2 * s.there, 2 * s.there + 1, 2 * s.begin, 2 * s.end + 1])]),
    ],
    run: (engine) => {
      look(engine);
      if (!isSame()) {
        withoutS = leastS(noLength, there, since);
        needS = leastS(lengths, there, since);
        atZero.fill(Number.NaN);
      }
      const [leastFrom, greatestTo] = [engine.least(from), engine.greatest(to)];
      // Kept even where every span has no length: nothing can be said of them.
      if (leastFrom + withoutS <= engine.least(to) && engine.greatest(from) + withoutS <= greatestTo) return true;
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
        if (Number.isNaN(atZero[k] as number)) atZero[k] = at(0);
        if ((atZero[k] as number) <= mostS) continue;
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
        // Most of the time a span need be no longer by so much that it is news.
        const newsS =
          Math.min(leastNews(engine, 2 * s.end) - engine.least(s.begin), leastNews(engine, 2 * s.begin + 1) + engine.greatest(s.end)) -
          s.strokeS;
        const tooFewS = Math.max(0, newsS - 1);
        if (newsS > was || at(tooFewS) <= mostS) continue;
        const leastLengthS = leastFallen(tooFewS, Math.ceil(was), mostS, at);
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

/** A greatest lag kept as far as it is known how long its spans are at least. */
export function maximumPropagator(maximum: SpannedMaximum, spans: readonly Span[], variables: readonly SpanVariables[]): Propagator {
  const { from, to, mostS } = maximum;
  const own = maximum.spans.map((i) => ({ ...variables[i], strokeS: spans[i].strokeS }));
  const lengths = own.map(() => 0);
  const asked = lengths.slice();
  let greatestS = mostS(lengths);
  const because = (engine: Engine) => {
    for (const [k, { there, begin, end }] of own.entries()) {
      if (lengths[k] === 0) continue;
      engine.trail.because(2 * there, 1);
      engine.trail.because(2 * end, engine.least(end));
      engine.trail.because(2 * begin + 1, -engine.greatest(begin));
    }
  };
  return {
    wakes: [...new Set([2 * from + 1, 2 * to, ...own.flatMap((s) => [2 * s.there, 2 * s.begin + 1, 2 * s.end])])],
    run: (engine) => {
      let isSame = true;
      for (const [k, { there, begin, end, strokeS }] of own.entries()) {
        lengths[k] = engine.least(there) === 1 ? Math.max(0, engine.least(end) - engine.greatest(begin) - strokeS) : 0;
        isSame &&= lengths[k] === asked[k];
        asked[k] = lengths[k];
      }
      if (!isSame) greatestS = mostS(lengths);
      if (engine.least(from) < engine.least(to) - greatestS) {
        const r = engine.reason();
        engine.trail.because(2 * to, engine.least(to));
        because(engine);
        if (!engine.raise(2 * from, engine.least(to) - greatestS, r, true)) return false;
      }
      if (engine.greatest(to) > engine.greatest(from) + greatestS) {
        const r = engine.reason();
        engine.trail.because(2 * from + 1, -engine.greatest(from));
        because(engine);
        if (!engine.raise(2 * to + 1, -(engine.greatest(from) + greatestS), r, true)) return false;
      }
      return true;
    },
  };
}

/**
 * The places are held no shorter than all lags together ask for: of each chain of spans its longest lags say how long all its spans
 * must be together at least, and all that has room only between the first moment there can be a span and the end.
 */
export function energyPropagator({ spans, lags, places }: SpanModel, { m, earliest, makespan }: SearchParts): Propagator | null {
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
  // All in the first span of each place: which of them helps more is not known here, so each may have as much as all have together.
  const isFirst = groups.map(([{ spans: own }]) => own.map((i, k) => own.findIndex((o) => spans[o].place === spans[i].place) === k));
  const lengths = groups.map((own) => own[0].spans.map(() => 0));
  const known = new Map<SpannedLag, { mostS: number; together: number }>();
  const together = (g: number, lag: SpannedLag, mostS: number): number => {
    const before = known.get(lag);
    if (before?.mostS === mostS) return before.together;
    const at = (x: number) => {
      for (let k = 0; k < lengths[g].length; k++) lengths[g][k] = isFirst[g][k] ? x : 0;
      return lag.leastS(lengths[g], none[g], unknown[g]);
    };
    // At any rate not longer than the lag may be, nor longer than what was enough for less.
    const isEnough = before !== undefined && mostS > before.mostS && before.together < before.mostS;
    const within = isEnough ? before.together : mostS;
    const found = at(0) <= mostS ? 0 : leastWhere(Math.max(0, within), (x) => at(x) <= mostS);
    known.set(lag, { mostS, together: found });
    return found;
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
 * Bounds that only narrow the search are raised by a good step at least, or where they fail: else lags that depend on each other would creep
 * from second to second.
 */
const MOST_STEP_S = 16;
const leastNews = (engine: Engine, bound: number): number => {
  const roomS = -engine.trail.at[bound ^ 1] - engine.trail.at[bound];
  return engine.trail.at[bound] + Math.min(MOST_STEP_S, 1 + Math.floor(roomS / MOST_STEP_S));
};
const isNews = (engine: Engine, bound: number, value: number): boolean => value >= leastNews(engine, bound);

/** The least whole number up to `most` that a rising condition holds for; `most` where none does. */
export function leastWhere(most: number, holds: (x: number) => boolean): number {
  let [lo, hi] = [0, Math.ceil(most)];
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (holds(mid)) hi = mid;
    else lo = mid + 1;
  }
  return lo;
}

/**
 * The least whole number above `tooFew` and up to `most` where what falls is no more than `atMost`; known that it is more at `tooFew`.
 * Regula falsi with halved ends (Illinois; Dowell & Jarratt, BIT 11, 1971): what dries falls off smoothly, so a few looks are enough.
 */
function leastFallen(tooFew: number, most: number, atMost: number, needed: (x: number) => number): number {
  let [lo, hi] = [tooFew, most];
  let [above, below] = [needed(lo) - atMost, needed(hi) - atMost];
  if (below > 0) return most;
  while (hi - lo > 1) {
    const guess = lo + Math.round(((hi - lo) * above) / (above - below + 1));
    const mid = Math.min(hi - 1, Math.max(lo + 1, guess));
    const value = needed(mid) - atMost;
    if (value > 0) {
      lo = mid;
      above = value;
      below /= 2;
    } else {
      hi = mid;
      below = value;
      above /= 2;
    }
  }
  return hi;
}
