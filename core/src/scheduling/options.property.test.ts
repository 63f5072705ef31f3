import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenConstraints } from '../../test/check-solution.js';
import { exhaustive } from '../../test/exhaustive-schedule.js';
import { parseProblem } from './parse-problem.js';
import type { Problem, Solution, When } from './problem.js';
import { solve } from './solve.js';

const SEED = 1618;
const HORIZON = 9;

/** Two steps with a wait between them, which options make shorter at the price of carrying: a fan and a box that exclude each other. */
const problem: fc.Arbitrary<Problem> = fc
  .record({
    duration: fc.integer({ min: 1, max: 2 }),
    waits: fc.record({ bench: fc.integer({ min: 1, max: 5 }), fan: fc.integer({ min: 0, max: 2 }), box: fc.integer({ min: 0, max: 1 }) }),
    carry: fc.integer({ min: 1, max: 2 }),
    other: fc.option(fc.record({ duration: fc.integer({ min: 1, max: 2 }), places: fc.boolean() })),
    held: fc.boolean(),
    excludes: fc.boolean(),
    due: fc.option(fc.integer({ min: 2, max: 7 })),
    room: fc.option(fc.integer({ min: 0, max: 2 })),
  })
  .map((r): Problem => {
    const only = (yes: string, no: string): When => ({ [yes]: true, [no]: false });
    return {
      format: 'kestfog-problem/1',
      resources: [
        { id: 'hands', capacity: 1 },
        { id: 'box', capacity: 1 },
      ],
      tasks: [
        { id: 'flood', duration: r.duration, uses: { hands: 1 } },
        { id: 'pipe', duration: 1, uses: { hands: 1 }, ...(r.due === null ? {} : { due: r.due }) },
        { id: 'to-fan', duration: r.carry, uses: { hands: 1 }, if: { fan: true } },
        { id: 'to-box', duration: r.carry, uses: { hands: 1 }, if: { box: true } },
        ...(r.other ? [{ id: 'other', duration: r.other.duration, uses: r.other.places ? { box: 1 } : { hands: 1 } }] : []),
      ],
      links: [
        {
          from: 'flood',
          to: 'pipe',
          min: r.waits.bench,
          max: r.room === null ? null : r.waits.bench + r.room,
          if: { fan: false, box: false },
        },
        { from: 'flood', to: 'to-fan', min: 0, max: null },
        { from: 'flood', to: 'to-box', min: 0, max: null },
        { from: 'to-fan', to: 'pipe', min: r.waits.fan, max: null, if: only('fan', 'box') },
        { from: 'to-box', to: 'pipe', min: r.waits.box, max: null, if: { box: true } },
      ],
      ...(r.held ? { holds: [{ resource: 'box', from: 'to-box', to: 'pipe', amount: 1, if: { box: true } }] } : {}),
      options: [{ id: 'fan', ...(r.excludes ? { excludes: ['box'] } : {}) }, { id: 'box' }],
      objective: r.due === null ? 'makespan' : 'tardiness',
      horizon: HORIZON,
    };
  });

/** The problem with these options taken, by plain reading of the format. */
function withTaken(p: Problem, taken: readonly string[]): Problem {
  const so = (when: When | null | undefined) => !when || Object.keys(when).every((id) => when[id] === taken.includes(id));
  const tasks = p.tasks.filter((t) => so(t.if));
  const ids = tasks.map((t) => t.id);
  const stands = (x: { if?: When | null; from: string; to: string }) => so(x.if) && ids.includes(x.from) && ids.includes(x.to);
  return { ...p, options: [], tasks, links: p.links.filter(stands), holds: (p.holds ?? []).filter(stands) };
}

describe(`what may be left out, against every set of it tried (seed ${SEED})`, () => {
  it('the best set is found and proven, and tasks left out have no start', () => {
    const sets = new Map<string, number>();
    fc.assert(
      fc.property(problem, (p) => {
        const allowed = [[], ['fan'], ['box'], ['fan', 'box']].filter((x) => x.length < 2 || !p.options?.[0]?.excludes);
        const values = allowed.flatMap((taken) => exhaustive(withTaken(p, taken), HORIZON)?.[0] ?? []);
        const s = solve(p, { passes: 200, seed: 1 });
        if (values.length === 0) {
          expect('infeasible' in s).toBe(true);
          return;
        }
        const { taken = [], start, ...rest } = s as Solution;
        expect(allowed).toContainEqual([...taken]);
        const plain = withTaken(p, taken);
        expect(Object.keys(start).sort()).toEqual(plain.tasks.map((t) => t.id).sort());
        expect(brokenConstraints(plain as never, start)).toEqual([]);
        expect(p.objective === 'makespan' ? rest.makespan : rest.tardiness).toBe(Math.min(...values));
        expect(rest.proven).toBe(true);
        sets.set(taken.join(), (sets.get(taken.join()) ?? 0) + 1);
      }),
      { seed: SEED, numRuns: 40, endOnFailure: true },
    );
    // Each kind of answer was met.
    expect([...sets.keys()].sort()).toEqual(['', 'box', 'fan']);
  });
  it('many options are changed one at a time, better than with none taken', () => {
    const n = 8;
    const ids = [...Array(n).keys()];
    const p: Problem = {
      format: 'kestfog-problem/1',
      resources: [{ id: 'hands', capacity: 1 }],
      tasks: ids.flatMap((i) => [
        { id: `flood ${i}`, duration: 10, uses: { hands: 1 } },
        { id: `carry ${i}`, duration: 1, uses: { hands: 1 }, if: { [`fan ${i}`]: true } },
        { id: `pipe ${i}`, duration: 5, uses: { hands: 1 } },
      ]),
      links: ids.flatMap((i) => [
        { from: `flood ${i}`, to: `pipe ${i}`, min: 400, if: { [`fan ${i}`]: false } },
        { from: `flood ${i}`, to: `carry ${i}`, min: 0 },
        { from: `carry ${i}`, to: `pipe ${i}`, min: 60 },
      ]),
      options: ids.map((i) => ({ id: `fan ${i}` })),
      objective: 'makespan',
    };
    const s = solve(p, { passes: 400, seed: 1 }) as Solution;
    const none = solve(withTaken(p, []), { passes: 400, seed: 1 }) as Solution;
    expect(s.makespan).toBeLessThan(none.makespan / 2);
    expect(s.taken).toHaveLength(n);
    expect(s.proven).toBe(false);
    expect(s.lowerBound).toBeLessThanOrEqual(s.makespan);
  });
  it('impossible is said only where every way was looked at', () => {
    const never = (n: number): Problem => ({
      format: 'kestfog-problem/1',
      resources: [],
      tasks: [{ id: 'a', duration: 3 }],
      links: [],
      options: [...Array(n).keys()].map((i) => ({ id: `option ${i}` })),
      objective: 'makespan',
      horizon: 2,
    });
    expect(solve(never(2), { passes: 10, seed: 1 })).toMatchObject({ infeasible: true });
    expect(solve(never(8), { passes: 10, seed: 1 })).toMatchObject({ unsolved: true });
  });
  it('a name that is no option is refused with its place', () => {
    const json = (more: object) => ({
      format: 'kestfog-problem/1',
      resources: [],
      tasks: [{ id: 'a', duration: 1, ...more }],
      options: [{ id: 'fan' }],
    });
    expect(parseProblem(json({ if: { fan: true } })).tasks[0]?.if).toEqual({ fan: true });
    expect(() => parseProblem(json({ if: { van: true } }))).toThrow('tasks[0].if: names the option "van", which does not exist');
    expect(() => parseProblem({ ...json({}), options: [{ id: 'fan', excludes: ['fan'] }] })).toThrow(
      'options[0].excludes: names the option "fan", which is no other option',
    );
    expect(() => parseProblem({ ...json({}), options: [{ id: 'fan' }, { id: 'fan' }] })).toThrow(/options: "fan" is there twice/);
  });
});
