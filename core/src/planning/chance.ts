import type { Air } from '../drying/air.js';
import { dryingRate, secondsToLose, secondsToLoseThrough } from '../drying/front.js';
import type { DryingState } from '../drying/state.js';
import { dryingStates } from '../drying/state.js';
import { lossAsked, SPREAD } from '../drying/uncertainty.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import { disturbs, type Gap, type Step } from '../steps/step.js';
import { type Rng, seededRng } from '../time/rng.js';
import { airOfStay, airPieces, type StayAir } from './verify.js';

/** One way in which an evening goes wrong, with how often and what would help. */
export interface WeakPoint {
  readonly kind: 'window' | 'wait';
  /** the step to look at */
  readonly taskId: string;
  readonly trayId: string;
  readonly label: string;
  /** share of the evenings in which it happens, 0–1 */
  readonly share: number;
  readonly cure: string;
}

export interface Chance {
  readonly draws: number;
  /** share of the evenings in which everything is packed when it is due; null where nothing is */
  readonly onTime: number | null;
  /** every window with how often it is missed, 0–1, the weakest first */
  readonly windows: readonly WindowChance[];
  /** the three weakest points */
  readonly weakest: readonly WeakPoint[];
  /** lateness of the four-in-five evening, seconds; 0 where that is in time */
  readonly late80S: number;
}
export interface WindowChance {
  readonly taskId: string;
  readonly trayId: string;
  readonly label: string;
  readonly missed: number;
}

export interface ChanceOptions {
  readonly draws?: number;
  readonly seed?: number;
  readonly onProgress?: (share: number) => void;
}

export const CHANCE_DRAWS = 400;
/** Spread of ln(pace) of a whole evening and of one visit: *assumed*, until finished runs have taught better ones. */
const PACE_SIGMA = 0.1;
const VISIT_SIGMA = 0.12;
/** Share of a threshold's variance that all surfaces of an evening have in common, and each state's own (drying.md §6). */
const ALL = SPREAD.common ** 2 + SPREAD.state ** 2 + SPREAD.day ** 2 + SPREAD.cookie ** 2;
const COMMON_SHARE = (SPREAD.common ** 2 + SPREAD.day ** 2) / ALL;
const STATE_SHARE = SPREAD.state ** 2 / ALL;
/** Someone with icing in hand stays this long past closing. */
const STAYS_S = 600;
/** A start this much later than planned needs an explanation. */
const NOTED_S = 60;
const WEAKEST = 3;

/**
 * The evening lived many times over: paces and drying drawn from what is believed of them, the plan's order kept and shifted
 * right, as hands do that wait for a crust. No new plan is made meanwhile, so a real evening that re-plans does better.
 */
export function chanceOf(plan: Plan, { draws = CHANCE_DRAWS, seed = 1, onProgress }: ChanceOptions = {}): Chance {
  const rng = seededRng(seed);
  const tasks = [...plan.tasks].sort((a, b) => a.startS - b.startS || a.endS - b.endS);
  const edges = edgesOf(plan, tasks);
  const missed = new Map<Edge, number>();
  const blamed = new Map<Edge, number>();
  const lateness: number[] = [];
  for (let draw = 0; draw < draws; draw++) {
    const evening = live(plan, tasks, edges, rng);
    lateness.push(evening.lateS);
    for (const e of evening.missed) missed.set(e, (missed.get(e) ?? 0) + 1);
    for (const e of evening.blamed) blamed.set(e, (blamed.get(e) ?? 0) + 1);
    if (draw % 50 === 49) onProgress?.((draw + 1) / draws);
  }
  lateness.sort((a, b) => a - b);
  const isDue = plan.packBy !== null || plan.designs.some((d) => d.packBy !== null);
  const onTime = isDue ? lateness.filter((l) => l <= 0).length / draws : null;
  const windows = edges
    .filter((e) => e.closes)
    .map((e) => ({ edge: e, taskId: e.to.id, trayId: e.to.trayId, label: e.label, missed: (missed.get(e) ?? 0) / draws }))
    .sort((a, b) => b.missed - a.missed);
  // A step of many cookies has one window a mark; the worst of them speaks for it.
  const worst = windows.filter((w, i) => windows.findIndex((o) => o.taskId === w.taskId && o.label === w.label) === i);
  const weak: WeakPoint[] = [
    ...worst.map(({ edge, ...w }) => ({ ...w, kind: 'window' as const, share: w.missed, cure: cureOfWindow(edge, plan) })),
    ...[...blamed].map(([e, n]) => ({
      kind: 'wait' as const,
      taskId: e.to.id,
      trayId: e.to.trayId,
      label: e.gap.reason,
      share: n / draws,
      cure: cureOfWait(e, plan, lateness, onTime),
    })),
  ];
  return {
    draws,
    onTime,
    windows: worst.map(({ edge: _, ...w }) => w),
    weakest: weak
      .filter((w) => w.share > 0)
      .sort((a, b) => b.share - a.share)
      .slice(0, WEAKEST),
    late80S: Math.max(0, Math.round(lateness[Math.floor(0.8 * draws)] as number)),
  };
}

/** A gap between two tasks (or within one) on the first and last cookie they share, in seconds from their starts. */
interface Edge {
  readonly gap: Gap;
  readonly from: PlanTask;
  readonly to: PlanTask;
  readonly label: string;
  readonly closes: boolean;
  readonly ends: readonly { readonly leftS: number; readonly endS: number; readonly beginsS: number; readonly doneS: number }[];
}

function edgesOf(plan: Plan, tasks: readonly PlanTask[]): Edge[] {
  const out: Edge[] = [];
  for (const design of plan.designs) {
    const lots = new Set(
      plan.trays
        .flatMap((t) => t.lots)
        .filter((l) => l.designId === design.id)
        .map((l) => l.id),
    );
    const steps = new Map(design.graph.steps.map((s) => [s.id, s]));
    const own = tasks.filter((t) => t.lotId !== null && lots.has(t.lotId));
    for (const gap of design.graph.gaps) {
      const doing = (stepId: string) => own.filter((t) => t.motions.some((m) => m.stepId === stepId));
      const label = steps.get(gap.to)?.label ?? gap.to;
      for (const from of doing(gap.from))
        for (const to of doing(gap.to)) {
          const shared = [Math.max(from.cookies[0], to.cookies[0]), Math.min(from.cookies[1], to.cookies[1]) - 1] as const;
          if (from.lotId !== to.lotId || shared[0] > shared[1]) continue;
          const closes = gap.maxLossKgPerM2 !== undefined || gap.maxSeconds !== undefined;
          // Within one visit only what closes is of interest: its own order of motions keeps the waits.
          if (from === to && !closes) continue;
          const ends = [...new Set(shared)].map((cookie) => {
            const at = (t: PlanTask, stepId: string, which: 'startS' | 'endS') =>
              t.motions.find((m) => m.stepId === stepId)?.[which][cookie - t.cookies[0]] as number;
            return {
              leftS: leftAlone(from, gap.from, cookie, steps),
              endS: at(from, gap.from, 'endS'),
              beginsS: at(to, gap.to, 'startS'),
              doneS: at(to, gap.to, 'endS'),
            };
          });
          out.push({ gap, from, to, label, closes, ends });
        }
    }
  }
  return out;
}

/** When a body is left alone on a cookie: after the last wet work in it in the same visit. */
function leftAlone(task: PlanTask, stepId: string, cookie: number, steps: ReadonlyMap<string, Step>): number {
  const step = steps.get(stepId);
  const i = cookie - task.cookies[0];
  return Math.max(
    ...task.motions
      .filter((m) => {
        const own = steps.get(m.stepId);
        return m.stepId === stepId || (step !== undefined && own !== undefined && disturbs(own, step));
      })
      .map((m) => m.endS[i] as number),
  );
}

interface Evening {
  readonly lateS: number;
  readonly missed: readonly Edge[];
  /** the drying that pushed what was packed late */
  readonly blamed: readonly Edge[];
}

type Cause = { readonly kind: 'drying'; readonly edge: Edge } | { readonly kind: 'after'; readonly task: PlanTask };

function live(plan: Plan, tasks: readonly PlanTask[], edges: readonly Edge[], rng: Rng): Evening {
  const normal = normals(rng);
  const factor = factorsOfAnEvening(plan, normal);
  const evening = normal() * PACE_SIGMA;
  const start = new Map<string, number>();
  const scale = new Map<string, number>();
  const cause = new Map<string, Cause>();
  const handsFree = new Map<string, { atS: number; task: PlanTask }>();
  const stays = new Map<string, (StayAir & { forS: number })[]>();
  const rates = new Map<Air, ReturnType<typeof dryingRate>>([[plan.air, dryingRate(plan.air)]]);
  const missed: Edge[] = [];
  const into = new Map<string, Edge[]>();
  for (const e of edges) if (e.from !== e.to) into.set(e.to.id, [...(into.get(e.to.id) ?? []), e]);
  let lateS = Number.NEGATIVE_INFINITY;
  let latest: PlanTask | null = null;
  for (const task of tasks) {
    const pace = Math.exp(evening + normal() * VISIT_SIGMA);
    scale.set(task.id, pace);
    let at = task.startS;
    let why: Cause | null = null;
    const push = (s: number, by: Cause) => {
      if (s <= at) return;
      at = s;
      why = by;
    };
    const before = handsFree.get(task.by);
    if (before) {
      const change = before.task.bags.length > 0 && task.bags.length > 0 && before.task.bags[0] !== task.bags[0] ? ASSUMED_PACE.changeoverS : 0;
      push(before.atS + Math.min(change, Math.max(0, task.startS - before.task.endS)), { kind: 'after', task: before.task });
    }
    const away = stays.get(task.trayId) ?? [];
    if (task.kind === 'take-out') push((away.at(-1)?.startS ?? 0) + (away.at(-1)?.forS ?? 0), { kind: 'after', task });
    else if (task.kind !== 'carry') for (const s of away) if (s.endS > at) push(s.endS, { kind: 'after', task });
    for (const e of into.get(task.id) ?? []) {
      const from = start.get(e.from.id) as number;
      const fromPace = scale.get(e.from.id) as number;
      for (const end of e.ends) {
        const left = from + end.leftS * fromPace;
        let ready = left;
        if (e.gap.minState && e.gap.minLossKgPerM2 !== undefined) {
          const need = lossAsked(e.gap.minLossKgPerM2, e.gap.minState, e.gap.firmLossKgPerM2, (s) => factor(s, task.lotId as string));
          ready =
            left +
            (away.length === 0
              ? secondsToLose(rates.get(plan.air) as ReturnType<typeof dryingRate>, 0, need)
              : secondsToLoseThrough(airPieces(left, away, plan.air), need));
        }
        ready = Math.max(ready, from + end.endS * fromPace + (e.gap.minSeconds ?? 0));
        push(ready - end.beginsS * pace, { kind: 'drying', edge: e });
      }
    }
    const duration = (task.endS - task.startS) * pace;
    at = openAt(plan, task.by, at, duration);
    start.set(task.id, at);
    if (why && at > task.startS + NOTED_S) cause.set(task.id, why);
    handsFree.set(task.by, { atS: at + duration, task });
    if (task.kind === 'carry') {
      const stay = plan.stays.find((s) => s.trayId === task.trayId && s.round === task.round);
      if (stay) {
        const startS = at + duration;
        stays.set(task.trayId, [...away, { startS, endS: startS + stay.forS, air: airOfStay(plan, stay.where), forS: stay.forS }]);
      }
    } else if (task.kind === 'take-out' && away.length > 0) {
      const last = away.at(-1) as StayAir & { forS: number };
      stays.set(task.trayId, [...away.slice(0, -1), { ...last, endS: at }]);
    } else if (task.kind === 'pack') {
      const lot = plan.trays.flatMap((t) => t.lots).find((l) => l.id === task.lotId);
      const due = plan.designs.find((d) => d.id === lot?.designId)?.packBy ?? plan.packBy ?? Number.POSITIVE_INFINITY;
      if (at + duration - due > lateS) {
        lateS = at + duration - due;
        latest = task;
      }
    }
  }
  for (const e of edges) {
    if (!e.closes) continue;
    const [a, b] = [start.get(e.from.id) as number, start.get(e.to.id) as number];
    const [pa, pb] = [scale.get(e.from.id) as number, scale.get(e.to.id) as number];
    // A body's own window opens and shuts by one factor; any other by that of the state that shuts it.
    const state = e.gap.oneBody ? e.gap.minState : e.gap.maxState;
    const shuts =
      e.gap.maxLossKgPerM2 !== undefined && state
        ? secondsToLose(rates.get(plan.air) as ReturnType<typeof dryingRate>, 0, e.gap.maxLossKgPerM2 * factor(state, e.to.lotId as string))
        : (e.gap.maxSeconds ?? Number.POSITIVE_INFINITY);
    if (e.ends.some((x) => b + x.doneS * pb - (a + (e.gap.oneBody ? x.leftS : x.endS) * pa) > shuts)) missed.push(e);
  }
  return { lateS, missed, blamed: lateS > 0 && latest ? dryingBehind(latest, cause) : [] };
}

/** The waits that led, one by one, to a late task. */
function dryingBehind(task: PlanTask, cause: ReadonlyMap<string, Cause>): Edge[] {
  const out = new Set<Edge>();
  const seen = new Set<string>();
  let at: PlanTask | undefined = task;
  while (at && !seen.has(at.id)) {
    seen.add(at.id);
    const c = cause.get(at.id);
    if (c?.kind === 'drying') out.add(c.edge);
    at = c?.kind === 'drying' ? c.edge.from : c?.kind === 'after' ? c.task : undefined;
  }
  return [...out];
}

/** What multiplies each threshold this evening, by state and lot: common to all, each state's own, each lot's own. */
function factorsOfAnEvening(plan: Plan, normal: () => number): (state: DryingState, lotId: string) => number {
  const surface = normal();
  const whole = normal();
  const own = new Map(dryingStates.map((s) => [s, normal()]));
  const lots = new Map<string, number>();
  return (state, lotId) => {
    const key = `${state} ${lotId}`;
    const z = lots.get(key) ?? normal();
    lots.set(key, z);
    const { mean, sigma } = plan.factors[state];
    const isWhole = state === 'firm' || state === 'dry';
    const shared = isWhole
      ? Math.SQRT1_2 * whole + Math.SQRT1_2 * z
      : Math.sqrt(COMMON_SHARE) * surface + Math.sqrt(STATE_SHARE) * (own.get(state) as number) + Math.sqrt(1 - COMMON_SHARE - STATE_SHARE) * z;
    return Math.exp(mean + sigma * shared);
  };
}

/** First moment from `fromS` at which someone is at the bench for so long, a little overtime allowed. */
function openAt(plan: Plan, who: string, fromS: number, durationS: number): number {
  let at = fromS;
  for (let moved = true; moved; ) {
    moved = false;
    const opening = plan.bench.find(([, to]) => at + durationS <= to + STAYS_S);
    if (!opening) return at;
    if (at < opening[0]) {
      at = opening[0];
      moved = true;
    }
    for (const p of plan.order.pins)
      if (p.kind === 'away' && (p.who === null || p.who === who) && at < p.to && at + durationS > p.from) {
        at = p.to;
        moved = true;
      }
  }
  return at;
}

/** Standard normals by Box and Muller's method. */
function normals(rng: Rng): () => number {
  let spare: number | null = null;
  return () => {
    if (spare !== null) {
      const z = spare;
      spare = null;
      return z;
    }
    const r = Math.sqrt(-2 * Math.log(1 - rng()));
    const angle = 2 * Math.PI * rng();
    spare = r * Math.sin(angle);
    return r * Math.cos(angle);
  };
}

function cureOfWindow({ gap, to }: Edge, plan: Plan): string {
  // It opens and shuts together, and only a finger knows when: the share told is that of working by the clock alone.
  if (gap.oneBody) return 'touch it before its time and work it when it breaks: by the clock alone it is a guess';
  const k = to.cookies[1] - to.cookies[0];
  if (plan.margin !== 'careful') return k > 1 ? 'plan it careful: fewer cookies at a time' : 'plan it careful, or loosen the icing';
  return k > 1 ? 'work it cookie by cookie, or drop a colour' : 'loosen the icing, or drop a colour';
}

/** What beginning half an hour sooner would give is read off the same evenings. */
const SOONER_S = 1800;
function cureOfWait(e: Edge, plan: Plan, lateness: readonly number[], onTime: number | null): string {
  const sooner = lateness.filter((l) => l <= SOONER_S).length / lateness.length;
  if (onTime !== null && sooner > onTime) return `begin 30 min sooner: packed on time in ${Math.round(100 * sooner)} % of evenings`;
  if (!plan.boxAir) return 'a dehydrator would shorten it';
  return `drier or moving air for tray ${e.to.trayId}`;
}
