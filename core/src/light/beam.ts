import { type Design, footprintOf } from '../design/index.js';
import { homography, type PlaneMap } from '../geometry/homography.js';
import type { Point } from '../geometry/point.js';
import { boundingBox, type Ring } from '../geometry/shape.js';

/** Side of the printed square a projector is set up on, mm: it is on the sheet of gauges. */
export const SQUARE_MM = 100;

/** Its corners on the table, from its middle, going round from the upper left. */
export const squareCorners: readonly Point[] = [
  { x: -SQUARE_MM / 2, y: -SQUARE_MM / 2 },
  { x: SQUARE_MM / 2, y: -SQUARE_MM / 2 },
  { x: SQUARE_MM / 2, y: SQUARE_MM / 2 },
  { x: -SQUARE_MM / 2, y: SQUARE_MM / 2 },
];

/**
 * From the table, mm from the square's middle, to the projector's picture, by where its four corners were found there; null where they
 * settle nothing.
 */
export const beamOf = (cornersPx: readonly Point[]): PlaneMap | null => homography(squareCorners, cornersPx);

/** Where a cookie lies on the table: its middle from the square's, mm, and how far it is turned. */
export interface OnTable {
  readonly xMm: number;
  readonly yMm: number;
  readonly turnDeg: number;
}
export const IN_THE_MIDDLE: OnTable = { xMm: 0, yMm: 0, turnDeg: 0 };

/** One line of light, mm on the table. */
export interface Light {
  readonly ring: Ring;
  readonly closed: boolean;
  /** the cookie's edge, to lay it by; or what is piped */
  readonly of: 'cookie' | 'part';
}

/** The lines of a design as they fall on the table: its edge, and the parts that are asked for; null lights all of them. */
export function lightsOf(design: Design, parts: readonly string[] | null, at: OnTable): Light[] {
  const b = boundingBox(design.cookie.flat());
  const middle = { x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 };
  const turn = (at.turnDeg * Math.PI) / 180;
  const placed = (ring: Ring): Ring =>
    ring.map((p) => {
      const [x, y] = [p.x - middle.x, p.y - middle.y];
      return { x: at.xMm + x * Math.cos(turn) - y * Math.sin(turn), y: at.yMm + x * Math.sin(turn) + y * Math.cos(turn) };
    });
  const asked = parts && new Set(parts);
  const edge = design.cookie.map((ring): Light => ({ ring: placed(ring), closed: true, of: 'cookie' }));
  const lit = design.parts.flatMap((p): Light[] => {
    if (asked && !asked.has(p.id)) return [];
    // A fine line is followed by its middle, an area by its edge.
    const isLine = p.role === 'guide' || ((p.role === 'line' || p.role === 'mark') && !(p.role === 'line' ? p.area : p.closed));
    if (isLine) return [{ ring: placed(p.points), closed: p.closed, of: 'part' }];
    return (p.role === 'section' ? p.shape : footprintOf(p)).map((ring): Light => ({ ring: placed(ring), closed: true, of: 'part' }));
  });
  return [...edge, ...lit];
}
