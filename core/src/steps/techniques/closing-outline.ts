import { msg } from '../../words/index.js';
import { strokeOrFill, technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const closingOutline = technique({
  id: 'closing-outline',
  kind: 'detail',
  leaves: 'bead',
  asks: 'piped',
  label: msg`closing outline`,
  verb: msg`close`,
  icing: 'piping',
  tool: msg`round tip 2`,
  openingMm: 1.5,
  until: null,
  tooEarly: msg`spreads into the flood`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`spreads if it is thinner than the flood`,
  hands: () => [msg`along the edge in one go, end where it began`, msg`touch the join flat`],
  cautions: [],
  seconds: (extent, pace) => strokeOrFill(extent, pace),
});
