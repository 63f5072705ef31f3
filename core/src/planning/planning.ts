import { type Design, recoloured } from '../design/design.js';
import { type Air, withFan } from '../drying/air.js';
import { airInDehydrator } from '../drying/fan.js';
import type { Decorator, OrderFile, OrderTray } from '../formats/order.js';
import type { ArrangementWay, Lot, StayPlace, TimedGap } from '../formats/plan.js';
import type { Infeasible, Link, Problem, Solution } from '../scheduling/problem.js';
import { solve } from '../scheduling/solve.js';
import { deriveSteps, type StepGraph } from '../steps/derive.js';
import { ASSUMED_PACE, type Pace, scaledPace } from '../steps/pace.js';
import { bagKey, type Gap } from '../steps/step.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { fillTrays, type PlacesOf, shareTrays } from './arrange.js';
import { type Built, buildProblem, carryId, takeOutId } from './build-problem.js';
import { type BagChange, bagChanges, bagsOfGraph } from './open-bags.js';
import { graphAtOwnPace, paceOfHands } from './own-pace.js';
import type { StayChoice } from './stays.js';
import { timeGap } from './timed-gap.js';
import { placesOn } from './tray-packing.js';
import { openingFirst, type Visit } from './visit.js';
import { visitsOf } from './visits.js';
import { changesCutShort } from './whole-changes.js';

export interface PlanInput {
  readonly order: OrderFile;
  /** one for each entry of order.designs, in that order */
  readonly designs: readonly Design[];
  readonly pace?: Pace;
  readonly seed?: number;
}

/** An order with everything worked out that does not depend on when things are done. */
export interface Planning {
  readonly order: OrderFile;
  readonly ids: readonly string[];
  readonly designs: readonly Design[];
  readonly graphs: readonly StepGraph[];
  readonly air: Air;
  readonly airAt: Readonly<Record<StayPlace, Air | null>>;
  readonly pace: Pace;
  readonly seed: number;
  readonly timedByDesign: ReadonlyMap<string, readonly TimedGap[]>;
  readonly placesOf: PlacesOf;
}

/** Cookies put on trays and trays given to hands: what a schedule is made for. */
export interface Arranged {
  readonly planning: Planning;
  readonly way: ArrangementWay;
  readonly lots: readonly Lot[];
  readonly handsOf: ReadonlyMap<string, string>;
  readonly visits: readonly Visit[];
  readonly timedByLot: ReadonlyMap<string, readonly TimedGap[]>;
}

/** A schedule with what it was made for and how good it is, compared entry by entry. */
export interface Attempt {
  readonly arranged: Arranged;
  readonly stays: readonly StayChoice[];
  readonly built: Built;
  readonly solution: Solution;
  readonly score: readonly number[];
  /** the exact waits it was made with, if any */
  readonly measured?: ReadonlyMap<string, number>;
}

export interface AttemptOptions {
  readonly stays: readonly StayChoice[];
  /** the engine's own measure, so that a plan can be repeated */
  readonly passes: number;
  readonly timeUsed?: () => number;
  /** exact waits in place of cautious ones behind a stay */
  readonly measured?: ReadonlyMap<string, number>;
  readonly notBeforeS?: number;
  /** an earlier schedule's starts, where the search begins */
  readonly warm?: Readonly<Record<string, number>>;
  /** a schedule that is only asked whether it keeps every rule: nothing in it moves */
  readonly frozen?: Readonly<Record<string, number>>;
  /** every change of bag has its time, also where a tray is carried in between; judging does without */
  readonly wholeChanges?: boolean;
}

export function preparePlanning(input: PlanInput): Planning {
  const { order } = input;
  const pace = input.pace ?? ASSUMED_PACE;
  const air: Air = { tempC: order.air.tempC, humidityFrac: order.air.humidityPct / 100, airMPerS: order.air.airMPerS };
  const ids = designIds(order);
  const counted = new Map(order.bags.map((b) => [bagKey(b), b.countedS]));
  const designs = input.designs.map((d) => recoloured(d, order.merges));
  const graphs = designs.map((d) => deriveSteps(d, order.school, { pace, counted, tips: order.tips }));
  const airAt = {
    fan: order.fan ? withFan(air, order.fan.airMPerS) : null,
    dehydrator: order.dehydrator ? airInDehydrator(air, order.dehydrator.tempC, order.dehydrator.airMPerS) : null,
  };
  const timed = (g: Gap) => timeGap(g, air, order.margin, order.factors, Object.values(airAt));
  return {
    order,
    ids,
    designs,
    graphs,
    air,
    airAt,
    pace,
    seed: input.seed ?? 1,
    timedByDesign: new Map(ids.map((id, i) => [id, (graphs[i] as StepGraph).gaps.map(timed)])),
    placesOf: placesOf(order, designs),
  };
}

/** Places by design and tray, worked out once for each size of tray. */
function placesOf(order: OrderFile, designs: readonly Design[]): PlacesOf {
  const known = new Map<string, number>();
  return (design, tray) => {
    const t = order.trays[tray] as OrderTray;
    if (t.places !== undefined) return t.places;
    const key = `${design} ${t.widthMm} ${t.depthMm}`;
    const places = known.get(key) ?? placesOn((designs[design] as Design).cookie, t.widthMm, t.depthMm, order.handGapMm);
    known.set(key, places);
    return places;
  };
}

/** Work on one cookie, and rounds it dries through: what makes a design laborious. */
export const labourOf = (g: StepGraph): number => g.steps.reduce((s, x) => s + x.seconds, 0) * Math.max(1, g.rounds);

/** A design's steps in the time they take one pair of hands. */
export function graphOfHands({ order, designs, graphs, pace }: Planning, design: number, hands: Decorator): StepGraph {
  if (hands.pace === 1 && !hands.takes) return graphs[design] as StepGraph;
  const counted = new Map(order.bags.map((b) => [bagKey(b), b.countedS]));
  const graph = deriveSteps(designs[design] as Design, order.school, { pace: scaledPace(pace, hands.pace), counted, tips: order.tips });
  return graphAtOwnPace(graph, hands);
}

export function arrange(planning: Planning, way: ArrangementWay): Arranged {
  const { order, ids, graphs, timedByDesign, pace } = planning;
  const lots = fillTrays(
    order,
    ids,
    planning.designs.map((d) => d.cookie),
    planning.placesOf,
    way,
    graphs.map(labourOf),
  );
  const graphOf = (lot: Lot) => graphs[ids.indexOf(lot.designId)] as StepGraph;
  const handsOf = shareTrays(order, lots, (lot) => lot.cookies * graphOf(lot).steps.reduce((s, x) => s + x.seconds, 0));
  const timedByLot = new Map(lots.map((l) => [l.id, timedByDesign.get(l.designId) as readonly TimedGap[]]));
  const hands = new Map(order.decorators.map((d) => [d.id, d]));
  const paces = new Map(order.decorators.map((d) => [d.id, paceOfHands(d, pace)]));
  const own = new Map<string, StepGraph>();
  // The steps take as long as the hands that do them; their waits are the icing's and stay.
  const graphFor = (lot: Lot): StepGraph => {
    const who = handsOf.get(lot.trayId) as string;
    const key = `${lot.designId} ${who}`;
    const known = own.get(key) ?? graphOfHands(planning, ids.indexOf(lot.designId), hands.get(who) as Decorator);
    own.set(key, known);
    return known;
  };
  const visits = lots.flatMap((lot) =>
    visitsOf(
      lot,
      graphFor(lot),
      timedByLot.get(lot.id) as readonly TimedGap[],
      paces.get(handsOf.get(lot.trayId) as string) as Pace,
      (planning.designs[ids.indexOf(lot.designId)] as Design).name,
    ),
  );
  refuseTooManyBags(order, visits);
  return { planning, way, lots, handsOf, visits, timedByLot };
}

function refuseTooManyBags(order: OrderFile, visits: readonly Visit[]): void {
  const most = order.openBags;
  const worst = visits.reduce((a, b) => (b.bundle.bags.length > a.bundle.bags.length ? b : a));
  if (most === null || worst.bundle.bags.length <= most) return;
  throw new NoAnswer(
    'too-many-bags',
    msg`${worst.lot.designId} needs ${worst.bundle.bags.length} bags in hand at once and no more than ${most} may be open: let two colours
      share a bag, or allow more.`,
    { bags: worst.bundle.bags.length, openBags: most },
  );
}

/** Due seconds of a design's cookies: its own, the order's, or the bench's last closing, whichever is first. */
export function dueS(planning: Planning, designId: string): number {
  const { order } = planning;
  const lastClose = Math.max(...order.openingHours.map(([, to]) => to));
  const own = order.designs[planning.ids.indexOf(designId)]?.packBy;
  return Math.min(own ?? order.packBy ?? lastClose, lastClose);
}

/**
 * A schedule for arranged trays. Throws {@link NoAnswer} where there is none. Where only so many bags may lie open, what a schedule
 * opens anew is known once it stands: it is given the time for that and made again, until it has time for all it opens.
 */
export function attempt(arranged: Arranged, options: AttemptOptions): Attempt {
  const most = arranged.planning.order.openBags;
  let found = scheduled(arranged, options);
  for (let tries = 1; most !== null; tries++) {
    const changes = bagChangesOf(found, most);
    const opensS = (v: Visit) => (changes.get(v.id)?.opens.length ?? 0) * arranged.planning.pace.openBagS;
    const short = found.arranged.visits.filter((v) => opensS(v) > (v.times.openingS ?? 0));
    if (short.length === 0) {
      const trimmed = openingNoMore(found, opensS, options);
      // Begun later, visits may come in another order, so that other bags are put away: then it stays as it is.
      const then = bagChangesOf(trimmed, most);
      const isEnough = trimmed.arranged.visits.every(
        (v) => (then.get(v.id)?.opens.length ?? 0) * trimmed.arranged.planning.pace.openBagS <= (v.times.openingS ?? 0),
      );
      return isEnough ? trimmed : found;
    }
    const given = (v: Visit) =>
      // A schedule may go on opening other bags than before: in the end every visit has time for all of its own.
      v.bundle.kind === 'prepare'
        ? 0
        : tries > OPENING_TRIES
          ? v.bundle.bags.length * arranged.planning.pace.openBagS
          : Math.max(v.times.openingS ?? 0, opensS(v));
    const next = { ...found.arranged, visits: found.arranged.visits.map((v) => openingFirst(v, given(v))) };
    found = scheduled(next, { ...options, warm: found.solution.start });
  }
  return found;
}

const OPENING_TRIES = 8;

/** Which bags each visit of a schedule opens anew and puts away, where so many may lie open. */
export function bagChangesOf({ arranged, solution }: Attempt, most: number): ReadonlyMap<string, BagChange> {
  const { planning, visits, handsOf } = arranged;
  const uses = visits.map((v) => {
    const prepares = v.bundle.kind === 'prepare';
    const startS = solution.start[v.id] as number;
    const bags = prepares ? bagsOfGraph(planning.graphs[planning.ids.indexOf(v.lot.designId)] as StepGraph) : v.bundle.bags;
    return { id: v.id, by: handsOf.get(v.lot.trayId) as string, bags, prepares, startS, endS: startS + v.times.durationS };
  });
  return bagChanges(uses, most);
}

/** A schedule that opens no longer than it has to: a visit with time to spare begins as much later, and touches and ends when it did. */
function openingNoMore(a: Attempt, opensS: (v: Visit) => number, options: AttemptOptions): Attempt {
  const start = { ...a.solution.start };
  const visits = a.arranged.visits.map((v) => {
    const next = openingFirst(v, opensS(v));
    start[v.id] = (start[v.id] as number) + v.times.durationS - next.times.durationS;
    return next;
  });
  const arranged = { ...a.arranged, visits };
  return { ...a, arranged, built: problemOf(arranged, options), solution: { ...a.solution, start } };
}

function scheduled(arranged: Arranged, options: AttemptOptions): Attempt {
  const { planning, visits } = arranged;
  const { order } = planning;
  const built = problemOf(arranged, options);
  const solved = (links: readonly Link[], warm: AttemptOptions['warm']) =>
    solve(links.length > 0 ? { ...built.problem, links: [...built.problem.links, ...links] } : built.problem, {
      passes: options.passes,
      seed: planning.seed,
      ...(options.timeUsed ? { timeUsed: options.timeUsed } : {}),
      ...(warm ? { warm } : {}),
      ...(options.frozen ? { frozen: options.frozen } : {}),
    });
  let solution = solved([], options.warm);
  const changes: Link[] = [];
  while (options.wholeChanges && 'start' in solution) {
    const short = changesCutShort(built.problem, solution.start);
    if (short.length === 0) break;
    changes.push(...short);
    const { start } = solution;
    solution = solved(changes, start);
  }
  if ('infeasible' in solution) throw cannotBePlanned(arranged, options.stays, solution);
  if ('unsolved' in solution)
    throw new NoAnswer(
      'unsolved',
      msg`No plan was found in the time given, and none was proven impossible: give it more time, or open the bench longer.`,
    );
  return {
    arranged,
    stays: options.stays,
    built,
    solution,
    score: scoreOf(solution, visits, order),
    ...(options.measured ? { measured: options.measured } : {}),
  };
}

/** The problem of arranged trays with these stays; `atBest` as a bound asks for it. */
function problemOf(
  arranged: Arranged,
  options: Pick<AttemptOptions, 'stays' | 'measured' | 'notBeforeS'> & { readonly atBest?: readonly StayChoice[] },
): Built {
  const { planning, visits, timedByLot, lots } = arranged;
  const { order } = planning;
  return buildProblem({
    order,
    visits,
    timedByLot,
    stays: options.stays,
    air: planning.air,
    airAt: planning.airAt,
    handsOf: arranged.handsOf,
    pieceLots: lots.filter((l) => order.designs[planning.ids.indexOf(l.designId)]?.pieces).map((l) => l.id),
    dueOf: new Map(lots.map((l) => [l.id, dueS(planning, l.designId)])),
    notBeforeS: options.notBeforeS ?? 0,
    margin: order.margin,
    factors: order.factors,
    pace: planning.pace,
    ...(options.measured ? { measured: options.measured } : {}),
    ...(options.atBest ? { atBest: options.atBest } : {}),
  });
}

/** The problem with every wait as short as the best air there is allows, wherever one of these stays might be, and no place taken. */
export const problemAtBest = (arranged: Arranged, stays: readonly StayChoice[]): Problem =>
  problemOf(arranged, { stays: [], atBest: stays }).problem;

/**
 * No plan with the cookies on these trays and in these hands ends earlier, whatever stays are chosen: the engine's bound with every
 * wait as short as the best air there is allows wherever one of these might be, and no place taken.
 */
export function endAtBestS(arranged: Arranged, stays: readonly StayChoice[], options: Pick<AttemptOptions, 'passes' | 'timeUsed'>): number {
  const problem = problemAtBest(arranged, stays);
  const outcome = solve({ ...problem, objective: 'makespan' }, { ...options, seed: arranged.planning.seed });
  return 'start' in outcome ? outcome.lowerBound : 0;
}

/** What stands in each other's way, in the user's own names, with what would help. */
function cannotBePlanned({ planning, visits }: Arranged, stays: readonly StayChoice[], { because }: Infeasible): NoAnswer {
  const { ids, designs } = planning;
  const where = new Map([
    ...visits.map(
      (v) => [v.id as string, msg`${designs[ids.indexOf(v.lot.designId)]?.name ?? v.lot.designId} on tray ${v.lot.trayId}`] as const,
    ),
    ...stays.flatMap((s) => [carryId(s), takeOutId(s)].map((id) => [id, msg`tray ${s.trayId}`] as const)),
  ]);
  const named = [...new Set(because.tasks.flatMap((id) => where.get(id) ?? []))];
  const what = named.length > 3 ? msg`${named.slice(0, 3).join(', ')} and ${named.length - 3} more` : named.join(msg` and `);
  const sentence =
    because.kind === 'positive-cycle'
      ? msg`${what}: something has to wait longer than its window stays open: loosen the icing it goes into, ask for a shorter wait, or
        choose a bolder margin.`
      : because.kind === 'calendar'
        ? msg`${what}: the wet work cannot be fitted into the opening hours without a window closing: open the bench longer in one
          stretch, or put fewer cookies on a tray.`
        : msg`${what}: the wet work cannot be fitted between each other's windows: put fewer cookies on a tray, or choose a bolder margin.`;
  return new NoAnswer('infeasible', sentence, { kind: because.kind });
}

/** Lateness, what was feared, then the end, then when the hands are free on each bench day. */
function scoreOf(s: Solution, visits: readonly Visit[], order: OrderFile): number[] {
  const handsFree = order.openingHours.reduce((sum, [from, to]) => {
    const ends = visits
      .map((v) => [s.start[v.id] as number, v.times.durationS] as const)
      .filter(([at]) => at >= from && at < to)
      .map(([at, d]) => at + d);
    return sum + (ends.length > 0 ? Math.max(...ends) - from : 0);
  }, 0);
  return [s.tardiness ?? 0, s.softCost ?? 0, s.makespan, handsFree];
}

/** Passes of improvement while one thing is judged. */
export const JUDGE_PASSES = 40;

export const isInTime = (a: Attempt): boolean => (a.solution.tardiness ?? 0) <= 0;

export const better = (a: readonly number[], b: readonly number[]): boolean => {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return (a[i] as number) < (b[i] as number);
  return false;
};

function designIds(order: OrderFile): string[] {
  const seen = new Map<string, number>();
  return order.designs.map((d) => {
    const base = (d.file.split('/').at(-1) as string).replace(/\.svg$/i, '');
    const n = (seen.get(base) ?? 0) + 1;
    seen.set(base, n);
    return n === 1 ? base : `${base}-${n}`;
  });
}
