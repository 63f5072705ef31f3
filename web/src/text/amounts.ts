import type { Opening } from '@kestfog/core/steps';
import { fahrenheitFromCelsius, MM_PER_INCH } from '@kestfog/core/units';
import { msg } from '@kestfog/core/words';
import type { Units } from '../app/units.js';

/** NIST SP 811: the avoirdupois ounce. */
export const G_PER_OZ = 28.349523125;
/** NIST: US customary teaspoon. */
const ML_PER_TSP = 4.92892;
/** NIST SP 811: the international foot is 0.3048 m. */
export const FEET_PER_M = 1 / 0.3048;

/** "346 g" or "12.2 oz" */
export function grams(g: number, units: Units): string {
  if (units === 'us') return msg`${(g / G_PER_OZ).toFixed(g < 28 ? 2 : 1)} oz`;
  return g < 10 ? msg`${g.toFixed(1)} g` : msg`${Math.round(g)} g`;
}

/** "4.6 ml" or "0.93 tsp" */
export const smallVolume = (ml: number, units: Units): string =>
  units === 'us' ? msg`${(ml / ML_PER_TSP).toFixed(2)} tsp` : msg`${ml.toFixed(1)} ml`;

/** "1.5 mm" or "0.06 in" */
export const millimetres = (mm: number, units: Units): string =>
  units === 'us' ? msg`${(mm / MM_PER_INCH).toFixed(2)} in` : msg`${(Math.round(mm * 10) / 10).toString()} mm`;

/** "0.12 mm" or "0.005 in" */
export const fineLength = (mm: number, units: Units): string =>
  units === 'us' ? msg`${(mm / MM_PER_INCH).toFixed(3)} in` : msg`${mm.toFixed(2)} mm`;

/** "round tip 2 (1.5 mm), then tipless bag (2.5 mm)"; one name with several openings is named once */
export const openingsText = (openings: readonly Opening[], units: Units): string =>
  [...new Set(openings.map((o) => o.name))]
    .map(
      (name) =>
        `${name} (${openings
          .filter((o) => o.name === name)
          .map((o) => millimetres(o.openingMm, units))
          .join(msg`, then `)})`,
    )
    .join(msg`, then `);

/** "22 °C" or "72 °F" */
export const temperature = (c: number, units: Units): string =>
  units === 'us' ? `${Math.round(fahrenheitFromCelsius(c))} °F` : `${(Math.round(c * 10) / 10).toString()} °C`;

export const metres = (m: number, units: Units): string =>
  units === 'us' ? msg`${(m * FEET_PER_M).toFixed(1)} ft` : msg`${(Math.round(m * 100) / 100).toString()} m`;

export const speed = (mPerS: number, units: Units): string =>
  units === 'us' ? msg`${(mPerS * FEET_PER_M).toFixed(1)} ft/s` : msg`${mPerS.toFixed(1)} m/s`;

/** "22 °C, 50 %" */
export const airText = (tempC: number, humidityPct: number, units: Units): string =>
  `${temperature(tempC, units)}, ${Math.round(humidityPct)} %`;

/** A share as "82 %". */
export const percent = (share: number): string => `${Math.round(100 * share)} %`;
