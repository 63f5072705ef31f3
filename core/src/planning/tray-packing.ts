import type { CookieAt } from '../formats/plan.js';
import { intersection, offset } from '../geometry/clip.js';
import { areaMm2, boundingBox, type Shape } from '../geometry/shape.js';

/** Shapes that overlap by less than this lie apart, mm². */
const APART_MM2 = 0.05;
const HALVINGS = 12;

interface Rectangle {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** Rows of one outline in a rectangle: straight ones above each other, or each second one shifted by half a cookie and closer. */
interface Rows {
  readonly turned: boolean;
  /** size of one cookie with half the gap all round */
  readonly w: number;
  readonly h: number;
  readonly apartMm: number;
  readonly across: number;
  /** of every second row, where they are shifted; null where rows are straight */
  readonly shifted: number | null;
  readonly rows: number;
}

/**
 * Cookies laid on one flat rectangle (a tray, a carton), design after design: in rows as they fit best, the cookie as drawn or turned
 * by a right angle, the next design in what is free beside and below. Every cookie keeps the gap from every other and none hangs over
 * the rim; not always the most that any arrangement could hold.
 */
export class TrayPacking {
  private free: Rectangle[];
  private readonly styles = new Map<Shape, { readonly turned: boolean; readonly shape: Shape; readonly w: number; readonly h: number }[]>();

  constructor(
    widthMm: number,
    depthMm: number,
    private readonly gapMm: number,
  ) {
    this.free = [{ x: 0, y: 0, w: widthMm + gapMm, h: depthMm + gapMm }];
  }

  /** Lays at most so many more cookies of an outline (mm), and says where; fewer where no more fit. */
  lay(outline: Shape, most: number): CookieAt[] {
    const out: CookieAt[] = [];
    for (let left = most; left > 0; left = most - out.length) {
      const found = this.free
        .flatMap((rectangle, index) =>
          this.rowsIn(outline, rectangle).map((rows) => ({ index, rectangle, rows, n: Math.min(left, held(rows)) })),
        )
        .filter((f) => f.n > 0)
        // All that is asked for in the least depth, else as many as there is room for.
        .reduce<Found | null>((a, b) => (a && (a.n > b.n || (a.n === b.n && depthOf(a) <= depthOf(b))) ? a : b), null);
      if (!found) break;
      out.push(...this.layRows(found));
    }
    return out;
  }

  private rowsIn(outline: Shape, { w: widthMm, h: depthMm }: Rectangle): Rows[] {
    let styles = this.styles.get(outline);
    if (!styles) {
      styles = [false, true].map((turned) => {
        const shape = offset(turned ? turnedShape(outline) : outline, this.gapMm / 2);
        const box = boundingBox(shape.flat());
        return { turned, shape, w: box.maxX - box.minX, h: box.maxY - box.minY };
      });
      this.styles.set(outline, styles);
    }
    return styles.flatMap(({ turned, shape, w, h }): Rows[] => {
      if (w > widthMm || h > depthMm) return [];
      const across = Math.floor(widthMm / w);
      const straight: Rows = { turned, w, h, apartMm: h, across, shifted: null, rows: Math.floor(depthMm / h) };
      const shifted = Math.floor((widthMm - w / 2) / w);
      const rowsAt = (apartMm: number) => 1 + Math.floor((depthMm - h) / apartMm);
      const staggered = (apartMm: number): Rows => ({ turned, w, h, apartMm, across, shifted, rows: rowsAt(apartMm) });
      // Where even the closest rows would hold no more, nothing has to be tried.
      return held(staggered(h / 2)) <= held(straight) ? [straight] : [straight, staggered(closest(shape, w, h, rowsAt))];
    });
  }

  private layRows({ index, rectangle, rows, n }: Found): CookieAt[] {
    const { x, y } = rectangle;
    const { w, h, apartMm, across, shifted, turned } = rows;
    const out: CookieAt[] = [];
    let row = 0;
    for (; out.length < n; row++) {
      const isShifted = shifted !== null && row % 2 === 1;
      const inRow = Math.min(n - out.length, isShifted ? shifted : across);
      for (let k = 0; k < inRow; k++)
        out.push({
          xMm: x + (isShifted ? w / 2 : 0) + (k + 0.5) * w - this.gapMm / 2,
          yMm: y + row * apartMm + h / 2 - this.gapMm / 2,
          turned,
        });
    }
    const usedH = (row - 1) * apartMm + h;
    const inLast = shifted === null ? n - (row - 1) * across : across;
    const usedW = Math.max(across * w, shifted === null ? 0 : w / 2 + shifted * w);
    const rest: Rectangle[] = [
      { x, y: y + usedH, w: rectangle.w, h: rectangle.h - usedH },
      // Beside full rows, and beside the last one where rows are straight; shifted rows reach into each other.
      { x: x + usedW, y, w: rectangle.w - usedW, h: usedH - (inLast < across ? h : 0) },
      ...(inLast < across ? [{ x: x + inLast * w, y: y + usedH - h, w: rectangle.w - inLast * w, h }] : []),
    ];
    this.free.splice(index, 1, ...rest.filter((r) => r.w > 0 && r.h > 0));
    return out;
  }
}

/** How many cookies of an outline lie on a flat rectangle (a tray, a carton), mm, `gapMm` between them and none to its rim. */
export const placesOn = (outline: Shape, widthMm: number, depthMm: number, gapMm: number): number =>
  new TrayPacking(widthMm, depthMm, gapMm).lay(outline, Number.POSITIVE_INFINITY).length;

interface Found {
  readonly index: number;
  readonly rectangle: Rectangle;
  readonly rows: Rows;
  readonly n: number;
}

/** How far down the tray laying so many reaches. */
const depthOf = ({ rectangle, rows, n }: Found): number => rectangle.y + (rowsFor(rows, n) - 1) * rows.apartMm + rows.h;

function rowsFor({ across, shifted }: Rows, n: number): number {
  if (shifted === null) return Math.ceil(n / across);
  const pairs = Math.floor(n / (across + shifted));
  const rest = n - pairs * (across + shifted);
  return 2 * pairs + (rest === 0 ? 0 : rest > across ? 2 : 1);
}

const held = ({ across, shifted, rows }: Rows): number =>
  shifted === null ? across * rows : Math.ceil(rows / 2) * across + Math.floor(rows / 2) * shifted;

/** How close shifted rows may come without touching, half a cookie to a whole one apart, found as closely as the number of rows asks. */
function closest(shape: Shape, w: number, h: number, rowsAt: (apartMm: number) => number): number {
  const free = (dy: number) => [w / 2, -w / 2].every((dx) => Math.abs(areaMm2(intersection(shape, moved(shape, dx, dy)))) < APART_MM2);
  let [near, far] = [h / 2, h];
  if (free(near)) return near;
  for (let i = 0; i < HALVINGS && rowsAt(near) !== rowsAt(far); i++) {
    const mid = (near + far) / 2;
    if (free(mid)) far = mid;
    else near = mid;
  }
  return far;
}

/** The outline of a cookie where it lies. */
export function shapeAt(outline: Shape, { xMm, yMm, turned }: CookieAt): Shape {
  const shape = turned ? turnedShape(outline) : outline;
  const box = boundingBox(shape.flat());
  return moved(shape, xMm - (box.minX + box.maxX) / 2, yMm - (box.minY + box.maxY) / 2);
}

const moved = (shape: Shape, dx: number, dy: number): Shape => shape.map((ring) => ring.map((p) => ({ x: p.x + dx, y: p.y + dy })));
const turnedShape = (shape: Shape): Shape => shape.map((ring) => ring.map((p) => ({ x: -p.y, y: p.x })));
