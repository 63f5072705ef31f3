import { distance, type Point, polylineLengthMm } from './point.js';

/** A place on a chain of points, and the direction the chain goes on in (unit length). */
export interface Place {
  readonly at: Point;
  readonly along: Point;
}

/** Places at distances along a chain, ascending, mm; before its beginning that, beyond its end that. */
export function placesAlong(way: readonly Point[], distancesMm: readonly number[]): Place[] {
  const out: Place[] = [];
  let i = 1;
  let walkedMm = 0;
  for (const target of distancesMm) {
    let d = distance(way[i - 1] as Point, (way[i] ?? way[i - 1]) as Point);
    while (i < way.length - 1 && walkedMm + d < target) {
      walkedMm += d;
      i += 1;
      d = distance(way[i - 1] as Point, way[i] as Point);
    }
    const [a, b] = [way[i - 1] as Point, (way[i] ?? way[i - 1]) as Point];
    const t = d === 0 ? 0 : Math.max(0, Math.min(1, (target - walkedMm) / d));
    out.push({
      at: { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t },
      along: d === 0 ? { x: 0, y: 0 } : { x: (b.x - a.x) / d, y: (b.y - a.y) / d },
    });
  }
  return out;
}

/** n points spread evenly along a chain, each in the middle of its share. */
export function pointsAlong(way: readonly Point[], n: number): Point[] {
  const total = polylineLengthMm(way);
  return placesAlong(
    way,
    [...Array(n).keys()].map((k) => (total * (k + 0.5)) / n),
  ).map((p) => p.at);
}

/** The chain with points added so that none is further than `stepMm` from the one before. */
export function stepped(way: readonly Point[], stepMm: number): Point[] {
  const out: Point[] = way.slice(0, 1);
  for (let i = 1; i < way.length; i++) {
    const [a, b] = [way[i - 1] as Point, way[i] as Point];
    const n = Math.max(1, Math.ceil(distance(a, b) / stepMm));
    for (let k = 1; k <= n; k++) out.push({ x: a.x + ((b.x - a.x) * k) / n, y: a.y + ((b.y - a.y) * k) / n });
  }
  return out;
}

/** The first millimetres of a chain. */
export function beginningOf(way: readonly Point[], lengthMm: number): Point[] {
  const out: Point[] = [];
  let walkedMm = 0;
  for (const [i, p] of way.entries()) {
    if (i > 0) walkedMm += distance(way[i - 1] as Point, p);
    if (walkedMm > lengthMm) return [...out, (placesAlong(way, [lengthMm])[0] as Place).at];
    out.push(p);
  }
  return out;
}
