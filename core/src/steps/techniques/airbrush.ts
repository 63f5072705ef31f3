import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const airbrush = technique({
  id: 'airbrush',
  kind: 'detail',
  leaves: 'mist',
  asks: 'airbrush',
  label: 'airbrush',
  verb: 'airbrush',
  icing: null,
  tool: 'airbrush, low pressure',
  openingMm: null,
  until: null,
  tooEarly: 'blows the crust into ripples',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'drifts over the edge; a second pass if faint',
  hands: () => ['straight down, along the lines, low pressure', 'a second pass where it is faint'],
  cautions: ['airbrush-mist', 'edible-only'],
  seconds: ({ areaMm2 }, pace) => pace.airbrushS + (areaMm2 / 100) * pace.airbrushSPerCm2,
});
