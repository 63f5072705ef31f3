import type { Air } from '../drying/air.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { WetPool } from '../marbling/pools.js';
import type { StepGraph } from '../steps/derive.js';
import type { Step } from '../steps/step.js';
import { timeGap } from './timed-gap.js';

/** How long the motions in one pool take, and how far its flood has dried by each of them. */
export interface WetTiming {
  /** hands-on seconds of each motion of the pool, in the order they are made */
  readonly seconds: readonly number[];
  /** window of the wet work after its flood, s, as a plan at this margin holds it; null where it never shuts */
  readonly windowS: number | null;
  /** share of that window gone at the end of each motion, on the cookie flooded first of `cookies` worked together */
  readonly dried: (cookies: number) => readonly number[];
  /** how many cookies can be worked together before the first one's window shuts, at most {@link MOST_TOGETHER}; 0 where not even one */
  readonly most: number;
}

/** Nobody floods more before beginning with the marks: *assumed*. */
export const MOST_TOGETHER = 12;

/**
 * The times of wet work on several cookies at once, as hands do it: all are flooded, then each step of the wet work (a bag, or the
 * scribe) goes over all of them. The first cookie waits longest.
 */
export function wetTiming(pool: WetPool, graph: StepGraph, air: Air, margin: Margin, factors?: Factors): WetTiming {
  const stepOf = (id: string): Step | undefined => graph.steps.find((s) => s.kind === 'mark' && s.parts.includes(id));
  const steps = pool.marks.map((m) => stepOf(m.id));
  const seconds = steps.map((s) => (s ? s.seconds / s.parts.length : 0));
  const floods = graph.steps.filter((s) => s.kind === 'flood' && pool.sections.some((p) => s.parts.includes(p.id)));
  const floodS = floods.reduce((sum, s) => sum + s.seconds, 0);
  // The plan's own windows: from each flood to whatever is drawn through it or laid into it.
  const flows = new Set(
    pool.marks.flatMap((m, i) => (m.technique === 'drag' || m.technique.startsWith('wet-') ? (steps[i]?.id ?? []) : [])),
  );
  const windows = graph.gaps
    .filter((g) => g.maxState !== undefined && flows.has(g.to) && floods.some((f) => f.id === g.from))
    .flatMap((g) => timeGap(g, air, margin, factors).maxS ?? []);
  const windowS = windows.length > 0 ? Math.min(...windows) : null;
  const dried = (cookies: number): number[] => {
    const out: number[] = [];
    let before = (cookies - 1) * floodS;
    for (let i = 0; i < pool.marks.length; ) {
      let run = 0;
      const step = steps[i];
      for (; i < pool.marks.length && steps[i] === step; i++) {
        run += seconds[i] as number;
        out.push(windowS === null ? 0 : (before + run) / windowS);
      }
      before += cookies * run;
    }
    return out;
  };
  let most = 0;
  while (most < MOST_TOGETHER && Math.max(0, ...dried(most + 1)) <= 1) most += 1;
  return { seconds, windowS, dried, most };
}
