import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { touched } from '../../test/play.js';
import { factorsOf, learnFactors } from '../calibration/drying-factors.js';
import { readDesign } from '../design/read-design.js';
import type { Finding } from '../drying/body.js';
import { dryingRate, lossAfter } from '../drying/front.js';
import { parseOrder } from '../formats/order.js';
import type { PlanTask } from '../formats/plan.js';
import { planOrder } from '../planning/plan-order.js';
import { seededRng } from '../time/rng.js';
import type { StepId } from '../units/id.js';
import { benchTouches, reportOfBench } from './bench-touches.js';
import { type AskedBody, bodiesAsked, laidBodies, laidBy } from './bodies.js';
import type { RunEvent, StoredEvent } from './event.js';
import { foldRun } from './fold.js';
import { Recount } from './recount.js';
import { replan } from './replan.js';
import { runIndex } from './run-index.js';
import type { TaskLook } from './run-state.js';
import { benchView } from './view.js';

const drawing = (file: string) => readDesign(readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'), file);
const made = (margin: 'bold' | 'normal' | 'careful') =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: ['mackerel', 'sea-glass'].map((file) => ({ file, count: 6 })),
      trays: ['A', 'B'].map((id) => ({ id, places: 6 })),
      openingHours: [['2026-06-05T14:00:00Z', '2026-06-06T14:00:00Z']],
      margin,
    }),
    designs: ['mackerel', 'sea-glass'].map(drawing),
    passes: 60,
  });
const plan = made('normal');
const EPOCH = Date.parse(plan.epoch as string);
const at = plan.tasks.findIndex((t) => t.kind === 'wet' && t.because.kind === 'drying');
const task = plan.tasks[at] as PlanTask;
const before: RunEvent[] = [
  { id: 's', deviceId: 'd', deviceSeq: 1, atMs: EPOCH, type: 'runStarted', data: {} },
  ...plan.tasks.slice(0, at).map(
    (t, i): RunEvent => ({
      id: `e${i}`,
      deviceId: 'd',
      deviceSeq: i + 2,
      atMs: EPOCH + t.endS * 1000,
      type: 'taskDone',
      data: { taskId: t.id },
    }),
  ),
];
const state = foldRun(plan, before);
const found = (atS: number): RunEvent => ({
  id: 'w',
  deviceId: 'd',
  deviceSeq: 99,
  atMs: EPOCH + atS * 1000,
  ...touched(task.id, 'not-yet'),
});
const wetAt = (of: PlanTask, atS: number, cookie: number | null = null, part: StepId | null = null): TaskLook => ({
  taskId: of.id,
  atS,
  cookie,
  part,
  state: null,
  found: 'not-yet',
});
/** When it is looked at again after a finger at `nowS`. */
const lookAgain = (p: typeof plan, of: PlanTask, nowS: number) =>
  new Recount({ ...state, looks: [wetAt(of, nowS)], plan: p, atS: nowS }).lookAgainS(of);

describe('still wet', () => {
  it('is looked at again later, the later the longer it has been wet already, and later the more careful', () => {
    const when = (p: typeof plan, nowS: number) => lookAgain(p, task, nowS) as number;
    const now = task.startS;
    expect(when(plan, now)).toBeGreaterThanOrEqual(now + 120);
    expect(when(plan, now + 900)).toBeGreaterThan(when(plan, now));
    const [bold, careful] = [made('bold'), made('careful')].map((p) => ({ ...plan, margin: p.margin }));
    expect(when(bold as typeof plan, now)).toBeLessThanOrEqual(when(plan, now));
    expect(when(careful as typeof plan, now)).toBeGreaterThan(when(plan, now));
  });
  it('nothing that waits for no drying can be too wet', () => {
    expect(lookAgain(plan, plan.tasks[0] as PlanTask, 0)).toBeNull();
  });
  it('is said of the cookie that was touched: the others, left sooner, are not put off with it', () => {
    const nowS = task.startS;
    const laid = bodiesAsked(runIndex(state), task);
    const [first] = [...laid].sort((a, b) => b.body.leftAtS - a.body.leftAtS);
    const { cookie, stepId } = (first as AskedBody).body;
    const of = (looks: readonly TaskLook[]) => new Recount({ ...state, looks, atS: nowS }).lookAgainS(task) as number;
    const one = of([wetAt(task, nowS, cookie, stepId)]);
    expect(laid.filter((a) => a.body.stepId === stepId).length).toBeGreaterThan(1);
    expect(one).toBeLessThan(of([wetAt(task, nowS, null, stepId)]));
    const after = foldRun(plan, [...before, { ...found(nowS), data: { ...found(nowS).data, cookie, part: stepId } } as RunEvent]);
    const looked = laidBodies(runIndex(after)).flatMap((b) => (b.looked.length > 0 ? [b] : []));
    expect(looked.map((b) => [b.cookie, b.stepId, b.looked.map((l) => l.found)])).toEqual([[cookie, stepId, ['not-yet']]]);
  });
  it('agrees with drawing thresholds and keeping those not reached yet: four in five of them are reached by then (normal margin)', () => {
    const nowS = task.startS;
    const until = lookAgain(plan, task, nowS) as number;
    const rate = dryingRate(plan.air);
    const rng = seededRng(5);
    const normal = () => Math.sqrt(-2 * Math.log(1 - rng())) * Math.cos(2 * Math.PI * rng());
    const run = runIndex(state);
    const shares = (run.plan.graphOf(task)?.gaps ?? []).flatMap((g) => {
      const from = plan.tasks.find((t) => t.lotId === task.lotId && t.motions.some((m) => m.stepId === g.from));
      const begins = task.motions.find((m) => m.stepId === g.to)?.startS;
      if (!g.minState || g.minLossKgPerM2 === undefined || !from || from === task || !begins) return [];
      const { mean, sigma } = plan.factors[g.minState];
      return begins.map((touchedS, cookie) => {
        const leftS = laidBy(run, from, g.from, [cookie])[0]?.leftAtS as number;
        const lostAt = (s: number) => lossAfter(rate, 0, s - leftS);
        const open = [...Array(20_000)]
          .map(() => (g.minLossKgPerM2 as number) * Math.exp(mean + sigma * normal()))
          .filter((need) => need > lostAt(nowS));
        return open.filter((need) => need <= lostAt(until + touchedS)).length / open.length;
      });
    });
    expect(shares.length).toBeGreaterThan(0);
    expect(Math.min(...shares)).toBeGreaterThan(0.78);
    expect(Math.min(...shares)).toBeLessThan(0.83);
  });
  it('puts the task down, holds it back, and another tray can come first; taken back, it is as before', () => {
    const nowS = task.startS + 30;
    const taken: RunEvent = {
      id: 'b',
      deviceId: 'd',
      deviceSeq: 98,
      atMs: EPOCH + task.startS * 1000,
      type: 'taskBegun',
      data: { taskId: task.id },
    };
    const after = foldRun(plan, [...before, taken, found(nowS)]);
    expect(after.tasks.get(task.id)?.begunAtMs).toBeNull();
    const until = ((after.notBeforeMs.get(task.id) as number) - EPOCH) / 1000;
    expect(until).toBe(lookAgain(plan, task, nowS));
    expect(runIndex(after).readyMs(task)).toBeGreaterThanOrEqual(EPOCH + until * 1000);
    const view = benchView(runIndex(after), EPOCH + nowS * 1000);
    if (view.now?.task.id === task.id) expect(view).toMatchObject({ waiting: true, waitingFor: 'found-wet' });
    // Before that it waited for what dries slowest behind it, as it was really done.
    const dry = plan.waits.filter((w) => w.to === task.id && w.rule !== 'prepared-first');
    expect(dry).toContainEqual(benchView(runIndex(state), EPOCH + (plan.tasks[at - 1] as PlanTask).endS * 1000).waitingFor);
    const again = replan(runIndex(after), nowS);
    expect(again.starts[task.id]).toBeGreaterThanOrEqual(until);
    const back: RunEvent = {
      id: 'u',
      deviceId: 'd',
      deviceSeq: 100,
      atMs: EPOCH + nowS * 1000 + 1,
      type: 'undone',
      data: { eventId: 'w' },
    };
    const undone = foldRun(plan, [...before, taken, found(nowS), back]);
    expect(undone.notBeforeMs.size).toBe(0);
    expect(undone.tasks.get(task.id)?.begunAtMs).toBe(taken.atMs);
  });
});

describe('what a run teaches', () => {
  const wet = task;
  const upTo = (atShare: number, looked: Finding, more: object = {}) => {
    const before = plan.tasks.filter((t) => t.endS <= wet.startS);
    const events: StoredEvent[] = [{ id: 's', deviceId: 'd', deviceSeq: 1, atMs: EPOCH, type: 'runStarted', data: {}, seq: 1 }];
    for (const t of before)
      events.push({
        id: t.id,
        deviceId: 'd',
        deviceSeq: events.length + 1,
        atMs: EPOCH + t.endS * 1000,
        type: 'taskDone',
        data: { taskId: t.id },
        seq: events.length + 1,
      });
    const wait = plan.waits.filter((w) => w.to === wet.id && before.some((t) => t.id === w.from)).sort((a, b) => b.minS - a.minS)[0];
    const from = plan.tasks.find((t) => t.id === wait?.from) as PlanTask;
    const atMs = EPOCH + (from.endS + atShare * (wet.startS - from.endS)) * 1000;
    events.push({
      id: 'touch',
      deviceId: 'd',
      deviceSeq: events.length + 1,
      atMs,
      ...touched(wet.id, looked),
      seq: events.length + 1,
      ...more,
    } as StoredEvent);
    return events;
  };
  it('still wet at the planned time teaches a slower crust, crusted half way a faster one, by the water lost till then', () => {
    const looked = (events: readonly StoredEvent[]) => benchTouches(plan, events).filter((t) => !t.silent);
    const slow = looked(upTo(1, 'not-yet'));
    const fast = looked(upTo(0.4, 'reached'));
    expect(slow).toHaveLength(1);
    expect(slow[0]).toMatchObject({ reachedShare: null });
    // At the planned moment the margin's share was lost, not the median's.
    expect(slow[0]?.notYetShare).toBeGreaterThan(1.1);
    expect(fast[0]?.reachedShare).toBeLessThan(0.8);
    const learned = (touches: ReturnType<typeof benchTouches>) => {
      const state = touches[0]?.state ?? 'crusted';
      return factorsOf(learnFactors(touches.map((t) => reportOfBench(t))))[state].mean;
    };
    expect(learned(slow)).toBeGreaterThan(0.02);
    expect(learned(fast)).toBeLessThan(-0.02);
  });
  it('nothing is learned from a doubtful moment, from what was taken back, or where nobody said when it was laid', () => {
    expect(benchTouches(plan, upTo(1, 'not-yet', { doubtful: true })).filter((t) => !t.silent)).toEqual([]);
    const told = upTo(1, 'not-yet');
    const back: StoredEvent = { id: 'u', deviceId: 'd', deviceSeq: 99, atMs: EPOCH, type: 'undone', data: { eventId: 'touch' }, seq: 99 };
    expect(benchTouches(plan, [...told, back]).filter((t) => !t.silent)).toEqual([]);
    const here: StoredEvent = {
      id: 'h',
      deviceId: 'd',
      deviceSeq: 2,
      atMs: told.at(-1)?.atMs as number,
      type: 'imHere',
      data: { taskId: wet.id },
      seq: 2,
    };
    expect(benchTouches(plan, [told[0] as StoredEvent, here, told.at(-1) as StoredEvent])).toEqual([]);
  });
});
