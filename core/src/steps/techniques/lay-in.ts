import { msg } from '../../words/index.js';
import { technique } from './technique.js';

export const layIn = technique({
  id: 'lay-in',
  kind: 'mark',
  leaves: 'piece',
  asks: 'wet',
  label: msg`transfer laid in wet`,
  verb: msg`lay in`,
  icing: null,
  tool: msg`fingertips in gloves, tweezers`,
  openingMm: null,
  until: 'skinned',
  tooEarly: msg`it sinks under`,
  tooLate: msg`it lies loose on the skin`,
  badlyDone: msg`pushed, it leaves a dent`,
  hands: () => [msg`try where it goes before you let go`, msg`lay it from one side to the other, do not push`],
  cautions: ['no-bare-fingers', 'choking'],
  seconds: ({ count }, pace) => count * pace.layInS,
});
