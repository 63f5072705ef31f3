import { type DryingRate, lossAfter, lossBefore, secondsToLose } from '../drying/front.js';

/** What a body has to lose between two visits, and how much of each visit it lies on the bench. */
export interface Wait {
  readonly needM: number;
  /** from when it is left alone to the end of the earlier visit */
  readonly restS: number;
  /** from the begin of the later visit until it is touched */
  readonly beginsS: number;
}

/** Of many waits those that may be the longest: another asks for as much with no more time on the bench. */
export function slowest(waits: readonly Wait[]): Wait[] {
  const isCovered = (w: Wait, by: Wait) => by.needM >= w.needM && by.restS <= w.restS && by.beginsS <= w.beginsS;
  return waits.filter((w, i) => !waits.some((o, j) => j !== i && isCovered(w, o) && (!isCovered(o, w) || j < i)));
}

/**
 * Whether a place dries faster than the bench, and the more so the earlier: then of so many seconds there and here the body has lost
 * most where those there came first. dm/dt = 1/(1/N + βm), so the ratio of the two speeds goes from N/N to β/β.
 */
export function isFasterEarly(there: DryingRate, bench: DryingRate): boolean {
  if (bench.fluxKgPerM2S <= 0 || there.fluxKgPerM2S < bench.fluxKgPerM2S || there.resistance > bench.resistance) return false;
  return bench.fluxKgPerM2S / there.fluxKgPerM2S <= there.resistance / bench.resistance;
}

/**
 * Least start-to-start lag between two visits with stays of at most these lengths between them. Of a stay that is there the tray is on
 * the bench while it is carried, and between two of them while it is worked on; stays are used from the first on, for what dries
 * faster there does so most while it is wet, and further time on the bench comes last.
 *
 * @param onBenchS - the lag where there is no stay, as plans have it: each wait in it is rounded up by itself
 */
export function leastLag(
  fromDurationS: number,
  waits: readonly Wait[],
  bench: DryingRate,
  rates: readonly DryingRate[],
  workS: readonly (readonly number[])[],
  swapS: number,
  onBenchS: number,
): (lengthsS: readonly number[], there: readonly boolean[], sinceS: readonly number[]) => number {
  const n = rates.length;
  /** Waits with how long each takes where all is on the bench: no stay makes it longer than that, or than what is on the bench anyway. */
  const timed = waits.map((w) => ({ ...w, benchS: secondsToLose(bench, 0, w.needM) }));
  /** Of two kinds of places the faster in each respect. */
  const fastest: DryingRate = {
    ...bench,
    fluxKgPerM2S: Math.max(bench.fluxKgPerM2S, ...rates.map((r) => r.fluxKgPerM2S)),
    resistance: Math.min(bench.resistance, ...rates.map((r) => r.resistance)),
  };
  // Seconds on the bench before each stay: asked for many thousand times, so nothing is made anew.
  const before = new Float64Array(n + 1);
  return (lengthsS, there, sinceS) => {
    let used: DryingRate | null = null;
    let isMixed = false;
    let last = -1;
    let workedS = 0;
    let longestS = 0;
    for (let k = 0; k < n; k++) {
      before[k] = 0;
      if (there[k]) {
        const atLeastS = last >= 0 ? 2 * swapS + ((workS[last] as readonly number[])[k] as number) : fromDurationS + swapS;
        before[k] = Math.max(atLeastS, sinceS[k] as number) - (last >= 0 ? 0 : fromDurationS);
        workedS += before[k] as number;
        last = k;
      }
      if ((lengthsS[k] as number) <= 0) continue;
      const r = rates[k] as DryingRate;
      isMixed ||= used !== null && used !== r;
      used = r;
      longestS += lengthsS[k] as number;
    }
    if (used === null && last < 0) return onBenchS;
    const best = isMixed ? fastest : (used ?? bench);
    const afterS = last >= 0 ? swapS : 0;
    let lagS = Number.NEGATIVE_INFINITY;
    for (const w of timed) {
      const inAnyCaseS = w.restS + workedS + afterS + w.beginsS;
      const outsideS = fromDurationS - w.restS - w.beginsS;
      if (outsideS + Math.max(inAnyCaseS, w.benchS) <= lagS) continue;
      // Where all stays together are too short, each dries as its place does; else of two kinds of places the faster is reckoned with:
      // which of them is used how long is not decided here.
      const untilS = isMixed && longestS < w.benchS ? followedS(w, inAnyCaseS, lengthsS, null) : 0;
      const waitS = outsideS + (untilS > inAnyCaseS + longestS ? untilS : followedS(w, inAnyCaseS, lengthsS, best));
      if (waitS > lagS) lagS = waitS;
    }
    return Math.ceil(lagS - 1e-6);
  };

  /**
   * Seconds of stays, on the bench in any case, and more on it after them, until a body has lost what it must: where all stays dry at one
   * rate, or each at that of its place and as long as it is.
   */
  function followedS(w: Wait, inAnyCaseS: number, lengthsS: readonly number[], rate: DryingRate | null): number {
    let restS = inAnyCaseS;
    let benchS = w.restS;
    let staysS = 0;
    let lost = 0;
    for (let k = 0; k < n; ) {
      benchS += before[k] as number;
      let mostS = lengthsS[k] as number;
      const own = rate ?? (rates[k] as DryingRate);
      k += 1;
      if (mostS <= 0) continue;
      // With nothing between them, stays at one rate are as good as one.
      while (k < n && before[k] === 0 && (rate !== null || rates[k] === own)) {
        mostS += Math.max(0, lengthsS[k] as number);
        k += 1;
      }
      lost = lossAfter(bench, lost, benchS);
      restS -= benchS;
      benchS = 0;
      if (rate !== null) {
        const seconds = secondsToLose(own, lost, lossBefore(bench, w.needM, restS));
        if (seconds <= mostS) return inAnyCaseS + staysS + seconds;
      }
      staysS += mostS;
      lost = lossAfter(own, lost, mostS);
    }
    return inAnyCaseS + staysS + secondsToLose(bench, lossAfter(bench, lost, restS), w.needM);
  }
}
