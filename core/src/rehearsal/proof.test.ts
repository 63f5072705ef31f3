import { describe, expect, it } from 'vitest';
import { anyKitchen } from '../../test/kitchen.js';
import { made } from '../../test/play.js';
import { bodiesAsked } from '../bench/bodies.js';
import { foldRun, runIndex } from '../bench/index.js';
import { cookieKey } from '../formats/ids.js';
import { slower } from './kitchen.js';
import { eveningOf, proofOf, workEvening } from './proof.js';
import { isThere } from './truth.js';

const plan = made(['lighthouse', 'mackerel', 'gull'], { decorators: [{ id: 'Ada' }, { id: 'Bo' }] });

describe('evenings worked at a pace of their own', () => {
  it.each(['sees', 'looks', 'replans'] as const)(
    'who %s: all is done, in time order, and nothing is begun that a finger would find wet',
    (works) => {
      for (const seed of [1, 2, 3]) {
        const { truth, rng } = eveningOf(anyKitchen, seed);
        const events = workEvening(plan, truth, rng, works);
        expect(events.map((e) => e.atMs)).toEqual([...events.map((e) => e.atMs)].sort((a, b) => a - b));
        const end = runIndex(foldRun(plan, events));
        expect(end.state.finished).toBe(true);
        for (const e of events) {
          const task = e.type === 'taskBegun' ? end.plan.task(e.data.taskId) : undefined;
          for (const a of task ? bodiesAsked(end, task) : [])
            expect([task?.id, isThere(truth, cookieKey(a.body.lotId, a.body.cookie), a.body, a.state, end.plan.sOf(e.atMs) + 1)]).toEqual([
              task?.id,
              true,
            ]);
        }
      }
    },
  );
  it('who re-plans says what was found wet, and the bench plans again', () => {
    const { truth, rng } = eveningOf(() => slower(1.4), 4);
    const types = new Set(workEvening(plan, truth, rng, 'replans').map((e) => e.type));
    expect([types.has('touched'), types.has('planRevised')]).toEqual([true, true]);
  });
  it('the same seed gives the same evenings; a slower kitchen is done later', () => {
    // One long opening: no night decides.
    const day = made(['lighthouse', 'mackerel'], { openingHours: [['2026-06-05T08:00:00Z', '2026-06-07T08:00:00Z']], packBy: undefined });
    const of = (times: number) => proofOf(day, { evenings: 10, seed: 3, kitchen: () => slower(times), works: 'sees' });
    expect(of(1)).toEqual(of(1));
    expect(of(1.4).endS.median).toBeGreaterThan(of(1).endS.median);
    // Windows are held in a kitchen by the book, and lost where icing skins twenty times as fast: marks of ten seconds and more miss them.
    const held = (times: number) => of(times).windows.map((w) => w.held);
    expect(held(1).length).toBeGreaterThan(0);
    expect([Math.min(...held(1)) > 0.7, Math.max(...held(0.05)) < 0.1]).toEqual([true, true]);
  });
});
