import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const thinCoat = technique({
  id: 'thin-coat',
  kind: 'flood',
  leaves: 'flood',
  asks: 'flood',
  label: msg`thin background coat`,
  verb: msg`coat`,
  icing: 'flood',
  tool: msg`spatula`,
  openingMm: null,
  until: null,
  tooEarly: msg`runs together with a wet neighbour`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`ridges where the spatula lifted`,
  hands: () => [msg`spread it thin with the spatula, one way`, msg`lift off over the edge`],
  cautions: ['cover-trays'],
  seconds: ({ areaMm2 }, pace) => (areaMm2 / 100) * pace.coatSPerCm2,
});
