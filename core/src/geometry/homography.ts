import { Matrix, solve } from 'ml-matrix';
import type { Point } from './point.js';

/** A mapping of one plane onto another that keeps straight lines straight. */
export type PlaneMap = (p: Point) => Point;

/**
 * The mapping that takes four points to four others, no three of them in a line: the eight unknowns of a homography by the
 * linear equations of each pair (Hartley & Zisserman, Multiple View Geometry, 2nd ed., 4.1, inhomogeneous solution). Null where
 * the points do not settle it.
 */
export function homography(from: readonly Point[], to: readonly Point[]): PlaneMap | null {
  if (from.length !== 4 || to.length !== 4) return null;
  const rows: number[][] = [];
  const right: number[][] = [];
  for (const [i, { x, y }] of from.entries()) {
    const { x: u, y: v } = to[i] as Point;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push([u], [v]);
  }
  let h: number[];
  try {
    h = solve(new Matrix(rows), new Matrix(right)).to1DArray();
  } catch {
    return null;
  }
  const [a, b, c, d, e, f, g, k] = h as [number, number, number, number, number, number, number, number];
  return ({ x, y }) => {
    const w = g * x + k * y + 1;
    return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
  };
}

/** The turn and scale that take two points to two others. */
export function similarity(from: readonly [Point, Point], to: readonly [Point, Point]): PlaneMap {
  const [dx, dy] = [from[1].x - from[0].x, from[1].y - from[0].y];
  const [ux, uy] = [to[1].x - to[0].x, to[1].y - to[0].y];
  const n = dx * dx + dy * dy;
  const [c, s] = [(ux * dx + uy * dy) / n, (uy * dx - ux * dy) / n];
  return (p) => ({
    x: to[0].x + c * (p.x - from[0].x) - s * (p.y - from[0].y),
    y: to[0].y + s * (p.x - from[0].x) + c * (p.y - from[0].y),
  });
}
