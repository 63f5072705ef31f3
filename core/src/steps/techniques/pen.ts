import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const pen = technique({
  id: 'pen',
  kind: 'detail',
  leaves: 'film',
  asks: 'pen',
  label: msg`edible pen`,
  verb: msg`draw`,
  icing: null,
  tool: msg`edible pen, non-slip mat`,
  openingMm: null,
  until: null,
  tooEarly: msg`pokes through and cracks the surface`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`slips; dust clogs the nib`,
  hands: () => [msg`cookie on the non-slip mat`, msg`light strokes, the pen held flat`, msg`wipe the nib where it takes up sugar`],
  cautions: ['edible-only', 'tools-food-only'],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
