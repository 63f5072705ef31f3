import { bodiesOfMark, type Design, type Guide, type PipedLine, type Section, sectionsOf, type WetMark } from '../design/design.js';
import { meetingsOf } from '../design/meetings.js';
import { BEAD_DEPTH_PER_BORE, type Region } from '../drying/state.js';
import { inscribedCircle, offset } from '../geometry/clip.js';
import { sharedEdge } from '../geometry/contact.js';
import { type Point, polylineLengthMm } from '../geometry/point.js';
import { areaMm2, perimeterMm } from '../geometry/shape.js';
import { beadMl, dropDepthMm, floodMl } from '../icing/amounts.js';
import { type Grade, grades } from '../icing/grade.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { type DropWay, damLengthMm, damOf, dropWayOf, edgeOf, filledDepthMm } from './filling.js';
import { gapsOf } from './gaps.js';
import { type Item, itemsOf } from './items.js';
import { orderOf, SMALL_POOL_MM, type StackOrder } from './order.js';
import { ASSUMED_PACE, type Pace } from './pace.js';
import type { School } from './school.js';
import { type Bag, bagKey, type Gap, type Step } from './step.js';
import { type TechniqueDefinition, type TechniqueId, techniqueById } from './techniques/index.js';
import type { Extent } from './techniques/technique.js';
import { type Opening, openingFor, type Tip, USUAL_TIPS } from './tips.js';

export { SMALL_POOL_MM };

/** A way of the scribe that turns back at least so often is drawn in one go. */
const CONTINUOUS_TURNS = 3;

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

/** Whether a pool is so small that it hangs from its edges and caves in where it stays wet. */
export const isSmallPool = (s: Pick<SectionFacts, 'inscribedDiameterMm'> | undefined): boolean =>
  s !== undefined && s.inscribedDiameterMm < SMALL_POOL_MM;

/** Everything to be done to one cookie of a design, in no fixed order but that of its gaps. */
export interface StepGraph {
  readonly rounds: number;
  /** whether fewer rounds are known to be impossible */
  readonly roundsProven: boolean;
  readonly sections: readonly SectionFacts[];
  readonly steps: readonly Step[];
  readonly gaps: readonly Gap[];
}

/** What bags really count, by {@link bagKey}: a bag keeps its name, and dries as it was counted. */
export type CountedBags = ReadonlyMap<string, number>;

/** Who works it, with what: each of them as assumed where nothing is said. */
export interface Hands {
  readonly pace?: Pace | undefined;
  readonly counted?: CountedBags;
  /** the kitchen's own tips */
  readonly tips?: readonly Tip[] | undefined;
}

/** Derives the steps of one cookie and the gaps between them. Throws {@link BadInput} where its parts' words contradict each other. */
export function deriveSteps(design: Design, school: School, hands: Hands = {}): StepGraph {
  const { pace = ASSUMED_PACE, counted = new Map(), tips = USUAL_TIPS } = hands;
  const meetings = meetingsOf(design);
  const measured = measuredSections(design);
  const facts = (id: string) => measured.get(id) as Measured;
  let items = itemsOf(design, meetings, true);
  let order: StackOrder;
  try {
    order = orderOf(design, school, meetings, items, facts);
  } catch (error) {
    if (!(error instanceof BadInput) || error.code !== 'order-cycle') throw error;
    // A run that reaches over floods may close a circle that its parts alone do not.
    items = itemsOf(design, meetings, false);
    order = orderOf(design, school, meetings, items, facts);
  }
  const steps = stepsOf({ design, school, pace, counted, tips }, items, order, facts);
  const gaps = gapsOf({ design, school, items, order, steps });
  return {
    rounds: order.rounds,
    roundsProven: order.proven,
    sections: sectionsOf(design).map((s): SectionFacts => {
      const { areaMm2: area, perimeterMm: perimeter, inscribedDiameterMm } = facts(s.id);
      return {
        id: s.id,
        name: s.name,
        areaMm2: area,
        perimeterMm: perimeter,
        inscribedDiameterMm,
        round: order.round.get(s.id) as number,
        batch: order.batch.get(s.id) as number,
        touches: order.touches.get(s.id) ?? [],
        layerOn: s.layerOn,
      };
    }),
    steps: withRounds(steps, gaps),
    gaps,
  };
}

interface Measured {
  readonly areaMm2: number;
  readonly perimeterMm: number;
  readonly inscribedDiameterMm: number;
}

const known = new WeakMap<Section, Measured>();
function measuredSections(design: Design): Map<string, Measured> {
  return new Map(
    sectionsOf(design).map((s) => {
      const found = known.get(s) ?? {
        areaMm2: areaMm2(s.shape),
        perimeterMm: perimeterMm(s.shape),
        inscribedDiameterMm: inscribedCircle(s.shape).diameterMm,
      };
      known.set(s, found);
      return [s.id, found];
    }),
  );
}

function stepsOf(
  {
    design,
    school,
    pace,
    counted,
    tips,
  }: Required<Hands> & { readonly design: Design; readonly school: School; readonly pace: Pace; readonly tips: readonly Tip[] },
  items: readonly Item[],
  order: StackOrder,
  facts: (id: string) => Measured,
): Step[] {
  const countOf = (bag: Bag) => counted.get(bagKey(bag)) ?? bag.seconds;
  const steps: Step[] = [];
  const ids = new Set<string>();
  const add = (
    technique: TechniqueId,
    parts: readonly string[],
    label: string,
    extent: Extent,
    rest: Pick<Step, 'round' | 'batch' | 'bag' | 'sectionId' | 'inside' | 'region'>,
    laid: Laid = {},
  ) => {
    const part = parts[0] as string;
    const base = `${technique}.${part}`;
    let id = base;
    for (let n = 2; ids.has(id); n++) id = `${base}~${n}`;
    ids.add(id);
    const definition = techniqueById(technique);
    const seconds = Math.round(definition.seconds(extent, pace, school) * 10) / 10;
    steps.push({
      id,
      technique,
      kind: definition.kind,
      part,
      parts,
      label,
      seconds,
      ...rest,
      ...(laid.opening ? { tip: laid.opening.name, openingMm: laid.opening.openingMm } : {}),
      ...(laid.ml === undefined ? {} : { ml: laid.ml }),
      ...(laid.way ? { way: laid.way } : {}),
      ...(laid.edgeMm ? { edgeMm: laid.edgeMm } : {}),
      ...(laid.rings ? { rings: laid.rings } : {}),
    });
  };
  const place = { round: 0, batch: 1, bag: null, sectionId: null, inside: [], region: null };
  add('preparation', ['cookie'], msg`cool, bags open`, NOTHING, place);
  const floods = items.filter((i) => i.section);
  const details = items.filter((i) => !i.section);
  for (const item of floods) {
    const section = item.section as Section;
    const f = facts(section.id);
    const here = {
      round: order.round.get(section.id) as number,
      batch: order.batch.get(section.id) as number,
      sectionId: section.id,
      inside: [section.id],
    };
    const flood: Bag = { colour: section.colour, seconds: section.seconds ?? school.floodS };
    const region: Region = {
      seconds: countOf(flood),
      depthMm: filledDepthMm(section, school),
      on: design.transfer ? 'parchment' : 'cookie',
    };
    const edgeMm = edgeOf(section, school);
    const flooded = Math.max(0, edgeMm > 0 ? areaMm2(offset(section.shape, -edgeMm)) : f.areaMm2);
    const extent: Extent = { ...NOTHING, lengthMm: f.perimeterMm, areaMm2: flooded, count: 1 };
    // As deep as it is filled, and up to where it stops: what the drying is reckoned with is what is mixed.
    const ml = floodMl(flooded, region.depthMm);
    if (section.technique === 'thin-coat')
      add('thin-coat', [section.id], section.name, extent, { ...here, bag: flood, region }, { ml, edgeMm });
    else {
      const dam = damOf(section, tips);
      if (dam.rings > 0) {
        const outline: Bag = {
          colour: dam.colour,
          seconds: school.bags === 'one' ? flood.seconds : Math.max(school.outlineS, flood.seconds),
        };
        const bore = dam.opening.openingMm;
        const lengthMm = damLengthMm(design, section, f.perimeterMm) * dam.rings;
        add(
          'outline',
          [section.id],
          section.name,
          { ...extent, lengthMm },
          { ...here, bag: outline, region: beadRegion(countOf(outline), bore) },
          { opening: dam.opening, ml: beadMl(lengthMm, bore), rings: dam.rings },
        );
      }
      // The opening said of a section is its dam's; a flood runs from a wider snip.
      const opening = openingFor({ outlet: 'snip', usualMm: techniqueById('flood').openingMm as number }, tips);
      add('flood', [section.id], section.name, extent, { ...here, bag: flood, region }, { opening, ml, edgeMm });
    }
    addNeedles(section, here);
    addMarks(item, here);
  }
  for (const item of details) {
    const [first] = item.run as [PipedLine | Guide];
    const { technique } = item;
    // Paper and pieces that lie flat are held by corn syrup or by a film of icing; paper's in the colour it lies on.
    const isGlued = technique.id === 'wafer' || technique.id === 'glued-transfer';
    const glue = technique.id === 'wafer' && school.glue === 'icing' ? 'outline' : null;
    const icing = isGlued ? (school.glue === 'icing' ? 'outline' : null) : technique.icing;
    const colour = glue ? (colourUnder(first) ?? first.colour) : first.colour;
    const bag = icing ? { colour, seconds: first.seconds ?? secondsFor(icing, school) } : null;
    const laid = bag ? detailLaid(item, technique) : {};
    const boreMm = laid.opening?.openingMm ?? 0;
    // A bead is as wide as it was drawn, and never narrower than the tip there is.
    const widthMm =
      first.role === 'line' ? Math.max(first.words?.openingMm ?? Math.max(first.widthMm, boreMm), first.area ? AREA_DETAIL_MM : 0) : 0;
    // Pens and powders leave nothing that dries; a stencilled or glued film does, like a bead.
    const region = bag && !glue ? beadRegion(countOf(bag), widthMm) : null;
    const here = { round: 1, batch: 1, sectionId: null, inside: [] };
    add(
      technique.id,
      item.run.map((p) => p.id),
      first.name,
      extentOf(item.run),
      { ...here, bag, region },
      laid,
    );
    addMarks(item, { ...here, sectionId: first.id });
  }
  add('pack', ['cookie'], msg`pack`, NOTHING, { ...place, round: order.rounds });
  return steps;

  function colourUnder(part: PipedLine | Guide): string | undefined {
    return sectionsOf(design).find((s) => s.id === part.restsOn[0])?.colour;
  }

  /** What a run of details is piped through and how much it takes: beads by their length, what is filled as a film. */
  function detailLaid(item: Item, technique: TechniqueDefinition<TechniqueId>): Laid {
    const lines = item.run.filter((p): p is PipedLine => p.role === 'line');
    const films = lines.filter((l) => l.area);
    const beads = lines.filter((l) => !l.area);
    const widestMm = Math.max(0, ...beads.map((l) => l.widthMm));
    const usualMm = widestMm > 0 ? widestMm : (technique.openingMm ?? 0);
    const opening = usualMm > 0 ? openingFor({ outlet: technique.outlet ?? 'round', usualMm, said: lines[0]?.words }, tips) : undefined;
    const boreMm = opening?.openingMm ?? 0;
    const ml =
      films.reduce((sum, l) => sum + floodMl(Math.abs(areaMm2([l.points, ...(l.holes ?? [])])), AREA_DETAIL_MM), 0) +
      beads.reduce((sum, l) => sum + beadMl(polylineLengthMm(l.points, l.closed), l.words?.openingMm ?? Math.max(l.widthMm, boreMm)), 0);
    return { ...(opening ? { opening } : {}), ml };
  }

  /** Where two colours lie flush and no drag crosses them, a needle is run along their join. */
  function addNeedles(section: Section, here: Pick<Step, 'round' | 'batch' | 'sectionId' | 'inside'>): void {
    for (const other of section.flushWith ?? []) {
      const before = sectionsOf(design).find((s) => s.id === other);
      if (!before || before.colour === section.colour) continue;
      if (design.parts.indexOf(before) > design.parts.indexOf(section)) continue;
      const crossed = design.parts.some(
        (p) => p.role === 'mark' && p.technique === 'drag' && [other, section.id].every((id) => bodiesOfMark(p).includes(id)),
      );
      const lengthMm = polylineLengthMm(sharedEdge(section.shape, before.shape));
      if (crossed || lengthMm === 0) continue;
      add(
        'needle',
        [section.id],
        msg`join of ${before.name} and ${section.name}`,
        { ...NOTHING, lengthMm, count: 1 },
        { ...here, inside: [section.id, other], bag: null, region: null },
      );
    }
  }

  function addMarks(item: Item, here: Pick<Step, 'round' | 'batch' | 'sectionId' | 'inside'>): void {
    for (const run of runsOfMarks(item.marks)) {
      const first = run[0] as WetMark;
      const definition = techniqueById(first.technique);
      const bag = definition.icing ? { colour: first.colour, seconds: first.seconds ?? school.wetMarkS } : null;
      const way = first.technique === 'wet-drop' ? dropWayOf(first, school) : undefined;
      const widestMm = Math.max(...run.map((m) => m.widthMm));
      const usualMm = first.technique === 'wet-line' && widestMm > 0 ? widestMm : (definition.openingMm ?? widestMm);
      const opening = openingFor({ outlet: definition.outlet ?? 'round', usualMm, said: first.words }, tips);
      const inside = [...new Set([here.sectionId as string, ...run.flatMap((m) => m.alsoIn ?? [])])];
      add(
        first.technique,
        run.map((m) => m.id),
        first.name,
        { ...extentOf(run), ringMm: way === 'ring' ? run.reduce((sum, m) => sum + polylineLengthMm(m.points, true), 0) : 0 },
        { ...here, inside, bag, region: null },
        bag ? { opening, ml: markMl(run, way), ...(way ? { way } : {}) } : {},
      );
    }
  }
}

/** Rounds of details and of what lies in them: after everything they wait for, packing last. A wait on a flood is a round of drying. */
function withRounds(steps: readonly Step[], gaps: readonly Gap[]): Step[] {
  const round = new Map(steps.map((s) => [s.id, s.round]));
  const byId = new Map(steps.map((s) => [s.id, s]));
  const floods = new Set(steps.filter((s) => s.kind === 'flood').map((s) => s.part));
  const fixed = (s: Step) =>
    s.kind === 'flood' || s.kind === 'dam' || (s.kind === 'mark' && floods.has(s.sectionId ?? '')) || s.kind === 'prepare';
  for (let pass = 0, changed = true; changed && pass <= steps.length; pass++) {
    changed = false;
    for (const g of gaps) {
      const [from, to] = [byId.get(g.from) as Step, byId.get(g.to) as Step];
      if (fixed(to) || to.kind === 'pack') continue;
      const dries = from.kind === 'flood' && (g.minState !== undefined || (g.minSeconds ?? 0) > 0) ? 1 : 0;
      const least = (round.get(from.id) as number) + dries;
      if ((round.get(to.id) as number) >= least) continue;
      round.set(to.id, least);
      changed = true;
    }
  }
  const last = Math.max(0, ...round.values());
  return steps.map((s) => ({ ...s, round: s.kind === 'pack' ? last : (round.get(s.id) as number) }));
}

/** Icing laid as an area on what is there (stencilled, glued, a filled nose): a film of this thickness, *assumed*. */
export const AREA_DETAIL_MM = 1;

const secondsFor = (grade: Grade['id'], school: School): number =>
  grade === 'piping'
    ? school.pipingS
    : grade === 'outline'
      ? school.outlineS
      : grade === 'flood'
        ? school.floodS
        : (grades.find((g) => g.id === grade)?.typicalS ?? school.pipingS);

export const NOTHING: Extent = { lengthMm: 0, areaMm2: 0, count: 1, filled: 0, filledMm2: 0, continuous: 0, ringMm: 0 };

/** How a step's icing is laid. */
interface Laid {
  readonly opening?: Opening;
  readonly ml?: number;
  readonly way?: DropWay;
  readonly edgeMm?: number;
  readonly rings?: 0 | 1 | 2;
}

/** Icing of wet marks on one cookie, ml: drops by their area, lines as rods of their width. */
const markMl = (run: readonly WetMark[], way: DropWay | undefined): number =>
  run.reduce(
    (sum, m) =>
      sum + (way ? floodMl(Math.abs(areaMm2([m.points])), dropDepthMm(way)) : beadMl(polylineLengthMm(m.points, m.closed), m.widthMm)),
    0,
  );

/** Length of strokes, area of filled parts, and how many there are. */
function extentOf(parts: readonly (PipedLine | Guide | WetMark)[]): Extent {
  return parts.reduce<Extent>(
    (sum, p) => {
      const area = p.role === 'line' && p.area === true;
      const filledMm2 = area ? Math.abs(areaMm2([p.points, ...(p.holes ?? [])])) : 0;
      const length = polylineLengthMm(p.points, p.closed);
      const width = p.role === 'guide' ? 0 : p.widthMm;
      const covered = p.role === 'mark' && p.closed ? Math.abs(areaMm2([p.points])) : length * width;
      return {
        lengthMm: sum.lengthMm + (area ? 0 : length),
        areaMm2: sum.areaMm2 + (area ? filledMm2 : covered),
        count: sum.count + 1,
        filled: sum.filled + (area ? 1 : 0),
        filledMm2: sum.filledMm2 + filledMm2,
        ringMm: 0,
        continuous: sum.continuous + (p.role === 'mark' && isContinuous(p) ? 1 : 0),
      };
    },
    { ...NOTHING, count: 0 },
  );
}

/** Whether a way of the scribe goes to and fro in one go. */
const isContinuous = (m: WetMark): boolean => m.technique === 'drag' && turnsBack(m.points) >= CONTINUOUS_TURNS;
/** Whether the scribe is wiped before a pull, as the school has it; as many as {@link wipingS} counts. */
export const isWiped = (drag: WetMark, wiping: School['wiping']): boolean =>
  wiping === 'always' || (wiping === 'single-pulls' && !isContinuous(drag));

/** How often a way turns by more than a right angle. */
function turnsBack(points: readonly Point[]): number {
  let n = 0;
  for (let i = 1; i + 1 < points.length; i++) {
    const [a, b, c] = [points[i - 1], points[i], points[i + 1]] as [Point, Point, Point];
    if ((b.x - a.x) * (c.x - b.x) + (b.y - a.y) * (c.y - b.y) < 0) n += 1;
  }
  return n;
}

const beadRegion = (seconds: number, boreMm: number): Region => ({ seconds, depthMm: BEAD_DEPTH_PER_BORE * boreMm, on: 'cookie' });

/** Marks that follow each other with the same motion, bag and words are one step. */
function runsOfMarks(marks: readonly WetMark[]): WetMark[][] {
  const alike = (a: WetMark, b: WetMark) =>
    a.technique === b.technique &&
    a.seconds === b.seconds &&
    JSON.stringify(a.words) === JSON.stringify(b.words) &&
    JSON.stringify(a.alsoIn) === JSON.stringify(b.alsoIn) &&
    (techniqueById(a.technique).icing === null || a.colour === b.colour);
  const out: WetMark[][] = [];
  for (const m of marks) {
    const last = out.at(-1);
    if (last && alike(last[0] as WetMark, m)) last.push(m);
    else out.push([m]);
  }
  return out;
}
