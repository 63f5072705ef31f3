import { msg } from '../../words/index.js';
import { technique } from './technique.js';

export const preparation = technique({
  id: 'preparation',
  kind: 'prepare',
  leaves: 'nothing',
  asks: 'none',
  label: msg`prepare`,
  verb: msg`prepare`,
  icing: null,
  tool: msg`template, scribe, round cutter`,
  openingMm: null,
  until: null,
  tooEarly: msg`warm cookies melt icing`,
  tooLate: msg`unopened bags cost the wet window`,
  badlyDone: msg`a guide scratched too deep shows`,
  hands: () => [msg`each cookie cold under the hand`, msg`open and knead every bag`, msg`bags tip down in the damp nest`],
  cautions: ['knives', 'allergens', 'raw-egg'],
  seconds: (_extent, pace) => pace.prepareSPerCookie,
});
