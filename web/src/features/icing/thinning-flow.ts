import { learnThinning, type ThinningCurve } from '@kestfog/core/calibration';
import { countAfterAdding, stiffToRescue, thinning } from '@kestfog/core/icing';
import type { ThinningStepView } from '@kestfog/core/wire';

/** Within this share of the wanted count a bag is as wanted: counting twice differs by a tenth. */
const GOOD_ENOUGH = 0.1;
/** Stiff icing kept for rescues, as it is mixed for piping. */
export const RESCUE_S = 60;

export type Advice =
  | {
      readonly kind: 'add';
      readonly firstG: number;
      readonly waterG: number;
      readonly ml: number;
      readonly firstDrops: number;
      readonly drops: number;
    }
  | { readonly kind: 'good' }
  | { readonly kind: 'too-loose'; readonly stiffG: number };

/** What to do with icing that counts `fromS` and should count `toS`; counts in reference seconds. */
export function adviceFor(grams: number, fromS: number, toS: number, slope: number): Advice {
  if (Math.abs(fromS / toS - 1) <= GOOD_ENOUGH) return { kind: 'good' };
  if (fromS < toS) return { kind: 'too-loose', stiffG: stiffToRescue(grams, fromS, toS, RESCUE_S, slope) };
  const t = thinning(grams, fromS, toS, slope);
  return {
    kind: 'add',
    firstG: t.firstG,
    waterG: t.waterG,
    ml: t.ml,
    firstDrops: Math.round(t.drops * (t.firstG / t.waterG)),
    drops: Math.round(t.drops),
  };
}

/** The curve of one recipe, from the steps weighed with it. */
export const curveOf = (steps: readonly ThinningStepView[], recipe: string): { readonly curve: ThinningCurve; readonly tests: number } => {
  const own = steps.filter((s) => s.recipe === recipe);
  return { curve: learnThinning([], own), tests: own.length };
};

/** What the icing will count once liquid colour went in: it thins like water. */
export const countWithColour = (grams: number, fromS: number, colourG: number, slope: number): number =>
  countAfterAdding(grams, fromS, colourG, slope);
