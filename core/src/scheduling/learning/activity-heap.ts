import type { Engine } from './engine.js';

/** Undecided order variables by activity, highest first. */
export class ActivityHeap {
  private readonly heap: number[] = [];
  private readonly place: Int32Array;

  constructor(
    private readonly all: readonly number[],
    private readonly activity: Float64Array,
  ) {
    this.place = new Int32Array(activity.length).fill(-1);
    for (const x of all) this.push(x);
  }

  /** The most active variable that is not decided; −1 where all are. */
  next(engine: Engine): number {
    for (;;) {
      const x = this.pop();
      if (x < 0 || !engine.isFixed(x)) return x;
    }
  }

  /** After going back: what became undecided again comes back in. */
  refill(engine: Engine): void {
    for (const x of this.all) if (this.place[x] < 0 && !engine.isFixed(x)) this.push(x);
  }

  bumped(x: number): void {
    const i = this.place[x];
    if (i >= 0) this.up(i);
  }

  private push(x: number): void {
    this.place[x] = this.heap.length;
    this.heap.push(x);
    this.up(this.heap.length - 1);
  }

  private pop(): number {
    const top = this.heap[0];
    if (top === undefined) return -1;
    const last = this.heap.pop() as number;
    this.place[top] = -1;
    if (this.heap.length > 0) {
      this.heap[0] = last;
      this.place[last] = 0;
      this.down(0);
    }
    return top;
  }

  private up(from: number): void {
    let i = from;
    const x = this.heap[i];
    const a = this.activity[x];
    while (i > 0) {
      const p = (i - 1) >> 1;
      const y = this.heap[p];
      if (this.activity[y] >= a) break;
      this.heap[i] = y;
      this.place[y] = i;
      i = p;
    }
    this.heap[i] = x;
    this.place[x] = i;
  }

  private down(from: number): void {
    let i = from;
    const x = this.heap[i];
    const a = this.activity[x];
    for (;;) {
      let c = 2 * i + 1;
      if (c >= this.heap.length) break;
      if (c + 1 < this.heap.length && this.activity[this.heap[c + 1]] > this.activity[this.heap[c]]) c += 1;
      const y = this.heap[c];
      if (this.activity[y] <= a) break;
      this.heap[i] = y;
      this.place[y] = i;
      i = c;
    }
    this.heap[i] = x;
    this.place[x] = i;
  }
}
