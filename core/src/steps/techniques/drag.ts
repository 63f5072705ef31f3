import { technique, wipingS } from './technique.js';

const WIPED = {
  always: 'wipe the scribe after every pull',
  'single-pulls': 'wipe after single pulls, not on one way to and fro',
  never: 'not wiped: keep the pattern small',
} as const;

export const drag = technique({
  id: 'drag',
  kind: 'mark',
  leaves: 'nothing',
  asks: 'wet',
  label: 'drag with the scribe',
  verb: 'drag',
  icing: null,
  tool: 'scribe',
  openingMm: null,
  until: 'thickening',
  tooEarly: 'colours smear where marks have not levelled',
  tooLate: 'the skin tears and lumps are dragged',
  badlyDone: 'an unwiped scribe drags the wrong colour',
  hands: ({ school, count }) => [
    'scribe just into the icing: the colour goes as far as it goes',
    ...(count > 1 ? ['pulls outward first, then inward'] : []),
    WIPED[school.wiping],
  ],
  cautions: ['tools-food-only'],
  seconds: (extent, pace, school) => extent.count * pace.dragS + wipingS(extent, pace, school),
});
