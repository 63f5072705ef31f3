import { msg } from '../../words/index.js';
import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const lettering = technique({
  id: 'lettering',
  kind: 'detail',
  leaves: 'bead',
  asks: 'piped',
  label: msg`lettering`,
  verb: msg`letter`,
  icing: 'piping',
  tool: msg`round tip 1`,
  openingMm: 1,
  until: null,
  tooEarly: msg`sinks into a soft base`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`doubled joins hide letters`,
  hands: () => [msg`letter by letter, from the top down`, msg`a join is laid once, not twice`],
  cautions: [],
  seconds: ({ lengthMm, count }, pace) => lengthMm / pace.letterMmPerS + count * pace.liftS,
});
