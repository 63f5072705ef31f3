import { msg } from '../../words/index.js';
import { strokeOrFill, technique } from './technique.js';

export const relief = technique({
  id: 'relief',
  kind: 'detail',
  leaves: 'bead',
  asks: 'relief',
  label: msg`relief while part-set`,
  verb: msg`pipe`,
  icing: 'piping',
  tool: msg`fine tip`,
  openingMm: 1,
  until: null,
  tooEarly: msg`sinks in`,
  tooLate: msg`it sits on top instead of growing out of it`,
  badlyDone: msg`presses the crust in`,
  hands: () => [msg`into the crust while it gives a little`, msg`pull away low, so that no peak stands`],
  cautions: [],
  seconds: (extent, pace) => strokeOrFill(extent, pace),
});
