import { describe, expect, it } from 'vitest';
import { distance, type Point, polylineLengthMm } from '../geometry/point.js';
import { areaMm2, centroid, contains, distanceToEdges, type Shape } from '../geometry/shape.js';
import { type BorderId, borderAlong, borders, weave, woveMm } from './borders.js';

const round = [...Array(180).keys()].map((i) => ({ x: 40 + 30 * Math.cos((i * Math.PI) / 90), y: 40 + 30 * Math.sin((i * Math.PI) / 90) }));
const square: Point[] = [
  { x: 0, y: 0 },
  { x: 50, y: 0 },
  { x: 50, y: 33 },
  { x: 0, y: 33 },
];
/** Where each piece begins, or the middle of a dot. */
const heads = (id: BorderId, edge: readonly Point[], mm: number) =>
  borderAlong(edge, id, mm).strokes.map((s) => (s.closed ? centroid([s.points]) : (s.points[0] as Point)));

describe('borders', () => {
  it.each(['dots', 'pearls', 'shells', 'stars', 'teardrops', 'scallops', 'rope'] as const)(
    '%s round a circle are evenly spaced, and the last meets the first',
    (id) => {
      const at = heads(id, round, 3.1);
      const gaps = at.map((p, i) => distance(p, at[(i + 1) % at.length] as Point));
      expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThan(0.05);
      expect(at).toHaveLength(borderAlong(round, id, 3.1).pieces);
    },
  );
  it('every corner gets a piece, whatever the length of its sides', () => {
    for (const id of ['dots', 'pearls', 'stars'] as const)
      for (const mm of [2, 2.7, 4.3])
        for (const corner of square)
          expect(Math.min(...heads(id, square, mm).map((p) => distance(p, corner))), `${id} ${mm}`).toBeLessThan(0.01);
  });
  it('pearls touch, scallops bow outward, zigzag and waves are one closed stroke', () => {
    const pearls = heads('pearls', round, 3);
    expect(distance(pearls[0] as Point, pearls[1] as Point)).toBeCloseTo(3, 0);
    for (const s of borderAlong(round, 'scallops', 3).strokes)
      expect(Math.max(...s.points.map((p) => distance(p, { x: 40, y: 40 })))).toBeGreaterThan(31);
    for (const id of ['zigzag', 'waves'] as const) expect(borderAlong(round, id, 3).strokes.map((s) => s.closed)).toEqual([true]);
  });
  it('a star has eight points, a shell runs out under the head of the next', () => {
    const [star] = borderAlong(round, 'stars', 4).strokes;
    const middle = centroid([star?.points ?? []]);
    const far = (star?.points ?? []).map((p) => distance(p, middle));
    expect(far.filter((mm) => mm > 1.9)).toHaveLength(8);
    const shells = borderAlong(round, 'shells', 4).strokes;
    for (const [i, s] of shells.entries()) {
      const next = shells[(i + 1) % shells.length]?.points ?? [];
      expect(Math.min(...s.points.map((p) => distance(p, centroid([next]))))).toBeLessThan(1.2);
    }
  });
  it('each stays within its size of the edge', () => {
    for (const { id } of borders)
      for (const p of borderAlong(round, id, 3).strokes.flatMap((s) => s.points))
        expect(Math.abs(distance(p, { x: 40, y: 40 }) - 30), id).toBeLessThan(2.6);
  });
});

describe('a basket weave', () => {
  it('goes upright by upright, bars after each; all within its region, none shorter than 2 mm', () => {
    const region: Shape = [round];
    const { strokes } = weave(region, 2);
    expect(strokes.length).toBeGreaterThan(40);
    for (const s of strokes) {
      expect(polylineLengthMm(s.points)).toBeGreaterThanOrEqual(2);
      for (const p of s.points) expect(contains(region, p) && distanceToEdges(region, p) > 0.9).toBe(true);
    }
    // A hole is left open, whichever way its ring turns.
    const hole = round.map((p) => ({ x: 40 + (p.x - 40) / 3, y: 40 + (p.y - 40) / 3 }));
    for (const s of weave([round, hole], 2).strokes) for (const p of s.points) expect(distance(p, { x: 40, y: 40 })).toBeGreaterThan(10.9);
    const isUpright = strokes.map((s) => Math.abs((s.points[0]?.x ?? 0) - (s.points.at(-1)?.x ?? 0)) < 0.01);
    const length = strokes.reduce((sum, s) => sum + polylineLengthMm(s.points), 0);
    // Counted beforehand while it is drawn; ends at the edge are left out of it.
    expect(Math.abs(woveMm(areaMm2(region), 2) / length - 1)).toBeLessThan(0.2);
    // Between two uprights there are bars.
    expect(isUpright.filter((u, i) => u && isUpright[i + 1]).length).toBeLessThanOrEqual(1);
    expect(weave([square.map((p) => ({ x: p.x / 40, y: p.y / 40 }))], 2).strokes).toEqual([]);
  });
});
