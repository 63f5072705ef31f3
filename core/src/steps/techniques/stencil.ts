import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const stencil = technique({
  id: 'stencil',
  kind: 'detail',
  leaves: 'bead',
  asks: 'stencil',
  label: msg`stencil with icing`,
  verb: msg`stencil`,
  icing: 'stiff',
  tool: msg`stencil, spatula, one last wipe`,
  openingMm: null,
  until: null,
  tooEarly: msg`presses into the base`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`shifts and smudges; wash after 6 to 12 uses`,
  hands: () => [msg`anchor it with a finger beside the icing`, msg`cover in one pass, one last wipe`, msg`peel it from one side`],
  cautions: ['tools-food-only', 'print-paper'],
  seconds: (_extent, pace) => pace.stencilS,
});
