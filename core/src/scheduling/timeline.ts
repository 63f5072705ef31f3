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
    this.latest = Math.max(this.latest, at + this.m.duration[v]);
    for (const d of this.m.demands[v]) {
      const list = this.onResource[d.resource];
      let i = list.length;
      while (i > 0 && this.after(list[i - 1], v)) i--;
      list.splice(i, 0, v);
    }
  }

  private after(a: number, b: number): boolean {
    const d = this.start[a] - this.start[b];
    return d > 0 || (d === 0 && this.m.duration[a] > this.m.duration[b]);
  }

  remove(v: number): void {
    for (const d of this.m.demands[v]) {
      const list = this.onResource[d.resource];
      list.splice(list.indexOf(v), 1);
    }
    this.start[v] = -1;
  }

  /** Earliest start ≥ `from` at which v fits beside everything placed; null where it never does. */
  earliestFit(v: number, from: number): number | null {
    const closed = this.m.closed[v];
    const duration = this.m.duration[v];
    let s = from;
    for (;;) {
      const open = fitCalendar(closed, duration, s);
      if (open === null || open + duration > this.m.horizon) return null;
      s = open;
      let next = s;
      for (const d of this.m.demands[v]) {
        const r = this.m.resources[d.resource];
        next = Math.max(
          next,
          r.capacity === 1 ? this.clearOfNeighbours(v, d.resource, s) : this.clearOfLoad(d.resource, d.amount, r.capacity, s, duration),
        );
      }
      if (next === s) return s;
      s = next;
    }
  }

  /** Capacity 1: the earliest time ≥ s clear of neighbours and their changeovers, or a step toward it. */
  private clearOfNeighbours(v: number, resource: number, s: number): number {
    const list = this.onResource[resource];
    const end = s + this.m.duration[v];
    // Only tasks that end after s (less a changeover) can be in the way; starts are sorted, so search from there.
    const setup = this.m.resources[resource].changeover;
    let lo = 0;
    let hi = list.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      const u = list[mid];
      if (this.start[u] + this.m.duration[u] + setup <= s) lo = mid + 1;
      else hi = mid;
    }
    for (let i = lo; i < list.length; i++) {
      const u = list[i];
      const us = this.start[u];
      const ue = us + this.m.duration[u];
      const gap = this.changeover(setup, u, v);
      if (us >= end + gap) return s;
      if (ue + gap > s) return ue + gap;
    }
    return s;
  }

  private changeover(setup: number, a: number, b: number): number {
    const fa = this.m.family[a];
    const fb = this.m.family[b];
    return setup > 0 && fa >= 0 && fb >= 0 && fa !== fb ? setup : 0;
  }

  /** Capacity above 1: the end of the first task that leaves too little, or s where it fits. */
  private clearOfLoad(resource: number, amount: number, capacity: number, s: number, duration: number): number {
    const list = this.onResource[resource];
    const e = s + duration;
    const events: { at: number; change: number }[] = [];
    let earliestEnd = Number.POSITIVE_INFINITY;
    for (const u of list) {
      const us = this.start[u];
      if (us >= e) break;
      const ue = us + this.m.duration[u];
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
    return this.m.demands[v].find((d) => d.resource === resource)?.amount ?? 0;
  }
}
