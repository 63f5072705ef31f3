import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenConstraints } from '../../test/check-solution.js';
import { seededRng } from '../time/rng.js';
import { anneal } from './anneal.js';
import { Layout } from './layout.js';
import { buildModel, type Model } from './model.js';
import { earliestOpenStarts, earliestStarts } from './network.js';
import { lessThan, scheduleValue } from './objective.js';
import type { Problem, Solution } from './problem.js';
import { Regrouping } from './regroup.js';
import { solve } from './solve.js';

const SEED = 4713;

/** Trays of several steps each: drying between them, windows on some, two colours, nights, a fan of three places. */
const problem: fc.Arbitrary<Problem> = fc
  .record({
    trays: fc.array(
      fc.array(
        fc.record({
          duration: fc.integer({ min: 1, max: 9 }),
          wait: fc.integer({ min: 0, max: 12 }),
          window: fc.option(fc.integer({ min: 2, max: 9 }), { freq: 2 }),
          family: fc.constantFrom('red', 'white', 'blue', null),
          on: fc.constantFrom('hands' as const, 'hands' as const, 'fan' as const),
          amount: fc.integer({ min: 1, max: 3 }),
        }),
        { minLength: 1, maxLength: 4 },
      ),
      { minLength: 3, maxLength: 8 },
    ),
    changeover: fc.constantFrom(0, 2, 5),
    day: fc.integer({ min: 25, max: 60 }),
    objective: fc.constantFrom('makespan' as const, 'tardiness' as const, ['changes', 'makespan'] as const),
  })
  .map(
    ({ trays, changeover, day, objective }): Problem => ({
      format: 'kestfog-problem/1',
      resources: [
        {
          id: 'hands',
          capacity: 1,
          changeover,
          closed: [...Array(12).keys()].map((d) => [d * 90 + day, (d + 1) * 90] as [number, number]),
        },
        { id: 'fan', capacity: 3 },
      ],
      tasks: trays.flatMap((steps, t) =>
        steps.map((s, i) => ({
          id: `t${t}.${i}`,
          duration: s.duration,
          uses: { [s.on]: s.on === 'hands' ? 1 : s.amount },
          family: s.family,
          due: i === steps.length - 1 ? 40 * (t + 1) : null,
        })),
      ),
      links: trays.flatMap((steps, t) =>
        steps
          .slice(1)
          .map((s, i) => ({ from: `t${t}.${i}`, to: `t${t}.${i + 1}`, min: s.wait, max: s.window === null ? null : s.wait + s.window })),
      ),
      objective,
    }),
  );

const prepared = (p: Problem): { m: Model; earliest: number[]; first: number[] } | null => {
  const first = solve(p, { passes: 0, seed: 1 });
  if (!('start' in first)) return null;
  const m = buildModel(p);
  const temporal = earliestStarts(m);
  const open = temporal.ok ? earliestOpenStarts(m, temporal.start) : { never: 0 };
  if ('never' in open) return null;
  return { m, earliest: open.start, first: m.ids.map((id) => (first as Solution).start[id] as number) };
};
const named = (m: Model, start: ArrayLike<number>) => Object.fromEntries(m.ids.map((id, v) => [id, start[v] as number]));
/** Open seconds before a moment, counted one by one: by other means than the layout's sums. */
const openBefore = (m: Model, v: number, s: number) => {
  let open = 0;
  for (let t = 0; t < s; t++)
    if (!(m.closed[v] as readonly { fromS: number; toS: number }[]).some((c) => c.fromS <= t && t < c.toS)) open += 1;
  return open;
};

describe('a layout', () => {
  it('after any moves kept and undone is a plan that keeps every rule, undone moves leave no trace, and its sums are those of its starts', () => {
    let laid = 0;
    fc.assert(
      fc.property(problem, fc.nat(), (p, seed) => {
        const ready = prepared(p);
        if (!ready) return;
        const { m, earliest, first } = ready;
        const layout = new Layout(m, earliest, first, new Set());
        if (!layout.layAll()) return;
        const rng = seededRng(seed);
        for (let i = 0; i < 60; i++) {
          const before = [...layout.start];
          const meanBefore = layout.meanOpenS();
          if (!layout.tryMove(rng, 0.4)) {
            expect([...layout.start]).toEqual(before);
            continue;
          }
          if (layout.whole && rng() < 0.6) {
            layout.keep();
            laid += 1;
            if (laid % 5 === 0) expect(brokenConstraints(p as never, named(m, layout.start))).toEqual([]);
          } else {
            layout.undo();
            expect([...layout.start]).toEqual(before);
            expect(layout.meanOpenS()).toBe(meanBefore);
          }
        }
        const work = m.duration.reduce((s, d) => s + d, 0);
        const mean = m.duration.reduce((s, d, v) => s + d * openBefore(m, v, layout.start[v] as number), 0) / work;
        expect(layout.meanOpenS()).toBeCloseTo(mean, 9);
        const value = scheduleValue(m, [...layout.start]);
        const unit = m.levels[0] === 'changes' ? 7 : 1;
        expect(layout.cost(7)).toBeCloseTo((value[0] as number) * unit + (m.levels.length > 1 ? (value[1] as number) / 10 : 0), 6);
      }),
      { numRuns: 60, seed: SEED },
    );
    // The property is worth something only where moves were laid out at all.
    expect(laid).toBeGreaterThan(300);
  });
  it('gives up early only what would end later than asked, and lays out all else as it does without being asked', () => {
    const seen = { givenUp: 0, whole: 0 };
    fc.assert(
      fc.property(problem, fc.nat(), (p, seed) => {
        const ready = prepared(p);
        if (!ready) return;
        const { m, earliest, first } = ready;
        const asked = new Layout(m, earliest, first, new Set());
        const free = new Layout(m, earliest, first, new Set());
        if (!asked.layAll() || !free.layAll()) return;
        const endOf = (layout: Layout) => Math.max(...m.duration.map((d, v) => (layout.start[v] as number) + d));
        const rng = [seededRng(seed), seededRng(seed)] as const;
        const chance = seededRng(seed + 1);
        for (let i = 0; i < 60; i++) {
          const mostEndS = endOf(free) + Math.floor(chance() * 12) - 4;
          const isMove = free.tryMove(rng[1], 0.4);
          expect(asked.tryMove(rng[0], 0.4, mostEndS)).toBe(isMove);
          if (!isMove) continue;
          if (asked.whole) {
            expect(free.whole).toBe(true);
            expect([...asked.start]).toEqual([...free.start]);
            seen.whole += 1;
          } else if (free.whole) {
            expect(endOf(free)).toBeGreaterThan(mostEndS);
            seen.givenUp += 1;
          }
          const kept = asked.whole && chance() < 0.6;
          for (const layout of [asked, free]) kept ? layout.keep() : layout.undo();
        }
      }),
      { numRuns: 60, seed: SEED },
    );
    expect(Math.min(seen.givenUp, seen.whole)).toBeGreaterThan(150);
  });
  it('lets two groups change places, task by task; what the longer has more of follows the last of the shorter', () => {
    const steps = { a: ['flood', 'drag'], b: ['flood', 'lines', 'drag'] };
    const task = (id: string) => ({ id, duration: 1, uses: { hands: 1 }, family: id.split('.').at(-1) as string });
    const p: Problem = {
      format: 'kestfog-problem/1',
      resources: [{ id: 'hands', capacity: 1 }],
      tasks: [...Object.entries(steps).flatMap(([g, of]) => of.map((step) => `${g}.${step}`)), 'border', 'paint'].map(task),
      links: Object.entries(steps).flatMap(([g, of]) =>
        of.slice(1).map((step, i) => ({ from: `${g}.${of[i]}`, to: `${g}.${step}`, min: 0, max: 9 })),
      ),
      objective: 'makespan',
    };
    const m = buildModel(p);
    const was = Int32Array.from(['a.flood', 'border', 'a.drag', 'b.flood', 'paint', 'b.lines', 'b.drag'], (id) => m.ids.indexOf(id));
    const placeOf = new Int32Array(m.n);
    for (const [k, v] of was.entries()) placeOf[v] = k;
    const order = was.slice();
    // The first group, exchanged, with the first of those that share a family with it.
    const moved = new Regrouping(m, new Set()).write(was, order, placeOf, 8, () => 0);
    const idOf = (v: number) => m.ids[v];
    expect([...order].map(idOf)).toEqual(['b.flood', 'border', 'b.lines', 'b.drag', 'a.flood', 'paint', 'a.drag']);
    expect(moved.map(idOf).sort()).toEqual(['a.drag', 'a.flood', 'b.drag', 'b.flood', 'b.lines']);
  });
  it('keeps frozen tasks where they stand', () => {
    fc.assert(
      fc.property(problem, fc.nat(), (p, seed) => {
        const ready = prepared(p);
        if (!ready) return;
        const { m, earliest, first } = ready;
        const middle = [...first].sort((a, b) => a - b)[Math.floor(first.length / 2)] as number;
        const frozen = new Set(first.flatMap((s, v) => (s <= middle ? [v] : [])));
        const found = anneal(m, earliest, first, seededRng(seed), (moves) => moves / 400, frozen);
        for (const v of frozen) expect(found.start[v]).toBe(first[v]);
      }),
      { numRuns: 40, seed: SEED },
    );
  });
});

describe('annealing', () => {
  it('never ends worse than it began, and often better; every plan it tells of keeps every rule', () => {
    let better = 0;
    let of = 0;
    fc.assert(
      fc.property(problem, fc.nat(), (p, seed) => {
        const ready = prepared(p);
        if (!ready) return;
        const { m, earliest, first } = ready;
        const found = anneal(
          m,
          earliest,
          first,
          seededRng(seed),
          (moves) => moves / 1500,
          new Set(),
          (start) => expect(brokenConstraints(p as never, named(m, start))).toEqual([]),
        );
        const was = scheduleValue(m, first);
        expect(lessThan(was, found.value)).toBe(false);
        of += 1;
        if (lessThan(found.value, was)) better += 1;
      }),
      { numRuns: 60, seed: SEED },
    );
    // What it begins with was bettered by some hundred moves before.
    expect(better / of).toBeGreaterThan(0.2);
  });
  it('works groups along with each other: three trays of flood, lines and drag share their changes of bag', () => {
    const steps = ['flood', 'lines', 'drag'] as const;
    const trays = [1, 2, 3];
    const p: Problem = {
      format: 'kestfog-problem/1',
      resources: [{ id: 'hands', capacity: 1, changeover: 6 }],
      tasks: trays.flatMap((t) => steps.map((s) => ({ id: `${s} ${t}`, duration: 4, uses: { hands: 1 }, family: s }))),
      links: trays.flatMap((t) => [1, 2].map((i) => ({ from: `${steps[i - 1]} ${t}`, to: `${steps[i]} ${t}`, min: 0, max: 20 }))),
      objective: 'makespan',
    };
    const { m, earliest } = prepared(p) as NonNullable<ReturnType<typeof prepared>>;
    // One tray after the other: eight changes. Two are the least.
    const byTray = m.ids.map((_, v) => v * 10);
    const found = anneal(m, earliest, byTray, seededRng(1), (moves) => moves / 600, new Set());
    expect(found.value[0]).toBe(9 * 4 + 2 * 6);
  });
  it('says the same for the same chance, and leaves alone what is held between tasks', () => {
    const p: Problem = {
      format: 'kestfog-problem/1',
      resources: [
        { id: 'hands', capacity: 1, changeover: 5 },
        { id: 'dehydrator', capacity: 1 },
      ],
      tasks: ['a', 'b', 'c', 'd'].map((id, i) => ({ id, duration: 3, uses: { hands: 1 }, family: i % 2 ? 'red' : 'white' })),
      links: [],
      objective: 'makespan',
    };
    const from = [0, 8, 16, 24];
    const run = (q: Problem) => anneal(buildModel(q), [0, 0, 0, 0], from, seededRng(3), (moves) => moves / 300, new Set());
    expect(run(p)).toEqual(run(p));
    // Two colours, two tasks each: one change is the least.
    expect(run(p).value[0]).toBe(17);
    expect(run({ ...p, holds: [{ resource: 'dehydrator', from: 'a', to: 'b', amount: 1 }] }).start).toEqual(from);
  });
});
