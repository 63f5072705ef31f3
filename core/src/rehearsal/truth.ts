import { type Body, lostAt } from '../drying/body.js';
import { type DryingState, dryingStates, type SurfaceState, stateAtLoss, stateThresholds, type Thresholds } from '../drying/state.js';
import { lossAsked, SPREAD } from '../drying/uncertainty.js';
import { ofPair } from '../geometry/remembered.js';
import { gauss, seededRng } from '../time/rng.js';
import { isWhole, type Kitchen, medianOf } from './kitchen.js';

/** How the icing of one evening really behaves: known to the rehearsal alone. */
export interface Truth {
  /** what multiplies a state's water on one cookie, by its name: all icing on a cookie is a little quicker or slower with it */
  factor(cookie: string, state: DryingState): number;
}

/** FNV-1a (Fowler, Noll & Vo), 32 bits: names to numbers, so that chance hangs on what is meant and not on the order it is asked in. */
function hashOf(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return h;
}

/** An evening in a kitchen: the same seed and the same bodies give the same icing, in whatever order they are looked at. */
export function truthOf(kitchen: Kitchen, seed: number): Truth {
  const of = (name: string) => seededRng(hashOf(`${seed} ${name}`));
  const dayZ = SPREAD.day * gauss(of('day'));
  const surfaces = new Map<string, number>();
  const wholes = new Map<string, number>();
  return {
    factor: (cookie, state) => {
      const whole = isWhole(state);
      const known = whole ? wholes : surfaces;
      let z = known.get(cookie);
      if (z === undefined) {
        z = (whole ? SPREAD.wholeCookie : SPREAD.cookie) * gauss(of(`${whole} ${cookie}`));
        known.set(cookie, z);
      }
      return Math.exp(medianOf(kitchen, state) + (whole ? 0 : dayZ) + z);
    },
  };
}

/** A body is asked for again and again, by every part that lies on it or beside it. */
const thresholdsBy = ofPair<object, Map<string, Thresholds>>(() => new Map());

/** Water at which icing on a cookie really comes to a state, kg/m²; what is firm through is set as well. */
export function trueThresholds(truth: Truth, cookie: string, region: Body['region']): Thresholds {
  const known = thresholdsBy(truth, region);
  let at = known.get(cookie);
  if (!at) {
    const book = stateThresholds(region);
    at = Object.fromEntries(dryingStates.map((s) => [s, lossAsked(book[s], s, book.firm, (x) => truth.factor(cookie, x))])) as Thresholds;
    known.set(cookie, at);
  }
  return at;
}
/** The state a surface is really in: what a finger would find. */
export const trueState = (truth: Truth, cookie: string, body: Body, atS: number): SurfaceState =>
  stateAtLoss(trueThresholds(truth, cookie, body.region), lostAt(body, atS));
/** Whether a body has really come to a state. */
export const isThere = (truth: Truth, cookie: string, body: Body, state: DryingState, atS: number): boolean =>
  lostAt(body, atS) >= trueThresholds(truth, cookie, body.region)[state];
