/** A source of numbers in [0, 1); chance is always an argument, so that everything can be repeated. */
export type Rng = () => number;

/**
 * Mulberry32 (T. Ettinger, public domain): 32 bits of state, enough for shuffles and search moves.
 * Not for secrets.
 */
export function seededRng(seed: number): Rng {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A standard normal number (Box & Muller 1958). */
export const gauss = (rng: Rng): number => Math.sqrt(-2 * Math.log(1 - rng())) * Math.cos(2 * Math.PI * rng());
