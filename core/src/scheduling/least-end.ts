import type { Model } from './model.js';

/**
 * How soon an order can end at least, from any place of it on: what is left of the work of the resource with most of it, its changes of
 * family included, with no gap between. Within one opening that is nearly all there is, so that most moves that make an order worse are
 * known before they are laid out.
 */
export class LeastEnd {
  private readonly resource: number;
  private readonly resources: number;
  private readonly units: number;
  private readonly firstUnit: number;
  private readonly capacity: number;
  private readonly changeoverS: number;
  /** seconds of units that a task takes; 0 where it does without the resource */
  private readonly workS: Float64Array;
  private readonly uses: Uint8Array;
  private readonly family: Int32Array;
  /** from each place on, in the order kept and in the one that is tried: seconds of units, and the family that comes first (−1: none) */
  private readonly leftS: Float64Array;
  private readonly first: Int32Array;
  private readonly triedLeftS: Float64Array;
  private readonly triedFirst: Int32Array;
  private high = -1;

  constructor(m: Model) {
    const amountOf = (v: number, r: number) => m.demands[v].find((d) => d.resource === r)?.amount ?? 0;
    const loads = m.resources.map((x, r) => m.duration.reduce((sum, d, v) => sum + d * amountOf(v, r), 0) / x.capacity);
    this.resource = loads.indexOf(Math.max(...loads));
    this.resources = m.resources.length;
    this.units = m.resources.reduce((sum, x) => sum + x.capacity, 0);
    this.firstUnit = m.resources.slice(0, Math.max(0, this.resource)).reduce((sum, x) => sum + x.capacity, 0);
    const busiest = m.resources[this.resource];
    this.capacity = busiest?.capacity ?? 1;
    this.changeoverS = this.capacity === 1 ? (busiest?.changeover ?? 0) : 0;
    this.uses = Uint8Array.from(m.duration, (_, v) => (amountOf(v, this.resource) > 0 ? 1 : 0));
    this.workS = Float64Array.from(m.duration, (d, v) => d * amountOf(v, this.resource));
    this.family = Int32Array.from(m.family);
    this.leftS = new Float64Array(m.n + 1);
    this.first = new Int32Array(m.n + 1).fill(-1);
    this.triedLeftS = new Float64Array(m.n + 1);
    this.triedFirst = new Int32Array(m.n + 1).fill(-1);
  }

  /** Takes an order as the one that is kept. */
  keep(order: Int32Array): void {
    this.write(order, 0, order.length - 1, this.leftS, this.first);
  }

  /** Follows an order that differs from the one kept between two places only. */
  follow(order: Int32Array, low: number, high: number): void {
    this.triedLeftS[high + 1] = this.leftS[high + 1];
    this.triedFirst[high + 1] = this.first[high + 1];
    this.write(order, low, high, this.triedLeftS, this.triedFirst);
    this.high = high;
  }

  /**
   * Seconds at which what was followed ends at least.
   *
   * @param k - place from which on nothing is laid out yet
   * @param free - at each place, when each unit of each resource is free
   * @param family - at each place, the family each resource had last
   */
  atS(k: number, free: Float64Array, family: Int32Array): number {
    if (this.resource < 0) return 0;
    const isTried = k <= this.high;
    let sum = isTried ? this.triedLeftS[k] : this.leftS[k];
    const next = isTried ? this.triedFirst[k] : this.first[k];
    const at = k * this.units + this.firstUnit;
    for (let u = at; u < at + this.capacity; u++) sum += free[u];
    const last = family[k * this.resources + this.resource];
    if (last >= 0 && next >= 0 && last !== next) sum += this.changeoverS;
    return sum / this.capacity;
  }

  private write(order: Int32Array, low: number, high: number, leftS: Float64Array, first: Int32Array): void {
    for (let k = high; k >= low; k--) {
      const v = order[k];
      const next = first[k + 1];
      if (this.uses[v] === 0) {
        leftS[k] = leftS[k + 1];
        first[k] = next;
        continue;
      }
      const f = this.family[v];
      leftS[k] = leftS[k + 1] + this.workS[v] + (f >= 0 && next >= 0 && f !== next ? this.changeoverS : 0);
      first[k] = f;
    }
  }
}
