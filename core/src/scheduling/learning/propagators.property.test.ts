import { describe, expect, it } from 'vitest';
import { type Rng, seededRng } from '../../time/rng.js';
import { edgeFinding } from './edge-finding.js';
import { Engine, type Propagator } from './engine.js';
import { calendarPropagator, exceeds, sumAtMost, timeTable } from './propagators.js';

/** Values run from 0 to this; every combination of them is looked at. */
const MOST = 9;
const CASES = 400;

interface Case {
  readonly propagator: Propagator;
  readonly holds: (x: readonly number[]) => boolean;
  readonly variables: number;
}

function* everything(n: number): Generator<number[]> {
  const x = new Array<number>(n).fill(0);
  for (;;) {
    yield x;
    let i = 0;
    while (i < n && x[i] === MOST) x[i++] = 0;
    if (i === n) return;
    x[i] = (x[i] as number) + 1;
  }
}

/** Whether "bound b ≥ v" is true of an assignment. */
const isTrue = (x: readonly number[], b: number, v: number): boolean => (b % 2 === 0 ? (x[b >> 1] as number) : -(x[b >> 1] as number)) >= v;

const upTo = (rng: Rng, most: number): number => Math.floor(rng() * (most + 1));

/** Runs a propagator on random bounds and holds it against every assignment there is; counts what it raised and failed. */
function against(make: (rng: Rng) => Case): { readonly raised: number; readonly failed: number } {
  const rng = seededRng(20261125);
  let raised = 0;
  let failed = 0;
  for (let c = 0; c < CASES; c++) {
    const { propagator, holds, variables } = make(rng);
    const least = Float64Array.from({ length: variables }, () => upTo(rng, 6));
    const greatest = least.map((l) => Math.min(MOST, l + upTo(rng, MOST)));
    const right = [...everything(variables)].filter(holds).map((x) => [...x]);
    const inBounds = right.filter((x) => x.every((v, i) => v >= (least[i] as number) && v <= (greatest[i] as number)));
    const engine = new Engine(variables, least, greatest, [], [propagator]);
    if (!engine.start()) {
      failed += 1;
      expect(inBounds, `case ${c}: failed although it can be done`).toEqual([]);
      continue;
    }
    const { trail } = engine;
    for (let t = 0; t < trail.size; t++) {
      raised += 1;
      const [b, v, from] = [trail.bound[t] as number, trail.value[t] as number, trail.reasonAt[t] as number];
      const reason = [...Array(trail.reasonLength[t]).keys()].map(
        (k) => [trail.arenaBound[from + k], trail.arenaValue[from + k]] as [number, number],
      );
      // The reason alone, without the bounds it was found under, must be enough: clauses are learned from it.
      const counterexample = right.find((x) => reason.every(([rb, rv]) => isTrue(x, rb, rv)) && !isTrue(x, b, v));
      expect(counterexample, `case ${c}: bound ${b} ≥ ${v} does not follow from ${JSON.stringify(reason)}`).toBeUndefined();
    }
  }
  return { raised, failed };
}

const apart = (x: readonly number[], lengths: readonly number[]): boolean =>
  lengths.every((p, i) =>
    lengths.every((q, j) => i >= j || (x[i] as number) + p <= (x[j] as number) || (x[j] as number) + q <= (x[i] as number)),
  );

describe('propagators take away no answer, and their reasons are reasons, against every assignment', () => {
  // A check of nothing would pass too: there must have been something to raise and something to fail.
  const expectBusy = (seen: { readonly raised: number; readonly failed: number }) => {
    expect(seen.raised).toBeGreaterThan(10);
    expect(seen.failed).toBeGreaterThan(3);
  };

  it('edge-finding', () => {
    expectBusy(
      against((rng) => {
        const lengths = [...Array(4)].map(() => 1 + upTo(rng, 3));
        return { variables: 4, propagator: edgeFinding(lengths.map((lengthS, x) => ({ x, lengthS }))), holds: (x) => apart(x, lengths) };
      }),
    );
  });
  it('time-table, with a hold that ends with another task', () => {
    expectBusy(
      against((rng) => {
        const capacity = 2 + upTo(rng, 1);
        const usages = [
          { from: 0, to: 0, lengthS: 1 + upTo(rng, 4), amount: 1 + upTo(rng, 1) },
          { from: 1, to: 1, lengthS: 1 + upTo(rng, 4), amount: 1 + upTo(rng, 1) },
          { from: 2, to: 3, lengthS: 1 + upTo(rng, 2), amount: 1 + upTo(rng, 1) },
        ];
        const holds = (x: readonly number[]) => {
          for (let t = 0; t < 2 * MOST; t++) {
            let load = 0;
            for (const u of usages) if ((x[u.from] as number) <= t && t < (x[u.to] as number) + u.lengthS) load += u.amount;
            if (load > capacity) return false;
          }
          return true;
        };
        return { variables: 4, propagator: timeTable(usages, capacity), holds };
      }),
    );
  });
  it('closed hours', () => {
    expectBusy(
      against((rng) => {
        const duration = 1 + upTo(rng, 2);
        const fromS = upTo(rng, 5);
        const closed = [
          { fromS, toS: fromS + 1 + upTo(rng, 1) },
          { fromS: fromS + 3, toS: fromS + 4 + upTo(rng, 2) },
        ];
        const holds = ([s = 0]: readonly number[]) => closed.every((c) => s + duration <= c.fromS || s >= c.toS);
        return { variables: 1, propagator: calendarPropagator(0, duration, closed), holds };
      }),
    );
  });
  it('a weighted sum', () => {
    expectBusy(
      against((rng) => {
        const [a, b] = [1 + upTo(rng, 2), 1 + upTo(rng, 2)];
        const terms = [
          { x: 0, weight: a },
          { x: 1, weight: b },
        ];
        return { variables: 3, propagator: sumAtMost(terms, 2), holds: ([x = 0, y = 0, total = 0]) => a * x + b * y <= total };
      }),
    );
  });
  it('a soft maximum', () => {
    expectBusy(
      against((rng) => {
        const most = upTo(rng, 6) - 5;
        return { variables: 3, propagator: exceeds(0, 1, most, 2), holds: ([from = 0, to = 0, by = 0]) => by >= to - from - most };
      }),
    );
  });
});

describe('edge-finding by hand', () => {
  // The usual lecture example (P. Vilím, "Global Constraints in Scheduling", 2007; numbers from memory): B and C fill 5 to 13.
  it('a task that cannot begin before two others comes behind both', () => {
    const tasks = [
      { x: 0, lengthS: 4 },
      { x: 1, lengthS: 3 },
      { x: 2, lengthS: 5 },
    ];
    const engine = new Engine(3, Float64Array.of(4, 5, 5), Float64Array.of(26, 10, 8), [], [edgeFinding(tasks)]);
    expect(engine.start()).toBe(true);
    expect([engine.least(0), engine.greatest(0)]).toEqual([13, 26]);
  });
  it('three that do not fit before their last end fail', () => {
    const tasks = [0, 1, 2].map((x) => ({ x, lengthS: 4 }));
    expect(new Engine(3, Float64Array.of(0, 0, 0), Float64Array.of(7, 7, 7), [], [edgeFinding(tasks)]).start()).toBe(false);
    expect(new Engine(3, Float64Array.of(0, 0, 0), Float64Array.of(8, 8, 8), [], [edgeFinding(tasks)]).start()).toBe(true);
  });
});
