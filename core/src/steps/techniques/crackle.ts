import { msg } from '../../words/index.js';
import { technique } from './technique.js';

export const crackle = technique({
  id: 'crackle',
  kind: 'detail',
  leaves: 'nothing',
  asks: 'crackle',
  label: msg`crackle`,
  verb: msg`crackle`,
  icing: null,
  tool: msg`round-ended tool`,
  openingMm: null,
  until: 'crackleShut',
  tooEarly: msg`dents and tears instead of cracks`,
  tooLate: msg`nothing cracks any more`,
  badlyDone: msg`a hard press goes through to the biscuit`,
  hands: () => [msg`try one place: it breaks, it dents (early) or nothing moves (late)`, msg`round-ended tool, from the middle outward`],
  cautions: ['tools-food-only', 'no-bare-fingers'],
  seconds: ({ areaMm2 }, pace) => pace.crackleS + (areaMm2 / 100) * pace.crackleSPerCm2,
});
