import { technique } from './technique.js';

export const layIn = technique({
  id: 'lay-in',
  kind: 'mark',
  leaves: 'piece',
  asks: 'wet',
  label: 'transfer laid in wet',
  verb: 'lay in',
  icing: null,
  tool: 'fingertips in gloves, tweezers',
  openingMm: null,
  until: 'skinned',
  tooEarly: 'it sinks under',
  tooLate: 'it lies loose on the skin',
  badlyDone: 'pushed, it leaves a dent',
  hands: () => ['try where it goes before you let go', 'lay it from one side to the other, do not push'],
  cautions: ['no-bare-fingers', 'choking'],
  seconds: ({ count }, pace) => count * pace.layInS,
});
