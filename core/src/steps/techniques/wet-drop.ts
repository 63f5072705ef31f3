import { msg } from '../../words/index.js';
import { technique } from './technique.js';

export const wetDrop = technique({
  id: 'wet-drop',
  kind: 'mark',
  leaves: 'nothing',
  asks: 'wet',
  label: msg`wet drops`,
  verb: msg`drop`,
  icing: 'flood',
  tool: msg`tipless bag`,
  outlet: 'snip',
  openingMm: 1.5,
  until: 'thickening',
  tooEarly: msg`spreads wider than placed`,
  tooLate: msg`stands proud on the skin`,
  badlyDone: msg`adds icing: underfill by what it adds`,
  hands: ({ way, count }) => [
    way === 'ring' ? msg`draw its ring on the wet base, then fill it` : msg`tip in, one squeeze, stop, lift`,
    ...(count > 3 ? [msg`from the middle outward, with room to spread`] : []),
    msg`wipe the tip`,
  ],
  cautions: [],
  // A ring is drawn like a line, and filling it takes a touch like any drop.
  seconds: ({ count, ringMm }, pace) => ringMm / pace.beadMmPerS + count * pace.dropS,
});
