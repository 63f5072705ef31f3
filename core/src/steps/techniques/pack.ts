import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const pack = technique({
  id: 'pack',
  kind: 'pack',
  leaves: 'nothing',
  asks: 'dry',
  label: msg`pack`,
  verb: msg`pack`,
  icing: null,
  tool: msg`dehydrator`,
  openingMm: null,
  until: null,
  tooEarly: msg`damp, smudges, mould`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`stacked before they are dry through they mark each other`,
  hands: () => [msg`a finger leaves no mark anywhere`, msg`nothing that stands proud touches the lid`],
  cautions: ['pack-dry', 'for-sale'],
  seconds: (_extent, pace) => pace.packSPerCookie,
});
