import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const paint = technique({
  id: 'paint',
  kind: 'detail',
  leaves: 'film',
  asks: 'dry',
  label: msg`painted colour`,
  verb: msg`paint`,
  icing: null,
  tool: msg`food-only brush, colour in spirit`,
  openingMm: null,
  until: null,
  tooEarly: msg`the spirit melts what is not dry`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`too wet a brush eats pits`,
  hands: () => [msg`blot the brush on paper`, msg`one stroke, then let it dry: twice over melts it`],
  cautions: ['spirit', 'edible-only', 'tools-food-only'],
  seconds: ({ areaMm2, lengthMm }, pace) => (areaMm2 / 100) * pace.brushSPerCm2 + lengthMm / pace.beadMmPerS,
});
