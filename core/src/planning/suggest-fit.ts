import type { Design } from '../design/design.js';
import { cookiesMade, MOST_DECORATORS, movedPin, type OrderFile } from '../formats/order.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg, word } from '../words/index.js';
import { bareChoice, chooseStays, wholeSetsOfStays } from './choose-stays.js';
import { givenStays } from './given-stays.js';
import { triedArrangements } from './plan-order.js';
import { type Attempt, attempt, isInTime, JUDGE_PASSES, type PlanInput, preparePlanning } from './planning.js';
import { EveryStaySearch } from './search-stays.js';
import { settleStays } from './settle-stays.js';

/** A change that makes an order fit, tried out, with the order as it would be. */
export interface FitSuggestion {
  readonly kind: 'fan' | 'dehydrator' | 'earlier' | 'longer' | 'bolder' | 'pin' | 'second-pair' | 'plainer' | 'fewer' | 'flush';
  readonly text: string;
  /** what it costs, in words */
  readonly cost: string;
  /** what it costs, in minutes of someone's evening: the order of the list */
  readonly costMin: number;
  readonly order: OrderFile;
  /** the designs as they would be, where that is the change, with the one changed */
  readonly designs?: readonly Design[];
  readonly changedDesign?: number;
}

export interface FitInput extends PlanInput {
  /** for each design, the design with touching sections joined flush, and what was joined; computed by the designs' own suggestions */
  readonly flush?: readonly ({ readonly design: Design; readonly text: string } | null)[];
  readonly stop?: () => boolean;
  readonly onProgress?: (text: string) => void;
}

const MIN = 60;
const EARLIER_MIN = [15, 30, 45, 60, 90, 120, 180] as const;
/** What things cost beside the minutes they take: *assumed*, only to put the list in order. */
const FAN_COST_MIN = 2;
/** Conflicts that the search over every set of stays may cost for one change, in each way to put the cookies on trays. */
const MOST_CONFLICTS = 300;
/** Sets of stays that are judged for one change, where those are not enough to know. */
const MOST_JUDGED = 24;
const MOST_EXACT = 4;
const DEHYDRATOR_COST_MIN = 10;
const BOLDER_COST_MIN = 20;
const PIN_COST_MIN = 25;
const FLUSH_COST_MIN = 5;
const PLAINER_COST_MIN_PER_COOKIE = 5;
const FEWER_COST_MIN_PER_COOKIE = 30;

/**
 * Changes that make an order fit that does not, the least costly first; each one is planned before it is offered. Where no
 * single one does, two together are tried.
 */
export function suggestFit(input: FitInput): FitSuggestion[] {
  const stop = input.stop ?? (() => false);
  const candidates = candidatesOf(input);
  const firstThatFits = (changes: readonly Change[]): FitSuggestion | null => {
    for (const change of changes) {
      if (stop()) return null;
      const order = change.apply(input.order);
      if (!fitsSomehow({ ...input, order, designs: change.designs ?? input.designs }, stop)) continue;
      const { apply: _, ...told } = change;
      return { ...told, order };
    }
    return null;
  };
  const offered = (list: readonly Candidate[]): FitSuggestion[] =>
    list
      .flatMap((c) => {
        input.onProgress?.(c.trying);
        return firstThatFits(c.changes) ?? [];
      })
      .sort((a, b) => a.costMin - b.costMin);
  const single = offered(candidates);
  return single.length > 0 ? single : offered(pairsOf(candidates)).slice(0, MOST_PAIRS_TOLD);
}

/** Kinds that go together, and how many pairs are shown. */
const PAIRED: readonly FitSuggestion['kind'][] = ['fan', 'dehydrator', 'earlier', 'longer', 'bolder', 'second-pair'];
const MOST_PAIRS_TOLD = 4;

function pairsOf(candidates: readonly Candidate[]): Candidate[] {
  const fit = candidates.filter((c) => PAIRED.includes(c.changes[0]?.kind as FitSuggestion['kind']));
  return fit.flatMap((a, i) =>
    fit.slice(i + 1).map((b) => ({
      trying: msg`${a.trying} and ${b.trying}`,
      // Of a change with steps only half of them and the largest: two together are a coarse question.
      changes: coarse(a.changes).flatMap((x) =>
        coarse(b.changes).map(
          (y): Change => ({
            kind: x.kind,
            text: msg`${x.text}, and ${y.text}`,
            cost: `${x.cost}; ${y.cost}`,
            costMin: x.costMin + y.costMin,
            apply: (o) => y.apply(x.apply(o)),
          }),
        ),
      ),
    })),
  );
}

const coarse = <T>(steps: readonly T[]): readonly T[] =>
  steps.length < 3 ? steps : [steps[Math.floor(steps.length / 2)] as T, steps.at(-1) as T];

/** Whether some quick plan packs everything in time: with no stays but the given ones, with any at all, or with sets judged one by one. */
export function fitsSomehow(input: PlanInput, stop: () => boolean): boolean {
  try {
    const { ways } = triedArrangements(preparePlanning(input));
    const open: Attempt[] = [];
    for (const way of ways) {
      if (stop()) return false;
      if (isInTime(way)) return true;
      const every = EveryStaySearch.of(way.arranged, givenStays(way.arranged));
      const searched = every?.from(way, { conflicts: MOST_CONFLICTS, stop, passes: JUDGE_PASSES, isAnySoonEnough: true });
      if (searched?.better && isInTime(searched.better)) return true;
      if (!searched?.exhausted) open.push(way);
    }
    const [bare] = open;
    if (!bare) return false;
    let found = false;
    const judged = (stays: Attempt['stays']) => {
      const tried = attempt(bare.arranged, { stays, passes: JUDGE_PASSES });
      found ||= isInTime(tried);
      return tried;
    };
    const chosen = wholeSetsOfStays(bareChoice(bare), judged, { stop: () => found || stop() });
    const nearest = chooseStays(chosen, judged, { stop: () => found || stop(), most: MOST_JUDGED, seed: 1 });
    // Made exact, one that was judged late by a little may be in time.
    return found || nearest.slice(0, MOST_EXACT).some(({ stays }) => !stop() && isInTime(settleStays(judged(stays), JUDGE_PASSES)));
  } catch (error) {
    if (error instanceof NoAnswer) return false;
    throw error;
  }
}

type Change = Omit<FitSuggestion, 'order'> & { readonly apply: (order: OrderFile) => OrderFile };

interface Candidate {
  readonly trying: string;
  /** the smallest first; the first that fits is offered */
  readonly changes: readonly Change[];
}

function candidatesOf({ order, designs, flush }: FitInput): Candidate[] {
  const change = (kind: FitSuggestion['kind'], text: string, cost: string, costMin: number, apply: Change['apply']): Change => ({
    kind,
    text,
    cost,
    costMin,
    apply,
  });
  const lastClose = Math.max(...order.openingHours.map(([, to]) => to));
  const out: Candidate[] = [];
  const fanPlaces = (order.fan?.places ?? 0) + 1;
  out.push({
    trying: msg`a fan`,
    changes: [
      change(
        'fan',
        order.fan ? msg`put a fan in front of ${fanPlaces} trays at a time` : msg`put a fan in front of a tray`,
        msg`a tray carried now and then`,
        FAN_COST_MIN,
        (o) => ({ ...o, fan: { places: fanPlaces, airMPerS: order.fan?.airMPerS ?? 1 } }),
      ),
    ],
  });
  if (!order.dehydrator)
    out.push({
      trying: msg`a dehydrator`,
      changes: [
        change(
          'dehydrator',
          msg`use a dehydrator for two trays at 35 °C`,
          msg`the dehydrator running; trays taken out in time`,
          DEHYDRATOR_COST_MIN,
          (o) => ({
            ...o,
            dehydrator: { places: 2, tempC: 35, airMPerS: 1 },
          }),
        ),
      ],
    });
  out.push({
    trying: msg`an earlier start`,
    changes: EARLIER_MIN.map((min) =>
      change('earlier', msg`start ${min} min earlier`, msg`${min} min of the first day`, min, (o) => begunEarlier(o, min * MIN)),
    ),
  });
  if (order.designs.some((d) => (d.packBy ?? order.packBy ?? Number.POSITIVE_INFINITY) > lastClose))
    out.push({
      trying: msg`a longer last day`,
      changes: EARLIER_MIN.map((min) =>
        change('longer', msg`stay ${min} min longer on the last day`, msg`${min} min of the last day`, min, (o) => ({
          ...o,
          openingHours: o.openingHours.map(([from, to], i): readonly [number, number] => [
            from,
            i === o.openingHours.length - 1 ? to + min * MIN : to,
          ]),
        })),
      ),
    });
  if (order.margin !== 'bold') {
    const bolder = order.margin === 'careful' ? 'normal' : 'bold';
    out.push({
      trying: msg`a bolder margin`,
      changes: [
        change(
          'bolder',
          msg`plan with the ${word(bolder)} margin`,
          bolder === 'bold'
            ? msg`waits long enough for one cookie in two; check before you touch`
            : msg`waits long enough for four cookies in five`,
          BOLDER_COST_MIN,
          (o) => ({ ...o, margin: bolder }),
        ),
      ],
    });
  }
  for (const [i, p] of order.pins.entries()) {
    const text =
      p.kind === 'away'
        ? msg`do without ${p.label}`
        : p.kind === 'tray-first'
          ? msg`let another tray than ${p.tray} be first`
          : msg`begin tray ${p.tray} when it suits`;
    out.push({
      trying: text,
      changes: [change('pin', text, msg`what you insisted on`, PIN_COST_MIN, (o) => ({ ...o, pins: o.pins.filter((_, k) => k !== i) }))],
    });
  }
  if (order.decorators.length < MOST_DECORATORS) {
    const names = new Set(order.decorators.map((d) => d.id));
    const id = [msg`second pair`, msg`third pair`, msg`another pair`].find((n) => !names.has(n)) as string;
    const hours = order.openingHours.reduce((s, [from, to]) => s + to - from, 0) / 3600 / 2;
    out.push({
      trying: msg`another pair of hands`,
      changes: [
        change(
          'second-pair',
          msg`ask for another pair of hands`,
          msg`someone else for some of these hours`,
          Math.round(hours * MIN),
          (o) => ({
            ...o,
            decorators: [...o.decorators, { id, pace: 1 }],
          }),
        ),
      ],
    });
  }
  for (const [i, f] of (flush ?? []).entries()) {
    if (!f) continue;
    out.push({
      trying: f.text,
      changes: [
        {
          ...change('flush', f.text, msg`the step between the two is lost`, FLUSH_COST_MIN, (o) => o),
          designs: designs.map((d, k) => (k === i ? f.design : d)),
          changedDesign: i,
        },
      ],
    });
  }
  const labour = designs.map((d) => d.parts.reduce((sum, p) => sum + (p.role === 'mark' ? 0.25 : 1), 0));
  const most = indexOfMost(order.designs.map((d, i) => (labour[i] as number) * cookiesMade(d)));
  const least = indexOfMost(labour.map((l) => -l));
  const nameOf = (i: number) => (designs[i] as Design).name;
  const counted = (i: number, by: number) => order.designs.map((d, k) => (k === i ? { ...d, count: d.count + by } : d));
  const count = (order.designs[most] as { count: number }).count;
  const fractions = [4, 2].map((part) => Math.ceil(count / part)).filter((n, k, all) => n < count && all.indexOf(n) === k);
  if (least !== most)
    out.push({
      trying: msg`a plainer design`,
      changes: fractions.map((n) =>
        change(
          'plainer',
          msg`make ${n} of the ${count} ${nameOf(most)} as ${nameOf(least)} instead`,
          msg`${n} plainer cookies`,
          n * PLAINER_COST_MIN_PER_COOKIE,
          (o) => ({
            ...o,
            designs: counted(most, -n).map((d, k) => (k === least ? { ...d, count: d.count + n } : d)),
          }),
        ),
      ),
    });
  out.push({
    trying: msg`fewer cookies`,
    changes: fractions.map((n) =>
      change('fewer', msg`make ${n} fewer of ${nameOf(most)}`, msg`${n} cookies less`, n * FEWER_COST_MIN_PER_COOKIE, (o) => ({
        ...o,
        designs: counted(most, -n),
      })),
    ),
  });
  return out;
}

/** The bench opened so much earlier: second 0 moves with it, so that no time is negative. */
function begunEarlier(order: OrderFile, byS: number): OrderFile {
  const later = (s: number) => s + byS;
  return {
    ...order,
    ...(order.epoch ? { epoch: new Date(Date.parse(order.epoch) - byS * 1000).toISOString() } : {}),
    openingHours: order.openingHours.map(([from, to], i): readonly [number, number] => [i === 0 ? from : later(from), later(to)]),
    packBy: order.packBy === null ? null : later(order.packBy),
    designs: order.designs.map((d) => (d.packBy === null ? d : { ...d, packBy: later(d.packBy) })),
    pins: order.pins.map((p) => movedPin(p, byS)),
  };
}

const indexOfMost = (values: readonly number[]): number => values.reduce((best, v, i) => (v > (values[best] as number) ? i : best), 0);
