import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const gluedTransfer = technique({
  id: 'glued-transfer',
  kind: 'detail',
  leaves: 'piece',
  asks: 'glued',
  label: 'glued transfer',
  verb: 'glue',
  icing: 'outline',
  tool: 'a dab on the cookie, not on the fragile piece',
  openingMm: 2,
  until: null,
  tooEarly: 'the piece sinks in',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'breaks when glued in the hand',
  hands: ({ school }) => [
    'try it dry first',
    school.glue === 'corn-syrup' ? 'a little corn syrup on the cookie, not on the piece' : 'a dab of icing on the cookie, not on the piece',
    'build icing up under what overhangs',
  ],
  cautions: ['no-bare-fingers', 'choking'],
  seconds: ({ count }, pace) => count * pace.layInS,
});
