import { Z_90 } from '../drying/normal.js';

/** So many of so many, with the ends of its 80 % interval (Wilson, JASA 22, 1927, 209–212): a few cases say little, and this shows it. */
export interface Rate {
  readonly of: number;
  readonly all: number;
  readonly share: number;
  readonly least: number;
  readonly most: number;
}
export function rateOf(of: number, all: number): Rate {
  if (all === 0) return { of, all, share: 0, least: 0, most: 1 };
  const z2 = Z_90 * Z_90;
  const p = of / all;
  const middle = (p + z2 / (2 * all)) / (1 + z2 / all);
  const half = (Z_90 / (1 + z2 / all)) * Math.sqrt((p * (1 - p)) / all + z2 / (4 * all * all));
  return { of, all, share: p, least: Math.max(0, middle - half), most: Math.min(1, middle + half) };
}
