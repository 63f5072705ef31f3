import { fitCalendar, type Model } from './model.js';

/**
 * Exact search by ordering conflicts (De Reyck & Herroelen, "A branch-and-bound procedure for the RCPSP with
 * generalized precedence relations", EJOR 111, 1998): least starts that keep every lag and calendar; where a resource
 * is overloaded, branch on which of the tasks involved waits for which. Complete, so an exhausted search is a proof.
 */
export interface ExactLimits {
  readonly nodes: number;
  readonly cancelled: () => boolean;
}
export type ExactResult =
  | { readonly kind: 'found'; readonly start: readonly number[]; readonly complete: boolean; readonly nodes: number }
  | { readonly kind: 'none'; readonly complete: boolean; readonly nodes: number };

interface Order {
  readonly before: number;
  readonly after: number;
  readonly gap: number;
}

/**
 * Best schedule of `tasks` (all others ignored) whose makespan is below `below`; `tasks` undefined means all.
 * With `firstOnly` the first feasible one ends the search.
 */
export function exactSearch(
  m: Model,
  earliest: readonly number[],
  limits: ExactLimits,
  options: { tasks?: readonly number[]; below: number; firstOnly?: boolean },
): ExactResult {
  const tasks = options.tasks ?? [...Array(m.n).keys()];
  const inside = new Set(tasks);
  const arcs = m.arcs.filter((a) => inside.has(a.from) && inside.has(a.to));
  // Tail: least time from the start of a task to the end of everything that depends on it.
  const tail = Array<number>(m.n).fill(0);
  for (const v of tasks) tail[v] = m.duration[v];
  for (let pass = 0, changed = true; changed && pass <= m.n; pass++) {
    changed = false;
    for (const a of arcs) {
      if (tail[a.to] + a.weight > tail[a.from]) {
        tail[a.from] = tail[a.to] + a.weight;
        changed = true;
      }
    }
  }
  let nodes = limits.nodes;
  let below = Math.min(options.below, m.horizon + 1);
  let best: number[] | null = null;
  let cut = false;
  const orders: Order[] = [];
  const byTask = new Map<number, { to: number; weight: number }[]>();
  for (const v of tasks) byTask.set(v, []);
  for (const a of arcs) byTask.get(a.from)?.push({ to: a.to, weight: a.weight });

  const pushedBy = Array<number>(m.n).fill(-1);
  const raise = (start: number[], from: readonly number[]): boolean => {
    const queue = [...from];
    for (const v of tasks) pushedBy[v] = -1;
    while (queue.length > 0) {
      const v = queue.pop() as number;
      const fit = fitCalendar(m.closed[v], m.duration[v], start[v]);
      if (fit === null || fit + tail[v] >= below) return false;
      // A night that pushes is nobody's doing, and there are only so many nights.
      if (fit > start[v]) pushedBy[v] = -1;
      start[v] = fit;
      for (const a of byTask.get(v) as { to: number; weight: number }[]) {
        if (fit + a.weight <= start[a.to]) continue;
        // Whoever pushes itself in the end stands on a positive cycle: this order of things is impossible.
        for (let u = v; u >= 0; u = pushedBy[u]) if (u === a.to) return false;
        start[a.to] = fit + a.weight;
        pushedBy[a.to] = v;
        queue.push(a.to);
      }
    }
    return true;
  };

  const search = (start: number[]): boolean => {
    if (--nodes < 0 || ((nodes & 255) === 0 && limits.cancelled())) {
      cut = true;
      return true;
    }
    const conflict = firstConflict(m, tasks, start);
    if (!conflict) {
      const end = Math.max(0, ...tasks.map((v) => start[v] + m.duration[v]));
      if (end < below) {
        below = end;
        best = [...start];
        if (options.firstOnly) return true;
      }
      return false;
    }
    const branches: { order: Order; start: number[]; score: number }[] = [];
    for (const order of conflict) {
      const next = [...start];
      const t = start[order.before] + m.duration[order.before] + order.gap;
      byTask.get(order.before)?.push({ to: order.after, weight: m.duration[order.before] + order.gap });
      next[order.after] = Math.max(next[order.after], t);
      const ok = raise(next, [order.after]);
      byTask.get(order.before)?.pop();
      if (ok)
        branches.push({
          order,
          start: next,
          score: Math.max(...tasks.map((v) => next[v] + tail[v])) + (next[order.after] - start[order.after]) * 1e-6,
        });
    }
    branches.sort((a, b) => a.score - b.score);
    for (const b of branches) {
      byTask.get(b.order.before)?.push({ to: b.order.after, weight: m.duration[b.order.before] + b.order.gap });
      orders.push(b.order);
      // The bound may have fallen since this branch was made.
      const alive = tasks.every((v) => b.start[v] + tail[v] < below);
      const stop = alive && search(b.start);
      orders.pop();
      byTask.get(b.order.before)?.pop();
      if (stop) return true;
    }
    return false;
  };
  const root = [...earliest];
  if (raise(root, tasks)) search(root);
  const used = limits.nodes - Math.max(0, nodes);
  if (best) return { kind: 'found', start: best, complete: !cut, nodes: used };
  return { kind: 'none', complete: !cut, nodes: used };
}

/** All ways to order the first overload in time; null where there is none. */
function firstConflict(m: Model, tasks: readonly number[], start: readonly number[]): Order[] | null {
  let earliest = Number.POSITIVE_INFINITY;
  let found: Order[] | null = null;
  for (const [r, resource] of m.resources.entries()) {
    const users = tasks
      .filter((v) => m.demands[v].some((d) => d.resource === r))
      .sort((a, b) => start[a] - start[b] || m.duration[a] - m.duration[b]);
    if (resource.capacity === 1) {
      for (let i = 0; i < users.length; i++) {
        const a = users[i];
        if (start[a] >= earliest) break;
        for (let j = i + 1; j < users.length; j++) {
          const b = users[j];
          const gap =
            resource.changeover > 0 && m.family[a] >= 0 && m.family[b] >= 0 && m.family[a] !== m.family[b] ? resource.changeover : 0;
          if (start[b] >= start[a] + m.duration[a] + Math.max(gap, resource.changeover)) break;
          if (start[b] < start[a] + m.duration[a] + gap) {
            earliest = start[a];
            found = [
              { before: a, after: b, gap },
              { before: b, after: a, gap },
            ];
            break;
          }
        }
        if (found && earliest === start[a]) break;
      }
      continue;
    }
    for (const v of users) {
      const at = start[v];
      if (at >= earliest) break;
      const running = users.filter((u) => u === v || (start[u] <= at && start[u] + m.duration[u] > at));
      const load = running.reduce((s, u) => s + (m.demands[u].find((d) => d.resource === r)?.amount ?? 0), 0);
      if (load <= resource.capacity || m.duration[v] === 0) continue;
      earliest = at;
      found = running.flatMap((a) => running.filter((b) => b !== a).map((b) => ({ before: a, after: b, gap: 0 })));
      break;
    }
  }
  return found;
}

/**
 * Pairwise changeovers say more than "between consecutive tasks" where a short task without family, or one of no length,
 * could stand between two families; then nothing found here may be called a proof.
 */
export function changeoversArePairwise(m: Model): boolean {
  const uses = (v: number, r: number) => m.demands[v].some((d) => d.resource === r);
  const tasks = [...Array(m.n).keys()];
  return m.resources.every(
    (resource, r) =>
      resource.changeover === 0 ||
      tasks.every((v) => !uses(v, r) || (m.duration[v] > 0 && (m.family[v] >= 0 || m.duration[v] >= resource.changeover))),
  );
}
