import { describe, expect, it } from 'vitest';
import { REFERENCE_AIR } from '../drying/air.js';
import { timesInAir } from '../drying/forecast.js';
import { REFERENCE_REGION } from '../drying/front.js';
import { dryingStates, stateThresholds } from '../drying/state.js';
import { PRIOR_FACTORS } from '../drying/uncertainty.js';
import { timeGap } from '../planning/timed-gap.js';
import { type Rng, seededRng } from '../time/rng.js';
import { FACTOR_PRIOR, factorsOf, learnFactors, predictFactor, type TouchReport } from './drying-factors.js';
import { learnThinning, THINNING_PRIOR } from './thinning-curve.js';
import { touchReportOf } from './touch.js';

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

describe('a touch', () => {
  it('at the median time is a ratio of one; the plan believes what was learned', () => {
    const median = (timesInAir(REFERENCE_REGION, REFERENCE_AIR).crusted.p50 as number) / 60;
    const touch = { state: 'crusted' as const, region: REFERENCE_REGION, air: REFERENCE_AIR, notYetMin: median, reachedMin: null };
    expect(touchReportOf(touch).notYetRatio).toBeCloseTo(1, 9);
    expect(touchReportOf(touch).reachedRatio).toBe(Number.POSITIVE_INFINITY);
    for (const s of dryingStates) {
      expect(factorsOf(FACTOR_PRIOR)[s].mean).toBeCloseTo(PRIOR_FACTORS[s].mean, 12);
      expect(factorsOf(FACTOR_PRIOR)[s].sigma).toBeCloseTo(PRIOR_FACTORS[s].sigma, 12);
    }
    const early = factorsOf(learnFactors(Array(6).fill(touchReportOf({ ...touch, notYetMin: null, reachedMin: median * 0.7 }))));
    const [book, own] = [undefined, early].map(
      (factors) => timesInAir(REFERENCE_REGION, REFERENCE_AIR, 'normal', factors ? { factors } : {}).crusted,
    );
    expect(own?.p50).toBeLessThan(book?.p50 as number);
    expect(own?.planned).toBeLessThan(book?.planned as number);
  });
  it('a count known by word alone widens the band, a weighed one does not', () => {
    const [sure, unsure] = [0, 0.4].map((countSpread) => timesInAir(REFERENCE_REGION, REFERENCE_AIR, 'normal', { countSpread }).crusted);
    expect(unsure?.p50).toBeCloseTo(sure?.p50 as number, 9);
    // A plan takes the count as it was said, and so does what is shown of it.
    expect(unsure?.planned).toBe(sure?.planned);
    const crust = {
      from: 'a',
      to: 'b',
      minState: 'crusted',
      minLossKgPerM2: stateThresholds(REFERENCE_REGION).crusted,
      rule: 'detail-rests-on',
    } as const;
    expect(timeGap({ ...crust, facts: { kind: 'prepared' } }, REFERENCE_AIR, 'normal').minS).toBe(Math.ceil(unsure?.planned as number));
    expect((unsure?.p90 as number) - (unsure?.p10 as number)).toBeGreaterThan((sure?.p90 as number) - (sure?.p10 as number));
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
  it('weighed steps alone recover the slope, whatever the recipe’s own water', () => {
    const rng = seededRng(SEED + 1);
    const steps = [...Array(40).keys()].map(() => {
      const fromS = 30 + 20 * rng();
      const addedG = 3 + 3 * rng();
      // A recipe 2 % wetter than the book’s at the same count, thinning by 70.
      const w1 = 0.245 - Math.log(fromS / 15) / 70;
      const w2 = (w1 * 200 + addedG) / (200 + addedG);
      const noise = Math.exp(0.1 * gauss(rng));
      return { grams: 200, addedG, fromS: fromS * noise, toS: fromS * Math.exp(-70 * (w2 - w1)) * Math.exp(0.1 * gauss(rng)) };
    });
    const curve = learnThinning([], steps);
    expect(Math.abs(curve.slope - 70)).toBeLessThan(3 * curve.sdSlope);
    expect(curve.sdSlope).toBeLessThan(THINNING_PRIOR.sdSlope / 3);
    expect(curve.offset).toBeCloseTo(THINNING_PRIOR.offset, 12);
  });
  it('one test is the conjugate closed form', () => {
    // At w = 0.225 only the offset is known: precision 1/0.4² + 1/0.1², mean weighted by precision.
    const c = learnThinning([{ waterFrac: 0.225, seconds: 20 }]);
    const [p0, p1] = [1 / 0.16, 1 / 0.01];
    expect(c.offset).toBeCloseTo((Math.log(15) * p0 + Math.log(20) * p1) / (p0 + p1), 12);
    expect(c.slope).toBeCloseTo(55, 12);
  });
});
