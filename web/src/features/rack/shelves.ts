import type { Design } from '@kestfog/core/design';
import { lostBy, type Region, type SurfaceState, stateThresholds, surfaceStates } from '@kestfog/core/drying';
import { type Lot, type Plan, type PlanTask, planIndex, type Stay } from '@kestfog/core/formats';
import { plannedAirs } from '@kestfog/core/planning';

/** One tray with what happens on it, ready to draw. */
export interface Shelf {
  readonly trayId: string;
  readonly places: number | null;
  readonly rows: readonly LotRow[];
  readonly stays: readonly Stay[];
  readonly carries: readonly PlanTask[];
}
export interface LotRow {
  readonly lot: Lot;
  readonly design: Design;
  readonly tasks: readonly PlanTask[];
  readonly strips: readonly Strip[];
}
/** The finish of one round's icing along time. */
export interface Strip {
  readonly round: number;
  readonly colour: string;
  readonly names: string;
  readonly segments: readonly { readonly state: SurfaceState; readonly fromS: number; readonly toS: number }[];
}

export function shelvesOf(plan: Plan): Shelf[] {
  return plan.trays
    .filter((t) => t.lots.length > 0)
    .map((t): Shelf => {
      const stays = plan.stays.filter((s) => s.trayId === t.id);
      return {
        trayId: t.id,
        places: t.places,
        stays,
        carries: plan.tasks.filter((x) => (x.kind === 'carry' || x.kind === 'take-out') && x.trayId === t.id),
        rows: t.lots.map((lot): LotRow => {
          const tasks = plan.tasks.filter((x) => x.lotId === lot.id);
          return {
            lot,
            design: (planIndex(plan).design(lot.designId) as { drawing: Design }).drawing,
            tasks,
            strips: stripsOf(plan, lot, tasks),
          };
        }),
      };
    });
}

/** One strip a round: its last-flooded body, from when it was left alone until the cookies are packed, at the medians. */
function stripsOf(plan: Plan, lot: Lot, tasks: readonly PlanTask[]): Strip[] {
  const design = planIndex(plan).design(lot.designId);
  if (!design) return [];
  const endS = Math.max(...tasks.map((t) => t.startS));
  const out: Strip[] = [];
  for (let round = 1; round <= design.graph.rounds; round++) {
    const wet = tasks.filter((t) => t.kind === 'wet' && t.round === round);
    const last = wet.at(-1);
    if (!last) continue;
    const floods = design.graph.steps.filter((s) => s.kind === 'flood' && s.round === round);
    // The body that takes longest to dry speaks for its round.
    const slowest = floods.reduce((a, b) => (stateThresholds(b.region as Region).dry > stateThresholds(a.region as Region).dry ? b : a));
    const region = slowest.region as Region;
    const thresholds = stateThresholds(region);
    const leftS = last.endS;
    const body = { leftAtS: leftS, airs: plannedAirs(plan, lot.trayId) };
    const segments: { state: SurfaceState; fromS: number; toS: number }[] = [{ state: 'wet', fromS: last.startS, toS: leftS }];
    let fromS = leftS;
    let state: SurfaceState = 'wet';
    for (const next of surfaceStates.slice(1) as Exclude<SurfaceState, 'wet'>[]) {
      const at = lostBy(body, thresholds[next]);
      if (Math.min(at, endS) > fromS) segments.push({ state, fromS, toS: Math.min(at, endS) });
      fromS = Math.min(Math.max(at, fromS), endS);
      state = next;
      if (at >= endS) break;
    }
    if (fromS < endS) segments.push({ state, fromS, toS: endS });
    out.push({
      round,
      colour: slowest.bag?.colour ?? '#ffffff',
      names: [...new Set(floods.map((f) => f.label))].join(', '),
      segments: joined(segments),
    });
  }
  return out;
}

function joined(list: { state: SurfaceState; fromS: number; toS: number }[]): Strip['segments'] {
  const out: { state: SurfaceState; fromS: number; toS: number }[] = [];
  for (const s of list) {
    const last = out.at(-1);
    if (last && last.state === s.state) last.toS = s.toS;
    else out.push({ ...s });
  }
  return out;
}

/** A stretch of a lot's one band: the finish of the round that was laid last. */
export type BandSegment = Strip['segments'][number] & Pick<Strip, 'round' | 'colour' | 'names'>;

/** The rounds of a lot as one band: each until the next is laid over or beside it. */
export function bandOf(strips: readonly Strip[]): BandSegment[] {
  const begins = strips.map((s) => s.segments[0]?.fromS ?? 0);
  return strips.flatMap(({ segments, ...strip }, i) => {
    const untilS = begins[i + 1] ?? Number.POSITIVE_INFINITY;
    return segments.flatMap((s) => (s.fromS < untilS ? [{ ...s, toS: Math.min(s.toS, untilS), ...strip }] : []));
  });
}
