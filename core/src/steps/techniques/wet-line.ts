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
  outlet: 'snip',
  openingMm: 1.5,
  until: 'thickening',
  tooEarly: 'spreads wider than placed',
  tooLate: 'stands proud on the skin',
  badlyDone: 'lines too close run into one',
  hands: ({ count, crossing }) => [
    'tip close to the surface, an even squeeze',
    ...(crossing ? ['two lines under, one over, and it looks woven'] : []),
    ...(count > 3 ? ['from the middle outward, with room to spread'] : []),
    'wipe the tip',
  ],
  cautions: [],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
