import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Air } from './air.js';
import { dryingRate, lossAfter, lossBefore, lossThrough, secondsToLose, secondsToLoseThrough } from './front.js';
import { TOO_SLOW_S } from './outlook.js';
import { dewPointC, saturationPressurePa } from './psychrometrics.js';
import { dryingStates, type Region, stateThresholds, surfaceStates } from './state.js';
import { margins, waitFactor, windowFactor } from './uncertainty.js';

const SEED = 20261124;
const air = fc.record({
  tempC: fc.double({ min: 5, max: 45, noNaN: true }),
  humidityFrac: fc.double({ min: 0.05, max: 0.85, noNaN: true }),
  airMPerS: fc.double({ min: 0, max: 5, noNaN: true }),
});
const region = fc.record({
  seconds: fc.double({ min: 1.5, max: 120, noNaN: true }),
  depthMm: fc.double({ min: 0.3, max: 10, noNaN: true }),
  on: fc.constantFrom('cookie' as const, 'parchment' as const),
});
const timeTo = (r: Region, a: Air, s: (typeof dryingStates)[number]) => secondsToLose(dryingRate(a), 0, stateThresholds(r)[s]);
// Beyond 72 h no time is ever given, and a drive of a billionth of a pascal is rounding.
const told = (s: number) => Math.min(s, TOO_SLOW_S);
const notSlower = (fast: number, slow: number): void => {
  expect(told(fast)).toBeLessThanOrEqual(told(slow) * (1 + 1e-9) + 1e-6);
};
const run = (property: fc.IProperty<[Region, Air, (typeof dryingStates)[number], number]>) =>
  fc.assert(property, { seed: SEED, numRuns: 400 });
const any = [region, air, fc.constantFrom(...dryingStates), fc.double({ min: 0, max: 1, noNaN: true })] as const;

describe(`drying is monotone (seed ${SEED})`, () => {
  it('drier air is never slower', () =>
    run(fc.property(...any, (r, a, s, x) => notSlower(timeTo(r, { ...a, humidityFrac: a.humidityFrac * x }, s), timeTo(r, a, s)))));
  it('more wind is never slower', () =>
    run(fc.property(...any, (r, a, s, x) => notSlower(timeTo(r, { ...a, airMPerS: a.airMPerS + 5 * x }, s), timeTo(r, a, s)))));
  it('warmer at the same dew point is never slower', () =>
    run(
      fc.property(...any, (r, a, s, x) => {
        const warm = a.tempC + (45 - a.tempC) * x;
        const humidityFrac = saturationPressurePa(dewPointC(a.tempC, a.humidityFrac)) / saturationPressurePa(warm);
        notSlower(timeTo(r, { ...a, tempC: warm, humidityFrac }, s), timeTo(r, a, s));
      }),
    ));
  it('a thinner layer is never slower', () =>
    run(fc.property(...any, (r, a, s, x) => notSlower(timeTo({ ...r, depthMm: Math.max(0.3, r.depthMm * x) }, a, s), timeTo(r, a, s)))));
  it('states keep their order whatever the depth', () =>
    run(
      fc.property(...any, (r, _air, _state, _x) => {
        const t = stateThresholds(r);
        const ladder = surfaceStates.slice(1).map((s) => t[s as keyof typeof t]);
        for (const [i, m] of ladder.entries()) if (i > 0) expect(m).toBeGreaterThanOrEqual(ladder[i - 1] as number);
      }),
    ));
});

describe('receding front', () => {
  it('the closed form is the integral of its own law', () => {
    const rate = dryingRate({ tempC: 24, humidityFrac: 0.45, airMPerS: 0.3 });
    let m = 0;
    const dtS = 0.5;
    for (let i = 0; i < 4 * 3600; i++) m += dtS / (1 / rate.fluxKgPerM2S + rate.resistance * m);
    expect(lossAfter(rate, 0, 2 * 3600)).toBeCloseTo(m, 4);
    // And back again.
    expect(lossBefore(rate, lossAfter(rate, 0.01, 1800), 1800)).toBeCloseTo(0.01, 10);
    expect(lossBefore(rate, 0.01, 1e9)).toBe(0);
  });
  it(`pieces of the same air are that air (seed ${SEED})`, () =>
    fc.assert(
      fc.property(air, fc.array(fc.double({ min: 1, max: 20_000, noNaN: true }), { minLength: 1, maxLength: 6 }), (a, cuts) => {
        const whole = cuts.reduce((x, y) => x + y, 0);
        expect(lossThrough(cuts.map((seconds) => ({ air: a, seconds })))).toBeCloseTo(lossAfter(dryingRate(a), 0, whole), 8);
      }),
      { seed: SEED },
    ));
  it('time through changing air is the inverse of loss through it', () => {
    const still = { tempC: 22, humidityFrac: 0.5, airMPerS: 0.1 };
    const pieces = [
      { air: still, seconds: 300 },
      { air: { ...still, airMPerS: 1 }, seconds: 600 },
      { air: still, seconds: 1e6 },
    ];
    const m = lossThrough([pieces[0], pieces[1], { air: still, seconds: 500 }] as typeof pieces);
    expect(secondsToLoseThrough(pieces, m)).toBeCloseTo(1400, 3);
  });
});

describe('margins', () => {
  it('are honest: a careful wait is longer, a careful window shorter', () => {
    for (const s of dryingStates) {
      expect(margins.map((m) => waitFactor(s, m))).toEqual([...margins.map((m) => waitFactor(s, m))].sort((a, b) => a - b));
      for (const m of margins) expect(waitFactor(s, m) * windowFactor(s, m)).toBeCloseTo(1, 12);
    }
    // ln F has the spread √(0.26² + 0.15² + 0.18²) = 0.350 on surfaces: the 80 % quantile is e^(0.8416·0.350).
    expect(waitFactor('crusted', 'normal')).toBeCloseTo(1.3426, 3);
  });
});
