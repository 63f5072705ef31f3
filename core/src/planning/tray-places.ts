import { areaMm2, boundingBox, intersection, offset, type Shape } from '../geometry/shape.js';

/** Shapes that overlap by less than this lie apart, mm². */
const APART_MM2 = 0.05;
const HALVINGS = 12;

/**
 * How many cookies of an outline lie on a flat rectangle (a tray, a carton), `gapMm` between them and none to its rim: straight
 * or staggered rows, the cookie as drawn or turned by a right angle, whichever holds most. Outline in mm; never less than 0.
 */
export function placesOn(outline: Shape, widthMm: number, depthMm: number, gapMm: number): number {
  return Math.max(...[outline, turned(outline)].map((shape) => inRows(offset(shape, gapMm / 2), widthMm + gapMm, depthMm + gapMm)));
}

function inRows(shape: Shape, widthMm: number, depthMm: number): number {
  const box = boundingBox(shape.flat());
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  if (w > widthMm || h > depthMm) return 0;
  const across = Math.floor(widthMm / w);
  const straight = across * Math.floor(depthMm / h);
  // Rows shifted by half a cookie may come closer; a row and the next but one stand above each other.
  const shifted = Math.floor((widthMm - w / 2) / w);
  const held = (rows: number) => Math.ceil(rows / 2) * across + Math.floor(rows / 2) * shifted;
  const rowsAt = (apartMm: number) => 1 + Math.floor((depthMm - h) / apartMm);
  // Where even the closest rows would hold no more, nothing has to be tried.
  return held(rowsAt(h / 2)) <= straight ? straight : Math.max(straight, held(mostRows(shape, w, h, rowsAt)));
}

/** Most shifted rows at which neighbours do not touch, half a cookie to a whole one apart, found as closely as their number asks. */
function mostRows(shape: Shape, w: number, h: number, rowsAt: (apartMm: number) => number): number {
  const free = (dy: number) => [w / 2, -w / 2].every((dx) => Math.abs(areaMm2(intersection(shape, moved(shape, dx, dy)))) < APART_MM2);
  let [near, far] = [h / 2, h];
  if (free(near)) return rowsAt(near);
  for (let i = 0; i < HALVINGS && rowsAt(near) !== rowsAt(far); i++) {
    const mid = (near + far) / 2;
    if (free(mid)) far = mid;
    else near = mid;
  }
  return rowsAt(far);
}

const moved = (shape: Shape, dx: number, dy: number): Shape => shape.map((ring) => ring.map((p) => ({ x: p.x + dx, y: p.y + dy })));
const turned = (shape: Shape): Shape => shape.map((ring) => ring.map((p) => ({ x: -p.y, y: p.x })));
