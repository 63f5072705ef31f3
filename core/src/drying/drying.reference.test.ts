import { describe, expect, it } from 'vitest';
import { type Air, REFERENCE_AIR, withFan } from './air.js';
import { evaporationInAir, SURFACE_WATER_ACTIVITY } from './evaporation.js';
import { dryingRate, dryThresholdOverBase, lossAfter, REFERENCE_REGION, secondsToLose } from './front.js';
import { dryingOutlook } from './outlook.js';
import { humidityAtTemp } from './psychrometrics.js';
import { type DryingState, type Region, stateThresholds } from './state.js';

const minutes = (state: DryingState, region: Partial<Region> = {}, air: Partial<Air> = {}): number => {
  const s = dryingOutlook({ ...REFERENCE_REGION, ...region }, { ...REFERENCE_AIR, ...air }).secondsTo[state];
  return s === null ? Number.POSITIVE_INFINITY : s / 60;
};
const between = (value: number, from: number, to: number) => {
  expect(value).toBeGreaterThanOrEqual(from);
  expect(value).toBeLessThanOrEqual(to);
};

describe('water activity', () => {
  // Norrish 1966: ln a_w = ln x_w − K x_s², K = 6.47 for sucrose; 66.7 g in 100 g (saturated at 20 °C) gives 0.853 ± 0.005.
  it('the held constant is that of a saturated sucrose solution', () => {
    const sucrose = 66.7 / 342.3;
    const water = 33.3 / 18.015;
    const xs = sucrose / (sucrose + water);
    expect(Math.abs((1 - xs) * Math.exp(-6.47 * xs * xs) - SURFACE_WATER_ACTIVITY)).toBeLessThan(0.008);
  });
});

describe('evaporation at the reference', () => {
  it('loses about 54 g/m²h from a surface at about 18 °C', () => {
    const e = evaporationInAir(REFERENCE_AIR);
    between(e.fluxKgPerM2S * 3.6e6, 52, 56);
    between(e.surfaceTempC, 17.5, 19);
  });
});

// Common practice, no published source.
describe('known times', () => {
  it('reference: a 15 s flood, 2.5 mm, 22 °C, 50 %, still air', () => {
    between(minutes('thickening'), 2, 3.5);
    between(minutes('skinned'), 4, 8);
    between(minutes('crusted'), 15, 30);
    between(minutes('set'), 50, 70);
    between(minutes('firm') / 60, 4, 6);
    between(minutes('dry') / 60, 6, 10);
  });
  it('22 s at 35 %', () => {
    between(minutes('thickening', { seconds: 22 }, { humidityFrac: 0.35 }), 1.3, 2.5);
    between(minutes('crusted', { seconds: 22 }, { humidityFrac: 0.35 }), 10, 15);
  });
  it('fan on the tray', () => {
    const fan = withFan(REFERENCE_AIR);
    expect(minutes('crusted', {}, fan)).toBeLessThanOrEqual(12);
    between(minutes('set', {}, fan), 25, 35);
    expect(minutes('dry') / minutes('dry', {}, fan)).toBeLessThan(minutes('crusted') / minutes('crusted', {}, fan));
  });
  it('dehydrator at 35 °C with the room’s own vapour', () => {
    const dehydrator: Air = { tempC: 35, humidityFrac: humidityAtTemp(22, 0.5, 35), airMPerS: 1 };
    between(minutes('crusted', {}, dehydrator), 2, 4);
    const lost = lossAfter(dryingRate(dehydrator), 0, 30 * 60);
    between(secondsToLose(dryingRate(REFERENCE_AIR), 0, lost) / 3600, 2, 4);
  });
  it('humid air: 65 %, 75 %, and never at 87 %', () => {
    between(minutes('crusted', {}, { humidityFrac: 0.65 }) / minutes('crusted'), 1.4, 2.2);
    between(minutes('crusted', {}, { humidityFrac: 0.75 }) / minutes('crusted'), 2.5, 4.5);
    const never = dryingOutlook(REFERENCE_REGION, { ...REFERENCE_AIR, humidityFrac: 0.87 });
    expect(never.secondsTo.crusted).toBeNull();
    expect(never.why.crusted?.code).toBe('humid');
    between(never.why.crusted?.limitHumidityPct ?? 0, 80, 86);
  });
  it('what takes longer than 72 h is called too slow', () => {
    expect(dryingOutlook(REFERENCE_REGION, { ...REFERENCE_AIR, humidityFrac: 0.84 }).why.dry).toMatchObject({
      code: 'tooSlow',
      limitMin: 4320,
    });
  });
  it('thin coats', () => {
    between(minutes('crusted', { depthMm: 0.5 }) / minutes('crusted'), 0.75, 1.25);
    expect(minutes('dry', { depthMm: 1 })).toBeLessThan(minutes('dry') / 2);
  });
  it('a 2 mm layer on a crusted 2.5 mm base is dry within 14 h', () => {
    const layer: Region = { ...REFERENCE_REGION, depthMm: 2 };
    const m = dryThresholdOverBase(layer, REFERENCE_REGION, stateThresholds(REFERENCE_REGION).crusted);
    between(secondsToLose(dryingRate(REFERENCE_AIR), 0, m) / 3600, 6, 14);
  });
  it('beads and transfers', () => {
    between(minutes('dry', { depthMm: 1.5, seconds: 60 }) / 60, 3, 6);
    between(minutes('skinned', { depthMm: 1.125, seconds: 30 }), 3, 10);
    for (const depthMm of [2, 2.5]) between(minutes('dry', { depthMm, seconds: 20, on: 'parchment' }) / 60, 11, 18);
  });
  it('the crackle window opens at crust and stays open 10–15 min', () => {
    between(minutes('crackleShut') - minutes('crusted'), 10, 15);
  });
  it('thinner icing reaches every state later', () => {
    for (const s of ['thickening', 'skinned', 'crusted', 'set', 'firm', 'dry'] as const)
      expect(minutes(s, { seconds: 10 })).toBeGreaterThan(minutes(s));
  });
});
