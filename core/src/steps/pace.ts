/** How long hands take; every rate *assumed* until finished runs have taught better ones. */
export interface Pace {
  readonly handlingSPerCookie: number;
  readonly beadMmPerS: number;
  readonly floodSPerCm2: number;
  readonly scribeSPerCm2: number;
  readonly dropS: number;
  readonly dragS: number;
  readonly wipeS: number;
  /** picking up the next open bag, wiping its tip included */
  readonly bagPickUpS: number;
  readonly traySwapS: number;
  readonly farFanS: number;
  /** between visits that use different bags or tools */
  readonly changeoverS: number;
  /** looking a cookie over and putting it where it dries or packs */
  readonly packSPerCookie: number;
  /** opening and kneading one bag */
  readonly openBagS: number;
  /** cutting the end of a bag wider */
  readonly widenS: number;
  /** checking that a cookie is cool and drawing its guides */
  readonly prepareSPerCookie: number;
  readonly coatSPerCm2: number;
  /** sprinkling: tilting and tapping off, and by area */
  readonly sprinkleS: number;
  readonly sprinkleSPerCm2: number;
  /** pressing crumbs in and brushing strays off */
  readonly pressStraysS: number;
  /** taking up one piece and laying it */
  readonly layInS: number;
  readonly crackleS: number;
  readonly crackleSPerCm2: number;
  readonly letterMmPerS: number;
  /** lifting and beginning anew */
  readonly liftS: number;
  readonly dipS: number;
  /** placing the stencil, one wipe, lifting it */
  readonly stencilS: number;
  readonly airbrushS: number;
  readonly airbrushSPerCm2: number;
  readonly brushSPerCm2: number;
  readonly waferS: number;
  readonly assembleS: number;
  /** a needle along a join of two wet colours */
  readonly needleMmPerS: number;
  /** following a template with a pen or a scribe */
  readonly traceMmPerS: number;
  /** laying a template on and taking it off */
  readonly templateS: number;
  /** laying a ruler on */
  readonly ruleS: number;
  /** poking a centre, pressing a cutter's ring */
  readonly pokeS: number;
  /** lining a cookie up with a picture of light or a sheet */
  readonly projectS: number;
  /** hiding a defect under a detail, a border or a thin layer */
  readonly coverS: number;
  /** levelling a flood by tapping or by shaking the cookie */
  readonly tapS: number;
  readonly shakeS: number;
}

export const ASSUMED_PACE: Pace = {
  handlingSPerCookie: 6,
  beadMmPerS: 11,
  floodSPerCm2: 1,
  scribeSPerCm2: 0.4,
  dropS: 1.2,
  dragS: 2,
  wipeS: 1.5,
  bagPickUpS: 4,
  traySwapS: 10,
  farFanS: 30,
  changeoverS: 20,
  packSPerCookie: 6,
  openBagS: 15,
  widenS: 6,
  prepareSPerCookie: 2,
  coatSPerCm2: 0.7,
  sprinkleS: 4,
  sprinkleSPerCm2: 0.2,
  pressStraysS: 3,
  layInS: 5,
  crackleS: 3,
  crackleSPerCm2: 0.6,
  letterMmPerS: 7,
  liftS: 1,
  dipS: 5,
  stencilS: 25,
  airbrushS: 4,
  airbrushSPerCm2: 0.15,
  brushSPerCm2: 0.8,
  waferS: 15,
  assembleS: 40,
  needleMmPerS: 15,
  traceMmPerS: 14,
  templateS: 6,
  ruleS: 3,
  pokeS: 2,
  projectS: 8,
  coverS: 60,
  tapS: 2,
  shakeS: 2,
};

/** The same hands `factor` times as fast: seconds shrink, speeds grow. Changing hands' paces leaves the icing's times alone. */
export function scaledPace(pace: Pace, factor: number): Pace {
  if (factor === 1) return pace;
  const scaled = Object.entries(pace).map(([k, v]) => [k, k.endsWith('PerS') ? v * factor : v / factor]);
  return { ...pace, ...Object.fromEntries(scaled), changeoverS: pace.changeoverS, traySwapS: pace.traySwapS };
}
