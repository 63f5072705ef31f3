import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const wafer = technique({
  id: 'wafer',
  kind: 'detail',
  leaves: 'piece',
  asks: 'dry',
  label: msg`wafer paper or frosting sheet`,
  verb: msg`stick on`,
  icing: null,
  tool: msg`corn syrup or a film of icing`,
  openingMm: null,
  until: null,
  tooEarly: msg`it curls and bleeds on damp icing`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`edges lift: press again until they stick`,
  hands: ({ school }) => [
    school.glue === 'corn-syrup' ? msg`a film of corn syrup to the very edge` : msg`a film of icing to the very edge`,
    msg`lay it from one side, smooth it outward`,
    msg`press the edges again until they stick`,
  ],
  cautions: ['edible-only'],
  seconds: ({ count }, pace) => count * pace.waferS,
});
