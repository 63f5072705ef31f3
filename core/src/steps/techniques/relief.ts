import { strokeOrFill, technique } from './technique.js';

export const relief = technique({
  id: 'relief',
  kind: 'detail',
  leaves: 'bead',
  asks: 'relief',
  label: 'relief while part-set',
  verb: 'pipe',
  icing: 'piping',
  tool: 'fine tip',
  openingMm: 1,
  until: null,
  tooEarly: 'sinks in',
  tooLate: 'it sits on top instead of growing out of it',
  badlyDone: 'presses the crust in',
  hands: () => ['into the crust while it gives a little', 'pull away low, so that no peak stands'],
  cautions: [],
  seconds: (extent, pace) => strokeOrFill(extent, pace),
});
