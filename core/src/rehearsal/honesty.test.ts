import { describe, expect, it } from 'vitest';
import { anyKitchen } from '../../test/kitchen.js';
import { made } from '../../test/play.js';
import { bodiesAsked, GrowingRun, type RunEvent, runIndex } from '../bench/index.js';
import { lostBy, PACE_SPREAD } from '../drying/index.js';
import { cookieKey, type Plan } from '../formats/index.js';
import { chanceOf } from '../planning/index.js';
import { gauss, type Rng, seededRng } from '../time/index.js';
import { trueThreshold, truthOf } from './truth.js';

/**
 * The chance that is shown against evenings worked at the bench, cookie by cookie, in kitchens and at paces that only the simulation knows:
 * two programs that share the spreads and nothing else.
 */
const EVENINGS = 500;
const OFF = 0.07;

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

describe(`the chance of being packed in time, against ${EVENINGS} evenings a plan`, () => {
  it('matches how often it comes true, in five bins', { timeout: 300_000 }, () => {
    const bins = [0.1, 0.3, 0.5, 0.7, 0.9].map((middle) => ({ middle, shown: 0, came: 0, n: 0 }));
    for (const files of [
      ['lighthouse', 'mackerel'],
      ['gull', 'sailboat'],
      ['signal-flag', 'life-ring'],
      ['sea-glass', 'mackerel', 'lighthouse'],
    ]) {
      // One long opening: no night decides.
      const plan = made(files, { openingHours: [['2026-06-05T08:00:00Z', '2026-06-07T08:00:00Z']], packBy: '2026-06-07T08:00:00Z' });
      const ends = [...Array(EVENINGS).keys()].map((i) => packedAt(plan, i + 1));
      for (const more of [0.005, 0.02, 0.04, 0.06, 0.08, 0.1, 0.13, 0.16, 0.2]) {
        const dueS = plan.endS * (1 + more);
        const shown = chanceOf({ ...plan, packBy: dueS, designs: plan.designs.map((d) => ({ ...d, packBy: dueS })) }).onTime as number;
        const bin = bins.find((b) => Math.abs(b.middle - shown) <= 0.1);
        if (!bin) continue;
        bin.shown += shown * EVENINGS;
        bin.came += ends.filter((e) => e <= dueS).length;
        bin.n += EVENINGS;
      }
    }
    const told = bins.filter((b) => b.n >= 300).map((b) => ({ shown: b.shown / b.n, came: b.came / b.n, n: b.n }));
    // The lowest is seldom met: hardly a plan ends right when it is due.
    console.log(told.map((t) => `shown ${t.shown.toFixed(3)}, came true ${t.came.toFixed(3)} (${t.n})`).join('; '));
    expect(told.length).toBeGreaterThanOrEqual(4);
    for (const b of told) expect([b, Math.abs(b.shown - b.came) <= OFF]).toEqual([b, true]);
  });
});
