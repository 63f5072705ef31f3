import fc from 'fast-check';
import highs from 'highs';
import { describe, expect, it } from 'vitest';
import { brokenConstraints } from '../../test/check-solution.js';
import type { Problem, Solution } from './problem.js';
import { solve } from './solve.js';

// An exact general solver as reference: HiGHS (Huangfu & Hall, Math. Prog. Comp. 10, 2018), on a big-M model of the same problem.
const SEED = 6022;
const BIG = 400;

const problem: fc.Arbitrary<Problem> = fc
  .record({
    durations: fc.array(fc.integer({ min: 1, max: 12 }), { minLength: 5, maxLength: 7 }),
    machine: fc.array(fc.nat(1), { minLength: 7, maxLength: 7 }),
    family: fc.array(fc.constantFrom('red', 'white'), { minLength: 7, maxLength: 7 }),
    links: fc.array(
      fc.record({ a: fc.nat(6), b: fc.nat(6), min: fc.integer({ min: 0, max: 15 }), room: fc.option(fc.integer({ min: 0, max: 20 })) }),
      {
        maxLength: 5,
      },
    ),
    changeover: fc.constantFrom(0, 1),
    night: fc.tuple(fc.integer({ min: 15, max: 30 }), fc.integer({ min: 5, max: 20 })),
  })
  .map((r): Problem => {
    const n = r.durations.length;
    return {
      format: 'kestfog-problem/1',
      resources: [0, 1].map((m) => ({
        id: `m${m}`,
        capacity: 1,
        changeover: r.changeover,
        closed: m === 0 ? [[r.night[0], r.night[0] + r.night[1]] as const] : [],
      })),
      tasks: r.durations.map((duration, i) => ({
        id: `t${i}`,
        duration,
        uses: { [`m${r.machine[i]}`]: 1 },
        family: r.family[i] as string,
      })),
      links: r.links
        .filter((l) => l.a % n < l.b % n)
        .map((l) => ({
          from: `t${l.a % n}`,
          to: `t${l.b % n}`,
          anchor: 'end' as const,
          min: l.min,
          max: l.room === null ? null : l.min + l.room,
        })),
      objective: 'makespan',
    };
  });

/** The problem in LP format: starts, the end of all, one yes-or-no for each pair on a machine and for each side of the night. */
function asLp(p: Problem): string {
  const rows: string[] = [];
  const yes: string[] = [];
  const d = new Map(p.tasks.map((t) => [t.id, t.duration]));
  for (const t of p.tasks) rows.push(`cmax - ${t.id} >= ${t.duration}`);
  for (const l of p.links) {
    rows.push(`${l.to} - ${l.from} >= ${(d.get(l.from) as number) + l.min}`);
    if (l.max !== null && l.max !== undefined) rows.push(`${l.to} - ${l.from} <= ${(d.get(l.from) as number) + l.max}`);
  }
  for (const r of p.resources) {
    const users = p.tasks.filter((t) => t.uses?.[r.id]);
    for (const [i, a] of users.entries()) {
      for (const [k, [from, to]] of (r.closed ?? []).entries()) {
        const y = `n_${r.id}_${k}_${a.id}`;
        yes.push(y);
        rows.push(`${a.id} + ${BIG} ${y} <= ${from - a.duration + BIG}`, `${a.id} + ${BIG} ${y} >= ${to}`);
      }
      for (const b of users.slice(i + 1)) {
        const gap = a.family !== b.family ? (r.changeover ?? 0) : 0;
        const y = `o_${a.id}_${b.id}`;
        yes.push(y);
        rows.push(`${b.id} - ${a.id} - ${BIG} ${y} >= ${a.duration + gap - BIG}`, `${a.id} - ${b.id} + ${BIG} ${y} >= ${b.duration + gap}`);
      }
    }
  }
  return `Minimize\n obj: cmax\nSubject To\n${rows.map((x, i) => ` c${i}: ${x}`).join('\n')}\nGeneral\n ${[...p.tasks.map((t) => t.id), 'cmax'].join(' ')}${yes.length > 0 ? `\nBinary\n ${yes.join(' ')}` : ''}\nEnd`;
}

describe(`the engine against a general MIP solver (seed ${SEED})`, () => {
  it('the same optimum, or both find none', async () => {
    const solver = await (highs as unknown as () => Promise<{ solve: (lp: string) => { Status: string; ObjectiveValue: number } }>)();
    let optima = 0;
    fc.assert(
      fc.property(problem, (p) => {
        const reference = solver.solve(asLp(p));
        const answer = solve(p, { passes: 2000, seed: 1 });
        if (reference.Status !== 'Optimal') {
          expect('infeasible' in answer, `${reference.Status} against ${JSON.stringify(answer)}`).toBe(true);
          return;
        }
        const s = answer as Solution;
        expect(brokenConstraints(p as never, s.start)).toEqual([]);
        expect([s.makespan, s.proven]).toEqual([Math.round(reference.ObjectiveValue), true]);
        optima += 1;
      }),
      { seed: SEED, numRuns: 40, endOnFailure: true },
    );
    expect(optima).toBeGreaterThan(20);
  });
});
