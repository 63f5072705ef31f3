import { describe, expect, it } from 'vitest';
import { epochOf, made, touched } from '../../test/play.js';
import { factorsOf, learnFactors } from '../calibration/drying-factors.js';
import { stateThresholds } from '../drying/state.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import { benchTouches, reportOfBench } from './bench-touches.js';
import type { StoredEvent } from './event.js';
import { askedState } from './looked.js';

const patient = made(['lighthouse'], { school: 'patient' });
const twoBags = made(['lighthouse']);

/** A log of everything done as planned until a task, which waits for a neighbour, and what was said of it then. */
function log(plan: Plan, said: readonly { readonly type: 'not-yet' | 'reached' | 'taskBegun' | 'taskDone'; readonly share: number }[]) {
  const epoch = epochOf(plan);
  const wait = plan.waits.find((w) => w.rule === 'touching-sections') as Plan['waits'][number];
  const [from, to] = [wait.from, wait.to].map((id) => plan.tasks.find((t) => t.id === id)) as [PlanTask, PlanTask];
  const events: StoredEvent[] = [];
  const add = (atMs: number, type: string, data: object) =>
    events.push({
      id: `e${events.length}`,
      deviceId: 'd',
      deviceSeq: events.length + 1,
      seq: events.length + 1,
      atMs,
      type,
      data,
    } as StoredEvent);
  add(epoch, 'runStarted', {});
  for (const t of plan.tasks.filter((x) => x.endS <= from.endS)) add(epoch + t.endS * 1000, 'taskDone', { taskId: t.id });
  for (const s of said) {
    const look = s.type === 'not-yet' || s.type === 'reached' ? touched(to.id, s.type) : { type: s.type, data: { taskId: to.id } };
    add(epoch + (from.startS + s.share * wait.minS) * 1000, look.type, look.data);
  }
  return { events, to, from };
}
const learned = (plan: Plan, events: readonly StoredEvent[]) =>
  factorsOf(learnFactors(benchTouches(plan, events).map((t) => reportOfBench(t, 'run'))));

describe('a touch teaches the state that was asked, and that alone', () => {
  it('a finger knows no multiples: below one crust a skin, below three a crust, set from there on', () => {
    const region = { seconds: 15, depthMm: 2.5, on: 'cookie' as const };
    const gap = (times: number) =>
      ({ minState: 'crusted' as const, minLossKgPerM2: times * stateThresholds(region).crusted }) as Parameters<typeof askedState>[0];
    expect([0.5, 0.65, 1, 1.5, 3, 4].map((k) => askedState(gap(k), region))).toEqual([
      'skinned',
      'skinned',
      'crusted',
      'crusted',
      'set',
      'set',
    ]);
    expect(askedState({ ...gap(1), minState: 'firm', minLossKgPerM2: stateThresholds(region).firm }, region)).toBe('firm');
  });
  it('ready at 60 % of a patient wait says something of set icing, not that a crust comes at 60 %', () => {
    const { events } = log(patient, [{ type: 'reached', share: 0.6 }]);
    const [touch] = benchTouches(patient, events).filter((t) => !t.silent);
    expect(touch?.state).toBe('set');
    // Shares are of the state's own threshold at the median: at 60 % of a careful wait most of it is lost.
    expect(touch?.reachedShare).toBeGreaterThan(0.75);
    const factors = learned(patient, events);
    expect(factors.crusted.mean).toBeGreaterThan(-0.25);
    expect(Math.abs(factors.dry.mean)).toBeLessThan(1e-9);
  });
});

describe('one body gives one interval', () => {
  it('several looks at it are one: last not yet, first come', () => {
    const { events } = log(twoBags, [
      { type: 'not-yet', share: 0.7 },
      { type: 'not-yet', share: 0.9 },
      { type: 'reached', share: 1.2 },
    ]);
    const looked = benchTouches(twoBags, events).filter((t) => !t.silent);
    expect(looked).toHaveLength(1);
    expect(looked[0]?.notYetShare).toBeLessThan(looked[0]?.reachedShare as number);
    const once = benchTouches(twoBags, log(twoBags, [{ type: 'not-yet', share: 0.9 }]).events).filter((t) => !t.silent);
    expect(looked[0]?.notYetShare).toBeCloseTo(once[0]?.notYetShare as number, 9);
  });
  it('one that contradicts itself teaches nothing', () => {
    const { events } = log(twoBags, [
      { type: 'reached', share: 0.5 },
      { type: 'not-yet', share: 0.9 },
    ]);
    expect(learned(twoBags, events).crusted.mean).toBeCloseTo(0, 9);
  });
  it('work done without a word is a success of every body it stood on, counted from when its own cookie was left', () => {
    const { events, to, from } = log(twoBags, [
      { type: 'taskBegun', share: 1.05 },
      { type: 'taskDone', share: 1.2 },
    ]);
    const silent = benchTouches(twoBags, events).filter((t) => t.silent);
    expect(silent.length).toBeGreaterThan(0);
    expect(silent.every((t) => t.notYetShare === null && t.reachedShare !== null)).toBe(true);
    expect(from.cookies[1] - from.cookies[0]).toBeGreaterThan(1);
    expect(to.cookies).toEqual(from.cookies);
    // A success in silence moves a kitchen only a little.
    expect(Math.abs(learned(twoBags, events).crusted.mean)).toBeLessThan(0.1);
  });
});
