import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fewestRounds, type RoundsProblem } from './rounds.js';

type Edge = readonly [number, number];
const rounds = (count: number, touching: readonly Edge[], layers: readonly Edge[] = []) =>
  fewestRounds({ count, touching, layers, early: [] });
const cycle = (n: number): Edge[] => [...Array(n).keys()].map((i) => [i, (i + 1) % n]);
const complete = (n: number): Edge[] => [...Array(n).keys()].flatMap((i) => [...Array(i).keys()].map((j): Edge => [j, i]));
/** Mycielski's construction (1955): raises the chromatic number by one without making triangles. */
const mycielski = (n: number, edges: readonly Edge[]): { n: number; edges: Edge[] } => ({
  n: 2 * n + 1,
  edges: [
    ...edges,
    ...edges.flatMap(([a, b]): Edge[] => [
      [a, n + b],
      [b, n + a],
    ]),
    ...[...Array(n).keys()].map((i): Edge => [n + i, 2 * n]),
  ],
});
const petersen: Edge[] = [
  ...cycle(5),
  ...[0, 1, 2, 3, 4].map((i): Edge => [i, i + 5]),
  ...[0, 1, 2, 3, 4].map((i): Edge => [5 + i, 5 + ((i + 2) % 5)]),
];
const queens = (n: number): Edge[] =>
  complete(n * n).filter(([a, b]) => {
    const [dx, dy] = [Math.abs((a % n) - (b % n)), Math.abs(Math.floor(a / n) - Math.floor(b / n))];
    return dx === 0 || dy === 0 || dx === dy;
  });
const grotzsch = mycielski(5, cycle(5));
const myciel4 = mycielski(grotzsch.n, grotzsch.edges);

// Published chromatic numbers (DIMACS colouring benchmarks; standard graph theory).
describe('rounds without layers are chromatic numbers', () => {
  it.each([
    ['Petersen', 10, petersen, 3],
    ['Grötzsch = myciel3', grotzsch.n, grotzsch.edges, 4],
    ['myciel4', myciel4.n, myciel4.edges, 5],
    ['queen5_5', 25, queens(5), 5],
    ['odd cycle', 9, cycle(9), 3],
    ['even cycle', 10, cycle(10), 2],
    ['K6', 6, complete(6), 6],
    ['nothing touches', 7, [], 1],
  ] as const)('%s: %#', (_name, n, edges, chromatic) => {
    const answer = rounds(n, edges as readonly Edge[]);
    expect(answer.rounds).toBe(chromatic);
    expect(answer.proven).toBe(true);
    for (const [a, b] of edges) expect(answer.round[a]).not.toBe(answer.round[b]);
  });
});

const SEED = 99;
const random: fc.Arbitrary<RoundsProblem> = fc
  .record({
    n: fc.integer({ min: 1, max: 8 }),
    pairs: fc.array(fc.record({ a: fc.nat(7), b: fc.nat(7), layer: fc.boolean() }), { maxLength: 16 }),
    light: fc.array(fc.nat(9), { minLength: 8, maxLength: 8 }),
  })
  .map(({ n, pairs, light }) => {
    const real = pairs.map((p) => ({ ...p, a: p.a % n, b: p.b % n })).filter((p) => p.a !== p.b);
    return {
      count: n,
      touching: real.filter((p) => !p.layer).map((p): Edge => [p.a, p.b]),
      // Layers follow the order in the file, so they never turn round.
      layers: real.filter((p) => p.layer).map((p): Edge => [Math.min(p.a, p.b), Math.max(p.a, p.b)]),
      early: [light],
    };
  });

function exhaustive(p: RoundsProblem): number {
  const round: number[] = [];
  for (let r = 1; ; r++) {
    const visit = (v: number): boolean => {
      if (v === p.count) return true;
      for (let c = 0; c < r; c++) {
        round[v] = c;
        const ok =
          p.touching.every(([a, b]) => a > v || b > v || round[a] !== round[b]) &&
          p.layers.every(([a, b]) => a > v || b > v || (round[a] as number) < (round[b] as number));
        if (ok && visit(v + 1)) return true;
      }
      return false;
    };
    if (visit(0)) return r;
  }
}

describe(`rounds with layers (seed ${SEED})`, () => {
  it('are as few as exhaustive search finds, no touching pair shares one, no layer is inverted', () =>
    fc.assert(
      fc.property(random, (p) => {
        const answer = fewestRounds(p);
        expect(answer.rounds).toBe(exhaustive(p));
        expect(Math.max(...answer.round)).toBe(answer.rounds);
        for (const [a, b] of p.touching) expect(answer.round[a]).not.toBe(answer.round[b]);
        for (const [under, over] of p.layers) expect(answer.round[under]).toBeLessThan(answer.round[over] as number);
      }),
      { seed: SEED, numRuns: 300 },
    ));
  it('among minimal answers light comes before strong', () => {
    expect(fewestRounds({ count: 2, touching: [[0, 1]], layers: [], early: [[10, 90]] }).round).toEqual([2, 1]);
  });
});
