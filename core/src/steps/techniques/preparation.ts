import { technique } from './technique.js';

export const preparation = technique({
  id: 'preparation',
  kind: 'prepare',
  leaves: 'nothing',
  asks: 'none',
  label: 'prepare',
  verb: 'prepare',
  icing: null,
  tool: 'template, scribe, round cutter',
  openingMm: null,
  until: null,
  tooEarly: 'warm cookies melt icing',
  tooLate: 'unopened bags cost the wet window',
  badlyDone: 'a guide scratched too deep shows',
  hands: () => ['each cookie cold under the hand', 'open and knead every bag', 'bags tip down in the damp nest'],
  cautions: ['knives', 'allergens', 'raw-egg'],
  seconds: (_extent, pace) => pace.prepareSPerCookie,
});
