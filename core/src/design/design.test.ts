import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { intersection } from '../geometry/clip.js';
import { areaMm2, contains, distanceToEdges, type Shape } from '../geometry/shape.js';
import { sectionsOf } from './design.js';
import { dividedShape } from './divide.js';
import { leastSpacingMm, type PatternAsk, patternIds, patterns, strokesOf } from './patterns/index.js';
import { readDesign } from './read-design.js';
import { startingDrawing, startingShapes } from './starting-shapes.js';

const ring = (points: readonly (readonly [number, number])[]): Shape => [points.map(([x, y]) => ({ x, y }))];
const square = ring([
  [0, 0],
  [60, 0],
  [60, 60],
  [0, 60],
]);
const round: Shape = [
  [...Array(120).keys()].map((i) => ({ x: 40 + 40 * Math.cos((Math.PI * i) / 60), y: 40 + 40 * Math.sin((Math.PI * i) / 60) })),
];
const ask: PatternAsk = { sizeMm: 3, spacingMm: 8, angleDeg: 0, count: 6, seed: 4 };

describe('patterns that know icing', () => {
  it('each lays strokes that stay on the section, again the same for the same numbers', () => {
    expect(new Set(patternIds).size).toBe(patterns.length);
    for (const id of patternIds) {
      const strokes = strokesOf(id, round, ask, 15);
      expect(strokes.length, id).toBeGreaterThan(0);
      for (const p of strokes.flatMap((s) => s.points)) expect(contains(round, p), id).toBe(true);
      expect(strokesOf(id, round, ask, 15)).toEqual(strokes);
    }
  });
  it('spacing allows for spread: loose icing is kept farther apart than outline icing', () => {
    expect(leastSpacingMm(3, 12)).toBeGreaterThan(leastSpacingMm(3, 30));
    const tight = { ...ask, spacingMm: 1 };
    for (const id of ['dots-grid', 'dots-staggered', 'dots-scattered'] as const) {
      const middles = strokesOf(id, round, tight, 12).map((s) =>
        s.points.reduce((c, p) => ({ x: c.x + p.x / s.points.length, y: c.y + p.y / s.points.length }), { x: 0, y: 0 }),
      );
      for (const [i, a] of middles.entries())
        for (const b of middles.slice(i + 1)) expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThanOrEqual(leastSpacingMm(3, 12) - 0.01);
    }
  });
  it('staggered dots hold more than a grid, from the middle out begins in the middle, a plaid has two sizes', () => {
    expect(strokesOf('dots-staggered', round, ask, 15).length).toBeGreaterThan(strokesOf('dots-grid', round, ask, 15).length);
    expect(new Set(strokesOf('plaid', square, ask, 15).map((s) => s.sizeMm)).size).toBe(2);
    expect(strokesOf('drag-radial-out', round, ask, 15)).toHaveLength(6);
    const [out] = strokesOf('drag-radial-out', round, ask, 15);
    const [back] = strokesOf('drag-radial-in', round, ask, 15);
    expect(back?.points).toEqual([...(out?.points ?? [])].reverse());
    const pulls = strokesOf('drag-back-and-forth', square, ask, 15);
    expect(Math.sign((pulls[0]?.points.at(-1)?.x ?? 0) - (pulls[0]?.points[0]?.x ?? 0))).toBe(
      -Math.sign((pulls[1]?.points.at(-1)?.x ?? 0) - (pulls[1]?.points[0]?.x ?? 0)),
    );
  });
});

describe('dividing a section', () => {
  it('thirds, quarters and sectors are equal on a square and a round, and nothing is lost', () => {
    for (const p of dividedShape(square, { way: 'stripes', parts: 3, angleDeg: 0 })) expect(areaMm2(p)).toBeCloseTo(1200, 3);
    for (const p of dividedShape(square, { way: 'radial', parts: 4, angleDeg: 45 })) expect(areaMm2(p)).toBeCloseTo(900, 3);
    const fifths = dividedShape(round, { way: 'radial', parts: 5, angleDeg: 20 });
    for (const p of fifths) expect(areaMm2(p)).toBeCloseTo(areaMm2(round) / 5, 0);
  });
  it('a drawn line parts it, begun inside or out', () => {
    const sides = dividedShape(square, {
      way: 'line',
      points: [
        { x: 10, y: 20 },
        { x: 50, y: 20 },
      ],
    });
    expect(sides.map((s) => Math.round(areaMm2(s)))).toEqual([1200, 2400]);
    expect(dividedShape(square, { way: 'line', points: [{ x: 1, y: 1 }] })).toHaveLength(1);
  });
  it('pieces never overlap and add up (seed 3)', () =>
    fc.assert(
      fc.property(
        fc.constantFrom('stripes' as const, 'radial' as const),
        fc.integer({ min: 2, max: 9 }),
        fc.integer({ min: 0, max: 359 }),
        (way, parts, angleDeg) => {
          const pieces = dividedShape(round, { way, parts, angleDeg });
          expect(pieces.reduce((s, p) => s + areaMm2(p), 0)).toBeCloseTo(areaMm2(round), 1);
          for (const [i, a] of pieces.entries())
            for (const b of pieces.slice(i + 1)) expect(areaMm2(intersection(a, b))).toBeLessThan(0.01);
        },
      ),
      { seed: 3, numRuns: 60, endOnFailure: true },
    ));
});

describe('starting shapes', () => {
  it.each(startingShapes)('$id reads as one section with a bare rim', (shape) => {
    const design = readDesign(startingDrawing(shape, '#f6f3ea'), shape.label);
    expect(sectionsOf(design).map((s) => s.name)).toEqual(['base']);
    const [base] = sectionsOf(design);
    expect(areaMm2(base?.shape ?? [])).toBeLessThan(areaMm2(design.cookie));
    for (const p of base?.shape.flat() ?? []) expect(contains(design.cookie, p) || distanceToEdges(design.cookie, p) < 0.3).toBe(true);
    expect(design.notes).toEqual([]);
  });
});
