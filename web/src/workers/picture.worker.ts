import type { Design } from '@kestfog/core/design';
import type { SurfaceState } from '@kestfog/core/drying';
import {
  compactInks,
  type FlowedDesign,
  WetFlow,
  type WetPicture,
  type WetPool,
  type WetStage,
  wetPools,
  wetStages,
} from '@kestfog/core/marbling';
import { type Flaw, paint, sceneOf } from '@kestfog/core/picture';
import { type CookieLook, finishedLook } from '@kestfog/core/planning';
import { isWiped, type School } from '@kestfog/core/steps';
import { expose } from 'comlink';

/** Only threads of their own have it; the page's own types do not name it. */
declare const FileReaderSync: new () => { readAsDataURL: (bytes: Blob) => string };

/** How a cookie is to look: on it what is said, or everything in one state; and its wet pool so many motions on. */
export interface PictureAsk {
  readonly look: CookieLook | SurfaceState;
  readonly flaws?: readonly Flaw[];
  readonly motion?: WetMotion;
}

/** A pool of wet icing so many motions on; `dried` says how far the flood was on its way to *thickening* at each motion. */
export type WetMotion =
  | { readonly pool: string; readonly after: number; readonly dried?: readonly number[]; readonly wiping?: School['wiping'] }
  /** a share of the way through these marks, those before them made */
  | { readonly marks: readonly string[]; readonly share: number };

interface Known {
  readonly design: Design;
  stages: readonly WetStage[] | null;
}
/** Designs at hand; the page sends one again that was let go. */
const MOST_DESIGNS = 60;
const designs = new Map<number, Known>();

function stagesOf(known: Known): readonly WetStage[] {
  known.stages ??= (known.design as FlowedDesign).wet ?? wetStages(known.design);
  return known.stages;
}

/** The pool that is being looked at motion by motion: going on costs only what is new. */
let playing: { readonly of: Design; readonly how: string; readonly flow: WetFlow } | null = null;

function flowed(
  { design }: Known,
  motion: WetMotion,
): { readonly pool: WetPool; readonly picture: WetPicture; readonly after: number } | null {
  const isOf = (pool: WetPool) =>
    'pool' in motion ? pool.sections.some((s) => s.id === motion.pool) : pool.marks.some((m) => motion.marks.includes(m.id));
  const shares = 'pool' in motion ? motion.dried : undefined;
  const wiping = 'pool' in motion ? motion.wiping : undefined;
  const how = JSON.stringify([shares, wiping]);
  if (playing?.of !== design || playing.how !== how || !isOf(playing.flow.pool)) {
    const pool = wetPools(design).find(isOf);
    if (!pool) return null;
    playing = {
      of: design,
      how,
      flow: new WetFlow(pool, {
        ...(shares ? { dried: (i) => shares[i] ?? 0 } : {}),
        ...(wiping ? { wiped: (drag) => isWiped(drag, wiping) } : {}),
      }),
    };
  }
  const { pool } = playing.flow;
  let after = 'pool' in motion ? motion.after : 0;
  if ('marks' in motion) {
    const mine = pool.marks.flatMap((m, i) => (motion.marks.includes(m.id) ? [i] : []));
    const [first, end] = [mine[0] ?? 0, (mine.at(-1) ?? -1) + 1];
    after = first + (end - first) * motion.share;
  }
  return { pool, picture: playing.flow.at(after), after };
}

const work = {
  know(id: number, design: Design): void {
    const oldest = designs.keys().next();
    if (designs.size >= MOST_DESIGNS && oldest.value !== undefined) designs.delete(oldest.value);
    designs.set(id, { design, stages: null });
  },
  /** A picture as the address of its bytes; null where the design has to be sent again. */
  async picture(id: number, ask: PictureAsk, px: number): Promise<string | null> {
    const known = designs.get(id);
    if (!known) return null;
    const { design } = known;
    const look = typeof ask.look === 'string' ? finishedLook(design, ask.look) : ask.look;
    let stages = look.marks.length > 0 ? stagesOf(known) : [];
    if (ask.motion) {
      const made = flowed(known, ask.motion);
      if (made)
        stages = [
          ...stages.filter((s) => s.pool !== made.pool.id),
          {
            pool: made.pool.id,
            sections: made.pool.sections.map((s) => s.id),
            made: [],
            count: Math.ceil(made.after),
            inks: compactInks(made.picture.inks),
          },
        ];
    }
    const { width, height, rgba } = paint(sceneOf(design, look, stages, ask.flaws ?? []), px);
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
    const bytes = await canvas.convertToBlob({ type: 'image/png' });
    return new FileReaderSync().readAsDataURL(bytes);
  },
  /** What the wet marks of a pool come to after so many motions, without its shapes. */
  flow(id: number, motion: WetMotion): Pick<WetPicture, 'motions' | 'addedMl' | 'raisedMm' | 'troubles'> | null {
    const known = designs.get(id);
    const made = known ? flowed(known, motion)?.picture : null;
    return made ? { motions: made.motions, addedMl: made.addedMl, raisedMm: made.raisedMm, troubles: made.troubles } : null;
  },
};
export type PictureWork = typeof work;
expose(work);
