import { describe, expect, it } from 'vitest';
import { SimulatedScale } from './simulated-scale.js';

describe('the scale that ships', () => {
  const at = { ms: 0 };
  const scale = () => {
    at.ms = 0;
    return new SimulatedScale(() => at.ms);
  };
  it('swings, then settles on what lies on it, to a tenth of a gram', () => {
    const s = scale();
    s.put(203.27);
    at.ms += 100;
    const early = s.read();
    expect(early.settled).toBe(false);
    expect(Math.abs(early.grams - 203.3)).toBeGreaterThan(5);
    at.ms += 4000;
    expect(s.read()).toEqual({ grams: 203.3, settled: true });
  });
  it('tares, and its zero drifts a little and no further', () => {
    const s = scale();
    s.put(80);
    at.ms += 3000;
    s.tare();
    expect(s.read().grams).toBe(0);
    at.ms += 5 * 60_000;
    expect(s.read().grams).toBeGreaterThan(0);
    at.ms += 600 * 60_000;
    expect(s.read().grams).toBeLessThanOrEqual(0.3);
  });
  it('is the same for the same hand', () => {
    const play = () => {
      const s = scale();
      return [10, 14.2, 90].map((g) => {
        s.put(g);
        at.ms += 400;
        return s.read().grams;
      });
    };
    expect(play()).toEqual(play());
  });
});
