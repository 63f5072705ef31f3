import type { CookieOutcome } from '@kestfog/core/bench';
import type { SurfaceState } from '@kestfog/core/drying';
import { msg } from '@kestfog/core/words';

const OUTCOMES: Readonly<Record<CookieOutcome, string>> = {
  mended: msg`mended`,
  covered: msg`covered`,
  'to-cover': msg`to be covered`,
  left: msg`left as it is`,
  spare: msg`out, a spare instead`,
  shorter: msg`out, one short`,
  'tie-dye': msg`now a tie-dye`,
  again: msg`begun again`,
};
export const outcomeText = (outcome: CookieOutcome): string => OUTCOMES[outcome];

/** What a finger can tell apart, in the words of the ladder. */
export const SURFACES: readonly { readonly state: SurfaceState; readonly label: string }[] = [
  { state: 'wet', label: msg`wet, it flows` },
  { state: 'skinned', label: msg`a skin, it wrinkles` },
  { state: 'crusted', label: msg`crusted, it dents` },
  { state: 'set', label: msg`set, it holds a touch` },
  { state: 'firm', label: msg`firm` },
  { state: 'dry', label: msg`dry through` },
];

/** The nearest of those a finger can tell apart. */
export const stateToShow = (state: SurfaceState | undefined): SurfaceState => (state === 'thickening' ? 'wet' : (state ?? 'wet'));
