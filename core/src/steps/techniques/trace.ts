import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const trace = technique({
  id: 'trace',
  kind: 'detail',
  leaves: 'film',
  asks: 'guide',
  label: 'template traced',
  verb: 'trace',
  icing: null,
  tool: 'scribe or edible pen, template',
  openingMm: null,
  until: null,
  tooEarly: 'the template dents the surface',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'lines cut too deep',
  hands: () => ['a weight on the template, no thumb', 'lightly, one pass'],
  cautions: ['edible-only', 'print-paper'],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
