import type { Point } from '../geometry/point.js';

/**
 * A drop of radius r at c pushes what is there outward and keeps its area: p ↦ c + (p − c) √(1 + r²/|p − c|²)
 * (Lu, Jaffer, Jin, Zhao & Mao, "Mathematical Marbling", IEEE CG&A 2012).
 */
export function pushedByDrop(p: Point, centre: Point, radiusMm: number): Point {
  const dx = p.x - centre.x;
  const dy = p.y - centre.y;
  const d2 = dx * dx + dy * dy;
  // The very centre has no direction to go: any point of the rim will do.
  if (d2 === 0) return { x: centre.x + radiusMm, y: centre.y };
  const f = Math.sqrt(1 + (radiusMm * radiusMm) / d2);
  return { x: centre.x + dx * f, y: centre.y + dy * f };
}

/** Where a point came from; null inside the drop, which was not there before. */
export function beforeDrop(p: Point, centre: Point, radiusMm: number): Point | null {
  const dx = p.x - centre.x;
  const dy = p.y - centre.y;
  const share = 1 - (radiusMm * radiusMm) / (dx * dx + dy * dy);
  if (!(share > 0)) return null;
  const f = Math.sqrt(share);
  return { x: centre.x + dx * f, y: centre.y + dy * f };
}
