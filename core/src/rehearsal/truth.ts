import { type Body, lostAt } from '../drying/body.js';
import {
  type DryingState,
  dryingStates,
  type Region,
  type SurfaceState,
  stateAtLoss,
  stateThresholds,
  type Thresholds,
} from '../drying/state.js';
import { lossAsked, SPREAD } from '../drying/uncertainty.js';
import { gauss, seededRng } from '../time/rng.js';
import { msg } from '../words/index.js';
import { isWhole, type Kitchen, medianOf } from './kitchen.js';

/** How the icing of one evening really behaves: known to the rehearsal alone. */
export interface Truth {
  /** what multiplies a state's water on one cookie, by its name: all icing on a cookie is a little quicker or slower with it */
  factor(cookie: string, state: DryingState): number;
  /** 0 to 1, evenly: what decides of a chance that goes by this name */
  draw(name: string): number;
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
    draw: (name) => of(msg`chance ${name}`)(),
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

/** Water at which icing on a cookie really comes to a state, kg/m²; what is firm through is set as well. */
export function trueThreshold(truth: Truth, cookie: string, region: Region, state: DryingState): number {
  const book = stateThresholds(region);
  return lossAsked(book[state], state, book.firm, (s) => truth.factor(cookie, s));
}
/** The state a surface is really in: what a finger would find. */
export const trueState = (truth: Truth, cookie: string, body: Body, atS: number): SurfaceState =>
  stateAtLoss(
    Object.fromEntries(dryingStates.map((s) => [s, trueThreshold(truth, cookie, body.region, s)])) as Thresholds,
    lostAt(body, atS),
  );
/** Whether a body has really come to a state. */
export const isThere = (truth: Truth, cookie: string, body: Body, state: DryingState, atS: number): boolean =>
  lostAt(body, atS) >= trueThreshold(truth, cookie, body.region, state);
