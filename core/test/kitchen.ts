import { type BenchTouch, benchTouches, reportOfBench } from '../src/bench/index.js';
import { factorsOf, learnFactors } from '../src/calibration/index.js';
import type { Factors } from '../src/drying/index.js';
import type { Plan } from '../src/formats/index.js';
import { type Habits, type Kitchen, USUAL, worked } from '../src/rehearsal/index.js';
import { seededRng } from '../src/time/index.js';

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
