import { type Point, polylineLengthMm } from '../geometry/point.js';
import { contains } from '../geometry/shape.js';
import type { Section } from './design.js';

/** Sections whose shape holds some of these points, the one that holds most first. */
export function sectionsUnder(sections: readonly Section[], points: readonly Point[]): string[] {
  return sections
    .map((s) => ({ id: s.id, hits: points.filter((p) => contains(s.shape, p)).length }))
    .filter((c) => c.hits > 0)
    .sort((a, b) => b.hits - a.hits)
    .map((c) => c.id);
}

/** Points at most a millimetre apart, so that long straight strokes are seen by what they cross. */
export function densify(points: readonly Point[], closed: boolean): Point[] {
  const chain = closed && points[0] ? [...points, points[0]] : points;
  const out: Point[] = [];
  for (let i = 1; i < chain.length; i++) {
    const a = chain[i - 1] as Point;
    const b = chain[i] as Point;
    const n = Math.max(1, Math.ceil(polylineLengthMm([a, b])));
    for (let k = 0; k < n; k++) out.push({ x: a.x + ((b.x - a.x) * (k + 0.5)) / n, y: a.y + ((b.y - a.y) * (k + 0.5)) / n });
  }
  return out;
}

/** Points on both sides of a chain too: a bead along a boundary rests on both neighbours. */
export function alongside(points: readonly Point[], reachMm: number): Point[] {
  return points.flatMap((p, i) => {
    const a = points[Math.max(0, i - 1)] as Point;
    const b = points[Math.min(points.length - 1, i + 1)] as Point;
    const len = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const n = { x: (-(b.y - a.y) / len) * reachMm, y: ((b.x - a.x) / len) * reachMm };
    return [p, { x: p.x + n.x, y: p.y + n.y }, { x: p.x - n.x, y: p.y - n.y }];
  });
}
