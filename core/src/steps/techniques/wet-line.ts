import { technique } from './technique.js';

export const wetLine = technique({
  id: 'wet-line',
  kind: 'mark',
  leaves: 'nothing',
  asks: 'wet',
  label: 'wet lines',
  verb: 'line',
  icing: 'flood',
  tool: 'tipless bag',
  openingMm: 1.5,
  until: 'thickening',
  tooEarly: 'spreads wider than placed',
  tooLate: 'stands proud on the skin',
  badlyDone: 'lines too close run into one',
  cautions: [],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
