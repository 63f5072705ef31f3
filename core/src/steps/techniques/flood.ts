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
  until: null,
  tooEarly: 'runs together with a wet neighbour',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'too full runs off, underfilled dips',
  cautions: ['cover-trays'],
  // Scribing goes over all of it; a tap or a shake settles the whole cookie at once.
  seconds: ({ areaMm2 }, pace, { levelling }) =>
    (areaMm2 / 100) * pace.floodSPerCm2 + (levelling === 'scribe' ? (areaMm2 / 100) * pace.scribeSPerCm2 : levelling === 'tap' ? pace.tapS : pace.shakeS),
});
