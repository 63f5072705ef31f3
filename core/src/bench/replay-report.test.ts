import { describe, expect, it } from 'vitest';
import { epochOf, made } from '../../test/play.js';
import { surfaceStates } from '../drying/state.js';
import type { PlanTask } from '../formats/plan.js';
import { benchTouches } from './bench-touches.js';
import { learnedFrom, replayReport } from './replay-report.js';
import type { ExportedRun } from './run-format.js';
import { visitPaces } from './visit-paces.js';

const plan = made(['mackerel'], { margin: 'careful' });
const epoch = epochOf(plan);

/** The whole plan worked as planned, `more` minutes later than planned from a task on. */
function worked(late: (t: PlanTask) => number = () => 0): ExportedRun {
  const events = [
    { type: 'runStarted', atS: 0, data: {} },
    ...plan.tasks.map((t) => ({ type: 'taskDone', atS: t.endS + late(t), data: { taskId: t.id } })),
  ].map(({ atS, ...e }, i) => ({ ...e, id: `e${i}`, deviceId: 'd', deviceSeq: i + 1, seq: i + 1, atMs: epoch + atS * 1000 }));
  return { format: 'kestfog-run/2', plan, events } as unknown as ExportedRun;
}
const run = worked();
const rank = (s: (typeof surfaceStates)[number]) => surfaceStates.indexOf(s);

describe('a run replayed', () => {
  const wet = plan.tasks.find((t) => t.kind === 'wet') as PlanTask;
  it('knows every body laid by then, what it lost and its state with eight in ten', () => {
    const soon = replayReport(run, epoch + (wet.endS + 1) * 1000);
    const later = replayReport(run, epoch + (wet.endS + 3600) * 1000);
    const key = (b: (typeof soon.bodies)[number]) => `${b.lotId} ${b.cookie} ${b.stepId}`;
    const own = soon.bodies.filter((b) => wet.motions.some((m) => m.stepId === b.stepId));
    expect(new Set(own.map((b) => b.cookie)).size).toBe(wet.cookies[1] - wet.cookies[0]);
    expect(new Set(soon.bodies.map(key)).size).toBe(soon.bodies.length);
    const known = new Map(later.bodies.map((b) => [key(b), b]));
    for (const b of own) {
      expect(b.leftAtS).toBeLessThanOrEqual(wet.endS);
      expect(known.get(key(b))?.lostKgPerM2).toBeGreaterThan(b.lostKgPerM2);
    }
    for (const b of later.bodies) {
      expect(rank(b.stateLeast)).toBeLessThanOrEqual(rank(b.state));
      expect(rank(b.state)).toBeLessThanOrEqual(rank(b.stateMost));
    }
    // The cookie laid first is the driest.
    const lost = own.filter((b) => b.stepId === own[0]?.stepId).sort((a, b) => a.leftAtS - b.leftAtS);
    expect(lost.map((b) => b.lostKgPerM2)).toEqual(lost.map((b) => b.lostKgPerM2).sort((a, b) => b - a));
  });
  it('hears nothing of what was said later', () => {
    const atMs = epoch + wet.endS * 1000;
    expect(replayReport(run, atMs)).toEqual(replayReport({ ...run, events: run.events.filter((e) => e.atMs <= atMs) }, atMs));
  });
  it('says what waits and for what, and in the end that nothing does', () => {
    const { waits, tasksDone } = replayReport(run, epoch + wet.endS * 1000);
    expect(tasksDone + waits.length).toBe(plan.tasks.length);
    const next = waits.find((w) => w.after.length === 0);
    expect(next?.readyS).not.toBeUndefined();
    for (const w of waits) expect(w.readyS === null).toBe(w.after.length > 0 || !plan.waits.some((x) => x.to === w.taskId));
    expect(replayReport(run)).toMatchObject({ waits: [], windows: [], tasksDone: plan.tasks.length, otherModel: null });
  });
  it('says so where it was planned with another model', () => {
    const { otherModel } = replayReport({ ...run, plan: { ...plan, modelVersion: 'kestfog-model/1' } });
    expect(otherModel).toEqual({ planned: 'kestfog-model/1', here: plan.modelVersion });
  });
  it('learns what its touches teach, and more of several runs', () => {
    const one = replayReport(run);
    expect(one.touches).toEqual(benchTouches(plan, run.events));
    expect(one.learned).toEqual(learnedFrom([one.touches], visitPaces(plan, run.events, 'run')));
    const silent = Object.values(one.learned.evidence).reduce((s, e) => s + e.silent, 0);
    expect(silent).toBe(one.touches.length);
    const many = learnedFrom([one.touches, one.touches, one.touches], []);
    expect(many.evidence.crusted.silent).toBe(3 * one.learned.evidence.crusted.silent);
    // Work that was begun in time without a word says that waits may be shorter, and the more so the oftener.
    expect(many.factors.crusted.mean).toBeLessThan(one.learned.factors.crusted.mean);
    expect(many.factors.crusted.sigma).toBeLessThan(one.learned.factors.crusted.sigma);
  });
});
