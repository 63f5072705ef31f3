import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const airbrush = technique({
  id: 'airbrush',
  kind: 'detail',
  leaves: 'mist',
  asks: 'airbrush',
  label: msg`airbrush`,
  verb: msg`airbrush`,
  icing: null,
  tool: msg`airbrush, low pressure`,
  openingMm: null,
  until: null,
  tooEarly: msg`blows the crust into ripples`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`drifts over the edge; a second pass if faint`,
  hands: () => [msg`straight down, along the lines, low pressure`, msg`a second pass where it is faint`],
  cautions: ['airbrush-mist', 'edible-only'],
  seconds: ({ areaMm2 }, pace) => pace.airbrushS + (areaMm2 / 100) * pace.airbrushSPerCm2,
});
