import { strokeOrFill, technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const closingOutline = technique({
  id: 'closing-outline',
  kind: 'detail',
  leaves: 'bead',
  asks: 'piped',
  label: 'closing outline',
  verb: 'close',
  icing: 'piping',
  tool: 'round tip 2',
  openingMm: 1.5,
  until: null,
  tooEarly: 'spreads into the flood',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'spreads if it is thinner than the flood',
  hands: () => ['along the edge in one go, end where it began', 'touch the join flat'],
  cautions: [],
  seconds: (extent, pace) => strokeOrFill(extent, pace),
});
