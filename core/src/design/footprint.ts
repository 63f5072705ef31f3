import { intersection, strokeShape } from '../geometry/clip.js';
import { areaMm2, boundingBox, type Shape } from '../geometry/shape.js';
import type { Part } from './design.js';

/** Ground a scribe or a template line takes, mm: *assumed*. */
const HAIR_MM = 0.4;
/** Two parts meet where their common ground is at least this long. */
export const MEET_LENGTH_MM = 1;
/** … or where it is this share of the smaller, for a dot under a millimetre. */
const MEET_SHARE = 0.3;

const known = new WeakMap<Part, Shape>();

/** The ground a part covers, as it was drawn: a flood before anything was knocked out of it, a bead with its width. Millimetres. */
export function footprintOf(part: Part): Shape {
  const found = known.get(part);
  if (found) return found;
  const made = shapeOf(part);
  known.set(part, made);
  return made;
}

function shapeOf(part: Part): Shape {
  switch (part.role) {
    case 'section':
      return part.drawn;
    case 'guide':
      return strokeShape(part.points, HAIR_MM, part.closed);
    case 'line':
      return part.area ? [part.points, ...(part.holes ?? [])] : strokeShape(part.points, part.widthMm, part.closed);
    case 'mark':
      return part.closed && part.technique !== 'drag' && part.technique !== 'wet-line'
        ? [part.points]
        : strokeShape(part.points, Math.max(part.widthMm, HAIR_MM), part.closed);
  }
}

/** Whether two grounds meet over at least a millimetre, or over a good share of a dot that is smaller than that. */
export function meets(a: Shape, b: Shape): boolean {
  return meetsOver(intersection(a, b), Math.min(areaMm2(a), areaMm2(b)));
}

/** The same of a common ground that is known already. */
export function meetsOver(common: Shape, smallerMm2: number): boolean {
  const area = areaMm2(common);
  if (area <= 1e-6) return false;
  const box = boundingBox(common.flat());
  return Math.hypot(box.maxX - box.minX, box.maxY - box.minY) >= MEET_LENGTH_MM || area >= MEET_SHARE * smallerMm2;
}
