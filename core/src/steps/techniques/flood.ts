import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const flood = technique({
  id: 'flood',
  kind: 'flood',
  leaves: 'flood',
  asks: 'flood',
  label: 'flood',
  verb: 'flood',
  icing: 'flood',
  tool: 'tipless bag, scribe',
  openingMm: 2.5,
  needs: 'bare',
  until: null,
  tooEarly: 'runs together with a wet neighbour',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'too full runs off, underfilled dips',
  cautions: ['cover-trays'],
  seconds: ({ areaMm2 }, pace) => (areaMm2 / 100) * (pace.floodSPerCm2 + pace.scribeSPerCm2),
});
