import { technique } from './technique.js';

/** One bag for outlines and floods: its end is cut wider once all that is outlined has been. Done to a bag, not to a cookie. */
export const widenSnip = technique({
  id: 'widen-snip',
  kind: 'prepare',
  leaves: 'nothing',
  asks: 'none',
  label: 'widen the snip',
  verb: 'widen',
  icing: null,
  tool: 'scissors',
  openingMm: null,
  until: null,
  tooEarly: 'the outlines still to come get too thick',
  tooLate: 'the outlines dry before they are filled',
  badlyDone: 'cut askew it pipes to one side, and cut too wide it cannot be cut back',
  hands: () => ['squeeze a little out first', 'a small cut, straight across', 'the end cut off goes where they are counted'],
  cautions: ['tools-food-only'],
  seconds: (_, pace) => pace.widenS,
});
