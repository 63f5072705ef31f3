import type { Point } from './point.js';
import { type Box, boundingBox, boxesMeet, contains, distanceToEdges, type Shape } from './shape.js';

/** Outlines that come no deeper into each other than this only touch, mm. */
const TOUCH_MM = 0.002;

/**
 * Whether two shapes lie over each other, more than their outlines touch. Much quicker than asking for what they share, where most
 * pairs share nothing.
 */
export function overlap(a: Shape, b: Shape, boxA: Box = boundingBox(a.flat()), boxB: Box = boundingBox(b.flat())): boolean {
  if (!boxesMeet(boxA, boxB)) return false;
  return edgesCross(a, b, boxA, boxB) || reachesInto(a, b, boxB) || reachesInto(b, a, boxA);
}

/** Whether a corner of one lies within the other. */
const reachesInto = (a: Shape, b: Shape, box: Box): boolean =>
  a.some((ring) => ring.some((p) => within(box, p) && contains(b, p) && distanceToEdges(b, p) > TOUCH_MM));
const within = (box: Box, p: Point): boolean => p.x > box.minX && p.x < box.maxX && p.y > box.minY && p.y < box.maxY;

function edgesCross(a: Shape, b: Shape, boxA: Box, boxB: Box): boolean {
  const ofB = edgesWithin(b, boxA);
  if (ofB.length === 0) return false;
  const ofA = edgesWithin(a, boxB);
  for (let i = 0; i < ofA.length; i += 4)
    for (let k = 0; k < ofB.length; k += 4) {
      const [px, py, qx, qy] = [ofA[i] as number, ofA[i + 1] as number, ofA[i + 2] as number, ofA[i + 3] as number];
      const [rx, ry, sx, sy] = [ofB[k] as number, ofB[k + 1] as number, ofB[k + 2] as number, ofB[k + 3] as number];
      if (Math.max(px, qx) < Math.min(rx, sx) || Math.max(rx, sx) < Math.min(px, qx)) continue;
      if (Math.max(py, qy) < Math.min(ry, sy) || Math.max(ry, sy) < Math.min(py, qy)) continue;
      if (areOnBothSides(px, py, qx, qy, rx, ry, sx, sy) && areOnBothSides(rx, ry, sx, sy, px, py, qx, qy)) return true;
    }
  return false;
}

/** Edges of a shape: x and y of where each begins and ends. */
export type Edges = readonly number[];

/** The edges whose boxes meet a box. */
export function edgesWithin(shape: Shape, box: Box): Edges {
  const out: number[] = [];
  for (const ring of shape)
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [p, q] = [ring[j] as Point, ring[i] as Point];
      if (Math.max(p.x, q.x) < box.minX || Math.min(p.x, q.x) > box.maxX) continue;
      if (Math.max(p.y, q.y) < box.minY || Math.min(p.y, q.y) > box.maxY) continue;
      out.push(p.x, p.y, q.x, q.y);
    }
  return out;
}

/** Whether r and s lie on two sides of the line through p and q, each by more than a touch. */
function areOnBothSides(px: number, py: number, qx: number, qy: number, rx: number, ry: number, sx: number, sy: number): boolean {
  const [ex, ey] = [qx - px, qy - py];
  const touch = TOUCH_MM * Math.sqrt(ex * ex + ey * ey);
  const r = ex * (ry - py) - ey * (rx - px);
  const s = ex * (sy - py) - ey * (sx - px);
  return (r > touch && s < -touch) || (r < -touch && s > touch);
}
