import type { Rng } from '../time/rng.js';
import { construct, type Groups } from './construct.js';
import { keepsAll } from './keeps-all.js';
import type { Model } from './model.js';
import { lessThan, scheduleValue } from './objective.js';

/** Plans made anew as long as they get better, and soft maxima that are mended one at a time in each. */
const MOST_ROUNDS = 20;
const MOST_SINGLES = 12;

/**
 * Construction lays every task as early as it can, which breaks a soft maximum where what follows has to wait for the next opening. Here
 * the first task of each broken one begins later: all of them at once, else the worst alone, as long as the plan gets better.
 *
 * @returns the plan, and the model with the later releases that it was made for
 */
export function delayedForSoft(
  m: Model,
  groups: Groups,
  first: readonly number[],
  rng: Rng,
): { readonly model: Model; readonly start: readonly number[] } {
  let best = { model: m, start: first, value: scheduleValue(m, first) };
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const { start } = best;
    const broken = m.soft
      .map((s) => ({ from: s.from, notBefore: start[s.to] - s.most, cost: s.weight * (start[s.to] - start[s.from] - s.most) }))
      .filter((s) => s.cost > 0 && !groups.fixed.has(s.from))
      .sort((a, b) => b.cost - a.cost);
    const firstOf = groups.list.map((g) => Math.min(...g.map((v) => start[v])));
    const inOrder = groups.list.map((g) => [...g].sort((a, b) => start[a] - start[b] || a - b));
    const singles = broken.length > 1 ? broken.slice(0, MOST_SINGLES).map((s) => [s]) : [];
    const better = [broken, ...singles].some((set) => {
      if (set.length === 0) return false;
      const release = [...best.model.release];
      for (const s of set) release[s.from] = Math.max(release[s.from], s.notBefore);
      const model: Model = { ...m, release };
      const made = construct(model, groups, firstOf, [...inOrder], rng);
      if ('stuck' in made) return false;
      const value = scheduleValue(m, made.start);
      if (!lessThan(value, best.value) || !keepsAll(m, made.start)) return false;
      best = { model, start: [...made.start], value };
      return true;
    });
    if (!better) break;
  }
  return best;
}
