import type { Model } from './model.js';
import type { Level } from './problem.js';

/** Value of a schedule, compared entry by entry: one for each level of the problem's objective, then the sum of starts. */
export type Value = readonly number[];

export type Measures = Readonly<Record<Level, number>>;

/** Everything an objective may ask for, read off a schedule. */
export function measuresOf(m: Model, start: readonly number[]): Measures {
  let tardiness = 0;
  let makespan = 0;
  for (let v = 0; v < m.n; v++) {
    const end = start[v] + m.duration[v];
    makespan = Math.max(makespan, end);
    const due = m.due[v];
    if (due !== null && due !== undefined) tardiness += Math.max(0, end - due);
  }
  let soft = 0;
  for (const s of m.soft) soft += s.weight * Math.max(0, start[s.to] - start[s.from] - s.most);
  return { soft, tardiness, makespan, changes: m.levels.includes('changes') ? changesOf(m, start) : 0 };
}

/** Changes of family between consecutive tasks of each resource that holds one at a time. */
function changesOf(m: Model, start: readonly number[]): number {
  let changes = 0;
  for (const [r, resource] of m.resources.entries()) {
    if (resource.capacity !== 1) continue;
    const users = [...Array(m.n).keys()]
      .filter((v) => m.demands[v].some((d) => d.resource === r))
      .sort((a, b) => start[a] - start[b] || m.duration[a] - m.duration[b]);
    for (let i = 1; i < users.length; i++) {
      const [a, b] = [m.family[users[i - 1]], m.family[users[i]]];
      if (a >= 0 && b >= 0 && a !== b) changes += 1;
    }
  }
  return changes;
}

export function scheduleValue(m: Model, start: readonly number[]): Value {
  const measures = measuresOf(m, start);
  // Nobody asks for it, but of two equal plans the one that leaves the hands free earlier is the better evening.
  let sum = 0;
  for (let v = 0; v < m.n; v++) sum += start[v];
  return [...m.levels.map((l) => measures[l]), sum];
}

export function lessThan(a: Value, b: Value): boolean {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return a[i] < b[i];
  return false;
}

/** Whether every level has reached what no schedule can beat. */
export const meets = (m: Model, value: Value, bounds: Measures): boolean => m.levels.every((l, i) => value[i] <= bounds[l]);
