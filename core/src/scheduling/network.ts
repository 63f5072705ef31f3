import { fitCalendar, type Model } from './model.js';

/**
 * The temporal network: earliest starts by longest paths (Bellman–Ford over the arcs; Dechter, Meiri & Pearl,
 * "Temporal constraint networks", AI 49, 1991). A cycle of positive length has no schedule, and is its own explanation.
 */
export type Earliest =
  | { readonly ok: true; readonly start: number[] }
  | { readonly ok: false; readonly links: number[]; readonly tasks: number[] };

export function earliestStarts(m: Model, fixed: ReadonlyMap<number, number> = new Map()): Earliest {
  const start = m.release.map((r, v) => Math.max(r, fixed.get(v) ?? r));
  const reached: number[] = Array(m.n).fill(-1);
  for (let pass = 0; pass <= m.n; pass++) {
    let changed = -1;
    for (const [k, a] of m.arcs.entries()) {
      const s = start[a.from] + a.weight;
      if (s > start[a.to]) {
        start[a.to] = s;
        reached[a.to] = k;
        changed = a.to;
      }
    }
    if (changed < 0) return { ok: true, start };
    if (pass === m.n) return positiveCycle(m, reached, changed);
  }
  return { ok: true, start };
}

function positiveCycle(m: Model, reached: readonly number[], from: number): Earliest {
  // After n passes, walking back n arcs is sure to stand on the cycle.
  let v = from;
  for (let i = 0; i < m.n; i++) v = m.arcs[reached[v]]?.from as number;
  const links: number[] = [];
  const tasks: number[] = [];
  let u = v;
  do {
    const arc = m.arcs[reached[u]];
    if (!arc) break;
    links.push(arc.link);
    tasks.push(u);
    u = arc.from;
  } while (u !== v && tasks.length <= m.n);
  return { ok: false, links: [...new Set(links)].reverse(), tasks: tasks.reverse() };
}

/**
 * Earliest starts that also respect each task's own closed hours: the least fixed point of lags and calendars.
 * null with the offending task where one never fits.
 */
export function earliestOpenStarts(m: Model, from: readonly number[]): { start: number[] } | { never: number } {
  const start = [...from];
  const queue = [...start.keys()];
  const queued = new Set(queue);
  let steps = 0;
  const limit = 2000 * (m.n + 1);
  while (queue.length > 0) {
    const v = queue.shift() as number;
    queued.delete(v);
    const fit = fitCalendar(m.closed[v], m.duration[v], start[v]);
    if (fit === null || fit + m.duration[v] > m.horizon || ++steps > limit) return { never: v };
    start[v] = fit;
    for (const a of m.out[v]) {
      const arc = a as { to: number; weight: number };
      if (fit + arc.weight > start[arc.to]) {
        start[arc.to] = fit + arc.weight;
        if (!queued.has(arc.to)) {
          queued.add(arc.to);
          queue.push(arc.to);
        }
      }
    }
  }
  return { start };
}

/** Strongly connected components (Tarjan, SIAM J. Comput. 1, 1972) in topological order: tasks tied by maximum lags. */
export function components(m: Model): number[][] {
  const order = Array<number>(m.n).fill(-1);
  const low = Array<number>(m.n).fill(0);
  const onStack = Array<boolean>(m.n).fill(false);
  const stack: number[] = [];
  const out: number[][] = [];
  let clock = 0;
  for (let root = 0; root < m.n; root++) {
    if (order[root] >= 0) continue;
    const work: { v: number; i: number }[] = [{ v: root, i: 0 }];
    while (work.length > 0) {
      const frame = work.at(-1) as { v: number; i: number };
      const v = frame.v;
      if (frame.i === 0) {
        order[v] = low[v] = clock++;
        stack.push(v);
        onStack[v] = true;
      }
      const arcs = m.out[v];
      if (frame.i < arcs.length) {
        const w = arcs[frame.i++].to;
        if (order[w] < 0) work.push({ v: w, i: 0 });
        else if (onStack[w]) low[v] = Math.min(low[v], order[w]);
        continue;
      }
      if (low[v] === order[v]) {
        const comp: number[] = [];
        let w: number;
        do {
          w = stack.pop() as number;
          onStack[w] = false;
          comp.push(w);
        } while (w !== v);
        out.push(comp.sort((a, b) => a - b));
      }
      work.pop();
      const parent = work.at(-1);
      if (parent) low[parent.v] = Math.min(low[parent.v], low[v]);
    }
  }
  return out.reverse();
}
