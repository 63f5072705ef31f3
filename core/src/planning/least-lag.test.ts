import { describe, expect, it } from 'vitest';
import { type Air, withFan } from '../drying/air.js';
import { airInDehydrator } from '../drying/fan.js';
import { type AirPiece, dryingRate, lossThrough, secondsToLose, secondsToLoseThrough } from '../drying/front.js';
import { seededRng } from '../time/rng.js';
import { isFasterEarly, leastLag, slowest } from './least-lag.js';

const SEED = 140;
const SWAP_S = 10;
const rng = seededRng(SEED);
const between = (least: number, most: number) => least + rng() * (most - least);

interface Case {
  readonly leastS: ReturnType<typeof leastLag>;
  readonly staysS: readonly number[];
  /** as long as all stays together, in the first at each kind of place */
  readonly firstS: readonly number[];
  /** on the bench from the end of one stay until the next, more than working and carrying take */
  readonly sinceS: readonly number[];
  readonly lagS: number;
  readonly touchesOnBench: boolean;
}

/** A tray flooded, away up to three times, worked on in between, and touched as soon as it is dry enough. */
function made(): Case {
  const air: Air = { tempC: between(16, 30), humidityFrac: between(0.25, 0.65), airMPerS: 0.1 };
  const places = [withFan(air, between(0.7, 2)), airInDehydrator(air, 40, 1)];
  const kind = Math.floor(rng() * 3);
  const n = 1 + Math.floor(rng() * 3);
  const [fromS, restS, beginsS] = [Math.ceil(between(60, 400)), between(0, 60), between(0, 60)];
  const workS = [...Array(n).keys()].map((k) => [...Array(n).keys()].map((j) => (j > k ? 120 * (j - k) : 0)));
  const staysS = [...Array(n).keys()].map(() => between(0, 4000));
  const waitedS = staysS.map(() => between(0, 3000));
  // All in one place, or each in either.
  const away = staysS.map(() => places[kind < 2 ? kind : Math.floor(rng() * 2)] as Air);
  const pieces: AirPiece[] = [];
  const sinceS = staysS.map((_, k) => (k === 0 ? fromS : SWAP_S + 120) + SWAP_S + (waitedS[k] as number));
  for (const [k, seconds] of staysS.entries()) {
    pieces.push({ air, seconds: (sinceS[k] as number) - (k === 0 ? fromS - restS : 0) });
    pieces.push({ air: away[k] as Air, seconds });
  }
  const fixedS = pieces.reduce((sum, p) => sum + p.seconds, 0);
  const needM = lossThrough(pieces) * between(0.5, 1.6);
  const dryS = secondsToLoseThrough([...pieces, { air, seconds: 0 }], needM);
  // It is fetched before it is touched, whatever is dry by then.
  const touchedS = Math.max(dryS, fixedS + SWAP_S + beginsS);
  const onBenchS = Math.ceil(Math.ceil(secondsToLose(dryingRate(air), 0, needM)) + fromS - restS - beginsS);
  return {
    leastS: leastLag(fromS, [{ needM, restS, beginsS }], dryingRate(air), away.map(dryingRate), workS, SWAP_S, onBenchS),
    staysS,
    firstS: away.map((a, k) => (away.indexOf(a) === k ? staysS.reduce((sum, s) => sum + s, 0) : 0)),
    sinceS,
    lagS: fromS - restS + touchedS - beginsS,
    touchesOnBench: dryS > fixedS + SWAP_S + beginsS,
  };
}

const cases = [...Array(2000).keys()].map(made);
const all = (c: Case) => c.staysS.map(() => true);
const none = (c: Case) => c.staysS.map(() => false);

describe(`the least wait through stays, against the law followed piece by piece (seed ${SEED})`, () => {
  it('known exactly, it is the wait there is, to the second', () => {
    const onBench = cases.filter((c) => c.touchesOnBench);
    expect(onBench.length).toBeGreaterThan(400);
    for (const c of onBench) expect(Math.abs(c.leastS(c.staysS, all(c), c.sinceS) - c.lagS)).toBeLessThanOrEqual(1);
  });
  it('known less well, it is never longer: stays that may be longer, time on the bench not known, stays that may not be there', () => {
    for (const c of cases) {
      const longer = c.staysS.map((s) => s * (1 + rng()));
      const earlier = c.sinceS.map((s) => (rng() < 0.5 ? 0 : s * rng()));
      expect(c.leastS(longer, all(c), c.sinceS)).toBeLessThanOrEqual(Math.ceil(c.lagS));
      expect(c.leastS(c.staysS, all(c), earlier)).toBeLessThanOrEqual(Math.ceil(c.lagS));
      expect(c.leastS(longer, all(c), earlier)).toBeLessThanOrEqual(Math.ceil(c.lagS));
      expect(
        c.leastS(
          c.firstS,
          none(c),
          c.staysS.map(() => 0),
        ),
      ).toBeLessThanOrEqual(Math.ceil(c.lagS));
      const maybe = c.staysS.map(() => rng() < 0.5);
      expect(
        c.leastS(
          longer,
          maybe,
          c.sinceS.map(() => 0),
        ),
      ).toBeLessThanOrEqual(Math.ceil(c.lagS));
    }
  });
  it('that asks for places that dry faster than the bench, the most so while it is wet: fan and dehydrator do', () => {
    const air: Air = { tempC: 21, humidityFrac: 0.45, airMPerS: 0.1 };
    const bench = dryingRate(air);
    expect(isFasterEarly(dryingRate(withFan(air, 1)), bench)).toBe(true);
    expect(isFasterEarly(dryingRate(airInDehydrator(air, 40, 1)), bench)).toBe(true);
    // Air that hardly moves, beside a bench in a draught, is no place to go.
    expect(isFasterEarly(bench, dryingRate(withFan(air, 1)))).toBe(false);
  });
  it('of many waits only those are kept that may be the longest', () => {
    const w = (needM: number, restS: number, beginsS: number) => ({ needM, restS, beginsS });
    expect(slowest([w(2, 5, 5), w(1, 5, 5), w(2, 9, 5), w(2, 1, 9)])).toEqual([w(2, 5, 5), w(2, 1, 9)]);
    expect(slowest([w(2, 5, 5), w(2, 5, 5)])).toHaveLength(1);
  });
});
