import type { Trail } from './trail.js';

/** A learned clause: at least one of its literals "bound b ≥ v" holds. Its literals lie in the shared arena. */
export interface Clause {
  readonly at: number;
  readonly length: number;
  activity: number;
  /** distinct decision levels it spanned when it was learned (Audemard & Simon, IJCAI 2009) */
  readonly spread: number;
  dead: boolean;
}

/** Watches of one bound: which clause, and the value at which its watched literal turns false. */
class WatchList {
  falseAt = new Float64Array(8);
  clause = new Int32Array(8);
  size = 0;

  push(falseAt: number, clause: number): void {
    if (this.size === this.falseAt.length) {
      const f = new Float64Array(2 * this.size);
      f.set(this.falseAt);
      this.falseAt = f;
      const c = new Int32Array(2 * this.size);
      c.set(this.clause);
      this.clause = c;
    }
    this.falseAt[this.size] = falseAt;
    this.clause[this.size++] = clause;
  }
}

/**
 * Learned clauses, two literals of each watched (Moskewicz et al., "Chaff", DAC 2001): a clause is looked at only when a
 * watched literal turns false. A bound rises in many small steps, so a watch bears the value at which it turns false, and
 * only those between the old value and the new are followed to their clause.
 */
export class Clauses {
  readonly all: Clause[] = [];
  bound = new Int32Array(1 << 14);
  value = new Float64Array(1 << 14);
  private size = 0;
  private readonly watches: WatchList[];
  live = 0;

  constructor(
    private readonly trail: Trail,
    bounds: number,
  ) {
    this.watches = Array.from({ length: bounds }, () => new WatchList());
  }

  /** Takes a clause in; its first literal is the one that will be asserted, its second of the deepest other level. */
  add(bounds: readonly number[], values: readonly number[], spread: number): number {
    const id = this.all.length;
    const at = this.size;
    if (at + bounds.length > this.bound.length) this.grow(at + bounds.length);
    this.bound.set(bounds, at);
    this.value.set(values, at);
    this.size = at + bounds.length;
    this.all.push({ at, length: bounds.length, activity: 0, spread, dead: false });
    this.live += 1;
    if (bounds.length > 1) {
      this.watch(id, at);
      this.watch(id, at + 1);
    }
    return id;
  }

  private watch(id: number, place: number): void {
    this.watches[this.bound[place] ^ 1].push(1 - this.value[place], id);
  }

  /** Looks at the clauses whose watched literal became false as bound b rose from `before` to `now`; a clause that fails, or −1. */
  afterRise(b: number, before: number, now: number): number {
    const list = this.watches[b];
    const { at } = this.trail;
    const { bound, value } = this;
    let kept = 0;
    // What is pushed while the list is walked turns false above `now` and needs no look.
    for (let i = 0; i < list.size; i++) {
      const falseAt = list.falseAt[i];
      const id = list.clause[i];
      if (falseAt > now || falseAt <= before) {
        list.falseAt[kept] = falseAt;
        list.clause[kept++] = id;
        continue;
      }
      const c = this.all[id];
      if (c.dead) continue;
      const p0 = c.at;
      const p1 = p0 + 1;
      // The false literal goes second, so that the first is the one left.
      if ((bound[p0] ^ 1) === b && 1 - value[p0] === falseAt) this.swap(p0, p1);
      const b0 = bound[p0];
      const v0 = value[p0];
      if (at[b0] >= v0) {
        list.falseAt[kept] = falseAt;
        list.clause[kept++] = id;
        continue;
      }
      let found = false;
      for (let k = p1 + 1, end = p0 + c.length; k < end; k++) {
        const bk = bound[k];
        if (at[bk ^ 1] >= 1 - value[k]) continue;
        this.swap(p1, k);
        found = true;
        break;
      }
      if (found) {
        this.watch(id, p1);
        continue;
      }
      list.falseAt[kept] = falseAt;
      list.clause[kept++] = id;
      if (at[b0 ^ 1] >= 1 - v0) {
        if (kept !== i + 1) {
          list.falseAt.copyWithin(kept, i + 1, list.size);
          list.clause.copyWithin(kept, i + 1, list.size);
          list.size -= i + 1 - kept;
        }
        return id;
      }
      this.trail.raise(b0, v0, -2 - id, false);
    }
    list.size = kept;
    return -1;
  }

  private swap(i: number, k: number): void {
    const { bound, value } = this;
    const [b, v] = [bound[i], value[i]];
    bound[i] = bound[k];
    value[i] = value[k];
    bound[k] = b;
    value[k] = v;
  }

  private grow(least: number): void {
    const room = Math.max(least, 2 * this.bound.length);
    const b = new Int32Array(room);
    b.set(this.bound);
    this.bound = b;
    const v = new Float64Array(room);
    v.set(this.value);
    this.value = v;
  }

  /** Forgets the half of the clauses that helped least; short-spread ones and reasons in use stay. */
  forget(): void {
    const inUse = new Set<number>();
    for (let t = 0; t < this.trail.size; t++) {
      const r = this.trail.reasonAt[t];
      if (r <= -2) inUse.add(-2 - r);
    }
    const loose = this.all.flatMap((c, i) => (!c.dead && c.spread > 2 && c.length > 2 && !inUse.has(i) ? [i] : []));
    loose.sort((a, b) => this.all[a].activity - this.all[b].activity);
    for (const i of loose.slice(0, loose.length >> 1)) {
      this.all[i].dead = true;
      this.live -= 1;
    }
    for (const list of this.watches) {
      let kept = 0;
      for (let i = 0; i < list.size; i++) {
        if (this.all[list.clause[i]].dead) continue;
        list.falseAt[kept] = list.falseAt[i];
        list.clause[kept++] = list.clause[i];
      }
      list.size = kept;
    }
  }
}
