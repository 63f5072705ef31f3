import { describe, expect, it } from 'vitest';
import { dryingStates } from '../drying/state.js';
import { type Rng, seededRng } from '../time/rng.js';
import { FACTOR_PRIOR, learnFactors, predictFactor, type TouchReport } from './drying-factors.js';
import { learnThinning, THINNING_PRIOR } from './thinning-curve.js';

/** Box & Muller 1958. */
const gauss = (rng: Rng) => Math.sqrt(-2 * Math.log(1 - rng())) * Math.cos(2 * Math.PI * rng());
const SEED = 2026;

describe(`drying factors learned from touches (seed ${SEED})`, () => {
  const SURFACE = ['thickening', 'skinned', 'crusted', 'crackleShut', 'set'] as const;
  it('in 200 kitchens × 10 reports the predictive 80 % intervals cover 74–86 %, and the order of states never breaks', () => {
    const rng = seededRng(SEED);
    let inside = 0;
    let asked = 0;
    let sharper = 0;
    for (let kitchen = 0; kitchen < 200; kitchen++) {
      const theta = 0.26 * gauss(rng);
      const delta = new Map(SURFACE.map((s) => [s, 0.15 * gauss(rng)]));
      const truth = (s: (typeof SURFACE)[number]) => Math.exp(theta + (delta.get(s) as number) + 0.18 * gauss(rng));
      const reports = [...Array(10).keys()].map((i): TouchReport => {
        const state = SURFACE[i % SURFACE.length] as (typeof SURFACE)[number];
        const f = truth(state);
        // A touch a little before, one a little after, now and then only one of them.
        const before = f * Math.exp(-0.3 * rng());
        const after = f * Math.exp(0.3 * rng());
        return { state, notYetRatio: rng() < 0.2 ? 0 : before, reachedRatio: rng() < 0.2 ? Number.POSITIVE_INFINITY : after };
      });
      const posterior = learnFactors(reports);
      for (const s of SURFACE) {
        const p = predictFactor(posterior, s);
        const next = truth(s);
        asked += 1;
        if (next >= p.p10 && next <= p.p90) inside += 1;
        const prior = predictFactor(FACTOR_PRIOR, s);
        if (p.p90 / p.p10 < prior.p90 / prior.p10) sharper += 1;
      }
    }
    expect(inside / asked).toBeGreaterThanOrEqual(0.74);
    expect(inside / asked).toBeLessThanOrEqual(0.86);
    expect(sharper).toBe(asked);
  });
  it('a kitchen that crusts a third early is found out, and whole layers keep to themselves', () => {
    const reports = [...Array(40).keys()].map((): TouchReport => ({ state: 'crusted', notYetRatio: 0.62, reachedRatio: 0.7 }));
    const posterior = learnFactors(reports);
    expect(predictFactor(posterior, 'crusted').p50).toBeCloseTo(0.66, 1);
    expect(predictFactor(posterior, 'set').p50).toBeLessThan(0.85);
    expect(predictFactor(posterior, 'dry').p50).toBe(1);
  });
  it('nothing learned is the prior; contradictions are survived', () => {
    for (const s of dryingStates) expect(predictFactor(learnFactors([]), s)).toEqual(predictFactor(FACTOR_PRIOR, s));
    const odd = learnFactors([
      { state: 'set', notYetRatio: 3, reachedRatio: Number.POSITIVE_INFINITY },
      { state: 'set', notYetRatio: 0, reachedRatio: 0.2 },
    ]);
    expect(Number.isFinite(predictFactor(odd, 'set').p90)).toBe(true);
  });
});

describe('thinning curves', () => {
  it('recover a recipe’s own line from weighed tests, and start at the prior', () => {
    const rng = seededRng(SEED);
    const tests = [...Array(30).keys()].map((i) => {
      const waterFrac = 0.19 + (0.06 * i) / 29;
      return { waterFrac, seconds: Math.exp(Math.log(18) - 70 * (waterFrac - 0.225) + 0.1 * gauss(rng)) };
    });
    const curve = learnThinning(tests);
    expect(Math.exp(curve.offset)).toBeCloseTo(18, -0.5);
    expect(Math.abs(curve.slope - 70)).toBeLessThan(3 * curve.sdSlope);
    expect(curve.sdSlope).toBeLessThan(THINNING_PRIOR.sdSlope / 5);
    expect(learnThinning([]).offset).toBeCloseTo(Math.log(15), 9);
    expect(learnThinning([]).slope).toBeCloseTo(55, 9);
  });
  it('one test is the conjugate closed form', () => {
    // At w = 0.225 only the offset is told: precision 1/0.4² + 1/0.1², mean weighted by precision.
    const c = learnThinning([{ waterFrac: 0.225, seconds: 20 }]);
    const [p0, p1] = [1 / 0.16, 1 / 0.01];
    expect(c.offset).toBeCloseTo((Math.log(15) * p0 + Math.log(20) * p1) / (p0 + p1), 12);
    expect(c.slope).toBeCloseTo(55, 12);
  });
});
