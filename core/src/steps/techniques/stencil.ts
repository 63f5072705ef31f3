import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const stencil = technique({
  id: 'stencil',
  kind: 'detail',
  leaves: 'bead',
  asks: 'stencil',
  label: 'stencil with icing',
  verb: 'stencil',
  icing: 'stiff',
  tool: 'stencil, spatula, one last wipe',
  openingMm: null,
  until: null,
  tooEarly: 'presses into the base',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'shifts and smudges; wash after 6 to 12 uses',
  hands: () => ['anchor it with a finger beside the icing', 'cover in one pass, one last wipe', 'peel it from one side'],
  cautions: ['tools-food-only', 'print-paper'],
  seconds: (_extent, pace) => pace.stencilS,
});
