import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const assembly = technique({
  id: 'assembly',
  kind: 'detail',
  leaves: 'piece',
  asks: 'dry',
  label: msg`assembly`,
  verb: msg`assemble`,
  icing: 'stiff',
  tool: msg`props at 40 to 45 degrees`,
  openingMm: 3,
  until: null,
  tooEarly: msg`pieces slide and break`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`leans until the glue holds`,
  hands: () => [msg`try the pieces dry first`, msg`stiff icing along the join`, msg`prop it until it stands by itself`],
  cautions: ['no-bare-fingers', 'choking'],
  seconds: ({ count }, pace) => count * pace.assembleS,
});
