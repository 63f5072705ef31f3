import { airbrush } from './airbrush.js';
import { assembly } from './assembly.js';
import { closingOutline } from './closing-outline.js';
import { crackle } from './crackle.js';
import { dippedBead } from './dipped-bead.js';
import { drag } from './drag.js';
import { dust } from './dust.js';
import { flood } from './flood.js';
import { gluedTransfer } from './glued-transfer.js';
import { guideCentre, guideCutter, guideProjected, guideRuled, guideScratched, guideSheet, guideStencil, guideTraced } from './guides.js';
import { layIn } from './lay-in.js';
import { lettering } from './lettering.js';
import { needle } from './needle.js';
import { outline } from './outline.js';
import { pack } from './pack.js';
import { paint } from './paint.js';
import { pen } from './pen.js';
import { pipedLine } from './piped-line.js';
import { preparation } from './preparation.js';
import { relief } from './relief.js';
import { sprinkle } from './sprinkle.js';
import { stencil } from './stencil.js';
import type { TechniqueDefinition } from './technique.js';
import { thinCoat } from './thin-coat.js';
import { trace } from './trace.js';
import { wafer } from './wafer.js';
import { wetDrop } from './wet-drop.js';
import { wetLine } from './wet-line.js';
import { widenSnip } from './widen-snip.js';

export type { TechniqueDefinition, TechniqueKind } from './technique.js';

/** Every technique, in the order of a cookie's life. */
export const techniques = [
  preparation,
  guideTraced,
  guideScratched,
  guideRuled,
  guideStencil,
  guideCutter,
  guideCentre,
  guideProjected,
  guideSheet,
  outline,
  widenSnip,
  flood,
  thinCoat,
  wetDrop,
  wetLine,
  drag,
  needle,
  sprinkle,
  layIn,
  crackle,
  relief,
  pipedLine,
  lettering,
  dippedBead,
  gluedTransfer,
  closingOutline,
  trace,
  pen,
  stencil,
  airbrush,
  dust,
  paint,
  wafer,
  assembly,
  pack,
] as const;
export type TechniqueId = (typeof techniques)[number]['id'];

export function techniqueById(id: TechniqueId): TechniqueDefinition<TechniqueId> {
  const found = techniques.find((t) => t.id === id);
  if (!found) throw new Error(`no technique "${id}"`);
  return found;
}
