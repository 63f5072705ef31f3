import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { homography } from '../geometry/homography.js';
import type { Point } from '../geometry/point.js';
import { boundingBox } from '../geometry/shape.js';
import { beamOf, IN_THE_MIDDLE, lightsOf, squareCorners } from './beam.js';

const hills = readDesign(readFileSync(new URL('../../test/fixtures/cards/hills.svg', import.meta.url), 'utf8'), 'Hills');

/** A projector that stands askew: its picture of 1,920 × 1,080 falls on a crooked four-sided place of the table, mm. */
const skewed = fc
  .array(fc.double({ min: -40, max: 40, noNaN: true }), { minLength: 8, maxLength: 8 })
  .map((d): readonly [Point, Point, Point, Point] => [
    { x: -260 + (d[0] as number), y: -150 + (d[1] as number) },
    { x: 260 + (d[2] as number), y: -150 + (d[3] as number) },
    { x: 260 + (d[4] as number), y: 150 + (d[5] as number) },
    { x: -260 + (d[6] as number), y: 150 + (d[7] as number) },
  ]);
const picture: readonly Point[] = [
  { x: 0, y: 0 },
  { x: 1920, y: 0 },
  { x: 1920, y: 1080 },
  { x: 0, y: 1080 },
];

describe('light on the table', () => {
  it('through any skewed projector every point of a cookie comes down within 0.3 mm of where it belongs', () => {
    fc.assert(
      fc.property(skewed, fc.array(fc.double({ min: -0.5, max: 0.5, noNaN: true }), { minLength: 8, maxLength: 8 }), (table, tremble) => {
        const falls = homography(picture, table) as (p: Point) => Point;
        const seen = homography(table, picture) as (p: Point) => Point;
        // The corners are dragged to where they light the printed ones, as well as pixels allow.
        const corners = squareCorners.map((c, i) => {
          const p = seen(c);
          return { x: p.x + (tremble[2 * i] as number) / 2, y: p.y + (tremble[2 * i + 1] as number) / 2 };
        });
        const beam = beamOf(corners) as (p: Point) => Point;
        for (const light of lightsOf(hills, null, { xMm: 12, yMm: -7, turnDeg: 20 }))
          for (const p of light.ring) {
            const down = falls(beam(p));
            expect(Math.hypot(down.x - p.x, down.y - p.y)).toBeLessThan(0.3);
          }
      }),
      { numRuns: 60, seed: 19 },
    );
  });
  it('corners in one line are no square, and a straight edge stays straight', () => {
    expect(beamOf([0, 1, 2, 3].map((x) => ({ x, y: x })))).toBeNull();
    const beam = beamOf([
      { x: 100, y: 90 },
      { x: 800, y: 140 },
      { x: 760, y: 700 },
      { x: 60, y: 640 },
    ]) as (p: Point) => Point;
    const [a, b, c] = [-40, 0, 40].map((x) => beam({ x, y: 10 })) as [Point, Point, Point];
    expect(Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x))).toBeLessThan(1e-6 * 700);
  });
  it('lights what is asked for at its true size, and the edge of the cookie always', () => {
    const of = (parts: readonly string[] | null) => lightsOf(hills, parts, IN_THE_MIDDLE);
    expect(of([]).every((l) => l.of === 'cookie')).toBe(true);
    expect(of(['far-hill']).filter((l) => l.of === 'part')).toHaveLength(1);
    const was = boundingBox(hills.cookie.flat());
    const is = boundingBox(of([]).flatMap((l) => [...l.ring]));
    expect([is.maxX - is.minX, is.maxY - is.minY, is.maxX + is.minX]).toEqual(
      [was.maxX - was.minX, was.maxY - was.minY, 0].map((v) => expect.closeTo(v, 6)),
    );
    const turned = boundingBox(lightsOf(hills, [], { ...IN_THE_MIDDLE, turnDeg: 90 }).flatMap((l) => [...l.ring]));
    expect(turned.maxX - turned.minX).toBeCloseTo(was.maxY - was.minY, 6);
  });
});
