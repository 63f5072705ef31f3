import { Clauses } from './clauses.js';
import { ConflictAnalysis } from './conflict-analysis.js';
import { type Edge, EdgeTable } from './differences.js';
import { Trail } from './trail.js';

/** A propagator beyond differences: raises bounds with their reasons, or writes the reason of a failure and returns false. */
export interface Propagator {
  /** bounds whose rise makes it worth running */
  readonly wakes: readonly number[];
  readonly run: (engine: Engine) => boolean;
}

/**
 * Propagation and learning (lazy clause generation: Ohrimenko, Stuckey & Codish, Constraints 14, 2009). Differences are followed at
 * once, other propagators when those are at rest; a failure is analysed ({@link ConflictAnalysis}) and its lesson kept as a clause.
 */
export class Engine {
  readonly trail: Trail;
  readonly clauses: Clauses;
  private readonly edges: EdgeTable;
  private readonly wakers: Int32Array[];
  private readonly propagators: readonly Propagator[];
  /** propagators to be run, 32 to a word, by their place in the list: the first is run first */
  private readonly awake: Int32Array;
  private done = 0;
  /** literals of the failure at hand */
  private readonly failBound: number[] = [];
  private readonly failValue: number[] = [];
  private failClause = -1;
  readonly analysis: ConflictAnalysis;

  constructor(
    readonly variables: number,
    least: Float64Array,
    greatest: Float64Array,
    edges: readonly Edge[],
    propagators: readonly Propagator[],
  ) {
    this.trail = new Trail(variables);
    for (let x = 0; x < variables; x++) {
      this.trail.at[2 * x] = least[x];
      this.trail.at[2 * x + 1] = -greatest[x];
    }
    this.clauses = new Clauses(this.trail, 2 * variables);
    this.edges = new EdgeTable(variables, edges);
    this.propagators = propagators;
    this.awake = new Int32Array((propagators.length + 31) >> 5);
    for (let i = 0; i < propagators.length; i++) this.wake(i);
    const wakers: number[][] = Array.from({ length: 2 * variables }, () => []);
    for (const [i, p] of propagators.entries()) for (const b of p.wakes) wakers[b]?.push(i);
    this.wakers = wakers.map((w) => Int32Array.from(w));
    this.analysis = new ConflictAnalysis(this.trail, this.clauses, variables);
  }

  least(x: number): number {
    return this.trail.at[2 * x];
  }
  greatest(x: number): number {
    return -this.trail.at[2 * x + 1];
  }
  isFixed(x: number): boolean {
    return this.trail.at[2 * x] === -this.trail.at[2 * x + 1];
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
    if (trail.at[b] >= v) {
      trail.arenaSize = reasonAt;
      return true;
    }
    const other = trail.at[b ^ 1];
    if (v + other > 0) {
      // The reason and the opposite bound cannot both stand; as little of the opposite as fails is named.
      this.failBound.length = 0;
      this.failValue.length = 0;
      for (let k = reasonAt; k < trail.arenaSize; k++) {
        this.failBound.push(trail.arenaBound[k]);
        this.failValue.push(trail.arenaValue[k]);
      }
      const spare = v + other - 1;
      if (shifts && this.failValue.length > 0) {
        // What is more than enough is taken off the first literal, which moves the bound one for one.
        this.failValue[0] = this.failValue[0] - spare;
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
    for (let k = reasonAt; k < trail.arenaSize; k++) this.addFail(trail.arenaBound[k], trail.arenaValue[k]);
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
    const { trail, clauses } = this;
    for (;;) {
      while (this.done < trail.size) {
        const t = this.done++;
        const b = trail.bound[t];
        for (const p of this.wakers[b] as Int32Array) this.wake(p);
        const failed = clauses.afterRise(b, trail.before[t], trail.value[t]);
        if (failed >= 0) {
          this.failClause = failed;
          return false;
        }
        if (!this.followFrom(b)) return false;
      }
      const i = this.nextAwake();
      if (i < 0) return true;
      if (!this.propagators[i].run(this)) return false;
    }
  }

  private wake(i: number): void {
    this.awake[i >> 5] = this.awake[i >> 5] | (1 << (i & 31));
  }

  /** The first propagator that is to be run, which then sleeps; −1 where all sleep. */
  private nextAwake(): number {
    const { awake } = this;
    for (let w = 0; w < awake.length; w++) {
      const word = awake[w];
      if (word === 0) continue;
      const lowest = word & -word;
      awake[w] = word ^ lowest;
      return 32 * w + 31 - Math.clz32(lowest);
    }
    return -1;
  }

  /** Follows the differences that start at bound b, and those whose condition b is. */
  private followFrom(b: number): boolean {
    const { edges } = this;
    for (let k = edges.first[b], end = edges.first[b + 1]; k < end; k++) if (!this.follow(k)) return false;
    const conditional = edges.ofCondition.get(b);
    if (conditional) for (const k of conditional) if (!this.follow(k)) return false;
    return true;
  }

  private follow(k: number): boolean {
    const { edges, trail } = this;
    const { at } = trail;
    const source = edges.source[k];
    const target = edges.target[k];
    const v = at[source] + edges.weight[k];
    if (at[target] >= v) return true;
    const condition = edges.conditionBound[k];
    if (condition < 0) {
      const r = trail.arenaSize;
      trail.because(source, at[source]);
      return this.raise(target, v, r, true);
    }
    const needs = edges.conditionValue[k];
    if (at[condition] >= needs) {
      const r = trail.arenaSize;
      trail.because(source, at[source]);
      trail.because(condition, needs);
      return this.raise(target, v, r, true);
    }
    const opposite = at[target ^ 1];
    if (v + opposite <= 0) return true;
    // It could not hold: so its condition does not.
    if (at[condition ^ 1] >= 1 - needs) return true;
    const r = trail.arenaSize;
    trail.because(source, at[source] - (v + opposite - 1));
    trail.because(target ^ 1, opposite);
    return this.raise(condition ^ 1, 1 - needs, r);
  }

  /**
   * Learns from the failure at hand and goes back to where the lesson bites. Returns false where it bites at the root:
   * nothing is possible any more.
   */
  learn(): boolean {
    const { trail } = this;
    if (this.failClause >= 0) {
      const { bound, value } = this.clauses;
      const c = this.clauses.all[this.failClause];
      this.analysis.bumpClause(this.failClause);
      this.failBound.length = 0;
      this.failValue.length = 0;
      for (let k = c.at; k < c.at + c.length; k++) this.addFail(bound[k] ^ 1, 1 - value[k]);
    }
    this.awake.fill(0);
    const lesson = this.analysis.lessonOf(this.failBound, this.failValue);
    if (!lesson) return false;
    this.backTo(lesson.backTo);
    const [b, v] = [lesson.bounds[0], lesson.values[0]];
    if (lesson.bounds.length === 1) {
      if (v + trail.at[b ^ 1] > 0) return false;
      // A fact of its own: it needs no reason at the root.
      if (trail.at[b] < v) trail.raise(b, v, trail.arenaSize, false);
      return true;
    }
    const id = this.clauses.add(lesson.bounds, lesson.values, lesson.spread);
    trail.raise(b, v, -2 - id, false);
    return true;
  }

  backTo(level: number): void {
    this.trail.backTo(level);
    this.done = Math.min(this.done, this.trail.size);
  }
}
