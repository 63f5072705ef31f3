import type { ClockView } from '@kestfog/core/wire';
import { Subject } from 'rxjs';

/** Time is injected everywhere on the server; a simulated clock can be moved on by hand. */
export abstract class Clock {
  abstract nowMs(): number;
  /** seconds of the bench for each second of the wall */
  abstract readonly speed: number;
  readonly changes = new Subject<ClockView>();
  view(): ClockView {
    return { nowMs: this.nowMs(), speed: this.speed };
  }
}

export class WallClock extends Clock {
  readonly speed = 1;
  nowMs(): number {
    return Date.now();
  }
}

/** Stands still until it is advanced or given a speed, so that journeys run a whole order in seconds. */
export class SimulatedClock extends Clock {
  private baseMs: number;
  private setAt = performance.now();
  private factor = 0;

  constructor(start: Date) {
    super();
    this.baseMs = start.getTime();
  }
  get speed(): number {
    return this.factor;
  }
  nowMs(): number {
    return Math.round(this.baseMs + (performance.now() - this.setAt) * this.factor);
  }
  advance(seconds: number): void {
    this.rebase(this.nowMs() + seconds * 1000, this.factor);
  }
  setSpeed(speed: number): void {
    this.rebase(this.nowMs(), speed);
  }
  private rebase(nowMs: number, factor: number): void {
    this.baseMs = nowMs;
    this.setAt = performance.now();
    this.factor = factor;
    this.changes.next(this.view());
  }
}
