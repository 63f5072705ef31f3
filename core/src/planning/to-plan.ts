import { type Design, sectionById } from '../design/design.js';
import { lagKey, stayIdOf } from '../formats/ids.js';
import type { OrderFile } from '../formats/order.js';
import type {
  Arrangement,
  Because,
  DriedThrough,
  Lag,
  Late,
  Motion,
  Plan,
  PlanDesign,
  PlanTask,
  PlanWait,
  Stay,
  TimedGap,
} from '../formats/plan.js';
import type { StepGraph } from '../steps/derive.js';
import type { Pace } from '../steps/pace.js';
import { type Bag, bagKey } from '../steps/step.js';
import { techniqueById } from '../steps/techniques/index.js';
import { type RuleId, whyOf } from '../steps/why.js';
import { listed, msg } from '../words/index.js';
import { carryId, PIECE_TECHNIQUES, takeOutId } from './build-problem.js';
import { type Attempt, bagChangesOf } from './planning.js';
import type { StayChoice } from './stays.js';
import { firstPartLeadS, type Visit, type WidenedSnip } from './visit.js';

export const MODEL_VERSION = 'kestfog-model/4';

/** The stays of a schedule with when they begin and end: at the latest when hands take the tray out. */
export function staysOf(a: Attempt): Stay[] {
  return a.stays.map((s): Stay => {
    const startS = a.solution.start[stayIdOf(s)] as number;
    const endS = a.solution.start[takeOutId(s)] as number;
    return { id: stayIdOf(s), where: s.where, trayId: s.trayId, round: s.round, batch: s.batch, why: s.why, startS, endS, forS: s.seconds };
  });
}

/** A schedule as a plan: tasks with their moments, stays, waits and reasons; `lowerBoundS` holds over all stays there might be. */
export function toPlan(a: Attempt, arrangement: Arrangement, lowerBoundS = 0, late: Late | null = null): Plan {
  const { solution } = a;
  const { planning, visits, timedByLot, lots, handsOf } = a.arranged;
  const { order, ids, designs, graphs, pace } = planning;
  const whose = (trayId: string) => handsOf.get(trayId) as string;
  const startOf = (id: string) => solution.start[id] as number;
  const timedTasks: PlanTask[] = [];
  const changes = order.openBags === null ? null : bagChangesOf(a, order.openBags);
  for (const v of visits) {
    const design = designs[ids.indexOf(v.lot.designId)] as Design;
    timedTasks.push(taskOfVisit(v, design, timedByLot.get(v.lot.id) ?? [], whose(v.lot.trayId), startOf(v.id), changes?.get(v.id)?.opens));
  }
  const stays = staysOf(a);
  const carried = (s: StayChoice, kind: 'carry' | 'take-out', id: string, title: string) =>
    timedTasks.push({
      id,
      by: whose(s.trayId),
      kind,
      trayId: s.trayId,
      lotId: null,
      cookies: [0, 0],
      round: s.round,
      batch: s.batch ?? Number.MAX_SAFE_INTEGER,
      title,
      startS: startOf(id),
      endS: startOf(id) + pace.traySwapS,
      bags: [],
      way: 'cookie-by-cookie',
      motions: [],
      because: { kind: 'first' },
    });
  for (const s of a.stays) {
    carried(
      s,
      'carry',
      carryId(s),
      msg`carry it to the ${s.where === 'fan' ? msg`fan` : msg`dehydrator`} for ${Math.round(s.seconds / 60)} min, level, no knocks`,
    );
    carried(s, 'take-out', takeOutId(s), s.where === 'fan' ? msg`fetch it from the fan` : msg`take it out of the dehydrator`);
  }
  timedTasks.sort((x, y) => x.startS - y.startS || x.endS - y.endS);
  const waits = waitsOf(a.built.lags, startOf);
  const tasks = withReasons(timedTasks, waits, stays, pace, order);
  const driedThrough = driedThroughIn(a);
  const endS = Math.max(...tasks.map((t) => t.endS));
  return {
    format: 'kestfog-plan/4',
    modelVersion: MODEL_VERSION,
    order,
    arrangement,
    epoch: order.epoch ?? null,
    school: order.school.id,
    margin: order.margin,
    factors: order.factors,
    air: planning.air,
    fanAir: planning.airAt.fan,
    dehydratorAir: planning.airAt.dehydrator,
    openingHours: order.openingHours,
    packBy: order.packBy,
    endS,
    late,
    ...(driedThrough.length > 0 ? { driedThrough } : {}),
    proven: lowerBoundS >= endS,
    lowerBoundS: Math.min(lowerBoundS, endS),
    handsOnS: tasks.reduce((s, t) => s + t.endS - t.startS, 0),
    designs: order.designs.map(
      (d, i): PlanDesign => ({ ...d, id: ids[i] as string, graph: graphs[i] as StepGraph, drawing: designs[i] as Design }),
    ),
    trays: order.trays.map((t) => ({ id: t.id, places: t.places ?? null, lots: lots.filter((l) => l.trayId === t.id) })),
    tasks,
    stays,
    waits,
  };
}

/** What is feared of neighbours and comes true in a schedule, the worst of each lot. */
function driedThroughIn({ arranged, built, solution }: Attempt): DriedThrough[] {
  const lotOf = new Map(arranged.visits.map((v) => [v.id as string, v.lot]));
  const worst = new Map<string, DriedThrough>();
  for (const { from, to, max, soft } of built.problem.links ?? []) {
    const lot = lotOf.get(to);
    if (soft === undefined || max == null || !lot) continue;
    const byS = (solution.start[to] as number) - (solution.start[from] as number) - max;
    if (byS > (worst.get(lot.id)?.byS ?? 0)) worst.set(lot.id, { trayId: lot.trayId, lotId: lot.id, byS });
  }
  return [...worst.values()];
}

/** A visit as a task of the plan, at a time; `opening` are the bags it opens anew. */
export function taskOfVisit(
  v: Visit,
  design: Design,
  timed: readonly TimedGap[],
  by: string,
  startS: number,
  opening?: readonly Bag[],
): PlanTask {
  const windows = new Map(timed.filter((t) => t.maxS !== null && opensWindow(t.gap.rule)).map((t) => [t.gap.to, t]));
  return {
    id: v.id,
    by,
    kind: v.bundle.kind,
    trayId: v.lot.trayId,
    lotId: v.lot.id,
    cookies: v.cookies,
    round: v.bundle.round,
    batch: v.bundle.batch,
    title: titleOf(v, design),
    startS,
    endS: startS + v.times.durationS,
    bags: v.bundle.bags,
    way: v.times.way,
    ...(v.times.parts > 1 ? { parts: v.times.parts } : {}),
    ...(opening && v.times.openingS ? { opening: { bags: opening, seconds: v.times.openingS } } : {}),
    motions: [
      ...v.times.widened.map((w) => widening(w, v.cookies)),
      ...v.bundle.steps.map((s): Motion => {
        const window = windows.get(s.id);
        return {
          stepId: s.id,
          technique: s.technique,
          kind: s.kind,
          label: s.label,
          startS: v.times.startS.get(s.id) as number[],
          endS: v.times.endS.get(s.id) as number[],
          ...(v.times.firstPartS?.has(s.id) ? { firstPartS: v.times.firstPartS.get(s.id) as readonly number[] } : {}),
          windowS: window ? (window.maxS as number) - Math.ceil(firstPartLeadS(v.times, window.gap.from)) : null,
          windowFrom: window?.gap.from ?? null,
        };
      }),
    ],
    because: { kind: 'first' },
  };
}

/** Widening a snip is done once for the visit: the same moment on each of its cookies. */
function widening(w: WidenedSnip, [from, to]: readonly [number, number]): Motion {
  const each = (s: number) => Array<number>(to - from).fill(s);
  const label = msg`snip widened to ${w.toMm} mm`;
  const { kind } = techniqueById('widen-snip');
  return {
    stepId: `widen-snip.${bagKey(w.bag)}`,
    technique: 'widen-snip',
    kind,
    label,
    startS: each(w.startS),
    endS: each(w.endS),
    windowS: null,
    windowFrom: null,
  };
}

/** Rules whose windows are counted down at the bench. */
export const opensWindow = (rule: RuleId): boolean => rule === 'wet-window' || rule === 'crackle-window';

function titleOf(v: Visit, design: Design): string {
  const { bundle } = v;
  if (bundle.kind === 'prepare') return msg`check they are cool, open and knead the bags`;
  if (bundle.kind === 'pack') return msg`pack`;
  if (bundle.kind === 'outline') return msg`outline`;
  const [first] = bundle.steps;
  if (bundle.kind === 'detail' && first) return msg`${techniqueById(first.technique).verb} the ${first.label}`;
  const floods = bundle.steps.filter((s) => s.kind === 'flood');
  const names = [...new Set(floods.map((s) => sectionById(design, s.part)?.name ?? s.label))];
  const wet = [...new Set(bundle.steps.filter((s) => s.kind === 'mark').map((s) => s.label))];
  const [widened] = v.times.widened;
  const { parts } = v.times;
  const snip = widened
    ? msg`${parts === 1 && bundle.steps.some((s) => s.kind === 'dam') ? msg`outline all, ` : ''}widen the snip to ${widened.toMm} mm, then `
    : '';
  const flood = parts > 1 ? msg`outline and flood, in ${parts} parts one into the other,` : msg`flood`;
  return `${snip}${flood} ${listed(names)}${wet.length > 0 ? msg`, then ${listed(wet)} while wet` : ''}`;
}

/**
 * The lags between tasks as a plan keeps them: of several between the same two the longest wait and the shortest window. A tray's time
 * away and what dries meanwhile are two: in other air the shorter may become the longer.
 */
export function waitsOf(lags: readonly Lag[], startOf: (id: string) => number): PlanWait[] {
  const strongest = new Map<string, PlanWait>();
  for (const l of lags) {
    const key = `${lagKey(l.from, l.to)} ${l.rule === 'away-drying'}`;
    const known = strongest.get(key);
    // The longest wait gives the reason; a window that shuts is kept whichever wait it came with.
    const maxS = known?.maxS != null && (l.maxS === null || known.maxS < l.maxS) ? known.maxS : l.maxS;
    if (known && known.minS >= l.minS) {
      strongest.set(key, { ...known, maxS });
      continue;
    }
    strongest.set(key, {
      from: l.from,
      to: l.to,
      minS: l.minS,
      maxS,
      slackS: startOf(l.to) - startOf(l.from) - l.minS,
      ...whyOf(l),
    });
  }
  return [...strongest.values()];
}

/** Tasks in order of time, each with why it does not begin earlier. */
export const withReasons = (
  tasks: readonly PlanTask[],
  waits: readonly PlanWait[],
  stays: readonly Stay[],
  pace: Pace,
  order: OrderFile,
): PlanTask[] => tasks.map((t, i): PlanTask => ({ ...t, because: because(t, before(tasks, i), { tasks, waits, stays, pace, order }) }));

/** The task the same hands did before. */
function before(tasks: readonly PlanTask[], i: number): PlanTask | undefined {
  for (let k = i - 1; k >= 0; k--) if (tasks[k]?.by === tasks[i]?.by) return tasks[k];
  return undefined;
}

interface Around {
  readonly tasks: readonly PlanTask[];
  readonly waits: readonly PlanWait[];
  readonly stays: readonly Stay[];
  readonly pace: Pace;
  readonly order: OrderFile;
}

/** What holds a task back: what ends just before it, looked for from what most plainly does. */
function because(t: PlanTask, previous: PlanTask | undefined, { tasks, waits, stays, pace, order }: Around): Because {
  const { piecesFrom } = order;
  if (piecesFrom !== null && t.startS === piecesFrom && t.motions.some((m) => PIECE_TECHNIQUES.includes(m.technique)))
    return { kind: 'pieces' };
  const binding = waits.filter((w) => w.to === t.id && w.slackS <= 0).sort((a, b) => b.minS - a.minS)[0];
  if (binding && binding.minS > 0 && binding.rule !== 'prepared-first')
    return { kind: 'drying', fromTask: binding.from, waitS: binding.minS, ...whyOf(binding) };
  const justAfter = (s: number) => s <= t.startS && t.startS - s <= pace.changeoverS;
  if (previous && justAfter(previous.endS)) return { kind: 'hands', fromTask: previous.id };
  if (order.openingHours.some(([from]) => justAfter(from))) return previous ? { kind: 'opening-hours' } : { kind: 'first' };
  for (const p of order.pins) {
    if (p.kind === 'not-before' && p.tray === t.trayId && justAfter(p.at)) return { kind: 'pin', label: null };
    if (p.kind === 'away' && (p.who === null || p.who === t.by) && justAfter(p.to)) return { kind: 'pin', label: p.label };
  }
  const ended = tasks.filter((o) => o !== t && justAfter(o.endS)).sort((a, b) => b.endS - a.endS);
  const onTray = ended.find((o) => o.trayId === t.trayId);
  if (onTray) return { kind: 'tray', fromTask: onTray.id };
  // A place is free once hands have fetched what stood there: while the next tray is on its way.
  const stay = t.kind === 'carry' ? stays.find((s) => s.trayId === t.trayId && s.startS === t.endS) : undefined;
  const left =
    stay && tasks.find((o) => o.kind === 'take-out' && Math.abs(o.endS - stay.startS) <= pace.changeoverS && isFrom(stays, o, stay.where));
  if (stay && left) return { kind: 'place', where: stay.where, fromTask: left.id };
  const bags = order.openBags === null || t.bags.length === 0 ? undefined : ended.find((o) => o.bags.length > 0);
  if (bags) return { kind: 'bags', fromTask: bags.id };
  const round = order.school.working === 'round-a-visit' ? ended.find((o) => o.kind === 'wet' && o.round < t.round) : undefined;
  if (round) return { kind: 'round', fromTask: round.id };
  return previous ? { kind: 'unhurried' } : { kind: 'first' };
}

const isFrom = (stays: readonly Stay[], takeOut: PlanTask, where: Stay['where']): boolean =>
  stays.some((s) => s.where === where && s.trayId === takeOut.trayId && s.endS === takeOut.startS);
