import { type BenchTouch, benchTouches, reportOfBench } from '../src/bench/index.js';
import { factorsOf, learnFactors } from '../src/calibration/index.js';
import { type DryingState, dryingStates, type Factors, SPREAD } from '../src/drying/index.js';
import type { Plan } from '../src/formats/index.js';
import { type Habits, isWhole, type Kitchen, medianOf, USUAL, worked } from '../src/rehearsal/index.js';
import { gauss, type Rng, seededRng } from '../src/time/index.js';

/** Hands that only say something when the bench was too early. */
export const COMPLAINING: Habits = { early: 0 };
/** A kitchen as likely as any before anything was learned. */
export const anyKitchen = (rng: Rng): Kitchen => ({
  all: SPREAD.common * gauss(rng),
  own: Object.fromEntries(dryingStates.filter((s) => !isWhole(s)).map((s) => [s, SPREAD.state * gauss(rng)])),
  whole: SPREAD.whole * gauss(rng),
});
export const medianFactor = (k: Kitchen, s: DryingState): number => Math.exp(medianOf(k, s));
/** What multiplies a state's water on a cookie of some other day. */
export const someCookie = (k: Kitchen, s: DryingState, rng: Rng): number =>
  Math.exp(medianOf(k, s) + (isWhole(s) ? SPREAD.wholeCookie * gauss(rng) : SPREAD.day * gauss(rng) + SPREAD.cookie * gauss(rng)));

/** What a kitchen's days teach, one after the other: what is believed after each of them. */
export function taught(
  plan: Plan,
  kitchen: Kitchen,
  days: number,
  seed: number,
  habits: Habits = USUAL,
): { readonly beliefs: Factors[]; readonly touches: BenchTouch[][] } {
  const rng = seededRng(seed);
  const touches: BenchTouch[][] = [];
  const beliefs: Factors[] = [];
  for (let day = 0; day < days; day++) {
    touches.push(benchTouches(plan, worked(plan, kitchen, rng, habits)));
    beliefs.push(factorsOf(learnFactors(touches.flatMap((own, i) => own.map((t) => reportOfBench(t, `day ${i}`))))));
  }
  return { beliefs, touches };
}
