import { technique } from './technique.js';

export const relief = technique({
  id: 'relief',
  kind: 'detail',
  label: 'relief while part-set',
  verb: 'pipe',
  icing: 'piping',
  tool: 'fine tip',
  openingMm: 1,
  needs: 'crusted',
  until: null,
  leavesIcing: true,
  tooEarly: 'sinks in',
  tooLate: 'it sits on top instead of growing out of it',
  badlyDone: 'presses the crust in',
  cautions: [],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
