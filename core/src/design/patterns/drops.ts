import type { Point } from '../../geometry/point.js';
import { msg } from '../../words/index.js';
import { drop, fromMiddleOut, hasRoom, type PatternAsk, pattern, type Room, scattered, turned } from './pattern.js';

const lattice = (room: Room, ask: PatternAsk, rowMm: number, stagger: boolean): Point[] => {
  const { middle: m, radiusMm: r } = room;
  return fromMiddleOut(r, rowMm).flatMap((y) => {
    const odd = Math.abs(Math.round(y / rowMm)) % 2 === 1;
    return fromMiddleOut(r, ask.spacingMm).map((x) =>
      turned({ x: m.x + x + (stagger && odd ? ask.spacingMm / 2 : 0), y: m.y + y }, m, ask.angleDeg),
    );
  });
};
const placed = (room: Room, ask: PatternAsk, points: readonly Point[]) =>
  points.filter((p) => hasRoom(room, p, ask.sizeMm)).map((p) => drop(p, ask.sizeMm));

export const dropPatterns = [
  pattern({
    id: 'dots-grid',
    label: msg`dots in a grid`,
    kind: 'drops',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    strokes: (room, ask) => placed(room, ask, lattice(room, ask, ask.spacingMm, false)),
  }),
  pattern({
    id: 'dots-staggered',
    label: msg`dots, staggered`,
    kind: 'drops',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    // Rows of equilateral triangles, so that every neighbour is as far off.
    strokes: (room, ask) => placed(room, ask, lattice(room, ask, (ask.spacingMm * Math.sqrt(3)) / 2, true)),
  }),
  pattern({
    id: 'dots-scattered',
    label: msg`dots, scattered`,
    kind: 'drops',
    heeds: ['sizeMm', 'spacingMm', 'seed'],
    strokes: (room, ask, rng) => placed(room, ask, scattered(room, ask.sizeMm, ask.spacingMm, rng, 400)),
  }),
  pattern({
    id: 'dots-from-middle',
    label: msg`dots from the middle out`,
    kind: 'drops',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    strokes: (room, ask) => {
      const out: Point[] = [room.middle];
      for (let ring = 1; ring * ask.spacingMm <= room.radiusMm; ring++) {
        const r = ring * ask.spacingMm;
        const n = Math.max(3, Math.floor((2 * Math.PI * r) / ask.spacingMm));
        for (let i = 0; i < n; i++) out.push(turned({ x: room.middle.x + r, y: room.middle.y }, room.middle, ask.angleDeg + (360 * i) / n));
      }
      return placed(room, ask, out);
    },
  }),
  pattern({
    id: 'blobs-with-rings',
    label: msg`blobs with rings`,
    kind: 'drops',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    // Mid blob, a lighter one in it, a dark one in that: each dropped into the one before while it is wet.
    strokes: (room, ask) =>
      lattice(room, ask, ask.spacingMm, true)
        .filter((p) => hasRoom(room, p, ask.sizeMm))
        .flatMap((p) => [drop(p, ask.sizeMm), drop(p, ask.sizeMm * 0.6, 1), drop(p, ask.sizeMm * 0.3, 2)]),
  }),
  pattern({
    id: 'stacked-drops',
    label: msg`drops stacked (an eye)`,
    kind: 'drops',
    heeds: ['sizeMm'],
    strokes: (room, ask) => {
      const m = room.middle;
      const glint = { x: m.x - ask.sizeMm * 0.16, y: m.y - ask.sizeMm * 0.18 };
      return [drop(m, ask.sizeMm), drop(m, ask.sizeMm * 0.62, 1), drop(m, ask.sizeMm * 0.34, 2), drop(glint, ask.sizeMm * 0.16, 3)];
    },
  }),
] as const;
