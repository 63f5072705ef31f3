import type { Rng } from '../time/rng.js';
import { exactSearch } from './exact.js';
import type { Model } from './model.js';
import { Timeline } from './timeline.js';

/**
 * Serial schedule generation over groups of tasks tied by maximum lags (Neumann, Schwindt & Zimmermann, "Project
 * Scheduling with Time Windows and Scarce Resources", ch. 2): each group is placed as early as it fits; when a later
 * member is pushed, lags push its companions, and the group is placed anew.
 */
export interface Groups {
  readonly list: readonly (readonly number[])[];
  readonly groupOf: readonly number[];
  /** groups that must be placed before */
  readonly before: readonly ReadonlySet<number>[];
  /** tasks that do not move, with their starts, and what they leave the others: no later than this */
  readonly fixed: ReadonlyMap<number, number>;
  readonly latest: readonly number[];
}

export function buildGroups(m: Model, all: readonly (readonly number[])[], fixed: ReadonlyMap<number, number> = new Map()): Groups {
  const list = all.map((group) => group.filter((v) => !fixed.has(v))).filter((group) => group.length > 0);
  const groupOf = Array<number>(m.n).fill(-1);
  for (const [g, group] of list.entries()) for (const v of group) groupOf[v] = g;
  const before = list.map(() => new Set<number>());
  for (const a of m.arcs) {
    const [from, to] = [groupOf[a.from], groupOf[a.to]];
    if (from !== to && from >= 0 && to >= 0) before[to]?.add(from);
  }
  const latest = Array<number>(m.n).fill(Number.POSITIVE_INFINITY);
  for (const a of m.arcs) {
    const s = fixed.get(a.to);
    if (s !== undefined && !fixed.has(a.from)) latest[a.from] = Math.min(latest[a.from], s - a.weight);
  }
  return { list, groupOf, before, fixed, latest };
}

/** A group whose members push each other on more often than this, each, is given up in this order of them. */
const STEPS_PER_TASK = 60;

/** Tries to place one group on the timeline; leaves the timeline as it was where it cannot. */
export function placeGroup(m: Model, groups: Groups, timeline: Timeline, g: number, order: readonly number[], work: Work): boolean {
  const start = new Map<number, number>();
  for (const v of order) {
    let s = m.release[v];
    for (const a of m.into[v]) if (groups.groupOf[a.from] !== g) s = Math.max(s, timeline.start[a.from] + a.weight);
    start.set(v, s);
  }
  if (order.length > 1) propagate(m, groups, g, start, order, work);
  const endOfOthers = timeline.endOfAll;
  const nights = order.reduce((sum, v) => sum + m.closed[v].length, 0);
  let beyond = 4 * order.length + nights;
  const placed: number[] = [];
  let steps = STEPS_PER_TASK * order.length + nights;
  for (let i = 0; i < order.length; ) {
    work.done += 1;
    steps -= 1;
    const v = order[i];
    const wanted = start.get(v) as number;
    const fit = timeline.earliestFit(v, wanted);
    // Behind everything else only the group's own members can push, and that comes to an end or never does.
    if (fit !== null && fit > wanted && fit > endOfOthers) beyond -= 1;
    if (fit === null || beyond < 0 || steps < 0 || fit > groups.latest[v]) {
      for (const u of placed) timeline.remove(u);
      return false;
    }
    if (fit > wanted && order.length > 1) {
      start.set(v, fit);
      propagate(m, groups, g, start, [v], work);
      const moved = placed.findIndex((u) => (start.get(u) as number) > timeline.start[u]);
      if (moved >= 0) {
        for (const u of placed.splice(moved)) timeline.remove(u);
        i = moved;
        continue;
      }
    }
    timeline.place(v, fit);
    placed.push(v);
    i += 1;
  }
  return true;
}

/** Raises starts inside a group until every lag holds; ends, since cycles of positive length were refused before. */
function propagate(m: Model, groups: Groups, g: number, start: Map<number, number>, from: readonly number[], work: Work): void {
  const queue = [...from];
  while (queue.length > 0) {
    const v = queue.pop() as number;
    work.done += PUSH_WORK;
    const s = start.get(v) as number;
    for (const a of m.out[v]) {
      if (groups.groupOf[a.to] !== g) continue;
      const t = s + a.weight;
      if (t > (start.get(a.to) as number)) {
        start.set(a.to, t);
        queue.push(a.to);
      }
    }
  }
}

const ORDERS_TRIED = 40;
/** Work that a group's own exact schedule may cost; a large group that asks for more is left to the learning search. */
const BEHIND_WORK = 40_000;

/** A task pushed by a lag of its group costs this share of one placed. */
const PUSH_WORK = 0.25;

/** Tasks placed, those of searched nodes among them: what construction costs, counted and not timed. */
export interface Work {
  done: number;
}

/** Decodes a priority (lower first) into a schedule; null where some group finds no place. */
export function construct(
  m: Model,
  groups: Groups,
  priority: readonly number[],
  memberOrder: (readonly number[])[],
  rng: Rng,
  work: Work = { done: 0 },
): { start: number[]; sequence: number[] } | { stuck: number } {
  const timeline = new Timeline(m);
  for (const [v, at] of groups.fixed) timeline.place(v, at);
  const waiting = groups.before.map((b) => b.size);
  const after: number[][] = groups.list.map(() => []);
  for (const [g, set] of groups.before.entries()) for (const b of set) after[b]?.push(g);
  const ready = new Heap((a, b) => priority[a] - priority[b] || a - b);
  for (const [g, n] of waiting.entries()) if (n === 0) ready.push(g);
  const sequence: number[] = [];
  for (let g = ready.pop(); g !== undefined; g = ready.pop()) {
    let ok = placeGroup(m, groups, timeline, g, memberOrder[g], work);
    for (let t = 0; !ok && t < ORDERS_TRIED && groups.list[g].length > 1; t++) {
      const order = shuffled(groups.list[g], rng);
      ok = placeGroup(m, groups, timeline, g, order, work);
      if (ok) memberOrder[g] = order;
    }
    if (!ok) ok = placeBehind(m, groups, timeline, g, work);
    if (!ok) return { stuck: g };
    sequence.push(g);
    for (const n of after[g]) {
      waiting[n] = waiting[n] - 1;
      if (waiting[n] === 0) ready.push(n);
    }
  }
  return { start: timeline.start, sequence };
}

/** When no order found a gap: the group's own exact schedule, behind everything placed so far. */
function placeBehind(m: Model, groups: Groups, timeline: Timeline, g: number, work: Work): boolean {
  const group = groups.list[g];
  const clear = timeline.endOfAll + Math.max(0, ...m.resources.map((r) => r.changeover));
  const earliest = m.release.map((r) => r);
  for (const v of group) {
    earliest[v] = Math.max(clear, m.release[v]);
    for (const a of m.into[v]) if (groups.groupOf[a.from] !== g) earliest[v] = Math.max(earliest[v], timeline.start[a.from] + a.weight);
  }
  const nodes = Math.ceil(BEHIND_WORK / group.length);
  const found = exactSearch(
    m,
    earliest,
    { nodes, cancelled: () => false },
    { tasks: group, below: Number.MAX_SAFE_INTEGER, firstOnly: true },
  );
  work.done += found.nodes * group.length;
  if (found.kind === 'none') return false;
  for (const v of group) timeline.place(v, found.start[v]);
  return true;
}

export function shuffled<T>(list: readonly T[], rng: Rng): T[] {
  const out = [...list];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(rng() * (i + 1));
    [out[i], out[j]] = [out[j], out[i]];
  }
  return out;
}

/** Binary heap of numbers by a comparison. */
class Heap {
  private readonly items: number[] = [];
  constructor(private readonly compare: (a: number, b: number) => number) {}
  push(x: number): void {
    const a = this.items;
    a.push(x);
    for (let i = a.length - 1; i > 0; ) {
      const p = (i - 1) >> 1;
      if (this.compare(a[i], a[p]) >= 0) break;
      [a[i], a[p]] = [a[p], a[i]];
      i = p;
    }
  }
  pop(): number | undefined {
    const a = this.items;
    const top = a[0];
    const last = a.pop();
    if (a.length > 0 && last !== undefined) {
      a[0] = last;
      for (let i = 0; ; ) {
        const l = 2 * i + 1;
        const r = l + 1;
        let s = i;
        if (l < a.length && this.compare(a[l], a[s]) < 0) s = l;
        if (r < a.length && this.compare(a[r], a[s]) < 0) s = r;
        if (s === i) break;
        [a[i], a[s]] = [a[s], a[i]];
        i = s;
      }
    }
    return top;
  }
}
