import type { Rng } from '../time/rng.js';
import { type Calendar, calendarsOf, closedBefore, firstOpen } from './calendar-rows.js';
import { flat, type Lists } from './flat-lists.js';
import { LeastEnd } from './least-end.js';
import type { Model } from './model.js';
import { Regrouping } from './regroup.js';

/** A layout that sends tasks back more often than this, beyond those it sent back before, is given up. */
const MOST_RETURNS = 0;
/** Shares of the kinds of moves, the reach of a near one and the longest block, in tasks. */
const TO_FAMILY = 0.5;
const WITH_TIED = 0.5;
const BESIDE = 0.8;
const REACH = 80;
const LONGEST_BLOCK = 6;
const LONGEST_TIED = 8;

/**
 * A schedule as an order: tasks laid out one after the other, each at the first moment that its lags, calendar and resources
 * allow (the serial schedule generation scheme; Kolisch, EJOR 90, 1996; a resource of several units hands on the unit that is free
 * first). What
 * a maximum lag would break is laid out again from the task that came too early. A move re-lays only from the first task
 * moved to where everything stands as before.
 */
export class Layout {
  /** starts, by task */
  readonly start: Float64Array;
  /** whether the last move could be laid out whole */
  whole = true;
  private readonly n: number;
  private readonly order: Int32Array;
  private readonly placeOf: Int32Array;
  /** open seconds before each start: calendar time without the closed hours */
  private readonly openS: Float64Array;
  private readonly base: Float64Array;
  private readonly floor: Float64Array;
  private readonly wasRaised: Uint8Array;
  private readonly raised: number[] = [];
  private readonly into: Lists;
  private readonly out: Lists;
  private readonly asks: Lists;
  private readonly duration: Float64Array;
  private readonly family: Int32Array;
  private readonly sameFamily: readonly (readonly number[])[];
  private readonly calendars: readonly Calendar[];
  private readonly capacity: Int32Array;
  private readonly changeoverS: Float64Array;
  private readonly firstUnit: Int32Array;
  private readonly units: number;
  /** before each place of the order: when each unit is free, soonest first, and the family each resource had last */
  private readonly keptFree: Float64Array;
  private readonly keptFamily: Int32Array;
  private readonly triedFree: Float64Array;
  private readonly triedFamily: Int32Array;
  /** what a move changed, to undo it */
  private readonly changed: Int32Array;
  private readonly changedIn: Int32Array;
  private readonly wasStart: Float64Array;
  private readonly wasOpenS: Float64Array;
  private changes = 0;
  private trial = 0;
  private moved = { at: 0, length: 0, to: 0 };
  private lowest = 0;
  private highest = 0;
  private mostEndS = Number.POSITIVE_INFINITY;
  /** Σ duration × open start */
  private workOpen = 0;
  private wasWorkOpen = 0;
  private readonly work: number;
  private readonly regrouping: Regrouping;
  private readonly orderWas: Int32Array;
  private readonly least: LeastEnd;
  /** what is least of the order kept was not written yet: only moves that are limited ask for it */
  private leastIsOld = true;

  constructor(
    private readonly m: Model,
    earliest: readonly number[],
    incumbent: readonly number[],
    private readonly frozen: ReadonlySet<number>,
  ) {
    const n = m.n;
    this.n = n;
    this.start = Float64Array.from(incumbent);
    const byStart = (a: number, b: number) => incumbent[a] - incumbent[b] || m.duration[a] - m.duration[b];
    this.order = Int32Array.from([...Array(n).keys()].sort(byStart));
    this.placeOf = new Int32Array(n);
    for (let k = 0; k < n; k++) this.placeOf[this.order[k]] = k;
    this.openS = new Float64Array(n);
    this.base = Float64Array.from(earliest, (e, v) => (frozen.has(v) ? incumbent[v] : e));
    this.floor = this.base.slice();
    this.wasRaised = new Uint8Array(n);
    this.into = flat(m.into.map((arcs) => arcs.map((a) => [a.from, a.weight])));
    this.out = flat(m.out.map((arcs) => arcs.map((a) => [a.to, a.weight])));
    this.asks = flat(m.demands.map((ds) => ds.map((d) => [d.resource, d.amount])));
    this.duration = Float64Array.from(m.duration);
    this.family = Int32Array.from(m.family);
    const families: number[][] = Array.from({ length: Math.max(-1, ...m.family) + 1 }, () => []);
    for (let v = 0; v < n; v++) families[m.family[v]]?.push(v);
    this.sameFamily = families;
    this.calendars = calendarsOf(m);
    this.capacity = Int32Array.from(m.resources, (r) => r.capacity);
    this.changeoverS = Float64Array.from(m.resources, (r) => r.changeover);
    this.firstUnit = new Int32Array(m.resources.length);
    let units = 0;
    for (const [r, x] of m.resources.entries()) {
      this.firstUnit[r] = units;
      units += x.capacity;
    }
    this.units = units;
    this.keptFree = new Float64Array((n + 1) * units);
    this.triedFree = new Float64Array((n + 1) * units);
    this.keptFamily = new Int32Array((n + 1) * m.resources.length).fill(-1);
    this.triedFamily = new Int32Array((n + 1) * m.resources.length).fill(-1);
    this.changed = new Int32Array(n);
    this.changedIn = new Int32Array(n);
    this.wasStart = new Float64Array(n);
    this.wasOpenS = new Float64Array(n);
    this.work = m.duration.reduce((s, d) => s + d, 0) || 1;
    this.regrouping = new Regrouping(m, frozen);
    this.orderWas = new Int32Array(n);
    this.least = new LeastEnd(m);
  }

  /** Lays out the whole order; false where it cannot be. */
  layAll(): boolean {
    this.begin();
    this.lowest = 0;
    this.whole = this.lay(0, this.n - 1, MOST_RETURNS + 2 * this.n);
    if (this.whole) this.keep();
    return this.whole;
  }

  /** The levels of the objective added up, a later one counting a tenth of the one before; a change of family as a mean task. */
  cost(meanTaskS: number): number {
    const { m, start, duration } = this;
    let sum = 0;
    let share = 1;
    for (const level of m.levels) {
      let value = 0;
      if (level === 'soft') for (const s of m.soft) value += s.weight * Math.max(0, start[s.to] - start[s.from] - s.most);
      else if (level === 'changes') value = meanTaskS * this.changesOfFamily();
      else
        for (let v = 0; v < this.n; v++) {
          const end = start[v] + duration[v];
          if (level === 'makespan') {
            if (end > value) value = end;
          } else {
            const due = m.due[v];
            if (due !== null && due !== undefined && end > due) value += end - due;
          }
        }
      sum += share * value;
      share /= 10;
    }
    return sum;
  }

  /** Mean of the open seconds before the tasks, weighted by their durations. */
  meanOpenS(): number {
    return this.workOpen / this.work;
  }

  /**
   * Moves a task or a block of them to another place of the order and lays out what follows. False, and nothing changed,
   * where the move is none or turns round what must come first; after true, `keep` or `undo` is owed. `regroup` is the share of moves that
   * take a whole group elsewhere ({@link Regrouping}). What would end after `mostEndS` need not be laid out whole.
   */
  tryMove(rng: Rng, regroup = 0, mostEndS = Number.POSITIVE_INFINITY): boolean {
    const { n, order, placeOf } = this;
    this.mostEndS = mostEndS;
    if (this.isLimited && this.leastIsOld) this.least.keep(order);
    if (this.isLimited) this.leastIsOld = false;
    if (regroup > 0 && this.regrouping.isPossible && rng() < regroup) return this.tryRegroup(rng);
    let at = Math.floor(rng() * n);
    let length = 1;
    let to: number;
    if (rng() < TO_FAMILY) {
      const x = order[at];
      const same = this.sameFamily[this.family[x]];
      if (!same) return false;
      const y = same[Math.floor(rng() * same.length)];
      if (rng() < WITH_TIED) [at, length] = this.withTied(at, 1);
      const j = placeOf[y];
      if (j >= at && j < at + length) return false;
      // Mostly right behind it, else right before.
      const behind = rng() < BESIDE ? 1 : 0;
      to = j > at ? j - length + behind : j + behind;
    } else {
      length = rng() < 0.5 ? 1 : 1 + Math.floor(rng() * LONGEST_BLOCK);
      if (rng() < WITH_TIED) [at, length] = this.withTied(at, length);
      const reach = 1 + Math.floor(rng() ** 2 * Math.min(n, REACH));
      to = at + (rng() < 0.5 ? -reach : reach);
    }
    if (at + length > n) return false;
    to = Math.max(0, Math.min(n - length, to));
    if (to === at || this.turnsRound(at, length, to)) return false;
    this.moved = { at, length, to };
    this.shift(at, length, to);
    this.begin();
    this.lowest = Math.min(at, to);
    this.whole = this.lay(this.lowest, Math.max(at, to) + length - 1, MOST_RETURNS);
    return true;
  }

  private tryRegroup(rng: Rng): boolean {
    const { n, order, placeOf, orderWas } = this;
    orderWas.set(order);
    const own = this.regrouping.write(orderWas, order, placeOf, Math.min(n, REACH), rng);
    let low = 0;
    while (low < n && order[low] === orderWas[low]) low++;
    if (low === n) return false;
    let high = n - 1;
    while (order[high] === orderWas[high]) high--;
    for (let k = low; k <= high; k++) placeOf[order[k]] = k;
    if (own.some((v) => this.isTurnedRound(v))) {
      this.restore(low, high);
      return false;
    }
    this.moved = { at: low, length: 0, to: high };
    this.begin();
    this.lowest = low;
    this.whole = this.lay(low, high, MOST_RETURNS);
    return true;
  }

  /** Whether a task stands before one that must not come after it, or the other way round. */
  private isTurnedRound(v: number): boolean {
    const { out, into, placeOf } = this;
    const at = placeOf[v];
    for (let q = out.first[v]; q < out.first[v + 1]; q++) if (out.value[q] >= 0 && placeOf[out.other[q]] < at) return true;
    for (let q = into.first[v]; q < into.first[v + 1]; q++) if (into.value[q] >= 0 && placeOf[into.other[q]] > at) return true;
    return false;
  }

  private restore(low: number, high: number): void {
    for (let k = low; k <= high; k++) {
      this.order[k] = this.orderWas[k];
      this.placeOf[this.order[k]] = k;
    }
  }

  keep(): void {
    const { units, lowest, highest } = this;
    const resources = this.capacity.length;
    this.keptFree.set(this.triedFree.subarray((lowest + 1) * units, (highest + 1) * units), (lowest + 1) * units);
    this.keptFamily.set(this.triedFamily.subarray((lowest + 1) * resources, (highest + 1) * resources), (lowest + 1) * resources);
    for (let k = lowest; k < highest; k++) this.wasRaised[this.order[k]] = 0;
    for (const v of this.raised) this.wasRaised[v] = 1;
    if (this.isLimited) this.least.keep(this.order);
    else this.leastIsOld = true;
    this.end();
  }

  undo(): void {
    for (let c = 0; c < this.changes; c++) {
      const v = this.changed[c];
      this.start[v] = this.wasStart[v];
      this.openS[v] = this.wasOpenS[v];
    }
    this.workOpen = this.wasWorkOpen;
    if (this.moved.length === 0) this.restore(this.moved.at, this.moved.to);
    else this.shift(this.moved.to, this.moved.length, this.moved.at);
    this.end();
  }

  private get isLimited(): boolean {
    return this.mostEndS < Number.POSITIVE_INFINITY;
  }

  private begin(): void {
    this.trial += 1;
    this.changes = 0;
    this.wasWorkOpen = this.workOpen;
  }

  private end(): void {
    for (const v of this.raised) this.floor[v] = this.base[v];
    this.raised.length = 0;
  }

  /** The block with the neighbours that maximum lags bind to it. */
  private withTied(at: number, length: number): [number, number] {
    let a = at;
    let b = Math.min(this.n - 1, at + length - 1);
    for (let grown = true; grown && b - a < LONGEST_TIED; ) {
      grown = false;
      if (b + 1 < this.n && this.isTied(b)) {
        b += 1;
        grown = true;
      }
      if (a > 0 && this.isTied(a - 1)) {
        a -= 1;
        grown = true;
      }
    }
    return [a, b - a + 1];
  }

  /** Whether the task at a place may only be so long before the one after it. */
  private isTied(place: number): boolean {
    const { into, order } = this;
    const u = order[place];
    const v = order[place + 1];
    for (let q = into.first[u]; q < into.first[u + 1]; q++) if (into.other[q] === v && into.value[q] < 0) return true;
    return false;
  }

  /** Whether a move would put a task before one that must not come after it. */
  private turnsRound(at: number, length: number, to: number): boolean {
    const later = to > at;
    const arcs = later ? this.out : this.into;
    const [from, until] = later ? [at + length, to + length] : [to, at];
    for (let k = at; k < at + length; k++) {
      const v = this.order[k];
      for (let q = arcs.first[v]; q < arcs.first[v + 1]; q++) {
        const p = this.placeOf[arcs.other[q]];
        if (arcs.value[q] >= 0 && p >= from && p < until) return true;
      }
    }
    return false;
  }

  private shift(at: number, length: number, to: number): void {
    const { order, placeOf } = this;
    const block = order.slice(at, at + length);
    if (to > at) order.copyWithin(at, at + length, to + length);
    else order.copyWithin(to + length, to, at);
    order.set(block, to);
    for (let k = Math.min(at, to); k < Math.max(at, to) + length; k++) placeOf[order[k]] = k;
  }

  private changesOfFamily(): number {
    const { order, asks, family } = this;
    const last = new Int32Array(this.capacity.length).fill(-1);
    let changes = 0;
    for (let k = 0; k < this.n; k++) {
      const v = order[k];
      for (let q = asks.first[v]; q < asks.first[v + 1]; q++) {
        const r = asks.other[q];
        if (this.capacity[r] !== 1) continue;
        if (last[r] >= 0 && family[v] >= 0 && last[r] !== family[v]) changes += 1;
        last[r] = family[v];
      }
    }
    return changes;
  }

  /** Lays out from place `low` until, past `high`, everything stands as it did; false where it cannot be. */
  private lay(low: number, high: number, mostReturns: number): boolean {
    const { n, order, placeOf, start, units, out, into, asks, triedFree: free, triedFamily: lastFamily } = this;
    const resources = this.capacity.length;
    const horizonS = this.m.horizon;
    this.stateAsKept(low);
    const { isLimited } = this;
    if (isLimited) this.least.follow(order, low, high);
    let from = low;
    let until = high;
    let returns = 0;
    let k = low;
    while (k < n) {
      if (isLimited && this.least.atS(k, free, lastFamily) > this.mostEndS) return false;
      const v = order[k];
      const intoEnd = into.first[v + 1];
      const outEnd = out.first[v + 1];
      const s = this.firstStart(v, k);
      const end = s + this.duration[v];
      this.highest = k;
      if (end > horizonS || (this.frozen.size > 0 && this.frozen.has(v) && s !== this.base[v])) return false;
      let back = -1;
      for (let q = out.first[v]; q < outEnd; q++) {
        const w = out.other[q];
        const p = placeOf[w];
        const leastS = s + out.value[q];
        if (p >= k || start[w] >= leastS) continue;
        // A task that was sent back in the order as it stood is no news the first time.
        if (this.floor[w] !== this.base[w]) returns += 1;
        else {
          this.raised.push(w);
          if (this.wasRaised[w] === 0) returns += 1;
        }
        this.floor[w] = leastS;
        if (back < 0 || p < back) back = p;
      }
      if (back >= 0) {
        if (returns > mostReturns) return false;
        if (k > until) until = k;
        if (back < from) {
          from = back;
          this.lowest = Math.min(this.lowest, back);
          this.stateAsKept(back);
        }
        k = back;
        continue;
      }
      if (s !== start[v] || this.trial === 1) {
        this.move(v, s);
        for (let q = out.first[v]; q < outEnd; q++) until = Math.max(until, placeOf[out.other[q]]);
        for (let q = into.first[v]; q < intoEnd; q++) until = Math.max(until, placeOf[into.other[q]]);
      }
      const here = k * units;
      for (let u = here; u < here + units; u++) free[u + units] = free[u];
      for (let r = k * resources; r < (k + 1) * resources; r++) lastFamily[r + resources] = lastFamily[r];
      for (let q = asks.first[v]; q < asks.first[v + 1]; q++) {
        const r = asks.other[q];
        const amount = asks.value[q];
        const first = here + units + this.firstUnit[r];
        const capacity = this.capacity[r];
        // The units free first are taken; all stay in order of when they are free.
        let write = 0;
        for (let read = amount; read < capacity && free[first + read] <= end; read++) free[first + write++] = free[first + read];
        for (let x = 0; x < amount; x++) free[first + write++] = end;
        lastFamily[(k + 1) * resources + r] = this.family[v];
      }
      k += 1;
      if (k > until && this.trial > 1 && this.standsAsKept(k)) break;
    }
    this.highest = k;
    return true;
  }

  /** First moment for a task at a place of the order, with all before it laid out. */
  private firstStart(v: number, k: number): number {
    const { into, asks, placeOf, start } = this;
    let s = this.floor[v];
    for (let q = into.first[v], end = into.first[v + 1]; q < end; q++) {
      const u = into.other[q];
      if (placeOf[u] >= k) continue;
      const x = start[u] + into.value[q];
      if (x > s) s = x;
    }
    const f = this.family[v];
    for (let q = asks.first[v], end = asks.first[v + 1]; q < end; q++) {
      const r = asks.other[q];
      let x = this.triedFree[k * this.units + this.firstUnit[r] + asks.value[q] - 1];
      const last = this.triedFamily[k * this.capacity.length + r];
      if (f >= 0 && last >= 0 && last !== f) x += this.changeoverS[r];
      if (x > s) s = x;
    }
    return firstOpen(this.calendars[v], s, this.duration[v]);
  }

  private move(v: number, s: number): void {
    if (this.changedIn[v] !== this.trial) {
      this.changedIn[v] = this.trial;
      this.wasStart[v] = this.start[v];
      this.wasOpenS[v] = this.openS[v];
      this.changed[this.changes++] = v;
    }
    const open = s - closedBefore(this.calendars[v], s);
    this.workOpen += this.duration[v] * (open - this.openS[v]);
    this.start[v] = s;
    this.openS[v] = open;
  }

  private stateAsKept(k: number): void {
    const resources = this.capacity.length;
    this.triedFree.set(this.keptFree.subarray(k * this.units, (k + 1) * this.units), k * this.units);
    this.triedFamily.set(this.keptFamily.subarray(k * resources, (k + 1) * resources), k * resources);
  }

  private standsAsKept(k: number): boolean {
    const resources = this.capacity.length;
    for (let u = k * this.units; u < (k + 1) * this.units; u++) if (this.triedFree[u] !== this.keptFree[u]) return false;
    for (let r = k * resources; r < (k + 1) * resources; r++) if (this.triedFamily[r] !== this.keptFamily[r]) return false;
    return true;
  }
}
