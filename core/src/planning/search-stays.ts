import { lagKey, stayIdOf } from '../formats/ids.js';
import type { Stay } from '../formats/plan.js';
import type { Link, Problem } from '../scheduling/problem.js';
import { beginSpans, type SpansRun, type WithSpans } from '../scheduling/search-spans.js';
import { carryId, takeOutId } from './build-problem.js';
import { type EveryStay, everyStay } from './every-stay.js';
import { type Arranged, type Attempt, better, isInTime, problemAtBest } from './planning.js';
import { exactAround, measured, type Starts } from './settle-stays.js';
import type { StayChoice } from './stays.js';

/** Beyond so many tasks the search over every set of stays finds nothing in the time a decorator waits. */
const MOST_TASKS = 120;
/** Conflicts that leaving out one stay may cost. */
const CONFLICTS_TO_LEAVE_OUT = 200;
/** Tries to hold every wait by the air, conflicts that each may cost, and how much later all may end by it: the sooner ends first. */
const TRIES_TO_HOLD = 6;
const CONFLICTS_TO_HOLD = 50;
const LATER_TO_HOLD_S = [0, 2, 15, 120, 600] as const;

/** What the search over every set of stays may use up. */
export interface StaysBudget {
  readonly conflicts: number;
  readonly stop: () => boolean;
  /** passes of the schedule that is made of what was found */
  readonly passes: number;
  /** the first that is in time will do; left out, the soonest end is looked for */
  readonly isAnySoonEnough?: boolean;
}

interface BeginOptions {
  readonly lags?: EveryStay['lags'];
  /** what must not come true; all stays are there to choose from then */
  readonly feared?: EveryStay['feared'];
  readonly isAnySoonEnough?: boolean;
}

export interface StaysSearched {
  /** a schedule with other stays that ends sooner; null where none was found */
  readonly better: Attempt | null;
  /** no schedule with the cookies on these trays and in these hands ends sooner, whatever stays there are, s */
  readonly leastEndS: number;
  /** all was searched: what was found, or what there was before, is the best there is */
  readonly exhausted: boolean;
}

/** The search over every set of stays of arranged trays, with all their lengths; null where it says nothing or the order is too large. */
export class EveryStaySearch {
  private readonly problem: Problem;
  private run: SpansRun | null = null;
  /** the same search for schedules in which nothing is feared: begun once what ends soonest fears something */
  private runWithoutFear: SpansRun | null = null;
  /** what the first of them says of every schedule, feared or not */
  private leastEndS = 0;

  private constructor(
    private readonly arranged: Arranged,
    private readonly every: EveryStay,
    private readonly given: readonly StayChoice[],
  ) {
    const { order } = arranged.planning;
    const { links, resources, ...base } = problemAtBest(arranged, [...every.stays.values()]);
    this.problem = {
      ...base,
      objective: 'tardiness',
      links: [...links, ...firstOfAlike(arranged)],
      resources: [
        ...resources,
        ...(['fan', 'dehydrator'] as const).flatMap((id) => {
          const capacity = order[id]?.places;
          return capacity ? [{ id, capacity, closed: [], changeover: 0 }] : [];
        }),
      ],
    };
  }

  static of(arranged: Arranged, given: readonly StayChoice[]): EveryStaySearch | null {
    const every = arranged.visits.length <= MOST_TASKS ? everyStay(arranged, given) : null;
    return every && new EveryStaySearch(arranged, every, given);
  }

  /** Looks for a schedule that ends sooner than this one, and than another way's `than`, and has nothing late. */
  from(best: Attempt, budget: StaysBudget, than: Attempt = best): StaysSearched {
    const lastCloseS = Math.max(...this.arranged.planning.order.openingHours.map(([, to]) => to));
    const endsByS = Math.min(lastCloseS, ...[best, than].filter(isInTime).map((a) => a.solution.makespan - 1));
    const hint = { start: best.solution.start, spans: best.stays.map(stayIdOf) };
    const options = { isAnySoonEnough: budget.isAnySoonEnough === true };
    const most = isInTime(than) ? fearedS(than) : Number.POSITIVE_INFINITY;
    let made: Attempt | null = null;
    if (!this.runWithoutFear) {
      this.run ??= this.begin(hint, endsByS, budget.stop, this.every.spans, options);
      this.run.endsBy(endsByS);
      const r = this.run.more(budget.conflicts);
      const found = r.found ? [r.found, ...r.before] : [];
      const fine = found.filter((f) => this.fearedIn(f) <= most);
      made = this.bestMade(fine, budget);
      this.leastEndS = r.leastEndS;
      if (found[0] === fine[0]) return { better: made, leastEndS: r.leastEndS, exhausted: r.exhausted };
    }
    this.runWithoutFear ??= this.begin(hint, endsByS, budget.stop, this.every.spans, { ...options, feared: this.every.feared });
    this.runWithoutFear.endsBy(Math.min(endsByS, (made?.solution.makespan ?? Number.POSITIVE_INFINITY) - 1));
    const r = this.runWithoutFear.more(budget.conflicts);
    const without = this.bestMade(r.found ? [r.found, ...r.before] : [], budget);
    return {
      better: without && (!made || better(without.score, made.score)) ? without : made,
      leastEndS: this.leastEndS,
      exhausted: r.exhausted,
    };
  }

  /** The same schedule with as few of its stays as end as soon; null where it needs them all. */
  withFewer({ stays, solution: { start } }: Attempt, { stop, passes }: Pick<StaysBudget, 'stop' | 'passes'>): Attempt | null {
    if (!stays.every((s) => this.every.stays.has(stayIdOf(s)))) return null;
    const spans = stays.map((s) => ({ id: stayIdOf(s), fromS: start[stayIdOf(s)] as number, toS: start[takeOutId(s)] as number }));
    const fewest = this.withFewest({ start, spans }, stop);
    return fewest.spans.length < spans.length ? this.made(fewest, passes) : null;
  }

  /** What ends soonest as a schedule; where bags have to be opened anew that may be one that was found before. */
  private bestMade(found: readonly WithSpans[], budget: StaysBudget): Attempt | null {
    let best: Attempt | null = null;
    for (const next of found) {
      const endS = this.endOf(next);
      if (best && best.solution.makespan <= endS) break;
      const held = this.heldByAir(next, LATER_TO_HOLD_S);
      const made = held && this.made(held, budget.passes);
      if (made && (!best || better(made.score, best.score))) best = made;
    }
    return best;
  }

  /** Seconds by which floods end after a neighbour has dried through. */
  private fearedIn(found: WithSpans): number {
    const at = new Map(found.spans.map((s) => [s.id, s.toS - s.fromS]));
    return this.every.feared.reduce((sum, { from, to, spans, mostS }) => {
      const lagS = (found.start[to] as number) - (found.start[from] as number);
      return sum + Math.max(0, lagS - mostS(spans.map((id) => at.get(id) ?? 0)));
    }, 0);
  }

  private begin(
    hint: { readonly start: Starts; readonly spans: readonly string[] },
    endsByS: number,
    stop: () => boolean,
    spans: EveryStay['spans'],
    { lags = this.every.lags, feared = [], isAnySoonEnough = true }: BeginOptions = {},
  ): SpansRun {
    const there = new Set(spans.map((s) => s.id));
    return beginSpans({
      problem: this.problem,
      spans: spans.map((s) => ({ ...s, excludes: s.excludes.filter((id) => there.has(id)) })),
      lags: lags.map((l) => keepingOnly(l, there)),
      maxima: feared,
      hint: { start: hint.start, spans: hint.spans.filter((id) => there.has(id)) },
      endsByS,
      isAnySoonEnough,
      stop,
      seed: this.arranged.planning.seed,
    });
  }

  /** As few stays as end as soon, held by the air as all of them are: each is left out if that costs nothing, the shortest first. */
  private withFewest(found: WithSpans, stop: () => boolean): WithSpans {
    let best = found;
    const endS = this.endOf(found);
    const seconds = (s: WithSpans['spans'][number]) => s.toS - s.fromS;
    for (const { id } of [...found.spans].sort((a, b) => seconds(a) - seconds(b))) {
      if (stop()) break;
      if (this.given.some((g) => stayIdOf(g) === id)) continue;
      const kept = new Set(best.spans.map((s) => s.id).filter((x) => x !== id));
      const spans = this.every.spans.filter((s) => kept.has(s.id));
      const r = this.begin({ start: best.start, spans: [...kept] }, endS, stop, spans).more(CONFLICTS_TO_LEAVE_OUT);
      const held = r.found && this.heldByAir(r.found, [endS - this.endOf(r.found)]);
      if (held) best = held;
    }
    return best;
  }

  /**
   * The same stays and orders with waits as long as the air really asks for: the search reckons with the most that can dry in so many
   * seconds here and there, so that a wait may come out some seconds short. `laterS`: how much later all may end, tried one after the
   * other. null where none was found soon.
   */
  private heldByAir(found: WithSpans, laterS: readonly number[]): WithSpans | null {
    const more = new Map<string, number>();
    let best = found;
    for (let i = 0; i < TRIES_TO_HOLD; i++) {
      const needed = this.neededS(best);
      const at = new Map(best.spans.map((s) => [s.id, s.toS - s.fromS]));
      let isShort = false;
      for (const l of this.every.lags) {
        const key = lagKey(l.from, l.to);
        const needS = needed.get(key) ?? 0;
        if ((best.start[l.to] as number) - (best.start[l.from] as number) >= needS) continue;
        isShort = true;
        const reckonedS = l.leastS(
          l.spans.map((id) => at.get(id) ?? 0),
          l.spans.map((id) => at.has(id)),
          sinceOf(l, best),
        );
        more.set(key, Math.max(more.get(key) ?? 0, needS - reckonedS));
      }
      if (!isShort) return best;
      const lags = this.every.lags.map((l) => {
        const moreS = more.get(lagKey(l.from, l.to));
        return moreS ? { ...l, leastS: (...known: Parameters<typeof l.leastS>) => l.leastS(...known) + moreS } : l;
      });
      const ids = [...at.keys()];
      const spans = this.every.spans.filter((s) => at.has(s.id));
      let next: WithSpans | null = null;
      for (const later of laterS) {
        const hint = { start: best.start, spans: ids };
        next ??= this.begin(hint, this.endOf(found) + later, () => false, spans, { lags }).more(CONFLICTS_TO_HOLD).found;
      }
      if (!next) return null;
      best = next;
    }
    return null;
  }

  private neededS(found: WithSpans): ReadonlyMap<string, number> {
    const needed = new Map<string, number>();
    for (const g of measured(this.arranged, this.staysOf(found), found.start)) {
      const key = lagKey(g.from.id, g.to.id);
      needed.set(key, Math.max(needed.get(key) ?? 0, g.neededS));
    }
    return needed;
  }

  private staysOf(found: WithSpans): Stay[] {
    return found.spans.map(({ id, fromS, toS }): Stay => {
      const { where, trayId, round, batch, why } = this.every.stays.get(id) as StayChoice;
      return { id, where, trayId, round, batch, why, startS: fromS, endS: toS, forS: toS - fromS };
    });
  }

  private endOf(found: WithSpans): number {
    return Math.max(...this.arranged.visits.map((v) => (found.start[v.id] as number) + v.times.durationS));
  }

  /** What was found as a schedule, its waits measured in the air it gives; stays that were asked for are no longer than that. */
  private made(asFound: WithSpans, passes: number): Attempt | null {
    const spans = asFound.spans.map((s) => {
      const { why, seconds } = this.every.stays.get(s.id) as StayChoice;
      return why === 'asked' ? { ...s, toS: Math.min(s.toS, s.fromS + seconds) } : s;
    });
    const found = { ...asFound, spans };
    const start: Record<string, number> = { ...found.start };
    const { traySwapS } = this.arranged.planning.pace;
    const stays = found.spans.map(({ id, fromS, toS }): StayChoice => {
      const asked = this.every.stays.get(id) as StayChoice;
      const span = this.every.spans.find((x) => x.id === id) as EveryStay['spans'][number];
      // What may not be longer stands beyond its time until it is fetched.
      const seconds = span.mostS < Number.MAX_SAFE_INTEGER ? asked.seconds : toS - fromS;
      const s: StayChoice = { ...asked, seconds, waitS: toS - fromS - seconds };
      start[carryId(s)] = fromS - traySwapS;
      start[id] = fromS;
      start[takeOutId(s)] = toS;
      return s;
    });
    return exactAround(this.arranged, stays, this.staysOf(found), start, passes);
  }
}

const fearedS = (a: Attempt): number => a.solution.softCost ?? 0;

/** How long before each span of a lag the one before it ended, or the earlier task began. */
function sinceOf(lag: EveryStay['lags'][number], found: WithSpans): number[] {
  let before = found.start[lag.from] as number;
  return lag.spans.map((id) => {
    const at = found.spans.find((s) => s.id === id);
    if (!at) return 0;
    const since = at.fromS - before;
    before = at.toS;
    return since;
  });
}

/** A lag as it is where only these spans may be there. */
function keepingOnly(lag: EveryStay['lags'][number], there: ReadonlySet<string>): EveryStay['lags'][number] {
  if (lag.spans.every((id) => there.has(id))) return lag;
  const at = lag.spans.flatMap((id, k) => (there.has(id) ? [k] : []));
  const lengths = lag.spans.map(() => 0);
  const are = lag.spans.map(() => false);
  const since = lag.spans.map(() => 0);
  return {
    ...lag,
    spans: at.map((k) => lag.spans[k] as string),
    leastS: (lengthsS, thereIs, sinceS) => {
      for (const [i, k] of at.entries()) {
        lengths[k] = lengthsS[i] as number;
        are[k] = thereIs[i] as boolean;
        since[k] = sinceS[i] as number;
      }
      return lag.leastS(lengths, are, since);
    },
  };
}

/** Trays that are alike in all but their name are begun in the order they are named: any schedule can be told that way. */
function firstOfAlike({ planning, lots, handsOf, visits }: Arranged): Link[] {
  const { pins } = planning.order;
  const named = new Set(pins.flatMap((p) => ('tray' in p ? [p.tray as string] : [])));
  const likeness = (trayId: string) =>
    JSON.stringify([handsOf.get(trayId), lots.filter((l) => l.trayId === trayId).map((l) => [l.designId, l.cookies])]);
  const last = new Map<string, string>();
  const out: Link[] = [];
  for (const trayId of new Set(lots.map((l) => l.trayId))) {
    if (named.has(trayId)) continue;
    const before = last.get(likeness(trayId));
    last.set(likeness(trayId), trayId);
    const first = (id: string) => visits.find((v) => v.lot.trayId === id && v.bundle.kind === 'prepare');
    const [a, b] = [before === undefined ? undefined : first(before), first(trayId)];
    if (a && b) out.push({ from: a.id, to: b.id, anchor: 'start', min: 0, max: null });
  }
  return out;
}
