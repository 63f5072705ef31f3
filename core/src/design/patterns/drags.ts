import type { Point } from '../../geometry/point.js';
import { msg } from '../../words/index.js';
import { acrossRoom, fromMiddleOut, onSection, type PatternAsk, type PatternStroke, pattern, type Room, turned } from './pattern.js';

/** Single pulls side by side, each the same way. */
const pulls = (room: Room, ask: PatternAsk, deg: number): PatternStroke[] =>
  fromMiddleOut(room.radiusMm, ask.spacingMm).flatMap((shift) => onSection(room, acrossRoom(room, deg, shift), 'drag', ask.sizeMm));
const backward = (s: PatternStroke): PatternStroke => ({ ...s, points: [...s.points].reverse() });
const radial = (room: Room, ask: PatternAsk): PatternStroke[] =>
  [...Array(ask.count).keys()].flatMap((i) => {
    const rim = turned({ x: room.middle.x + room.radiusMm, y: room.middle.y }, room.middle, ask.angleDeg + (360 * i) / ask.count);
    return onSection(room, [room.middle, rim], 'drag', ask.sizeMm).slice(0, 1);
  });

export const dragPatterns = [
  pattern({
    id: 'drag-straight',
    label: msg`pulled one way`,
    kind: 'drags',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    strokes: (room, ask) => pulls(room, ask, ask.angleDeg),
  }),
  pattern({
    id: 'drag-back-and-forth',
    label: msg`pulled back and forth`,
    kind: 'drags',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    strokes: (room, ask) =>
      [...pulls(room, ask, ask.angleDeg)]
        .sort((a, b) => sideways(room, ask, a) - sideways(room, ask, b))
        .map((s, i) => (i % 2 === 0 ? s : backward(s))),
  }),
  pattern({
    id: 'drag-radial-out',
    label: msg`pulled from the middle out`,
    kind: 'drags',
    heeds: ['sizeMm', 'count', 'angleDeg'],
    strokes: radial,
  }),
  pattern({
    id: 'drag-radial-in',
    label: msg`pulled from the rim in`,
    kind: 'drags',
    heeds: ['sizeMm', 'count', 'angleDeg'],
    strokes: (room, ask) => radial(room, ask).map(backward),
  }),
  pattern({
    id: 'drag-petals',
    label: msg`pulled along each petal`,
    kind: 'drags',
    heeds: ['sizeMm', 'count', 'angleDeg'],
    // Out along the middle of each petal, in between them.
    strokes: (room, ask) => [...radial(room, ask), ...radial(room, { ...ask, angleDeg: ask.angleDeg + 180 / ask.count }).map(backward)],
  }),
  pattern({
    id: 'drag-swirl',
    label: msg`swirled`,
    kind: 'drags',
    heeds: ['sizeMm', 'spacingMm', 'count'],
    strokes: (room, ask) => {
      const steps = 48 * ask.count;
      const way = [...Array(steps + 1).keys()].map((i): Point => {
        const a = (2 * Math.PI * i) / 48;
        const r = (ask.spacingMm * i) / 48;
        return { x: room.middle.x + r * Math.cos(a), y: room.middle.y + r * Math.sin(a) };
      });
      return onSection(room, way, 'drag', ask.sizeMm).slice(0, 1);
    },
  }),
  pattern({
    id: 'drag-second-pass',
    label: msg`a second pass across`,
    kind: 'drags',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    // Between the first pulls, the other way, as feathers are drawn.
    strokes: (room, ask) => [
      ...pulls(room, { ...ask, spacingMm: 2 * ask.spacingMm }, ask.angleDeg),
      ...fromMiddleOut(room.radiusMm, 2 * ask.spacingMm)
        .flatMap((shift) => onSection(room, acrossRoom(room, ask.angleDeg, shift + ask.spacingMm), 'drag', ask.sizeMm))
        .map(backward),
    ],
  }),
] as const;

/** How far to the side of the middle a pull lies, so that a continuous scribe goes on to its neighbour. */
function sideways(room: Room, ask: PatternAsk, s: PatternStroke): number {
  return turned(s.points[0] as Point, room.middle, -ask.angleDeg).y - room.middle.y;
}
