import type { Point } from '../geometry/point.js';
import { boundingBox, contains, distanceToEdges, type Shape } from '../geometry/shape.js';

/** Icing clings to its edge within this distance: *assumed*. */
const CLINGS_MM = 1;
const CELL_MM = 0.5;
/** Cells are first looked at so many by so many at once. */
const BLOCK = 8;

/**
 * How freely icing moves at a place of its section: 1 well inside, falling smoothly to 0 at the edge and beyond. A
 * stream function times this has no flow through the edge. Sampled once on a grid, since a drag asks many thousand times.
 */
export class Wall {
  private readonly grid: Float64Array;
  /** distance to the edge at the same places, 0 outside */
  private readonly away: Float64Array;
  private readonly columns: number;
  private readonly rows: number;
  private readonly x0: number;
  private readonly y0: number;

  constructor(section: Shape) {
    const box = boundingBox(section.flat());
    this.x0 = box.minX - 2 * CELL_MM;
    this.y0 = box.minY - 2 * CELL_MM;
    this.columns = Math.ceil((box.maxX - this.x0) / CELL_MM) + 3;
    this.rows = Math.ceil((box.maxY - this.y0) / CELL_MM) + 3;
    this.grid = new Float64Array(this.columns * this.rows);
    this.away = new Float64Array(this.columns * this.rows);
    for (let r = 0; r < this.rows; r += BLOCK) {
      for (let c = 0; c < this.columns; c += BLOCK) {
        const middle = { x: this.x0 + (c + BLOCK / 2) * CELL_MM, y: this.y0 + (r + BLOCK / 2) * CELL_MM };
        const d = distanceToEdges(section, middle);
        const deep = d > BLOCK * CELL_MM + CLINGS_MM;
        // A block wholly outside stays 0; one deep inside needs no cell by cell.
        if (deep && !contains(section, middle)) continue;
        for (let i = r; i < Math.min(r + BLOCK, this.rows); i++)
          for (let k = c; k < Math.min(c + BLOCK, this.columns); k++) this.sample(section, k, i, deep ? d - (BLOCK * CELL_MM) / Math.SQRT2 : null);
      }
    }
  }

  private sample(section: Shape, c: number, r: number, knownMm: number | null): void {
    const p = { x: this.x0 + c * CELL_MM, y: this.y0 + r * CELL_MM };
    if (knownMm === null && !contains(section, p)) return;
    const d = knownMm ?? distanceToEdges(section, p);
    const t = Math.min(1, d / CLINGS_MM);
    this.away[r * this.columns + c] = d;
    this.grid[r * this.columns + c] = t * t * (3 - 2 * t);
  }

  /** Whether the edge is felt nowhere within `reachMm` of p, so that the flow there has its formula. */
  clearAround(p: Point, reachMm: number): boolean {
    const c = Math.round((p.x - this.x0) / CELL_MM);
    const r = Math.round((p.y - this.y0) / CELL_MM);
    if (c < 0 || r < 0 || c >= this.columns || r >= this.rows) return false;
    return (this.away[r * this.columns + c] as number) > reachMm + CLINGS_MM + 3 * CELL_MM;
  }

  /** 0 at and beyond the edge, 1 where the edge is not felt. */
  freedom(xMm: number, yMm: number): number {
    const x = (xMm - this.x0) / CELL_MM;
    const y = (yMm - this.y0) / CELL_MM;
    const c = Math.floor(x);
    const r = Math.floor(y);
    if (c < 0 || r < 0 || c >= this.columns - 1 || r >= this.rows - 1) return 0;
    const [fx, fy] = [x - c, y - r];
    const g = this.grid;
    const i = r * this.columns + c;
    const top = (g[i] as number) * (1 - fx) + (g[i + 1] as number) * fx;
    const bottom = (g[i + this.columns] as number) * (1 - fx) + (g[i + this.columns + 1] as number) * fx;
    return top * (1 - fy) + bottom * fy;
  }
}
