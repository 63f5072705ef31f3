import { strokeOrFill, technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const pipedLine = technique({
  id: 'piped-line',
  kind: 'detail',
  leaves: 'bead',
  asks: 'piped',
  label: 'piped detail',
  verb: 'pipe',
  icing: 'piping',
  tool: 'round tip',
  openingMm: 1.5,
  until: null,
  tooEarly: 'sinks into a soft base',
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: 'doubled joins show, lines wobble',
  hands: ({ crossing }) => [
    'lift the line and lay it',
    ...(crossing ? ['a weave: uprights, then short bars over them, the first edge tidied last'] : []),
    'press the end down, wipe the tip',
  ],
  cautions: [],
  seconds: (extent, pace) => strokeOrFill(extent, pace),
});
