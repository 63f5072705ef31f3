import { msg } from '../../words/index.js';
import { technique, wipingS } from './technique.js';

/** Where two colours lie flush, a needle is drawn along the join before either thickens. */
export const needle = technique({
  id: 'needle',
  kind: 'mark',
  leaves: 'nothing',
  asks: 'wet',
  label: msg`needle along a join`,
  verb: msg`run the needle along`,
  icing: null,
  tool: msg`needle or scribe, wiped`,
  openingMm: null,
  until: 'thickening',
  tooEarly: msg`the second colour runs under the first`,
  tooLate: msg`the skin tears and the join shows a step`,
  badlyDone: msg`too deep it scrapes the biscuit`,
  hands: () => [msg`once along the join, lightly, then wipe`],
  cautions: ['tools-food-only'],
  seconds: (extent, pace, school) => extent.lengthMm / pace.needleMmPerS + wipingS(extent, pace, school),
});
