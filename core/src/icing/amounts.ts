import { ICING_DENSITY_KG_PER_M3 } from './density.js';

/** Volumes in ml, masses in g. */
const ML_PER_MM3 = 1e-3;
const G_PER_ML = ICING_DENSITY_KG_PER_M3 / 1000;

export const gramsOf = (ml: number): number => ml * G_PER_ML;

/** Flooded area: depth is the mean depth; a plump fill is told by a dome above 1. */
export const floodMl = (areaMm2: number, depthMm: number, dome = 1): number => areaMm2 * depthMm * dome * ML_PER_MM3;
/** A bead leaves the tip as a rod of its bore. */
export const beadMl = (lengthMm: number, boreMm: number): number => (Math.PI / 4) * boreMm * boreMm * lengthMm * ML_PER_MM3;

/** Left in the bag and its tip, g: common practice, no published source. */
export const WASTE_G_PER_BAG = 15;
/** Wiped off, dripped and tried on paper, share of what goes on the cookies: common practice, no published source. */
export const WASTE_SHARE = 0.1;

/** What to mix for one bag: what lands on the cookies and what never does. */
export const withWasteG = (grams: number): number => grams * (1 + WASTE_SHARE) + WASTE_G_PER_BAG;
