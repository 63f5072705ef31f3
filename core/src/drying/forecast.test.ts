import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lossNeeded } from '../planning/timed-gap.js';
import { REFERENCE_AIR } from './air.js';
import { crackleWindow } from './crackle.js';
import { airBeforeFan, airInDehydrator, fanSpeedMPerS } from './fan.js';
import { timesInAir, timesToStates } from './forecast.js';
import { REFERENCE_REGION } from './front.js';
import { normalCdf } from './normal.js';
import { humidityRatio } from './psychrometrics.js';
import { dryingStates, stateThresholds } from './state.js';
import { margins, PRIOR_FACTORS } from './uncertainty.js';

describe('times with their spread', () => {
  it('the interval stands round the median, the plan at its margin: bold on it, normal and careful beyond', () => {
    for (const s of dryingStates) {
      const [bold, normal, careful] = margins.map((m) => timesInAir(REFERENCE_REGION, REFERENCE_AIR, m)[s]);
      expect(bold?.p10 as number).toBeLessThan(bold?.p50 as number);
      expect(bold?.p50 as number).toBeLessThan(bold?.p90 as number);
      expect(bold?.planned).toBeCloseTo(bold?.p50 as number, 6);
      expect(normal?.planned as number).toBeGreaterThan(bold?.planned as number);
      expect(careful?.planned as number).toBeGreaterThan(normal?.planned as number);
    }
  });
  it('no state is planned later than one above it: a thin coat that is firm through is set as well', () => {
    const ladder = ['thickening', 'skinned', 'crusted', 'set', 'firm', 'dry'] as const;
    for (const depthMm of [0.3, 0.6, 1, 2.5, 5])
      for (const margin of margins) {
        const t = timesInAir({ ...REFERENCE_REGION, depthMm }, REFERENCE_AIR, margin);
        for (const of of ['p10', 'p50', 'p90', 'planned'] as const) {
          const at = ladder.map((s) => t[s][of] as number);
          expect(at, `${depthMm} mm, ${margin}, ${of}`).toEqual([...at].sort((a, b) => a - b));
        }
      }
  });
  it('a wait for set is no longer than one for firm, at every margin, whatever was learned', () => {
    const slow = Object.fromEntries(
      dryingStates.map((s) => [s, { ...PRIOR_FACTORS[s], mean: s === 'set' ? 0.4 : 0 }]),
    ) as typeof PRIOR_FACTORS;
    const region = { ...REFERENCE_REGION, depthMm: 0.6 };
    const at = stateThresholds(region);
    const why = { from: 'a', to: 'b', rule: 'detail-rests-on', facts: { kind: 'prepared' } } as const;
    for (const margin of margins)
      for (const factors of [PRIOR_FACTORS, slow]) {
        const need = (state: 'set' | 'firm') =>
          lossNeeded({ ...why, minState: state, minLossKgPerM2: at[state], firmLossKgPerM2: at.firm }, margin, factors);
        expect(need('set')).toBeLessThanOrEqual(need('firm'));
      }
  });
  it('a whole layer is surer than a surface', () => {
    const t = timesInAir(REFERENCE_REGION, REFERENCE_AIR);
    expect((t.dry.p90 as number) / (t.dry.p10 as number)).toBeLessThan((t.crusted.p90 as number) / (t.crusted.p10 as number));
  });
  it('cut into pieces of the same air nothing changes; a fan later brings the states sooner (seed 5)', () =>
    fc.assert(
      fc.property(fc.double({ min: 10, max: 5000, noNaN: true }), (cutS) => {
        const whole = timesInAir(REFERENCE_REGION, REFERENCE_AIR);
        const end = { air: REFERENCE_AIR, seconds: Number.POSITIVE_INFINITY };
        const cut = timesToStates(REFERENCE_REGION, [{ air: REFERENCE_AIR, seconds: cutS }, end]);
        const fan = timesToStates(REFERENCE_REGION, [
          { air: REFERENCE_AIR, seconds: cutS },
          { ...end, air: airBeforeFan(REFERENCE_AIR, 0.5) },
        ]);
        for (const s of dryingStates) {
          expect(cut[s].p50).toBeCloseTo(whole[s].p50 as number, 4);
          expect(fan[s].p50 as number).toBeLessThanOrEqual((whole[s].p50 as number) + 1e-6);
        }
      }),
      { seed: 5, numRuns: 50 },
    ));
});

describe('fan and dehydrator', () => {
  it('close in front about 1 m/s (common practice), farther off less, a higher setting more', () => {
    expect(fanSpeedMPerS(0.5)).toBeCloseTo(1, 1);
    expect(fanSpeedMPerS(3.5)).toBeLessThan(fanSpeedMPerS(2));
    expect(fanSpeedMPerS(2, 'high')).toBeGreaterThan(fanSpeedMPerS(2, 'low'));
  });
  it('the dehydrator carries the room’s vapour in and never cools', () => {
    const dehydrator = airInDehydrator(REFERENCE_AIR, 35);
    expect(humidityRatio(35, dehydrator.humidityFrac)).toBeCloseTo(humidityRatio(22, 0.5), 9);
    expect(airInDehydrator(REFERENCE_AIR, 10).tempC).toBe(22);
  });
});

describe('crackle window', () => {
  it.each(margins)('%s: is not empty, lies inside the real one, and says how likely a blind touch is right', (margin) => {
    const w = crackleWindow(REFERENCE_REGION, REFERENCE_AIR, margin);
    const bold = crackleWindow(REFERENCE_REGION, REFERENCE_AIR, 'bold');
    expect((w?.shutsS ?? 0) - (w?.opensS ?? 0)).toBeGreaterThanOrEqual(((bold?.shutsS ?? 0) - (bold?.opensS ?? 0)) * (2 / 3) - 1e-9);
    expect(w?.opensS ?? 0).toBeGreaterThanOrEqual(bold?.opensS ?? 1);
    expect(w?.blindChance).toBeGreaterThan(0.3);
    expect(w?.blindChance).toBeLessThan(0.7);
  });
  it('never opens where nothing dries', () =>
    expect(crackleWindow(REFERENCE_REGION, { ...REFERENCE_AIR, humidityFrac: 0.9 }, 'bold')).toBeNull());
});

// Standard normal table.
it.each([
  [0, 0.5],
  [1, 0.841345],
  [-1.96, 0.024998],
  [2.5758, 0.995],
])('Φ(%f) = %f', (z, p) => expect(normalCdf(z)).toBeCloseTo(p, 5));
