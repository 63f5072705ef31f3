import { describe, expect, it } from 'vitest';
import { epochOf, made, touched } from '../../test/play.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import type { RunEvent } from './event.js';
import { foldRun } from './fold.js';
import { roomAt } from './room.js';
import { runIndex } from './run-index.js';

const plan = made(['mackerel'], { margin: 'careful' });
const epoch = epochOf(plan);
const wait = plan.waits.find((w) => w.rule === 'touching-sections') as Plan['waits'][number];
const byId = (id: string) => plan.tasks.find((t) => t.id === id) as PlanTask;
const to = byId(wait.to);
/** What it waits for last: everything before that is done. */
const from = plan.waits
  .filter((w) => w.to === to.id)
  .map((w) => byId(w.from))
  .reduce((a, b) => (b.endS > a.endS ? b : a));

/** Everything done as planned up to what is waited for, and more said after it: seconds since the epoch. */
function log(more: readonly [atS: number, type: RunEvent['type'], data: object][], until: PlanTask = from): RunEvent[] {
  const done = plan.tasks
    .filter((t) => t.endS <= until.endS)
    .map((t): [number, RunEvent['type'], object] => [t.endS, 'taskDone', { taskId: t.id }]);
  return [[0, 'runStarted', {}] as const, ...done, ...more].map(([atS, type, data], i) => ({
    id: `e${i}`,
    deviceId: 'd',
    deviceSeq: i + 1,
    atMs: epoch + (atS as number) * 1000,
    type,
    data,
  })) as RunEvent[];
}
const damp = { tempC: 20, humidityPct: 78 };
const dry = { tempC: 24, humidityPct: 35 };
const readyS = (events: readonly RunEvent[]) => {
  const state = foldRun(plan, events);
  const task = state.plan.tasks.find((t) => t.id === to.id) as PlanTask;
  return (runIndex(state).readyMs(task) - epoch) / 1000;
};

describe('what a finger found stands', () => {
  const foundS = from.endS + 600;
  it('found ready stays found, whatever the air does afterwards', () => {
    const found = log([[foundS, 'touched', touched(to.id, 'reached').data]]);
    expect(readyS(found)).toBeLessThanOrEqual(foundS);
    expect(readyS([...found, ...log([[foundS + 60, 'airRead', damp]]).slice(-1)])).toBeLessThanOrEqual(foundS);
    // A later "still wet" takes it back.
    const wet = [
      ...found,
      ...log([[foundS + 90, 'touched', touched(to.id, 'not-yet').data]]).slice(-1),
      ...log([[foundS + 120, 'airRead', damp]]).slice(-1),
    ];
    expect(readyS(wet.map((e, i) => ({ ...e, id: `x${i}` })))).toBeGreaterThanOrEqual(foundS + 90 + 120);
  });
  it('a reading that arrives late speaks of its own time, not of now', () => {
    const inTime = log([
      [foundS, 'airRead', dry],
      [foundS + 300, 'airRead', damp],
    ]);
    const late = log([
      [foundS + 300, 'airRead', damp],
      [foundS, 'airRead', dry],
    ]);
    const [a, b] = [inTime, late].map((events) => foldRun(plan, events));
    expect(roomAt(plan, b?.room ?? [], foundS + 600)).toEqual(roomAt(plan, a?.room ?? [], foundS + 600));
    expect(b?.room.map((r) => r.fromS)).toEqual(a?.room.map((r) => r.fromS));
    expect(b?.plan.waits.map((w) => w.minS)).toEqual(a?.plan.waits.map((w) => w.minS));
  });
});

describe('a window in hand', () => {
  it('is what is left of it: what has passed in drier air is not given back by damp air', () => {
    const wet = plan.tasks.find((t) => t.motions.some((m) => m.windowS !== null)) as PlanTask;
    const before = plan.tasks[plan.tasks.indexOf(wet) - 1] as PlanTask;
    const windowOf = (events: readonly RunEvent[]) => {
      const task = foldRun(plan, events).plan.tasks.find((t) => t.id === wet.id);
      return Math.min(...(task?.motions ?? []).flatMap((m) => m.windowS ?? []));
    };
    const planned = Math.min(...wet.motions.flatMap((m) => m.windowS ?? []));
    const flooded = Math.min(...wet.motions.filter((m) => m.kind === 'flood').flatMap((m) => m.endS));
    const begun: [number, RunEvent['type'], object] = [wet.startS, 'taskBegun', { taskId: wet.id }];
    const soon = windowOf(log([begun, [wet.startS + flooded + 1, 'airRead', damp]], before));
    const later = windowOf(log([begun, [wet.startS + flooded + planned * 0.8, 'airRead', damp]], before));
    expect(soon).toBeGreaterThan(planned);
    // Four fifths of it had passed: damp air stretches only the last fifth.
    expect(later).toBeLessThan(planned + 0.35 * (soon - planned) + 2);
  });
});

describe('air in which nothing dries', () => {
  it('still wet is looked at again some day, not never', () => {
    const said = log([[from.endS + 60, 'airRead', { tempC: 20, humidityPct: 92 }]]).map((e, i) => ({ ...e, id: `s${i}` }));
    const state = foldRun(plan, said);
    const task = state.plan.tasks.find((t) => t.id === to.id) as PlanTask;
    const nowS = from.endS + 900;
    const wet = foldRun(plan, [...said, ...log([[nowS, 'touched', touched(to.id, 'not-yet').data]]).slice(-1)]);
    const untilS = ((wet.notBeforeMs.get(task.id) as number) - epoch) / 1000;
    expect(Number.isFinite(untilS)).toBe(true);
    expect(untilS).toBeLessThanOrEqual(nowS + 72 * 3600 + 1);
    expect(untilS).toBeGreaterThan(nowS);
  });
});
