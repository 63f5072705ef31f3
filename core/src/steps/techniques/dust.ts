import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const dust = technique({
  id: 'dust',
  kind: 'detail',
  leaves: 'film',
  asks: 'dry',
  label: msg`dust`,
  verb: msg`dust`,
  icing: null,
  tool: msg`food-only brush, blotted`,
  openingMm: null,
  until: null,
  tooEarly: msg`the brush drags damp icing`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`too much on the brush falls beside`,
  hands: () => [msg`load the brush, blot it on paper, then the cookie`, msg`from the edge inward`],
  cautions: ['edible-only', 'tools-food-only'],
  seconds: ({ areaMm2 }, pace) => (areaMm2 / 100) * pace.brushSPerCm2,
});
