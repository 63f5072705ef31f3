import { type Clause, Clauses } from './clauses.js';
import { type Edge, EdgeTable } from './differences.js';
import { Trail } from './trail.js';

/** A propagator beyond differences: raises bounds with their reasons, or writes the reason of a failure and returns false. */
export interface Propagator {
  /** bounds whose rise makes it worth running */
  readonly wakes: readonly number[];
  readonly run: (engine: Engine) => boolean;
}

const BUMP_DECAY = 1 / 0.95;
const CLAUSE_DECAY = 1 / 0.999;
const TOO_LARGE = 1e100;

/**
 * Propagation and learning. Differences are followed at once, other propagators when those are at rest; a failure is
 * analysed to its first unique implication point (Marques-Silva & Sakallah, GRASP, 1999) over bound literals, and what
 * is learned is weakened along difference constraints where less would have been enough.
 */
export class Engine {
  readonly trail: Trail;
  readonly clauses: Clauses;
  private readonly edges: EdgeTable;
  private readonly wakers: Int32Array[];
  private readonly propagators: readonly Propagator[];
  private readonly awake: Uint8Array;
  private done = 0;
  /** literals of the failure at hand */
  private readonly failBound: number[] = [];
  private readonly failValue: number[] = [];
  private failClause = -1;
  readonly activity: Float64Array;
  private bump = 1;
  private clauseBump = 1;
  private readonly needed: Float64Array;
  private readonly needEntry: Int32Array;
  private readonly inSet: Uint8Array;
  onBump: ((variable: number) => void) | null = null;

  constructor(
    readonly variables: number,
    least: Float64Array,
    greatest: Float64Array,
    edges: readonly Edge[],
    propagators: readonly Propagator[],
  ) {
    this.trail = new Trail(variables);
    for (let x = 0; x < variables; x++) {
      this.trail.at[2 * x] = least[x] as number;
      this.trail.at[2 * x + 1] = -(greatest[x] as number);
    }
    this.clauses = new Clauses(this.trail, 2 * variables);
    this.edges = new EdgeTable(variables, edges);
    this.propagators = propagators;
    this.awake = new Uint8Array(propagators.length).fill(1);
    const wakers: number[][] = Array.from({ length: 2 * variables }, () => []);
    for (const [i, p] of propagators.entries()) for (const b of p.wakes) wakers[b]?.push(i);
    this.wakers = wakers.map((w) => Int32Array.from(w));
    this.activity = new Float64Array(variables);
    this.needed = new Float64Array(2 * variables);
    this.needEntry = new Int32Array(2 * variables);
    this.inSet = new Uint8Array(2 * variables);
  }

  least(x: number): number {
    return this.trail.at[2 * x] as number;
  }
  greatest(x: number): number {
    return -(this.trail.at[2 * x + 1] as number);
  }
  isFixed(x: number): boolean {
    return (this.trail.at[2 * x] as number) === -(this.trail.at[2 * x + 1] as number);
  }

  /** Follows every difference once, at the root; false where that already fails. */
  start(): boolean {
    for (let b = 0; b < 2 * this.variables; b++) if (!this.followFrom(b)) return false;
    return this.propagate();
  }

  decide(b: number, v: number): void {
    this.trail.newLevel();
    this.trail.raise(b, v, -1, false);
  }

  /** Begins the reason of a rise: call `trail.because`, then {@link raise}. */
  reason(): number {
    return this.trail.arenaSize;
  }

  /** Raises a bound with the reason written since `reasonAt`; false where it now fails against its opposite. */
  raise(b: number, v: number, reasonAt: number, shifts = false): boolean {
    const { trail } = this;
    if ((trail.at[b] as number) >= v) {
      trail.arenaSize = reasonAt;
      return true;
    }
    const other = trail.at[b ^ 1] as number;
    if (v + other > 0) {
      // The reason and the opposite bound cannot both stand; as little of the opposite as fails is named.
      this.failBound.length = 0;
      this.failValue.length = 0;
      for (let k = reasonAt; k < trail.arenaSize; k++) {
        this.failBound.push(trail.arenaBound[k] as number);
        this.failValue.push(trail.arenaValue[k] as number);
      }
      const spare = v + other - 1;
      if (shifts && this.failValue.length > 0) {
        // What is more than enough is taken off the first literal, which moves the bound one for one.
        this.failValue[0] = (this.failValue[0] as number) - spare;
        this.addFail(b ^ 1, other);
      } else this.addFail(b ^ 1, 1 - v);
      trail.arenaSize = reasonAt;
      this.failClause = -1;
      return false;
    }
    trail.raise(b, v, reasonAt, shifts);
    return true;
  }

  /** A failure whose literals are written in the arena since `reasonAt`. */
  fail(reasonAt: number): false {
    const { trail } = this;
    this.failBound.length = 0;
    this.failValue.length = 0;
    for (let k = reasonAt; k < trail.arenaSize; k++) this.addFail(trail.arenaBound[k] as number, trail.arenaValue[k] as number);
    trail.arenaSize = reasonAt;
    this.failClause = -1;
    return false;
  }

  private addFail(b: number, v: number): void {
    this.failBound.push(b);
    this.failValue.push(v);
  }

  /** To the fixed point; false on failure. */
  propagate(): boolean {
    const { trail, clauses, awake } = this;
    for (;;) {
      while (this.done < trail.size) {
        const t = this.done++;
        const b = trail.bound[t] as number;
        for (const p of this.wakers[b] as Int32Array) awake[p] = 1;
        const failed = clauses.afterRise(b, trail.before[t] as number, trail.value[t] as number);
        if (failed >= 0) {
          this.failClause = failed;
          return false;
        }
        if (!this.followFrom(b)) return false;
      }
      let ran = false;
      for (let i = 0; i < awake.length; i++) {
        if (!awake[i]) continue;
        awake[i] = 0;
        if (!(this.propagators[i] as Propagator).run(this)) {
          awake.fill(1);
          return false;
        }
        ran = true;
        if (this.done < trail.size) break;
      }
      if (!ran && this.done >= trail.size) return true;
    }
  }

  /** Follows the differences that start at bound b, and those whose condition b is. */
  private followFrom(b: number): boolean {
    const { edges } = this;
    for (let k = edges.first[b] as number, end = edges.first[b + 1] as number; k < end; k++) if (!this.follow(k)) return false;
    const conditional = edges.ofCondition.get(b);
    if (conditional) for (const k of conditional) if (!this.follow(k)) return false;
    return true;
  }

  private follow(k: number): boolean {
    const { edges, trail } = this;
    const { at } = trail;
    const source = edges.source[k] as number;
    const target = edges.target[k] as number;
    const v = (at[source] as number) + (edges.weight[k] as number);
    if ((at[target] as number) >= v) return true;
    const condition = edges.conditionBound[k] as number;
    if (condition < 0) {
      const r = trail.arenaSize;
      trail.because(source, at[source] as number);
      return this.raise(target, v, r, true);
    }
    const needs = edges.conditionValue[k] as number;
    if ((at[condition] as number) >= needs) {
      const r = trail.arenaSize;
      trail.because(source, at[source] as number);
      trail.because(condition, needs);
      return this.raise(target, v, r, true);
    }
    const opposite = at[target ^ 1] as number;
    if (v + opposite <= 0) return true;
    // It could not hold: so its condition does not.
    if ((at[condition ^ 1] as number) >= 1 - needs) return true;
    const r = trail.arenaSize;
    trail.because(source, (at[source] as number) - (v + opposite - 1));
    trail.because(target ^ 1, opposite);
    return this.raise(condition ^ 1, 1 - needs, r);
  }

  /**
   * Learns from the failure at hand and goes back to where the lesson bites. Returns false where it bites at the root:
   * nothing is possible any more.
   */
  learn(): boolean {
    const { trail, needed, needEntry, inSet } = this;
    if (this.failClause >= 0) {
      const { bound, value } = this.clauses;
      const c = this.clauses.all[this.failClause] as Clause;
      this.bumpClause(this.failClause);
      this.failBound.length = 0;
      this.failValue.length = 0;
      for (let k = c.at; k < c.at + c.length; k++) this.addFail((bound[k] as number) ^ 1, 1 - (value[k] as number));
    }
    this.awake.fill(1);
    const set: number[] = [];
    let deepest = -1;
    for (let k = 0; k < this.failBound.length; k++) deepest = Math.max(deepest, trail.entryOf(this.failBound[k] as number, this.failValue[k] as number));
    if (deepest < 0) return false;
    // A failure may have been found only after its own level; it is analysed where its youngest literal came about.
    const level = trail.levelOf(deepest);
    if (level === 0) return false;
    const start = trail.levelStart[level - 1] as number;
    const root = trail.levelStart[0] as number;
    let open = 0;
    const need = (b: number, v: number) => {
      const entry = trail.entryOf(b, v);
      // What holds at the root needs no mention.
      if (entry < root) return;
      if (inSet[b]) {
        if ((needed[b] as number) >= v) return;
        if ((needEntry[b] as number) < start && entry >= start) open += 1;
      } else {
        inSet[b] = 1;
        set.push(b);
        this.bumpVariable(b >> 1);
        if (entry >= start) open += 1;
      }
      needed[b] = v;
      needEntry[b] = entry;
    };
    for (let k = 0; k < this.failBound.length; k++) need(this.failBound[k] as number, this.failValue[k] as number);
    let t = deepest;
    let uip = -1;
    for (;;) {
      let b = trail.bound[t] as number;
      while (!inSet[b] || needEntry[b] !== t) b = trail.bound[--t] as number;
      if (open === 1) {
        uip = b;
        break;
      }
      const v = needed[b] as number;
      inSet[b] = 0;
      open -= 1;
      const reasonAt = trail.reasonAt[t] as number;
      if (reasonAt <= -2) {
        const id = -2 - reasonAt;
        const c = this.clauses.all[id] as Clause;
        const { bound, value } = this.clauses;
        this.bumpClause(id);
        // Its first literal is the one it asserted.
        for (let k = c.at + 1; k < c.at + c.length; k++) need((bound[k] as number) ^ 1, 1 - (value[k] as number));
      } else {
        const length = trail.reasonLength[t] as number;
        const spare = (trail.value[t] as number) - v;
        for (let k = 0; k < length; k++) {
          const rv = trail.arenaValue[reasonAt + k] as number;
          need(trail.arenaBound[reasonAt + k] as number, k === 0 && trail.shifts[t] ? rv - spare : rv);
        }
      }
      t -= 1;
    }
    // Literals that the others bring about by themselves are left out.
    const members = [...new Set(set)].filter((b) => inSet[b]);
    const kept = members.filter((b) => b === uip || !this.follows(b));
    for (const b of members) inSet[b] = 0;
    let back = 0;
    let second = -1;
    const bounds: number[] = [uip ^ 1];
    const values: number[] = [1 - (needed[uip] as number)];
    const levels = new Set<number>([level]);
    for (const b of kept) {
      if (b === uip) continue;
      const l = trail.levelOf(needEntry[b] as number);
      levels.add(l);
      bounds.push(b ^ 1);
      values.push(1 - (needed[b] as number));
      if (l > back) {
        back = l;
        second = bounds.length - 1;
      }
    }
    if (second > 1) {
      const [b1, v1] = [bounds[1] as number, values[1] as number];
      bounds[1] = bounds[second] as number;
      values[1] = values[second] as number;
      bounds[second] = b1;
      values[second] = v1;
    }
    this.backTo(back);
    this.bump *= BUMP_DECAY;
    this.clauseBump *= CLAUSE_DECAY;
    if (bounds.length === 1) {
      const [b, v] = [bounds[0] as number, values[0] as number];
      if (v + (trail.at[b ^ 1] as number) > 0) return false;
      // A fact of its own: it needs no reason at the root.
      if ((trail.at[b] as number) < v) trail.raise(b, v, trail.arenaSize, false);
      return true;
    }
    const id = this.clauses.add(bounds, values, levels.size);
    trail.raise(bounds[0] as number, values[0] as number, -2 - id, false);
    return true;
  }

  /** Whether a literal of the lesson follows from its others by one step. */
  private follows(b: number): boolean {
    const { trail, needed, inSet } = this;
    const t = this.needEntry[b] as number;
    const reasonAt = trail.reasonAt[t] as number;
    if (reasonAt < 0) return false;
    const root = trail.levelStart[0] as number;
    const length = trail.reasonLength[t] as number;
    const spare = (trail.value[t] as number) - (needed[b] as number);
    for (let k = 0; k < length; k++) {
      const rb = trail.arenaBound[reasonAt + k] as number;
      const rv = (trail.arenaValue[reasonAt + k] as number) - (k === 0 && trail.shifts[t] ? spare : 0);
      // Only what came about before may stand for it: two literals must not each be left out for the other's sake.
      if (inSet[rb] && (needed[rb] as number) >= rv && (this.needEntry[rb] as number) < t) continue;
      if (trail.entryOf(rb, rv) >= root) return false;
    }
    return true;
  }

  backTo(level: number): void {
    this.trail.backTo(level);
    this.done = Math.min(this.done, this.trail.size);
  }

  private bumpVariable(x: number): void {
    this.activity[x] = (this.activity[x] as number) + this.bump;
    if ((this.activity[x] as number) > TOO_LARGE) {
      for (let i = 0; i < this.activity.length; i++) this.activity[i] = (this.activity[i] as number) / TOO_LARGE;
      this.bump /= TOO_LARGE;
    }
    this.onBump?.(x);
  }

  private bumpClause(id: number): void {
    const c = this.clauses.all[id] as { activity: number };
    c.activity += this.clauseBump;
    if (c.activity > TOO_LARGE) {
      for (const x of this.clauses.all) x.activity /= TOO_LARGE;
      this.clauseBump /= TOO_LARGE;
    }
  }
}
