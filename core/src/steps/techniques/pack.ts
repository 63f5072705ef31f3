import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const pack = technique({
  id: 'pack',
  kind: 'pack',
  leaves: 'nothing',
  asks: 'dry',
  label: 'pack',
  verb: 'pack',
  icing: null,
  tool: 'dehydrator',
  openingMm: null,
  until: null,
  tooEarly: 'damp, smudges, mould',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'stacked before they are dry through they mark each other',
  hands: () => ['a finger leaves no mark anywhere', 'nothing that stands proud touches the lid'],
  cautions: ['pack-dry', 'for-sale'],
  seconds: (_extent, pace) => pace.packSPerCookie,
});
