import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

const LEVELLED = {
  scribe: 'draw it out to the edge with the scribe, small circles',
  tap: 'tap it level',
  shake: 'shake it level; once a neighbour has thickened, pat it from below instead',
} as const;

export const flood = technique({
  id: 'flood',
  kind: 'flood',
  leaves: 'flood',
  asks: 'flood',
  label: 'flood',
  verb: 'flood',
  icing: 'flood',
  tool: 'tipless bag, scribe',
  outlet: 'snip',
  openingMm: 2.5,
  until: null,
  tooEarly: 'runs together with a wet neighbour',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'too full runs off, underfilled dips',
  hands: ({ school, fill, edgeMm }) => [
    ...(edgeMm > 0 ? [`stop ${edgeMm} mm short of the line`] : []),
    fill === 'plump' ? 'fill to a dome' : fill === 'just' ? 'fill level, no more' : 'fill it low: what follows adds icing',
    LEVELLED[school.levelling],
    'pop bubbles with the scribe while it is wet',
    'bag back into the damp nest',
  ],
  cautions: ['cover-trays'],
  // Scribing goes over all of it; a tap or a shake settles the whole cookie at once.
  seconds: ({ areaMm2 }, pace, { levelling }) =>
    (areaMm2 / 100) * pace.floodSPerCm2 +
    (levelling === 'scribe' ? (areaMm2 / 100) * pace.scribeSPerCm2 : levelling === 'tap' ? pace.tapS : pace.shakeS),
});
