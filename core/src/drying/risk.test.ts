import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { colourDifference, lightnessAndChroma } from '../design/contrast.js';
import { type Air, REFERENCE_AIR } from './air.js';
import { airInDehydrator } from './fan.js';
import { dryingRate, secondsToLose } from './front.js';
import { bleedRisk, craterRisk, dentRisk, domeMm, overflowRisk, type PoolCase, ridgesRisk } from './risk.js';
import { stateThresholds } from './state.js';

const always = (air: Air) => [{ air, seconds: Number.POSITIVE_INFINITY }];
const pool = (mm: number, seconds: number, airs: PoolCase['airs'] = always(REFERENCE_AIR)): PoolCase => ({
  inscribedDiameterMm: mm,
  region: { seconds, depthMm: 2.5, on: 'cookie' },
  airs,
  underfilled: false,
  neighbourDry: false,
});
const field = { areaMm2: 1000, inscribedDiameterMm: 30, damBoreMm: 1.5, rings: 1 as const };
const t = stateThresholds({ seconds: 15, depthMm: 2.5, on: 'cookie' });
const setS = secondsToLose(dryingRate(REFERENCE_AIR), 0, t.set);
const blackOnWhite = (gapS: number) => {
  const [black, white] = [lightnessAndChroma('#000000'), lightnessAndChroma('#ffffff')];
  return bleedRisk({
    difference: colourDifference('#000000', '#ffffff'),
    lightnessStep: white.lightness - black.lightness,
    chroma: Math.max(black.chroma, white.chroma),
    gapS,
    setS,
    crustAfterS: 1200,
  });
};

// Cases of the trade: common practice, no published source.
describe('risks at their fixtures', () => {
  it('crater: an 8 mm pool in 10 s icing is likely, in 20 s with three minutes at 35 °C it is not, a wide one never', () => {
    expect(craterRisk(pool(8, 10)).risk).toBeGreaterThanOrEqual(0.6);
    expect(
      craterRisk(pool(8, 20, [{ air: airInDehydrator(REFERENCE_AIR, 35), seconds: 180 }, ...always(REFERENCE_AIR)])).risk,
    ).toBeLessThanOrEqual(0.3);
    expect(craterRisk(pool(40, 18)).risk).toBeLessThanOrEqual(0.15);
    expect(craterRisk(pool(8, 10)).reasons.length).toBeGreaterThan(1);
    expect(craterRisk(pool(8, 10)).bestChange).not.toBeNull();
  });
  it('bleed: black beside white after ten minutes, and after it has set', () => {
    expect(blackOnWhite(600).risk).toBeGreaterThanOrEqual(0.5);
    expect(blackOnWhite(setS).risk).toBeLessThanOrEqual(0.15);
    expect(blackOnWhite(600).bestChange).toBe('wait until the first side is set');
  });
  it('ridges: shaking beside a crust, not the scribe, and not beside what is still wet or firm', () => {
    expect(ridgesRisk({ levelling: 'shake', neighbourLossShare: 0.1 }).word).toBe('likely');
    expect(ridgesRisk({ levelling: 'scribe', neighbourLossShare: 0.1 }).word).toBe('low');
    expect(ridgesRisk({ levelling: 'shake', neighbourLossShare: 0 }).word).toBe('low');
    expect(ridgesRisk({ levelling: 'shake', neighbourLossShare: 1 }).word).toBe('low');
  });
  it('a plump flood of the reference depth holds behind the usual dam, where 0.8 mm of meniscus would have called it spilt', () => {
    expect(overflowRisk({ ...field, floodMl: 2.5, wetDetailsMl: 0 }).word).toBe('low');
    expect(2.5 / (0.75 * 1.5 + 0.8)).toBeGreaterThan(1.25);
    expect(domeMm(8)).toBeCloseTo(0.8, 1);
    expect(domeMm(60)).toBeCloseTo(1.75, 1);
  });
  it('overflow and dents', () => {
    expect(overflowRisk({ ...field, floodMl: 1.2, wetDetailsMl: 0 }).word).toBe('low');
    expect(overflowRisk({ ...field, floodMl: 3.4, wetDetailsMl: 0.6 }).word).toBe('likely');
    expect(dentRisk({ lossShare: 0.2, pressing: true }).word).toBe('likely');
    expect(dentRisk({ lossShare: 1.2, pressing: true }).word).toBe('low');
  });
});

const SEED = 8;
const d = (min: number, max: number) => fc.double({ min, max, noNaN: true });
describe(`risks rise with each driver (seed ${SEED})`, () => {
  const more = (low: { risk: number }, high: { risk: number }) => {
    expect(high.risk).toBeGreaterThanOrEqual(low.risk - 1e-12);
    expect(high.risk).toBeLessThanOrEqual(1);
  };
  it('crater', () =>
    fc.assert(
      fc.property(d(2, 40), d(0, 1), d(6, 40), d(0.5, 5), d(0.05, 0.8), (mm, x, seconds, depthMm, humidityFrac) => {
        const c: PoolCase = {
          ...pool(mm, seconds, always({ ...REFERENCE_AIR, humidityFrac })),
          region: { seconds, depthMm, on: 'cookie' },
        };
        more(craterRisk(c), craterRisk({ ...c, inscribedDiameterMm: mm * x }));
        more(craterRisk(c), craterRisk({ ...c, region: { ...c.region, seconds: 6 + (seconds - 6) * x } }));
        more(craterRisk(c), craterRisk({ ...c, region: { ...c.region, depthMm: depthMm + 3 * x } }));
        more(
          craterRisk(c),
          craterRisk({ ...c, airs: always({ ...REFERENCE_AIR, humidityFrac: humidityFrac + (0.84 - humidityFrac) * x }) }),
        );
        more(craterRisk(c), craterRisk({ ...c, underfilled: true, neighbourDry: true }));
      }),
      { seed: SEED, numRuns: 200 },
    ));
  it('bleed, overflow, dent', () =>
    fc.assert(
      fc.property(d(0, 100), d(0, 100), d(0, 130), d(0, 7200), d(0, 1), (difference, lightnessStep, chroma, gapS, x) => {
        const c = { difference, lightnessStep, chroma, gapS, setS: 3800, crustAfterS: 1500 };
        more(bleedRisk(c), bleedRisk({ ...c, gapS: gapS * x }));
        more(bleedRisk(c), bleedRisk({ ...c, crustAfterS: 1500 + 9000 * x }));
        more(bleedRisk({ ...c, difference: difference * x }), bleedRisk(c));
        more(bleedRisk({ ...c, chroma: chroma * x }), bleedRisk(c));
        const o = { areaMm2: 500, inscribedDiameterMm: 15, floodMl: 1.5 * x, wetDetailsMl: 0.1, damBoreMm: 1.5, rings: 1 as const };
        more(overflowRisk(o), overflowRisk({ ...o, wetDetailsMl: 0.4 }));
        more(overflowRisk(o), overflowRisk({ ...o, rings: 0 }));
        more(overflowRisk({ ...o, rings: 2 }), overflowRisk(o));
        more(overflowRisk(o), overflowRisk({ ...o, inscribedDiameterMm: 15 * x }));
        more(dentRisk({ lossShare: 1.4 * x, pressing: false }), dentRisk({ lossShare: 0.7 * x, pressing: true }));
      }),
      { seed: SEED, numRuns: 200 },
    ));
});
