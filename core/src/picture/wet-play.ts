import { marksOf } from '../design/design.js';
import {
  compactInks,
  type FlowedDesign,
  WetFlow,
  type WetPicture,
  type WetPool,
  type WetStage,
  wetPools,
  wetStages,
} from '../marbling/index.js';
import { isWiped } from '../steps/derive.js';
import type { School } from '../steps/school.js';

/** Wet work so far on; `dried` says how far the flood was on its way to *thickening* at each motion. */
export type WetMotion =
  | { readonly pool: string; readonly after: number; readonly dried?: readonly number[]; readonly wiping?: School['wiping'] }
  /** a share of the way through these marks, those before them made: in as many pools as they lie in, one after the other */
  | { readonly marks: readonly string[]; readonly share: number; readonly wiping?: School['wiping'] };

type Wiping = School['wiping'] | undefined;

/** Whether any pull of a design is made with an unwiped scribe where hands wipe it so. */
const smears = (design: FlowedDesign, wiping: Wiping): boolean =>
  wiping !== undefined && wiping !== 'always' && marksOf(design).some((m) => m.technique === 'drag' && !isWiped(m, wiping));

/** How wiping tells on a design: a way of working that leaves the picture as it is kept needs no picture of its own. */
export const wipingSeen = (design: FlowedDesign, wiping: Wiping): Wiping => (smears(design, wiping) ? wiping : undefined);

const askOf = (wiping: Wiping) => (wiping === undefined ? {} : { wiped: (drag: Parameters<typeof isWiped>[0]) => isWiped(drag, wiping) });

/** The stages of a design's pools as they are worked: those kept with it, or worked out where the scribe is not wiped for each pull. */
export function stagesAsWorked(design: FlowedDesign, wiping: Wiping): readonly WetStage[] {
  const seen = wipingSeen(design, wiping);
  return seen === undefined ? (design.wet ?? wetStages(design)) : wetStages(design, askOf(seen));
}

/** A pool in the middle of its motions. */
export interface PoolInPlay {
  readonly pool: WetPool;
  readonly picture: WetPicture;
  readonly after: number;
}

/** The pools of a design that are being looked at motion by motion: going on costs only what is new. */
export class WetPlay {
  private readonly pools: readonly WetPool[];
  private readonly flows = new Map<string, WetFlow>();
  private how = '';

  constructor(design: FlowedDesign) {
    this.pools = wetPools(design);
  }

  /** Every pool the motion is in, as far on as it is; none where the design has no such pool. */
  at(motion: WetMotion): PoolInPlay[] {
    const dried = 'pool' in motion ? motion.dried : undefined;
    const how = JSON.stringify([dried, motion.wiping]);
    if (how !== this.how) this.flows.clear();
    this.how = how;
    return this.pools.flatMap((pool): PoolInPlay[] => {
      const after = afterOf(pool, motion);
      if (after === null) return [];
      const flow =
        this.flows.get(pool.id) ??
        new WetFlow(pool, { ...(dried ? { dried: (i: number) => dried[i] ?? 0 } : {}), ...askOf(motion.wiping) });
      this.flows.set(pool.id, flow);
      return [{ pool, picture: flow.at(after), after }];
    });
  }

  /** The same as stages, to take the place of those of their pools. */
  stages(motion: WetMotion): WetStage[] {
    return this.at(motion).map(({ pool, picture, after }) => ({
      pool: pool.id,
      sections: pool.sections.map((s) => s.id),
      made: [],
      count: Math.ceil(after),
      inks: compactInks(picture.inks),
    }));
  }
}

/** How many of a pool's motions are made; null where it is not meant. */
function afterOf(pool: WetPool, motion: WetMotion): number | null {
  if ('pool' in motion) return pool.sections.some((s) => s.id === motion.pool) ? motion.after : null;
  const mine = pool.marks.flatMap((m, i) => (motion.marks.includes(m.id) ? [i] : []));
  const [first, last] = [mine[0], mine.at(-1)];
  if (first === undefined || last === undefined) return null;
  // Hands go on from pool to pool in the order of the marks: this one has its turn while its own marks are made.
  const turn = motion.marks.flatMap((id, i) => (pool.marks.some((m) => m.id === id) ? [i] : []));
  const [from, until] = [turn[0] as number, (turn.at(-1) as number) + 1];
  const share = Math.min(1, Math.max(0, (motion.share * motion.marks.length - from) / (until - from)));
  return first + (last + 1 - first) * share;
}
