import { distance, nearestOnSegment, type Point, polylineLengthMm } from '../geometry/point.js';
import { simplified } from '../geometry/simplify.js';
import { placesAlong } from '../geometry/way.js';

/** A stroke of a hand is evened out over this, and kept within this of where it was drawn, mm: what a bead shows of a tremble. */
const EVEN_MM = 0.6;
const KEPT_WITHIN_MM = 0.12;

/**
 * A freehand stroke as it would be piped: its tremble evened out (a running mean over a bead's breadth), with the points it
 * needs. The ends stay where they were. A tap is a stroke of one point.
 */
export function handStroke(drawn: readonly Point[], closed = false): Point[] {
  const points = drawn.filter((p, i) => i === 0 || Math.hypot(p.x - (drawn[i - 1] as Point).x, p.y - (drawn[i - 1] as Point).y) > 1e-3);
  if (points.length < 3) return points;
  const even = points.map((p, i) => {
    if (!closed && (i === 0 || i === points.length - 1)) return p;
    let [x, y, n] = [0, 0, 0];
    for (let k = -6; k <= 6; k++) {
      const at = closed ? (i + k + points.length * 7) % points.length : i + k;
      const q = points[at];
      if (!q || Math.hypot(q.x - p.x, q.y - p.y) > EVEN_MM) continue;
      x += q.x;
      y += q.y;
      n += 1;
    }
    return { x: x / n, y: y / n };
  });
  return [...(simplified({ points: even, closed }, KEPT_WITHIN_MM)?.points ?? even)];
}

/** A stroke that strays from its chord by less than this share of it was meant straight, and level or upright within so many degrees. */
const STRAIGHT_SHARE = 0.04;
const LEVEL_DEG = 3;

/** A stroke meant to be straight made so, level or upright where it nearly is; any other stays as it is. */
export function straightened(stroke: readonly Point[]): Point[] {
  const [a, b] = [stroke[0], stroke.at(-1)];
  if (!a || !b || stroke.length < 2) return [...stroke];
  const chord = distance(a, b);
  if (stroke.some((p) => distance(p, nearestOnSegment(p, a, b)) > STRAIGHT_SHARE * chord)) return [...stroke];
  const slope = Math.tan((LEVEL_DEG * Math.PI) / 180);
  const [dx, dy] = [Math.abs(b.x - a.x), Math.abs(b.y - a.y)];
  const [mx, my] = [(a.x + b.x) / 2, (a.y + b.y) / 2];
  if (dy < slope * dx)
    return [
      { x: a.x, y: my },
      { x: b.x, y: my },
    ];
  if (dx < slope * dy)
    return [
      { x: mx, y: a.y },
      { x: mx, y: b.y },
    ];
  return [a, b];
}

/** How a stroke is repeated on the cookie. */
export type Symmetry = { readonly way: 'none' } | { readonly way: 'mirror' } | { readonly way: 'turn'; readonly times: number };

/** A stroke with its copies about the cookie's middle, itself first; one that would fall on itself is not repeated. */
export function repeated(points: readonly Point[], symmetry: Symmetry, middle: Point): Point[][] {
  if (symmetry.way === 'none') return [[...points]];
  if (symmetry.way === 'mirror') {
    const other = points.map((p) => ({ x: 2 * middle.x - p.x, y: p.y }));
    const isOwn = points.every((p) => Math.abs(p.x - middle.x) < 0.5);
    return isOwn ? [[...points]] : [[...points], other];
  }
  const isMiddle = points.every((p) => Math.hypot(p.x - middle.x, p.y - middle.y) < 0.5);
  if (isMiddle) return [[...points]];
  return [...Array(symmetry.times).keys()].map((i) => {
    const a = (2 * Math.PI * i) / symmetry.times;
    const [c, s] = [Math.cos(a), Math.sin(a)];
    return points.map((p) => ({
      x: middle.x + (p.x - middle.x) * c - (p.y - middle.y) * s,
      y: middle.y + (p.x - middle.x) * s + (p.y - middle.y) * c,
    }));
  });
}

/** Places along a way, evenly spaced, both ends included: dots that are dragged out into a row. */
export function alongWay(way: readonly Point[], apartMm: number): Point[] {
  const total = polylineLengthMm(way);
  const first = way[0];
  if (!first || total < apartMm) return first ? [first] : [];
  const n = Math.round(total / apartMm);
  return placesAlong(
    way,
    [...Array(n + 1).keys()].map((k) => (total * k) / n),
  ).map((p) => p.at);
}
