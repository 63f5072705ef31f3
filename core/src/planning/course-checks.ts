import { colourDifference, lightnessAndChroma } from '../design/contrast.js';
import { type Design, partById, sectionById, sectionsOf } from '../design/design.js';
import { type AirPiece, lossThrough, secondsToLoseThrough } from '../drying/front.js';
import { bleedRisk, craterRisk, dentRisk, ridgesRisk } from '../drying/risk.js';
import { PRIOR_FACTORS, thresholdsHere } from '../drying/uncertainty.js';
import type { StepGraph } from '../steps/derive.js';
import { type Step } from '../steps/step.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import { msg } from '../words/index.js';
import { type Course } from './course.js';
import { type CheckInput, checkOf, type DesignCheck, neverDries } from './design-check.js';
import { graphIndex } from './graph-index.js';

/** A pool filled with less than this share of its depth counts as underfilled: *assumed*. */
const UNDERFILLED_SHARE = 0.8;
/** What a hand or a tool does to the surface it works on: pressed on, or only touched with a bead. */
const PRESSING: readonly TechniqueId[] = ['pen', 'stencil', 'trace', 'wafer', 'dust', 'paint'];

/** What the waits and airs of one cookie decide. */
export const courseChecks = (design: Design, graph: StepGraph, input: CheckInput, course: Course): DesignCheck[] => [
  ...surfaceChecks(design, graph, input, course),
  ...touchChecks(design, graph, input, course),
];

/** Water a step's icing has lost when another step begins, kg/m²; null where one of them is not made, or comes first. */
function lostBetween(course: Course, from: Step, to: Step): number | null {
  const seconds = course.betweenS(from, to);
  if (seconds === null || seconds < 0) return null;
  return lossThrough(firstOf(course.airsAfter(from), seconds));
}

/** What may come of icing left to itself, and of floods beside each other: craters, bleeding, ridges. */
export function surfaceChecks(design: Design, graph: StepGraph, input: CheckInput, course: Course): DesignCheck[] {
  const { school, factors = PRIOR_FACTORS } = input;
  const out: DesignCheck[] = [];
  const { step: stepOf, floodOf, marksIn, factsOf } = graphIndex(graph);
  for (const section of sectionsOf(design)) {
    const flood = floodOf(section.id);
    const facts = factsOf(section.id);
    if (!flood?.region || !facts) continue;
    const marks = marksIn(section.id);
    const laidMl = (flood.ml ?? 0) + marks.reduce((sum, m) => sum + (m.ml ?? 0), 0);
    const neighbourDry =
      school.driedNeighbour === 'feared' &&
      facts.touches.some((id) => {
        const other = floodOf(id);
        const lost = other && lostBetween(course, other, flood);
        return other?.region && lost != null && lost >= thresholdsHere(other.region, factors).firm;
      });
    out.push(
      checkOf(
        'crater',
        section.id,
        section.name,
        craterRisk({
          inscribedDiameterMm: facts.inscribedDiameterMm,
          region: flood.region,
          airs: course.airsAfter(flood),
          underfilled: laidMl < (facts.areaMm2 * section.depthMm * UNDERFILLED_SHARE) / 1000,
          neighbourDry,
          factors,
        }),
      ),
    );
  }
  for (const gap of graph.gaps.filter((g) => g.rule === 'touching-sections' && g.to.startsWith('flood'))) {
    const [from, to] = [stepOf(gap.from), stepOf(gap.to)];
    const [a, b] = [sectionById(design, from?.part ?? ''), sectionById(design, to?.part ?? '')];
    if (!from?.region || !to?.region || !a || !b || neverDries(gap, input)) continue;
    const lost = lostBetween(course, from, to);
    const gapS = course.betweenS(from, to);
    if (lost === null || gapS === null) continue;
    const [la, lb] = [lightnessAndChroma(a.colour), lightnessAndChroma(b.colour)];
    const name = msg`${a.name} beside ${b.name}`;
    const bleed = bleedRisk({
      difference: colourDifference(a.colour, b.colour),
      lightnessStep: Math.abs(la.lightness - lb.lightness),
      chroma: Math.max(la.chroma, lb.chroma),
      gapS,
      setS: secondsToLoseThrough(course.airsAfter(from), thresholdsHere(from.region, factors).set),
      crustAfterS: secondsToLoseThrough(course.airsAfter(to), thresholdsHere(to.region, factors).crusted),
    });
    out.push(checkOf('bleed', b.id, name, bleed));
    const ridges = ridgesRisk({ levelling: school.levelling, neighbourLossShare: lost / thresholdsHere(from.region, factors).firm });
    out.push(checkOf('ridges', b.id, msg`${b.name} beside ${a.name}`, ridges));
  }
  return out;
}

/** What may come of touching icing: dents by details that are pressed on, and by packing. */
function touchChecks(design: Design, graph: StepGraph, input: CheckInput, course: Course): DesignCheck[] {
  const { factors = PRIOR_FACTORS } = input;
  const out: DesignCheck[] = [];
  const { floodOf } = graphIndex(graph);
  for (const step of graph.steps.filter((s) => s.kind === 'detail' && s.technique !== 'crackle')) {
    const part = partById(design, step.part);
    const line = part?.role === 'line' ? part : undefined;
    const pressing = PRESSING.includes(step.technique) || (step.technique === 'airbrush' && line?.words?.tool === 'stencil');
    for (const id of line?.restsOn ?? []) {
      const base = floodOf(id);
      const lost = base && lostBetween(course, base, step);
      if (!base?.region || lost == null) continue;
      const bears = thresholdsHere(base.region, factors)[pressing ? 'firm' : 'crusted'];
      out.push(checkOf('dent', step.part, msg`${step.label} on ${base.label}`, dentRisk({ lossShare: lost / bears, pressing })));
    }
  }
  const pack = graph.steps.find((s) => s.kind === 'pack');
  for (const flood of graph.steps.filter((s) => s.kind === 'flood')) {
    const lost = pack && lostBetween(course, flood, pack);
    if (!flood.region || lost == null) continue;
    out.push(
      checkOf(
        'dent',
        flood.part,
        msg`${flood.label}, when it is packed`,
        dentRisk({ lossShare: lost / thresholdsHere(flood.region, factors).dry, pressing: true }),
      ),
    );
  }
  return out;
}

/** The first `seconds` of a list of airs. */
function firstOf(airs: readonly AirPiece[], seconds: number): AirPiece[] {
  let left = seconds;
  return airs.flatMap((p) => {
    const here = Math.min(left, p.seconds);
    left -= here;
    return here > 0 ? [{ air: p.air, seconds: here }] : [];
  });
}
