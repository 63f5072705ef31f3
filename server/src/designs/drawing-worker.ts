import { type Design, type DesignDocument, foldDesign, marksOf } from '@kestfog/core/design';
import { type FlowedDesign, wetStages } from '@kestfog/core/marbling';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import { BadInput, NoAnswer } from '@kestfog/core/units';
import { refusalText } from '@kestfog/core/wording';

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

/** Pulls times what they may cross: beyond that a flow takes longer than a drawing may, and is worked out where it is looked at. *Assumed*, 0.5 s. */
const MOST_CROSSINGS = 240;
function isQuickToFlow(design: Design): boolean {
  const marks = marksOf(design);
  const drags = marks.filter((m) => m.technique === 'drag').length;
  return marks.length > 0 && drags * (marks.length - drags) <= MOST_CROSSINGS && marks.length <= MOST_CROSSINGS;
}

/** Reads, folds and derives in a thread of its own: what a drawing asks for can be stopped, and holds up no tap. */
export default function derive(document: DesignDocument): DrawingAnswer {
  try {
    const drawing = foldDesign(document);
    const bytes = JSON.stringify(drawing).length;
    if (bytes > MOST_BYTES)
      return {
        ok: false,
        code: 'too-many-points',
        message: `The drawing has so many points that it takes ${(bytes / 1e6).toFixed(1)} MB, and the limit is ${MOST_BYTES / 1e6} MB: simplify its paths, or draw it at the size of a cookie.`,
      };
    const flowed: FlowedDesign = isQuickToFlow(drawing) ? { ...drawing, wet: wetStages(drawing) } : drawing;
    const graph = deriveSteps(drawing, schoolById('two-bags'));
    const handsOnS = Math.round(graph.steps.reduce((s, x) => s + x.seconds, 0));
    return {
      ok: true,
      name: drawing.name,
      drawing: flowed,
      summary: { rounds: graph.rounds, sections: graph.sections.length, handsOnS, transfer: drawing.transfer === true },
    };
  } catch (error) {
    if (error instanceof BadInput || error instanceof NoAnswer) return { ok: false, code: error.code, message: refusalText(error) };
    if (error instanceof RangeError)
      return { ok: false, code: 'too-heavy', message: 'The drawing nests or repeats more than can be followed: ungroup it, and simplify its paths.' };
    throw error;
  }
}
