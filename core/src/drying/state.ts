import { ofOne } from '../geometry/remembered.js';
import { ICING_DENSITY_KG_PER_M3 } from '../icing/density.js';
import { waterFracFromSeconds } from '../icing/water.js';

/** The one ladder used everywhere. `wet` is where it begins and has no threshold. */
export const surfaceStates = ['wet', 'thickening', 'skinned', 'crusted', 'set', 'firm', 'dry'] as const;
export type SurfaceState = (typeof surfaceStates)[number];
/** States that are reached by losing water, and the moment a crust can no longer be crackled. */
export const dryingStates = ['thickening', 'skinned', 'crusted', 'crackleShut', 'set', 'firm', 'dry'] as const;
export type DryingState = (typeof dryingStates)[number];

export { ICING_DENSITY_KG_PER_M3 } from '../icing/density.js';
/** The bead of a round tip flattens to three quarters of its bore. */
export const BEAD_DEPTH_PER_BORE = 0.75;

/** One body of icing that dries as a whole: a flooded section, a bead, a transfer. */
export interface Region {
  /** consistency, reference seconds */
  readonly seconds: number;
  readonly depthMm: number;
  /** a biscuit draws water out of the icing, parchment does not */
  readonly on: 'cookie' | 'parchment';
}

/** Water (kg/m²) a region must have lost for each state, ascending. */
export type Thresholds = Readonly<Record<DryingState, number>>;

/** Share of the layer's water that a biscuit draws out from below. */
const DRAWN_BY_COOKIE = 0.24;
const FIRM_SHARE = 0.25;
const FIRM_SHARE_ON_PARCHMENT = 0.41;
const DRY_SHARE = 0.38;

/** Thresholds at the median, tuned to common practice, no published source (docs/model.md). */
export const stateThresholds = ofOne((region: Region): Thresholds => {
  const water = waterFracFromSeconds(region.seconds);
  const waterKgPerM2 = ICING_DENSITY_KG_PER_M3 * (region.depthMm / 1000) * water;
  const undrawn = region.on === 'parchment' ? DRAWN_BY_COOKIE : 0;
  const crusted = Math.min(0.0175 * ((water - 0.14) / 0.085), 0.1 * waterKgPerM2);
  const skinned = crusted / 3;
  const firm = (undrawn ? FIRM_SHARE_ON_PARCHMENT : FIRM_SHARE) * waterKgPerM2;
  const raw: [DryingState, number][] = [
    ['thickening', 0.45 * skinned],
    ['skinned', skinned],
    ['crusted', crusted],
    ['crackleShut', 1.6 * crusted],
    ['set', Math.min(3 * crusted, 0.8 * firm)],
    ['firm', firm],
    ['dry', (DRY_SHARE + undrawn) * waterKgPerM2],
  ];
  const out = {} as Record<DryingState, number>;
  let highest = 0;
  for (const [state, m] of raw) {
    highest = Math.max(highest, m);
    out[state] = highest;
  }
  return out;
});

/** The state a region is in after losing `lostKgPerM2`. */
export function stateAtLoss(thresholds: Thresholds, lostKgPerM2: number): SurfaceState {
  let state: SurfaceState = 'wet';
  for (const s of surfaceStates.slice(1) as Exclude<SurfaceState, 'wet'>[]) {
    if (lostKgPerM2 >= thresholds[s]) state = s;
  }
  return state;
}
