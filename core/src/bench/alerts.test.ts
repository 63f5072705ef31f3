import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import type { PlanTask } from '../formats/plan.js';
import { planOrder } from '../planning/plan-order.js';
import { alertsOf, awayTrays, dehydratorLeftOn, endOfDay, STENCIL_USES, stencilUses } from './alerts.js';
import { openingsOf, wantsKneading } from './bag-rest.js';
import type { RunEvent } from './event.js';
import { foldRun } from './fold.js';
import { runIndex } from './run-index.js';
import { benchView } from './view.js';

const drawing = (file: string, name: string) =>
  readDesign(readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'), name);
const made = (
  files: readonly string[],
  hours: readonly (readonly [string, string])[],
  count = 8,
  dehydrator: object | null = { places: 1 },
) =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: files.map((file) => ({ file, count })),
      trays: [...'ABCD'].slice(0, files.length).map((id) => ({ id, places: 8 })),
      openingHours: hours,
      dehydrator,
    }),
    designs: files.map((f) => drawing(f, f)),
    passes: 60,
  });
// Short of time, so that the dehydrator is worth its carries.
const plan = made(['mackerel'], [['2026-06-05T07:00:00Z', '2026-06-05T15:00:00Z']]);
const EPOCH = Date.parse(plan.epoch as string);

/** A run in which everything was done when it was planned, up to and with the task `until`. */
function runTo(p: typeof plan, until: (t: PlanTask) => boolean, lateMs = 0) {
  const epoch = Date.parse(p.epoch as string);
  const last = p.tasks.findIndex(until);
  const events: RunEvent[] = [{ id: 'start', deviceId: 'd', deviceSeq: 1, atMs: epoch, type: 'runStarted', data: {} }];
  for (const [i, t] of p.tasks.slice(0, last + 1).entries())
    events.push({
      id: `e${i}`,
      deviceId: 'd',
      deviceSeq: i + 2,
      atMs: epoch + t.endS * 1000 + lateMs,
      type: 'taskDone',
      data: { taskId: t.id },
    });
  const nowMs = epoch + (p.tasks[last] as PlanTask).endS * 1000 + lateMs;
  const state = foldRun(p, events);
  return { state, nowMs, at: (ms: number) => ({ view: benchView(runIndex(state), ms), ms }) };
}

describe('a tray in the dehydrator', () => {
  const { state, nowMs, at } = runTo(plan, (t) => t.kind === 'carry');
  const stay = plan.stays[0];
  it('is away until hands take it out, whatever the plan says', () => {
    expect(stay?.where).toBe('dehydrator');
    const ends = plan.tasks.filter((t) => runIndex(state).plan.stayOf(t) === stay);
    expect(ends.map((t) => t.kind)).toEqual(['carry', 'take-out']);
    expect(awayTrays(runIndex(state), nowMs)).toEqual([
      { trayId: 'A', where: 'dehydrator', stayId: stay?.id, outAtMs: nowMs + (stay?.forS ?? 0) * 1000 },
    ]);
    expect(awayTrays(runIndex(state), nowMs + 9 * 3_600_000)).toHaveLength(1);
    const out = runTo(plan, (t) => t.kind === 'take-out');
    expect(awayTrays(runIndex(out.state), out.nowMs).filter((a) => a.stayId === stay?.id)).toEqual([]);
  });
  it('is called out when its time is over, and again every minute', () => {
    const outAtMs = nowMs + (stay?.forS ?? 0) * 1000;
    const calls = (ms: number) => alertsOf(runIndex(state), at(ms).view, ms).filter((a) => a.kind === 'take-out');
    expect(calls(outAtMs - 1000)).toEqual([]);
    expect(calls(outAtMs)[0]?.text).toBe('Take tray A out of the dehydrator');
    expect(calls(outAtMs + 30_000)[0]?.id).toBe(calls(outAtMs)[0]?.id);
    expect(calls(outAtMs + 130_000)[0]).toMatchObject({ text: 'Tray A is still in the dehydrator, 2 min too long' });
    expect(calls(outAtMs + 130_000)[0]?.id).not.toBe(calls(outAtMs)[0]?.id);
  });
  it('empty and not needed again today it is nagged about until somebody says that it is off', () => {
    const boxTasks = plan.tasks.filter((t) => t.kind === 'take-out');
    const lastOut = boxTasks.at(-1) as PlanTask;
    const out = runTo(plan, (t) => t.id === lastOut.id);
    expect(dehydratorLeftOn(runIndex(state), nowMs)).toBe(false);
    expect(dehydratorLeftOn(runIndex(out.state), out.nowMs + 60_000)).toBe(true);
    const nag = (ms: number) => alertsOf(runIndex(out.state), out.at(ms).view, ms).find((a) => /switch it off/.test(a.text))?.id;
    expect(nag(out.nowMs + 60_000)).toBeDefined();
    expect(nag(out.nowMs + 600_000)).not.toBe(nag(out.nowMs + 60_000));
    const off = foldRun(plan, [
      ...out.state.standing,
      { id: 'off', deviceId: 'd', deviceSeq: 999, atMs: out.nowMs + 90_000, type: 'dehydratorOff', data: {} },
    ]);
    expect(dehydratorLeftOn(runIndex(off), out.nowMs + 120_000)).toBe(false);
  });
});

describe('bags', () => {
  it('are kneaded before their first use and after half an hour at rest, and named with the opening their work asks for', () => {
    const wet = plan.tasks.find((t) => t.kind === 'wet') as PlanTask;
    const bag = wet.bags.find((b) => b.seconds === 15);
    if (!bag) throw new Error('no flooding bag');
    const { state, nowMs } = runTo(plan, (t) => t.id === wet.id);
    expect(wantsKneading(runIndex(foldRun(plan, [])), bag, EPOCH)).toBe(true);
    expect(wantsKneading(runIndex(state), bag, nowMs + 60_000)).toBe(false);
    expect(wantsKneading(runIndex(state), bag, nowMs + 31 * 60_000)).toBe(true);
    expect(openingsOf(plan, wet, bag)[0]?.openingMm).toBeGreaterThan(1);
    expect(openingsOf(plan, plan.tasks[0] as PlanTask, bag)).toEqual([]);
  });
});

describe('what is called out', () => {
  it('nothing before the run begins', () => {
    const state = foldRun(plan, []);
    expect(alertsOf(runIndex(state), benchView(runIndex(state), EPOCH), EPOCH)).toEqual([]);
  });
  it('a window once, in its last half minute', () => {
    const windowed = plan.tasks.findIndex((t) => t.motions.some((m) => m.windowS !== null));
    const before = plan.tasks[windowed - 1] as PlanTask;
    const { state, nowMs } = runTo(plan, (t) => t.id === before.id);
    const begun = foldRun(plan, [
      ...state.standing,
      { id: 'go', deviceId: 'd', deviceSeq: 99, atMs: nowMs, type: 'taskBegun', data: { taskId: (plan.tasks[windowed] as PlanTask).id } },
    ]);
    const seen = new Set<string>();
    for (let s = 0; s < 900; s += 5) {
      const ms = nowMs + s * 1000;
      for (const a of alertsOf(runIndex(begun), benchView(runIndex(begun), ms), ms)) if (a.kind === 'window-closing') seen.add(a.id);
    }
    const labels = new Set((plan.tasks[windowed] as PlanTask).motions.filter((m) => m.windowS !== null).map((m) => m.label));
    expect(seen.size).toBeGreaterThan(0);
    expect(seen.size).toBeLessThanOrEqual(labels.size);
  });
  it('a tray that had to dry, when it is ready and nobody has begun it', () => {
    // On the bench: out of the dehydrator it is ready when hands have taken it out.
    const onBench = made(['mackerel'], [['2026-06-05T07:00:00Z', '2026-06-06T15:00:00Z']], 8, null);
    const waitsFor = onBench.tasks.findIndex((t, i) => i > 0 && t.because.kind === 'drying');
    const { state, nowMs, at } = runTo(onBench, (t) => t.id === onBench.tasks[waitsFor - 1]?.id);
    const ready = (ms: number) => alertsOf(runIndex(state), at(ms).view, ms).filter((a) => a.kind === 'tray-ready');
    const startMs = at(nowMs).view.now?.startMs as number;
    if (startMs > nowMs + 60_000) expect(ready(nowMs)).toEqual([]);
    expect(ready(startMs + 1000)[0]?.id).toBe(`ready ${onBench.tasks[waitsFor]?.id}`);
  });
});

describe('the end of the day', () => {
  const two = made(
    ['lighthouse', 'mackerel'],
    [
      ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
      ['2026-06-06T07:00:00Z', '2026-06-06T19:00:00Z'],
    ],
    8,
    null,
  );
  const epoch = Date.parse(two.epoch as string);
  it('says what is left, what dries on, and when to be back; not before', () => {
    const close = (two.openingHours[0] as readonly [number, number])[1];
    const lastToday = two.tasks.filter((t) => t.startS < close).at(-1) as PlanTask;
    const { state, nowMs, at } = runTo(two, (t) => t.id === lastToday.id);
    const end = endOfDay(runIndex(state), at(nowMs).view, nowMs);
    expect(end?.left).toBe(two.tasks.length - two.tasks.indexOf(lastToday) - 1);
    expect(end?.backAtMs).toBeGreaterThanOrEqual(epoch + 17 * 3_600_000);
    expect(end?.drying.length).toBeGreaterThan(0);
    const early = runTo(two, (t) => t.id === two.tasks[1]?.id);
    expect(endOfDay(runIndex(early.state), early.at(early.nowMs).view, early.nowMs)).toBeNull();
  });
});

describe('stencils', () => {
  it('are counted to the next washing over all that was stencilled', () => {
    const badges = made(['compass-badge', 'compass-badge'], [['2026-06-05T07:00:00Z', '2026-06-07T07:00:00Z']], 5);
    const stencil = badges.tasks.filter((t) => t.motions.some((m) => m.technique === 'stencil'));
    const none = foldRun(badges, []);
    expect(stencilUses(runIndex(none), stencil[0] as PlanTask)).toMatchObject([{ left: STENCIL_USES, every: STENCIL_USES }]);
    const { state } = runTo(badges, (t) => t.id === stencil.at(-2)?.id);
    const uses = stencil.slice(0, -1).reduce((sum, t) => sum + t.cookies[1] - t.cookies[0], 0);
    expect(uses).toBeGreaterThan(0);
    expect(stencilUses(runIndex(state), stencil.at(-1) as PlanTask)[0]?.left).toBe(STENCIL_USES - (uses % STENCIL_USES));
    expect(stencilUses(runIndex(state), badges.tasks[0] as PlanTask)).toEqual([]);
  });
});
