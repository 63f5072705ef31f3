import { type Guessable, guessable, type Tally } from '@kestfog/core/rehearsal';

const KEY = 'kestfog.surfaces';

/** What was said of surfaces on this device: it is about whoever looks, and teaches the kitchen nothing. */
export function keptTally(): Tally {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, Record<string, unknown> | null>;
    const timesOf = (state: Guessable, said: Guessable) => {
      const n = kept[state]?.[said];
      return typeof n === 'number' && Number.isFinite(n) && n > 0 ? [[said, n] as const] : [];
    };
    return Object.fromEntries(guessable.map((state) => [state, Object.fromEntries(guessable.flatMap((said) => timesOf(state, said)))]));
  } catch {
    return {};
  }
}
export function keepTally(tally: Tally): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(tally));
  } catch {
    // A browser that keeps nothing: it is counted until the page is left.
  }
}
