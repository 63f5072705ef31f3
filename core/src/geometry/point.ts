/** A point of a drawing, millimetres, y pointing down as in SVG. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Millimetres neither overflow nor vanish when squared, and this is many times faster than `Math.hypot`. */
export const distance = (a: Point, b: Point): number => Math.sqrt((a.x - b.x) ** 2 + (a.y - b.y) ** 2);

/** The point of segment ab nearest to p. */
export function nearestOnSegment(p: Point, a: Point, b: Point): Point {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const len2 = dx * dx + dy * dy;
  if (len2 === 0) return a;
  const t = Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / len2));
  return { x: a.x + t * dx, y: a.y + t * dy };
}

/** Length of a chain of points in mm; `closed` adds the way back. */
export function polylineLengthMm(points: readonly Point[], closed = false): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) sum += distance(points[i - 1] as Point, points[i] as Point);
  if (closed && points.length > 1) sum += distance(points[points.length - 1] as Point, points[0] as Point);
  return sum;
}
