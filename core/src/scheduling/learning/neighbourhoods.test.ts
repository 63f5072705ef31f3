import { describe, expect, it } from 'vitest';
import { seededRng } from '../../time/rng.js';
import { Neighbourhoods } from './neighbourhoods.js';
import type { Span, SpanModel } from './span-model.js';

const span = (before: readonly number[], after: readonly number[]): Span => ({
  worker: 0,
  place: 0,
  strokeS: 1,
  before,
  after,
  leastS: 0,
  mostS: 9,
  always: false,
  soonAfter: [],
});
const modelOf = (spans: readonly Span[]): SpanModel => ({ spans, lags: [], maxima: [], places: [0], excludes: [] });

describe('neighbourhoods of a schedule', () => {
  // Tasks 0 to 2 lie on one tray, 3 and 4 on another, 5 and 6 on a third; 7 on none.
  const model = modelOf([span([0], [1, 2]), span([0, 1], [2]), span([3], [4]), span([5], [6])]);
  const trayOf = [0, 0, 0, 1, 1, 2, 2, 3];
  const endsOf = new Map<number, readonly [number, number]>();
  for (let a = 0; a < 8; a++) for (let b = a; b < 8; b++) endsOf.set(100 + endsOf.size, [a, b]);

  it('what concerns one, two or three trays is searched anew, all between the others is kept', () => {
    const near = Neighbourhoods.of(model, endsOf, seededRng(1)) as Neighbourhoods;
    const sizes = new Set<number>();
    for (let i = 0; i < 50; i++) {
      const kept = new Set(near.kept());
      const freeTrays = [0, 1, 2, 3].filter((t) => [...endsOf].some(([x, [a, b]]) => trayOf[a] === t && trayOf[b] === t && !kept.has(x)));
      for (const [x, ends] of endsOf) expect(kept.has(x)).toBe(!ends.some((v) => freeTrays.includes(trayOf[v] as number)));
      sizes.add(freeTrays.length);
    }
    expect([...sizes].sort()).toEqual([1, 2, 3]);
  });
  it('there are none on a single tray: nothing would be kept', () => {
    const alone = new Map([[100, [0, 0] as const]]);
    expect(Neighbourhoods.of(modelOf([span([0], [1, 2])]), alone, seededRng(1))).toBeNull();
  });
});
