/** A difference y ≥ x + weight between bounds, in force where its condition holds: "bound b ≥ v", or always. */
export interface Edge {
  readonly from: number;
  readonly to: number;
  readonly weight: number;
  /** variable of the condition (0–1), −1 where always */
  readonly when: number;
  /** the value of that variable under which it holds */
  readonly is: 0 | 1;
}

/** Edges by the bound that makes them move: each difference moves least values forward and greatest values backward. */
export class EdgeTable {
  readonly first: Int32Array;
  readonly target: Int32Array;
  readonly weight: Float64Array;
  /** literal "conditionBound ≥ conditionValue", bound −1 where always */
  readonly conditionBound: Int32Array;
  readonly conditionValue: Int8Array;
  /** edges of each condition literal, to be looked at when it comes true */
  readonly ofCondition: ReadonlyMap<number, readonly number[]>;
  readonly source: Int32Array;

  constructor(variables: number, edges: readonly Edge[]) {
    const moves = edges.flatMap((e) => [
      { source: 2 * e.from, target: 2 * e.to, e },
      { source: 2 * e.to + 1, target: 2 * e.from + 1, e },
    ]);
    moves.sort((a, b) => a.source - b.source);
    this.first = new Int32Array(2 * variables + 1);
    for (const m of moves) this.first[m.source + 1] = this.first[m.source + 1] + 1;
    for (let i = 0; i < 2 * variables; i++) this.first[i + 1] = this.first[i + 1] + this.first[i];
    this.target = Int32Array.from(moves, (m) => m.target);
    this.source = Int32Array.from(moves, (m) => m.source);
    this.weight = Float64Array.from(moves, (m) => m.e.weight);
    this.conditionBound = Int32Array.from(moves, (m) => (m.e.when < 0 ? -1 : 2 * m.e.when + (m.e.is === 1 ? 0 : 1)));
    this.conditionValue = Int8Array.from(moves, (m) => (m.e.is === 1 ? 1 : 0));
    const ofCondition = new Map<number, number[]>();
    for (let k = 0; k < moves.length; k++) {
      const b = this.conditionBound[k];
      if (b >= 0) ofCondition.set(b, [...(ofCondition.get(b) ?? []), k]);
    }
    this.ofCondition = ofCondition;
  }
}
