import type { Air } from '../drying/air.js';
import { oneBodyWindow } from '../drying/crackle.js';
import { dryingRate, secondsToLose } from '../drying/front.js';
import { TOO_SLOW_S } from '../drying/outlook.js';
import { type Factors, lossAsked, type Margin, waitFactor, windowFactor } from '../drying/uncertainty.js';
import type { TimedGap } from '../formats/plan.js';
import type { Gap } from '../steps/step.js';
import { whyOf } from '../steps/why.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';

/** Pens and stencils are held to the careful quantile whatever the plan's margin. */
export const marginOf = (gap: Gap, margin: Margin): Margin => (gap.careful ? 'careful' : margin);

/** Water a wait asks for at the margin, kg/m²; 0 for waits given in seconds. */
export function lossNeeded(gap: Gap, margin: Margin, factors?: Factors): number {
  if (gap.oneBody && gap.minState)
    return oneBodyWindow(gap.minLossKgPerM2 ?? 0, gap.maxLossKgPerM2 ?? 0, margin, factors?.[gap.minState].mean).opensM;
  if (!gap.minState || gap.minLossKgPerM2 === undefined) return 0;
  return lossAsked(gap.minLossKgPerM2, gap.minState, gap.firmLossKgPerM2, (s) => waitFactor(s, marginOf(gap, margin), factors));
}

/** Water by which a window has shut at the margin, kg/m²; Infinity where none does. */
export function lossAllowed(gap: Gap, margin: Margin, factors?: Factors): number {
  if (gap.maxState === undefined || gap.maxLossKgPerM2 === undefined) return Number.POSITIVE_INFINITY;
  if (gap.oneBody && gap.minState)
    return oneBodyWindow(gap.minLossKgPerM2 ?? 0, gap.maxLossKgPerM2, margin, factors?.[gap.minState].mean).shutsM;
  return gap.maxLossKgPerM2 * windowFactor(gap.maxState, margin, factors);
}

/** Water by which the later step should have ended at the margin, kg/m²; Infinity where it may come at any time. */
export const lossFeared = ({ ratherBeforeLossKgPerM2 }: Gap, margin: Margin, factors?: Factors): number =>
  ratherBeforeLossKgPerM2 === undefined ? Number.POSITIVE_INFINITY : ratherBeforeLossKgPerM2 * windowFactor('firm', margin, factors);

/** How long a wait is in constant air, seconds; null where it never ends. */
export function waitS(gap: Gap, air: Air, margin: Margin, factors?: Factors): number | null {
  try {
    return timeGap(gap, air, margin, factors).minS;
  } catch (error) {
    if (error instanceof NoAnswer) return null;
    throw error;
  }
}

/** Whether a wait comes to its end in the bench's own air. */
export const driesHere = (timed: Pick<TimedGap, 'minS'>): boolean => timed.minS < TOO_SLOW_S;

/**
 * Turns states into whole seconds in constant air, always rounded against the user. What dries only in one of the other airs there are
 * (before the fan, in the dehydrator) waits {@link TOO_SLOW_S} here: it needs a stay ({@link driesHere}). Throws {@link NoAnswer} where it
 * never dries.
 */
export function timeGap(gap: Gap, air: Air, margin: Margin, factors?: Factors, others: readonly (Air | null | undefined)[] = []): TimedGap {
  const rate = dryingRate(air);
  const need = lossNeeded(gap, margin, factors);
  const hereS = need > 0 ? secondsToLose(rate, 0, need) : 0;
  const elsewhere = () => others.some((a) => a && secondsToLose(dryingRate(a), 0, need) <= TOO_SLOW_S);
  const dryS = hereS > TOO_SLOW_S && elsewhere() ? TOO_SLOW_S : hereS;
  if (dryS > TOO_SLOW_S) {
    const pct = Math.round(air.humidityFrac * 100);
    let limit = pct;
    while (limit > 0 && secondsToLose(dryingRate({ ...air, humidityFrac: limit / 100 }), 0, need) > TOO_SLOW_S) limit -= 1;
    throw new NoAnswer(
      'never-dries',
      msg`At ${pct} % humidity and ${air.tempC} °C this would wait for ever; it works at ${limit} % or below, or in warmer air, as a
        dehydrator has it.`,
      { humidityPct: pct, limitHumidityPct: limit, why: whyOf(gap) },
    );
  }
  const allowed = lossAllowed(gap, margin, factors);
  const windowS = Math.min(
    Number.isFinite(allowed) ? secondsToLose(rate, 0, allowed) : Number.POSITIVE_INFINITY,
    gap.maxSeconds ?? Number.POSITIVE_INFINITY,
  );
  const feared = lossFeared(gap, margin, factors);
  return {
    gap,
    minS: Math.max(Math.ceil(dryS), Math.ceil(gap.minSeconds ?? 0)),
    maxS: Number.isFinite(windowS) ? Math.floor(windowS) : null,
    ...(Number.isFinite(feared) ? { ratherBeforeS: Math.floor(secondsToLose(rate, 0, feared)) } : {}),
  };
}
