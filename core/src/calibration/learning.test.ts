import { describe, expect, it } from 'vitest';
import { SPREAD } from '../drying/uncertainty.js';
import { seededRng } from '../time/rng.js';
import { factorsOf, learnFactors, predictFactor, type TouchReport } from './drying-factors.js';

const SEED = 1126;
const finger = (state: TouchReport['state'], notYetRatio: number, reachedRatio: number, day?: string): TouchReport => ({
  state,
  notYetRatio,
  reachedRatio,
  ...(day ? { day } : {}),
});

describe(`learning from touches, rightly (seed ${SEED})`, () => {
  it('only complaints push a kitchen up; with the silent successes beside them it stays where it is', () => {
    // Ten complaints among fifty waits planned for four in five: what a kitchen as in the book gives.
    const planned = Math.exp(0.84 * Math.hypot(SPREAD.common, SPREAD.state, SPREAD.day, SPREAD.cookie));
    const complaints = [...Array(10).keys()].map(() => finger('crusted', planned, Number.POSITIVE_INFINITY));
    const silent = [...Array(40).keys()].map(
      (): TouchReport => ({ state: 'crusted', notYetRatio: 0, reachedRatio: planned, silent: true }),
    );
    expect(predictFactor(learnFactors(complaints), 'crusted').p50).toBeGreaterThan(1.4);
    expect(predictFactor(learnFactors([...complaints, ...silent]), 'crusted').p50).toBeLessThan(1.3);
  });
  it('strong evidence far from the book still pulls: its likelihood has a slope however small it is', () => {
    const far = learnFactors([...Array(12).keys()].map((i) => finger('set', 2.6, 2.7, `day ${i}`)));
    const near = learnFactors([...Array(12).keys()].map((i) => finger('set', 1.6, 1.7, `day ${i}`)));
    expect(predictFactor(far, 'set').p50).toBeGreaterThan(predictFactor(near, 'set').p50 * 1.3);
    expect(predictFactor(far, 'set').p50).toBeGreaterThan(2.2);
  });
  it('what one day had in common is not taken for the kitchen: ten cookies of one day say less than ten days', () => {
    const oneDay = learnFactors([...Array(10).keys()].map(() => finger('crusted', 1.35, 1.45, 'monday')));
    const tenDays = learnFactors([...Array(10).keys()].map((i) => finger('crusted', 1.35, 1.45, `day ${i}`)));
    expect(factorsOf(oneDay).crusted.mean).toBeLessThan(factorsOf(tenDays).crusted.mean);
    expect(factorsOf(oneDay).crusted.sigma).toBeGreaterThan(factorsOf(tenDays).crusted.sigma);
  });
  it('a doubtful success moves the median by less than three in a hundred', () => {
    const early: TouchReport = { state: 'crusted', notYetRatio: 0, reachedRatio: 0.4, silent: true };
    expect(Math.abs(Math.log(predictFactor(learnFactors([early]), 'crusted').p50))).toBeLessThan(0.03);
    // The same said with a finger is believed.
    expect(predictFactor(learnFactors([{ ...early, silent: false }]), 'crusted').p50).toBeLessThan(0.8);
  });
  it('the spreads of a day and a cookie are together what the plan reckons with', () => {
    expect(Math.hypot(SPREAD.day, SPREAD.cookie)).toBeCloseTo(0.18, 2);
  });
  it('kitchens that are as the book says are still calibrated after twenty runs, and slow ones are found out', () => {
    const rng = seededRng(SEED);
    const gauss = () => Math.sqrt(-2 * Math.log(1 - rng())) * Math.cos(2 * Math.PI * rng());
    const margin = 0.8416;
    /** A kitchen whose true factor is known works so many runs; every wait is planned with what was learned until then. */
    const work = (truth: number, runs: number) => {
      const told: TouchReport[] = [];
      for (let run = 0; run < runs; run++) {
        const factors = factorsOf(learnFactors(told)).crusted;
        const planned = Math.exp(factors.mean + margin * factors.sigma);
        const day = SPREAD.day * gauss();
        for (let body = 0; body < 12; body++) {
          const own = truth * Math.exp(day + SPREAD.cookie * gauss());
          if (own <= planned) told.push({ state: 'crusted', notYetRatio: 0, reachedRatio: planned, silent: true, day: `run ${run}` });
          // Looked at again a fifth later, and so on until it has come.
          else {
            let at = planned;
            while (own > at * 1.2) at *= 1.2;
            told.push(finger('crusted', at, at * 1.2, `run ${run}`));
          }
        }
      }
      return predictFactor(learnFactors(told), 'crusted').p50 / truth;
    };
    const off = (truth: number, runs: number) =>
      [...Array(12).keys()].map(() => Math.abs(Math.log(work(truth, runs)))).sort((a, b) => a - b)[6] as number;
    expect(off(1, 20)).toBeLessThan(0.06);
    expect(off(1.35, 3)).toBeLessThan(0.12);
  });
});
