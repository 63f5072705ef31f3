/** How much gel colour went into a recipe, and of which gels. */
export interface GelMix {
  /** g of gel in 100 g of icing; null where nobody weighed it */
  readonly gelGPer100G: number | null;
  readonly parts: readonly { readonly parts: number; readonly gel: string }[];
}

/** Grams of each gel for so much icing, by its parts; null where nobody weighed it. */
export function gelsFor(mix: GelMix, icingG: number): { readonly gel: string; readonly grams: number }[] | null {
  const { gelGPer100G } = mix;
  const all = mix.parts.reduce((s, p) => s + p.parts, 0);
  if (gelGPer100G === null || all === 0) return null;
  return mix.parts.map(({ gel, parts }) => ({ gel, grams: ((gelGPer100G * icingG) / 100) * (parts / all) }));
}
