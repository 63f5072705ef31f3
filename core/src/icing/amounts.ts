import { ICING_DENSITY_KG_PER_M3 } from './density.js';

/** Volumes in ml, masses in g. */
const ML_PER_MM3 = 1e-3;
const G_PER_ML = ICING_DENSITY_KG_PER_M3 / 1000;

export const gramsOf = (ml: number): number => ml * G_PER_ML;

/** Flooded area at its mean depth. */
export const floodMl = (areaMm2: number, depthMm: number): number => areaMm2 * depthMm * ML_PER_MM3;
/** A bead leaves the tip as a rod of its bore. */
export const beadMl = (lengthMm: number, boreMm: number): number => (Math.PI / 4) * boreMm * boreMm * lengthMm * ML_PER_MM3;

/**
 * Icing a wet drop leaves over its area, mm: injected at one point it stands as deep as half a flood; drawn as a ring and filled it
 * lies as a film. *Assumed*; that injected dots overfill and rings do not is common practice, no published source.
 */
const DROP_DEPTH_MM = { injected: 1.2, ring: 0.6 } as const;
export const dropDepthMm = (way: keyof typeof DROP_DEPTH_MM): number => DROP_DEPTH_MM[way];

/** Left in the bag and its tip, g: common practice, no published source. */
export const WASTE_G_PER_BAG = 15;
/** Wiped off, dripped and tried on paper, share of what goes on the cookies: common practice, no published source. */
export const WASTE_SHARE = 0.1;

/** What to mix for one bag: what lands on the cookies and what never does. */
export const withWasteG = (grams: number): number => grams * (1 + WASTE_SHARE) + WASTE_G_PER_BAG;
