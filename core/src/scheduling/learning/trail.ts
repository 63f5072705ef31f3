/**
 * Integer variables known by their bounds, with the history of how each bound came about: the integer trail of lazy
 * clause generation (Ohrimenko, Stuckey & Codish, "Propagation via lazy clause generation", Constraints 14, 2009).
 *
 * A variable x has two rising bounds: bound 2x is its least value, bound 2x + 1 its greatest, negated. So every literal
 * is "bound b ≥ v", and its opposite "bound b^1 ≥ 1 − v". Reasons are written down when a bound rises: a run of such
 * literals in one arena, or a learned clause.
 */
export class Trail {
  /** the bounds as they stand */
  readonly at: Float64Array;
  /** entry that set each bound last, −1 at the root */
  readonly last: Int32Array;
  /** for each entry: bound, new value, value before, entry before of the same bound, level */
  bound: Int32Array;
  value: Float64Array;
  before: Float64Array;
  previous: Int32Array;
  /** where its reason begins in the arena and how long it is; a clause stands as −2 − clause */
  reasonAt: Int32Array;
  reasonLength: Int32Array;
  /** first literal of the reason shifts along when less of the bound is needed (difference constraints) */
  shifts: Uint8Array;
  size = 0;
  arenaBound: Int32Array;
  arenaValue: Float64Array;
  arenaSize = 0;
  readonly levelStart: number[] = [];
  private readonly levelArena: number[] = [];

  constructor(variables: number) {
    this.at = new Float64Array(2 * variables);
    this.last = new Int32Array(2 * variables).fill(-1);
    const room = Math.max(1024, 8 * variables);
    this.bound = new Int32Array(room);
    this.value = new Float64Array(room);
    this.before = new Float64Array(room);
    this.previous = new Int32Array(room);
    this.reasonAt = new Int32Array(room);
    this.reasonLength = new Int32Array(room);
    this.shifts = new Uint8Array(room);
    this.arenaBound = new Int32Array(4 * room);
    this.arenaValue = new Float64Array(4 * room);
  }

  get level(): number {
    return this.levelStart.length;
  }

  newLevel(): void {
    this.levelStart.push(this.size);
    this.levelArena.push(this.arenaSize);
  }

  /** Takes back every entry above `level`. */
  backTo(level: number): void {
    if (level >= this.levelStart.length) return;
    const to = this.levelStart[level];
    for (let t = this.size - 1; t >= to; t--) {
      const b = this.bound[t];
      this.at[b] = this.before[t];
      this.last[b] = this.previous[t];
    }
    this.size = to;
    this.arenaSize = this.levelArena[level];
    this.levelStart.length = level;
    this.levelArena.length = level;
  }

  /** Adds one literal to the reason being written. */
  because(b: number, v: number): void {
    if (this.arenaSize === this.arenaBound.length) this.growArena();
    this.arenaBound[this.arenaSize] = b;
    this.arenaValue[this.arenaSize++] = v;
  }

  /** Raises a bound; its reason is what stands in the arena from `reasonAt` on, or a clause. */
  raise(b: number, v: number, reasonAt: number, shifts: boolean): void {
    if (this.size === this.bound.length) this.grow();
    const t = this.size++;
    this.bound[t] = b;
    this.value[t] = v;
    this.before[t] = this.at[b];
    this.previous[t] = this.last[b];
    this.reasonAt[t] = reasonAt;
    this.reasonLength[t] = reasonAt >= 0 ? this.arenaSize - reasonAt : 0;
    this.shifts[t] = shifts ? 1 : 0;
    this.at[b] = v;
    this.last[b] = t;
  }

  /** The entry that first made "bound b ≥ v" true, −1 if it was so at the root. */
  entryOf(b: number, v: number): number {
    let t = this.last[b];
    while (t >= 0 && this.before[t] >= v) t = this.previous[t];
    return t;
  }

  levelOf(entry: number): number {
    let lo = 0;
    let hi = this.levelStart.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if (this.levelStart[mid] <= entry) lo = mid + 1;
      else hi = mid;
    }
    return lo;
  }

  private grow(): void {
    const room = 2 * this.bound.length;
    const copy = <T extends Int32Array | Float64Array | Uint8Array>(from: T, to: T): T => {
      to.set(from as never);
      return to;
    };
    this.bound = copy(this.bound, new Int32Array(room));
    this.value = copy(this.value, new Float64Array(room));
    this.before = copy(this.before, new Float64Array(room));
    this.previous = copy(this.previous, new Int32Array(room));
    this.reasonAt = copy(this.reasonAt, new Int32Array(room));
    this.reasonLength = copy(this.reasonLength, new Int32Array(room));
    this.shifts = copy(this.shifts, new Uint8Array(room));
  }

  private growArena(): void {
    const room = 2 * this.arenaBound.length;
    const [b, v] = [new Int32Array(room), new Float64Array(room)];
    b.set(this.arenaBound);
    v.set(this.arenaValue);
    this.arenaBound = b;
    this.arenaValue = v;
  }
}
