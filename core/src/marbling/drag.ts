import { type Point, polylineLengthMm } from '../geometry/point.js';
import { simplified } from '../geometry/simplify.js';
import { placesAlong } from '../geometry/way.js';
import type { Motion } from './outline.js';
import { PASSED_COLUMNS, PASSED_PER_MM, PASSED_ROWS, type ScribeFlow, TABLE_MM, TABLE_PER_MM } from './scribe-flow.js';
import type { Wall } from './wall.js';

/** The pin's way is looked up on a table this fine, mm. */
const WAY_STEP_MM = 0.05;
/** A step of a place relative to the pin, as a share of its distance from it. */
const STEP_SHARE = 0.35;
const FAR_STEP_SHARE = 0.5;
/** A wall nearer than this is felt of the pin when that is near too. */
const FELT_NEAR_MM = 2.5;
/** At the pin itself a step is at least so many radii. */
const LEAST_STEP = 0.25;
/** What the pin passes at least so far off moves little, and is moved by what has passed, summed up beforehand. */
const BESIDE_FROM_MM = 2.2;
const FAR_FROM_MM = 7;
const ONE_STRETCH_FROM_MM = 12;
/** So near a wall the flow turns on a short way, and is followed step by step further out. */
const AT_WALL_MM = 2;
/** What is passed at a distance moves less than this. */
const MOVES_MM = 2;
const FAR_AT_WALLS_MM = 7;
/** A corner of a way is rounded within this, mm: *assumed*. */
const MOST_CUT_MM = 1;
/** The pin is felt in full while it is so near, along its way. */
const NEAR_MM = 4;
/** Seen from there a bent way may be straightened by so much. */
const FAR_WAY_MM = 0.25;

/**
 * Moves places of the icing along with a scribe. Each place is integrated on its own (classical Runge–Kutta) in steps that
 * are short against its distance from the pin; what is carried by the pin hardly moves against it and needs few.
 */
export class Drag implements Motion {
  x = 0;
  y = 0;
  nearMm = 0;
  private readonly px: Float64Array;
  private readonly py: Float64Array;
  private readonly dx: Float64Array;
  private readonly dy: Float64Array;
  private readonly lengthMm: number;
  private readonly isStraight: boolean;
  private vx = 0;
  private vy = 0;
  private tipMm = 0;
  private tipDx = 0;
  private tipDy = 0;
  private readonly firstX: number;
  private readonly firstY: number;
  private readonly firstDx: number;
  private readonly firstDy: number;
  private readonly farWay: readonly Point[];
  private sumAlong = 0;
  private sumAside = 0;
  private sumPsi = 0;
  private isFelt = false;
  /** no wall is felt where the place at hand lies, whatever passes it */
  private isDeep = false;

  /** `follows`: share of the flow that what is moved heeds, 1 for fresh icing */
  constructor(
    drawn: readonly Point[],
    private readonly flow: ScribeFlow,
    private readonly wall: Wall | null,
    private readonly follows = 1,
  ) {
    // No hand turns on the spot, and a flow that did would tear itself.
    const way = drawn.length === 2 ? drawn : cornersCut(cornersCut(cornersCut(drawn)));
    this.lengthMm = polylineLengthMm(way);
    this.isStraight = way.length === 2;
    const n = Math.max(1, Math.ceil(this.lengthMm / WAY_STEP_MM));
    const places = placesAlong(
      way,
      [...Array(n + 1).keys()].map((k) => (this.lengthMm * k) / n),
    );
    this.px = Float64Array.from(places, (p) => p.at.x);
    this.py = Float64Array.from(places, (p) => p.at.y);
    this.dx = Float64Array.from(places, (p) => p.along.x);
    this.dy = Float64Array.from(places, (p) => p.along.y);
    this.firstX = this.px[0] as number;
    this.firstY = this.py[0] as number;
    this.firstDx = this.dx[0] as number;
    this.firstDy = this.dy[0] as number;
    this.farWay = this.isStraight ? way : (simplified({ points: way, closed: false }, FAR_WAY_MM)?.points ?? way);
  }

  move(x: number, y: number): void {
    const d = this.distanceToWay(x, y);
    this.nearMm = d;
    const away = this.wall?.distanceMm(x, y) ?? Number.POSITIVE_INFINITY;
    const isAtWall = away < AT_WALL_MM;
    this.isDeep = this.wall === null || away > this.wall.feltMm(d) + MOVES_MM;
    if (d > (isAtWall ? FAR_AT_WALLS_MM : this.isStraight ? BESIDE_FROM_MM : FAR_FROM_MM)) this.moveBeside(x, y, d);
    else this.integrate(x, y, isAtWall);
    // What clings to the wall stays on this side of it, whatever a step was rounded to.
    if (this.wall && away > 0 && this.wall.distanceMm(this.x, this.y) === 0) {
      this.x = x;
      this.y = y;
    }
  }

  private distanceToWay(x: number, y: number): number {
    let best = Number.POSITIVE_INFINITY;
    for (let k = 1; k < this.farWay.length; k++) {
      const a = this.farWay[k - 1] as Point;
      const b = this.farWay[k] as Point;
      const [ex, ey, px, py] = [b.x - a.x, b.y - a.y, x - a.x, y - a.y];
      const e2 = ex * ex + ey * ey;
      const t = e2 === 0 ? 0 : Math.max(0, Math.min(1, (px * ex + py * ey) / e2));
      const d2 = (px - t * ex) ** 2 + (py - t * ey) ** 2;
      if (d2 < best) best = d2;
    }
    return Math.sqrt(best);
  }

  /** A place the pin passes at a distance: it moves little, so that the flow is summed up from where it is, a stretch at a time. */
  private moveBeside(x0: number, y0: number, d: number): void {
    let x = x0;
    let y = y0;
    for (let k = 1; k < this.farWay.length; k++) {
      const a = this.farWay[k - 1] as Point;
      const b = this.farWay[k] as Point;
      const length = Math.sqrt((b.x - a.x) * (b.x - a.x) + (b.y - a.y) * (b.y - a.y));
      if (length === 0) continue;
      const dx = (b.x - a.x) / length;
      const dy = (b.y - a.y) / length;
      if (d > FAR_FROM_MM && (!this.isStraight || d > ONE_STRETCH_FROM_MM)) {
        this.stretch(x, y, a.x, a.y, dx, dy, 0, length);
        x = this.x;
        y = this.y;
        continue;
      }
      // Nearer by, in stretches about where the pin passes: there it moves most.
      const passes = (x - a.x) * dx + (y - a.y) * dy;
      let from = 0;
      const [wide, narrow] = [1.5 * d, 0.6 * d];
      for (let part = 0; part < 6; part++) {
        const to =
          part === 0
            ? passes - wide
            : part === 1
              ? passes - narrow
              : part === 2
                ? passes
                : part === 3
                  ? passes + narrow
                  : part === 4
                    ? passes + wide
                    : length;
        const end = Math.max(from, Math.min(length, to));
        if (end - from < 1e-9) continue;
        this.stretch(x, y, a.x, a.y, dx, dy, from, end);
        x = this.x;
        y = this.y;
        from = end;
      }
    }
    this.x = x;
    this.y = y;
    this.nearMm = d;
  }

  /**
   * Moves a place by one straight stretch of the pin's way: by what passes where it is, and once more by what passes half way
   * to where that takes it.
   */
  private stretch(x: number, y: number, ax: number, ay: number, dx: number, dy: number, from: number, to: number): void {
    this.passing(x, y, ax, ay, dx, dy, from, to);
    if (Math.abs(this.vx) + Math.abs(this.vy) > 0.01) this.passing(x + this.vx / 2, y + this.vy / 2, ax, ay, dx, dy, from, to);
    this.x = x + this.vx;
    this.y = y + this.vy;
  }

  /** What a stretch of the pin's way does to what stands at a place, left in vx, vy, mm. */
  private passing(x: number, y: number, ax: number, ay: number, dx: number, dy: number, from: number, to: number): void {
    const px = x - ax;
    const py = y - ay;
    const ahead = px * dx + py * dy;
    const aside = dx * py - dy * px;
    const beside = Math.abs(aside);
    const { wall } = this;
    if (wall && !this.isDeep) {
      wall.at(x, y);
      wall.freedom(wall.feltMm(this.nearMm));
    }
    this.isFelt = wall !== null && !this.isDeep && wall.g < 1;
    this.sumAlong = 0;
    this.sumAside = 0;
    this.sumPsi = 0;
    this.sum(ahead - from, beside, 1);
    this.sum(ahead - to, beside, -1);
    const side = aside < 0 ? -1 : 1;
    const u = this.sumAlong;
    const w = this.sumAside * side;
    const psi = this.sumPsi * side;
    let sx = u * dx - w * dy;
    let sy = u * dy + w * dx;
    if (wall && this.isFelt) {
      sx = wall.g * sx + psi * wall.slope * wall.dy;
      sy = wall.g * sy - psi * wall.slope * wall.dx;
    }
    this.vx = sx * this.follows;
    this.vy = sy * this.follows;
  }

  private sumFar(ahead: number, beside: number, sign: number): void {
    const { c1 } = this.flow;
    const r2 = ahead * ahead + beside * beside;
    this.sumAlong -= (sign * c1 * ahead) / r2;
    this.sumAside -= (sign * c1 * beside) / r2;
    if (this.isFelt) this.sumPsi += sign * c1 * Math.atan2(ahead, beside);
  }

  private sum(ahead: number, beside: number, sign: number): void {
    const v = beside * PASSED_PER_MM;
    const r = Math.floor(v);
    const within = Math.max(-TABLE_MM, Math.min(TABLE_MM - 1e-9, ahead));
    if (r >= PASSED_ROWS - 1 || within !== ahead) {
      // Beyond the table C₁/r is left: its antiderivative is added to where the table ends.
      this.sumFar(ahead, beside, sign);
      if (r >= PASSED_ROWS - 1) return;
      this.sumFar(within, beside, -sign);
    }
    const u = (within + TABLE_MM) * PASSED_PER_MM;
    const c = Math.floor(u);
    const [fx, fy] = [u - c, v - r];
    const i = r * PASSED_COLUMNS + c;
    const w00 = (1 - fx) * (1 - fy) * sign;
    const w01 = fx * (1 - fy) * sign;
    const w10 = (1 - fx) * fy * sign;
    const w11 = fx * fy * sign;
    const { passedAlong: p, passedAside: q, passedPsi: s } = this.flow;
    const n = PASSED_COLUMNS;
    this.sumAlong += w00 * (p[i] as number) + w01 * (p[i + 1] as number) + w10 * (p[i + n] as number) + w11 * (p[i + n + 1] as number);
    this.sumAside += w00 * (q[i] as number) + w01 * (q[i + 1] as number) + w10 * (q[i + n] as number) + w11 * (q[i + n + 1] as number);
    this.sumPsi += w00 * (s[i] as number) + w01 * (s[i + 1] as number) + w10 * (s[i + n] as number) + w11 * (s[i + n + 1] as number);
  }

  /** The motion of one place, integrated. */
  private integrate(x0: number, y0: number, isAtWall: boolean): void {
    const { lengthMm, flow, wall } = this;
    let x = x0;
    let y = y0;
    let near = Number.POSITIVE_INFINITY;
    let s = 0;
    let wasMm = Number.POSITIVE_INFINITY;
    const isStraight = this.isStraight;
    const mayLeap = isStraight && !isAtWall;
    if (mayLeap) {
      const passes = (x - this.firstX) * this.firstDx + (y - this.firstY) * this.firstDy;
      const comesNear = Math.min(lengthMm, passes - NEAR_MM);
      if (comesNear > 0) {
        this.stretch(x, y, this.firstX, this.firstY, this.firstDx, this.firstDy, 0, comesNear);
        x = this.x;
        y = this.y;
        s = comesNear;
      }
    }
    while (s < lengthMm) {
      if (mayLeap && s - ((x - this.firstX) * this.firstDx + (y - this.firstY) * this.firstDy) > NEAR_MM) {
        // Left behind: what is still to come is far off.
        this.stretch(x, y, this.firstX, this.firstY, this.firstDx, this.firstDy, s, lengthMm);
        x = this.x;
        y = this.y;
        break;
      }
      const away = wall === null ? Number.POSITIVE_INFINITY : wall.distanceMm(x, y);
      this.velocity(x, y, s, wall === null || away > wall.feltMm(wasMm));
      const r = this.tipMm;
      wasMm = r + LEAST_STEP;
      if (r < near) near = r;
      const [k1x, k1y] = [this.vx, this.vy];
      const against = Math.sqrt((this.tipDx - k1x) * (this.tipDx - k1x) + (this.tipDy - k1y) * (this.tipDy - k1y));
      const share = r > 5 ? FAR_STEP_SHARE : STEP_SHARE;
      let h = Math.max(LEAST_STEP * flow.radiusMm, (share * r) / Math.max(0.02, against));
      // On a bent way, or near a wall, what is carried along still comes to other places.
      if ((!isStraight || away < FELT_NEAR_MM) && r < NEAR_MM) h = Math.min(h, Math.max(0.4 * flow.radiusMm, r / 5));
      h = Math.min(lengthMm - s, h);
      // Felt as deep as the pin is far: what lies deeper than that is free for the whole step.
      const isFree = wall === null || away > wall.feltMm(r + h) + h;
      this.velocity(x + (h / 2) * k1x, y + (h / 2) * k1y, s + h / 2, isFree);
      const [k2x, k2y] = [this.vx, this.vy];
      this.velocity(x + (h / 2) * k2x, y + (h / 2) * k2y, s + h / 2, isFree);
      const [k3x, k3y] = [this.vx, this.vy];
      this.velocity(x + h * k3x, y + h * k3y, s + h, isFree);
      x += (h / 6) * (k1x + 2 * k2x + 2 * k3x + this.vx);
      y += (h / 6) * (k1y + 2 * k2y + 2 * k3y + this.vy);
      s += h;
    }
    this.x = x;
    this.y = y;
    this.nearMm = near;
  }

  /** Flow for a unit speed of the pin, `s` along its way, left in vx, vy; the distance from the pin in tipMm. */
  private velocity(x: number, y: number, s: number, isFree: boolean): void {
    let dx = this.firstDx;
    let dy = this.firstDy;
    let qx = x - this.firstX - dx * s;
    let qy = y - this.firstY - dy * s;
    if (!this.isStraight) {
      const at = Math.min(this.px.length - 1.000001, (s / this.lengthMm) * (this.px.length - 1));
      const k = Math.floor(at);
      const t = at - k;
      qx = x - (this.px[k] as number) * (1 - t) - (this.px[k + 1] as number) * t;
      qy = y - (this.py[k] as number) * (1 - t) - (this.py[k + 1] as number) * t;
      dx = (this.dx[k] as number) * (1 - t) + (this.dx[k + 1] as number) * t;
      dy = (this.dy[k] as number) * (1 - t) + (this.dy[k + 1] as number) * t;
    }
    this.tipDx = dx;
    this.tipDy = dy;
    const r = Math.sqrt(qx * qx + qy * qy);
    this.tipMm = r;
    let along = 1;
    let across = 1;
    const { flow } = this;
    if (r > flow.radiusMm) {
      const u = (r - flow.radiusMm) * TABLE_PER_MM;
      const i = Math.floor(u);
      if (i >= flow.along.length - 1) {
        along = flow.c1 / (r * r);
        across = -along;
      } else {
        const w = u - i;
        along = (flow.along[i] as number) * (1 - w) + (flow.along[i + 1] as number) * w;
        across = (flow.across[i] as number) * (1 - w) + (flow.across[i + 1] as number) * w;
      }
    }
    const radial = r === 0 ? 0 : ((along - across) * (dx * qx + dy * qy)) / (r * r);
    let vx = across * dx + radial * qx;
    let vy = across * dy + radial * qy;
    const { wall } = this;
    if (wall && !isFree) {
      const felt = wall.feltMm(r);
      wall.at(x, y);
      wall.freedom(felt);
      if (wall.g < 1) {
        // The curl of g·ψ: ψ is 0 on the pin's own axis, and g at the wall. How deep the wall is felt grows with r.
        const psi = along * (dx * qy - dy * qx);
        const deeper = wall.deepening(r) / r;
        const gx = wall.slope * wall.dx + deeper * qx;
        const gy = wall.slope * wall.dy + deeper * qy;
        vx = wall.g * vx + psi * gy;
        vy = wall.g * vy - psi * gx;
      }
    }
    this.vx = vx * this.follows;
    this.vy = vy * this.follows;
  }
}

/** Every corner cut at a quarter of its sides (Chaikin 1974), at most a millimetre from it; the ends stay. */
function cornersCut(way: readonly Point[]): Point[] {
  const out: Point[] = way.slice(0, 1);
  for (let i = 1; i < way.length - 1; i++) {
    const [a, b, c] = [way[i - 1] as Point, way[i] as Point, way[i + 1] as Point];
    const cut = (to: Point): Point => {
      const d = Math.hypot(to.x - b.x, to.y - b.y);
      const t = d === 0 ? 0 : Math.min(0.25, MOST_CUT_MM / d);
      return { x: b.x + (to.x - b.x) * t, y: b.y + (to.y - b.y) * t };
    };
    out.push(cut(a), cut(c));
  }
  if (way.length > 1) out.push(way[way.length - 1] as Point);
  return out;
}
