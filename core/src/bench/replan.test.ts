import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alreadyBroken, asItWillBe, doneS, epochOf, made, played, twoHands } from '../../test/play.js';
import { brokenRules } from '../cli/check-plan.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import { consequenceOf } from '../wording/why.js';
import type { RunEvent } from './event.js';
import { foldRun } from './fold.js';
import { replan } from './replan.js';
import { runIndex } from './run-index.js';

const plans = [
  made(['lighthouse', 'mackerel'], { fan: { places: 1 } }),
  made(['gull', 'sea-glass', 'mackerel'], { dehydrator: { places: 1 } }),
  twoHands,
];

describe('re-planning a run', () => {
  it('nothing slipped: what is left stays about where it was, and nothing is lost', () => {
    for (const plan of plans) {
      const { state, nowS } = played(plan, 5, 1, 0, false);
      const again = replan(runIndex(state), nowS);
      expect(again.lost).toEqual([]);
      expect(again.lateS).toBe(0);
      expect(again.endS).toBeLessThanOrEqual(plan.endS + 600);
    }
  });
  it('nothing is begun a part of a second before its wait is over', () => {
    const [plan] = plans as [Plan, ...Plan[]];
    const epoch = epochOf(plan);
    let looked = 0;
    for (const aside of [0.2, 0.4, 0.49, 0.6]) {
      // One that hands wait for: what is ready as they come free is in hand at once, and stays where it was begun.
      const drying = plan.tasks.find(
        (t, k) => t.because.kind === 'drying' && plan.tasks.slice(0, k).every((o) => o.endS + 60 < t.startS),
      ) as PlanTask;
      const done = plan.tasks.slice(0, plan.tasks.indexOf(drying));
      const events = [
        { type: 'runStarted', atMs: epoch, data: {} },
        ...done.map((t) => ({ type: 'taskDone', atMs: epoch + (t.endS + aside) * 1000, data: { taskId: t.id } })),
      ].map((e, i) => ({ ...e, id: `e${i}`, deviceId: 'd', deviceSeq: i + 1 })) as RunEvent[];
      const state = foldRun(plan, events);
      const again = replan(runIndex(state), drying.startS - 60);
      const readyS = (runIndex(state).readyMs(drying) - epoch) / 1000;
      expect(again.starts[drying.id]).toBeGreaterThanOrEqual(readyS);
      if ((again.starts[drying.id] as number) < readyS + 1) looked += 1;
    }
    // They are begun when they may be, so that the second that is cut would show.
    expect(looked).toBeGreaterThan(0);
  });
  it('after any slips keeps every rule for what is still open; what it cannot keep it names', () => {
    let looked = 0;
    fc.assert(
      fc.property(
        fc.nat(2),
        fc.double({ min: 0, max: 0.95, noNaN: true }),
        fc.nat(),
        fc.constantFrom(0.1, 0.5, 2),
        fc.boolean(),
        (which, share, seed, slip, inHand) => {
          const plan = plans[which] as Plan;
          const { state, nowS } = played(plan, Math.floor(share * (plan.tasks.length - 1)), seed, slip, inHand);
          const again = replan(runIndex(state), nowS);
          const open = plan.tasks.filter((t) => doneS(plan, state, t.id) === null);
          expect(Object.keys(again.starts).sort()).toEqual(open.map((t) => t.id).sort());
          const openIds = new Set(open.map((t) => t.id));
          for (const t of open)
            if ((state.tasks.get(t.id)?.begunAtMs ?? null) === null) expect(again.starts[t.id]).toBeGreaterThanOrEqual(nowS - 1);
          const whole = asItWillBe(plan, state, again.starts);
          const broken = brokenRules(whole).filter((rule) => {
            // What was done late, slow or into the night is done; only what is still to come can keep rules.
            const names = plan.tasks.filter((t) => rule.includes(t.id));
            if (names.length > 0 && names.every((t) => !openIds.has(t.id) || (state.tasks.get(t.id)?.begunAtMs ?? null) !== null))
              return false;
            if (/packed late/.test(rule)) return again.lateS === 0;
            if (/window was shut/.test(rule) && again.lost.length > 0) return false;
            // Who is at the bench at closing may end what is at hand: ten minutes.
            if (/closed/.test(rule))
              return again.lateS === 0 && names.some((t) => (again.starts[t.id] ?? 0) + t.endS - t.startS > nowS + 600);
            return !alreadyBroken(plan, state, rule);
          });
          looked += 1;
          expect(broken).toEqual([]);
        },
      ),
      { numRuns: 150, seed: 78 },
    );
    expect(looked).toBe(150);
  });
  it('what is in hand is not moved, and the next two steps stay unless that costs', () => {
    const plan = plans[0] as Plan;
    const { state, nowS } = played(plan, 8, 5, 0.1, true);
    const again = replan(runIndex(state), nowS);
    const hand = plan.tasks[8] as PlanTask;
    expect(again.starts[hand.id]).toBe(((state.tasks.get(hand.id)?.begunAtMs as number) - epochOf(plan)) / 1000);
    const order = Object.entries(again.starts)
      .filter(([id]) => id !== hand.id)
      .sort((a, b) => a[1] - b[1])
      .map(([id]) => id);
    expect(order.slice(0, 2).sort()).toEqual(
      plan.tasks
        .slice(9, 11)
        .map((t) => t.id)
        .sort(),
    );
  });
  it('a window that cannot be held is shown with what happens then', () => {
    const plan = plans[1] as Plan;
    const crackle = plan.tasks.findIndex((t) => t.motions.some((m) => m.technique === 'crackle'));
    const wait = plan.waits.find((w) => w.to === plan.tasks[crackle]?.id && w.maxS !== null);
    expect(wait).toBeDefined();
    // No further than the flood it cracks: what comes next may be taken up by itself.
    const { state } = played(plan, plan.tasks.findIndex((t) => t.id === wait?.from) + 1, 3, 0, false);
    const from = doneS(plan, state, wait?.from as string) as number;
    // Two hours away from the bench: the crust has shut.
    const again = replan(runIndex(state), from + 7200);
    expect(again.lost.map((l) => l.taskId)).toContain(plan.tasks[crackle]?.id);
    expect(again.lost.every((l) => l.bySeconds > 0 && consequenceOf(l.why).length > 3)).toBe(true);
  });
  it('a re-timed plan is in order of time, its reasons found anew', () => {
    const plan = plans[0] as Plan;
    const { state, nowS } = played(plan, 6, 9, 2, false);
    const whole = asItWillBe(plan, state, replan(runIndex(state), nowS).starts);
    expect(whole.tasks.map((t) => t.startS)).toEqual([...whole.tasks.map((t) => t.startS)].sort((a, b) => a - b));
    expect(whole.tasks.map((t) => t.id).sort()).toEqual(plan.tasks.map((t) => t.id).sort());
    expect(whole.endS).toBe(Math.max(...whole.tasks.map((t) => t.endS)));
  });
});

describe('a re-plan in the log', () => {
  const plan = plans[0] as Plan;
  const { state, nowS } = played(plan, 7, 4, 2, false);
  const starts = replan(runIndex(state), nowS).starts;
  const revised: RunEvent = {
    id: 'r',
    deviceId: 'd',
    deviceSeq: 90,
    atMs: epochOf(plan) + nowS * 1000,
    type: 'planRevised',
    data: { baseSeq: 9, starts },
  };
  it('changes when what is open comes, and nothing of what is done; taken back, all is as before', () => {
    const after = foldRun(plan, [...state.standing, revised]);
    expect([...after.tasks]).toEqual([...state.tasks]);
    for (const t of after.plan.tasks) if (starts[t.id] !== undefined) expect(t.startS).toBe(starts[t.id]);
    const back: RunEvent = { id: 'u', deviceId: 'd', deviceSeq: 91, atMs: revised.atMs + 1, type: 'undone', data: { eventId: 'r' } };
    expect(foldRun(plan, [...state.standing, revised, back]).plan).toEqual(state.plan);
  });
  it('a task done before the re-plan reached the log keeps its time', () => {
    const next = plan.tasks[8] as PlanTask;
    const done: RunEvent = { id: 'n', deviceId: 'd', deviceSeq: 89, atMs: revised.atMs, type: 'taskDone', data: { taskId: next.id } };
    const after = foldRun(plan, [...state.standing, done, revised]);
    expect(after.plan.tasks.find((t) => t.id === next.id)?.startS).toBe(next.startS);
  });
  it('what is taken up by itself follows the new order', () => {
    const last = state.plan.tasks.findIndex((t) => doneS(plan, state, t.id) === null);
    const swapped = { ...starts };
    const [a, b] = [plan.tasks[last], plan.tasks[last + 1]] as [PlanTask, PlanTask];
    swapped[b.id] = nowS;
    swapped[a.id] = nowS + 5000;
    const after = foldRun(plan, [...state.standing, { ...revised, data: { baseSeq: 9, starts: swapped } }]);
    expect(after.plan.tasks.filter((t) => doneS(plan, state, t.id) === null)[0]?.id).toBe(b.id);
  });
});
