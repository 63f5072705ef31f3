import { lagKey } from '../formats/ids.js';
import { type Arrangement, arrangementWays, type Plan } from '../formats/plan.js';
import { NoAnswer } from '../units/bad-input.js';

import { chooseStays, givenStays } from './choose-stays.js';
import { type Arranged, type Attempt, arrange, attempt, better, dueS, type PlanInput, type Planning, preparePlanning } from './planning.js';
import { staysOf, toPlan } from './to-plan.js';
import { measureGaps } from './verify.js';

export interface PlanOptions extends PlanInput {
  /** passes of improvement of the last solve; the engine's own measure, so that a plan can be repeated */
  readonly passes?: number;
  /** share of the time that is used up */
  readonly timeUsed?: () => number;
  readonly onProgress?: (text: string) => void;
  /** plans that hold, each better than the one before: the first comes almost at once */
  readonly onPlan?: (plan: Plan) => void;
}

/** Passes of improvement while judging one thing, and for the plan that is kept. */
export const JUDGE_PASSES = 40;
const FINAL_PASSES = 1200;
/** Share of the time after which no more stays are tried: the rest settles the plan. */
const STAYS_UNTIL = 0.6;
/** A wait this much longer than the air needs is worth solving again: *assumed*, one part in ten. */
const LONG_BY = 1.1;
const SHORT_BY_S = 5;
const MEASURE_TRIES = 3;

/**
 * An order planned: steps of one cookie → trays → visits → integer lags → schedule → plan. Throws {@link NoAnswer} with
 * the reason where it cannot be done.
 */
export function planOrder(input: PlanOptions): Plan {
  const planning = preparePlanning(input);
  const timeUsed = input.timeUsed ?? (() => 0);
  const told = (a: Attempt, arrangement: Arrangement) => input.onPlan?.(toPlan(a, arrangement));
  let first = true;
  const { best: arranged, arrangement } = chooseArrangement(planning, (a, so) => {
    // Only the very first is reported as it comes; the others follow within the second.
    if (first) told(a, so);
    first = false;
  });
  let best = arranged;
  const after = (share: number) => () => timeUsed() >= share;
  // Ended early, judging is still whole: each attempt is measured in passes.
  const judged = (stays: Attempt['stays']) => attempt(best.arranged, { stays, passes: JUDGE_PASSES });
  best = chooseStays(best, judged, after(STAYS_UNTIL), input.onProgress);
  input.onProgress?.('settling the plan');
  const began = timeUsed();
  const settled = attempt(best.arranged, {
    stays: best.stays,
    passes: input.passes ?? FINAL_PASSES,
    timeUsed: () => (began < 1 ? (timeUsed() - began) / (1 - began) : 1),
    warm: best.solution.start,
  });
  if (better(settled.score, best.score)) best = settled;
  best = measureAgain(best);
  refuseLate(best);
  return toPlan(best, arrangement);
}

/** Which cookies share a tray, and which are begun first: each way planned quickly, the best one kept. */
export function chooseArrangement(
  planning: Planning,
  onInTime?: (a: Attempt, arrangement: Arrangement) => void,
): { readonly best: Attempt; readonly arrangement: Arrangement } {
  let best: Attempt | null = null;
  let refused: NoAnswer | null = null;
  const tried: { way: (typeof arrangementWays)[number]; endS: number | null }[] = [];
  const seen = new Map<string, number | null>();
  for (const way of arrangementWays) {
    try {
      const arranged = arrange(planning, way);
      const key = JSON.stringify(arranged.lots);
      const known = seen.get(key);
      if (known !== undefined) {
        tried.push({ way, endS: known });
        continue;
      }
      const a = attempt(arranged, { stays: givenStays(arranged), passes: JUDGE_PASSES });
      seen.set(key, a.solution.makespan);
      tried.push({ way, endS: a.solution.makespan });
      if (!best || better(a.score, best.score)) best = a;
      if (isInTime(a)) onInTime?.(a, { way, tried: [...tried] });
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error;
      refused ??= error;
      tried.push({ way, endS: null });
    }
  }
  if (!best) throw refused ?? new NoAnswer('unsolved', 'The order could not be planned.');
  return { best, arrangement: { way: best.arranged.way, tried } };
}

/** Cautious waits behind a stay are measured through the air the plan gives, and solved again where they were too long. */
function measureAgain(first: Attempt): Attempt {
  const { planning, visits, timedByLot } = first.arranged;
  const { order } = planning;
  const measure = (a: Attempt) => {
    const stays = staysOf(a).flatMap((s) => {
      const air = planning.airAt[s.where];
      return air ? [{ trayId: s.trayId, startS: s.startS, endS: s.endS, air }] : [];
    });
    const of = (trayId: string) => stays.filter((s) => s.trayId === trayId);
    return measureGaps(visits, timedByLot, a.solution.start, of, planning.air, order.margin, order.factors);
  };
  const short = (a: Attempt) => measure(a).filter((g) => g.neededS > g.givenS);
  if (short(first).length > 0) throw new Error(`a wait came out short: ${JSON.stringify(short(first)[0]?.timed.gap)}`);
  let best = first;
  const measured = new Map<string, number>();
  for (let i = 0; i < MEASURE_TRIES && best.stays.length > 0; i++) {
    let changed = false;
    const need = new Map<string, { neededS: number; givenS: number }>();
    for (const g of measure(best)) {
      const key = lagKey(g.from.id, g.to.id);
      if (best.built.behindStay.has(key)) need.set(key, { neededS: Math.max(need.get(key)?.neededS ?? Number.NEGATIVE_INFINITY, g.neededS), givenS: g.givenS });
    }
    for (const [key, g] of need) {
      if (g.givenS > g.neededS * LONG_BY && g.givenS - g.neededS > SHORT_BY_S) {
        measured.set(key, g.neededS);
        changed = true;
      }
    }
    if (!changed) break;
    const next = attempt(best.arranged, { stays: best.stays, passes: JUDGE_PASSES * 4, measured, warm: best.solution.start });
    // Moving the stay itself changes what its trays need: a plan with a wait that came out short is not taken.
    if (short(next).length > 0 || !better(next.score, best.score)) break;
    best = next;
  }
  return best;
}

export const isInTime = (a: Attempt): boolean => (a.solution.tardiness ?? 0) <= 0;

/** By how much the latest cookies miss the time they are due; 0 where none does. */
export function latestBy({ arranged, solution }: Attempt): { readonly lateS: number; readonly designId: string } {
  const late = (a: Arranged) =>
    a.visits
      .filter((v) => v.bundle.kind === 'pack')
      .map((v) => ({ lateS: (solution.start[v.id] as number) + v.times.durationS - dueS(a.planning, v.lot.designId), designId: v.lot.designId }));
  return late(arranged).reduce((a, b) => (b.lateS > a.lateS ? b : a));
}

function refuseLate(a: Attempt): void {
  if (isInTime(a)) return;
  const { order, ids } = a.arranged.planning;
  const lastClose = Math.max(...order.openingHours.map(([, to]) => to));
  const { lateS, designId } = latestBy(a);
  const design = order.designs[ids.indexOf(designId)];
  const own = design?.packBy ?? order.packBy;
  const due =
    own === null || own > lastClose ? 'the bench closes for the last time' : design?.for ? `${design.for} must be packed` : 'the time it must be packed by';
  throw new NoAnswer(
    'does-not-fit',
    `The order does not fit: the best plan found ends ${minutesText(lateS)} after ${due}. Start earlier, open the bench longer, or take cookies off.`,
    { lateS, endS: a.solution.makespan },
  );
}

function minutesText(s: number): string {
  const min = Math.ceil(s / 60);
  return min < 60 ? `${min} min` : `${Math.floor(min / 60)} h ${min % 60} min`;
}
