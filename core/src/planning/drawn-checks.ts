import { colourDifference } from '../design/contrast.js';
import {
  bodiesOfMark,
  type Design,
  linesOf,
  marksOf,
  type Part,
  type PipedLine,
  partById,
  type Section,
  sectionById,
  sectionsOf,
  type WetMark,
} from '../design/design.js';
import { footprintOf } from '../design/footprint.js';
import { isBead } from '../design/meetings.js';
import type { Air } from '../drying/air.js';
import { crackleWindow } from '../drying/crackle.js';
import { overflowRisk } from '../drying/risk.js';
import { type Factors, type Margin, PRIOR_FACTORS } from '../drying/uncertainty.js';
import { difference, intersection, offset } from '../geometry/clip.js';
import { ofOne } from '../geometry/remembered.js';
import { areaMm2, boundingBox, centroid, contains, type Shape } from '../geometry/shape.js';
import type { StepGraph } from '../steps/derive.js';
import { damOf } from '../steps/filling.js';
import { techniqueOf } from '../steps/items.js';
import { STENCIL_REACH_MM } from '../steps/order.js';
import { ASSUMED_PACE, type Pace } from '../steps/pace.js';
import { type Bag, bagKey, type Gap, type Step } from '../steps/step.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import { type Tip, tipCalled, USUAL_TIPS } from '../steps/tips.js';
import { msg } from '../words/index.js';
import { type CheckInput, checkOf, type DesignCheck, neverDries, warning } from './design-check.js';
import { graphIndex } from './graph-index.js';
import { timeGap } from './timed-gap.js';

/** A section narrower than this tears and floods badly: *assumed*, two beads wide. */
const BRIDGE_MM = 2;
const BRIDGE_LEAST_MM2 = 4;
/** Fine strokes nearer in colour than this to their ground are hard to see, and areas nearer than the second: *assumed*, by CIEDE2000. */
const STROKE_CONTRAST = 20;
const AREA_CONTRAST = 8;
/** What lies flat is seen by its colour alone; a bead of its ground's own colour is seen by its shadow. */
const SEEN_BY_COLOUR: readonly TechniqueId[] = [
  'pen',
  'trace',
  'lettering',
  'wet-drop',
  'wet-line',
  'stencil',
  'airbrush',
  'dust',
  'paint',
];
const AREAS: readonly TechniqueId[] = ['stencil', 'airbrush', 'dust', 'paint', 'wet-drop'];
/** Letters lower than so many of their beads close up: common practice, no published source. */
const LETTER_BEADS = 5;
/**
 * Wet marks as fine as these are meant to stay sharp, and icing looser than outline icing spreads: common practice, no published
 * source.
 */
const SHARP_LINE_MM = 1;
const SHARP_DROP_MM = 2;
const SHARP_FROM_S = 25;
/** Marks this much stiffer than what they are dragged through come along in lumps: *assumed*. */
export const LUMPS_BY_S = 3;
/** A blind crackle that succeeds less often than this is warned of: two in three, *assumed*. */
const BLIND_FROM = 2 / 3;

/** What the drawing, the school and the air decide, whatever the hours. */
export function drawnChecks(design: Design, graph: StepGraph, input: CheckInput): DesignCheck[] {
  const { air, margin, factors = PRIOR_FACTORS, pace = ASSUMED_PACE, tips = USUAL_TIPS } = input;
  const secondsOf = (bag: Bag) => input.counted?.get(bagKey(bag)) ?? bag.seconds;
  const out: DesignCheck[] = [];
  const index = graphIndex(graph);
  for (const section of sectionsOf(design)) {
    const flood = index.floodOf(section.id);
    const facts = index.factsOf(section.id);
    if (!flood?.region || !facts) continue;
    const marks = index.marksIn(section.id);
    const dam = damOf(section, tips);
    if (section.technique !== 'thin-coat')
      out.push(
        checkOf(
          'overflow',
          section.id,
          section.name,
          overflowRisk({
            areaMm2: facts.areaMm2,
            inscribedDiameterMm: facts.inscribedDiameterMm,
            floodMl: flood.ml ?? 0,
            wetDetailsMl: marks.reduce((sum, m) => sum + (m.ml ?? 0), 0),
            damBoreMm: dam.opening.openingMm,
            rings: dam.rings,
          }),
        ),
      );
    checkWindow(out, section, marks, graph.gaps, air, margin, pace, factors);
    checkLumps(out, design, graph, section, marks, secondsOf);
    checkBridge(out, section);
  }
  checkMarks(out, design, graph, secondsOf);
  checkTips(out, design, tips);
  for (const line of linesOf(design).filter((l) => l.technique === 'crackle')) {
    const base = graph.steps.find((s) => s.kind === 'flood' && line.restsOn.includes(s.part));
    const window = base?.region ? crackleWindow(base.region, air, margin, factors) : null;
    if (window && window.blindChance < BLIND_FROM)
      out.push(
        warning(
          'crackle',
          line.id,
          'watch',
          msg`${line.name}: done blind in the middle of its window it succeeds ${Math.round(window.blindChance * 100)} times in a hundred`,
          msg`try it with a finger when it opens: breaks, dents or too late`,
        ),
      );
  }
  for (const { stencil, proud } of hollowStencils(design, graph))
    out.push(
      warning(
        'hollow',
        stencil.id,
        'watch',
        msg`the stencil of ${stencil.name} will lie hollow on ${proud.name}, which is piped before it`,
        msg`pipe ${proud.name} after the stencil`,
      ),
    );
  for (const gap of graph.gaps) {
    const never = neverDries(gap, { air, airAt: input.airAt, margin, factors });
    if (!never) continue;
    out.push(warning('never-dries', gap.to, 'likely', never, msg`drier, warmer or moving air`));
    break;
  }
  return out;
}

/** Marks and lines that nobody sees, letters that close up, fine wet marks that spread. */
function checkMarks(out: DesignCheck[], design: Design, graph: StepGraph, secondsOf: (bag: Bag) => number): void {
  const groundOf = (id: string) => sectionById(design, id) ?? linesOf(design).find((l) => l.id === id);
  for (const part of [...linesOf(design), ...marksOf(design)]) {
    const technique = techniqueOf(part);
    const grounds = part.role === 'mark' ? bodiesOfMark(part) : part.restsOn;
    const least = AREAS.includes(technique) ? AREA_CONTRAST : STROKE_CONTRAST;
    // A mark that lies on another mark of its own section (a pupil on an iris) is seen by that.
    const under = part.role === 'mark' ? markUnder(design, part) : null;
    for (const id of SEEN_BY_COLOUR.includes(technique) ? grounds : []) {
      const base = under ?? groundOf(id);
      if (base && colourDifference(part.colour, base.colour) < least)
        out.push(
          warning(
            'contrast',
            part.id,
            'watch',
            msg`${part.name} is hard to see on ${base.name}: the colours are near each other`,
            technique === 'pen' ? msg`a darker pen, or a paler ground` : msg`a stronger colour, or another ground`,
          ),
        );
    }
    if (part.role === 'line' && technique === 'lettering' && !part.area) {
      const box = boundingBox(part.points);
      const highMm = Math.max(box.maxX - box.minX, box.maxY - box.minY);
      const beadMm = Math.max(part.widthMm, graph.steps.find((s) => s.parts.includes(part.id))?.openingMm ?? 0);
      if (highMm < LETTER_BEADS * beadMm)
        out.push(
          warning(
            'lettering',
            part.id,
            'watch',
            msg`${part.name} is ${highMm.toFixed(1)} mm high in a bead of ${beadMm.toFixed(1)} mm: letters under ${LETTER_BEADS} beads
              close up`,
            msg`letters of ${Math.ceil(LETTER_BEADS * beadMm)} mm, or a finer tip`,
          ),
        );
    }
  }
  for (const step of graph.steps.filter((s) => s.technique === 'wet-drop' || s.technique === 'wet-line')) {
    const marks = marksOf(design).filter((m) => step.parts.includes(m.id));
    const sharp = marks.find((m) =>
      m.technique === 'wet-line' ? m.widthMm > 0 && m.widthMm <= SHARP_LINE_MM : acrossMm(m) <= SHARP_DROP_MM,
    );
    if (sharp && step.bag && secondsOf(step.bag) < SHARP_FROM_S)
      out.push(
        warning(
          'spread',
          sharp.id,
          'watch',
          msg`${sharp.name} is drawn fine, and icing of ${secondsOf(step.bag)} s spreads: it is too loose for a sharp mark`,
          msg`outline icing for it, ${SHARP_FROM_S} s or more`,
        ),
      );
  }
}

function acrossMm(m: WetMark): number {
  const box = boundingBox(m.points);
  return Math.min(box.maxX - box.minX, box.maxY - box.minY);
}

/** The last mark laid before this one that covers its middle. */
function markUnder(design: Design, mark: WetMark): WetMark | null {
  const at = centroid([mark.points]);
  const before = marksOf(design).slice(0, marksOf(design).indexOf(mark));
  return before.findLast((m) => m.technique === 'wet-drop' && m.sectionId === mark.sectionId && contains([m.points], at)) ?? null;
}

/** Marks that are dragged afterwards and are stiffer than what they lie in. */
function checkLumps(
  out: DesignCheck[],
  design: Design,
  graph: StepGraph,
  section: Section,
  marks: StepGraph['steps'],
  secondsOf: (bag: Bag) => number,
): void {
  const flood = graphIndex(graph).floodOf(section.id);
  const last = marks.findLastIndex((s) => s.technique === 'drag');
  for (const step of marks.slice(0, Math.max(0, last))) {
    if (!step.bag || !flood?.bag) continue;
    const [ownS, baseS] = [secondsOf(step.bag), secondsOf(flood.bag)];
    if (ownS <= baseS + LUMPS_BY_S) continue;
    const crossed = marks
      .slice(marks.indexOf(step))
      .some((s) => s.technique === 'drag' && s.parts.some((d) => step.parts.some((m) => cross(design, d, m))));
    if (crossed)
      out.push(
        warning(
          'lumps',
          step.part,
          'watch',
          msg`${step.label} is dragged, and at ${ownS} s it is thicker than the ${baseS} s under it: it comes along in lumps`,
          msg`icing of ${baseS} s for what is dragged`,
        ),
      );
  }
}

function cross(design: Design, one: string, other: string): boolean {
  const [a, b] = [partById(design, one), partById(design, other)];
  return a !== undefined && b !== undefined && areaMm2(intersection(footprintOf(a), footprintOf(b))) > 0;
}

/** Tips a drawing asks for that this kitchen does not have. */
function checkTips(out: DesignCheck[], design: Design, tips: readonly Tip[]): void {
  for (const part of design.parts) {
    const said = part.words?.tip;
    if (said && !tipCalled(said, tips))
      out.push(
        warning(
          'tip',
          part.id,
          'watch',
          msg`${part.name} asks for "${said}", which is not among the tips of this kitchen`,
          msg`add it to the kitchen, or say another`,
        ),
      );
  }
}

/** Stencils with something standing proud within their reach that comes before them all the same. */
function hollowStencils(design: Design, graph: StepGraph): { readonly stencil: PipedLine; readonly proud: Part }[] {
  const after = (from: string, to: string): boolean => {
    const seen = new Set([from]);
    for (const v of seen) for (const g of graph.gaps) if (g.from === v) seen.add(g.to);
    return seen.has(to);
  };
  const stepOf = (part: string) => graphIndex(graph).detailOf(part)?.id;
  return linesOf(design)
    .filter((l) => l.technique === 'stencil')
    .flatMap((stencil) => {
      const reach = offset(footprintOf(stencil), STENCIL_REACH_MM);
      const own = stepOf(stencil.id);
      return design.parts
        .filter((p) => isBead(p) && areaMm2(intersection(reach, footprintOf(p))) > 0)
        .flatMap((proud) => {
          const step = stepOf(proud.id);
          return step && own && step !== own && after(step, own) ? [{ stencil, proud }] : [];
        });
    });
}

function checkWindow(
  out: DesignCheck[],
  section: Section,
  marks: StepGraph['steps'],
  gaps: readonly Gap[],
  air: Air,
  margin: Margin,
  pace: Pace,
  factors: Factors,
): void {
  if (marks.length === 0) return;
  const window = gaps.find((g) => g.rule === 'wet-window' && g.to === marks.at(-1)?.id);
  if (!window || neverDries(window, { air, margin, factors })) return;
  const { minS, maxS } = timeGap(window, air, margin, factors);
  const keyOf = (m: Step | undefined) => (m?.bag ? bagKey(m.bag) : 'scribe');
  const changes = marks.filter((m, i) => i === 0 || keyOf(m) !== keyOf(marks[i - 1])).length;
  const takesS = minS + marks.reduce((s, m) => s + m.seconds, 0) + changes * pace.bagPickUpS;
  if (maxS === null) return;
  const share = takesS / maxS;
  out.push({
    kind: 'window',
    part: section.id,
    word: share <= 0.6 ? 'low' : share <= 1 ? 'watch' : 'likely',
    risk: Math.min(1, share / 2),
    text: msg`${section.name}: the wet work takes ${Math.round(takesS)} s and the window is ${maxS} s`,
    change:
      share <= 1
        ? msg`one cookie at a time, every bag open beforehand`
        : msg`loosen the icing, drop a colour, or use outline icing pressed in`,
  });
}

/** In how many places a shape is narrower than {@link BRIDGE_MM}. */
const narrowPlaces = ofOne((shape: Shape): number => {
  const opened = offset(offset(shape, -BRIDGE_MM / 2), BRIDGE_MM / 2 + 0.05);
  return difference(shape, opened).filter((ring) => areaMm2([ring]) >= BRIDGE_LEAST_MM2).length;
});

function checkBridge(out: DesignCheck[], section: Section): void {
  const thin = narrowPlaces(section.shape);
  if (thin === 0) return;
  out.push(
    warning(
      'bridge',
      section.id,
      'watch',
      msg`${section.name} is narrower than ${BRIDGE_MM} mm in ${thin === 1 ? msg`one place` : msg`${thin} places`}`,
      msg`pipe it as a line instead, or draw it wider`,
    ),
  );
}
