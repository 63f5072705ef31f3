import type { Design } from '../design/design.js';
import { polylineLengthMm } from '../geometry/point.js';
import { areaMm2 } from '../geometry/shape.js';
import { beadMl, floodMl, gramsOf, withWasteG } from '../icing/amounts.js';
import { gradeOfSeconds } from '../icing/grade.js';
import { OUTLINE_BORE_MM, type StepGraph } from './derive.js';
import { type Bag, bagKey } from './step.js';

/** What one bag must hold for so many cookies. */
export interface BagAmount {
  readonly colour: string;
  readonly grade: string;
  readonly seconds: number;
  /** what lands on the cookies */
  readonly g: number;
  readonly ml: number;
  /** to mix: with what stays in the bag, is wiped off and tried out */
  readonly mixG: number;
}

/** Flattened drops stand about this high above the flood they sink into: *assumed*. */
const DROP_DEPTH_MM = 1.2;

/** Amounts for `count` cookies of a design, a bag for each colour and consistency, largest first. */
export function bagAmounts(design: Design, graph: StepGraph, count: number): BagAmount[] {
  const ml = new Map<string, { bag: Bag; ml: number }>();
  const add = (bag: Bag | null, volume: number) => {
    if (!bag) return;
    const known = ml.get(bagKey(bag));
    ml.set(bagKey(bag), { bag, ml: (known?.ml ?? 0) + volume * count });
  };
  for (const step of graph.steps) {
    const section = design.sections.find((s) => s.id === step.part);
    const marks = design.marks.filter((m) => step.parts.includes(m.id));
    const lines = design.lines.filter((l) => step.parts.includes(l.id));
    if (step.technique === 'flood' && section) add(step.bag, floodMl(areaMm2(section.shape), section.depthMm));
    else if (step.technique === 'outline') add(step.bag, beadMl(graph.sections.find((s) => s.id === step.part)?.perimeterMm ?? 0, OUTLINE_BORE_MM));
    else if (step.technique === 'wet-drop') for (const m of marks) add(step.bag, floodMl(Math.abs(areaMm2([m.points])), DROP_DEPTH_MM));
    else if (step.technique === 'wet-line') for (const m of marks) add(step.bag, beadMl(polylineLengthMm(m.points, m.closed), m.widthMm));
    else if (step.technique === 'piped-line') for (const l of lines) add(step.bag, beadMl(polylineLengthMm(l.points, l.closed), l.widthMm));
  }
  return [...ml.values()]
    .map(
      ({ bag, ml: volume }): BagAmount => ({
        colour: bag.colour,
        grade: gradeOfSeconds(bag.seconds).id,
        seconds: bag.seconds,
        g: gramsOf(volume),
        ml: volume,
        mixG: withWasteG(gramsOf(volume)),
      }),
    )
    .sort((a, b) => b.g - a.g);
}
