import { describe, expect, it } from 'vitest';
import { EVENINGS, honestyBins } from '../../test/honesty.js';

const OFF = 0.07;

describe(`the chance of being packed in time, against ${6 * EVENINGS} evenings`, () => {
  it('matches how often it comes true, in five bins', { timeout: 300_000 }, () => {
    const bins = honestyBins();
    console.log(bins.map((b) => `shown ${b.shown.toFixed(3)}, came true ${b.came.toFixed(3)} (${b.n})`).join('; '));
    for (const b of bins) expect([b, b.n >= 300, Math.abs(b.shown - b.came) <= OFF]).toEqual([b, true, true]);
  });
});
