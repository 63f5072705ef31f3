import type { CookieOutcome } from '@kestfog/core/bench';
import type { SurfaceState } from '@kestfog/core/drying';

const OUTCOMES: Readonly<Record<CookieOutcome, string>> = {
  mended: 'mended',
  covered: 'covered',
  'to-cover': 'to be covered',
  left: 'left as it is',
  spare: 'out, a spare instead',
  shorter: 'out, one short',
  'tie-dye': 'now a tie-dye',
  again: 'begun again',
};
export const outcomeText = (outcome: CookieOutcome): string => OUTCOMES[outcome];

/** What a finger can tell apart, in the words of the ladder. */
export const SURFACES: readonly { readonly state: SurfaceState; readonly label: string }[] = [
  { state: 'wet', label: 'wet, it flows' },
  { state: 'skinned', label: 'a skin, it wrinkles' },
  { state: 'crusted', label: 'crusted, it dents' },
  { state: 'set', label: 'set, it holds a touch' },
  { state: 'firm', label: 'firm' },
  { state: 'dry', label: 'dry through' },
];

/** The nearest of those a finger can tell apart. */
export const stateToShow = (state: SurfaceState | undefined): SurfaceState => (state === 'thickening' ? 'wet' : (state ?? 'wet'));
