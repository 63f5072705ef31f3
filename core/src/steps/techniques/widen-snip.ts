import { msg } from '../../words/index.js';
import { technique } from './technique.js';

/** One bag for outlines and floods: its end is cut wider once all that is outlined has been. Done to a bag, not to a cookie. */
export const widenSnip = technique({
  id: 'widen-snip',
  kind: 'prepare',
  leaves: 'nothing',
  asks: 'none',
  label: msg`widen the snip`,
  verb: msg`widen`,
  icing: null,
  tool: msg`scissors`,
  openingMm: null,
  until: null,
  tooEarly: msg`the outlines still to come get too thick`,
  tooLate: msg`the outlines dry before they are filled`,
  badlyDone: msg`cut askew it pipes to one side, and cut too wide it cannot be cut back`,
  hands: () => [msg`squeeze a little out first`, msg`a small cut, straight across`, msg`the end cut off goes where they are counted`],
  cautions: ['tools-food-only'],
  seconds: (_, pace) => pace.widenS,
});
