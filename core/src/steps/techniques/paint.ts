import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const paint = technique({
  id: 'paint',
  kind: 'detail',
  leaves: 'film',
  asks: 'dry',
  label: 'painted colour',
  verb: 'paint',
  icing: null,
  tool: 'food-only brush, colour in spirit',
  openingMm: null,
  until: null,
  tooEarly: 'the spirit melts what is not dry',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'too wet a brush eats pits',
  hands: () => ['blot the brush on paper', 'one stroke, then let it dry: twice over melts it'],
  cautions: ['spirit', 'edible-only', 'tools-food-only'],
  seconds: ({ areaMm2, lengthMm }, pace) => (areaMm2 / 100) * pace.brushSPerCm2 + lengthMm / pace.beadMmPerS,
});
