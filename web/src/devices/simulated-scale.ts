import { type Rng, seededRng } from '@kestfog/core/time';

/** What a kitchen scale shows. */
export interface ScaleReading {
  /** net of the tare, in tenths of a gram */
  readonly grams: number;
  /** true once the display has come to rest */
  readonly settled: boolean;
}

/** The pan swings after a load is put on; *assumed*, after the feel of a cheap kitchen scale. */
const SWING_TIME_S = 0.35;
const SWING_PERIOD_S = 0.5;
const SETTLED_AFTER_S = 1.5;
const NOISE_G = 0.04;
const RESOLUTION_G = 0.1;
/** The zero creeps as the cell warms: so much a minute, and never more than this. */
const DRIFT_G_PER_MIN = 0.03;
const DRIFT_MOST_G = 0.3;
export const SCALE_MOST_G = 2000;

/**
 * Stand-in for a kitchen scale: swings, settles, drifts and resolves a tenth of a gram like one. Time and chance are
 * arguments, so that a test can drive it; in the page a slider is the hand that pours.
 */
export class SimulatedScale {
  private loadG = 0;
  private beforeG = 0;
  private changedAtMs: number;
  private tareG = 0;
  private zeroedAtMs: number;
  private readonly rng: Rng;

  constructor(
    private readonly nowMs: () => number,
    seed = 7,
  ) {
    this.changedAtMs = nowMs() - 10_000;
    this.zeroedAtMs = nowMs();
    this.rng = seededRng(seed);
  }

  /** Everything that lies on the pan now, g. */
  put(grams: number): void {
    this.beforeG = this.shownLoad();
    this.loadG = Math.min(SCALE_MOST_G, Math.max(0, grams));
    this.changedAtMs = this.nowMs();
  }

  tare(): void {
    this.tareG = this.loadG;
    this.zeroedAtMs = this.nowMs();
  }

  read(): ScaleReading {
    const sinceS = (this.nowMs() - this.changedAtMs) / 1000;
    const drift = Math.min(DRIFT_MOST_G, (DRIFT_G_PER_MIN * (this.nowMs() - this.zeroedAtMs)) / 60_000);
    const swingG = Math.abs(this.beforeG - this.loadG) * Math.exp(-sinceS / SWING_TIME_S);
    const settled = sinceS >= SETTLED_AFTER_S && swingG < RESOLUTION_G / 4;
    const noise = settled ? 0 : NOISE_G * (2 * this.rng() - 1);
    const grams = Math.round((this.shownLoad() - this.tareG + drift + noise) * 10) / 10;
    return { grams: grams === 0 ? 0 : grams, settled };
  }

  private shownLoad(): number {
    const sinceS = (this.nowMs() - this.changedAtMs) / 1000;
    const swing = Math.exp(-sinceS / SWING_TIME_S) * Math.cos((2 * Math.PI * sinceS) / SWING_PERIOD_S);
    return this.loadG + (this.beforeG - this.loadG) * swing;
  }
}
