import { cookiesMade } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import type { Shape } from '../geometry/shape.js';
import type { StepGraph } from '../steps/derive.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import { bagsOf } from './order-bags.js';
import { placesOn } from './tray-packing.js';

/** A carton by its inner size. */
export interface CartonSize {
  readonly name: string;
  readonly widthMm: number;
  readonly depthMm: number;
  /** layers of cookies, one on another with paper between */
  readonly layers: number;
}

/** What things cost, in the user's own money. */
export interface Prices {
  readonly currency: string;
  readonly handsPerHour: number;
  readonly icingPerKg: number;
  readonly cookieEach: number;
  readonly cartonEach: number;
}

/** Room for the paper between cookies in a carton, *assumed*. */
const CARTON_GAP_MM = 3;

/** Cookies of an outline that one carton holds; 0 where not even one lies flat in it. */
export const cookiesACarton = (outline: Shape, carton: CartonSize): number =>
  placesOn(outline, carton.widthMm, carton.depthMm, CARTON_GAP_MM) * carton.layers;

export interface Packing {
  readonly perCarton: number;
  /** null where the cookie does not fit the carton */
  readonly cartons: number | null;
}
export function packing(outline: Shape, count: number, carton: CartonSize): Packing {
  const perCarton = cookiesACarton(outline, carton);
  return { perCarton, cartons: perCarton > 0 ? Math.ceil(count / perCarton) : null };
}

/** The cartons of each design of a planned order. */
export const cartonsOfPlan = (plan: Plan, carton: CartonSize) =>
  plan.designs.map((design) => ({ design, ...packing(design.drawing.cookie, design.count, carton) }));

export interface OrderCost {
  readonly hands: number;
  readonly icing: number;
  readonly cookies: number;
  readonly cartons: number;
  readonly total: number;
  /** of one cookie that is sold */
  readonly each: number;
}

/** Money for hands, icing (as mixed, waste included), baked cookies and cartons. `made` counts spares, `sold` does not. */
export function orderCost(
  order: { readonly handsOnS: number; readonly icingG: number; readonly made: number; readonly sold: number; readonly cartons: number },
  prices: Prices,
): OrderCost {
  const hands = (order.handsOnS / 3600) * prices.handsPerHour;
  const icing = (order.icingG / 1000) * prices.icingPerKg;
  const cookies = order.made * prices.cookieEach;
  const cartons = order.cartons * prices.cartonEach;
  const total = hands + icing + cookies + cartons;
  return { hands, icing, cookies, cartons, total, each: total / Math.max(1, order.sold) };
}

/** What a planned order is reckoned by, and what it costs. */
export interface PlanCost extends OrderCost {
  readonly handsOnS: number;
  readonly icingG: number;
  readonly made: number;
  readonly sold: number;
  readonly cartonCount: number;
}
/**
 * The cost of a planned order: hands at the pace it was planned with, which is the learned one where there is one; no carton for what lies
 * flat in none.
 */
export function costOfPlan(plan: Plan, prices: Prices, carton?: CartonSize): PlanCost {
  const cartonCount = carton ? cartonsOfPlan(plan, carton).reduce((n, p) => n + (p.cartons ?? 0), 0) : 0;
  const order = {
    handsOnS: plan.handsOnS,
    icingG: bagsOf(plan).reduce((g, b) => g + b.mixG, 0),
    made: plan.designs.reduce((n, d) => n + cookiesMade(d), 0),
    sold: plan.designs.reduce((n, d) => n + d.count, 0),
    cartonCount,
  };
  return { ...order, ...orderCost({ ...order, cartons: cartonCount }, prices) };
}
/**
 * What a price of so much a cookie leaves for an hour of hands, once icing, cookies and cartons are paid; null where no hands are needed.
 */
export const leftForTheHour = (cost: PlanCost, each: number): number | null =>
  cost.handsOnS > 0 ? (each * cost.sold - cost.icing - cost.cookies - cost.cartons) / (cost.handsOnS / 3600) : null;

/** Techniques that break cookies or are hard to repeat. */
const RISKY: readonly TechniqueId[] = ['drag', 'crackle', 'glued-transfer', 'stencil', 'pen', 'assembly', 'dipped-bead'];
/** Spares of loose transfers, share: 10–20 %, common practice, no published source. */
const TRANSFER_SPARES = 0.15;

/** Spares to make besides: one a dozen, two where it breaks or fails easily (common practice, no published source). */
export function suggestedSpares(graph: Pick<StepGraph, 'steps'>, count: number, isTransfer = false): number {
  if (isTransfer) return Math.ceil(count * TRANSFER_SPARES);
  const aDozen = graph.steps.some((s) => RISKY.includes(s.technique)) ? 2 : 1;
  return Math.ceil((count * aDozen) / 12);
}
