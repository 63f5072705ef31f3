import { converter, differenceCiede2000 } from 'culori';

const toLab = converter('lab65');
const toLch = converter('lch65');
const deltaE = differenceCiede2000();

/** Colour difference CIEDE2000 (Sharma, Wu & Dalal 2005) of two #rrggbb colours. */
export const colourDifference = (a: string, b: string): number => deltaE(a, b);
/** L* 0–100 and chroma of a #rrggbb colour. */
export function lightnessAndChroma(colour: string): { lightness: number; chroma: number } {
  return { lightness: toLab(colour)?.l ?? 0, chroma: toLch(colour)?.c ?? 0 };
}

/** Strong colour beside light: one would bleed into the other, so the wait is for *set*: common practice, no published source. */
export function strongContrast(a: string, b: string): boolean {
  if (colourDifference(a, b) < 40) return false;
  const [p, q] = [lightnessAndChroma(a), lightnessAndChroma(b)];
  return Math.abs(p.lightness - q.lightness) >= 30 || Math.max(p.chroma, q.chroma) >= 50;
}
