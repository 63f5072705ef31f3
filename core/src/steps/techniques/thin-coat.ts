import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const thinCoat = technique({
  id: 'thin-coat',
  kind: 'flood',
  leaves: 'flood',
  asks: 'flood',
  label: 'thin background coat',
  verb: 'coat',
  icing: 'flood',
  tool: 'spatula',
  openingMm: null,
  until: null,
  tooEarly: 'runs together with a wet neighbour',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'ridges where the spatula lifted',
  hands: () => ['spread it thin with the spatula, one way', 'lift off over the edge'],
  cautions: ['cover-trays'],
  seconds: ({ areaMm2 }, pace) => (areaMm2 / 100) * pace.coatSPerCm2,
});
