import { type Design, linesOf, marksOf, type Section, sectionById } from '../design/design.js';
import { type Point, polylineLengthMm } from '../geometry/point.js';
import { areaMm2, offset, type Shape } from '../geometry/shape.js';
import { beadMl, floodMl, gramsOf, withWasteG } from '../icing/amounts.js';
import { gradeOfSeconds } from '../icing/grade.js';
import { damLengthMm, OUTLINE_BORE_MM, type StepGraph } from './derive.js';
import { type Bag, bagKey, type Step } from './step.js';
import { type TechniqueId, techniqueById } from './techniques/index.js';

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
  /** widest opening its jobs ask for, mm: the bore of a round tip, or the snip of a tipless bag */
  readonly openingMm: number;
  /** where it goes: one entry a step, volumes for all cookies */
  readonly uses: readonly BagUse[];
}

export interface BagUse {
  readonly technique: TechniqueId;
  readonly label: string;
  readonly ml: number;
}

/** Stencilled or glued icing is a film of about this: *assumed*. */
const FILM_MM = 1;

/** Flattened drops stand about this high above the flood they sink into: *assumed*. */
const DROP_DEPTH_MM = 1.2;

/** Amounts for `count` cookies of a design, a bag for each colour and consistency, largest first. `dome` above 1 fills plump. */
export function bagAmounts(design: Design, graph: StepGraph, count: number, dome = 1): BagAmount[] {
  const bags = new Map<string, { bag: Bag; openingMm: number; uses: BagUse[] }>();
  for (const step of graph.steps) {
    if (!step.bag) continue;
    const poured = pouredOnOne(design, graph, step, dome);
    const known = bags.get(bagKey(step.bag)) ?? { bag: step.bag, openingMm: 0, uses: [] };
    known.openingMm = Math.max(known.openingMm, poured.openingMm);
    known.uses.push({ technique: step.technique, label: step.label, ml: poured.ml * count });
    bags.set(bagKey(step.bag), known);
  }
  return [...bags.values()]
    .map(({ bag, openingMm, uses }): BagAmount => {
      const ml = uses.reduce((sum, u) => sum + u.ml, 0);
      const g = gramsOf(ml);
      return { colour: bag.colour, grade: gradeOfSeconds(bag.seconds).id, seconds: bag.seconds, g, ml, mixG: withWasteG(g), openingMm, uses };
    })
    .sort((a, b) => b.g - a.g);
}

/** The area a flood really covers, where the drawing says how far short of its line it stops. */
const edged = (s: Section): Shape => ((s.words?.edgeMm ?? 0) > 0 ? offset(s.shape, -(s.words?.edgeMm ?? 0)) : s.shape);

/** What one step lays on one cookie, and through how wide an opening. */
function pouredOnOne(design: Design, graph: StepGraph, step: Step, dome: number): { ml: number; openingMm: number } {
  const section = sectionById(design, step.part);
  const marks = marksOf(design).filter((m) => step.parts.includes(m.id));
  const lines = linesOf(design).filter((l) => step.parts.includes(l.id));
  const widest = (strokes: readonly { readonly widthMm: number }[]) => Math.max(0, ...strokes.map((x) => x.widthMm));
  const beads = (strokes: readonly { readonly points: readonly Point[]; readonly closed: boolean; readonly widthMm: number }[]) =>
    strokes.reduce((sum, x) => sum + beadMl(polylineLengthMm(x.points, x.closed), x.widthMm), 0);
  const opening = techniqueById(step.technique).openingMm ?? 0;
  // A filled detail is a film of a millimetre; what is drawn by area has no length.
  const films = lines.filter((l) => l.area).reduce((sum, l) => sum + floodMl(Math.abs(areaMm2([l.points, ...(l.holes ?? [])])), FILM_MM), 0);
  switch (step.kind) {
    case 'flood':
      // As deep as it is filled, and up to where it stops: what the drying is reckoned with is what is mixed.
      return { ml: section ? floodMl(areaMm2(edged(section)), step.region?.depthMm ?? section.depthMm, dome) : 0, openingMm: opening };
    case 'dam': {
      const boreMm = step.openingMm ?? OUTLINE_BORE_MM;
      const perimeter = graph.sections.find((s) => s.id === step.part)?.perimeterMm ?? 0;
      const round = section ? damLengthMm(design, section, perimeter) : perimeter;
      return { ml: beadMl(round, boreMm) * (section?.words?.dam === 'double' ? 2 : 1), openingMm: boreMm };
    }
    case 'mark':
      return step.technique === 'wet-drop'
        ? { ml: marks.reduce((sum, m) => sum + floodMl(Math.abs(areaMm2([m.points])), DROP_DEPTH_MM), 0), openingMm: opening }
        : { ml: beads(marks), openingMm: widest(marks) };
    case 'detail':
      return { ml: films + beads(lines.filter((l) => !l.area)), openingMm: step.openingMm ?? Math.max(widest(lines), films > 0 ? opening : 0) };
    default:
      return { ml: 0, openingMm: 0 };
  }
}
