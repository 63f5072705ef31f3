import type { Air } from './air.js';
import { dryingRate, secondsToLose } from './front.js';
import { type DryingState, dryingStates, type Region, stateThresholds } from './state.js';

/** Longer than this is shown as "too slow", never as a huge number. */
export const TOO_SLOW_S = 72 * 3600;

export type NeverReason =
  /** the air takes no water at all, or too little: up to which humidity it would work at this temperature and speed */
  | { readonly code: 'humid'; readonly limitHumidityPct: number }
  | { readonly code: 'tooSlow'; readonly limitMin: number; readonly limitHumidityPct: number };

export interface DryingOutlook {
  readonly surfaceTempC: number;
  readonly fluxGPerM2H: number;
  /** median seconds to each state, null where it never comes or takes more than 72 h */
  readonly secondsTo: Readonly<Record<DryingState, number | null>>;
  readonly why: Readonly<Partial<Record<DryingState, NeverReason>>>;
}

/** The largest whole per cent of humidity at which `state` still comes within 72 h; 0 where none would do. */
function workableHumidityPct(region: Region, air: Air, state: DryingState): number {
  const m = stateThresholds(region)[state];
  for (let pct = 85; pct > 0; pct--) {
    if (secondsToLose(dryingRate({ ...air, humidityFrac: pct / 100 }), 0, m) <= TOO_SLOW_S) return pct;
  }
  return 0;
}

/** Median times to every state in constant air, with the reason where one never comes. */
export function dryingOutlook(region: Region, air: Air): DryingOutlook {
  const rate = dryingRate(air);
  const thresholds = stateThresholds(region);
  const secondsTo = {} as Record<DryingState, number | null>;
  const why: Partial<Record<DryingState, NeverReason>> = {};
  for (const state of dryingStates) {
    const s = secondsToLose(rate, 0, thresholds[state]);
    secondsTo[state] = s <= TOO_SLOW_S ? s : null;
    if (s <= TOO_SLOW_S) continue;
    const limitHumidityPct = workableHumidityPct(region, air, state);
    why[state] = Number.isFinite(s)
      ? { code: 'tooSlow', limitMin: TOO_SLOW_S / 60, limitHumidityPct }
      : { code: 'humid', limitHumidityPct };
  }
  return { surfaceTempC: rate.surfaceTempC, fluxGPerM2H: rate.fluxKgPerM2S * 3.6e6, secondsTo, why };
}
