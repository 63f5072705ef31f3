import { blurred, smoothstep, toSquaredDistances, UNKNOWN } from '../geometry/field.js';
import type { Point } from '../geometry/point.js';
import { boundingBox, type Shape } from '../geometry/shape.js';

/** Grid of distances, mm; the walls of a cookie are round on this scale. */
const CELL_MM = 0.25;
/** Icing clings to the wall itself: within this nothing moves. More than the smoothing of the grid reaches, so that ψ is 0 at the wall. */
const CLINGS_MM = 2 * CELL_MM;
/** So near a wall its distance is measured to its edges themselves; further in on the grid. */
const MEASURED_MM = 2.5;
/** Where several walls are near, their distances are smoothed over this, mm. */
const SOFT_MM = 1.5;
/** Two walls are felt no further than this share of a pool's half width, so that neither reaches past the other. */
const HALF_SHARE = 0.95;

/**
 * The edge of a pool of wet icing. A stream function times {@link freedom} has no flow through it. Distances are sampled
 * once on a grid and joined by quadratic B-splines: their slope is continuous, which smooths where two walls are equally near.
 */
export class Wall {
  private readonly away: Float32Array;
  private readonly columns: number;
  private readonly rows: number;
  private readonly x0: number;
  private readonly y0: number;
  private readonly lambdaMm: number;
  private readonly widestMm: number;
  /** what {@link at} found last: the distance, mm, and its slopes along x and y */
  d = 0;
  dx = 0;
  dy = 0;
  /** what {@link freedom} found last: how freely icing moves, 0 to 1, and what that gains a millimetre further from the wall */
  g = 1;
  slope = 0;

  /** `lambdaMm`: how deep into the pool its edge is felt by what moves beside it */
  constructor(pool: Shape, lambdaMm: number) {
    const box = boundingBox(pool.flat());
    this.x0 = box.minX - 3 * CELL_MM;
    this.y0 = box.minY - 3 * CELL_MM;
    this.columns = Math.ceil((box.maxX - this.x0) / CELL_MM) + 4;
    this.rows = Math.ceil((box.maxY - this.y0) / CELL_MM) + 4;
    this.away = distancesInside(pool, this.x0, this.y0, this.columns, this.rows);
    let deepest = 0;
    for (const d of this.away) if (d > deepest) deepest = d;
    this.lambdaMm = Math.max(CLINGS_MM + CELL_MM, lambdaMm);
    this.widestMm = Math.max(this.lambdaMm, HALF_SHARE * deepest);
  }

  /** How deep into the pool its edge is felt of something so far off. */
  feltMm(fromMm: number): number {
    return Math.min(this.widestMm, Math.max(this.lambdaMm, fromMm));
  }

  /**
   * How freely icing moves at the place {@link at} was asked for, felt so deep: 0 at and beyond the edge, 1 where it is not
   * felt; left in g and slope. What a wall turns back it turns back over a breadth that grows with the distance of what
   * moves: turned back within λ alone it would run along the wall as a jet (tried: streaks of 4 mm along the rim).
   */
  freedom(feltMm: number): void {
    const t = (this.d - CLINGS_MM) / (feltMm - CLINGS_MM);
    if (t <= 0) {
      this.g = 0;
      this.slope = 0;
    } else if (t >= 1) {
      this.g = 1;
      this.slope = 0;
    } else {
      this.g = t * t * (3 - 2 * t);
      this.slope = (6 * t * (1 - t)) / (feltMm - CLINGS_MM);
    }
  }

  /** Millimetres to the edge; 0 at it and outside. */
  distanceMm(x: number, y: number): number {
    const u = (x - this.x0) / CELL_MM;
    const v = (y - this.y0) / CELL_MM;
    const c = Math.floor(u);
    const r = Math.floor(v);
    if (!(c >= 0 && r >= 0 && c < this.columns - 1 && r < this.rows - 1)) return 0;
    const [fx, fy, i, w] = [u - c, v - r, r * this.columns + c, this.away];
    const top = (w[i] as number) * (1 - fx) + (w[i + 1] as number) * fx;
    const bottom = (w[i + this.columns] as number) * (1 - fx) + (w[i + this.columns + 1] as number) * fx;
    return top * (1 - fy) + bottom * fy;
  }

  /** What {@link freedom} gains for each millimetre what moves is further off: it is felt deeper then, and so less free. */
  deepening(fromMm: number): number {
    return fromMm <= this.lambdaMm || fromMm >= this.widestMm ? 0 : (-this.slope * (this.d - CLINGS_MM)) / (fromMm - CLINGS_MM);
  }

  /** Distance and slopes at a place, left in d, dx, dy. */
  at(x: number, y: number): void {
    const u = (x - this.x0) / CELL_MM;
    const v = (y - this.y0) / CELL_MM;
    const c = Math.round(u);
    const r = Math.round(v);
    this.dx = 0;
    this.dy = 0;
    if (!(c >= 1 && r >= 1 && c < this.columns - 1 && r < this.rows - 1)) {
      this.d = 0;
      return;
    }
    const i = r * this.columns + c;
    const n = this.columns;
    const w = this.away;
    const a = u - c;
    const b = v - r;
    const a0 = 0.5 * (0.5 - a) * (0.5 - a);
    const a1 = 0.75 - a * a;
    const a2 = 0.5 * (0.5 + a) * (0.5 + a);
    const p = i - n;
    const q = i + n;
    const [p0, p1, p2] = [w[p - 1] as number, w[p] as number, w[p + 1] as number];
    const [i0, i1, i2] = [w[i - 1] as number, w[i] as number, w[i + 1] as number];
    const [q0, q1, q2] = [w[q - 1] as number, w[q] as number, w[q + 1] as number];
    const top = a0 * p0 + a1 * p1 + a2 * p2;
    const middle = a0 * i0 + a1 * i1 + a2 * i2;
    const bottom = a0 * q0 + a1 * q1 + a2 * q2;
    const b0 = 0.5 * (0.5 - b) * (0.5 - b);
    const b1 = 0.75 - b * b;
    const b2 = 0.5 * (0.5 + b) * (0.5 + b);
    this.d = b0 * top + b1 * middle + b2 * bottom;
    const before = a - 0.5;
    const after = a + 0.5;
    const here = -2 * a;
    this.dx =
      (b0 * (before * p0 + here * p1 + after * p2) +
        b1 * (before * i0 + here * i1 + after * i2) +
        b2 * (before * q0 + here * q1 + after * q2)) /
      CELL_MM;
    this.dy = ((b - 0.5) * top - 2 * b * middle + (b + 0.5) * bottom) / CELL_MM;
  }
}

/** Distance to the nearest edge at every place of a grid, 0 outside the shape. */
function distancesInside(shape: Shape, x0: number, y0: number, columns: number, rows: number): Float32Array {
  const inside = new Float64Array(columns * rows);
  // Inside or not, a row at a time, by where the row crosses the edges (even-odd).
  for (let r = 0; r < rows; r++) {
    const y = y0 + r * CELL_MM;
    const cuts: number[] = [];
    for (const ring of shape)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const a = ring[i] as Point;
        const b = ring[j] as Point;
        if (a.y > y !== b.y > y) cuts.push(((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x);
      }
    cuts.sort((a, b) => a - b);
    for (let k = 0; k + 1 < cuts.length; k += 2) {
      const from = Math.max(0, Math.ceil(((cuts[k] as number) - x0) / CELL_MM));
      const to = Math.min(columns - 1, Math.floor(((cuts[k + 1] as number) - x0) / CELL_MM));
      if (to >= from) inside.fill(UNKNOWN, r * columns + from, r * columns + to + 1);
    }
  }
  const isInside = Uint8Array.from(inside, (v) => (v > 0 ? 1 : 0));
  toSquaredDistances(inside, columns, rows);
  // The edge lies half a cell before the first place outside, on the whole.
  const out = Float32Array.from(inside, (v) => Math.max(0, (Math.sqrt(v) - 0.5) * CELL_MM));
  const soft = blurred(out.slice(), columns, rows, SOFT_MM / CELL_MM);
  for (let k = 0; k < out.length; k++) {
    const d = out[k] as number;
    const share = smoothstep((d - MEASURED_MM) / (2 * MEASURED_MM));
    out[k] = d * (1 - share) + (soft[k] as number) * share;
    // What is near enough is measured below.
    if (isInside[k] === 1 && d < MEASURED_MM) out[k] = MEASURED_MM;
  }
  for (const ring of shape)
    for (let i = 0; i < ring.length; i++) {
      const a = ring[i] as Point;
      const b = ring[(i + 1) % ring.length] as Point;
      const ex = b.x - a.x;
      const ey = b.y - a.y;
      const e2 = ex * ex + ey * ey;
      const fromC = Math.max(0, Math.floor((Math.min(a.x, b.x) - MEASURED_MM - x0) / CELL_MM));
      const toC = Math.min(columns - 1, Math.ceil((Math.max(a.x, b.x) + MEASURED_MM - x0) / CELL_MM));
      const fromR = Math.max(0, Math.floor((Math.min(a.y, b.y) - MEASURED_MM - y0) / CELL_MM));
      const toR = Math.min(rows - 1, Math.ceil((Math.max(a.y, b.y) + MEASURED_MM - y0) / CELL_MM));
      for (let r = fromR; r <= toR; r++)
        for (let c = fromC; c <= toC; c++) {
          const k = r * columns + c;
          if (isInside[k] === 0) continue;
          const px = x0 + c * CELL_MM - a.x;
          const py = y0 + r * CELL_MM - a.y;
          const t = e2 === 0 ? 0 : Math.max(0, Math.min(1, (px * ex + py * ey) / e2));
          const qx = px - t * ex;
          const qy = py - t * ey;
          const d2 = qx * qx + qy * qy;
          if (d2 < (out[k] as number) ** 2) out[k] = Math.sqrt(d2);
        }
    }
  return out;
}
