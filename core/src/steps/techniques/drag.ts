import { technique, wipingS } from './technique.js';

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
  cautions: ['tools-food-only'],
  seconds: (extent, pace, school) => extent.count * pace.dragS + wipingS(extent, pace, school),
});
