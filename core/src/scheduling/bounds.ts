import { END_OF_TIME_S } from '../time/interval.js';
import { fitCalendar, type Model } from './model.js';
import type { Measures } from './objective.js';

/** What no schedule can beat, by level. Critical path through calendars, and energy of each resource in its open hours. */
export function lowerBounds(m: Model, earliest: readonly number[]): Measures {
  let makespan = 0;
  let tardiness = 0;
  for (let v = 0; v < m.n; v++) {
    const end = earliest[v] + m.duration[v];
    makespan = Math.max(makespan, end);
    const due = m.due[v];
    if (due !== null && due !== undefined) tardiness += Math.max(0, end - due);
  }
  for (const [r, resource] of m.resources.entries()) {
    const users: number[] = [];
    let energy = 0;
    for (let v = 0; v < m.n; v++) {
      const d = m.demands[v].find((x) => x.resource === r);
      if (!d) continue;
      users.push(v);
      energy += d.amount * m.duration[v];
    }
    if (users.length === 0 || resource.capacity <= 0) continue;
    let need = Math.ceil(energy / resource.capacity);
    if (resource.closed.length === 0 && resource.changeover > 0 && users.every((v) => m.family[v] >= 0 && m.duration[v] > 0)) {
      need += resource.changeover * (new Set(users.map((v) => m.family[v])).size - 1);
    }
    // The users that start late must all fit behind the earliest of them: try each head as the front of a tail-end set.
    const heads = [...new Set(users.map((v) => earliest[v]))].sort((a, b) => a - b);
    for (const head of heads.length > 60 ? heads.filter((_, i) => i % Math.ceil(heads.length / 60) === 0) : heads) {
      const energyAfter = users.reduce((sum, v) => (earliest[v] >= head ? sum + m.duration[v] * amountOf(m, v, r) : sum), 0);
      const work = head === heads[0] ? need : Math.ceil(energyAfter / resource.capacity);
      makespan = Math.max(makespan, endOfOpenTime(resource.closed, head, work));
    }
  }
  return { soft: softBound(m), tardiness, makespan, changes: changesBound(m) };
}

const amountOf = (m: Model, v: number, r: number) => m.demands[v].find((d) => d.resource === r)?.amount ?? 0;

/** The moment by which `work` seconds of open time have passed since `from`. */
function endOfOpenTime(closed: Model['closed'][number], from: number, work: number): number {
  if (work <= 0) return from;
  let at = fitCalendar(closed, 0, from) ?? from;
  let left = work;
  for (const c of closed) {
    if (c.toS <= at) continue;
    const open = Math.max(0, c.fromS - at);
    if (open >= left) return at + left;
    left -= open;
    if (c.toS === END_OF_TIME_S) return at + open;
    at = Math.max(at, c.toS);
  }
  return at + left;
}

/** Soft maxima that the hard minima already break: the longest way from one task to the other, where it is a single link. */
function softBound(m: Model): number {
  let cost = 0;
  for (const s of m.soft) {
    const least = m.arcs.reduce(
      (best, a) => (a.from === s.from && a.to === s.to ? Math.max(best, a.weight) : best),
      Number.NEGATIVE_INFINITY,
    );
    cost += s.weight * Math.max(0, least - s.most);
  }
  return cost;
}

/** Every family of a resource has to be taken up once. */
function changesBound(m: Model): number {
  if (!m.levels.includes('changes')) return 0;
  return m.resources.reduce((sum, resource, r) => {
    if (resource.capacity !== 1) return sum;
    const families = new Set<number>();
    for (let v = 0; v < m.n; v++) if (m.family[v] >= 0 && m.demands[v].some((d) => d.resource === r)) families.add(m.family[v]);
    return sum + Math.max(0, families.size - 1);
  }, 0);
}
