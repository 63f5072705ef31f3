import { technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const lettering = technique({
  id: 'lettering',
  kind: 'detail',
  leaves: 'bead',
  asks: 'piped',
  label: 'lettering',
  verb: 'letter',
  icing: 'piping',
  tool: 'round tip 1',
  openingMm: 1,
  until: null,
  tooEarly: 'sinks into a soft base',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'doubled joins hide letters',
  hands: () => ['letter by letter, from the top down', 'a join is laid once, not twice'],
  cautions: [],
  seconds: ({ lengthMm, count }, pace) => lengthMm / pace.letterMmPerS + count * pace.liftS,
});
