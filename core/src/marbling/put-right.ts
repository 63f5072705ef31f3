import { difference, intersection, shapeFromRings } from '../geometry/clip.js';
import { type Edges, edgesWithin } from '../geometry/overlap.js';
import { distance, type Point } from '../geometry/point.js';
import { areaMm2, boundingBox, type Ring, type Shape, signedRingArea } from '../geometry/shape.js';
import type { Wall } from './wall.js';

/** Off its area by this share a mark is put right. */
const AREA_SLACK = 0.004;
/** So often a mark's edge is moved before what it has grown over is cut off, and so often that is done. */
const PASSES = 4;
const ROUNDS = 4;
/** An edge is moved by no more than this at once, mm; moved by less than the other in all it has crossed nothing. */
const STEP_MM = 0.3;
const HAIR_MM = 0.02;
/** Nearer to the pool's edge than this it gives way less and less, mm. */
const HELD_MM = 0.4;
/** Nearer than this a corner lies on an edge, mm. */
const ON_EDGE_MM = 0.001;

interface About {
  readonly pool: Shape;
  readonly wall: Wall;
  /** what was just laid and lies against it */
  readonly beside: Shape | null;
}

/** What is left of a mark; one wholly covered keeps nothing. */
export const cleared = (shape: Shape): Ring[] => shape.filter((r) => Math.abs(signedRingArea(r)) > 1e-3).map((r) => [...r]);

/**
 * A mark of another area, mm², by moving its edge a hair outward or inward where it is free to move: not at the pool's edge, and not where
 * a mark just laid lies against it. So what a drop squeezes against a wall gives way sideways.
 */
export function putRight(mark: readonly Ring[], wantedMm2: number, { pool, wall, beside }: About): Ring[] {
  let rings: readonly Ring[] = mark;
  const isRight = (of: readonly Ring[]) => Math.abs(wantedMm2 - areaMm2(of)) <= AREA_SLACK * wantedMm2;
  for (let round = 0; round < ROUNDS && !isRight(rings); round++) {
    const edges = beside ? edgesWithin(beside, boundingBox(rings.flat())) : [];
    let roomMm = 0;
    const weights = rings.map((ring) =>
      ring.map((p, i) => {
        const w = liesOn(edges, p) ? 0 : Math.min(1, wall.distanceMm(p.x, p.y) / HELD_MM);
        const [a, b] = [ring[(i + ring.length - 1) % ring.length] as Point, ring[(i + 1) % ring.length] as Point];
        roomMm += (w * distance(a, b)) / 2;
        return w;
      }),
    );
    if (roomMm < 1e-3) break;
    let moved = rings;
    let movedMm = 0;
    for (let pass = 0; pass < PASSES && !isRight(moved); pass++) {
      const by = Math.max(-STEP_MM, Math.min(STEP_MM, (wantedMm2 - areaMm2(moved)) / roomMm));
      moved = moved.map((ring, k) => pushedOut(ring, weights[k] as number[], by, wall));
      movedMm += Math.abs(by);
    }
    if (movedMm <= HAIR_MM) rings = moved;
    else {
      const within = moved.every((ring) => staysWithin(ring, wall)) ? moved : intersection(moved, pool);
      rings = cleared(beside ? difference(within, beside) : shapeFromRings(within, 'nonzero'));
    }
  }
  return [...rings];
}

/** Whether a corner lies on one of some edges. */
function liesOn(edges: Edges, { x, y }: Point): boolean {
  for (let i = 0; i < edges.length; i += 4) {
    const [px, py, qx, qy] = [edges[i] as number, edges[i + 1] as number, edges[i + 2] as number, edges[i + 3] as number];
    if (Math.max(px, qx) < x - ON_EDGE_MM || Math.min(px, qx) > x + ON_EDGE_MM) continue;
    if (Math.max(py, qy) < y - ON_EDGE_MM || Math.min(py, qy) > y + ON_EDGE_MM) continue;
    const [ex, ey] = [qx - px, qy - py];
    const across = ex * (y - py) - ey * (x - px);
    if (across * across < ON_EDGE_MM * ON_EDGE_MM * (ex * ex + ey * ey)) return true;
  }
  return false;
}

/** Whether no edge of a ring can leave the pool: each is shorter than its ends together lie away from the pool's edge. */
function staysWithin(ring: Ring, wall: Wall): boolean {
  let last = ring[ring.length - 1] as Point;
  let lastMm = wall.distanceMm(last.x, last.y);
  return ring.every((p) => {
    const mm = wall.distanceMm(p.x, p.y);
    const is = lastMm + mm > distance(last, p);
    [last, lastMm] = [p, mm];
    return is;
  });
}

function pushedOut(ring: Ring, weights: readonly number[], by: number, wall: Wall): Point[] {
  const n = ring.length;
  return ring.map((p, i) => {
    const [a, b] = [ring[(i + n - 1) % n] as Point, ring[(i + 1) % n] as Point];
    const [tx, ty] = [b.x - a.x, b.y - a.y];
    const length = Math.hypot(tx, ty);
    if (length < 1e-9) return p;
    // Positive rings turn from x to y: outward lies to the right of their way.
    const w = by * (weights[i] as number);
    const to = { x: p.x + (ty / length) * w, y: p.y - (tx / length) * w };
    return wall.distanceMm(to.x, to.y) > 0 ? to : p;
  });
}
