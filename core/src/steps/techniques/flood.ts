import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

const LEVELLED = {
  scribe: msg`draw it out to the edge with the scribe, small circles`,
  tap: msg`tap it level`,
  shake: msg`shake it level; once a neighbour has thickened, pat it from below instead`,
} as const;

export const flood = technique({
  id: 'flood',
  kind: 'flood',
  leaves: 'flood',
  asks: 'flood',
  label: msg`flood`,
  verb: msg`flood`,
  icing: 'flood',
  tool: msg`tipless bag, scribe`,
  outlet: 'snip',
  openingMm: 2.5,
  until: null,
  tooEarly: msg`runs together with a wet neighbour`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`too full runs off, underfilled dips`,
  hands: ({ school, fill, edgeMm }) => [
    ...(edgeMm > 0 ? [msg`stop ${edgeMm} mm short of the line`] : []),
    fill === 'plump' ? msg`fill to a dome` : fill === 'just' ? msg`fill level, no more` : msg`fill it low: what follows adds icing`,
    LEVELLED[school.levelling],
    msg`pop bubbles with the scribe while it is wet`,
    msg`bag back into the damp nest`,
  ],
  cautions: ['cover-trays'],
  // Scribing goes over all of it; a tap or a shake settles the whole cookie at once.
  seconds: ({ areaMm2 }, pace, { levelling }) =>
    (areaMm2 / 100) * pace.floodSPerCm2 +
    (levelling === 'scribe' ? (areaMm2 / 100) * pace.scribeSPerCm2 : levelling === 'tap' ? pace.tapS : pace.shakeS),
});
