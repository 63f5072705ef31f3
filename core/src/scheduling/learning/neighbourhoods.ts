import type { Rng } from '../../time/rng.js';
import type { SpanModel } from './span-model.js';

/** Chains searched anew at once, at most. */
const MOST_CHAINS = 3;

/**
 * Large neighbourhoods of a schedule (Shaw, "Using constraint programming and local search methods to solve vehicle routing problems", CP
 * 1998): what lies on one or a few chains of tasks, and between them and the others, is searched anew; all else keeps its order. A chain is
 * the tasks that the same spans lie between, those of one tray.
 */
export class Neighbourhoods {
  private readonly chains: readonly number[];

  private constructor(
    /** of each 0–1 variable of the search, the chains at either end of what it puts in order */
    private readonly chainsOf: ReadonlyMap<number, readonly [number, number]>,
    private readonly rng: Rng,
  ) {
    this.chains = [...new Set([...chainsOf.values()].flat())];
  }

  /** `endsOf`: of each variable a task at either end of what it puts in order. null where there is one chain, and nothing to keep. */
  static of(model: SpanModel, endsOf: ReadonlyMap<number, readonly [number, number]>, rng: Rng): Neighbourhoods | null {
    const known = new Map<number, number>();
    for (const [i, s] of model.spans.entries()) {
      const own = [...s.before, ...s.after];
      const chain = own.map((v) => known.get(v)).find((c) => c !== undefined) ?? -1 - i;
      for (const v of own) known.set(v, chain);
    }
    // A task that no span concerns is a chain of its own.
    const chainOf = (v: number) => known.get(v) ?? v;
    const near = new Neighbourhoods(new Map([...endsOf].map(([x, [a, b]]) => [x, [chainOf(a), chainOf(b)]])), rng);
    return near.chains.length > 1 ? near : null;
  }

  /** Variables that keep their value while what concerns a few chains, chosen at random, is searched. */
  kept(): number[] {
    const most = Math.min(MOST_CHAINS, this.chains.length - 1);
    const size = 1 + Math.floor(this.rng() * most);
    const free = new Set<number>();
    while (free.size < size) free.add(this.chains[Math.floor(this.rng() * this.chains.length)] as number);
    return [...this.chainsOf].flatMap(([x, ends]) => (ends.some((c) => free.has(c)) ? [] : [x]));
  }
}
