import type { Point } from '../geometry/point.js';
import type { Wall } from './wall.js';

/** What moves with the tip reaches this far, in scribe widths: *assumed*. */
export const REACH_PER_WIDTH = 1.5;
/** Steps along a drag, as a share of the scribe's width. */
const STEP_PER_WIDTH = 0.33;
/** For the curl near an edge, where the wall has no formula. */
const H = 1e-3;

/** One position of the tip and the direction it goes in (unit length). */
interface Tip {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
}

/** The last flow asked for: two numbers that are written and read millions of times, without a new object each time. */
const flow = new Float64Array(2);

/**
 * Flow around a scribe's tip at (tx, ty): the curl of ψ = s·(1 − ρ²)²·wall, where s is the distance from the line of
 * motion and ρ the distance from the tip over its reach. At the tip icing moves with it, beyond the reach it rests; a
 * curl has no divergence, so areas are kept, and where the wall is 0 nothing flows through it.
 */
function flowAt(x: number, y: number, tx: number, ty: number, dx: number, dy: number, reachMm: number, wall: Wall | null): void {
  const qx = x - tx;
  const qy = y - ty;
  const t = (qx * qx + qy * qy) / (reachMm * reachMm);
  if (t >= 1) {
    flow[0] = 0;
    flow[1] = 0;
    return;
  }
  if (wall && (wall.freedom(x, y) < 1 || wall.freedom(x + H, y) < 1 || wall.freedom(x, y + H) < 1)) {
    const psi = (px: number, py: number) => streamAt(px - tx, py - ty, dx, dy, reachMm) * wall.freedom(px, py);
    flow[0] = (psi(x, y + H) - psi(x, y - H)) / (2 * H);
    flow[1] = -(psi(x + H, y) - psi(x - H, y)) / (2 * H);
    return;
  }
  const s = dx * qy - dy * qx;
  const f = (1 - t) * (1 - t);
  const slope = (-4 * (1 - t) * s) / (reachMm * reachMm);
  flow[0] = dx * f + slope * qy;
  flow[1] = dy * f - slope * qx;
}

function streamAt(qx: number, qy: number, dx: number, dy: number, reachMm: number): number {
  const t = (qx * qx + qy * qy) / (reachMm * reachMm);
  return t >= 1 ? 0 : (dx * qy - dy * qx) * (1 - t) * (1 - t);
}

/** A drag cut into short straight steps of the tip. */
export function dragSteps(way: readonly Point[], widthMm: number): { readonly from: Tip; readonly lengthMm: number }[] {
  const out: { from: Tip; lengthMm: number }[] = [];
  for (let i = 1; i < way.length; i++) {
    const [a, b] = [way[i - 1] as Point, way[i] as Point];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    if (length === 0) continue;
    const n = Math.max(1, Math.ceil(length / (STEP_PER_WIDTH * widthMm)));
    const [dx, dy] = [(b.x - a.x) / length, (b.y - a.y) / length];
    for (let k = 0; k < n; k++) out.push({ from: { x: a.x + ((b.x - a.x) * k) / n, y: a.y + ((b.y - a.y) * k) / n, dx, dy }, lengthMm: length / n });
  }
  return out;
}

/** Moves a point by one step of the tip (classical Runge–Kutta, the tip moving evenly); `back` undoes it. */
export function carry(p: { x: number; y: number }, from: Tip, lengthMm: number, reachMm: number, wall: Wall | null, back = false): void {
  const { dx, dy } = from;
  const h = back ? -lengthMm : lengthMm;
  const begin = back ? lengthMm : 0;
  const [x, y] = [p.x, p.y];
  flowAt(x, y, from.x + dx * begin, from.y + dy * begin, dx, dy, reachMm, wall);
  const k1x = flow[0] as number;
  const k1y = flow[1] as number;
  const midX = from.x + (dx * lengthMm) / 2;
  const midY = from.y + (dy * lengthMm) / 2;
  flowAt(x + (h / 2) * k1x, y + (h / 2) * k1y, midX, midY, dx, dy, reachMm, wall);
  const k2x = flow[0] as number;
  const k2y = flow[1] as number;
  flowAt(x + (h / 2) * k2x, y + (h / 2) * k2y, midX, midY, dx, dy, reachMm, wall);
  const k3x = flow[0] as number;
  const k3y = flow[1] as number;
  flowAt(x + h * k3x, y + h * k3y, from.x + dx * (begin + h), from.y + dy * (begin + h), dx, dy, reachMm, wall);
  p.x = x + (h / 6) * (k1x + 2 * k2x + 2 * k3x + (flow[0] as number));
  p.y = y + (h / 6) * (k1y + 2 * k2y + 2 * k3y + (flow[1] as number));
}

/** Where a point is after a whole drag, or before it. */
export function afterDrag(p: Point, way: readonly Point[], widthMm: number, wall: Wall | null, back = false): Point {
  const steps = dragSteps(way, widthMm);
  const reach = REACH_PER_WIDTH * widthMm;
  const at = { x: p.x, y: p.y };
  for (const s of back ? steps.reverse() : steps) {
    // Most steps are far from any one point.
    if (Math.abs(s.from.x - at.x) > reach + s.lengthMm || Math.abs(s.from.y - at.y) > reach + s.lengthMm) continue;
    carry(at, s.from, s.lengthMm, reach, wall, back);
  }
  return at;
}
