import type { Units } from '../app/units.js';

/** NIST SP 811: the avoirdupois ounce. */
export const G_PER_OZ = 28.349523125;
/** NIST: US customary teaspoon. */
const ML_PER_TSP = 4.92892;

/** "346 g" or "12.2 oz" */
export function grams(g: number, units: Units): string {
  if (units === 'us') return `${(g / G_PER_OZ).toFixed(1)} oz`;
  return g < 10 ? `${g.toFixed(1)} g` : `${Math.round(g)} g`;
}

/** "4.6 ml" or "0.93 tsp" */
export const smallVolume = (ml: number, units: Units): string => (units === 'us' ? `${(ml / ML_PER_TSP).toFixed(2)} tsp` : `${ml.toFixed(1)} ml`);
