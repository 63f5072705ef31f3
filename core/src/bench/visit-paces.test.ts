import { describe, expect, it } from 'vitest';
import { drawing, epochOf, made } from '../../test/play.js';
import { learnPace } from '../calibration/pace.js';
import { parseOrder } from '../formats/order.js';
import { planIndex } from '../formats/plan-index.js';
import { paceEffect, secondsByKind } from '../planning/own-pace.js';
import { planOrder } from '../planning/plan-order.js';
import type { StoredEvent } from './event.js';
import { pausesOf, withoutPausesMs } from './pauses.js';
import { visitPaces } from './visit-paces.js';

const plan = made(['mackerel']);
const epoch = epochOf(plan);
const visits = plan.tasks.filter((t) => t.lotId !== null);

/** Every visit begun when it was planned and done so many times later, with more said in between. */
function log(
  times: (i: number) => number,
  more: (i: number, startS: number, tookS: number) => readonly [number, StoredEvent['type'], object][] = () => [],
): StoredEvent[] {
  const all: [number, string, object][] = [[plan.tasks[0]?.startS ?? 0, 'runStarted', {}]];
  let handsS = 0;
  for (const [i, t] of plan.tasks.entries()) {
    // As the bench has it: the next is taken up at once, and begins with the change of bags.
    const [a, b] = [plan.tasks[i - 1], t].map((x) => (x ? planIndex(plan).familyOf(x) : null));
    const startS = Math.max(times(i) < 1 ? 0 : t.startS, handsS + (a && b && a !== b ? 20 : 0));
    const tookS = (t.endS - t.startS) * times(i);
    all.push([startS, 'taskBegun', { taskId: t.id }], ...more(i, startS, tookS), [startS + tookS, 'taskDone', { taskId: t.id }]);
    handsS = startS + tookS;
  }
  return all.map(
    ([s, type, data], i) =>
      ({ id: `e${i}`, deviceId: 'd', deviceSeq: i + 1, seq: i + 1, atMs: Math.round(epoch + s * 1000), type, data }) as StoredEvent,
  );
}
const total = (v: { readonly assumedS: object }) => Object.values(v.assumedS as Record<string, number>).reduce((s, x) => s + x, 0);

describe('how long visits took', () => {
  it('is read from when they were begun and done, and split as they were planned', () => {
    const paces = visitPaces(
      plan,
      log(() => 1.3),
      'day',
    );
    expect(paces).toHaveLength(visits.length);
    for (const p of paces) expect(p.tookS / total(p)).toBeCloseTo(1.3, 1);
    for (const t of visits) expect([...secondsByKind(plan, t).values()].reduce((s, x) => s + x, 0)).toBeCloseTo(t.endS - t.startS, 6);
  });
  it('a pause is cut off, and so is whoever was called away between two cookies', () => {
    const paused = visitPaces(
      plan,
      log(
        (i) => (i === 2 ? 2.5 : 1),
        (i, s, took) =>
          i === 2
            ? [
                [s + took * 0.1, 'paused', {}],
                [s + took * 0.7, 'resumed', {}],
              ]
            : [],
      ),
      'day',
    );
    const third = paused.find((p) => Math.abs(total(p) - ((visits[2]?.endS ?? 0) - (visits[2]?.startS ?? 0))) < 1e-6);
    expect((third?.tookS ?? 0) / total(third ?? { assumedS: {} })).toBeCloseTo(1, 1);
    const task = plan.tasks.find((t) => t.kind === 'wet' && t.cookies[1] - t.cookies[0] >= 5);
    const share = ((task?.endS ?? 0) - (task?.startS ?? 0)) / 6;
    const ticked = visitPaces(
      plan,
      log(
        (i) => (plan.tasks[i] === task ? 2.9 : 1),
        (i, s) =>
          plan.tasks[i] === task
            ? [0, 1, 2, 3, 4].map((c): [number, StoredEvent['type'], object] => [
                s + share * (c + 1) + (c > 2 ? share * 11.4 : 0),
                'cookieDone',
                { taskId: task?.id, cookie: c },
              ])
            : [],
      ),
      'day',
    );
    expect(Math.max(...ticked.map((p) => p.tookS / total(p)))).toBeLessThan(1.3);
  });
  it('left out is what nobody saw begin, what was tapped through, and what was plainly interrupted', () => {
    const untold = log(() => 1).filter((e) => e.type !== 'taskBegun');
    expect(
      visitPaces(
        plan,
        untold.map((e, i) => ({ ...e, atMs: e.atMs + i * 40_000 })),
        'day',
      ).length,
    ).toBeLessThan(visits.length);
    expect(
      visitPaces(
        plan,
        log(() => 0.1),
        'day',
      ),
    ).toEqual([]);
    expect(
      visitPaces(
        plan,
        log((i) => (i === 1 ? 9 : 1)),
        'day',
      ).length,
    ).toBe(visits.length - 1);
    expect(
      visitPaces(
        plan,
        log(() => 1).map((e) => ({ ...e, doubtful: true as const })),
        'day',
      ),
    ).toEqual([]);
  });
});

describe('a plan at the pace that was learned', () => {
  const order = (takes?: object) =>
    parseOrder({
      format: 'kestfog-order/3',
      designs: [{ file: 'mackerel', count: 6 }],
      trays: [{ id: 'A', places: 6 }],
      openingHours: [['2026-06-05T14:00:00Z', '2026-06-06T22:00:00Z']],
      decorators: [{ id: 'Ada', ...(takes ? { takes } : {}) }],
    });
  const planned = (takes?: object) => planOrder({ order: order(takes), designs: [drawing('mackerel')], passes: 40 });
  it('takes those hands longer at what they are slow at, and the icing dries as ever', () => {
    const learned = learnPace(
      [...Array(12).keys()].flatMap((d) =>
        visitPaces(
          plan,
          log(() => 1.5),
          `day ${d}`,
        ),
      ),
    ).get('me');
    expect(learned?.flood.takes).toBeGreaterThan(1.3);
    const [was, is] = [planned(), planned({ flood: 1.5 })];
    const floods = (p: typeof was) => p.tasks.reduce((s, t) => s + (secondsByKind(p, t).get('flood') ?? 0), 0);
    expect(floods(is) / floods(was)).toBeCloseTo(1.5, 6);
    const packs = (p: typeof was) => p.tasks.reduce((s, t) => s + (secondsByKind(p, t).get('pack') ?? 0), 0);
    expect(packs(is)).toBeCloseTo(packs(was), 6);
    expect(paceEffect(was)).toBeNull();
    expect(paceEffect(is)).toMatchObject({ own: [{ who: 'Ada', kind: 'flood', takes: 1.5 }] });
    expect(paceEffect(is)?.moreS).toBeCloseTo(floods(is) / 3, 3);
    expect(is.designs[0]?.graph.gaps).toEqual(was.designs[0]?.graph.gaps);
    expect(() => order({ juggling: 2 })).toThrow(/decorators/);
  });
});

describe('how long hands were at something', () => {
  const at = (atMs: number, type: StoredEvent['type']) => ({ type, atMs }) as StoredEvent;
  it('leaves pauses out, also one that goes on', () => {
    const run = { standing: [at(10, 'paused'), at(25, 'resumed'), at(60, 'paused')], pausedAtMs: 60 };
    expect(pausesOf(run)).toEqual([
      [10, 25],
      [60, Number.POSITIVE_INFINITY],
    ]);
    expect(withoutPausesMs(run, 0, 40)).toBe(25);
    expect(withoutPausesMs(run, 20, 100)).toBe(35);
    expect(withoutPausesMs({ ...run, pausedAtMs: null, standing: [] }, 20, 100)).toBe(80);
  });
});
