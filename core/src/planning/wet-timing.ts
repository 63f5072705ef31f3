import { sectionsOf } from '../design/design.js';
import type { Air } from '../drying/air.js';
import { timesInAir } from '../drying/forecast.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { WetPool } from '../marbling/pools.js';
import type { StepGraph } from '../steps/derive.js';

/** How long the motions in one pool take, and how far its flood has dried by each of them. */
export interface WetTiming {
  /** hands-on seconds of each motion of the pool, in the order they are made */
  readonly seconds: readonly number[];
  /** from the end of the flood until it is thickening, s: as a plan at this margin counts on it; null where it never comes */
  readonly thickeningS: number | null;
  /** share of the way to thickening at the end of each motion, on the cookie flooded first of `cookies` worked together */
  readonly dried: (cookies: number) => readonly number[];
  /** how many cookies can be worked together before the first would be thickening, at most {@link MOST_TOGETHER}; 0 where not even one */
  readonly most: number;
}

/** Nobody floods more before beginning with the marks: *assumed*. */
export const MOST_TOGETHER = 12;

/**
 * The times of wet work on several cookies at once, as hands do it: all are flooded, then each bag in turn (or the scribe)
 * goes over all of them. The first cookie waits longest.
 */
export function wetTiming(pool: WetPool, graph: StepGraph, air: Air, margin: Margin, factors?: Factors): WetTiming {
  const seconds = pool.marks.map((m) => {
    const step = graph.steps.find((s) => s.kind === 'mark' && s.parts.includes(m.id));
    return step ? step.seconds / step.parts.length : 0;
  });
  const floods = graph.steps.filter((s) => s.kind === 'flood' && sectionsOf({ parts: pool.sections }).some((p) => s.parts.includes(p.id)));
  const floodS = floods.reduce((sum, s) => sum + s.seconds, 0);
  const region = floods[0]?.region ?? null;
  const thickeningS = region ? timesInAir(region, air, margin, factors ? { factors } : {}).thickening.p10 : null;
  const dried = (cookies: number): number[] => {
    const out: number[] = [];
    let before = (cookies - 1) * floodS;
    for (let i = 0; i < pool.marks.length; ) {
      const first = pool.marks[i];
      let end = i;
      while (end < pool.marks.length && pool.marks[end]?.technique === first?.technique && pool.marks[end]?.colour === first?.colour) end += 1;
      let run = 0;
      for (let k = i; k < end; k++) {
        run += seconds[k] as number;
        out.push(thickeningS === null ? 0 : (before + run) / thickeningS);
      }
      before += cookies * run;
      i = end;
    }
    return out;
  };
  let most = 0;
  while (most < MOST_TOGETHER && Math.max(0, ...dried(most + 1)) <= 1) most += 1;
  return { seconds, thickeningS, dried, most };
}
