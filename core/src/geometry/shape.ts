import { distance, nearestOnSegment, type Point, polylineLengthMm } from './point.js';
import { ofOne } from './remembered.js';

/** A closed chain of points without the repeated last one. */
export type Ring = readonly Point[];
/** Area bounded by rings that do not cross: outer rings have positive signed area, holes negative. Millimetres. */
export type Shape = readonly Ring[];

export function signedRingArea(ring: Ring): number {
  let twice = 0;
  for (let i = 0; i < ring.length; i++) {
    const a = ring[i] as Point;
    const b = ring[(i + 1) % ring.length] as Point;
    twice += a.x * b.y - b.x * a.y;
  }
  return twice / 2;
}

export const areaMm2 = (shape: Shape): number => shape.reduce((sum, ring) => sum + signedRingArea(ring), 0);
/** Length of all edges, those of holes too: an outline bead runs along every one of them. */
export const perimeterMm = (shape: Shape): number => shape.reduce((sum, ring) => sum + polylineLengthMm(ring, true), 0);

export interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

export function boundingBox(points: Iterable<Point>): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const p of points) {
    minX = Math.min(minX, p.x);
    minY = Math.min(minY, p.y);
    maxX = Math.max(maxX, p.x);
    maxY = Math.max(maxY, p.y);
  }
  return { minX, minY, maxX, maxY };
}

/** The box round a shape. */
export const boxOf = ofOne((shape: Shape): Box => boundingBox(shape.flat()));

export const boxesMeet = (a: Box, b: Box, reachMm = 0): boolean =>
  a.minX <= b.maxX + reachMm && b.minX <= a.maxX + reachMm && a.minY <= b.maxY + reachMm && b.minY <= a.maxY + reachMm;

/** Centre of gravity; for an empty shape the origin. */
export function centroid(shape: Shape): Point {
  let [cx, cy, six] = [0, 0, 0];
  for (const ring of shape) {
    for (let i = 0; i < ring.length; i++) {
      const a = ring[i] as Point;
      const b = ring[(i + 1) % ring.length] as Point;
      const cross = a.x * b.y - b.x * a.y;
      cx += (a.x + b.x) * cross;
      cy += (a.y + b.y) * cross;
      six += 3 * cross;
    }
  }
  return six === 0 ? { x: 0, y: 0 } : { x: cx / six, y: cy / six };
}

/** Even-odd test over all rings; points on an edge may fall on either side. */
export function contains(shape: Shape, p: Point): boolean {
  let inside = false;
  for (const ring of shape) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const a = ring[i] as Point;
      const b = ring[j] as Point;
      if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
    }
  }
  return inside;
}

/** Least distance from p to any edge. */
export function distanceToEdges(shape: Shape, p: Point): number {
  let best = Number.POSITIVE_INFINITY;
  for (const ring of shape) {
    for (let i = 0; i < ring.length; i++) {
      best = Math.min(best, distance(p, nearestOnSegment(p, ring[i] as Point, ring[(i + 1) % ring.length] as Point)));
    }
  }
  return best;
}

/** SVG path data of a shape, hundredths of a millimetre. */
export function pathData(shape: Shape): string {
  const n = (v: number) => String(Math.round(v * 100) / 100);
  return shape.map((ring) => `M${ring.map((p) => `${n(p.x)} ${n(p.y)}`).join('L')}Z`).join('');
}

/** SVG path data of an open chain. */
export function polylineData(points: readonly Point[]): string {
  const n = (v: number) => String(Math.round(v * 100) / 100);
  return points.length === 0 ? '' : `M${points.map((p) => `${n(p.x)} ${n(p.y)}`).join('L')}`;
}
