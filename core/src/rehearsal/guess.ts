import type { Air } from '../drying/air.js';
import { dryingRate, secondsToLose } from '../drying/front.js';
import { type Region, type SurfaceState, stateThresholds } from '../drying/state.js';
import type { Rng } from '../time/rng.js';

/** What a finger can tell apart, from wet on. */
export const guessable = ['wet', 'skinned', 'crusted', 'set', 'firm', 'dry'] as const satisfies readonly SurfaceState[];
export type Guessable = (typeof guessable)[number];

/** A surface and its history: what it is, is to be said. */
export interface Guess {
  readonly region: Region;
  readonly air: Air;
  /** since it was flooded */
  readonly seconds: number;
  readonly state: Guessable;
}

/** So near the edge between two states nobody could say, as a share of the way from one to the other. */
const CLEAR_OF_EDGES = 0.2;
/** What is dry stays dry: it is shown until it has lost so much more than it takes. */
const DRY_UNTIL = 1.3;

/** A surface by chance, every state as likely as any other: icing, depth and air of a usual kitchen, by the book. */
export function guessOf(rng: Rng): Guess {
  const between = (a: number, b: number, step: number) => a + step * Math.round(((b - a) * rng()) / step);
  const region: Region = { seconds: between(10, 24, 2), depthMm: between(1.5, 3, 0.5), on: 'cookie' };
  const air: Air = { tempC: between(17, 27, 1), humidityFrac: between(0.3, 0.7, 0.05), airMPerS: 0.1 };
  const at = guessable[Math.min(guessable.length - 1, Math.floor(rng() * guessable.length))] as Guessable;
  const [from, to] = bounds(region, at);
  const lost = from + (to - from) * (CLEAR_OF_EDGES + (1 - 2 * CLEAR_OF_EDGES) * rng());
  return { region, air, seconds: secondsToLose(dryingRate(air), 0, lost), state: at };
}

/** Water lost when a state begins, and when the next one does, kg/m². */
function bounds(region: Region, state: Guessable): readonly [number, number] {
  const book = stateThresholds(region);
  const begins = (s: Guessable) => (s === 'wet' ? 0 : book[s]);
  const next = guessable[guessable.indexOf(state) + 1];
  return [begins(state), next ? begins(next) : DRY_UNTIL * book.dry];
}

/** When such a surface comes to each state, seconds since it was flooded. */
export function ladderOf({ region, air }: Pick<Guess, 'region' | 'air'>): Readonly<Record<Guessable, number>> {
  const book = stateThresholds(region);
  const rate = dryingRate(air);
  return Object.fromEntries(guessable.map((s) => [s, s === 'wet' ? 0 : secondsToLose(rate, 0, book[s])])) as Record<Guessable, number>;
}

/** What was said of surfaces, one row a state they were in: how often it was called what. */
export type Tally = Readonly<Partial<Record<Guessable, Readonly<Partial<Record<Guessable, number>>>>>>;
export const counted = (tally: Tally, state: Guessable, said: Guessable): Tally => ({
  ...tally,
  [state]: { ...tally[state], [said]: (tally[state]?.[said] ?? 0) + 1 },
});

/** How well somebody knows surfaces. */
export interface Eye {
  readonly all: number;
  readonly right: number;
  /** taken for further along than it was: it would have been touched too early; and for less far */
  readonly tooFar: number;
  readonly notFarEnough: number;
  /** what is mistaken most often; null where nothing is */
  readonly most: { readonly state: Guessable; readonly said: Guessable; readonly times: number } | null;
}
export function eyeOf(tally: Tally): Eye {
  const cells = guessable.flatMap((state) => guessable.map((said) => ({ state, said, times: tally[state]?.[said] ?? 0 })));
  const sum = (is: (c: { readonly state: Guessable; readonly said: Guessable }) => boolean) =>
    cells.reduce((n, c) => n + (is(c) ? c.times : 0), 0);
  const rank = (s: Guessable) => guessable.indexOf(s);
  const [most] = cells.filter((c) => c.state !== c.said && c.times > 0).sort((a, b) => b.times - a.times);
  return {
    all: sum(() => true),
    right: sum((c) => c.said === c.state),
    tooFar: sum((c) => rank(c.said) > rank(c.state)),
    notFarEnough: sum((c) => rank(c.said) < rank(c.state)),
    most: most ?? null,
  };
}
