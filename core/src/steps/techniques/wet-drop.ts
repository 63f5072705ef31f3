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
  outlet: 'snip',
  openingMm: 1.5,
  until: 'thickening',
  tooEarly: 'spreads wider than placed',
  tooLate: 'stands proud on the skin',
  badlyDone: 'adds icing: underfill by what it adds',
  hands: ({ way, count }) => [
    way === 'ring' ? 'draw its ring on the wet base, then fill it' : 'tip in, one squeeze, stop, lift',
    ...(count > 3 ? ['from the middle outward, with room to spread'] : []),
    'wipe the tip',
  ],
  cautions: [],
  // A ring is drawn like a line, and filling it takes a touch like any drop.
  seconds: ({ count, ringMm }, pace) => ringMm / pace.beadMmPerS + count * pace.dropS,
});
