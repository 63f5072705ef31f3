import type { Point } from '../geometry/point.js';
import type { Ring } from '../geometry/shape.js';

/** Where a motion takes places of the icing: to `x`, `y`, and how near to what moved them they came, mm. */
export interface Motion {
  move(x: number, y: number): void;
  readonly x: number;
  readonly y: number;
  readonly nearMm: number;
}

/** An edge that is shorter than this after a motion is fine enough to show no corner. */
const FINE_MM = 0.36;
/** An edge whose middle lies off it by less is straight. */
const STRAIGHT_MM = 0.018;
/** Off the straight line by less, a point is left out again. */
const IDLE_MM = 0.013;
/** A straight edge may be this long: longer ones could bend in between unseen. */
const LONGEST_MM = 8;
/** A ring of more points is a tangle finer than any eye: it is kept coarser. */
const MANY_POINTS = 5000;
const COARSE_MM = 0.04;
/** Before a motion, two places closer than this are one. */
const SAME_MM = 1e-6;

/**
 * A ring after a motion. An edge that the motion bends or draws out is cut again where it came from, so that the ring
 * follows the icing however far it is pulled; points that are no longer needed are left out.
 */
export function movedRing(ring: Ring, motion: Motion): Point[] {
  const out: Point[] = [];
  const moved: number[] = [];
  for (const p of ring) {
    motion.move(p.x, p.y);
    moved.push(motion.x, motion.y, motion.nearMm);
  }
  const n = ring.length;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const [a, b] = [ring[i] as Point, ring[j] as Point];
    const [ax, ay, aNear] = [moved[3 * i] as number, moved[3 * i + 1] as number, moved[3 * i + 2] as number];
    const [bx, by, bNear] = [moved[3 * j] as number, moved[3 * j + 1] as number, moved[3 * j + 2] as number];
    out.push({ x: ax, y: ay });
    between(motion, out, a.x, a.y, b.x, b.y, ax, ay, bx, by, Math.min(aNear, bNear));
  }
  return out.length > MANY_POINTS ? thinned(out, COARSE_MM) : thinned(out);
}

function between(
  motion: Motion,
  out: Point[],
  ax: number,
  ay: number,
  bx: number,
  by: number,
  toAx: number,
  toAy: number,
  toBx: number,
  toBy: number,
  nearMm: number,
): void {
  const dx = toBx - toAx;
  const dy = toBy - toAy;
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length < FINE_MM) return;
  const wasX = bx - ax;
  const wasY = by - ay;
  const was = Math.sqrt(wasX * wasX + wasY * wasY);
  if (was < SAME_MM) return;
  // Far from what moved it an edge can hardly bend.
  if (length < LONGEST_MM && nearMm > 10 * length && nearMm > 5) return;
  const mx = (ax + bx) / 2;
  const my = (ay + by) / 2;
  motion.move(mx, my);
  const [toX, toY, near] = [motion.x, motion.y, Math.min(nearMm, motion.nearMm)];
  // What is drawn out is drawn out unevenly: its middle need not come to lie in the middle.
  const t = ((toX - toAx) * dx + (toY - toAy) * dy) / (length * length);
  const off = t > 0 && t < 1 ? Math.abs((toX - toAx) * dy - (toY - toAy) * dx) / length : length;
  // An edge as long as its distance from what moved it may hide a bend between its ends.
  if (off < STRAIGHT_MM && length < Math.min(LONGEST_MM, Math.max(3 * FINE_MM, 0.2 * near))) {
    if (t < 0.1 || t > 0.9) out.push({ x: toX, y: toY });
    return;
  }
  between(motion, out, ax, ay, mx, my, toAx, toAy, toX, toY, nearMm);
  out.push({ x: toX, y: toY });
  between(motion, out, mx, my, bx, by, toX, toY, toBx, toBy, nearMm);
}

/** The ring without points that lie on the line between their neighbours to a few thousandths of a millimetre. */
export function thinned(ring: readonly Point[], byMm: number = IDLE_MM, longestMm: number = LONGEST_MM): Point[] {
  const n = ring.length;
  if (n < 8) return [...ring];
  const out: Point[] = [ring[0] as Point];
  let kept = ring[0] as Point;
  let from = 0;
  for (let i = 1; i < n; i++) {
    const next = ring[(i + 1) % n] as Point;
    const cx = next.x - kept.x;
    const cy = next.y - kept.y;
    const chord = Math.sqrt(cx * cx + cy * cy);
    let straight = chord > 0 && chord < longestMm;
    // Every point left out since the last kept one must lie by the line, and none behind it.
    for (let k = from + 1; straight && k <= i; k++) {
      const p = ring[k] as Point;
      const t = (p.x - kept.x) * cx + (p.y - kept.y) * cy;
      straight = Math.abs((p.x - kept.x) * cy - (p.y - kept.y) * cx) < byMm * chord && t >= 0 && t <= chord * chord;
    }
    if (straight && i - from < 24) continue;
    kept = ring[i] as Point;
    from = i;
    out.push(kept);
  }
  return out;
}
