import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areaMm2, difference, intersection, type Shape, shapeFromRings } from './index.js';
import { overlap } from './overlap.js';

const square = (x: number, y: number, side: number): Shape => [
  [
    { x, y },
    { x: x + side, y },
    { x: x + side, y: y + side },
    { x, y: y + side },
  ],
];
const bar = (x: number, y: number, w: number, h: number): Shape => [
  [
    { x, y },
    { x: x + w, y },
    { x: x + w, y: y + h },
    { x, y: y + h },
  ],
];

describe('whether shapes lie over each other', () => {
  it('is not said of those that only touch, along an edge or at a corner', () => {
    expect(overlap(square(0, 0, 10), square(10, 2, 5))).toBe(false);
    expect(overlap(square(0, 0, 10), square(10, 10, 5))).toBe(false);
    const cut = difference(square(0, 0, 10), square(6, 3, 8));
    expect(overlap(cut, square(6, 3, 8))).toBe(false);
  });
  it('is said of one within the other, and of threads that cross without a corner in each other', () => {
    expect(overlap(square(0, 0, 10), square(3, 3, 1))).toBe(true);
    expect(overlap(square(3, 3, 1), square(0, 0, 10))).toBe(true);
    expect(overlap(bar(0, 5, 20, 0.3), bar(8, 0, 0.3, 20))).toBe(true);
  });
  it('is not said of one within a hole of the other', () => {
    expect(overlap(difference(square(0, 0, 10), square(2, 2, 6)), square(3, 3, 2))).toBe(false);
  });
  it('agrees with what the two share, by the polygon package', () => {
    const star = fc
      .record({
        x: fc.integer({ min: 0, max: 20 }),
        y: fc.integer({ min: 0, max: 20 }),
        radii: fc.array(fc.integer({ min: 2, max: 9 }), { minLength: 3, maxLength: 12 }),
      })
      .map(({ x, y, radii }) =>
        shapeFromRings(
          [
            radii.map((r, i) => ({
              x: x + r * Math.cos((2 * Math.PI * i) / radii.length),
              y: y + r * Math.sin((2 * Math.PI * i) / radii.length),
            })),
          ],
          'nonzero',
        ),
      );
    let both = 0;
    fc.assert(
      fc.property(star, star, (a, b) => {
        const shared = areaMm2(intersection(a, b));
        // Hairs between outlines that only touch are neither here nor there.
        if (shared > 0 && shared < 0.05) return;
        if (shared > 0) both += 1;
        expect(overlap(a, b)).toBe(shared > 0);
      }),
      { seed: 1717, numRuns: 500 },
    );
    expect(both).toBeGreaterThan(50);
  });
});
