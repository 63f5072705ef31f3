import { offset } from '../../geometry/clip.js';
import { nearestOnSegment, type Point, polylineLengthMm } from '../../geometry/point.js';
import { placesAlong } from '../../geometry/way.js';
import { msg } from '../../words/index.js';
import {
  acrossRoom,
  circleWay,
  drop,
  fromMiddleOut,
  hasRoom,
  onSection,
  type PatternAsk,
  type PatternStroke,
  pattern,
  type Room,
  scattered,
  turned,
} from './pattern.js';

/** A scribe or a needle, mm: common practice, no published source. */
const SCRIBE_MM = 1;
/** A pull begins and ends so far beyond what it draws through, mm. */
const BEYOND_MM = 3;

const pull = (room: Room, way: readonly Point[]): PatternStroke[] => onSection(room, way, 'drag', SCRIBE_MM);
const backward = (s: PatternStroke): PatternStroke => ({ ...s, points: [...s.points].reverse() });
const at = (room: Room, deg: number, radiusMm: number): Point =>
  turned({ x: room.middle.x + radiusMm, y: room.middle.y }, room.middle, deg);
const around = (count: number): number[] => [...Array(count).keys()].map((i) => (360 * i) / count);

/** Lines side by side, from one edge to the other. */
const stripes = (
  room: Room,
  ask: PatternAsk,
  deg: number,
  colour = 0,
  sizeMm = ask.sizeMm,
  technique: PatternStroke['technique'] = 'wet-line',
): PatternStroke[] =>
  [...fromMiddleOut(room.radiusMm, ask.spacingMm)]
    .sort((a, b) => a - b)
    .flatMap((shift) => onSection(room, acrossRoom(room, deg, shift), technique, sizeMm, colour));
/** Pulls across them, side by side in order, as a hand works. */
const pullsAcross = (room: Room, deg: number, apartMm: number): PatternStroke[] =>
  [...fromMiddleOut(room.radiusMm, apartMm)].sort((a, b) => a - b).flatMap((shift) => pull(room, acrossRoom(room, deg, shift)));

const rings = (room: Room, ask: PatternAsk, count: number, colours: number): PatternStroke[] =>
  [...Array(count).keys()].flatMap((i) =>
    onSection(room, circleWay(room.middle, (i + 1) * ask.spacingMm), 'wet-line', ask.sizeMm, i % colours),
  );
/** Rings that reach nearly to the rim. */
const ringCount = (room: Room, ask: PatternAsk): number => Math.max(1, Math.floor((reachOf(room) - 1) / ask.spacingMm));
/** The largest circle about the middle that stays on the section. */
const reachOf = (room: Room): number =>
  Math.min(
    ...room.shape.flatMap((ring) =>
      ring.map((p, i) => {
        const q = nearestOnSegment(room.middle, p, ring[(i + 1) % ring.length] as Point);
        return Math.hypot(q.x - room.middle.x, q.y - room.middle.y);
      }),
    ),
  );

/** A piece of a circle. */
const arc = (c: Point, radiusMm: number, fromDeg: number, toDeg: number): Point[] =>
  [...Array(15).keys()].map((i) => {
    const a = ((fromDeg + ((toDeg - fromDeg) * i) / 14) * Math.PI) / 180;
    return { x: c.x + radiusMm * Math.cos(a), y: c.y + radiusMm * Math.sin(a) };
  });
const line = (points: readonly Point[], sizeMm: number, colour = 0): PatternStroke => ({
  technique: 'wet-line',
  points,
  closed: false,
  sizeMm,
  colour,
});
const drag = (points: readonly Point[]): PatternStroke => ({ technique: 'drag', points, closed: false, sizeMm: SCRIBE_MM, colour: 0 });
const lies = (room: Room, s: PatternStroke): boolean => s.points.every((p) => hasRoom(room, p, 0));

/** What is laid and pulled in one go: patterns of the trade (common practice, no published source). */
export const recipePatterns = [
  pattern({
    id: 'hearts',
    usual: [4, 8],
    label: msg`hearts`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    // Rows of dots, one pull through the middle of each row.
    strokes: (room, ask) => {
      const rows = [...fromMiddleOut(room.radiusMm, ask.spacingMm)]
        .sort((a, b) => a - b)
        .map((y) =>
          [...fromMiddleOut(room.radiusMm, ask.spacingMm * 1.25)]
            .sort((a, b) => a - b)
            .map((x) => turned({ x: room.middle.x + x, y: room.middle.y + y }, room.middle, ask.angleDeg))
            .filter((p) => hasRoom(room, p, ask.sizeMm + 2)),
        );
      const through = (row: readonly Point[]): PatternStroke[] => {
        const [first, last] = [row[0], row.at(-1)];
        if (!first || !last) return [];
        const along = (from: Point, by: number) => turned({ x: from.x + by, y: from.y }, from, ask.angleDeg);
        return pull(room, [along(first, -ask.sizeMm / 2 - BEYOND_MM), along(last, ask.sizeMm / 2 + BEYOND_MM)]).slice(0, 1);
      };
      return [...rows.flat().map((p) => drop(p, ask.sizeMm)), ...rows.flatMap(through)];
    },
  }),
  pattern({
    id: 'feathers',
    usual: [1.6, 6],
    label: msg`feathers`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    strokes: (room, ask) => [
      ...stripes(room, ask, ask.angleDeg),
      ...pullsAcross(room, ask.angleDeg + 90, Math.max(6, ask.spacingMm * 1.6)).map((s, i) => (i % 2 === 0 ? s : backward(s))),
    ],
  }),
  pattern({
    id: 'chevron',
    usual: [1.6, 5],
    label: msg`chevron`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    colours: ['lines', msg`every other line`],
    // All pulled one way first, then between them the other way.
    strokes: (room, ask) => {
      const lines = stripes(room, ask, ask.angleDeg).map((s, i) => ({ ...s, colour: i % 2 }));
      const pulls = pullsAcross(room, ask.angleDeg + 90, Math.max(4, ask.spacingMm));
      return [...lines, ...pulls.filter((_, i) => i % 2 === 0), ...pulls.filter((_, i) => i % 2 === 1).map(backward)];
    },
  }),
  pattern({
    id: 'web',
    usual: [1.4, 7],
    label: msg`web`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'count', 'angleDeg'],
    strokes: (room, ask) => [
      ...rings(room, ask, ringCount(room, ask), 1),
      ...around(ask.count).flatMap((d) => pull(room, [room.middle, at(room, ask.angleDeg + d, room.radiusMm)]).slice(0, 1)),
    ],
  }),
  pattern({
    id: 'web-curled',
    usual: [1.4, 7],
    label: msg`web with a curl`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'count', 'angleDeg'],
    // Each pull bends to one side on its way out.
    strokes: (room, ask) => {
      const reach = reachOf(room);
      const curl = (deg: number) => [...Array(25).keys()].map((i) => at(room, ask.angleDeg + deg + 50 * (i / 24) ** 1.5, (reach * i) / 24));
      return [...rings(room, ask, ringCount(room, ask), 1), ...around(ask.count).flatMap((d) => pull(room, curl(d)).slice(0, 1))];
    },
  }),
  pattern({
    id: 'marble',
    usual: [1.6, 6],
    label: msg`marble`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg', 'seed'],
    colours: ['veins', msg`second veins`],
    strokes: (room, ask, rng) => {
      const wavy = (deg: number, shift: number, swing: number) => {
        const [a, b] = acrossRoom(room, deg, shift) as [Point, Point];
        const [p, q] = [rng() * 6.3, 1.5 + rng() * 2];
        return [...Array(31).keys()].map((i) => {
          const t = i / 30;
          const off = swing * Math.sin(p + q * t * 6.3);
          const middle = { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t };
          return { x: middle.x - off * Math.sin((deg * Math.PI) / 180), y: middle.y + off * Math.cos((deg * Math.PI) / 180) };
        });
      };
      const shifts = [...fromMiddleOut(room.radiusMm, ask.spacingMm)].sort((a, b) => a - b);
      return [
        ...shifts.flatMap((shift, i) =>
          onSection(room, wavy(ask.angleDeg, shift, ask.spacingMm * 0.4), 'wet-line', ask.sizeMm * (0.6 + 0.8 * rng()), i % 2),
        ),
        ...shifts.filter((_, i) => i % 2 === 0).flatMap((shift) => pull(room, wavy(ask.angleDeg + 75, shift, ask.spacingMm * 0.9))),
      ];
    },
  }),
  ...(['out', 'in'] as const).map((way) =>
    pattern({
      id: `tie-dye-${way}`,
      usual: [3, 5],
      label: way === 'out' ? msg`tie-dye, pulled out` : msg`tie-dye, pulled in`,
      kind: 'recipes',
      heeds: ['sizeMm', 'spacingMm', 'count', 'angleDeg'],
      colours: [msg`first rings`, msg`second rings`, msg`third rings`],
      strokes: (room, ask) => {
        const spokes = around(ask.count).flatMap((d) => pull(room, [room.middle, at(room, ask.angleDeg + d, room.radiusMm)]).slice(0, 1));
        return [...rings(room, ask, ringCount(room, ask), 3), ...(way === 'out' ? spokes : spokes.map(backward))];
      },
    }),
  ),
  pattern({
    id: 'leopard',
    usual: [5, 11],
    label: msg`leopard`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'seed'],
    colours: ['blobs', msg`broken rings and fillers`],
    // Blobs of a middle tone, dark rings round them that do not close, small dark fillers between.
    strokes: (room, ask, rng) => {
      const blobs = scattered(room, ask.sizeMm * 1.6, Math.max(ask.spacingMm, ask.sizeMm * 2.1), rng, 60);
      const broken = blobs.flatMap((p) => {
        const [from, pieces] = [rng() * 360, rng() < 0.5 ? 2 : 3];
        return [...Array(pieces).keys()].map((i) =>
          line(arc(p, ask.sizeMm * 0.55, from + (360 * i) / pieces, from + (360 * i) / pieces + 300 / pieces - 40), ask.sizeMm * 0.3, 1),
        );
      });
      const fillers = scattered(room, ask.sizeMm * 0.5, ask.sizeMm, rng, 120).filter((p) =>
        blobs.every((b) => Math.hypot(b.x - p.x, b.y - p.y) > ask.sizeMm * 1.15),
      );
      return [
        ...blobs.map((p) => drop(p, ask.sizeMm)),
        ...broken.filter((s) => lies(room, s)),
        ...fillers.map((p) => drop(p, ask.sizeMm * 0.32, 1)),
      ];
    },
  }),
  pattern({
    id: 'plaid-woven',
    usual: [3, 10],
    label: msg`plaid, two under and one over`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    colours: [msg`under`, msg`second under`, msg`over`],
    strokes: (room, ask) => [
      ...stripes(room, ask, ask.angleDeg, 0),
      ...stripes(room, ask, ask.angleDeg + 90, 1),
      ...[...fromMiddleOut(room.radiusMm, ask.spacingMm)]
        .sort((a, b) => a - b)
        .flatMap((shift) =>
          onSection(room, acrossRoom(room, ask.angleDeg, shift + ask.spacingMm / 2), 'wet-line', Math.max(0.8, ask.sizeMm * 0.4), 2),
        ),
    ],
  }),
  pattern({
    id: 'plaid-layers',
    usual: [3, 10],
    label: msg`plaid in two layers`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'angleDeg'],
    colours: [msg`in the wet flood`, msg`over the crust`],
    strokes: (room, ask) => [
      ...stripes(room, ask, ask.angleDeg),
      ...stripes(room, ask, ask.angleDeg + 90, 1, Math.max(0.8, ask.sizeMm * 0.5), 'piped-line'),
    ],
  }),
  pattern({
    id: 'bubbles',
    usual: [8, 12],
    label: msg`bubbles`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'seed'],
    colours: ['bubbles', msg`light in them`],
    // Drawn as a ring and filled, so that they do not overfill; the light set off to one side.
    strokes: (room, ask, rng) => {
      const laid: { readonly p: Point; readonly size: number }[] = [];
      for (const scale of [1, 0.65, 0.4])
        for (const p of scattered(room, ask.sizeMm * scale + 1, ask.spacingMm * scale, rng, 40))
          if (laid.every((b) => Math.hypot(b.p.x - p.x, b.p.y - p.y) > (b.size + ask.sizeMm * scale) / 2 + 1.6))
            laid.push({ p, size: ask.sizeMm * scale });
      return [
        ...laid.map(({ p, size }): PatternStroke => ({ ...drop(p, size), way: 'ring' })),
        ...laid.map(({ p, size }) => drop({ x: p.x - size * 0.17, y: p.y - size * 0.17 }, size * 0.3, 1)),
      ];
    },
  }),
  pattern({
    id: 'roses',
    usual: [7, 16],
    label: msg`roses with leaves`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm', 'seed'],
    colours: [msg`petals`, msg`their darker turn`, msg`leaves`],
    // Two leaves pulled to a point, a drop between them, a darker turn swirled into it.
    strokes: (room, ask, rng) => {
      const roses = scattered(room, ask.sizeMm * 2.2, Math.max(ask.spacingMm, ask.sizeMm * 2.3), rng, 30);
      const parts = roses.map((p) => {
        const lean = rng() * 360;
        const side = (deg: number, by: number) => turned({ x: p.x + by, y: p.y }, p, lean + deg);
        const turn = [...Array(28).keys()].map((i) => turned({ x: p.x + ask.sizeMm * (0.08 + 0.25 * (i / 27)), y: p.y }, p, lean + 24 * i));
        return {
          leaves: [-25, 205].map((deg) => drop(side(deg, ask.sizeMm * 0.62), ask.sizeMm * 0.42, 2)),
          points: [-25, 205].map((deg) => drag([side(deg, ask.sizeMm * 0.62), side(deg, ask.sizeMm * 1.15)])),
          petals: [drop(p, ask.sizeMm)],
          turns: [
            line(
              turn.filter((_, i) => i % 2 === 0),
              ask.sizeMm * 0.16,
              1,
            ),
          ],
          swirls: [drag(turn.map((q) => turned(q, p, 40)))],
        };
      });
      // Bag by bag over all of them, as the hands go.
      return (['leaves', 'points', 'petals', 'turns', 'swirls'] as const)
        .flatMap((k) => parts.flatMap((r): PatternStroke[] => r[k]))
        .filter((s) => lies(room, s));
    },
  }),
  pattern({
    id: 'glow',
    usual: [2.2, 6],
    label: msg`glow round the border`,
    kind: 'recipes',
    heeds: ['sizeMm', 'spacingMm'],
    // A line along the edge, combed inward by short pulls.
    strokes: (room, ask) => {
      const border = offset(room.shape, -(ask.sizeMm / 2 + 1.4));
      return [
        ...border.map((ring): PatternStroke => ({ technique: 'wet-line', points: ring, closed: true, sizeMm: ask.sizeMm, colour: 0 })),
        ...border.flatMap((ring) =>
          combs(ring, Math.max(3, ask.spacingMm * 0.6), ask.sizeMm * 2 + 3).flatMap((way) => pull(room, way).slice(0, 1)),
        ),
      ];
    },
  }),
  pattern({
    id: 'joined-tones',
    usual: [3, 14],
    label: msg`joined tones`,
    kind: 'recipes',
    heeds: ['spacingMm', 'angleDeg'],
    colours: [msg`first tone`, msg`second tone`, msg`third tone`],
    // Bands of neighbouring tones, each join worked to and fro with the scribe.
    strokes: (room, ask) => {
      const wide = Math.max(4, ask.spacingMm);
      const shifts = [...Array(3).keys()].map((i) => (i - 1) * wide * 1.05);
      const bands = shifts.flatMap((shift, i) => onSection(room, acrossRoom(room, ask.angleDeg, shift), 'wet-line', wide * 0.72, i));
      const joins = [-0.5, 0.5].flatMap((k) => {
        const [a, b] = acrossRoom(room, ask.angleDeg, k * wide * 1.05) as [Point, Point];
        const n = Math.max(6, Math.round(Math.hypot(b.x - a.x, b.y - a.y) / 5));
        const [ux, uy] = [-Math.sin((ask.angleDeg * Math.PI) / 180), Math.cos((ask.angleDeg * Math.PI) / 180)];
        const way = [...Array(n + 1).keys()].map((i) => ({
          x: a.x + ((b.x - a.x) * i) / n + ux * (i % 2 === 0 ? -1 : 1) * wide * 0.32,
          y: a.y + ((b.y - a.y) * i) / n + uy * (i % 2 === 0 ? -1 : 1) * wide * 0.32,
        }));
        return pull(room, way);
      });
      return [...bands, ...joins];
    },
  }),
  pattern({
    id: 'bulls-eye-petals',
    usual: [6, 8],
    label: msg`bull’s-eye petals`,
    kind: 'recipes',
    heeds: ['sizeMm', 'count', 'angleDeg'],
    colours: [msg`outer drop`, msg`in it`, msg`in that`],
    // Drops in drops, pulled outward first and then inward between.
    strokes: (room, ask) => {
      const size = Math.min(2 * reachOf(room) - 3, Math.max(ask.sizeMm * 4, 12));
      const reach = size / 2 + BEYOND_MM;
      const out = (deg: number) => pull(room, [at(room, deg, size * 0.12), at(room, deg, reach)]).slice(0, 1);
      return [
        drop(room.middle, size),
        drop(room.middle, size * 0.66, 1),
        drop(room.middle, size * 0.34, 2),
        ...around(ask.count).flatMap((d) => out(ask.angleDeg + d)),
        ...around(ask.count).flatMap((d) => out(ask.angleDeg + d + 180 / ask.count).map(backward)),
      ];
    },
  }),
] as const;

/** Short ways from a border inward, evenly spread along it. */
function combs(ring: readonly Point[], apartMm: number, longMm: number): Point[][] {
  const way = [...ring, ring[0] as Point];
  const total = polylineLengthMm(way);
  const n = Math.max(3, Math.round(total / apartMm));
  const places = placesAlong(
    way,
    [...Array(n).keys()].map((k) => (k * total) / n),
  );
  // Outer rings turn from x to y: their inside lies to the left of their way.
  return places.map(({ at: p, along }) => [
    { x: p.x + along.y, y: p.y - along.x },
    { x: p.x - along.y * longMm, y: p.y + along.x * longMm },
  ]);
}
