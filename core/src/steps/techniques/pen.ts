import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const pen = technique({
  id: 'pen',
  kind: 'detail',
  leaves: 'film',
  asks: 'pen',
  label: 'edible pen',
  verb: 'draw',
  icing: null,
  tool: 'edible pen, non-slip mat',
  openingMm: null,
  until: null,
  tooEarly: 'pokes through and cracks the surface',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'slips; dust clogs the nib',
  hands: () => ['cookie on the non-slip mat', 'light strokes, the pen held flat', 'wipe the nib where it takes up sugar'],
  cautions: ['edible-only', 'tools-food-only'],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
