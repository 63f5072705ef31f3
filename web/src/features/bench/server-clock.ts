import type { ClockView } from '@kestfog/core';

/** The server's time as this device knows it: the wall clock is read only for the offset, and a simulated server may run faster or stand still. */
export class ServerClock {
  private baseMs: number;
  private setAt: number;
  private speed: number;

  constructor(
    view: ClockView,
    private readonly perf: () => number = () => performance.now(),
  ) {
    this.baseMs = view.nowMs;
    this.setAt = this.perf();
    this.speed = view.speed;
  }

  set(view: ClockView): void {
    this.baseMs = view.nowMs;
    this.setAt = this.perf();
    this.speed = view.speed;
  }

  nowMs(): number {
    return Math.round(this.baseMs + (this.perf() - this.setAt) * this.speed);
  }
}
