import { type Design, partById, sectionById } from '../design/design.js';
import { footprintOf } from '../design/footprint.js';
import { intersection } from '../geometry/clip.js';
import { areaMm2, boundingBox, boxesMeet } from '../geometry/shape.js';
import { damOf, edgeOf, fillOf } from './filling.js';
import type { School } from './school.js';
import type { Step } from './step.js';
import { type TechniqueId, techniqueById } from './techniques/index.js';
import type { Doing } from './techniques/technique.js';
import { type Tip, USUAL_TIPS } from './tips.js';

/** What the bench says to the hands about one technique of a step. */
export interface HandsWords {
  readonly technique: TechniqueId;
  readonly label: string;
  readonly lines: readonly string[];
  /** what goes wrong where it is done carelessly */
  readonly mind: string;
}

/**
 * Lines for the steps of one visit, in the order of the hands: each technique once. Preparing and packing speak too; so does a snip to
 * be widened.
 */
export function handsWords(
  design: Design,
  steps: readonly Step[],
  school: School,
  tips: readonly Tip[] = USUAL_TIPS,
  widens = false,
): HandsWords[] {
  const out: HandsWords[] = [];
  for (const step of steps) {
    if (out.some((w) => w.technique === step.technique)) continue;
    if (widens && step.kind === 'flood' && !out.some((w) => w.technique === 'widen-snip'))
      out.push(wordsOf('widen-snip', doingOf(design, step, school, tips)));
    out.push(wordsOf(step.technique, doingOf(design, step, school, tips)));
  }
  return out;
}

function wordsOf(technique: TechniqueId, doing: Doing): HandsWords {
  const { label, hands, badlyDone } = techniqueById(technique);
  return { technique, label, lines: hands(doing), mind: badlyDone };
}

function doingOf(design: Design, step: Step, school: School, tips: readonly Tip[]): Doing {
  const section = sectionById(design, step.part);
  return {
    school,
    fill: section ? fillOf(section, school) : school.fill,
    edgeMm: section ? edgeOf(section, school) : school.edgeMm,
    rings: section ? damOf(section, tips).rings : 1,
    way: step.way,
    count: step.parts.length,
    crossing: crosses(design, step.parts),
  };
}

/** Whether any two parts of a run lie over each other; of many the first hundred pairs tell. */
function crosses(design: Design, ids: readonly string[]): boolean {
  const shapes = ids.slice(0, 15).flatMap((id) => {
    const part = partById(design, id);
    return part ? [footprintOf(part)] : [];
  });
  return shapes.some((a, i) =>
    shapes.slice(i + 1).some((b) => boxesMeet(boundingBox(a.flat()), boundingBox(b.flat())) && areaMm2(intersection(a, b)) > 0),
  );
}
