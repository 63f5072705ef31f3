import { simplify } from 'points-on-curve';
import type { FlatSubpath } from './flatten.js';
import type { Point } from './point.js';

const asPair = (p: Point): [number, number] => [p.x, p.y];

/**
 * The same line with fewer points, none of those left out farther than `byMm` from it (Douglas and Peucker 1973). A ring is parted where it
 * is farthest from its first point; one that would be left with less than three points is left out.
 */
export function simplified({ points, closed }: FlatSubpath, byMm: number): FlatSubpath | null {
  const around = closed ? [...points, points[0] as Point] : points;
  const left = simplify(around.map(asPair), byMm).map(([x, y]): Point => ({ x, y }));
  if (closed) left.pop();
  return left.length < (closed ? 3 : 2) ? null : { points: left, closed };
}
