import { readDesign } from '@kestfog/core/design';
import { type Plan, parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import { describe, expect, it } from 'vitest';
import { bandOf, shelvesOf } from './shelves.js';
import { foldedAxis } from './time-axis.js';

const pennant = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="70mm" height="50mm" viewBox="0 0 70 50"><path id="hoist" d="M5 5H30V45H5Z" fill="#1f4e79"/><path id="fly" d="M30 5L65 25L30 45Z" fill="#f2c14e"/></svg>',
  'Pennant',
);
const order = parseOrder({
  format: 'kestfog-order/3',
  designs: [{ file: 'pennant.svg', count: 7 }],
  trays: [
    { id: 'A', places: 4 },
    { id: 'B', places: 4 },
  ],
  openingHours: [
    ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
    ['2026-06-06T07:00:00Z', '2026-06-06T19:00:00Z'],
  ],
});
const plan: Plan = planOrder({ order, designs: [pennant], passes: 30 });

describe('the rack’s time axis', () => {
  it('runs to the right without turning back, folds the night, and fills the width', () => {
    const axis = foldedAxis(plan, 1000);
    const xs = [...Array(400).keys()].map((i) => axis.scale((plan.endS * i) / 399));
    for (const [i, x] of xs.entries()) if (i > 0) expect(x).toBeGreaterThanOrEqual(xs[i - 1] as number);
    expect(axis.folds.filter((f) => f.night)).toHaveLength(1);
    expect(axis.width).toBeGreaterThanOrEqual(995);
    expect(foldedAxis(plan, 1000, 4).width).toBeGreaterThan(axis.width * 2);
  });
  it('no task lies inside a fold, and ticks lie outside them', () => {
    const axis = foldedAxis(plan, 1000);
    for (const f of axis.folds) {
      for (const t of plan.tasks) expect(t.endS <= f.fromS || t.startS >= f.toS).toBe(true);
      for (const t of axis.ticks) expect(t <= f.fromS || t >= f.toS).toBe(true);
    }
  });
});

describe('shelves', () => {
  it('hold every cookie and every task once', () => {
    const shelves = shelvesOf(plan);
    expect(shelves.map((s) => s.rows.reduce((n, r) => n + r.lot.cookies, 0))).toEqual([4, 3]);
    expect(shelves.flatMap((s) => s.rows.flatMap((r) => r.tasks)).length + shelves.flatMap((s) => s.carries).length).toBe(
      plan.tasks.length,
    );
  });
  it('one band for all rounds: without a gap or an overlap, each round until the next is laid', () => {
    for (const row of shelvesOf(plan).flatMap((s) => s.rows)) {
      const band = bandOf(row.strips);
      band.forEach((s, i) => {
        const next = band[i + 1];
        if (next) expect(next.fromS).toBeCloseTo(s.toS, 6);
        expect(s.toS).toBeGreaterThan(s.fromS);
      });
      expect(band.map((s) => s.round)).toEqual([...band.map((s) => s.round)].sort((a, b) => a - b));
      expect([band[0]?.fromS, band.at(-1)?.toS]).toEqual([row.strips[0]?.segments[0]?.fromS, row.strips.at(-1)?.segments.at(-1)?.toS]);
    }
  });
  it('a round’s finish goes up the ladder without a gap until the cookies are packed', () => {
    for (const row of shelvesOf(plan).flatMap((s) => s.rows)) {
      expect(row.strips).toHaveLength(2);
      for (const strip of row.strips) {
        expect(strip.segments[0]?.state).toBe('wet');
        expect(strip.segments.at(-1)?.state).toBe('dry');
        strip.segments.forEach((s, i) => {
          const next = strip.segments[i + 1];
          if (next) expect(next.fromS).toBeCloseTo(s.toS, 6);
        });
      }
    }
  });
});
