import type { Clauses } from './clauses.js';
import type { Trail } from './trail.js';

const BUMP_DECAY = 1 / 0.95;
const CLAUSE_DECAY = 1 / 0.999;
const TOO_LARGE = 1e100;

/** What a failure teaches: at least one of the literals "bound b ≥ v" holds, and how far back it bites. */
export interface Lesson {
  /** the one that will be asserted first, one of the deepest other level second */
  readonly bounds: readonly number[];
  readonly values: readonly number[];
  readonly backTo: number;
  /** distinct decision levels it spans */
  readonly spread: number;
}

/**
 * Conflict analysis: a failure is followed back to its first unique implication point (Marques-Silva & Sakallah, GRASP, 1999) over
 * bound literals, and what is learned is weakened along difference constraints where less would have been enough. Variables and
 * clauses that took part are raised in activity (Moskewicz et al., "Chaff", DAC 2001).
 */
export class ConflictAnalysis {
  readonly activity: Float64Array;
  onBump: ((variable: number) => void) | null = null;
  private bump = 1;
  private clauseBump = 1;
  private readonly needed: Float64Array;
  private readonly needEntry: Int32Array;
  private readonly inSet: Uint8Array;

  constructor(
    private readonly trail: Trail,
    private readonly clauses: Clauses,
    variables: number,
  ) {
    this.activity = new Float64Array(variables);
    this.needed = new Float64Array(2 * variables);
    this.needEntry = new Int32Array(2 * variables);
    this.inSet = new Uint8Array(2 * variables);
  }

  /** What the failure of these literals teaches; null where it fails at the root. */
  lessonOf(failBound: readonly number[], failValue: readonly number[]): Lesson | null {
    const { trail, needed, needEntry, inSet } = this;
    const set: number[] = [];
    let deepest = -1;
    for (let k = 0; k < failBound.length; k++) deepest = Math.max(deepest, trail.entryOf(failBound[k], failValue[k]));
    if (deepest < 0) return null;
    // A failure may have been found only after its own level; it is analysed where its youngest literal came about.
    const level = trail.levelOf(deepest);
    if (level === 0) return null;
    const start = trail.levelStart[level - 1];
    const root = trail.levelStart[0];
    let open = 0;
    const need = (b: number, v: number) => {
      const entry = trail.entryOf(b, v);
      // What holds at the root needs no mention.
      if (entry < root) return;
      if (inSet[b]) {
        if (needed[b] >= v) return;
        if (needEntry[b] < start && entry >= start) open += 1;
      } else {
        inSet[b] = 1;
        set.push(b);
        this.bumpVariable(b >> 1);
        if (entry >= start) open += 1;
      }
      needed[b] = v;
      needEntry[b] = entry;
    };
    for (let k = 0; k < failBound.length; k++) need(failBound[k], failValue[k]);
    let t = deepest;
    let uip = -1;
    for (;;) {
      let b = trail.bound[t];
      while (!inSet[b] || needEntry[b] !== t) b = trail.bound[--t];
      if (open === 1) {
        uip = b;
        break;
      }
      const v = needed[b];
      inSet[b] = 0;
      open -= 1;
      const reasonAt = trail.reasonAt[t];
      if (reasonAt <= -2) {
        const id = -2 - reasonAt;
        const c = this.clauses.all[id];
        const { bound, value } = this.clauses;
        this.bumpClause(id);
        // Its first literal is the one it asserted.
        for (let k = c.at + 1; k < c.at + c.length; k++) need(bound[k] ^ 1, 1 - value[k]);
      } else {
        const length = trail.reasonLength[t];
        const spare = trail.value[t] - v;
        for (let k = 0; k < length; k++) {
          const rv = trail.arenaValue[reasonAt + k];
          need(trail.arenaBound[reasonAt + k], k === 0 && trail.shifts[t] ? rv - spare : rv);
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
    const values: number[] = [1 - needed[uip]];
    const levels = new Set<number>([level]);
    for (const b of kept) {
      if (b === uip) continue;
      const l = trail.levelOf(needEntry[b]);
      levels.add(l);
      bounds.push(b ^ 1);
      values.push(1 - needed[b]);
      if (l > back) {
        back = l;
        second = bounds.length - 1;
      }
    }
    if (second > 1) {
      const [b1, v1] = [bounds[1], values[1]];
      bounds[1] = bounds[second];
      values[1] = values[second];
      bounds[second] = b1;
      values[second] = v1;
    }
    this.bump *= BUMP_DECAY;
    this.clauseBump *= CLAUSE_DECAY;
    return { bounds, values, backTo: back, spread: levels.size };
  }

  /** Whether a literal of the lesson follows from its others by one step. */
  private follows(b: number): boolean {
    const { trail, needed, inSet } = this;
    const t = this.needEntry[b];
    const reasonAt = trail.reasonAt[t];
    if (reasonAt < 0) return false;
    const root = trail.levelStart[0];
    const length = trail.reasonLength[t];
    const spare = trail.value[t] - needed[b];
    for (let k = 0; k < length; k++) {
      const rb = trail.arenaBound[reasonAt + k];
      const rv = trail.arenaValue[reasonAt + k] - (k === 0 && trail.shifts[t] ? spare : 0);
      // Only what came about before may stand for it: two literals must not each be left out for the other's sake.
      if (inSet[rb] && needed[rb] >= rv && this.needEntry[rb] < t) continue;
      if (trail.entryOf(rb, rv) >= root) return false;
    }
    return true;
  }

  private bumpVariable(x: number): void {
    this.activity[x] = this.activity[x] + this.bump;
    if (this.activity[x] > TOO_LARGE) {
      for (let i = 0; i < this.activity.length; i++) this.activity[i] = this.activity[i] / TOO_LARGE;
      this.bump /= TOO_LARGE;
    }
    this.onBump?.(x);
  }

  /** Raises the activity of a clause that failed or was a reason. */
  bumpClause(id: number): void {
    const c = this.clauses.all[id];
    c.activity += this.clauseBump;
    if (c.activity > TOO_LARGE) {
      for (const x of this.clauses.all) x.activity /= TOO_LARGE;
      this.clauseBump /= TOO_LARGE;
    }
  }
}
