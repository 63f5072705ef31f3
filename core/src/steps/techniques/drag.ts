import { technique } from './technique.js';

export const drag = technique({
  id: 'drag',
  kind: 'mark',
  label: 'drag with the scribe',
  verb: 'drag',
  icing: null,
  tool: 'scribe',
  openingMm: null,
  needs: 'wet',
  until: 'thickening',
  leavesIcing: false,
  tooEarly: 'colours smear where marks have not levelled',
  tooLate: 'the skin tears and lumps are dragged',
  badlyDone: 'an unwiped scribe drags the wrong colour',
  cautions: ['tools-food-only'],
  seconds: ({ count }, pace, wipesScribe) => count * (pace.dragS + (wipesScribe ? pace.wipeS : 0)),
});
