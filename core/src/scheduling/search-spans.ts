import { seededRng } from '../time/rng.js';
import { beginLearned } from './learning/schedule-search.js';
import type { GreatestLag, LeastLag, SpanAt, SpanModel } from './learning/span-model.js';
import { buildModel } from './model.js';
import { earliestOpenStarts, earliestStarts } from './network.js';
import type { Problem } from './problem.js';

/** A span of a problem that may be there or not, by names; see `learning/span-model.ts`. */
export interface OptionalSpan {
  readonly id: string;
  /** resource of capacity 1 that does both of its strokes */
  readonly worker: string;
  /** resource it holds one unit of; nothing else uses it */
  readonly place: string;
  readonly strokeS: number;
  /** tasks that come before it and after it where it is there */
  readonly before: readonly string[];
  readonly after: readonly string[];
  /** how long it is at least and at most, from the end of its first stroke to the start of its second */
  readonly leastS: number;
  readonly mostS: number;
  /** it is there in any case */
  readonly always: boolean;
  /** tasks it begins no later than so long after the end of */
  readonly soonAfter: readonly { readonly task: string; readonly mostS: number }[];
  /** spans that are not there where this one is */
  readonly excludes: readonly string[];
}

/** A lag between starts that spans make shorter. */
export interface ShortenedLag {
  readonly from: string;
  readonly to: string;
  /** in their order */
  readonly spans: readonly string[];
  readonly leastS: LeastLag;
}

/** A greatest lag between starts that spans make smaller. */
export interface CappedLag {
  readonly from: string;
  readonly to: string;
  readonly spans: readonly string[];
  readonly mostS: GreatestLag;
}

export interface SpanSearch {
  readonly problem: Problem;
  readonly spans: readonly OptionalSpan[];
  readonly lags: readonly ShortenedLag[];
  readonly maxima?: readonly CappedLag[];
  /** a schedule whose orders are tried first, and the spans in it */
  readonly hint: { readonly start: Readonly<Record<string, number>>; readonly spans: readonly string[] };
  /** only schedules that end by then, and have nothing late, are looked for, s */
  readonly endsByS: number;
  /** the first that is found will do; left out, the soonest is looked for */
  readonly isAnySoonEnough?: boolean;
  readonly stop: () => boolean;
  readonly seed: number;
}

/** A schedule with its spans: when each begins to hold its place, and when its last stroke begins. */
export interface WithSpans {
  readonly start: Readonly<Record<string, number>>;
  readonly spans: readonly { readonly id: string; readonly fromS: number; readonly toS: number }[];
}

export interface SpansFound {
  /** the schedule that ends soonest; null where none was found */
  readonly found: WithSpans | null;
  /** a few that were found before it, the last first */
  readonly before: readonly WithSpans[];
  /** nothing ends sooner than the soonest that was ever found, or nothing by when it was to end where nothing was */
  readonly exhausted: boolean;
  /** nothing ends sooner, s; holds whether exhausted or not */
  readonly leastEndS: number;
}

/** Schedules that are told of besides the one that ends soonest. */
const MOST_BEFORE = 3;

/** A search over spans that can be gone on with. */
export interface SpansRun {
  /** goes on for so many conflicts; what it tells of is what was found in them */
  readonly more: (conflicts: number) => SpansFound;
  /** from now on only schedules that end by then are looked for, s */
  readonly endsBy: (s: number) => void;
}

/**
 * The soonest end of a problem with spans that may be there or not, decided together with all orders and with their own lengths, by
 * learning search: exhausted, it is a proof over every set of spans and all their lengths.
 */
export function beginSpans(ask: SpanSearch): SpansRun {
  const m = buildModel(ask.problem);
  let endsByS = ask.endsByS;
  const none: SpansRun = { more: () => ({ found: null, before: [], exhausted: true, leastEndS: endsByS + 1 }), endsBy: () => undefined };
  const temporal = earliestStarts(m);
  if (!temporal.ok) return none;
  const open = earliestOpenStarts(m, temporal.start);
  if ('never' in open) return none;
  const task = new Map(m.ids.map((id, v) => [id, v]));
  const resource = new Map(m.resources.map((r, i) => [r.id, i]));
  const span = new Map(ask.spans.map((s, i) => [s.id, i]));
  const places = [...new Set(ask.spans.map((s) => s.place))];
  const tasks = (ids: readonly string[]) => ids.map((id) => task.get(id) as number);
  const model: SpanModel = {
    spans: ask.spans.map((s) => ({
      worker: resource.get(s.worker) as number,
      place: places.indexOf(s.place),
      strokeS: s.strokeS,
      before: tasks(s.before),
      after: tasks(s.after),
      leastS: s.leastS,
      mostS: s.mostS,
      always: s.always,
      soonAfter: s.soonAfter.map((x) => ({ task: task.get(x.task) as number, mostS: x.mostS })),
    })),
    places: places.map((p) => resource.get(p) as number),
    maxima: (ask.maxima ?? []).map((l) => ({
      from: task.get(l.from) as number,
      to: task.get(l.to) as number,
      spans: l.spans.map((id) => span.get(id) as number),
      mostS: l.mostS,
    })),
    lags: ask.lags.map((l) => ({
      from: task.get(l.from) as number,
      to: task.get(l.to) as number,
      spans: l.spans.map((id) => span.get(id) as number),
      leastS: l.leastS,
    })),
    excludes: ask.spans.flatMap((s, i) => s.excludes.map((id) => [i, span.get(id) as number] as const).filter(([a, b]) => a < b)),
  };
  const named = (start: readonly number[], spans: readonly SpanAt[]): WithSpans => ({
    start: Object.fromEntries(m.ids.map((id, v) => [id, start[v]])),
    spans: spans.map(({ span: i, beginS, endS }) => {
      const { id, strokeS } = ask.spans[i] as OptionalSpan;
      return { id, fromS: beginS + strokeS, toS: endS };
    }),
  });
  let found: WithSpans[] = [];
  const run = beginLearned({
    m,
    earliest: open.start,
    incumbent: m.ids.map((id, v) => ask.hint.start[id] ?? open.start[v]),
    goal: ask.isAnySoonEnough ? null : 'makespan',
    most: { makespan: ask.endsByS, tardiness: 0 },
    conflicts: 0,
    stop: ask.stop,
    rng: seededRng(ask.seed),
    onBetter: (start, spans) => found.unshift(named(start, spans)),
    spans: { model, there: new Set(ask.hint.spans.map((id) => span.get(id) as number)) },
  });
  return {
    endsBy: (s) => {
      if (s >= endsByS) return;
      endsByS = s;
      run.atMost(s);
    },
    more: (conflicts) => {
      found = [];
      const { start, exhausted, least } = run.more(conflicts);
      const [best = null, ...others] = found;
      if (start) endsByS = Math.max(...m.duration.map((d, v) => start[v] + d)) - 1;
      return { found: best, before: others.slice(0, MOST_BEFORE), exhausted, leastEndS: exhausted ? endsByS + 1 : least };
    },
  };
}
