import { distance, type Point } from './point.js';
import { ofPair } from './remembered.js';
import { boundingBox, distanceToEdges, type Shape } from './shape.js';

/** Two sections touch where their edges run within half a millimetre of each other … */
export const TOUCH_GAP_MM = 0.5;
/** … for at least one millimetre. */
export const TOUCH_LENGTH_MM = 1;
/** Sampling along the edge. */
const STEP_MM = 0.05;
/**
 * Edges count as running beside each other only up to this angle. Without it the two sides of a corner add up to a
 * millimetre within reach of the opposite corner, and the diagonal quarters of a flag would "touch".
 */
const PARALLEL_COS = Math.cos((20 * Math.PI) / 180);

/** Length (mm) of a's edge that runs beside b's edge within {@link TOUCH_GAP_MM}. */
export function sharedEdgeMm(a: Shape, b: Shape): number {
  const reach = TOUCH_GAP_MM + 1e-6;
  const boxB = boundingBox(b.flat());
  const segments: [Point, Point][] = b.flatMap((ring) => ring.map((p, i): [Point, Point] => [p, ring[(i + 1) % ring.length] as Point]));
  let shared = 0;
  for (const ring of a) {
    for (let i = 0; i < ring.length; i++) {
      const from = ring[i] as Point;
      const to = ring[(i + 1) % ring.length] as Point;
      const box = boundingBox([from, to]);
      if (box.minX > boxB.maxX + reach || box.maxX < boxB.minX - reach || box.minY > boxB.maxY + reach || box.maxY < boxB.minY - reach)
        continue;
      const length = distance(from, to);
      if (length === 0) continue;
      const near = segments.filter(
        ([s, e]) =>
          Math.min(s.x, e.x) <= box.maxX + reach &&
          Math.max(s.x, e.x) >= box.minX - reach &&
          Math.min(s.y, e.y) <= box.maxY + reach &&
          Math.max(s.y, e.y) >= box.minY - reach,
      );
      if (near.length === 0) continue;
      const steps = Math.max(1, Math.round(length / STEP_MM));
      const dir = { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
      for (let k = 0; k < steps; k++) {
        const t = (k + 0.5) / steps;
        const p = { x: from.x + (to.x - from.x) * t, y: from.y + (to.y - from.y) * t };
        const beside = near.some(([s, e]) => {
          const len = distance(s, e);
          if (len === 0) return false;
          const along = { x: (e.x - s.x) / len, y: (e.y - s.y) / len };
          if (Math.abs(dir.x * along.x + dir.y * along.y) < PARALLEL_COS) return false;
          // Beside means abreast: what lies before or behind an edge's end is a corner.
          const t = (p.x - s.x) * along.x + (p.y - s.y) * along.y;
          return t >= -1e-9 && t <= len + 1e-9 && Math.abs((p.x - s.x) * along.y - (p.y - s.y) * along.x) <= reach;
        });
        if (beside) shared += length / steps;
      }
    }
  }
  return shared;
}

/** Whether two sections touch: edges within 0.5 mm over at least 1 mm; corners alone do not touch. */
export const touches = ofPair((a: Shape, b: Shape): boolean => {
  // The hair's breadth forgives the rounding of sampling along an edge of exactly one millimetre.
  return Math.max(sharedEdgeMm(a, b), sharedEdgeMm(b, a)) >= TOUCH_LENGTH_MM - 1e-6;
});

/** The longest run of a's edge that lies along b. */
export const sharedEdge = ofPair((a: Shape, b: Shape): readonly Point[] => {
  let best: Point[] = [];
  for (const ring of a) {
    const beside = ring.map((p) => distanceToEdges(b, p) <= TOUCH_GAP_MM);
    // Begin where the run begins, so that it is not cut in two by the ring's first point.
    const start = beside.findIndex((x, i) => x && !beside[(i + ring.length - 1) % ring.length]);
    let run: Point[] = [];
    for (let k = 0; k < ring.length; k++) {
      const i = (Math.max(start, 0) + k) % ring.length;
      if (beside[i]) run.push(ring[i] as Point);
      if (!beside[i] || k === ring.length - 1) {
        if (run.length > best.length) best = run;
        run = [];
      }
    }
  }
  return best.map((p) => ({ x: Math.round(p.x * 100) / 100, y: Math.round(p.y * 100) / 100 }));
});
