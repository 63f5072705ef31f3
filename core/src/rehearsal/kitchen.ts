import { type DryingState, dryingStates } from '../drying/state.js';
import { type Factors, SPREAD } from '../drying/uncertainty.js';
import { gauss, type Rng } from '../time/rng.js';

/** Whole layers and surfaces have spreads of their own. */
export const isWhole = (s: DryingState): boolean => s === 'firm' || s === 'dry';

/** What a kitchen's icing needs more than the book says, as logarithms: all surfaces, each state, the whole layer. */
export interface Kitchen {
  readonly all: number;
  readonly own: Readonly<Partial<Record<DryingState, number>>>;
  readonly whole: number;
}
export const BY_THE_BOOK: Kitchen = { all: 0, own: {}, whole: 0 };
export const slower = (times: number): Kitchen => ({ all: Math.log(times), own: {}, whole: 0 });
/**
 * A kitchen as a plan believes it to be; with `rng` one as likely as any by that belief: what is left of its spread, once day and cookie
 * are taken off, is what is not known of the kitchen.
 */
export function believedKitchen(factors: Factors, rng?: Rng): Kitchen {
  const unknown = (state: DryingState, ...own: readonly number[]) =>
    rng ? Math.sqrt(Math.max(0, factors[state].sigma ** 2 - own.reduce((s, x) => s + x * x, 0))) * gauss(rng) : 0;
  return {
    all: unknown('crusted', SPREAD.day, SPREAD.cookie),
    own: Object.fromEntries(dryingStates.filter((s) => !isWhole(s)).map((s) => [s, factors[s].mean])),
    whole: factors.firm.mean + unknown('firm', SPREAD.wholeCookie),
  };
}
/** The logarithm of what a kitchen's icing needs more than the book says. */
export const medianOf = (k: Kitchen, s: DryingState): number => (isWhole(s) ? k.whole : k.all + (k.own[s] ?? 0));
