import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenConstraints } from '../../test/check-solution.js';
import type { Problem } from './problem.js';
import { solve } from './solve.js';

const SEED = 4711;

/** Small problems with minimum and maximum lags, a night, a changeover and a crowded fan. */
const problem: fc.Arbitrary<Problem> = fc
  .record({
    durations: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 2, maxLength: 4 }),
    links: fc.array(
      fc.record({
        a: fc.nat(4),
        b: fc.nat(4),
        min: fc.integer({ min: -1, max: 4 }),
        window: fc.option(fc.integer({ min: 0, max: 4 }), { freq: 2 }),
        anchor: fc.constantFrom('start' as const, 'end' as const),
      }),
      { maxLength: 4 },
    ),
    hands: fc.array(fc.boolean(), { minLength: 5, maxLength: 5 }),
    family: fc.array(fc.constantFrom('red', 'white'), { minLength: 5, maxLength: 5 }),
    changeover: fc.constantFrom(0, 1, 2),
    night: fc.option(fc.tuple(fc.integer({ min: 0, max: 8 }), fc.integer({ min: 1, max: 6 }))),
  })
  .map((r): Problem => {
    const n = r.durations.length;
    return {
      format: 'kestfog-problem/1',
      resources: [
        { id: 'hands', capacity: 1, changeover: r.changeover, closed: r.night ? [[r.night[0], r.night[0] + r.night[1]]] : [] },
        { id: 'fan', capacity: 2 },
      ],
      // A task of no length can stand inside another, where "consecutive" loses its meaning: those leave the hands alone here.
      tasks: r.durations.map((duration, i) => ({
        id: `t${i}`,
        duration: r.hands[i] && r.changeover > 0 ? Math.max(1, duration) : duration,
        uses: { [r.hands[i] ? 'hands' : 'fan']: 1 },
        family: r.family[i] as string,
      })),
      links: r.links
        .filter((l) => l.a % n !== l.b % n)
        .map((l) => ({
          from: `t${l.a % n}`,
          to: `t${l.b % n}`,
          anchor: l.anchor,
          min: l.min,
          max: l.window === null ? null : l.min + l.window,
        })),
      objective: 'makespan',
    };
  });

/** Every start from 0 up to a horizon at which any feasible problem of this size is done, tried. */
function exhaustive(p: Problem, horizon: number): number | null {
  let best: number | null = null;
  const start: Record<string, number> = {};
  const visit = (i: number): void => {
    const t = p.tasks[i];
    if (!t) {
      const end = Math.max(...p.tasks.map((x) => (start[x.id] as number) + x.duration));
      if ((best === null || end < best) && brokenConstraints(p as never, start).length === 0) best = end;
      return;
    }
    for (let s = 0; s + t.duration <= Math.min(horizon, best === null ? horizon : best - 1); s++) {
      start[t.id] = s;
      const settled = p.links.filter(
        (l) =>
          start[l.from] !== undefined &&
          start[l.to] !== undefined &&
          p.tasks.findIndex((x) => x.id === l.from) <= i &&
          p.tasks.findIndex((x) => x.id === l.to) <= i,
      );
      if (
        brokenConstraints({ resources: p.resources as never, tasks: p.tasks.slice(0, i + 1) as never, links: settled as never }, start)
          .length === 0
      )
        visit(i + 1);
    }
    delete start[t.id];
  };
  visit(0);
  return best;
}

describe(`the engine against exhaustive search (seed ${SEED})`, () => {
  it('finds the optimum where it says so, keeps every constraint, and never calls a feasible problem infeasible', () => {
    let solved = 0;
    let impossible = 0;
    fc.assert(
      fc.property(problem, (p) => {
        const answer = solve(p, { passes: 60, seed: 1 });
        const known = exhaustive(p, 20);
        if ('start' in answer) {
          solved += 1;
          expect(brokenConstraints(p as never, answer.start)).toEqual([]);
          if (known !== null) {
            expect(answer.lowerBound).toBeLessThanOrEqual(known);
            expect(answer.makespan).toBeGreaterThanOrEqual(known);
            if (answer.proven) expect(answer.makespan).toBe(known);
          }
        } else {
          impossible += 1;
          expect('infeasible' in answer).toBe(true);
          expect(known).toBeNull();
        }
      }),
      { seed: SEED, numRuns: 100 },
    );
    // A generator that made only one kind would prove nothing.
    expect(solved).toBeGreaterThan(40);
    expect(impossible).toBeGreaterThan(5);
  });
});
