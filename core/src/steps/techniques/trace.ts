import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const trace = technique({
  id: 'trace',
  kind: 'detail',
  leaves: 'film',
  asks: 'guide',
  label: msg`template traced`,
  verb: msg`trace`,
  icing: null,
  tool: msg`scribe or edible pen, template`,
  openingMm: null,
  until: null,
  tooEarly: msg`the template dents the surface`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`lines cut too deep`,
  hands: () => [msg`a weight on the template, no thumb`, msg`lightly, one pass`],
  cautions: ['edible-only', 'print-paper'],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
