import { msg } from '../../words/index.js';
import { technique } from './technique.js';

export const wetLine = technique({
  id: 'wet-line',
  kind: 'mark',
  leaves: 'nothing',
  asks: 'wet',
  label: msg`wet lines`,
  verb: msg`line`,
  icing: 'flood',
  tool: msg`tipless bag`,
  outlet: 'snip',
  openingMm: 1.5,
  until: 'thickening',
  tooEarly: msg`spreads wider than placed`,
  tooLate: msg`stands proud on the skin`,
  badlyDone: msg`lines too close run into one`,
  hands: ({ count, crossing }) => [
    msg`tip close to the surface, an even squeeze`,
    ...(crossing ? [msg`two lines under, one over, and it looks woven`] : []),
    ...(count > 3 ? [msg`from the middle outward, with room to spread`] : []),
    msg`wipe the tip`,
  ],
  cautions: [],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
