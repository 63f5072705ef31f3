import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sectionsOf } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { startingDrawing, startingShapes } from '../design/starting-shapes.js';
import { homography, similarity } from '../geometry/homography.js';
import { distance, nearestOnSegment, type Point } from '../geometry/point.js';
import { boundingBox, contains, distanceToEdges, type Ring, type Shape } from '../geometry/shape.js';
import { stepped } from '../geometry/way.js';
import { seededRng } from '../time/rng.js';
import { CARD_MM, cutterOutline, cutterSvg } from './cutter.js';
import type { Pixels } from './trace.js';

/** A plane of millimetres seen by a camera that looks from the side: pinhole at 420 mm, turned about two axes. */
function camera(tiltDeg: number, aboutDeg: number) {
  const [t, a] = [(tiltDeg * Math.PI) / 180, (aboutDeg * Math.PI) / 180];
  const [far, focalPx] = [420, 2000];
  const [ux, uy] = [Math.cos(a), Math.sin(a)];
  const middle = { x: 105, y: 80 };
  return (p: Point): Point => {
    const [x, y] = [p.x - middle.x, p.y - middle.y];
    const [along, across] = [x * ux + y * uy, -x * uy + y * ux];
    const z = far + across * Math.sin(t);
    const flat = across * Math.cos(t);
    return { x: W / 2 + ((along * ux - flat * uy) * focalPx) / z, y: H / 2 + ((along * uy + flat * ux) * focalPx) / z };
  };
}
const [W, H] = [1000, 760];
const CARD = { x: 8, y: 100 };
const card: Ring = [
  CARD,
  { x: CARD.x + CARD_MM.width, y: CARD.y },
  { x: CARD.x + CARD_MM.width, y: CARD.y + CARD_MM.height },
  { x: CARD.x, y: CARD.y + CARD_MM.height },
];

/** A shape of the bench on paper under uneven light, beside a card: a baked cookie, or a cutter's wall of a millimetre. */
function photographed(outline: Ring, what: 'cookie' | 'cutter', see: (p: Point) => Point): Pixels {
  const rng = seededRng(11);
  const back = homography(card.map(see), card);
  if (!back) throw new Error('no view');
  const shape: Shape = [outline];
  const box = boundingBox(outline);
  const rgba = new Uint8ClampedArray(W * H * 4);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const p = back({ x: x + 0.5, y: y + 0.5 });
      const near = p.x > box.minX - 2 && p.x < box.maxX + 2 && p.y > box.minY - 2 && p.y < box.maxY + 2;
      const isIn = near && contains(shape, p);
      const isThere = isIn && (what === 'cookie' || distanceToEdges(shape, p) < 1);
      const colour = isThere
        ? what === 'cookie'
          ? [201, 150, 92]
          : [96, 100, 106]
        : contains([card], p)
          ? [40, 88, 140]
          : [236, 234, 228];
      const light = 0.72 + 0.28 * (x / W) - 0.1 * (y / H) + 0.05 * Math.sin(x / 300);
      const noise = (rng() - 0.5) * 14;
      rgba.set([...colour.map((v) => v * light + noise), 255], 4 * (y * W + x));
    }
  return { width: W, height: H, rgba };
}
/** A starting shape's own outline, beside the card, mm. */
const outlineOf = (id: string): Ring => {
  const shape = startingShapes.find((s) => s.id === id) ?? startingShapes[0];
  const ring = readDesign(startingDrawing(shape as (typeof startingShapes)[number], '#ffffff')).cookie[0] as Ring;
  return ring.map((p) => ({ x: p.x * 0.9 + 108, y: p.y * 0.9 + 12 }));
};
/** Root mean square of how far a ring lies off another, mm. */
function rmsMm(found: Ring, true_: Ring): number {
  const points = stepped([...found, found[0] as Point], 0.5);
  const off = points.map((p) =>
    Math.min(...true_.map((a, i) => distance(p, nearestOnSegment(p, a, true_[(i + 1) % true_.length] as Point)))),
  );
  return Math.sqrt(off.reduce((s, d) => s + d * d, 0) / off.length);
}

describe('a cutter or a cookie on a photograph', () => {
  it.each([
    ['leaf', 'cookie', 0, 0],
    ['leaf', 'cookie', 15, 40],
    ['scalloped', 'cookie', 15, 110],
    ['plaque', 'cutter', 15, 200],
    ['tag', 'cutter', 10, 300],
  ] as const)('%s, a %s, seen %d° from the side: within 0.7 mm by the corners of a card', (id, what, tilt, about) => {
    const see = camera(tilt, about);
    const true_ = outlineOf(id);
    const found = cutterOutline(photographed(true_, what, see), {
      way: 'card',
      corners: card.map(see),
      widthMm: CARD_MM.width,
      heightMm: CARD_MM.height,
    });
    const placed = found.ring.map((p) => ({ x: p.x + found.corner.x + CARD.x, y: p.y + found.corner.y + CARD.y }));
    expect(rmsMm(placed, true_)).toBeLessThan(0.7);
    expect(rmsMm(true_, placed)).toBeLessThan(0.7);
  });
  it.each([
    ['leaf', 'cookie', 0, 0],
    ['plaque', 'cutter', 5, 30],
  ] as const)('%s, a %s, seen %d° from the side: within 0.7 mm by two points and a length', (id, what, tilt, about) => {
    const see = camera(tilt, about);
    const true_ = outlineOf(id);
    const box = boundingBox(true_);
    const ends = [
      { x: box.minX, y: box.maxY + 6 },
      { x: box.maxX, y: box.maxY + 6 },
    ] as const;
    const found = cutterOutline(
      photographed(true_, what, see),
      { way: 'length', points: [see(ends[0]), see(ends[1])], lengthMm: box.maxX - box.minX },
      see({ x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 }),
    );
    const placed = found.ring.map((p) => ({ x: p.x + found.corner.x + ends[0].x, y: p.y + found.corner.y + ends[0].y }));
    expect(rmsMm(placed, true_)).toBeLessThan(0.7);
  });
  it('two points and a length cannot tell 15° from the side: another cutter gives the same photograph and the same length', () => {
    const [aside, above] = [camera(15, 0), camera(0, 0)];
    // Where a camera straight above sees what this one sees from the side.
    const back = homography(card.map(above), card) as (p: Point) => Point;
    const middle = { x: 105, y: 80 };
    const round = [...Array(90).keys()].map((i) => {
      const t = (i * 2 * Math.PI) / 90;
      return { x: middle.x + 42 * Math.cos(t), y: middle.y + 42 * Math.sin(t) };
    });
    const other = round.map((p) => back(aside(p)));
    for (const [i, p] of other.entries()) {
      const [one, two] = [above(p), aside(round[i] as Point)];
      expect(Math.hypot(one.x - two.x, one.y - two.y)).toBeLessThan(1e-6);
    }
    const breadth = (ring: readonly Point[]) => distance(ring[0] as Point, ring[45] as Point);
    expect(breadth(other)).toBeCloseTo(breadth(round), 6);
    const off = Math.sqrt(other.reduce((sum, p) => sum + (distance(p, middle) - 42) ** 2, 0) / other.length);
    // Whichever of the two is answered, it is wrong for the other by more than is asked: the corners of a card decide it.
    expect(off).toBeGreaterThan(0.7);
  });
  it('becomes a drawing of true size with room for icing', () => {
    const see = camera(8, 20);
    const true_ = outlineOf('leaf');
    const found = cutterOutline(photographed(true_, 'cookie', see), {
      way: 'card',
      corners: card.map(see),
      widthMm: CARD_MM.width,
      heightMm: CARD_MM.height,
    });
    const design = readDesign(cutterSvg(found, '#e9eef0'));
    const [own, is] = [boundingBox(true_), boundingBox(design.cookie.flat())];
    expect(is.maxY - is.minY).toBeCloseTo(own.maxY - own.minY, 0);
    expect(design.parts.map((p) => [p.id, p.role])).toEqual([['base', 'section']]);
    const rim = design.cookie[0] ?? [];
    for (const p of sectionsOf(design)[0]?.shape.flat() ?? []) expect(distanceToEdges([rim], p)).toBeGreaterThan(3.5);
  });
  it('says in one sentence what it cannot use', () => {
    const see = camera(0, 0);
    const empty = photographed(
      [
        { x: 0, y: 0 },
        { x: 0.1, y: 0 },
        { x: 0, y: 0.1 },
      ],
      'cookie',
      see,
    );
    const known = { way: 'card', corners: card.map(see), widthMm: CARD_MM.width, heightMm: CARD_MM.height } as const;
    expect(() => cutterOutline(empty, known)).toThrow(/No outline was found/);
    const leaf = photographed(outlineOf('leaf'), 'cookie', see);
    expect(() =>
      cutterOutline(leaf, { ...known, corners: [known.corners[0], known.corners[0], known.corners[1], known.corners[2]] as Point[] }),
    ).toThrow(/make no card/);
    expect(() =>
      cutterOutline(leaf, {
        way: 'length',
        points: [
          { x: 5, y: 5 },
          { x: 6, y: 5 },
        ],
        lengthMm: 80,
      }),
    ).toThrow(/lie on each other/);
    expect(() =>
      cutterOutline(leaf, {
        way: 'length',
        points: [
          { x: 5, y: 5 },
          { x: 900, y: 5 },
        ],
        lengthMm: 12,
      }),
    ).toThrow(/a cookie is 15 to 400 mm/);
  });
});

it('what fills half of the picture is no paper', () => {
  const rgba = new Uint8ClampedArray(400 * 300 * 4);
  for (let i = 0; i < 120_000; i++)
    rgba.set(
      [...(((i % 400) - 200) ** 2 / 175 ** 2 + (Math.floor(i / 400) - 150) ** 2 / 130 ** 2 < 1 ? [201, 150, 92] : [230, 228, 222]), 255],
      4 * i,
    );
  const found = cutterOutline(
    { width: 400, height: 300, rgba },
    {
      way: 'length',
      points: [
        { x: 0, y: 0 },
        { x: 400, y: 0 },
      ],
      lengthMm: 100,
    },
  );
  expect([found.widthMm, found.heightMm]).toEqual([expect.closeTo(87.5, 0), expect.closeTo(65, 0)]);
});

describe('planes', () => {
  it('a homography through a known perspective and back (seed 5)', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 0, max: 359 }),
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 0, max: 160 }),
        (tilt, about, x, y) => {
          const see = camera(tilt, about);
          const back = homography(card.map(see), card);
          const p = back?.(see({ x, y })) as Point;
          expect(distance(p, { x, y })).toBeLessThan(1e-6);
        },
      ),
      { seed: 5, numRuns: 60, endOnFailure: true },
    ));
  it('a similarity keeps angles and takes both points along', () => {
    const map = similarity(
      [
        { x: 1, y: 2 },
        { x: 4, y: 6 },
      ],
      [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
      ],
    );
    expect(map({ x: 4, y: 6 }).x).toBeCloseTo(10, 9);
    expect(map({ x: 1 - 4, y: 2 + 3 })).toEqual({ x: expect.closeTo(0, 9), y: expect.closeTo(10, 9) });
  });
});
