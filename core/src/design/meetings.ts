import { difference, intersection, offset, strokeInside } from '../geometry/clip.js';
import { sharedEdge, TOUCH_LENGTH_MM, touches } from '../geometry/contact.js';
import { polylineLengthMm } from '../geometry/point.js';
import { ofPair } from '../geometry/remembered.js';
import { areaMm2, type Box, boundingBox, boxesMeet, boxOf, type Shape } from '../geometry/shape.js';
import { bodiesOfMark, type Design, type Guide, type Part, type PipedLine, type Section } from './design.js';
import { footprintOf, meets } from './footprint.js';

/** Edges run beside each other up to this gap. */
const BESIDE_MM = 0.5;
/** Floods overlap in the drawing if the common area holds a circle of this width; thinner is trapping, an edge drawn twice. */
const OVERLAP_MM = 1;
/** A band drawn edge to edge is inside: so much may stand over. */
const INSIDE_MM = 0.5;
const SLIVER_MM2 = 0.3;

/**
 * Two parts that have to do with each other, found once by geometry. `a` is earlier in the stack, `b` later; only a guide
 * may come later than what it guides.
 * - `in`: b is wet work lying in wet a;
 * - `on`: b lies on a: a layer, or a detail or film whose ground meets a's;
 * - `beside`: their edges run within half a millimetre of each other, or a is knocked out under b;
 * - `over`: b covers a in the drawing, and others lie between them: a matter of order alone;
 * - `guides`: a is what the hands follow for b.
 */
export interface Meeting {
  readonly a: string;
  readonly b: string;
  readonly kind: 'in' | 'on' | 'beside' | 'over' | 'guides';
  /** for floods: drawn one over the other, or side by side */
  readonly drawn?: 'over' | 'inside';
}

/** What guides others: drawn as a guide, or a template traced. */
export const isGuide = (p: Part): p is Guide | PipedLine => p.role === 'guide' || (p.role === 'line' && p.technique === 'trace');
/** Details that leave a bead of icing standing. */
export const isBead = (p: Part): p is PipedLine =>
  p.role === 'line' && ['piped-line', 'lettering', 'relief', 'closing-outline', 'dipped-bead'].includes(p.technique);

const known = new WeakMap<Design['parts'], readonly Meeting[]>();

/** Every meeting of a design's parts, found once for the same parts: schools differ in what they make of it, not in what meets. */
export function meetingsOf({ parts }: Pick<Design, 'parts'>): readonly Meeting[] {
  const found = known.get(parts) ?? meetingsIn(parts);
  known.set(parts, found);
  return found;
}

/** By a sweep over their boxes: only neighbours are looked at closely. */
function meetingsIn(parts: Design['parts']): Meeting[] {
  const out: Meeting[] = [];
  const index = new Map(parts.map((p, i) => [p.id, i]));
  for (const p of parts)
    if (p.role === 'mark') for (const id of bodiesOfMark(p)) if (index.has(id)) out.push({ a: id, b: p.id, kind: 'in' });
  // A layer lies on what it was said to lie on, wherever the two were drawn.
  for (const p of parts)
    if (p.role === 'section') for (const id of p.layerOn) if (index.has(id)) out.push({ a: id, b: p.id, kind: 'on', drawn: 'over' });
  const guided = guidesIn(parts, index);
  for (const [a, list] of guided) for (const b of list) out.push({ a, b, kind: 'guides' });
  // A guide drawn late lies on what bears it, not on what it guides or on what was cut out for that.
  const bears = (guide: Part, flood: Section): boolean =>
    ![...(guided.get(guide.id) ?? [])].some((id) => {
      const own = parts[index.get(id) as number] as Part;
      return own.role === 'section' && !own.layerOn.includes(flood.id) && holdsCircle(intersection(own.drawn, flood.drawn), OVERLAP_MM);
    });
  const beads = parts.flatMap((part, at) => (isBead(part) ? [{ part, at }] : []));
  for (const [i, j] of neighbours(parts)) {
    const first = Math.min(i, j);
    const a = parts[first] as Part;
    const b = parts[Math.max(i, j)] as Part;
    if (guided.get(a.id)?.has(b.id) || guided.get(b.id)?.has(a.id)) continue;
    const found = meetingOf(a, b, bears, () => beads.flatMap((bead) => (bead.at < first ? [bead.part] : [])));
    if (found) out.push(found);
  }
  return out;
}

/** Pairs of parts whose boxes come within half a millimetre of each other, by sweeping along x. Marks meet only what they lie in. */
function neighbours(parts: readonly Part[]): [number, number][] {
  const boxes = parts
    .map((p, i) => ({ i, box: p.role === 'mark' ? null : boxOf(footprintOf(p)) }))
    .filter((b): b is { i: number; box: Box } => b.box !== null)
    .sort((p, q) => p.box.minX - q.box.minX);
  const out: [number, number][] = [];
  let open: typeof boxes = [];
  for (const next of boxes) {
    open = open.filter((o) => o.box.maxX + BESIDE_MM >= next.box.minX);
    for (const o of open) if (boxesMeet(o.box, next.box, BESIDE_MM)) out.push([o.i, next.i]);
    open.push(next);
  }
  return out;
}

/** What each guide guides: who is named, else every later part that overlaps it. */
function guidesIn(parts: readonly Part[], index: ReadonlyMap<string, number>): Map<string, Set<string>> {
  const out = new Map<string, Set<string>>();
  for (const [i, g] of parts.entries()) {
    if (!isGuide(g)) continue;
    const own = new Set<string>();
    if (g.guides) {
      for (const id of g.guides)
        for (const p of parts) if ((p.id === id || p.id.startsWith(`${id}.`)) && index.has(p.id) && p !== g) own.add(p.id);
    } else {
      const ground = footprintOf(g);
      for (const p of parts.slice(i + 1)) if (p.role !== 'mark' && !isGuide(p) && meets(ground, footprintOf(p))) own.add(p.id);
    }
    out.set(g.id, own);
  }
  return out;
}

function meetingOf(
  a: Part,
  b: Part,
  bears: (guide: Part, flood: Section) => boolean,
  dividers: () => readonly PipedLine[],
): Meeting | null {
  if (a.role === 'mark' || b.role === 'mark') return null;
  const pair = { a: a.id, b: b.id };
  if (a.role === 'section' && b.role === 'section') return floodsMeeting(a, b, dividers());
  if (a.role === 'section') {
    const line = b as PipedLine | Guide;
    if (!line.restsOn.includes(a.id)) return null;
    return isGuide(line) && !bears(line, a) ? null : { ...pair, kind: 'on' };
  }
  if (b.role === 'section') {
    const ground = footprintOf(a);
    if (!isBead(a)) return meets(ground, b.drawn) ? { ...pair, kind: 'on' } : null;
    // A bead under a flood's edge divides it from its neighbour; further in, the flood covers it.
    if (meets(ground, offset(b.drawn, -(a.widthMm / 2 + INSIDE_MM)))) return { ...pair, kind: 'on' };
    return meets(ground, b.drawn) || touches(ground, b.shape) ? { ...pair, kind: 'beside' } : null;
  }
  return meets(footprintOf(a), footprintOf(b)) ? { ...pair, kind: 'on' } : null;
}

function floodsMeeting(a: Section, b: Section, dividers: readonly PipedLine[]): Meeting | null {
  const pair = { a: a.id, b: b.id };
  if (b.layerOn.includes(a.id) || a.layerOn.includes(b.id)) return null;
  const beside = a.flushWith?.includes(b.id) === true || (touches(a.shape, b.shape) && !isDivided(a, b, dividers));
  if (!overlap(a.drawn, b.drawn)) return beside ? { ...pair, kind: 'beside' } : null;
  const inside = liesInside(b.drawn, a.drawn);
  if (beside) return { ...pair, kind: 'beside', drawn: inside ? 'inside' : 'over' };
  return inside ? null : { ...pair, kind: 'over', drawn: 'over' };
}

/** A bead laid before both and all along their common edge parts them: each lies beside the bead, not beside the other. */
function isDivided(a: Section, b: Section, dividers: readonly PipedLine[]): boolean {
  if (dividers.length === 0) return false;
  const edge = sharedEdge(a.shape, b.shape);
  if (edge.length < 2) return false;
  const box = boundingBox(edge);
  const covered = dividers
    .filter((d) => boxesMeet(boxOf(footprintOf(d)), box))
    .flatMap((d) => strokeInside(edge, false, footprintOf(d)))
    .reduce((sum, run) => sum + polylineLengthMm(run), 0);
  // Less than what counts as touching may be left bare.
  return polylineLengthMm(edge) - covered < TOUCH_LENGTH_MM;
}

const overlap = ofPair((a: Shape, b: Shape) => holdsCircle(intersection(a, b), OVERLAP_MM));
const liesInside = ofPair((inner: Shape, outer: Shape) => areaMm2(difference(inner, offset(outer, INSIDE_MM))) < SLIVER_MM2);

/** Whether a circle of this width fits into a shape. */
const holdsCircle = (shape: Shape, widthMm: number): boolean => shape.length > 0 && areaMm2(offset(shape, -(widthMm / 2 - 0.005))) > 0;
