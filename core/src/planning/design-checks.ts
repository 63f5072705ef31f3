import { colourDifference, lightnessAndChroma } from '../design/contrast.js';
import { type Design, linesOf, type Part, type PipedLine, type Section, sectionById, sectionsOf } from '../design/design.js';
import { footprintOf } from '../design/footprint.js';
import { isBead } from '../design/meetings.js';
import type { Air } from '../drying/air.js';
import { dryingRate, secondsToLose } from '../drying/front.js';
import { bleedRisk, craterRisk, overflowRisk, type Risk, ridgesRisk } from '../drying/risk.js';
import { stateThresholds } from '../drying/state.js';
import type { Margin } from '../drying/uncertainty.js';
import { areaMm2, difference, intersection, offset } from '../geometry/shape.js';
import { type BagAmount, bagAmounts } from '../steps/bag-amounts.js';
import { OUTLINE_BORE_MM, type StepGraph } from '../steps/derive.js';
import { STENCIL_REACH_MM } from '../steps/order.js';
import { ASSUMED_PACE, type Pace } from '../steps/pace.js';
import type { School } from '../steps/school.js';
import { bagKey, type Gap } from '../steps/step.js';
import { NoAnswer } from '../units/bad-input.js';
import { stepSequence } from './step-sequence.js';
import { timeGap } from './timed-gap.js';

/** Something on a design that may go wrong, in words, with the one change that helps most. */
export interface DesignCheck {
  readonly kind: 'hollow' | 'crater' | 'bleed' | 'overflow' | 'ridges' | 'window' | 'bridge' | 'contrast' | 'never-dries';
  readonly part: string;
  readonly word: Risk['word'];
  readonly text: string;
  readonly change: string | null;
}

/** What a cookie of this design takes, at the margin. */
export interface DesignTotals {
  readonly rounds: number;
  readonly handsOnS: number;
  /** longest chain of drying and work of one cookie, hands always free; null where something never dries */
  readonly throughS: number | null;
  readonly bags: readonly BagAmount[];
}

/** A flood filled lower than this share of its depth counts as underfilled: *assumed*. */
const UNDERFILLED_SHARE = 0.8;
/** A section narrower than this tears and floods badly: *assumed*, two beads wide. */
const BRIDGE_MM = 2;
const BRIDGE_LEAST_MM2 = 4;
/** A pen nearer in colour than this to its ground is hard to see: *assumed*, by CIEDE2000. */
const PEN_CONTRAST = 20;

export function checkDesign(design: Design, graph: StepGraph, school: School, air: Air, margin: Margin, pace: Pace = ASSUMED_PACE): DesignCheck[] {
  const out: DesignCheck[] = [];
  const add = (kind: DesignCheck['kind'], part: string, risk: Pick<Risk, 'word' | 'reasons' | 'bestChange'>, name: string) => {
    if (risk.word !== 'low') out.push({ kind, part, word: risk.word, text: `${name}: ${risk.reasons.slice(0, 2).join(', ')}`, change: risk.bestChange });
  };
  const rate = dryingRate(air);
  const dried = school.driedNeighbour === 'feared' ? besideDriedThrough(graph, air, margin) : new Set<string>();
  for (const section of sectionsOf(design)) {
    const flood = graph.steps.find((s) => s.kind === 'flood' && s.part === section.id);
    const facts = graph.sections.find((s) => s.id === section.id);
    if (!flood?.region || !facts) continue;
    add(
      'crater',
      section.id,
      craterRisk({
        inscribedDiameterMm: facts.inscribedDiameterMm,
        region: flood.region,
        firstAir: air,
        underfilled: flood.region.depthMm < section.depthMm * UNDERFILLED_SHARE,
        neighbourDry: dried.has(section.id),
      }),
      section.name,
    );
    const marks = graph.steps.filter((s) => s.kind === 'mark' && s.sectionId === section.id);
    const one = bagAmounts(design, { ...graph, steps: marks }, 1).reduce((s, b) => s + b.ml, 0);
    if (section.technique !== 'thin-coat')
      add(
        'overflow',
        section.id,
        overflowRisk({
          areaMm2: facts.areaMm2,
          floodMl: (facts.areaMm2 * section.depthMm) / 1000,
          wetDetailsMl: one,
          damBoreMm: Math.max(OUTLINE_BORE_MM, section.depthMm),
          dammed: true,
        }),
        section.name,
      );
    checkWindow(out, section, marks, graph.gaps, air, margin, pace);
    checkBridge(out, section);
  }
  for (const gap of graph.gaps.filter((g) => g.rule === 'touching-sections' && g.to.startsWith('flood')))
    checkBoundary(out, design, graph, gap, air, margin, school);
  for (const line of linesOf(design).filter((l) => l.technique === 'pen' || l.technique === 'trace')) {
    for (const id of line.restsOn) {
      const base = sectionById(design, id);
      if (base && colourDifference(line.colour, base.colour) < PEN_CONTRAST)
        out.push({
          kind: 'contrast',
          part: line.id,
          word: 'watch',
          text: `${line.name} is hard to see on ${base.name}: the colours are near each other`,
          change: 'a darker pen, or a paler ground',
        });
    }
  }
  for (const { stencil, proud } of hollowStencils(design, graph))
    out.push({
      kind: 'hollow',
      part: stencil.id,
      word: 'watch',
      text: `the stencil of ${stencil.name} will lie hollow on ${proud.name}, which is piped before it`,
      change: `pipe ${proud.name} after the stencil`,
    });
  for (const gap of graph.gaps) {
    const never = neverDries(gap, air, margin);
    if (never) {
      out.push({ kind: 'never-dries', part: gap.to, word: 'likely', text: never, change: 'drier, warmer or moving air' });
      break;
    }
  }
  const seen = new Set<string>();
  const order = { likely: 0, watch: 1, low: 2 } as const;
  return out.filter((c) => !seen.has(`${c.kind} ${c.part}`) && seen.add(`${c.kind} ${c.part}`)).sort((a, b) => order[a.word] - order[b.word]);

  function checkBoundary(list: DesignCheck[], d: Design, g: StepGraph, gap: Gap, inAir: Air, at: Margin, of: School): void {
    const from = g.steps.find((s) => s.id === gap.from);
    const to = g.steps.find((s) => s.id === gap.to);
    const [a, b] = [sectionById(d, from?.part ?? ''), sectionById(d, to?.part ?? '')];
    if (!from?.region || !to?.region || !a || !b || neverDries(gap, inAir, at)) return;
    const [la, lb] = [lightnessAndChroma(a.colour), lightnessAndChroma(b.colour)];
    const risk = bleedRisk({
      difference: colourDifference(a.colour, b.colour),
      lightnessStep: Math.abs(la.lightness - lb.lightness),
      chroma: Math.max(la.chroma, lb.chroma),
      gapS: timeGap(gap, inAir, at).minS,
      setS: secondsToLose(rate, 0, stateThresholds(from.region).set),
      crustAfterS: secondsToLose(rate, 0, stateThresholds(to.region).crusted),
    });
    if (risk.word !== 'low')
      list.push({
        kind: 'bleed',
        part: b.id,
        word: risk.word,
        text: `${a.name} beside ${b.name}: ${risk.reasons.slice(0, 2).join(', ')}`,
        change: risk.bestChange,
      });
    const lost = stateThresholds(from.region).firm;
    const ridges = ridgesRisk({ levelling: of.levelling, neighbourLossShare: (gap.minLossKgPerM2 ?? 0) / lost });
    if (ridges.word !== 'low')
      list.push({ kind: 'ridges', part: b.id, word: ridges.word, text: `${b.name} beside ${a.name}: ${ridges.reasons.join(', ')}`, change: ridges.bestChange });
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

/** Floods that, with hands always free, are laid beside a neighbour that is firm by then. */
function besideDriedThrough(graph: StepGraph, air: Air, margin: Margin): Set<string> {
  const endOf = new Map(stepSequence(graph, air, margin).map((s) => [s.step.part + s.step.kind, s.endS]));
  const out = new Set<string>();
  for (const flood of graph.steps.filter((s) => s.kind === 'flood')) {
    const begins = (endOf.get(`${flood.part}flood`) ?? 0) - flood.seconds;
    for (const id of graph.sections.find((s) => s.id === flood.part)?.touches ?? []) {
      const other = graph.steps.find((s) => s.kind === 'flood' && s.part === id);
      const left = endOf.get(`${id}flood`) ?? Number.POSITIVE_INFINITY;
      if (other?.region && begins - left >= secondsToLose(dryingRate(air), 0, stateThresholds(other.region).firm)) out.add(flood.part);
    }
  }
  return out;
}

function neverDries(gap: Gap, air: Air, margin: Margin): string | null {
  try {
    timeGap(gap, air, margin);
    return null;
  } catch (error) {
    if (error instanceof NoAnswer) return error.message;
    throw error;
  }
}

function checkWindow(out: DesignCheck[], section: Section, marks: StepGraph['steps'], gaps: readonly Gap[], air: Air, margin: Margin, pace: Pace): void {
  if (marks.length === 0) return;
  const window = gaps.find((g) => g.rule === 'wet-window' && g.to === marks.at(-1)?.id);
  if (!window || neverDries(window, air, margin)) return;
  const { minS, maxS } = timeGap(window, air, margin);
  const changes = marks.filter(
    (m, i) => i === 0 || (m.bag ? bagKey(m.bag) : 'scribe') !== (marks[i - 1]?.bag ? bagKey(marks[i - 1]?.bag as never) : 'scribe'),
  ).length;
  const takesS = minS + marks.reduce((s, m) => s + m.seconds, 0) + changes * pace.bagPickUpS;
  if (maxS === null || takesS <= 0.6 * maxS) return;
  const tight = takesS <= maxS;
  out.push({
    kind: 'window',
    part: section.id,
    word: tight ? 'watch' : 'likely',
    text: `${section.name}: the wet work takes ${Math.round(takesS)} s and the window is ${maxS} s`,
    change: tight ? 'one cookie at a time, every bag open beforehand' : 'loosen the icing, drop a colour, or use outline icing pressed in',
  });
}

function checkBridge(out: DesignCheck[], section: Section): void {
  const opened = offset(offset(section.shape, -BRIDGE_MM / 2), BRIDGE_MM / 2 + 0.05);
  const thin = difference(section.shape, opened).filter((ring) => areaMm2([ring]) >= BRIDGE_LEAST_MM2);
  if (thin.length === 0) return;
  out.push({
    kind: 'bridge',
    part: section.id,
    word: 'watch',
    text: `${section.name} is narrower than ${BRIDGE_MM} mm in ${thin.length === 1 ? 'one place' : `${thin.length} places`}`,
    change: 'pipe it as a line instead, or draw it wider',
  });
}

export function designTotals(design: Design, graph: StepGraph, air: Air, margin: Margin): DesignTotals {
  return {
    rounds: graph.rounds,
    handsOnS: graph.steps.reduce((s, x) => s + x.seconds, 0),
    throughS: longestChain(graph, air, margin),
    bags: bagAmounts(design, graph, 1),
  };
}

/** Longest chain from preparing to packing one cookie, seconds; null where some wait never ends. */
function longestChain(graph: StepGraph, air: Air, margin: Margin): number | null {
  const end = new Map(graph.steps.map((s) => [s.id, s.seconds]));
  const waits = new Map<Gap, number>();
  for (const gap of graph.gaps) {
    if (neverDries(gap, air, margin)) return null;
    waits.set(gap, timeGap(gap, air, margin).minS);
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
