import { bodiesAsked, GrowingRun, type RunEvent, runIndex } from '../src/bench/index.js';
import { lostBy, PACE_SPREAD } from '../src/drying/index.js';
import { cookieKey, type Plan } from '../src/formats/index.js';
import { chanceOf } from '../src/planning/index.js';
import { trueThreshold, truthOf } from '../src/rehearsal/index.js';
import { gauss, type Rng, seededRng } from '../src/time/index.js';
import { anyKitchen } from './kitchen.js';
import { made } from './play.js';

/**
 * The chance that is shown against evenings worked at the bench, cookie by cookie, in kitchens and at paces that only the simulation knows:
 * two programs that share the spreads and nothing else.
 */
export const EVENINGS = 500;

/** When all is packed on one evening, s: nothing before its planned moment, nothing before a finger finds it there. */
function packedAt(plan: Plan, seed: number): number {
  const rng: Rng = seededRng(seed * 7919 + 13);
  const truth = truthOf(anyKitchen(rng), seed);
  const epochMs = Date.parse(plan.epoch as string);
  const going = new GrowingRun(plan);
  let said = 0;
  const say = (s: number, body: Pick<RunEvent, 'type' | 'data'>) =>
    going.say({ id: `e${++said}`, deviceId: 'd', deviceSeq: said, atMs: Math.round(epochMs + s * 1000), ...body } as RunEvent);
  const evening = gauss(rng) * PACE_SPREAD.evening;
  let handsS = plan.tasks[0]?.startS as number;
  say(handsS, { type: 'runStarted', data: {} });
  for (const planned of plan.tasks) {
    const run = runIndex(going.state());
    const task = run.plan.task(planned.id);
    if (!task) continue;
    const ready = bodiesAsked(run, task).map(({ body, state }) =>
      lostBy(body, trueThreshold(truth, cookieKey(body.lotId, body.cookie), body.region, state)),
    );
    const atS = run.plan.whenOpen(Math.max(planned.startS, handsS, ...ready));
    say(atS, { type: 'taskBegun', data: { taskId: task.id } });
    handsS = atS + (task.endS - task.startS) * Math.exp(evening + gauss(rng) * PACE_SPREAD.visit);
    say(handsS, { type: 'taskDone', data: { taskId: task.id } });
  }
  return handsS;
}

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
    const ends = [...Array(EVENINGS).keys()].map((i) => packedAt(plan, i + 1));
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
