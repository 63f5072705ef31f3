import type { WetMark } from '../design/design.js';
import type { DropWay } from '../design/technique-names.js';
import { intersection, offset } from '../geometry/clip.js';
import { distance, type Point, polylineLengthMm } from '../geometry/point.js';
import { areaMm2, boundingBox, centroid, contains, type Ring, type Shape, signedRingArea } from '../geometry/shape.js';
import { dropDepthMm, floodMl } from '../icing/amounts.js';
import { carry, dragSteps, REACH_PER_WIDTH } from './drag-field.js';
import { Wall } from './wall.js';

/** One body of colour in the wet icing, as it lies after every motion so far. */
export interface WetInk {
  readonly markId: string;
  readonly colour: string;
  readonly shape: Shape;
}

export interface WetPreview {
  readonly inks: readonly WetInk[];
  /** motions there are in all; the preview may stop before the last */
  readonly motions: number;
  /** ml the marks add to the section, and by how much that raises it, mm: this is what overflows */
  readonly addedMl: number;
  readonly riseMm: number;
}

/** Outlines are cut finer where the icing stretches them, so that they bend with it. */
const EDGE_MM = 0.7;
/** Steps of a drag between two cuts: fewer lose area where a tongue grows. */
const REFINE_EVERY = 3;
/** Points that far beside a drag's reach are taken along, so that a cut edge has both its ends. */
const CORRIDOR_MM = 0.8;
/** Off the straight line by less, a point is left out. */
const STRAIGHT_MM = 0.005;
/** A straight edge may be this long until something comes near it. */
const LONGEST_MM = 8;
/** Little beads a wet line is made of, as a share of its width. */
const BEAD_STEP = 1;

/**
 * What wet marks and drags do on one flooded section, motion by motion, in the order they are made. Drops and lines push
 * what lies there; drags carry it along; every area is kept (to about 1 %), and nothing crosses the section's edge.
 */
export function wetPreview(section: Shape, marks: readonly WetMark[], upTo: number = marks.length, drops: DropWay = 'injected'): WetPreview {
  const inks: { readonly markId: string; readonly colour: string; readonly outline: Outline }[] = [];
  let wall: Wall | null = null;
  let addedMl = 0;
  const add = (mark: WetMark, ring: Ring) => inks.push({ markId: mark.id, colour: mark.colour, outline: outlineOf(refined(ring)) });
  const push = (beads: readonly Bead[]) => {
    for (const ink of inks) pushOutline(ink.outline, beads);
  };
  for (const mark of marks.slice(0, upTo)) {
    if (mark.technique === 'drag') {
      wall ??= new Wall(section);
      for (const ink of inks) dragOutline(ink.outline, mark.points, mark.widthMm, wall);
    } else if (mark.technique === 'wet-line') {
      for (const ink of inks) cutNear(ink.outline, mark.points, 3 * mark.widthMm);
      push(beadsOf(mark));
      for (const ring of strokeOutline(mark)) add(mark, ring);
      addedMl += (polylineLengthMm(mark.points, mark.closed) * Math.PI * mark.widthMm * mark.widthMm) / 4000;
    } else if (mark.technique === 'wet-drop') {
      const area = Math.abs(areaMm2([mark.points]));
      if (area === 0) continue;
      const outline = signedRingArea(mark.points) < 0 ? [...mark.points].reverse() : mark.points;
      const [centre, radiusMm] = [centroid([outline]), Math.sqrt(area / Math.PI)];
      for (const ink of inks) cutNear(ink.outline, [centre, centre], 3 * radiusMm);
      push([{ centre, radiusMm }]);
      add(mark, outline);
      addedMl += floodMl(area, dropDepthMm(mark.words?.drop ?? drops));
    } else add(mark, mark.points);
  }
  const sectionMm2 = areaMm2(section);
  return {
    inks: inks.map((i) => ({ markId: i.markId, colour: i.colour, shape: inside(ringOf(i.outline), section) })),
    motions: marks.length,
    addedMl,
    riseMm: sectionMm2 > 0 ? (addedMl * 1000) / sectionMm2 : 0,
  };
}

/** What of a ring lies in the section; most inks lie wholly in it, and need no cutting. */
const inside = (ring: Ring, section: Shape): Shape => (ring.every((p) => contains(section, p)) ? [ring] : intersection([ring], section));

/** An outline as a ring of nodes, changed in place: the preview moves hundreds of thousands of points. */
interface Outline {
  readonly first: Node;
}
interface Node {
  x: number;
  y: number;
  next: Node;
}

function outlineOf(ring: Ring): Outline {
  const nodes = ring.map((p): Node => ({ x: p.x, y: p.y, next: null as never }));
  for (const [i, n] of nodes.entries()) n.next = nodes[(i + 1) % nodes.length] as Node;
  return { first: nodes[0] as Node };
}

function nodesOf({ first }: Outline): Node[] {
  const out = [first];
  for (let n = first.next; n !== first; n = n.next) out.push(n);
  return out;
}

const ringOf = (outline: Outline): Point[] => nodesOf(outline).map(({ x, y }) => ({ x, y }));

/** A round drop, or one of the little ones a wet line is made of. */
interface Bead {
  readonly centre: Point;
  readonly radiusMm: number;
}

/** The drop map (`drop-map.ts`) of one drop after another on a whole outline. */
function pushOutline(outline: Outline, beads: readonly Bead[]): void {
  const nodes = nodesOf(outline);
  // In plain arrays the processor works on several points at once: a wet line is some fifty drops.
  const xs = new Float64Array(nodes.length);
  const ys = new Float64Array(nodes.length);
  for (let i = 0; i < nodes.length; i++) {
    xs[i] = (nodes[i] as Node).x;
    ys[i] = (nodes[i] as Node).y;
  }
  for (const { centre, radiusMm } of beads) {
    const [cx, cy, r2] = [centre.x, centre.y, radiusMm * radiusMm];
    for (let i = 0; i < xs.length; i++) {
      const dx = (xs[i] as number) - cx;
      const dy = (ys[i] as number) - cy;
      const d2 = dx * dx + dy * dy;
      const f = Math.sqrt(1 + r2 / d2);
      xs[i] = d2 === 0 ? cx + radiusMm : cx + dx * f;
      ys[i] = d2 === 0 ? cy : cy + dy * f;
    }
  }
  for (let i = 0; i < nodes.length; i++) {
    (nodes[i] as Node).x = xs[i] as number;
    (nodes[i] as Node).y = ys[i] as number;
  }
}

/**
 * A drag on an outline. Only what lies in the drag's corridor ever moves; edges there are cut again on the way, since a
 * drag pulls out long tongues, and straightened out afterwards, so that many drags do not pile up points.
 */
function dragOutline(outline: Outline, way: readonly Point[], widthMm: number, wall: Wall): void {
  const reach = REACH_PER_WIDTH * widthMm;
  const moving = cutNear(outline, way, reach + CORRIDOR_MM);
  if (moving.length === 0) return;
  const steps = dragSteps(way, widthMm);
  const cutAt = widthMm / 4;
  let at = 0;
  while (at < steps.length) {
    // One straight stretch at a time: along it the tip meets points in order, and leaves them behind in order.
    const { dx, dy, x: x0, y: y0 } = (steps[at] as (typeof steps)[number]).from;
    const along = (n: Node) => (n.x - x0) * dx + (n.y - y0) * dy;
    const waiting = moving.filter((n) => Math.abs((n.x - x0) * dy - (n.y - y0) * dx) <= reach).sort((a, b) => along(b) - along(a));
    let near: Node[] = [];
    for (let tipAt = 0; at < steps.length; at++) {
      const s = steps[at] as (typeof steps)[number];
      if (s.from.dx !== dx || s.from.dy !== dy) break;
      for (let n = waiting.at(-1); n && along(n) <= tipAt + s.lengthMm + reach; n = waiting.at(-1)) near.push(waiting.pop() as Node);
      if (near.length > 0) {
        if (at % REFINE_EVERY === 0) {
          near = near.filter((n) => along(n) >= tipAt - reach);
          for (let i = 0, end = near.length; i < end; i++) cutEdge(near[i] as Node, cutAt, near, moving);
        }
        const edge = wall.clearAround(s.from, reach + s.lengthMm) ? null : wall;
        for (const n of near) carry(n, s.from, s.lengthMm, reach, edge);
      }
      tipAt += s.lengthMm;
    }
  }
  straighten(outline);
}

/** New nodes on the edge that begins at n, where it has grown too long, added to both lists. */
function cutEdge(n: Node, cutAtMm: number, near: Node[], moving: Node[]): void {
  const { next } = n;
  const cuts = Math.min(8, Math.floor(Math.sqrt((next.x - n.x) ** 2 + (next.y - n.y) ** 2) / cutAtMm));
  for (let c = cuts; c >= 1; c--) {
    const t = c / (cuts + 1);
    n.next = { x: n.x + (next.x - n.x) * t, y: n.y + (next.y - n.y) * t, next: n.next };
    near.push(n.next);
    moving.push(n.next);
  }
}

/** Square of the distance from a place to a chain of points. */
function distance2ToWay(x: number, y: number, way: readonly Point[]): number {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 1; i < way.length; i++) {
    const [a, b] = [way[i - 1] as Point, way[i] as Point];
    const ex = b.x - a.x;
    const ey = b.y - a.y;
    const e2 = ex * ex + ey * ey;
    const t = e2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - a.x) * ex + (y - a.y) * ey) / e2));
    const qx = x - a.x - t * ex;
    const qy = y - a.y - t * ey;
    best = Math.min(best, qx * qx + qy * qy);
  }
  return best;
}

/** Cuts edges within `reachMm` of a way to {@link EDGE_MM}, and returns the nodes that lie within it. */
function cutNear({ first }: Outline, way: readonly Point[], reachMm: number): Node[] {
  const inside: Node[] = [];
  const r2 = reachMm * reachMm;
  const box = boundingBox(way);
  const [minX, maxX, minY, maxY] = [box.minX - reachMm, box.maxX + reachMm, box.minY - reachMm, box.maxY + reachMm];
  let n = first;
  do {
    const { next } = n;
    // Most edges lie wholly to one side of the way's box, and need no distance.
    if ((n.x < minX && next.x < minX) || (n.x > maxX && next.x > maxX) || (n.y < minY && next.y < minY) || (n.y > maxY && next.y > maxY)) {
      n = next;
      continue;
    }
    const length = Math.sqrt((next.x - n.x) ** 2 + (next.y - n.y) ** 2);
    const isIn = distance2ToWay(n.x, n.y, way) < r2;
    if (isIn) inside.push(n);
    const mid = length <= EDGE_MM ? 0 : distance2ToWay((n.x + next.x) / 2, (n.y + next.y) / 2, way);
    if (length > EDGE_MM && mid < (reachMm + length / 2) ** 2) {
      const cuts = Math.ceil(length / EDGE_MM) - 1;
      for (let c = cuts; c >= 1; c--) {
        const t = c / (cuts + 1);
        n.next = { x: n.x + (next.x - n.x) * t, y: n.y + (next.y - n.y) * t, next: n.next };
        if (distance2ToWay(n.next.x, n.next.y, way) < r2) inside.push(n.next);
      }
    }
    n = next;
  } while (n !== first);
  return inside;
}

/** Leaves out points that lie on the line between their neighbours to a few thousandths of a millimetre. */
function straighten({ first }: Outline): void {
  let kept = first;
  for (let n = first.next; n !== first; n = n.next) {
    const { next } = n;
    const chord = Math.sqrt((next.x - kept.x) ** 2 + (next.y - kept.y) ** 2);
    const off = chord === 0 ? 0 : Math.abs((n.x - kept.x) * (next.y - kept.y) - (n.y - kept.y) * (next.x - kept.x)) / chord;
    if (off < STRAIGHT_MM && chord < LONGEST_MM) kept.next = next;
    else kept = n;
  }
}

/** The outline of a stroke with round ends; its hole, where a closed line has one, is a ring of its own. */
function strokeOutline(mark: WetMark): Shape {
  const chain = mark.closed && mark.points[0] ? [...mark.points, mark.points[0]] : mark.points;
  // A hair's breadth of area for the offsetting to start from, there and back.
  return offset([[...chain, ...[...chain].reverse()]], mark.widthMm / 2);
}

function beadsOf(mark: WetMark): Bead[] {
  const length = polylineLengthMm(mark.points, mark.closed);
  const n = Math.max(1, Math.round(length / (BEAD_STEP * mark.widthMm)));
  const radiusMm = Math.sqrt((mark.widthMm * length) / n / Math.PI);
  return pointsAlong(mark.closed && mark.points[0] ? [...mark.points, mark.points[0]] : mark.points, n).map((centre) => ({ centre, radiusMm }));
}

/** n points spread evenly along a chain, each in the middle of its share. */
export function pointsAlong(chain: readonly Point[], n: number): Point[] {
  const total = polylineLengthMm(chain);
  const out: Point[] = [];
  let walked = 0;
  let i = 1;
  for (let k = 0; k < n; k++) {
    const target = (total * (k + 0.5)) / n;
    while (i < chain.length - 1 && walked + distance(chain[i - 1] as Point, chain[i] as Point) < target) {
      walked += distance(chain[i - 1] as Point, chain[i] as Point);
      i += 1;
    }
    const [a, b] = [chain[i - 1] as Point, chain[i] as Point];
    const d = distance(a, b);
    const t = d === 0 ? 0 : (target - walked) / d;
    out.push({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
  }
  return out;
}

/** The ring with points added so that no edge is longer than `edgeMm`. */
export function refined(ring: Ring, edgeMm: number = EDGE_MM): Point[] {
  const out: Point[] = [];
  for (let i = 0; i < ring.length; i++) {
    const a = ring[i] as Point;
    const b = ring[(i + 1) % ring.length] as Point;
    out.push(a);
    const n = Math.min(400, Math.ceil(distance(a, b) / edgeMm));
    for (let k = 1; k < n; k++) out.push({ x: a.x + ((b.x - a.x) * k) / n, y: a.y + ((b.y - a.y) * k) / n });
  }
  return out;
}
