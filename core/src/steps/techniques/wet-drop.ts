import { technique } from './technique.js';

export const wetDrop = technique({
  id: 'wet-drop',
  kind: 'mark',
  leaves: 'nothing',
  asks: 'wet',
  label: 'wet drops',
  verb: 'drop',
  icing: 'flood',
  tool: 'tipless bag',
  openingMm: 1.5,
  until: 'thickening',
  tooEarly: 'spreads wider than placed',
  tooLate: 'stands proud on the skin',
  badlyDone: 'adds icing: underfill by what it adds',
  cautions: [],
  seconds: ({ count }, pace) => count * pace.dropS,
});
