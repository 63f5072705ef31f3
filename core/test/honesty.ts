import { planIndex } from '../src/formats/index.js';
import { chanceOf } from '../src/planning/index.js';
import { eveningOf, workEvening } from '../src/rehearsal/index.js';
import { anyKitchen } from './kitchen.js';
import { made } from './play.js';

/**
 * The chance that is shown against evenings worked at the bench, cookie by cookie, in kitchens and at paces that only the simulation knows:
 * two programs that share the spreads and nothing else.
 */
export const EVENINGS = 500;

/** Plans whose chance was shown, and how often it came true. */
export interface Bin {
  /** middle of the chances in it */
  readonly middle: number;
  /** mean of the chances that were shown, and of how often they came true */
  readonly shown: number;
  readonly came: number;
  /** evenings behind it */
  readonly n: number;
}
/** How much longer than the plan, as a share of it, there is until all is due. */
const MORE = [0.002, 0.005, 0.02, 0.04, 0.06, 0.08, 0.1, 0.13, 0.16, 0.2];

/** Chances that are shown, in five bins, and how often they come true over {@link EVENINGS} evenings of each of six plans. */
export function honestyBins(): Bin[] {
  const bins = [0.1, 0.3, 0.5, 0.7, 0.9].map((middle) => ({ middle, shown: 0, came: 0, n: 0 }));
  // A bold plan waits only as long as half of all cookies need: due soon after its end it has a small chance.
  for (const [margin, ...files] of [
    ['normal', 'lighthouse', 'mackerel'],
    ['normal', 'gull', 'sailboat'],
    ['normal', 'signal-flag', 'life-ring'],
    ['normal', 'sea-glass', 'mackerel', 'lighthouse'],
    ['bold', 'lighthouse', 'mackerel'],
    ['bold', 'signal-flag', 'life-ring'],
  ]) {
    // One long opening: no night decides.
    const plan = made(files, { margin, openingHours: [['2026-06-05T08:00:00Z', '2026-06-07T08:00:00Z']], packBy: '2026-06-07T08:00:00Z' });
    const ends = [...Array(EVENINGS).keys()].map((i) => {
      const { truth, rng } = eveningOf(anyKitchen, i + 1);
      return planIndex(plan).sOf(workEvening(plan, truth, rng, 'sees').at(-1)?.atMs as number);
    });
    for (const more of MORE) {
      const dueS = plan.endS * (1 + more);
      const shown = chanceOf({ ...plan, packBy: dueS, designs: plan.designs.map((d) => ({ ...d, packBy: dueS })) }).onTime as number;
      const bin = bins.find((b) => Math.abs(b.middle - shown) <= 0.1);
      if (!bin) continue;
      bin.shown += shown * EVENINGS;
      bin.came += ends.filter((e) => e <= dueS).length;
      bin.n += EVENINGS;
    }
  }
  return bins.map((b) => ({ ...b, shown: b.shown / b.n, came: b.came / b.n }));
}
