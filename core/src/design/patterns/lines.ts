import { msg } from '../../words/index.js';
import {
  acrossRoom,
  circleWay,
  fromMiddleOut,
  onSection,
  type PatternAsk,
  type PatternStroke,
  pattern,
  type Room,
  turned,
} from './pattern.js';

const stripes = (room: Room, ask: PatternAsk, deg: number, colour = 0): PatternStroke[] =>
  fromMiddleOut(room.radiusMm, ask.spacingMm).flatMap((shift) =>
    onSection(room, acrossRoom(room, deg, shift), 'wet-line', ask.sizeMm, colour),
  );

export const linePatterns = [
  pattern({
    id: 'stripes',
    label: msg`stripes`,
    kind: 'lines',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    strokes: (room, ask) => stripes(room, ask, ask.angleDeg),
  }),
  pattern({
    id: 'plaid',
    label: msg`plaid`,
    kind: 'lines',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    // Two lines under, one over looks woven.
    strokes: (room, ask) => [
      ...stripes(room, ask, ask.angleDeg),
      ...stripes(room, { ...ask, sizeMm: ask.sizeMm * 0.6 }, ask.angleDeg + 90, 1),
    ],
  }),
  pattern({
    id: 'rings',
    label: msg`rings`,
    kind: 'lines',
    heeds: ['sizeMm', 'spacingMm', 'count'],
    strokes: (room, ask) =>
      [...Array(ask.count).keys()].flatMap((i) => onSection(room, circleWay(room.middle, (i + 1) * ask.spacingMm), 'wet-line', ask.sizeMm)),
  }),
  pattern({
    id: 'arcs',
    label: msg`arcs`,
    kind: 'lines',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    // Rings about a point on the rim: scales, waves, a fan.
    strokes: (room, ask) => {
      const rim = turned({ x: room.middle.x, y: room.middle.y + room.radiusMm }, room.middle, ask.angleDeg);
      const n = Math.floor((2 * room.radiusMm) / ask.spacingMm);
      return [...Array(n).keys()].flatMap((i) => onSection(room, circleWay(rim, (i + 1) * ask.spacingMm), 'wet-line', ask.sizeMm));
    },
  }),
] as const;
