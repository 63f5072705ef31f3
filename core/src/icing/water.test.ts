import { describe, expect, it } from 'vitest';
import { gradeOfSeconds, grades } from './grade.js';
import { secondsFromWaterFrac, waterFracFromSeconds } from './water.js';

describe('consistency and water', () => {
  it('15 s is 22.5 % water, thinner icing holds more', () => {
    expect(waterFracFromSeconds(15)).toBe(0.225);
    expect(waterFracFromSeconds(6)).toBeGreaterThan(waterFracFromSeconds(20));
    for (const s of [1.5, 9, 40, 120]) expect(secondsFromWaterFrac(waterFracFromSeconds(s))).toBeCloseTo(s, 9);
  });
  it('thinning 200 g from 40 s to 15 s takes 4.60 g of water', () => {
    const [from, to] = [waterFracFromSeconds(40), waterFracFromSeconds(15)];
    expect((200 * (to - from)) / (1 - to)).toBeCloseTo(4.6, 1);
  });
  it('grades are half-open and cover the ladder without a gap', () => {
    for (const [i, g] of grades.entries()) {
      expect(gradeOfSeconds(g.fromS).id).toBe(g.id);
      if (i > 0) expect(g.fromS).toBe(grades[i - 1]?.toS);
    }
    expect(gradeOfSeconds(0.5).id).toBe('thin');
    expect(gradeOfSeconds(500).id).toBe('stiff');
  });
});
