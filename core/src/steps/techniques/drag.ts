import { msg } from '../../words/index.js';
import { technique, wipingS } from './technique.js';

const WIPED = {
  always: msg`wipe the scribe after every pull`,
  'single-pulls': msg`wipe after single pulls, not on one way to and fro`,
  never: msg`not wiped: keep the pattern small`,
} as const;

export const drag = technique({
  id: 'drag',
  kind: 'mark',
  leaves: 'nothing',
  asks: 'wet',
  label: msg`drag with the scribe`,
  verb: msg`drag`,
  icing: null,
  tool: msg`scribe`,
  openingMm: null,
  until: 'thickening',
  tooEarly: msg`colours smear where marks have not levelled`,
  tooLate: msg`the skin tears and lumps are dragged`,
  badlyDone: msg`an unwiped scribe drags the wrong colour`,
  hands: ({ school, count }) => [
    msg`scribe just into the icing: the colour goes as far as it goes`,
    ...(count > 1 ? [msg`pulls outward first, then inward`] : []),
    WIPED[school.wiping],
  ],
  cautions: ['tools-food-only'],
  seconds: (extent, pace, school) => extent.count * pace.dragS + wipingS(extent, pace, school),
});
