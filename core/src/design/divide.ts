import { difference, intersection, offset } from '../geometry/clip.js';
import type { Point } from '../geometry/point.js';
import { areaMm2, boundingBox, centroid, type Shape } from '../geometry/shape.js';

/** Ways of dividing a section; angles in degrees. */
export type Division =
  | { readonly way: 'stripes'; readonly parts: number; readonly angleDeg: number }
  | { readonly way: 'radial'; readonly parts: number; readonly angleDeg: number }
  | { readonly way: 'line'; readonly points: readonly Point[] };

/** Pieces smaller than this are slips of the knife and stay with nobody. */
const LEAST_MM2 = 0.3;
/** Width of the cut of a drawn line: nothing to see, enough to part. */
const CUT_MM = 0.002;

/** A section cut into pieces, in order along the cut: stripes across it, sectors round it, or the sides of a drawn line. */
export function dividedShape(shape: Shape, division: Division): Shape[] {
  const box = boundingBox(shape.flat());
  const middle = centroid(shape);
  const reach = Math.hypot(box.maxX - box.minX, box.maxY - box.minY) + 10;
  const at = (deg: number, r: number): Point => ({ x: middle.x + r * Math.cos((deg * Math.PI) / 180), y: middle.y + r * Math.sin((deg * Math.PI) / 180) });
  if (division.way === 'line') return cutByLine(shape, division.points, reach);
  const cuts: Shape[] = [];
  if (division.way === 'radial') {
    for (let i = 0; i < division.parts; i++) {
      const [from, to] = [division.angleDeg + (360 * i) / division.parts, division.angleDeg + (360 * (i + 1)) / division.parts];
      const rim = [...Array(9).keys()].map((k) => at(from + ((to - from) * k) / 8, reach));
      cuts.push([[middle, ...rim]]);
    }
  } else {
    // Equal widths between the farthest points across the stripes.
    const a = (division.angleDeg * Math.PI) / 180;
    const [ux, uy] = [Math.cos(a), Math.sin(a)];
    const along = shape.flat().map((p) => p.x * -uy + p.y * ux);
    const [from, to] = [Math.min(...along), Math.max(...along)];
    const corner = (n: number, t: number): Point => ({ x: -uy * n + ux * t, y: ux * n + uy * t });
    const mid = middle.x * ux + middle.y * uy;
    for (let i = 0; i < division.parts; i++) {
      const [n1, n2] = [from + ((to - from) * i) / division.parts, from + ((to - from) * (i + 1)) / division.parts];
      cuts.push([[corner(n1, mid - reach), corner(n1, mid + reach), corner(n2, mid + reach), corner(n2, mid - reach)]]);
    }
  }
  return cuts.map((c) => intersection(shape, positive(c))).filter((s) => areaMm2(s) >= LEAST_MM2);
}

/** A ring drawn either way round becomes an outer one. */
const positive = (shape: Shape): Shape => shape.map((ring) => (areaMm2([ring]) < 0 ? [...ring].reverse() : ring));

function cutByLine(shape: Shape, points: readonly Point[], reachMm: number): Shape[] {
  if (points.length < 2) return [shape];
  const [first, second, last, beforeLast] = [points[0], points[1], points.at(-1), points.at(-2)] as [Point, Point, Point, Point];
  const onward = (from: Point, to: Point): Point => {
    const d = Math.hypot(to.x - from.x, to.y - from.y) || 1;
    return { x: to.x + ((to.x - from.x) / d) * reachMm, y: to.y + ((to.y - from.y) / d) * reachMm };
  };
  // The line goes on straight at both ends, so that it parts the section wherever it was begun.
  const line = [onward(second, first), ...points, onward(beforeLast, last)];
  const knife = offset([[...line, ...[...line].reverse()]], CUT_MM);
  const rest = difference(shape, knife);
  const outers = rest.filter((r) => areaMm2([r]) > 0);
  const holes = rest.filter((r) => areaMm2([r]) < 0);
  return outers
    .map((outer) => intersection([outer, ...holes], [outer]))
    .filter((s) => areaMm2(s) >= LEAST_MM2)
    .sort((a, b) => centroid(a).y - centroid(b).y || centroid(a).x - centroid(b).x);
}
