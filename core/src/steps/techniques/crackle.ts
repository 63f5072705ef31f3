import { technique } from './technique.js';

export const crackle = technique({
  id: 'crackle',
  kind: 'detail',
  leaves: 'nothing',
  asks: 'crackle',
  label: 'crackle',
  verb: 'crackle',
  icing: null,
  tool: 'round-ended tool',
  openingMm: null,
  until: 'crackleShut',
  tooEarly: 'dents and tears instead of cracks',
  tooLate: 'nothing cracks any more',
  badlyDone: 'a hard press goes through to the biscuit',
  hands: () => ['try one place: it breaks, it dents (early) or nothing moves (late)', 'round-ended tool, from the middle outward'],
  cautions: ['tools-food-only', 'no-bare-fingers'],
  seconds: ({ areaMm2 }, pace) => pace.crackleS + (areaMm2 / 100) * pace.crackleSPerCm2,
});
