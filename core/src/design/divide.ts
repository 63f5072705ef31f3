import { difference, intersection, offset } from '../geometry/clip.js';
import type { Point } from '../geometry/point.js';
import { areaMm2, boundingBox, centroid, type Shape } from '../geometry/shape.js';

/** Ways of dividing a section; angles in degrees. */
export type Division =
  | { readonly way: 'stripes'; readonly parts: number; readonly angleDeg: number; readonly shares?: readonly number[] | undefined }
  | { readonly way: 'radial'; readonly parts: number; readonly angleDeg: number; readonly shares?: readonly number[] | undefined }
  | { readonly way: 'line'; readonly points: readonly Point[] };

/** Pieces smaller than this are slips of the knife and stay with nobody. */
const LEAST_MM2 = 0.3;
/** Width of the cut of a drawn line: nothing to see, enough to part. */
const CUT_MM = 0.002;

/**
 * Where stripes or sectors begin and end, as shares of the whole from 0 to 1: n + 1 numbers for n pieces, even where their
 * shares are not said, or are not said of each.
 */
export function bordersOf(division: Extract<Division, { way: 'stripes' | 'radial' }>): number[] {
  const said = division.shares?.length === division.parts ? division.shares : Array<number>(division.parts).fill(1);
  const whole = said.reduce((sum, s) => sum + s, 0);
  let at = 0;
  return [
    0,
    ...said.map((s, i) => {
      at += s / whole;
      return i === division.parts - 1 ? 1 : at;
    }),
  ];
}

/** How far a shape reaches across stripes of this angle, mm along their normal. */
export function acrossStripes(shape: Shape, angleDeg: number): readonly [from: number, to: number] {
  const a = (angleDeg * Math.PI) / 180;
  const across = shape.flat().map((p) => p.x * -Math.sin(a) + p.y * Math.cos(a));
  return [Math.min(...across), Math.max(...across)];
}

/** A section cut into pieces, in order along the cut: stripes across it, sectors round it, or the sides of a drawn line. */
export function dividedShape(shape: Shape, division: Division): Shape[] {
  const box = boundingBox(shape.flat());
  const middle = centroid(shape);
  const reach = Math.hypot(box.maxX - box.minX, box.maxY - box.minY) + 10;
  const at = (deg: number, r: number): Point => ({
    x: middle.x + r * Math.cos((deg * Math.PI) / 180),
    y: middle.y + r * Math.sin((deg * Math.PI) / 180),
  });
  if (division.way === 'line') return cutByLine(shape, division.points, reach);
  const cuts: Shape[] = [];
  const borders = bordersOf(division);
  if (division.way === 'radial') {
    for (let i = 0; i < division.parts; i++) {
      const [from, to] = [borders[i], borders[i + 1]].map((share) => division.angleDeg + 360 * (share as number)) as [number, number];
      // A sector of more than half a turn needs its rim in steps that stay outside.
      const rim = [...Array(25).keys()].map((k) => at(from + ((to - from) * k) / 24, reach));
      cuts.push([[middle, ...rim]]);
    }
  } else {
    // By their shares, between the farthest points across the stripes.
    const a = (division.angleDeg * Math.PI) / 180;
    const [ux, uy] = [Math.cos(a), Math.sin(a)];
    const [from, to] = acrossStripes(shape, division.angleDeg);
    const corner = (n: number, t: number): Point => ({ x: -uy * n + ux * t, y: ux * n + uy * t });
    const mid = middle.x * ux + middle.y * uy;
    for (let i = 0; i < division.parts; i++) {
      const [n1, n2] = [borders[i], borders[i + 1]].map((share) => from + (to - from) * (share as number)) as [number, number];
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
