import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { WetMark } from '../design/design.js';
import { intersection } from '../geometry/clip.js';
import { distance, type Point } from '../geometry/point.js';
import { areaMm2, contains, distanceToEdges, type Shape } from '../geometry/shape.js';
import { afterDrag } from './drag-field.js';
import { beforeDrop, pushedByDrop } from './drop-map.js';
import { Wall } from './wall.js';
import { pointsAlong, refined, wetPreview } from './wet-preview.js';

const SEED = 77;
const circle = (x: number, y: number, r: number, n = 96): Point[] =>
  [...Array(n).keys()].map((i) => ({ x: x + r * Math.cos((2 * Math.PI * i) / n), y: y + r * Math.sin((2 * Math.PI * i) / n) }));
const square: Shape = [
  [
    { x: 0, y: 0 },
    { x: 60, y: 0 },
    { x: 60, y: 60 },
    { x: 0, y: 60 },
  ],
];
const mark = (technique: WetMark['technique'], id: string, points: readonly Point[], widthMm = 1.5): WetMark => ({
  role: 'mark',
  id,
  name: id,
  technique,
  sectionId: 's',
  points,
  closed: technique === 'wet-drop',
  colour: '#000000',
  widthMm,
});
const drop = (id: string, x: number, y: number, r: number) => mark('wet-drop', id, circle(x, y, r));
const shapeOf = (p: ReturnType<typeof wetPreview>, id: string) => p.inks.filter((i) => i.markId === id).flatMap((i) => i.shape);
const within = (value: number, expected: number, share: number) => expect(Math.abs(value - expected) / expected).toBeLessThan(share);

// Lu, Jaffer, Jin, Zhao & Mao 2012: the drop map keeps area outside the drop.
describe('the drop map', () => {
  it(`keeps the area of whatever it pushes, and can be run back (seed ${SEED})`, () =>
    fc.assert(
      fc.property(
        fc.double({ min: -8, max: 8, noNaN: true }),
        fc.double({ min: -8, max: 8, noNaN: true }),
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        (x, y, r) => {
          const ring = circle(x, y, 3, 720);
          const centre = { x: 0, y: 0 };
          const pushed = ring.map((p) => pushedByDrop(p, centre, r));
          const inside = Math.hypot(x, y) < 3 ? Math.PI * r * r : 0;
          // A ring around the drop encloses the drop as well; one that the drop's centre cuts has no area to compare.
          if (Math.abs(Math.hypot(x, y) - 3) > 0.3) within(Math.abs(areaMm2([pushed])), Math.PI * 9 + inside, 0.01);
          for (const [i, p] of pushed.entries()) {
            const back = beforeDrop(p, centre, r);
            if (back) expect(distance(back, ring[i] as Point)).toBeLessThan(1e-6);
          }
        },
      ),
      { seed: SEED, numRuns: 200, endOnFailure: true },
    ));
  it('nothing was where the drop is now', () => expect(beforeDrop({ x: 0.5, y: 0 }, { x: 0, y: 0 }, 1)).toBeNull());
});

describe('a drag', () => {
  const way = [
    { x: 8, y: 30 },
    { x: 50, y: 31 },
  ];
  it('carries what is at its tip along with it, and leaves what is out of reach', () => {
    const end = afterDrag({ x: 8, y: 30 }, way, 1.5, null);
    expect(end.x).toBeGreaterThan(45);
    const far = { x: 30, y: 34 };
    expect(afterDrag(far, way, 1.5, null)).toEqual(far);
  });
  it(`keeps areas within 1 %, runs back to 0.1 mm, and lets nothing cross the edge (seed ${SEED})`, () => {
    const wall = new Wall(square);
    fc.assert(
      fc.property(
        fc.record({
          x: fc.double({ min: 4, max: 56, noNaN: true }),
          y: fc.double({ min: 24, max: 38, noNaN: true }),
          r: fc.double({ min: 1, max: 3, noNaN: true }),
          w: fc.double({ min: 0.8, max: 2, noNaN: true }),
          to: fc.double({ min: -4, max: 64, noNaN: true }),
        }),
        ({ x, y, r, w, to }) => {
          const stroke = [
            { x: 8, y: 30 },
            { x: to, y: 34 },
          ];
          for (const p of circle(x, y, r, 24)) {
            const moved = afterDrag(p, stroke, w, wall);
            expect(contains(square, moved) || distance(moved, p) < 0.01).toBe(true);
            expect(distance(afterDrag(moved, stroke, w, wall, true), p)).toBeLessThan(0.1);
            // The map's Jacobian is 1: a small square keeps its area.
            const h = 1e-7;
            const [right, down] = [afterDrag({ x: p.x + h, y: p.y }, stroke, w, wall), afterDrag({ x: p.x, y: p.y + h }, stroke, w, wall)];
            const det = ((right.x - moved.x) * (down.y - moved.y) - (right.y - moved.y) * (down.x - moved.x)) / (h * h);
            if (Math.min(distanceToEdges(square, p), distanceToEdges(square, moved)) > 1.5 + 2 * w) expect(Math.abs(det - 1)).toBeLessThan(0.01);
          }
        },
      ),
      { seed: SEED, numRuns: 25, endOnFailure: true },
    );
  });
});

describe('the wet preview', () => {
  it('a row of drops dragged through becomes a chain: each tongue reaches into the next, and none overlaps', () => {
    const drops = [0, 1, 2, 3].map((i) => drop(`d${i}`, 12 + 10 * i, 30, 3));
    const before = wetPreview(square, drops);
    const after = wetPreview(square, [
      ...drops,
      mark(
        'drag',
        'pull',
        [
          { x: 6, y: 30 },
          { x: 54, y: 30 },
        ],
        1.2,
      ),
    ]);
    const right = (p: typeof before, id: string) =>
      Math.max(
        ...shapeOf(p, id)
          .flat()
          .map((q) => q.x),
      );
    for (const i of [0, 1, 2]) {
      expect(right(after, `d${i}`)).toBeGreaterThan(right(before, `d${i}`) + 5);
      within(areaMm2(shapeOf(after, `d${i}`)), areaMm2(shapeOf(before, `d${i}`)), 0.01);
      expect(areaMm2(intersection(shapeOf(after, `d${i}`), shapeOf(after, `d${i + 1}`)))).toBeLessThan(0.3);
    }
  });
  it('a drop pushes its neighbours aside and keeps their area; a line does too', () => {
    const one = wetPreview(square, [drop('a', 28, 30, 3)]);
    const two = wetPreview(square, [drop('a', 28, 30, 3), drop('b', 33, 30, 3)]);
    within(areaMm2(shapeOf(two, 'a')), areaMm2(shapeOf(one, 'a')), 0.01);
    expect(areaMm2(intersection(shapeOf(two, 'a'), shapeOf(two, 'b')))).toBeLessThan(0.3);
    const lined = wetPreview(square, [
      drop('a', 28, 30, 3),
      mark('wet-line', 'l', [
        { x: 33, y: 20 },
        { x: 33, y: 40 },
      ]),
    ]);
    within(areaMm2(shapeOf(lined, 'a')), areaMm2(shapeOf(one, 'a')), 0.01);
    within(areaMm2(shapeOf(lined, 'l')), 20 * 1.5 + (Math.PI * 1.5 * 1.5) / 4, 0.02);
  });
  it('steps through the motions one by one, and says what the marks add', () => {
    const marks = [drop('a', 20, 30, 3), drop('b', 40, 30, 3)];
    expect(wetPreview(square, marks, 1).inks.map((i) => i.markId)).toEqual(['a']);
    const all = wetPreview(square, marks);
    expect(all.motions).toBe(2);
    expect(all.addedMl).toBeCloseTo((2 * Math.PI * 9 * 1.2) / 1000, 2);
    expect(all.riseMm).toBeCloseTo((all.addedMl * 1000) / 3600, 9);
  });
  it('what would lie outside the section is cut at its edge', () => {
    const p = wetPreview(square, [drop('edge', 1, 30, 3)]);
    for (const q of shapeOf(p, 'edge').flat()) expect(q.x).toBeGreaterThanOrEqual(-1e-6);
  });
});

it('points are spread evenly, and no edge stays too long', () => {
  const chain = [
    { x: 0, y: 0 },
    { x: 4, y: 0 },
    { x: 4, y: 4 },
  ];
  expect(pointsAlong(chain, 4).map((p) => [p.x, p.y])).toEqual([
    [1, 0],
    [3, 0],
    [4, 1],
    [4, 3],
  ]);
  const ring = refined(square[0] as Point[], 1);
  for (const [i, p] of ring.entries()) expect(distance(p, ring[(i + 1) % ring.length] as Point)).toBeLessThanOrEqual(1 + 1e-9);
});
