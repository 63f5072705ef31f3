import { colourDifference, lightnessAndChroma } from '../design/contrast.js';
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
import { type AirPiece, lossThrough, secondsToLoseThrough } from '../drying/front.js';
import { bleedRisk, craterRisk, dentRisk, overflowRisk, type Risk, ridgesRisk } from '../drying/risk.js';
import { type Factors, type Margin, PRIOR_FACTORS, thresholdsHere } from '../drying/uncertainty.js';
import { areaMm2, boundingBox, centroid, contains, difference, intersection, offset } from '../geometry/shape.js';
import { type BagAmount, bagAmounts } from '../steps/bag-amounts.js';
import type { StepGraph } from '../steps/derive.js';
import { damOf } from '../steps/filling.js';
import { techniqueOf } from '../steps/items.js';
import { STENCIL_REACH_MM } from '../steps/order.js';
import { ASSUMED_PACE, type Pace } from '../steps/pace.js';
import { bagKey, type Gap, type Step } from '../steps/step.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import { type Tip, tipCalled, USUAL_TIPS } from '../steps/tips.js';
import { NoAnswer } from '../units/bad-input.js';
import { type Course, courseAlone, type Making } from './course.js';
import { timeGap } from './timed-gap.js';

/** Something on a design that may go wrong, in words, with the one change that helps most. */
export interface DesignCheck {
  readonly kind: CheckKind;
  readonly part: string;
  readonly word: Risk['word'];
  /** 0–1; by this the worst of several cookies is told */
  readonly risk: number;
  readonly text: string;
  readonly change: string | null;
}
export type CheckKind =
  | 'hollow'
  | 'crater'
  | 'bleed'
  | 'overflow'
  | 'ridges'
  | 'dent'
  | 'crackle'
  | 'window'
  | 'bridge'
  | 'contrast'
  | 'lettering'
  | 'spread'
  | 'lumps'
  | 'tip'
  | 'never-dries';

/** What a cookie of this design takes, at the margin. */
export interface DesignTotals {
  readonly rounds: number;
  readonly handsOnS: number;
  /** longest chain of drying and work of one cookie, hands always free; null where something never dries */
  readonly throughS: number | null;
  readonly bags: readonly BagAmount[];
}

/** A pool filled with less than this share of its depth counts as underfilled: *assumed*. */
const UNDERFILLED_SHARE = 0.8;
/** A section narrower than this tears and floods badly: *assumed*, two beads wide. */
const BRIDGE_MM = 2;
const BRIDGE_LEAST_MM2 = 4;
/** Fine strokes nearer in colour than this to their ground are hard to see, and areas nearer than the second: *assumed*, by CIEDE2000. */
const STROKE_CONTRAST = 20;
const AREA_CONTRAST = 8;
/** What lies flat is seen by its colour alone; a bead of its ground's own colour is seen by its shadow. */
const SEEN_BY_COLOUR: readonly TechniqueId[] = ['pen', 'trace', 'lettering', 'wet-drop', 'wet-line', 'stencil', 'airbrush', 'dust', 'paint'];
const AREAS: readonly TechniqueId[] = ['stencil', 'airbrush', 'dust', 'paint', 'wet-drop'];
/** Letters lower than so many of their beads close up: common practice, no published source. */
const LETTER_BEADS = 5;
/** Wet marks as fine as these are meant to stay sharp, and icing looser than outline icing spreads: common practice, no published source. */
const SHARP_LINE_MM = 1;
const SHARP_DROP_MM = 2;
const SHARP_FROM_S = 25;
/** Marks this much stiffer than what they are dragged through come along in lumps: *assumed*. */
export const LUMPS_BY_S = 3;
/** What a hand or a tool does to the surface it works on: pressed on, or only touched with a bead. */
const PRESSING: readonly TechniqueId[] = ['pen', 'stencil', 'trace', 'wafer', 'dust', 'paint'];
/** A blind crackle that succeeds less often than this is told: two in three, *assumed*. */
const BLIND_FROM = 2 / 3;

export interface CheckInput extends Making {
  readonly pace?: Pace;
  /** what really happens to its cookies, where it was planned; one cookie by itself where nothing is said */
  readonly courses?: readonly Course[];
  /** the kitchen's own tips */
  readonly tips?: readonly Tip[] | undefined;
}

const RANK = { likely: 0, watch: 1, low: 2 } as const;

/** What may go wrong on this design, made like this: the worst of its cookies, worst first. */
export function checkDesign(design: Design, graph: StepGraph, input: CheckInput): DesignCheck[] {
  return assessDesign(design, graph, input)
    .filter((c) => c.word !== 'low')
    .sort((a, b) => RANK[a.word] - RANK[b.word]);
}

/** Every risk there is, the low ones too: the worst of all cookies for each kind and part. */
export function assessDesign(design: Design, graph: StepGraph, input: CheckInput): DesignCheck[] {
  const courses = input.courses?.length ? input.courses : [courseAlone(graph, input)];
  const all = [...drawnChecks(design, graph, input), ...courses.flatMap((c) => courseChecks(design, graph, input, c))];
  const worst = new Map<string, DesignCheck>();
  for (const c of all) {
    const key = `${c.kind} ${c.part}`;
    const known = worst.get(key);
    if (!known || c.risk > known.risk) worst.set(key, c);
  }
  return [...worst.values()];
}

const checkOf = (kind: CheckKind, part: string, name: string, r: Risk): DesignCheck => ({
  kind,
  part,
  word: r.word,
  risk: r.risk,
  text: `${name}: ${r.reasons.slice(0, 2).join(', ')}`,
  change: r.bestChange,
});
/** Something that is so or is not: seen on the drawing, without chance. */
const told = (kind: CheckKind, part: string, word: 'watch' | 'likely', text: string, change: string): DesignCheck => ({
  kind,
  part,
  word,
  risk: word === 'likely' ? 0.6 : 0.3,
  text,
  change,
});

/** What the waits and airs of one cookie decide. */
function courseChecks(design: Design, graph: StepGraph, { school, air, margin, factors = PRIOR_FACTORS }: CheckInput, course: Course): DesignCheck[] {
  const out: DesignCheck[] = [];
  const floodOf = (id: string) => graph.steps.find((s) => s.kind === 'flood' && s.part === id);
  const lostBetween = (from: Step, to: Step): number | null => {
    const seconds = course.betweenS(from, to);
    if (seconds === null || seconds < 0) return null;
    return lossThrough(firstOf(course.airsAfter(from), seconds));
  };
  for (const section of sectionsOf(design)) {
    const flood = floodOf(section.id);
    const facts = graph.sections.find((s) => s.id === section.id);
    if (!flood?.region || !facts) continue;
    const marks = graph.steps.filter((s) => s.kind === 'mark' && s.sectionId === section.id);
    const laidMl = (flood.ml ?? 0) + marks.reduce((sum, m) => sum + (m.ml ?? 0), 0);
    const neighbourDry =
      school.driedNeighbour === 'feared' &&
      facts.touches.some((id) => {
        const other = floodOf(id);
        const lost = other && lostBetween(other, flood);
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
    const [from, to] = [graph.steps.find((s) => s.id === gap.from), graph.steps.find((s) => s.id === gap.to)];
    const [a, b] = [sectionById(design, from?.part ?? ''), sectionById(design, to?.part ?? '')];
    if (!from?.region || !to?.region || !a || !b || neverDries(gap, air, margin, factors)) continue;
    const lost = lostBetween(from, to);
    const gapS = course.betweenS(from, to);
    if (lost === null || gapS === null) continue;
    const [la, lb] = [lightnessAndChroma(a.colour), lightnessAndChroma(b.colour)];
    const name = `${a.name} beside ${b.name}`;
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
    out.push(checkOf('ridges', b.id, `${b.name} beside ${a.name}`, ridges));
  }
  for (const step of graph.steps.filter((s) => s.kind === 'detail' && s.technique !== 'crackle')) {
    const line = linesOf(design).find((l) => l.id === step.part);
    const pressing = PRESSING.includes(step.technique) || (step.technique === 'airbrush' && line?.words?.tool === 'stencil');
    for (const id of line?.restsOn ?? []) {
      const base = floodOf(id);
      const lost = base && lostBetween(base, step);
      if (!base?.region || lost == null) continue;
      const bears = thresholdsHere(base.region, factors)[pressing ? 'firm' : 'crusted'];
      out.push(checkOf('dent', step.part, `${step.label} on ${base.label}`, dentRisk({ lossShare: lost / bears, pressing })));
    }
  }
  const pack = graph.steps.find((s) => s.kind === 'pack');
  for (const flood of graph.steps.filter((s) => s.kind === 'flood')) {
    const lost = pack && lostBetween(flood, pack);
    if (!flood.region || lost == null) continue;
    out.push(
      checkOf(
        'dent',
        flood.part,
        `${flood.label}, when it is packed`,
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

/** What the drawing, the school and the air decide, whatever the hours. */
function drawnChecks(design: Design, graph: StepGraph, input: CheckInput): DesignCheck[] {
  const { air, margin, factors = PRIOR_FACTORS, pace = ASSUMED_PACE, tips = USUAL_TIPS } = input;
  const out: DesignCheck[] = [];
  for (const section of sectionsOf(design)) {
    const flood = graph.steps.find((s) => s.kind === 'flood' && s.part === section.id);
    const facts = graph.sections.find((s) => s.id === section.id);
    if (!flood?.region || !facts) continue;
    const marks = graph.steps.filter((s) => s.kind === 'mark' && s.sectionId === section.id);
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
    checkLumps(out, design, graph, section, marks);
    checkBridge(out, section);
  }
  checkMarks(out, design, graph);
  checkTips(out, design, tips);
  for (const line of linesOf(design).filter((l) => l.technique === 'crackle')) {
    const base = graph.steps.find((s) => s.kind === 'flood' && line.restsOn.includes(s.part));
    const window = base?.region ? crackleWindow(base.region, air, margin, factors) : null;
    if (window && window.blindChance < BLIND_FROM)
      out.push(
        told(
          'crackle',
          line.id,
          'watch',
          `${line.name}: done blind in the middle of its window it succeeds ${Math.round(window.blindChance * 100)} times in a hundred`,
          'try it with a finger when it opens: breaks, dents or too late',
        ),
      );
  }
  for (const { stencil, proud } of hollowStencils(design, graph))
    out.push(
      told(
        'hollow',
        stencil.id,
        'watch',
        `the stencil of ${stencil.name} will lie hollow on ${proud.name}, which is piped before it`,
        `pipe ${proud.name} after the stencil`,
      ),
    );
  for (const gap of graph.gaps) {
    const never = neverDries(gap, air, margin, factors);
    if (!never) continue;
    out.push(told('never-dries', gap.to, 'likely', never, 'drier, warmer or moving air'));
    break;
  }
  return out;
}

/** Marks and lines that nobody sees, letters that close up, fine wet marks that spread. */
function checkMarks(out: DesignCheck[], design: Design, graph: StepGraph): void {
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
          told(
            'contrast',
            part.id,
            'watch',
            `${part.name} is hard to see on ${base.name}: the colours are near each other`,
            technique === 'pen' ? 'a darker pen, or a paler ground' : 'a stronger colour, or another ground',
          ),
        );
    }
    if (part.role === 'line' && technique === 'lettering' && !part.area) {
      const box = boundingBox(part.points);
      const highMm = Math.max(box.maxX - box.minX, box.maxY - box.minY);
      const beadMm = Math.max(part.widthMm, graph.steps.find((s) => s.parts.includes(part.id))?.openingMm ?? 0);
      if (highMm < LETTER_BEADS * beadMm)
        out.push(
          told(
            'lettering',
            part.id,
            'watch',
            `${part.name} is ${highMm.toFixed(1)} mm high in a bead of ${beadMm.toFixed(1)} mm: letters under ${LETTER_BEADS} beads close up`,
            `letters of ${Math.ceil(LETTER_BEADS * beadMm)} mm, or a finer tip`,
          ),
        );
    }
  }
  for (const step of graph.steps.filter((s) => s.technique === 'wet-drop' || s.technique === 'wet-line')) {
    const marks = marksOf(design).filter((m) => step.parts.includes(m.id));
    const sharp = marks.find((m) => (m.technique === 'wet-line' ? m.widthMm > 0 && m.widthMm <= SHARP_LINE_MM : acrossMm(m) <= SHARP_DROP_MM));
    if (sharp && step.bag && step.bag.seconds < SHARP_FROM_S)
      out.push(
        told(
          'spread',
          sharp.id,
          'watch',
          `${sharp.name} is drawn fine, and icing of ${step.bag.seconds} s spreads: it is too loose for a sharp mark`,
          `outline icing for it, ${SHARP_FROM_S} s or more`,
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
function checkLumps(out: DesignCheck[], design: Design, graph: StepGraph, section: Section, marks: StepGraph['steps']): void {
  const flood = graph.steps.find((s) => s.kind === 'flood' && s.part === section.id);
  const last = marks.findLastIndex((s) => s.technique === 'drag');
  for (const step of marks.slice(0, Math.max(0, last))) {
    if (!step.bag || !flood?.bag || step.bag.seconds <= flood.bag.seconds + LUMPS_BY_S) continue;
    const crossed = marks.slice(marks.indexOf(step)).some((s) => s.technique === 'drag' && s.parts.some((d) => step.parts.some((m) => cross(design, d, m))));
    if (crossed)
      out.push(
        told(
          'lumps',
          step.part,
          'watch',
          `${step.label} is dragged, and at ${step.bag.seconds} s it is thicker than the ${flood.bag.seconds} s under it: it comes along in lumps`,
          `icing of ${flood.bag.seconds} s for what is dragged`,
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
        told('tip', part.id, 'watch', `${part.name} asks for "${said}", which is not among the tips of this kitchen`, 'add it to the kitchen, or say another'),
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
  const stepOf = (part: string) => graph.steps.find((s) => s.kind === 'detail' && s.parts.includes(part))?.id;
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

function neverDries(gap: Gap, air: Air, margin: Margin, factors?: Factors): string | null {
  try {
    timeGap(gap, air, margin, factors);
    return null;
  } catch (error) {
    if (error instanceof NoAnswer) return error.message;
    throw error;
  }
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
  if (!window || neverDries(window, air, margin, factors)) return;
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
    text: `${section.name}: the wet work takes ${Math.round(takesS)} s and the window is ${maxS} s`,
    change: share <= 1 ? 'one cookie at a time, every bag open beforehand' : 'loosen the icing, drop a colour, or use outline icing pressed in',
  });
}

function checkBridge(out: DesignCheck[], section: Section): void {
  const opened = offset(offset(section.shape, -BRIDGE_MM / 2), BRIDGE_MM / 2 + 0.05);
  const thin = difference(section.shape, opened).filter((ring) => areaMm2([ring]) >= BRIDGE_LEAST_MM2);
  if (thin.length === 0) return;
  out.push(
    told(
      'bridge',
      section.id,
      'watch',
      `${section.name} is narrower than ${BRIDGE_MM} mm in ${thin.length === 1 ? 'one place' : `${thin.length} places`}`,
      'pipe it as a line instead, or draw it wider',
    ),
  );
}

export function designTotals(graph: StepGraph, air: Air, margin: Margin, factors?: Factors): DesignTotals {
  return {
    rounds: graph.rounds,
    handsOnS: graph.steps.reduce((s, x) => s + x.seconds, 0),
    throughS: longestChain(graph, air, margin, factors),
    bags: bagAmounts(graph, 1),
  };
}

/** Longest chain from preparing to packing one cookie, seconds; null where some wait never ends. */
function longestChain(graph: StepGraph, air: Air, margin: Margin, factors?: Factors): number | null {
  const end = new Map(graph.steps.map((s) => [s.id, s.seconds]));
  const waits = new Map<Gap, number>();
  for (const gap of graph.gaps) {
    if (neverDries(gap, air, margin, factors)) return null;
    waits.set(gap, timeGap(gap, air, margin, factors).minS);
  }
  for (let pass = 0, changed = true; changed && pass <= graph.steps.length; pass++) {
    changed = false;
    for (const gap of graph.gaps) {
      const to = graph.steps.find((s) => s.id === gap.to);
      const at = (end.get(gap.from) ?? 0) + (waits.get(gap) ?? 0) + (to?.seconds ?? 0);
      if (at > (end.get(gap.to) ?? 0) + 1e-9) {
        end.set(gap.to, at);
        changed = true;
      }
    }
  }
  return Math.max(0, ...end.values());
}
