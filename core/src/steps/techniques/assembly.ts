import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const assembly = technique({
  id: 'assembly',
  kind: 'detail',
  leaves: 'piece',
  asks: 'dry',
  label: 'assembly',
  verb: 'assemble',
  icing: 'stiff',
  tool: 'props at 40 to 45 degrees',
  openingMm: 3,
  until: null,
  tooEarly: 'pieces slide and break',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'leans until the glue holds',
  hands: () => ['try the pieces dry first', 'stiff icing along the join', 'prop it until it stands by itself'],
  cautions: ['no-bare-fingers', 'choking'],
  seconds: ({ count }, pace) => count * pace.assembleS,
});
