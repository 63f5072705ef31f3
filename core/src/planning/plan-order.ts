import { type Design, recoloured } from '../design/design.js';
import { type Air, withFan } from '../drying/air.js';
import type { OrderFile } from '../formats/order.js';
import type { Because, Lot, Motion, Plan, PlanDesign, PlanTask, PlanWait, Stay, TimedGap } from '../formats/plan.js';
import type { Solution } from '../scheduling/problem.js';
import { solve } from '../scheduling/solve.js';
import { deriveSteps, type StepGraph } from '../steps/derive.js';
import { ASSUMED_PACE, type Pace } from '../steps/pace.js';
import { bagKey } from '../steps/step.js';
import { techniqueById } from '../steps/techniques/index.js';
import { NoAnswer } from '../units/bad-input.js';
import { type Built, buildProblem, carryId, lagKey, STAY_LENGTHS_S, type StayChoice, stayId } from './build-problem.js';
import { fillTrays } from './lots.js';
import { timeGap } from './timed-gap.js';
import { measureGaps } from './verify.js';
import { type Visit, visitsOf } from './visits.js';

export const MODEL_VERSION = 'kestfog-model/1';

export interface PlanInput {
  readonly order: OrderFile;
  /** one for each entry of order.designs, in that order */
  readonly designs: readonly Design[];
  readonly pace?: Pace;
  readonly seed?: number;
  /** rounds of improvement of the last solve; the engine's own measure, so that a plan can be repeated */
  readonly rounds?: number;
  readonly timeUsed?: () => number;
  readonly onProgress?: (text: string) => void;
}

/** Rounds of improvement while judging one stay, and for the plan that is kept. */
const JUDGE_ROUNDS = 40;
const FINAL_ROUNDS = 1200;
/** A wait this much longer than the air needs is worth solving again (drying.md: long by more than 10 %). */
const LONG_BY = 1.1;
const SHORT_BY_S = 5;
const MEASURE_TRIES = 3;

/**
 * An order planned: steps of one cookie → visits → integer lags → schedule → plan. Throws {@link NoAnswer} with the
 * reason where it cannot be done.
 */
export function planOrder(input: PlanInput): Plan {
  const { order } = input;
  const pace = input.pace ?? ASSUMED_PACE;
  const { school } = order;
  const air: Air = { tempC: order.air.tempC, humidityFrac: order.air.humidityPct / 100, airMPerS: order.air.airMPerS };
  const fanAir = order.fan ? withFan(air, order.fan.airMPerS) : null;
  const ids = designIds(order);
  const counted = new Map(order.bags.map((b) => [bagKey(b), b.countedS]));
  const designs = input.designs.map((d) => recoloured(d, order.merges));
  const graphs = designs.map((d) => deriveSteps(d, school, pace, counted));
  const lots = fillTrays(order, ids);
  const timedByDesign = new Map(ids.map((id, i) => [id, (graphs[i] as StepGraph).gaps.map((g) => timeGap(g, air, order.margin, order.factors))]));
  const timedByLot = new Map(lots.map((l) => [l.id, timedByDesign.get(l.designId) as TimedGap[]]));
  const visits = lots.flatMap((lot) => {
    const i = ids.indexOf(lot.designId);
    return visitsOf(lot, graphs[i] as StepGraph, timedByLot.get(lot.id) as TimedGap[], pace, school.outline === 'set', (designs[i] as Design).name);
  });
  const common = { order, visits, timedByLot, air, fanAir, margin: order.margin, factors: order.factors, pace };

  const attempt = (stays: readonly StayChoice[], rounds: number, measured?: ReadonlyMap<string, number>): Attempt => {
    const built = buildProblem({ ...common, stays, ...(measured ? { measured } : {}) });
    const outcome = solve(built.problem, { rounds, seed: input.seed ?? 1, ...(input.timeUsed ? { timeUsed: input.timeUsed } : {}) });
    if ('infeasible' in outcome) throw new NoAnswer('infeasible', `The order cannot be planned: ${outcome.message}.`);
    if ('unsolved' in outcome) throw new NoAnswer('unsolved', `The order could not be planned: ${outcome.message}.`);
    return { stays, built, solution: outcome, score: scoreOf(outcome, visits, order) };
  };

  let best = attempt([], JUDGE_ROUNDS);
  if (order.fan) best = chooseStays(best, visits, windowedRounds(visits, timedByLot), attempt, input.onProgress);
  input.onProgress?.('settling the plan');
  const settled = attempt(best.stays, input.rounds ?? FINAL_ROUNDS);
  if (better(settled.score, best.score)) best = settled;
  best = measureAgain(best, (measured) => attempt(best.stays, JUDGE_ROUNDS * 4, measured), visits, timedByLot, air, fanAir, order);
  refuseLate(best.solution, order);
  return toPlan(best, { order, lots, visits, timedByLot, air, fanAir, pace, ids, graphs, designs });
}

interface Attempt {
  readonly stays: readonly StayChoice[];
  readonly built: Built;
  readonly solution: Solution;
  readonly score: readonly number[];
}

function designIds(order: OrderFile): string[] {
  const seen = new Map<string, number>();
  return order.designs.map((d) => {
    const base = (d.file.split('/').at(-1) as string).replace(/\.svg$/i, '');
    const n = (seen.get(base) ?? 0) + 1;
    seen.set(base, n);
    return n === 1 ? base : `${base}-${n}`;
  });
}

/** Lateness, then the end, then when the hands are free on each bench day, then tray moves. */
function scoreOf(s: Solution, visits: readonly Visit[], order: OrderFile): number[] {
  const handsFree = order.bench.reduce((sum, [from, to]) => {
    const ends = visits
      .map((v) => [s.start[v.id] as number, v.times.durationS] as const)
      .filter(([at]) => at >= from && at < to)
      .map(([at, d]) => at + d);
    return sum + (ends.length > 0 ? Math.max(...ends) - from : 0);
  }, 0);
  return [s.tardiness ?? 0, s.makespan, handsFree];
}

const better = (a: readonly number[], b: readonly number[]): boolean => {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return (a[i] as number) < (b[i] as number);
  return false;
};

/** Rounds of a tray after which a window of the air it has (crackling) is still to come: a fan would move it, so the tray stays. */
function windowedRounds(visits: readonly Visit[], timedByLot: ReadonlyMap<string, readonly TimedGap[]>): Set<string> {
  const out = new Set<string>();
  for (const from of visits) {
    const opens = (timedByLot.get(from.lot.id) ?? []).some((t) => t.maxS !== null && from.times.endS.has(t.gap.from) && !from.times.endS.has(t.gap.to));
    if (opens) out.add(`${from.lot.trayId} ${from.bundle.round}`);
  }
  return out;
}

/** A stay has to earn its two carries. */
const WORTH_S = 60;

/** Who stands before the fan, and how long: tray by tray and round by round, kept where the engine's plan gains by it. */
function chooseStays(
  start: Attempt,
  visits: readonly Visit[],
  windowed: ReadonlySet<string>,
  attempt: (stays: readonly StayChoice[], rounds: number) => Attempt,
  onProgress?: (text: string) => void,
): Attempt {
  let best = start;
  const trays = [...new Set(visits.map((v) => v.lot.trayId))];
  for (const trayId of trays) {
    const rounds = [...new Set(visits.filter((v) => v.lot.trayId === trayId && v.bundle.kind === 'wet').map((v) => v.bundle.round))]
      .filter((round) => !windowed.has(`${trayId} ${round}`))
      .sort((a, b) => a - b);
    for (const afterRound of rounds) {
      onProgress?.(`trying the fan on tray ${trayId}`);
      let chosen: Attempt | null = null;
      for (const seconds of STAY_LENGTHS_S.slice(1, 4)) {
        const tried = attempt([...best.stays, { trayId, afterRound, seconds }], JUDGE_ROUNDS);
        const gain = (best.score[2] as number) - (tried.score[2] as number);
        const sooner = (best.score[0] as number) > (tried.score[0] as number) || (best.score[1] as number) - (tried.score[1] as number) > WORTH_S;
        const same = best.score[0] === tried.score[0] && Math.abs((best.score[1] as number) - (tried.score[1] as number)) <= WORTH_S;
        if ((sooner || (same && gain > WORTH_S)) && (!chosen || better(tried.score, chosen.score))) chosen = tried;
      }
      if (chosen) best = chosen;
    }
  }
  return best;
}

/** Cautious waits behind a stay are measured through the air the plan gives, and solved again where they were too long. */
function measureAgain(
  first: Attempt,
  solveWith: (measured: ReadonlyMap<string, number>) => Attempt,
  visits: readonly Visit[],
  timedByLot: ReadonlyMap<string, readonly TimedGap[]>,
  air: Air,
  fanAir: Air | null,
  order: OrderFile,
): Attempt {
  const staysOf = (a: Attempt) => (trayId: string) =>
    a.stays
      .filter((s) => s.trayId === trayId)
      .map((s) => ({ startS: a.solution.start[stayId(s)] as number, endS: (a.solution.start[stayId(s)] as number) + s.seconds }));
  const measure = (a: Attempt) => measureGaps(visits, timedByLot, a.solution.start, staysOf(a), air, fanAir, order.margin, order.factors);
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
    const next = solveWith(measured);
    // Moving the stay itself changes what its trays need: a plan with a wait that came out short is not taken.
    if (short(next).length > 0 || !better(next.score, best.score)) break;
    best = next;
  }
  return best;
}

function refuseLate(s: Solution, order: OrderFile): void {
  if ((s.tardiness ?? 0) <= 0) return;
  const lastClose = Math.max(...order.bench.map(([, to]) => to));
  const due = Math.min(order.packBy ?? lastClose, lastClose);
  const late = s.makespan - due;
  const what = order.packBy !== null && order.packBy <= lastClose ? 'the time it must be packed by' : 'the bench closes for the last time';
  throw new NoAnswer(
    'does-not-fit',
    `The order does not fit: the best plan found ends ${minutesText(late)} after ${what}. Start earlier, open the bench longer, or take cookies off.`,
    { lateS: late, endS: s.makespan },
  );
}

function minutesText(s: number): string {
  const min = Math.ceil(s / 60);
  return min < 60 ? `${min} min` : `${Math.floor(min / 60)} h ${min % 60} min`;
}

interface PlanParts {
  readonly order: OrderFile;
  readonly lots: readonly Lot[];
  readonly visits: readonly Visit[];
  readonly timedByLot: ReadonlyMap<string, readonly TimedGap[]>;
  readonly air: Air;
  readonly fanAir: Air | null;
  readonly pace: Pace;
  readonly ids: readonly string[];
  readonly graphs: readonly StepGraph[];
  readonly designs: readonly Design[];
}

function toPlan(a: Attempt, p: PlanParts): Plan {
  const { solution } = a;
  const startOf = (id: string) => solution.start[id] as number;
  const timedTasks: PlanTask[] = [];
  for (const v of p.visits) {
    const design = p.designs[p.ids.indexOf(v.lot.designId)] as Design;
    const windows = new Map(
      (p.timedByLot.get(v.lot.id) ?? [])
        .filter((t) => t.maxS !== null && (t.gap.rule === 'wet-window' || t.gap.rule === 'crackle-window'))
        .map((t) => [t.gap.to, t]),
    );
    timedTasks.push({
      id: v.id,
      kind: v.bundle.kind,
      trayId: v.lot.trayId,
      lotId: v.lot.id,
      cookies: v.cookies,
      round: v.bundle.round,
      title: titleOf(v, design),
      startS: startOf(v.id),
      endS: startOf(v.id) + v.times.durationS,
      bags: v.bundle.bags,
      way: v.times.way,
      motions: v.bundle.steps.map(
        (s): Motion => ({
          stepId: s.id,
          technique: s.technique,
          kind: s.kind,
          label: s.label,
          startS: v.times.startS.get(s.id) as number[],
          endS: v.times.endS.get(s.id) as number[],
          windowS: windows.get(s.id)?.maxS ?? null,
          windowFrom: windows.get(s.id)?.gap.from ?? null,
        }),
      ),
      because: { kind: 'first' },
    });
  }
  const stays: Stay[] = a.stays.map((s) => ({
    id: stayId(s),
    trayId: s.trayId,
    round: s.afterRound,
    startS: startOf(stayId(s)),
    endS: startOf(stayId(s)) + s.seconds,
  }));
  for (const s of a.stays) {
    timedTasks.push({
      id: carryId(s),
      kind: 'carry',
      trayId: s.trayId,
      lotId: null,
      cookies: [0, 0],
      round: s.afterRound,
      title: 'carry it to the fan, level, no knocks',
      startS: startOf(carryId(s)),
      endS: startOf(carryId(s)) + p.pace.traySwapS,
      bags: [],
      way: 'cookie-by-cookie',
      motions: [],
      because: { kind: 'first' },
    });
  }
  timedTasks.sort((x, y) => x.startS - y.startS || x.endS - y.endS);
  const waits = waitsOf(a.built, startOf);
  const tasks = timedTasks.map((t, i): PlanTask => ({ ...t, because: because(t, timedTasks[i - 1], waits, p.pace) }));
  return {
    format: 'kestfog-plan/1',
    modelVersion: MODEL_VERSION,
    epoch: p.order.epoch ?? null,
    school: p.order.school.id,
    margin: p.order.margin,
    factors: p.order.factors,
    air: p.air,
    fanAir: p.fanAir,
    bench: p.order.bench,
    packBy: p.order.packBy,
    endS: solution.makespan,
    proven: solution.proven === true,
    lowerBoundS: solution.lowerBound,
    handsOnS: tasks.reduce((s, t) => s + t.endS - t.startS, 0),
    designs: p.ids.map(
      (id, i): PlanDesign => ({
        id,
        file: p.order.designs[i]?.file as string,
        count: p.order.designs[i]?.count as number,
        graph: p.graphs[i] as StepGraph,
        drawing: p.designs[i] as Design,
      }),
    ),
    trays: p.order.trays.map((t) => ({ ...t, lots: p.lots.filter((l) => l.trayId === t.id) })),
    tasks,
    stays,
    waits,
  };
}

function titleOf(v: Visit, design: Design): string {
  const { bundle } = v;
  if (bundle.kind === 'prepare') return 'check they are cool, draw guides, open and knead the bags';
  if (bundle.kind === 'pack') return 'pack';
  if (bundle.kind === 'outline') return 'outline';
  const [first] = bundle.steps;
  if (bundle.kind === 'detail' && first) return `${techniqueById(first.technique).verb} the ${first.label}`;
  const floods = bundle.steps.filter((s) => s.kind === 'flood');
  const names = [...new Set(floods.map((s) => design.sections.find((x) => x.id === s.part)?.name ?? s.label))];
  const wet = [...new Set(bundle.steps.filter((s) => s.kind === 'mark').map((s) => s.label))];
  return `flood ${listed(names)}${wet.length > 0 ? `, then ${listed(wet)} while wet` : ''}`;
}

const listed = (names: readonly string[]) => (names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`);

function waitsOf(built: Built, startOf: (id: string) => number): PlanWait[] {
  const strongest = new Map<string, PlanWait>();
  for (const l of built.lags) {
    const key = lagKey(l.from, l.to);
    const known = strongest.get(key);
    if (known && known.minS >= l.minS) continue;
    strongest.set(key, {
      from: l.from,
      to: l.to,
      minS: l.minS,
      maxS: l.maxS,
      slackS: startOf(l.to) - startOf(l.from) - l.minS,
      rule: l.rule,
      reason: l.reason,
      consequence: l.consequence,
    });
  }
  return [...strongest.values()];
}

/** What holds a task back: the drying or the stay that ends just then, the hands, or the bench's hours. */
function because(t: PlanTask, before: PlanTask | undefined, waits: readonly PlanWait[], pace: Pace): Because {
  const binding = waits.filter((w) => w.to === t.id && w.slackS <= 0).sort((a, b) => b.minS - a.minS)[0];
  if (binding && binding.minS > 0 && binding.rule !== 'prepared-first')
    return { kind: 'drying', fromTask: binding.from, reason: binding.reason, rule: binding.rule, waitS: binding.minS };
  if (!before) return { kind: 'first' };
  if (t.startS - before.endS <= pace.changeoverS) return { kind: 'hands', fromTask: before.id };
  return { kind: 'bench' };
}
