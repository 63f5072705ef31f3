import { type Airs, lostBetween, momentOfLoss } from './airs.js';
import { normalCdf, normalQuantile } from './normal.js';
import { TOO_SLOW_S } from './outlook.js';
import { type DryingState, dryingStates, type Region, type SurfaceState, stateAtLoss, stateThresholds, type Thresholds } from './state.js';
import { type Factors, lossAsked, MARGIN_SHARE, type Margin, PRIOR_FACTORS } from './uncertainty.js';

/** What a finger found when it asked for a state: not there yet, there, or there and gone by. */
export const findings = ['not-yet', 'reached', 'past'] as const;
export type Finding = (typeof findings)[number];

/** A finger on a body: when, seconds; the state it asked for, and what it found. */
export interface Look {
  readonly atS: number;
  readonly state: DryingState;
  readonly found: Finding;
}

/**
 * One body of icing on one cookie, from when it was left alone: what it is, the air it stood in and stands in, and what was found of
 * it. Everything that is asked of icing at the bench is asked of a body; nobody else adds up its drying.
 */
export interface Body {
  readonly region: Region;
  /** when it was left alone, seconds */
  readonly leftAtS: number;
  /** the air it stood and stands in */
  readonly airs: Airs;
  /** in order of time */
  readonly looked: readonly Look[];
}
/** A body as the model alone knows it. */
export type UnseenBody = Omit<Body, 'looked'>;

/** Water lost by a moment, kg/m². */
export const lostAt = ({ leftAtS, airs }: Pick<Body, 'leftAtS' | 'airs'>, atS: number): number => lostBetween(airs, leftAtS, atS);

/** The moment by which so much water is lost, seconds; Infinity where the air takes no more. */
export const lostBy = ({ leftAtS, airs }: Pick<Body, 'leftAtS' | 'airs'>, lossKgPerM2: number): number =>
  lossKgPerM2 <= 0 ? leftAtS : momentOfLoss(airs, leftAtS, lossKgPerM2);

/** Water lost by a moment as a share of a state's own threshold, at the book's median. */
export const shareAt = (body: UnseenBody, state: DryingState, atS: number): number =>
  lostAt(body, atS) / stateThresholds(body.region)[state];

/** The state a surface is in after losing so much, with every threshold at `z` spreads from its median. */
export function stateAfter(region: Region, lostKgPerM2: number, factors: Factors = PRIOR_FACTORS, z = 0): SurfaceState {
  const book = stateThresholds(region);
  const factorOf = (s: DryingState) => Math.exp(factors[s].mean + z * factors[s].sigma);
  const here = Object.fromEntries(dryingStates.map((s) => [s, lossAsked(book[s], s, book.firm, factorOf)])) as Thresholds;
  return stateAtLoss(here, lostKgPerM2);
}

/** The state of a body at a moment, by default at the median. */
export const stateAt = (body: UnseenBody, atS: number, factors?: Factors, z = 0): SurfaceState =>
  stateAfter(body.region, lostAt(body, atS), factors, z);

/** Water that is waited for, kg/m²: at the median for a state, or a multiple of it. */
export interface Asked {
  readonly state: DryingState;
  readonly lossKgPerM2: number;
  /** the layer's median for *firm*, beyond which a lesser state asks for nothing more */
  readonly firmKgPerM2?: number | undefined;
}

/**
 * The last look that found a body not to be there yet, where it still speaks of what is asked: what is not at a lesser state is not at
 * a greater one either, and what was found to be there since has come.
 */
function notYet({ region, looked }: Body, asked: DryingState): Look | undefined {
  const of = stateThresholds(region);
  const last = looked.findLast((l) => (l.found === 'not-yet' ? of[l.state] <= of[asked] : of[l.state] >= of[asked]));
  return last?.found === 'not-yet' ? last : undefined;
}

/**
 * When a body that was found not to be there yet is there at the margin: everything below what had been lost by that look is cut off
 * the threshold's distribution. Never sooner than `leastS` after the look, and in three days at the latest, so that it is looked at
 * again some day even in air that dries nothing. null where nothing was found, or that it is there.
 */
export function readyAfterLook(body: Body, asked: Asked, leastS: number, margin: Margin, factors: Factors = PRIOR_FACTORS): number | null {
  const lookedS = notYet(body, asked.state)?.atS;
  if (lookedS === undefined) return null;
  const { mean, sigma } = factors[asked.state];
  const lost = lostAt(body, lookedS);
  // It is not there yet, so its factor lies above what the loss so far would have needed.
  const seen = lost > 0 ? Math.min(SURELY, normalCdf((Math.log(lost / asked.lossKgPerM2) - mean) / sigma)) : 0;
  const wanted = MARGIN_SHARE[margin];
  const z = normalQuantile(seen + wanted * (1 - seen));
  // Where every lesser state is capped by firm, what was found cuts that distribution too.
  const factorOf = (s: DryingState) => Math.exp(factors[s].mean + z * factors[s].sigma);
  const loss = Math.max(lost, lossAsked(asked.lossKgPerM2, asked.state, asked.firmKgPerM2, factorOf));
  return Math.min(lookedS + TOO_SLOW_S, Math.max(lookedS + leastS, lostBy(body, loss)));
}
/** So far out a distribution says nothing any more; what lies beyond is taken as lying here. */
const SURELY = 1 - 1e-5;
