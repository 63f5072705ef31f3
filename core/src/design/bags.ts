import { colourDifference, lightnessAndChroma } from './contrast.js';

/** Colours nearer than this look alike on a cookie (CIEDE2000, Sharma, Wu & Dalal 2005). */
export const NEAR_COLOUR = 5;

/** Pairs of colours that might be one, so that no bag is mixed for one stem; nearest first. */
export function nearColours(colours: readonly string[]): { readonly a: string; readonly b: string; readonly difference: number }[] {
  const unique = [...new Set(colours)];
  return unique
    .flatMap((a, i) => unique.slice(i + 1).map((b) => ({ a, b, difference: colourDifference(a, b) })))
    .filter((p) => p.difference < NEAR_COLOUR)
    .sort((p, q) => p.difference - q.difference);
}

/** One bowl a colour, pale before dark so that a rinsed bowl does no harm; within it stiff before thin, since water is only ever added. */
export function mixingOrder<T extends { readonly colour: string; readonly seconds: number }>(
  bags: readonly T[],
): { readonly colour: string; readonly bags: readonly T[] }[] {
  const byColour = new Map<string, T[]>();
  for (const b of bags) byColour.set(b.colour, [...(byColour.get(b.colour) ?? []), b]);
  return [...byColour]
    .map(([colour, list]) => ({ colour, bags: [...list].sort((x, y) => y.seconds - x.seconds) }))
    .sort((p, q) => lightnessAndChroma(q.colour).lightness - lightnessAndChroma(p.colour).lightness);
}
