import '../platform/begin-words.js';
import { type Design, type DesignDocument, foldDesign, marksOf } from '@kestfog/core/design';
import { type FlowedDesign, FlowStopped, wetStages } from '@kestfog/core/marbling';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import { BadInput, NoAnswer } from '@kestfog/core/units';
import { refusalText } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';

/** What lists say of a design without its drawing. */
export interface DrawingSummary {
  readonly rounds: number;
  readonly sections: number;
  readonly handsOnS: number;
  readonly transfer: boolean;
}
export interface Derived {
  readonly name: string;
  readonly drawing: Design;
  readonly summary: DrawingSummary;
}
/** Errors lose their class on the way between threads, so they travel as data. */
export type DrawingAnswer = ({ readonly ok: true } & Derived) | { readonly ok: false; readonly code: string; readonly message: string };

/** A drawing that became larger than this would be carried about by every page that shows it. */
const MOST_BYTES = 3_000_000;

/** What working out a flow may take of a drawing's time, ms: *assumed*. A longer one is worked out where it is looked at. */
const FLOW_MS = 800;
function flowed(design: Design): FlowedDesign {
  if (marksOf(design).length === 0) return design;
  const until = performance.now() + FLOW_MS;
  try {
    return { ...design, wet: wetStages(design, { stop: () => performance.now() > until }) };
  } catch (error) {
    if (error instanceof FlowStopped) return design;
    throw error;
  }
}

/** Answers once the thread has begun. */
export const isReady = (): null => null;

/** Reads, folds and derives in a thread of its own: what a drawing asks for can be stopped, and holds up no tap. */
export default function derive(document: DesignDocument): DrawingAnswer {
  try {
    const drawing = foldDesign(document);
    const bytes = JSON.stringify(drawing).length;
    if (bytes > MOST_BYTES)
      return {
        ok: false,
        code: 'too-many-points',
        message: msg`The drawing has so many points that it takes ${(bytes / 1e6).toFixed(1)} MB, and the limit is ${MOST_BYTES / 1e6} MB:
          simplify its paths, or draw it at the size of a cookie.`,
      };
    const graph = deriveSteps(drawing, schoolById('two-bags'));
    const handsOnS = Math.round(graph.steps.reduce((s, x) => s + x.seconds, 0));
    return {
      ok: true,
      name: drawing.name,
      drawing: flowed(drawing),
      summary: { rounds: graph.rounds, sections: graph.sections.length, handsOnS, transfer: drawing.transfer === true },
    };
  } catch (error) {
    if (error instanceof BadInput || error instanceof NoAnswer) return { ok: false, code: error.code, message: refusalText(error) };
    if (error instanceof RangeError)
      return {
        ok: false,
        code: 'too-heavy',
        message: msg`The drawing nests or repeats more than can be followed: ungroup it, and simplify its paths.`,
      };
    throw error;
  }
}
