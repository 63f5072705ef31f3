import type { Point } from '../geometry/point.js';

/**
 * A drop of radius r at c pushes what is there outward and keeps its area: p ↦ c + (p − c) √(1 + r²/|p − c|²)
 * (Lu, Jaffer, Jin, Zhao & Mao, "Mathematical Marbling", IEEE CG&A 2012). `room` is 1 where the icing is free to give
 * way and falls to 0 at an edge, where nothing can leave.
 */
export function pushedByDrop(p: Point, centre: Point, radiusMm: number, room = 1): Point {
  const dx = p.x - centre.x;
  const dy = p.y - centre.y;
  const d2 = dx * dx + dy * dy;
  // The very centre has no direction to go: any point of the rim will do.
  if (d2 === 0) return { x: centre.x + radiusMm, y: centre.y };
  const f = Math.sqrt(1 + (room * radiusMm * radiusMm) / d2);
  return { x: centre.x + dx * f, y: centre.y + dy * f };
}
