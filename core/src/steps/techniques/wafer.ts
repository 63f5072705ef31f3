import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const wafer = technique({
  id: 'wafer',
  kind: 'detail',
  leaves: 'piece',
  asks: 'dry',
  label: 'wafer paper or frosting sheet',
  verb: 'stick on',
  icing: null,
  tool: 'corn syrup or a film of icing',
  openingMm: null,
  until: null,
  tooEarly: 'it curls and bleeds on damp icing',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'edges lift: press again until they stick',
  hands: ({ school }) => [
    school.glue === 'corn-syrup' ? 'a film of corn syrup to the very edge' : 'a film of icing to the very edge',
    'lay it from one side, smooth it outward',
    'press the edges again until they stick',
  ],
  cautions: ['edible-only'],
  seconds: ({ count }, pace) => count * pace.waferS,
});
