import type { Design } from '@kestfog/core/design';
import type { SurfaceState } from '@kestfog/core/drying';
import type { WetPicture, WetStage } from '@kestfog/core/marbling';
import { type Flaw, type Gleam, paint, sceneOf, stagesAsWorked, type WetMotion, WetPlay } from '@kestfog/core/picture';
import { type CookieLook, finishedLook } from '@kestfog/core/planning';
import type { School } from '@kestfog/core/steps';
import { expose } from 'comlink';

/** Only threads of their own have it; the page's own types do not name it. */
declare const FileReaderSync: new () => { readAsDataURL: (bytes: Blob) => string };

/** How a cookie is to look: on it what is said, or everything in one state; and its wet pool so many motions on. */
export interface PictureAsk {
  readonly look: CookieLook | SurfaceState;
  readonly flaws?: readonly Flaw[];
  readonly motion?: WetMotion;
  /** how far the highlights of wet icing lie aside */
  readonly gleam?: Gleam;
  /** how the scribe is wiped, where that is seen */
  readonly wiping?: School['wiping'];
}

/** Designs at hand; the page sends one again that was let go. */
const MOST_DESIGNS = 60;
const designs = new Map<number, { readonly design: Design; readonly stages: Map<string, readonly WetStage[]> }>();

/** The design that is being looked at motion by motion. */
let playing: { readonly of: Design; readonly play: WetPlay } | null = null;
function playOf(design: Design): WetPlay {
  if (playing?.of !== design) playing = { of: design, play: new WetPlay(design) };
  return playing.play;
}

const work = {
  know(id: number, design: Design): void {
    const oldest = designs.keys().next();
    if (designs.size >= MOST_DESIGNS && oldest.value !== undefined) designs.delete(oldest.value);
    designs.set(id, { design, stages: new Map() });
  },
  /** A picture as the address of its bytes; null where the design has to be sent again. */
  async picture(id: number, ask: PictureAsk, px: number): Promise<string | null> {
    const known = designs.get(id);
    if (!known) return null;
    const { design } = known;
    const look = typeof ask.look === 'string' ? finishedLook(design, ask.look) : ask.look;
    let stages: readonly WetStage[] = [];
    if (look.marks.length > 0) {
      const how = ask.wiping ?? '';
      stages = known.stages.get(how) ?? stagesAsWorked(design, ask.wiping);
      known.stages.set(how, stages);
    }
    if (ask.motion) {
      const made = playOf(design).stages(ask.motion);
      stages = [...stages.filter((s) => !made.some((m) => m.pool === s.pool)), ...made];
    }
    const { width, height, rgba } = paint(sceneOf(design, look, stages, ask.flaws ?? []), px, ask.gleam);
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
    const bytes = await canvas.convertToBlob({ type: 'image/png' });
    return new FileReaderSync().readAsDataURL(bytes);
  },
  /** What the wet marks of a pool come to after so many motions, without its shapes. */
  flow(id: number, motion: WetMotion): Pick<WetPicture, 'motions' | 'addedMl' | 'raisedMm' | 'troubles'> | null {
    const known = designs.get(id);
    const made = known ? playOf(known.design).at(motion)[0]?.picture : null;
    return made ? { motions: made.motions, addedMl: made.addedMl, raisedMm: made.raisedMm, troubles: made.troubles } : null;
  },
};
export type PictureWork = typeof work;
expose(work);
