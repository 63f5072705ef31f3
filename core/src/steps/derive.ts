import { lightnessAndChroma } from '../design/contrast.js';
import type { Design, PipedLine, Section, WetMark } from '../design/design.js';
import { BEAD_DEPTH_PER_BORE, type Region } from '../drying/state.js';
import { touches } from '../geometry/contact.js';
import { distance, type Point, polylineLengthMm } from '../geometry/point.js';
import { areaMm2, centroid, inscribedCircle, perimeterMm } from '../geometry/shape.js';
import { type Grade, grades } from '../icing/grade.js';
import { ASSUMED_PACE, type Pace } from './pace.js';
import { roundsOf } from './rounds.js';
import { rules } from './rules/index.js';
import type { School } from './school.js';
import { type Bag, bagKey, type Gap, type Step } from './step.js';
import { type TechniqueId, type TechniqueKind, techniqueById } from './techniques/index.js';
import type { Extent } from './techniques/technique.js';

/** Pools with a smaller inscribed circle crater easily and are taken a few at a time. */
export const SMALL_POOL_MM = 12;
const SMALL_POOLS_AT_ONCE = 4;
/** Outline bead of a round tip 2, mm bore, *assumed* where the drawing says nothing. */
export const OUTLINE_BORE_MM = 1.5;

export interface SectionFacts {
  readonly id: string;
  readonly name: string;
  readonly areaMm2: number;
  readonly perimeterMm: number;
  readonly inscribedDiameterMm: number;
  readonly round: number;
  readonly batch: number;
  readonly touches: readonly string[];
  readonly layerOn: readonly string[];
}

/** Everything to be done to one cookie of a design, in no fixed order but that of its gaps. */
export interface StepGraph {
  readonly rounds: number;
  /** whether fewer rounds are known to be impossible */
  readonly roundsProven: boolean;
  readonly sections: readonly SectionFacts[];
  readonly steps: readonly Step[];
  readonly gaps: readonly Gap[];
}

/** What a rule looks at. */
export interface RuleContext {
  readonly design: Design;
  readonly school: School;
  readonly sections: readonly SectionFacts[];
  readonly steps: readonly Step[];
  readonly sectionOf: (id: string) => Section;
  readonly factsOf: (id: string) => SectionFacts;
  readonly stepsOn: (sectionId: string, kind: TechniqueKind) => readonly Step[];
  /** sections the user wants in this order: [first, then] */
  readonly before: readonly (readonly [string, string])[];
}

/** What bags really count, by {@link bagKey}: a bag keeps its name, and dries as it was counted. */
export type CountedBags = ReadonlyMap<string, number>;

/** Derives the steps of one cookie and the gaps between them. */
export function deriveSteps(design: Design, school: School, pace: Pace = ASSUMED_PACE, counted: CountedBags = new Map()): StepGraph {
  const countOf = (bag: Bag) => counted.get(bagKey(bag)) ?? bag.seconds;
  const { sections, rounds, roundsProven } = factsOf(design);
  const facts = new Map(sections.map((s) => [s.id, s]));
  const steps: Step[] = [];
  const add = (
    technique: TechniqueId,
    parts: readonly string[],
    label: string,
    extent: Extent,
    rest: Pick<Step, 'round' | 'batch' | 'bag' | 'sectionId' | 'region'>,
  ) => {
    const part = parts[0] as string;
    const base = `${technique}.${part}`;
    const id = steps.some((s) => s.id === base) ? `${base}~${steps.filter((s) => s.part === part).length}` : base;
    const definition = techniqueById(technique);
    const seconds = Math.round(definition.seconds(extent, pace, school.wipesScribe) * 10) / 10;
    steps.push({ id, technique, kind: definition.kind, part, parts, label, seconds, ...rest });
  };
  const whole: Extent = { lengthMm: 0, areaMm2: 0, count: 1 };
  add('preparation', ['cookie'], 'cool, guides drawn', whole, { round: 0, batch: 1, bag: null, sectionId: null, region: null });

  for (const section of design.sections) {
    const f = facts.get(section.id) as SectionFacts;
    const extent: Extent = { lengthMm: f.perimeterMm, areaMm2: f.areaMm2, count: 1 };
    const place = { round: f.round, batch: f.batch, sectionId: section.id };
    const flood: Bag = { colour: section.colour, seconds: section.seconds ?? school.floodS };
    const on = design.transfer ? ('parchment' as const) : ('cookie' as const);
    const region = { seconds: countOf(flood), depthMm: section.depthMm, on };
    if (section.technique === 'thin-coat') add('thin-coat', [section.id], section.name, extent, { ...place, bag: flood, region });
    else {
      // One bag for both where the school outlines with its flooding icing.
      const outline: Bag = { colour: section.colour, seconds: school.outlineS === school.floodS ? flood.seconds : Math.max(school.outlineS, flood.seconds) };
      add('outline', [section.id], section.name, extent, { ...place, bag: outline, region: bead(countOf(outline), OUTLINE_BORE_MM) });
      add('flood', [section.id], section.name, extent, { ...place, bag: flood, region });
    }
    for (const run of runsOfMarks(design.marks.filter((m) => m.sectionId === section.id))) {
      const first = run[0] as WetMark;
      const definition = techniqueById(first.technique);
      const bag = definition.icing ? { colour: first.colour, seconds: first.seconds ?? school.wetMarkS } : null;
      add(
        first.technique,
        run.map((m) => m.id),
        first.name,
        extentOf(run),
        { ...place, bag, region: null },
      );
    }
  }
  for (const run of runsOfLines(design.lines)) {
    const first = run[0] as PipedLine;
    const definition = techniqueById(first.technique);
    const rests = run.flatMap((l) => l.restsOn);
    const round = 1 + Math.max(0, ...rests.map((id) => facts.get(id)?.round ?? 0));
    const bag = definition.icing ? { colour: first.colour, seconds: first.seconds ?? secondsFor(definition.icing, school) } : null;
    const region = bag && definition.leavesIcing ? bead(countOf(bag), Math.max(first.widthMm, first.area ? AREA_DETAIL_MM : 0)) : null;
    add(
      first.technique,
      run.map((l) => l.id),
      first.name,
      extentOf(run),
      { round, batch: 1, bag, sectionId: null, region },
    );
  }
  add('pack', ['cookie'], 'pack', whole, { round: Math.max(rounds, ...steps.map((s) => s.round)), batch: 1, bag: null, sectionId: null, region: null });

  const context: RuleContext = {
    design,
    school,
    sections,
    steps,
    sectionOf: (id) => design.sections.find((s) => s.id === id) as Section,
    factsOf: (id) => facts.get(id) as SectionFacts,
    stepsOn: (sectionId, kind) => steps.filter((s) => s.sectionId === sectionId && s.kind === kind),
    before: design.before ?? [],
  };
  return { rounds, roundsProven, sections, steps, gaps: rules.flatMap((rule) => rule.gaps(context)) };
}

/** Icing laid as an area on what is there (stencilled, glued): a film of this thickness, *assumed*. */
const AREA_DETAIL_MM = 1;

const secondsFor = (grade: Grade['id'], school: School): number =>
  grade === 'piping'
    ? school.pipingS
    : grade === 'outline'
      ? school.outlineS
      : grade === 'flood'
        ? school.floodS
        : (grades.find((g) => g.id === grade)?.typicalS ?? school.pipingS);

/** Length of strokes, area of filled parts, and how many there are. */
function extentOf(
  parts: readonly { readonly points: readonly Point[]; readonly closed: boolean; readonly area?: boolean; readonly widthMm: number }[],
): Extent {
  return {
    lengthMm: parts.reduce((s, x) => s + (x.area ? 0 : polylineLengthMm(x.points, x.closed)), 0),
    areaMm2: parts.reduce((s, x) => s + (x.closed ? Math.abs(areaMm2([x.points])) : polylineLengthMm(x.points) * x.widthMm), 0),
    count: parts.length,
  };
}

const bead = (seconds: number, boreMm: number): Region => ({ seconds, depthMm: BEAD_DEPTH_PER_BORE * boreMm, on: 'cookie' });

/** Marks of one section that follow each other with the same motion and bag are one step. */
function runsOfMarks(marks: readonly WetMark[]): WetMark[][] {
  return runs(marks, (a, b) => a.technique === b.technique && a.seconds === b.seconds && (techniqueById(a.technique).icing === null || a.colour === b.colour));
}

function runsOfLines(lines: readonly PipedLine[]): PipedLine[][] {
  return runs(lines, (a, b) => a.technique === b.technique && a.colour === b.colour && a.seconds === b.seconds && a.widthMm === b.widthMm);
}

function runs<T>(items: readonly T[], alike: (a: T, b: T) => boolean): T[][] {
  const out: T[][] = [];
  for (const item of items) {
    const last = out.at(-1);
    if (last && alike(last[0] as T, item)) last.push(item);
    else out.push([item]);
  }
  return out;
}

function factsOf(design: Design): { sections: SectionFacts[]; rounds: number; roundsProven: boolean } {
  const list = design.sections;
  const touching: [number, number][] = [];
  const layers: [number, number][] = [];
  const flush: [number, number][] = [];
  const index = new Map(list.map((s, i) => [s.id, i]));
  for (const [i, a] of list.entries()) {
    for (const under of a.layerOn) layers.push([index.get(under) as number, i]);
    for (let j = i + 1; j < list.length; j++) {
      const b = list[j] as Section;
      // A layer and its base meet by lying on each other; that is a matter of order, not of contact.
      if (a.layerOn.includes(b.id) || b.layerOn.includes(a.id)) continue;
      if (a.flushWith?.includes(b.id)) flush.push([i, j]);
      else if (touches(a.shape, b.shape)) touching.push([i, j]);
    }
  }
  for (const [first, then] of design.before ?? []) {
    const [a, b] = [index.get(first), index.get(then)];
    if (a !== undefined && b !== undefined) layers.push([a, b]);
  }
  const middle = centroid(design.cookie);
  const answer = roundsOf({
    count: list.length,
    touching,
    layers,
    flush,
    // Light before strong colour, extremities before the middle, larger first.
    early: [
      list.map((s) => {
        const { lightness, chroma } = lightnessAndChroma(s.colour);
        return Math.round(lightness - chroma / 2);
      }),
      list.map((s) => Math.round(distance(centroid(s.shape), middle))),
      list.map((s) => Math.round(areaMm2(s.shape))),
    ],
  });
  const measured = list.map((s, i) => ({
    id: s.id,
    name: s.name,
    areaMm2: areaMm2(s.shape),
    perimeterMm: perimeterMm(s.shape),
    inscribedDiameterMm: inscribedCircle(s.shape).diameterMm,
    round: answer.round[i] as number,
    touches: touching.flatMap(([a, b]) => (a === i ? [(list[b] as Section).id] : b === i ? [(list[a] as Section).id] : [])),
    layerOn: s.layerOn,
  }));
  const seen = new Map<number, number>();
  const sections = measured.map((s): SectionFacts => {
    if (s.inscribedDiameterMm >= SMALL_POOL_MM) return { ...s, batch: 1 };
    const n = seen.get(s.round) ?? 0;
    seen.set(s.round, n + 1);
    return { ...s, batch: 1 + Math.floor(n / SMALL_POOLS_AT_ONCE) };
  });
  return { sections, rounds: answer.rounds, roundsProven: answer.proven };
}
