import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenConstraints } from '../../test/check-solution.js';
import { exhaustive, levelsOf, measure } from '../../test/exhaustive-schedule.js';
import type { Problem, Solution, Task } from './problem.js';
import { solve } from './solve.js';

const SEED = 2718;
const HORIZON = 14;

/** Small problems with what is held, soft maxima and a choice of hands. */
const problem: fc.Arbitrary<Problem> = fc
  .record({
    durations: fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 2, maxLength: 3 }),
    hands: fc.array(fc.boolean(), { minLength: 3, maxLength: 3 }),
    links: fc.array(
      fc.record({
        a: fc.nat(2),
        b: fc.nat(2),
        min: fc.integer({ min: 0, max: 3 }),
        room: fc.option(fc.integer({ min: 0, max: 2 })),
        soft: fc.boolean(),
      }),
      {
        maxLength: 3,
      },
    ),
    hold: fc.option(fc.record({ a: fc.nat(2), b: fc.nat(2), amount: fc.integer({ min: 1, max: 2 }) })),
    choice: fc.option(fc.integer({ min: 1, max: 4 })),
    due: fc.option(fc.integer({ min: 1, max: 6 })),
    objective: fc.constantFrom<Problem['objective']>('makespan', ['soft', 'tardiness', 'makespan'], ['tardiness', 'makespan']),
  })
  .map((r): Problem => {
    const n = r.durations.length;
    const id = (i: number) => `t${i % n}`;
    return {
      format: 'kestfog-problem/1',
      resources: [
        { id: 'hands', capacity: 1 },
        { id: 'more-hands', capacity: 1 },
        { id: 'dehydrator', capacity: 2 },
      ],
      tasks: r.durations.map(
        (duration, i): Task => ({
          id: `t${i}`,
          duration,
          uses: r.hands[i] ? { hands: 1 } : { dehydrator: 1 },
          ...(i === 0 && r.due !== null ? { due: r.due } : {}),
          ...(i === 1 && r.choice !== null
            ? {
                uses: {},
                usesOneOf: [
                  { uses: { hands: 1 }, duration },
                  { uses: { 'more-hands': 1 }, duration: r.choice },
                ],
              }
            : {}),
        }),
      ),
      links: r.links
        .filter((l) => l.a % n !== l.b % n)
        .map((l) => ({
          from: id(l.a),
          to: id(l.b),
          anchor: 'end' as const,
          min: l.min,
          max: l.room === null ? null : l.min + l.room,
          ...(l.soft && l.room !== null ? { soft: 2 } : {}),
        })),
      ...(r.hold && r.hold.a % n !== r.hold.b % n
        ? { holds: [{ resource: 'dehydrator', from: id(r.hold.a), to: id(r.hold.b), amount: r.hold.amount }] }
        : {}),
      objective: r.objective,
      horizon: HORIZON,
    };
  });

describe(`holds, soft maxima, choices and levels against exhaustive search (seed ${SEED})`, () => {
  it('never better than possible, best where proven, never impossible where it can be done', () => {
    let proven = 0;
    let impossible = 0;
    fc.assert(
      fc.property(problem, (p) => {
        const known = exhaustive(p, HORIZON);
        const answer = solve(p, { passes: 400, seed: 1 });
        if (known === null) {
          impossible += 1;
          expect('start' in answer).toBe(false);
          return;
        }
        expect('start' in answer, JSON.stringify(answer)).toBe(true);
        const s = answer as Solution;
        const tasks = p.tasks.map((t) =>
          t.usesOneOf ? { ...t, ...(t.usesOneOf[s.assigned?.[t.id] ?? 0] as object) } : t,
        ) as Problem['tasks'];
        expect(brokenConstraints({ ...p, tasks } as never, s.start)).toEqual([]);
        const hasSoft = p.links.some((l) => l.soft);
        const value = levelsOf(p).map((l) => measure(p, tasks, s.start, l));
        const first = value.findIndex((x, k) => x !== known[k]);
        if (first >= 0) expect(value[first]).toBeGreaterThan(known[first] as number);
        const all = Array.isArray(s.proven) ? s.proven.every(Boolean) : s.proven === true;
        if (all) {
          proven += 1;
          expect(value).toEqual(known);
        }
        if (hasSoft) expect(s.softCost).toBe(measure(p, tasks, s.start, 'soft'));
      }),
      { seed: SEED, numRuns: 150, endOnFailure: true },
    );
    expect(proven).toBeGreaterThan(60);
    expect(impossible).toBeGreaterThan(2);
  });
});
