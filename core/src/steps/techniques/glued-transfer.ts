import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const gluedTransfer = technique({
  id: 'glued-transfer',
  kind: 'detail',
  leaves: 'piece',
  asks: 'glued',
  label: msg`glued transfer`,
  verb: msg`glue`,
  icing: 'outline',
  tool: msg`a dab on the cookie, not on the fragile piece`,
  openingMm: 2,
  until: null,
  tooEarly: msg`the piece sinks in`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`breaks when glued in the hand`,
  hands: ({ school }) => [
    msg`try it dry first`,
    school.glue === 'corn-syrup'
      ? msg`a little corn syrup on the cookie, not on the piece`
      : msg`a dab of icing on the cookie, not on the piece`,
    msg`build icing up under what overhangs`,
  ],
  cautions: ['no-bare-fingers', 'choking'],
  seconds: ({ count }, pace) => count * pace.layInS,
});
