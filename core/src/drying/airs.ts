import type { Air } from './air.js';
import { type AirPiece, type DryingRate, dryingRate, lossAfter, secondsToLose } from './front.js';

/** The air at a place over time, in seconds: each air from its moment on until the next, the last for ever, the first always before. */
export interface Airs {
  /** ascending; the first is −Infinity */
  readonly fromS: readonly number[];
  readonly air: readonly Air[];
  /** how icing dries in each */
  readonly rate: readonly DryingRate[];
}

export const asAirs = (fromS: readonly number[], air: readonly Air[]): Airs => ({ fromS, air, rate: air.map(dryingRate) });
export const always = (air: Air): Airs => asAirs([Number.NEGATIVE_INFINITY], [air]);

/** Airs that go on being read. */
export class GrowingAirs implements Airs {
  readonly fromS: number[] = [Number.NEGATIVE_INFINITY];
  readonly air: Air[] = [];
  readonly rate: DryingRate[] = [];
  /** no air among them dries slower than this */
  slowest: DryingRate = { fluxKgPerM2S: Number.POSITIVE_INFINITY, resistance: 0, surfaceTempC: 0 };

  constructor(first: Air) {
    this.add(first);
  }
  /** From a moment on, no earlier than any before. */
  read(fromS: number, air: Air): void {
    this.fromS.push(fromS);
    this.add(air);
  }
  private add(air: Air): void {
    this.air.push(air);
    const rate = dryingRate(air);
    this.rate.push(rate);
    const { fluxKgPerM2S, resistance } = this.slowest;
    this.slowest = { ...rate, fluxKgPerM2S: Math.min(fluxKgPerM2S, rate.fluxKgPerM2S), resistance: Math.max(resistance, rate.resistance) };
  }
}

/** A stretch of time in another air. */
export interface StayAir {
  readonly startS: number;
  readonly endS: number;
  readonly air: Air;
}

/** One air, replaced during stays; of stays that overlap the first one counts. */
export function airsWith(air: Air, stays: readonly StayAir[]): Airs {
  const fromS = [Number.NEGATIVE_INFINITY];
  const airs = [air];
  let atS = Number.NEGATIVE_INFINITY;
  for (const s of [...stays].sort((a, b) => a.startS - b.startS)) {
    if (s.endS <= atS) continue;
    const beginS = Math.max(s.startS, atS);
    // Right behind another the bench's air does not come between.
    if (beginS === fromS.at(-1)) {
      fromS.pop();
      airs.pop();
    }
    fromS.push(beginS, s.endS);
    airs.push(s.air, air);
    atS = s.endS;
  }
  return fromS.at(-1) === Number.POSITIVE_INFINITY ? asAirs(fromS.slice(0, -1), airs.slice(0, -1)) : asAirs(fromS, airs);
}

/** Which of the airs there is at a moment. */
function placeAt({ fromS }: Airs, atS: number): number {
  let lo = 0;
  let hi = fromS.length;
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if ((fromS[mid] as number) <= atS) lo = mid;
    else hi = mid;
  }
  return lo;
}
export const airAt = (airs: Airs, atS: number): Air => airs.air[placeAt(airs, atS)] as Air;

/** Water lost by `toS` by what was left alone at `fromS`, kg/m². */
export function lostBetween(airs: Airs, fromS: number, toS: number): number {
  let m = 0;
  let atS = fromS;
  for (let i = placeAt(airs, fromS); atS < toS; i++) {
    const endS = Math.min(toS, airs.fromS[i + 1] ?? toS);
    m = lossAfter(airs.rate[i] as DryingRate, m, endS - atS);
    atS = endS;
  }
  return m;
}

/** The moment by which what was left alone at `fromS` has lost so much; Infinity where it never does. */
export function momentOfLoss(airs: Airs, fromS: number, lossKgPerM2: number): number {
  let m = 0;
  let atS = fromS;
  for (let i = placeAt(airs, fromS); ; i++) {
    const rate = airs.rate[i] as DryingRate;
    const needS = secondsToLose(rate, m, lossKgPerM2);
    const endS = airs.fromS[i + 1] ?? Number.POSITIVE_INFINITY;
    if (atS + needS <= endS || endS === Number.POSITIVE_INFINITY) return atS + needS;
    m = lossAfter(rate, m, endS - atS);
    atS = endS;
  }
}

/** The airs from a moment on, one after the other; the last is endless. */
export function piecesFrom(airs: Airs, fromS: number): AirPiece[] {
  const out: AirPiece[] = [];
  let atS = fromS;
  for (let i = placeAt(airs, fromS); i < airs.air.length; i++) {
    const endS = airs.fromS[i + 1] ?? Number.POSITIVE_INFINITY;
    out.push({ air: airs.air[i] as Air, seconds: endS - atS });
    atS = endS;
  }
  return out;
}
