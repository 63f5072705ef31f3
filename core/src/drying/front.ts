import { type Air, REFERENCE_AIR } from './air.js';
import { evaporationInAir, SURFACE_WATER_ACTIVITY } from './evaporation.js';
import { saturationPressurePa, vapourPressurePa } from './psychrometrics.js';
import { type Region, stateThresholds } from './state.js';

/**
 * Falling-rate drying behind a receding front: dm/dt = 1/(1/N + βm), hence t = m/N + βm²/2 in constant air
 * (the parabolic law of receding-front drying). m is water lost by a square metre, kg/m².
 */
export interface DryingRate {
  /** N, kg/m²s */
  readonly fluxKgPerM2S: number;
  /** β, s·m⁴/kg² */
  readonly resistance: number;
  readonly surfaceTempC: number;
}

/** One stretch of unchanging air; the last of a list may be endless. */
export interface AirPiece {
  readonly air: Air;
  readonly seconds: number;
}

export const REFERENCE_REGION: Region = { seconds: 15, depthMm: 2.5, on: 'cookie' };
/** The known time that fixes β₀: a 2.5 mm flood of 15 s icing is dry through after 8 h at the reference. */
const REFERENCE_DRY_S = 8 * 3600;

const driveAtAir = (air: Air): number =>
  SURFACE_WATER_ACTIVITY * saturationPressurePa(air.tempC) - vapourPressurePa(air.tempC, air.humidityFrac);

const referenceDrivePa = driveAtAir(REFERENCE_AIR);
const referenceResistance = (() => {
  const n = evaporationInAir(REFERENCE_AIR).fluxKgPerM2S;
  const m = stateThresholds(REFERENCE_REGION).dry;
  return (2 * (REFERENCE_DRY_S - m / n)) / (m * m);
})();

const cache = new Map<string, DryingRate>();
const ofAir = new WeakMap<Air, DryingRate>();

/** N and β of this air; remembered, since a plan asks for the same few airs thousands of times. */
export function dryingRate(air: Air): DryingRate {
  let rate = ofAir.get(air);
  if (!rate) {
    rate = rateByValue(air);
    ofAir.set(air, rate);
  }
  return rate;
}

function rateByValue(air: Air): DryingRate {
  const key = `${air.tempC}|${air.humidityFrac}|${air.airMPerS}`;
  const known = cache.get(key);
  if (known) return known;
  const e = evaporationInAir(air);
  const rate: DryingRate =
    e.fluxKgPerM2S > 0
      ? {
          fluxKgPerM2S: e.fluxKgPerM2S,
          resistance: (referenceResistance * referenceDrivePa) / e.driveAtAirPa,
          surfaceTempC: e.surfaceTempC,
        }
      : { fluxKgPerM2S: 0, resistance: 0, surfaceTempC: e.surfaceTempC };
  if (cache.size > 500) cache.clear();
  cache.set(key, rate);
  return rate;
}

/** Seconds to go from having lost `fromM` to having lost `toM` in constant air; Infinity where it never does. */
export function secondsToLose(rate: DryingRate, fromM: number, toM: number): number {
  if (toM <= fromM) return 0;
  if (rate.fluxKgPerM2S <= 0) return Number.POSITIVE_INFINITY;
  return (toM - fromM) / rate.fluxKgPerM2S + (rate.resistance * (toM * toM - fromM * fromM)) / 2;
}

/** Water lost after `seconds` more of constant air, having lost `fromM` before. */
export function lossAfter(rate: DryingRate, fromM: number, seconds: number): number {
  if (rate.fluxKgPerM2S <= 0 || seconds <= 0) return fromM;
  const inverse = 1 / rate.fluxKgPerM2S;
  // m/N + βm²/2 grows by `seconds`: the positive root of that quadratic, written so that it stays exact for small β.
  const c = fromM * inverse + (rate.resistance * fromM * fromM) / 2 + seconds;
  return (2 * c) / (inverse + Math.sqrt(inverse * inverse + 2 * rate.resistance * c));
}

/** Water that must be lost already, so that after `seconds` more of constant air `toM` is; 0 where that needs none. */
export function lossBefore(rate: DryingRate, toM: number, seconds: number): number {
  if (rate.fluxKgPerM2S <= 0 || seconds <= 0) return toM;
  const inverse = 1 / rate.fluxKgPerM2S;
  const c = toM * inverse + (rate.resistance * toM * toM) / 2 - seconds;
  return c <= 0 ? 0 : (2 * c) / (inverse + Math.sqrt(inverse * inverse + 2 * rate.resistance * c));
}

/** Water lost through a list of airs. */
export function lossThrough(pieces: readonly AirPiece[], fromM = 0): number {
  return pieces.reduce((m, p) => lossAfter(dryingRate(p.air), m, p.seconds), fromM);
}

/** Seconds until `toM` is lost through a list of airs; the last piece is taken as endless. */
export function secondsToLoseThrough(pieces: readonly AirPiece[], toM: number, fromM = 0): number {
  let m = fromM;
  let elapsedS = 0;
  for (const [i, p] of pieces.entries()) {
    const rate = dryingRate(p.air);
    const needS = secondsToLose(rate, m, toM);
    if (i === pieces.length - 1 || needS <= p.seconds) return elapsedS + needS;
    m = lossAfter(rate, m, p.seconds);
    elapsedS += p.seconds;
  }
  return m >= toM ? elapsedS : Number.POSITIVE_INFINITY;
}

/** Share of a covered layer's remaining loss that must leave through the layer above (*assumed*). */
const THROUGH_UPPER_LAYER = 0.35;

/** Threshold for *dry* of a layer laid on a base that had lost `baseLostM` by then: part of the base's water goes through it. */
export function dryThresholdOverBase(layer: Region, base: Region, baseLostM: number): number {
  const rest = Math.max(0, stateThresholds(base).dry - baseLostM);
  return stateThresholds(layer).dry + THROUGH_UPPER_LAYER * rest;
}
