import type { Air } from '../drying/air.js';
import { dryingRate, lossAfter } from '../drying/front.js';
import { type DryingState, type Region, stateThresholds } from '../drying/state.js';
import type { TouchReport } from './drying-factors.js';

/** What a finger found on a body of icing in air that did not change: minutes since it was flooded. */
export interface Touch {
  readonly state: DryingState;
  readonly region: Region;
  readonly air: Air;
  readonly notYetMin: number | null;
  readonly reachedMin: number | null;
}

/** A touch as the model sees it: which share of its median threshold was lost when the finger came. */
export function touchReportOf({ state, region, air, notYetMin, reachedMin }: Touch): TouchReport {
  const share = (minutes: number) => lossAfter(dryingRate(air), 0, minutes * 60) / stateThresholds(region)[state];
  return {
    state,
    notYetRatio: notYetMin === null ? 0 : share(notYetMin),
    reachedRatio: reachedMin === null ? Number.POSITIVE_INFINITY : share(reachedMin),
  };
}

/** A touch as it is reported and kept: flat, humidity in per cent. */
export interface ToldTouch {
  readonly state: DryingState;
  readonly seconds: number;
  readonly depthMm: number;
  readonly on: Region['on'];
  readonly tempC: number;
  readonly humidityPct: number;
  readonly airMPerS: number;
  readonly notYetMin: number | null;
  readonly reachedMin: number | null;
}

export const reportOfTold = (t: ToldTouch): TouchReport =>
  touchReportOf({
    ...t,
    region: { seconds: t.seconds, depthMm: t.depthMm, on: t.on },
    air: { tempC: t.tempC, humidityFrac: t.humidityPct / 100, airMPerS: t.airMPerS },
  });
