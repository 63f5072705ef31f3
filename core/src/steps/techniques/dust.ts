import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const dust = technique({
  id: 'dust',
  kind: 'detail',
  leaves: 'film',
  asks: 'dry',
  label: 'dust',
  verb: 'dust',
  icing: null,
  tool: 'food-only brush, blotted',
  openingMm: null,
  until: null,
  tooEarly: 'the brush drags damp icing',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'too much on the brush falls beside',
  hands: () => ['load the brush, blot it on paper, then the cookie', 'from the edge inward'],
  cautions: ['edible-only', 'tools-food-only'],
  seconds: ({ areaMm2 }, pace) => (areaMm2 / 100) * pace.brushSPerCm2,
});
