import type { ClockView } from '@kestfog/core/wire';

/** Behind by more than this, the steady clock has slept with its device. */
const SLEPT_MS = 2000;
const LONGEST_SLEEP_MS = 24 * 3_600_000;

/**
 * The server's time as this device knows it. Only differences of the device's own clocks count, so that a wall clock ten
 * minutes off does no harm; a simulated server may run faster or stand still.
 */
export class ServerClock {
  private baseMs: number;
  private setAt: number;
  private setWallMs: number;
  private speed: number;

  constructor(
    view: ClockView,
    private readonly perf: () => number = () => performance.now(),
    private readonly wall: () => number = () => Date.now(),
  ) {
    this.baseMs = view.nowMs;
    this.setAt = this.perf();
    this.setWallMs = this.wall();
    this.speed = view.speed;
  }

  set(view: ClockView): void {
    this.baseMs = view.nowMs;
    this.setAt = this.perf();
    this.setWallMs = this.wall();
    this.speed = view.speed;
  }

  nowMs(): number {
    const steadyMs = this.perf() - this.setAt;
    // On some devices the steady clock stands still while they sleep; then the wall clock tells how long it was.
    const wallMs = this.wall() - this.setWallMs;
    const passedMs = wallMs - steadyMs > SLEPT_MS && wallMs < LONGEST_SLEEP_MS ? wallMs : steadyMs;
    return Math.round(this.baseMs + passedMs * this.speed);
  }

  /** How long this device waits until the server's time has come to the next whole `everyMs`; at least `shortestMs`. */
  msUntilNext(everyMs: number, shortestMs: number): number {
    if (this.speed <= 0) return everyMs;
    return Math.max(shortestMs, Math.ceil((everyMs - (this.nowMs() % everyMs)) / this.speed));
  }

  view(): ClockView {
    return { nowMs: this.nowMs(), speed: this.speed };
  }
}

/** Nothing on the bench is shown finer than a second; a faster clock of a test or a rehearsal is followed in steps no shorter than this. */
const TICK_MS = 1000;
const SHORTEST_TICK_MS = 100;
/** Calls on every whole second of a clock, so that every device in the kitchen shows the same one, until what it returns is called. */
export function everySecond(clock: () => ServerClock | null, onTick: (nowMs: number) => void): () => void {
  let timer: ReturnType<typeof setTimeout>;
  const tick = () => {
    const now = clock();
    if (now) onTick(now.nowMs());
    timer = setTimeout(tick, now?.msUntilNext(TICK_MS, SHORTEST_TICK_MS) ?? SHORTEST_TICK_MS);
  };
  tick();
  return () => clearTimeout(timer);
}
