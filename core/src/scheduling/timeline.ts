import { fitCalendar, type Model } from './model.js';

/** What is placed so far: for each resource its tasks in order of start, with room found by looking at the neighbours. */
export class Timeline {
  private readonly onResource: number[][];
  readonly start: number[];
  /** end of the last placed task */
  private latest = 0;

  constructor(private readonly m: Model) {
    this.onResource = m.resources.map(() => []);
    this.start = Array<number>(m.n).fill(-1);
  }

  get endOfAll(): number {
    return this.latest;
  }

  place(v: number, at: number): void {
    this.start[v] = at;
    this.latest = Math.max(this.latest, at + (this.m.duration[v] as number));
    for (const d of this.m.demands[v] as readonly { resource: number }[]) {
      const list = this.onResource[d.resource] as number[];
      let i = list.length;
      while (i > 0 && this.after(list[i - 1] as number, v)) i--;
      list.splice(i, 0, v);
    }
  }

  private after(a: number, b: number): boolean {
    const d = (this.start[a] as number) - (this.start[b] as number);
    return d > 0 || (d === 0 && (this.m.duration[a] as number) > (this.m.duration[b] as number));
  }

  remove(v: number): void {
    for (const d of this.m.demands[v] as readonly { resource: number }[]) {
      const list = this.onResource[d.resource] as number[];
      list.splice(list.indexOf(v), 1);
    }
    this.start[v] = -1;
  }

  /** Earliest start ≥ `from` at which v fits beside everything placed; null where it never does. */
  earliestFit(v: number, from: number): number | null {
    const closed = this.m.closed[v] as [];
    const duration = this.m.duration[v] as number;
    let s = from;
    for (;;) {
      const open = fitCalendar(closed, duration, s);
      if (open === null || open + duration > this.m.horizon) return null;
      s = open;
      let next = s;
      for (const d of this.m.demands[v] as readonly { resource: number; amount: number }[]) {
        const r = this.m.resources[d.resource] as { capacity: number };
        next = Math.max(next, r.capacity === 1 ? this.clearOfNeighbours(v, d.resource, s) : this.clearOfLoad(d.resource, d.amount, r.capacity, s, duration));
      }
      if (next === s) return s;
      s = next;
    }
  }

  /** Capacity 1: the earliest time ≥ s clear of neighbours and their changeovers, or a step toward it. */
  private clearOfNeighbours(v: number, resource: number, s: number): number {
    const list = this.onResource[resource] as number[];
    const end = s + (this.m.duration[v] as number);
    // Only tasks that end after s (less a changeover) can be in the way; starts are sorted, so search from there.
    const setup = (this.m.resources[resource] as { changeover: number }).changeover;
    let lo = 0;
    let hi = list.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      const u = list[mid] as number;
      if ((this.start[u] as number) + (this.m.duration[u] as number) + setup <= s) lo = mid + 1;
      else hi = mid;
    }
    for (let i = lo; i < list.length; i++) {
      const u = list[i] as number;
      const us = this.start[u] as number;
      const ue = us + (this.m.duration[u] as number);
      const gap = this.changeover(setup, u, v);
      if (us >= end + gap) return s;
      if (ue + gap > s) return ue + gap;
    }
    return s;
  }

  private changeover(setup: number, a: number, b: number): number {
    const fa = this.m.family[a] as number;
    const fb = this.m.family[b] as number;
    return setup > 0 && fa >= 0 && fb >= 0 && fa !== fb ? setup : 0;
  }

  /** Capacity above 1: the end of the first task that leaves too little, or s where it fits. */
  private clearOfLoad(resource: number, amount: number, capacity: number, s: number, duration: number): number {
    const list = this.onResource[resource] as number[];
    const e = s + duration;
    const events: { at: number; change: number }[] = [];
    let earliestEnd = Number.POSITIVE_INFINITY;
    for (const u of list) {
      const us = this.start[u] as number;
      if (us >= e) break;
      const ue = us + (this.m.duration[u] as number);
      if (ue <= s) continue;
      const used = this.amountOf(u, resource);
      events.push({ at: Math.max(us, s), change: used }, { at: ue, change: -used });
      earliestEnd = Math.min(earliestEnd, ue);
    }
    events.sort((a, b) => a.at - b.at || a.change - b.change);
    let load = 0;
    for (const ev of events) {
      if (ev.at >= e) break;
      load += ev.change;
      if (load + amount > capacity) return earliestEnd;
    }
    return s;
  }

  private amountOf(v: number, resource: number): number {
    return (this.m.demands[v] as readonly { resource: number; amount: number }[]).find((d) => d.resource === resource)?.amount ?? 0;
  }
}
