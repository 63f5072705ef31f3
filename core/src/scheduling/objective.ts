import type { Model } from './model.js';

/** Value of a schedule, compared entry by entry: [tardiness (0 for makespan), makespan, sum of starts]. */
export type Value = readonly [number, number, number];

export function scheduleValue(m: Model, start: readonly number[]): Value {
  let tardiness = 0;
  let makespan = 0;
  let sum = 0;
  for (let v = 0; v < m.n; v++) {
    const end = (start[v] as number) + (m.duration[v] as number);
    makespan = Math.max(makespan, end);
    const due = m.due[v];
    if (m.tardy && due !== null && due !== undefined) tardiness += Math.max(0, end - due);
    // Nobody asks for it, but of two equal plans the one that leaves the hands free earlier is the better evening.
    sum += start[v] as number;
  }
  return [tardiness, makespan, sum];
}

export function lessThan(a: Value, b: Value): boolean {
  for (let i = 0; i < 3; i++) if (a[i] !== b[i]) return (a[i] as number) < (b[i] as number);
  return false;
}
