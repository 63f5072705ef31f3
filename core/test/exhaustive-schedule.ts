import type { Problem } from '../src/scheduling/problem.js';
import { brokenConstraints } from './check-solution.js';

/** The levels of an objective in the order they count: broken soft maxima first, unless they are named elsewhere. */
export function levelsOf(p: Problem): readonly string[] {
  const named: readonly string[] = typeof p.objective === 'string' ? [p.objective] : p.objective;
  return p.links.some((l) => l.soft) && !named.includes('soft') ? ['soft', ...named] : named;
}

/** Every way of doing it and every start, tried: the best value by the levels in their order, or null. */
export function exhaustive(p: Problem, horizon: number): readonly number[] | null {
  let best: readonly number[] | null = null;
  const order = levelsOf(p);
  for (const way of [0, 1]) {
    const chosen = p.tasks.map((t) => (t.usesOneOf ? { ...t, ...(t.usesOneOf[way] as object) } : t)) as Problem['tasks'];
    if (way === 1 && !p.tasks.some((t) => t.usesOneOf)) break;
    const start: Record<string, number> = {};
    const visit = (i: number): void => {
      const t = chosen[i];
      if (!t) {
        // What is held is taken no later than the task begins that gives it back.
        const backwards = (p.holds ?? []).some((h) => (start[h.from] as number) > (start[h.to] as number));
        if (backwards || brokenConstraints({ ...p, tasks: chosen } as never, start).length > 0) return;
        const value = order.map((l) => measure(p, chosen, start, l));
        if (best === null || value.some((x, k) => x < (best?.[k] as number) && value.slice(0, k).every((y, q) => y === best?.[q])))
          best = value;
        return;
      }
      for (let s = 0; s + t.duration <= horizon; s++) {
        start[t.id] = s;
        visit(i + 1);
      }
    };
    visit(0);
  }
  return best;
}

/** One level of a schedule, by its definition. */
export function measure(p: Problem, tasks: Problem['tasks'], start: Readonly<Record<string, number>>, level: string): number {
  const end = (id: string) => (start[id] as number) + (tasks.find((t) => t.id === id)?.duration ?? 0);
  if (level === 'makespan') return Math.max(...tasks.map((t) => end(t.id)));
  if (level === 'tardiness')
    return tasks.reduce((s, t) => s + (t.due === undefined || t.due === null ? 0 : Math.max(0, end(t.id) - t.due)), 0);
  return p.links.reduce(
    (s, l) =>
      s + (l.soft && l.max !== null && l.max !== undefined ? l.soft * Math.max(0, (start[l.to] as number) - end(l.from) - l.max) : 0),
    0,
  );
}
