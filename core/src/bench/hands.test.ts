import { describe, expect, it } from 'vitest';
import { epochOf, made } from '../../test/play.js';
import { brokenRules } from '../cli/check-plan.js';
import { type Airs, always } from '../drying/airs.js';
import { airInDehydrator } from '../drying/fan.js';
import type { Lag, Plan, PlanTask } from '../formats/plan.js';
import { cookieLook } from '../planning/look.js';
import { reasonOf } from '../wording/why.js';
import { awayTrays } from './alerts.js';
import type { RunEvent } from './event.js';
import { foldRun } from './fold.js';
import { replan } from './replan.js';
import { retimed } from './retimed.js';
import { airsOfTray } from './room.js';
import { runIndex } from './run-index.js';
import type { RunPlan } from './run-plan.js';
import { missingTools, toolsAsked } from './tools.js';
import { lastToUndo, whyNotUndone } from './undo.js';

/** A plan that sends no tray away, in a kitchen with a dehydrator all the same. */
const plan = ((): Plan => {
  const without = made(['lighthouse', 'mackerel'], { school: 'patient' });
  const dehydrator = { places: 1, tempC: 35, airMPerS: 1 };
  return {
    ...without,
    order: { ...without.order, dehydrator },
    dehydratorAir: airInDehydrator(without.air, dehydrator.tempC, dehydrator.airMPerS),
  };
})();
const epoch = epochOf(plan);

/** A log in which everything up to a task was done as planned, and more after it. */
function log(p: Plan, until: (t: PlanTask) => boolean) {
  const last = p.tasks.findIndex(until);
  const events: RunEvent[] = [];
  const add = (atMs: number, body: Pick<RunEvent, 'type' | 'data'>) => {
    events.push({ id: `e${events.length}`, deviceId: 'd', deviceSeq: events.length + 1, atMs, ...body } as RunEvent);
    return events.at(-1) as RunEvent;
  };
  add(epoch, { type: 'runStarted', data: {} });
  for (const t of p.tasks.slice(0, last + 1)) add(epoch + t.endS * 1000, { type: 'taskDone', data: { taskId: t.id } });
  return { events, add, nowMs: epoch + (p.tasks[last] as PlanTask).endS * 1000 };
}
const firstWet = (t: PlanTask) => t.kind === 'wet' && t.trayId === 'A';

describe('a tray carried away though no plan said so', () => {
  const waitOn = (p: RunPlan, from: string) =>
    Math.max(0, ...p.waits.filter((w) => w.from === from && w.rule === 'touching-sections').map((w) => w.minS));
  const wet = plan.tasks.find(firstWet) as PlanTask;
  it('dries in that air from then on, and what it holds up comes sooner', () => {
    const { events, add, nowMs } = log(plan, (t) => t.id === wet.id);
    const before = foldRun(plan, events);
    add(nowMs + 60_000, { type: 'carried', data: { trayId: 'A', where: 'dehydrator', minutes: 20 } });
    const away = foldRun(plan, events);
    expect(awayTrays(runIndex(away), nowMs + 120_000)).toEqual([
      { trayId: 'A', where: 'dehydrator', stayId: null, outAtMs: nowMs + 60_000 + 1_200_000 },
    ]);
    add(nowMs + 60_000 + 1_200_000, { type: 'broughtBack', data: { trayId: 'A' } });
    const back = foldRun(plan, events);
    expect(awayTrays(runIndex(back), nowMs + 1_400_000)).toEqual([]);
    expect(airsOfTray(runIndex(back), 'A').air.some((a) => a.tempC > 30)).toBe(true);
    expect(waitOn(back.plan, wet.id)).toBeLessThan(waitOn(before.plan, wet.id) - 600);
    // The pictures know it too.
    const lot = plan.trays[0]?.lots[0];
    if (!lot) throw new Error('no lot');
    const span = (t: PlanTask) => ({ startS: t.startS, endS: t.endS });
    const atS = (nowMs + 1_300_000 - epoch) / 1000;
    const state = (airs: Airs) => Object.values(cookieLook(plan, lot, 0, atS, (t) => (t.id === wet.id ? span(t) : null), airs).sections);
    expect(state(airsOfTray(runIndex(back), 'A'))).not.toEqual(state(always(plan.air)));
  });
  it('what was laid before it was carried is not taken back any more, before the carrying is', () => {
    const { events, add, nowMs } = log(plan, (t) => t.id === wet.id);
    const laid = events.at(-1)?.id as string;
    expect(whyNotUndone(plan, events, laid)).toBeNull();
    const carried = add(nowMs, { type: 'carried', data: { trayId: 'A', where: 'fan', minutes: 10 } });
    expect(whyNotUndone(plan, events, laid)).toEqual({ code: 'built-upon', facts: { trayId: 'A' } });
    expect(whyNotUndone(plan, events, carried.id)).toBeNull();
    // The same of a carrying that was planned.
    const away = made(['lighthouse', 'mackerel'], { fan: { places: 1 }, dehydrator: { places: 1 }, school: 'patient' });
    const stay = away.stays[0] as Plan['stays'][number];
    const carry = away.tasks.find((t) => t.kind === 'carry' && t.trayId === stay.trayId && t.round === stay.round) as PlanTask;
    const planned = log(away, (t) => t.id === carry.id).events;
    const flood = away.tasks.find((t) => t.kind === 'wet' && t.trayId === stay.trayId && t.round === stay.round) as PlanTask;
    const doneOf = (id: string) => planned.find((e) => e.type === 'taskDone' && e.data.taskId === id)?.id as string;
    expect(whyNotUndone(away, planned, doneOf(flood.id))).toMatchObject({ code: 'built-upon' });
    expect(whyNotUndone(away, planned, doneOf(carry.id))).toBeNull();
  });
  it('before the fan for its minutes, in the dehydrator until it is brought back', () => {
    const { events, add, nowMs } = log(plan, (t) => t.id === wet.id);
    add(nowMs, { type: 'carried', data: { trayId: 'A', where: 'fan', minutes: 10 } });
    expect(awayTrays(runIndex(foldRun(plan, events)), nowMs + 599_000)).toHaveLength(1);
    expect(awayTrays(runIndex(foldRun(plan, events)), nowMs + 601_000)).toHaveLength(0);
    add(nowMs + 700_000, { type: 'carried', data: { trayId: 'A', where: 'dehydrator', minutes: 3 } });
    expect(awayTrays(runIndex(foldRun(plan, events)), nowMs + 9_000_000)).toHaveLength(1);
  });
  it('is taken back by undo, and what was never carried is not brought back', () => {
    const { events, add, nowMs } = log(plan, (t) => t.id === wet.id);
    const plain = foldRun(plan, events);
    add(nowMs, { type: 'broughtBack', data: { trayId: 'B' } });
    expect(foldRun(plan, events).carries).toEqual([]);
    const carried = add(nowMs, { type: 'carried', data: { trayId: 'A', where: 'dehydrator', minutes: 20 } });
    expect(lastToUndo(foldRun(plan, events), 'd')?.id).toBe(carried.id);
    add(nowMs + 1000, { type: 'undone', data: { eventId: carried.id } });
    const undone = foldRun(plan, events);
    expect(undone.carries).toEqual([]);
    expect(undone.plan.waits.map((w) => w.minS)).toEqual(plain.plan.waits.map((w) => w.minS));
  });
});

describe('a defect that is to be covered', () => {
  const wet = plan.tasks.find(firstWet) as PlanTask;
  const part = plan.designs[0]?.graph.steps.find((s) => s.id === wet.motions.find((m) => m.kind === 'flood')?.stepId)?.part as string;
  const lotId = wet.lotId as string;
  const report = (more: object = {}) =>
    ({ lotId, cookie: 0, part, seen: 'dent', surface: 'skinned', outcome: 'to-cover', ...more }) as never;
  const { events, add, nowMs } = log(plan, (t) => t.id === wet.id);
  add(nowMs + 30_000, { type: 'defect', data: report() });
  const state = foldRun(plan, events);
  const cover = state.plan.tasks.find((t) => t.id.includes('cover')) as PlanTask;
  it('is a step of its own on that cookie, once the part bears it and before it is packed', () => {
    expect(cover).toMatchObject({ kind: 'detail', trayId: 'A', lotId, cookies: [0, 1] });
    expect(cover.title).toMatch(/cover it with a detail, a transfer or a border/);
    const wait = state.plan.waits.find((w) => w.to === cover.id && w.from === wet.id);
    expect(reasonOf(wait as Lag)).toMatch(/is set before a dent, a poke, a smudge on it is covered/);
    expect(wait?.minS).toBeGreaterThan(3000);
    const pack = state.plan.tasks.find((t) => t.kind === 'pack' && t.lotId === lotId) as PlanTask;
    expect(state.plan.waits.some((w) => w.from === cover.id && w.to === pack.id && w.rule === 'pack-when-dry')).toBe(true);
  });
  it('the plan places it: a re-plan holds every wait, and the cover comes when it may', () => {
    const re = replan(runIndex(state), (nowMs - epoch) / 1000 + 60);
    const next = retimed(state.plan, re.starts);
    const at = next.tasks.find((t) => t.id === cover.id) as PlanTask;
    const wait = next.waits.find((w) => w.to === cover.id && w.from === wet.id);
    expect(at.startS).toBeGreaterThanOrEqual(wet.startS + (wait?.minS ?? 0) - 1);
    expect(next.tasks.filter((t) => t.kind === 'pack' && t.lotId === lotId).every((t) => t.startS > at.endS)).toBe(true);
    expect(brokenRules(next as Plan).filter((r) => r.includes('cover') && !r.endsWith('is never done'))).toEqual([]);
  });
  it('stays when a bag is counted anew, goes with a cookie that leaves, and is taken back by undo', () => {
    const more = [...events];
    const push = (body: Pick<RunEvent, 'type' | 'data'>) =>
      more.push({ id: `x${more.length}`, deviceId: 'd', deviceSeq: more.length + 1, atMs: nowMs + 40_000, ...body } as RunEvent);
    const bag = wet.bags[0];
    push({ type: 'bagCounted', data: { colour: bag?.colour ?? '', seconds: bag?.seconds ?? 15, countedS: 22 } });
    const counted = foldRun(plan, more);
    expect(counted.plan.tasks.some((t) => t.id === cover.id)).toBe(true);
    expect(counted.plan.designs[0]?.graph.steps.some((s) => s.id.startsWith('cover.'))).toBe(true);
    push({ type: 'defect', data: report({ seen: 'broken', part: null, outcome: 'shorter' }) });
    expect(foldRun(plan, more).plan.tasks.some((t) => t.id === cover.id)).toBe(false);
    const defect = events.find((e) => e.type === 'defect') as RunEvent;
    expect(whyNotUndone(plan, events, defect.id)).toBeNull();
    const undo = [
      ...events,
      { id: 'u', deviceId: 'd', deviceSeq: 99, atMs: nowMs + 50_000, type: 'undone', data: { eventId: defect.id } } as RunEvent,
    ];
    expect(foldRun(plan, undo).plan.tasks.map((t) => t.id)).toEqual(plan.tasks.map((t) => t.id));
  });
  it('two on one cookie are two steps; what nothing covers is none', () => {
    const more = [...events];
    more.push({
      id: 'y',
      deviceId: 'd',
      deviceSeq: 90,
      atMs: nowMs + 40_000,
      type: 'defect',
      data: report({ seen: 'bubbles' }),
    } as RunEvent);
    more.push({
      id: 'z',
      deviceId: 'd',
      deviceSeq: 91,
      atMs: nowMs + 41_000,
      type: 'defect',
      data: report({ seen: 'broken' }),
    } as RunEvent);
    expect(foldRun(plan, more).plan.tasks.filter((t) => t.id.includes('cover'))).toHaveLength(2);
  });
});

describe('sharp tools and bag ends', () => {
  const wet = plan.tasks.find(firstWet) as PlanTask;
  const start = log(plan, (t) => t.id === wet.id);
  const ask = (events: readonly RunEvent[], atMs: number, over: boolean) => toolsAsked(runIndex(foldRun(plan, events)), atMs, over);
  it('are counted out once a day and in once', () => {
    const { events, add, nowMs } = log(plan, (t) => t.id === wet.id);
    expect(toolsAsked(runIndex(foldRun(plan, [])), epoch, false)).toBeNull();
    expect(ask(events, nowMs, false)).toMatchObject({ ask: 'out', sharpsOut: null });
    add(nowMs, { type: 'toolsCounted', data: { out: true, sharps: 5, offcuts: 0 } });
    expect(ask(events, nowMs, false)).toBeNull();
    expect(ask(events, nowMs, true)).toEqual({ ask: 'in', sharpsOut: 5, bagsCut: expect.any(Number) });
    const cut = ask(events, nowMs, true)?.bagsCut ?? 0;
    expect(cut).toBeGreaterThan(1);
    add(nowMs + 1000, { type: 'toolsCounted', data: { out: false, sharps: 4, offcuts: cut - 1 } });
    // While something is missing it is asked again.
    expect(ask(events, nowMs + 2000, true)).toMatchObject({ ask: 'in' });
    expect(missingTools(runIndex(foldRun(plan, events)), nowMs + 2000)).toEqual({ sharps: 1, offcuts: 1 });
    add(nowMs + 3000, { type: 'toolsCounted', data: { out: false, sharps: 5, offcuts: cut } });
    expect(missingTools(runIndex(foldRun(plan, events)), nowMs + 4000)).toBeNull();
    expect(ask(events, nowMs + 4000, true)).toBeNull();
    // Another day begins with nothing counted.
    const morning = epoch + ((plan.openingHours[1] as readonly [number, number])[0] + 60) * 1000;
    expect(ask(events, morning, false)).toMatchObject({ ask: 'out', sharpsOut: null });
  });
  it('are asked for in the evening even where nobody counted them out', () => {
    expect(ask(start.events, start.nowMs, true)).toMatchObject({ ask: 'in', sharpsOut: null });
  });
});
