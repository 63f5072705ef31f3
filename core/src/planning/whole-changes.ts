import type { Link, Problem, Task } from '../scheduling/problem.js';

/**
 * Changes of bag that a schedule gives less time than they take, since the same hands do something without a bag in between: carrying a
 * tray does not change the bag. As links that give each its time, in the order the schedule has.
 */
export function changesCutShort({ resources, tasks }: Problem, start: Readonly<Record<string, number>>): Link[] {
  return resources.flatMap(({ id, changeover = 0 }) => {
    if (changeover === 0) return [];
    const own = tasks.filter((t) => t.family && t.uses?.[id]).sort((a, b) => startOf(a) - startOf(b));
    return own.flatMap((b, i): Link[] => {
      const a = own[i - 1];
      if (!a || a.family === b.family || startOf(b) >= startOf(a) + a.duration + changeover) return [];
      return [{ from: a.id, to: b.id, anchor: 'end', min: changeover, max: null }];
    });
  });
  function startOf(t: Task): number {
    return start[t.id] as number;
  }
}
