import { msg } from '../../words/index.js';
import { strokeOrFill, technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

export const pipedLine = technique({
  id: 'piped-line',
  kind: 'detail',
  leaves: 'bead',
  asks: 'piped',
  label: msg`piped detail`,
  verb: msg`pipe`,
  icing: 'piping',
  tool: msg`round tip`,
  openingMm: 1.5,
  until: null,
  tooEarly: msg`sinks into a soft base`,
  tooLate: WAITING_ONLY_COSTS_TIME,
  badlyDone: msg`doubled joins show, lines wobble`,
  hands: ({ crossing }) => [
    msg`lift the line and lay it`,
    ...(crossing ? [msg`a weave: uprights, then short bars over them, the first edge tidied last`] : []),
    msg`press the end down, wipe the tip`,
  ],
  cautions: [],
  seconds: (extent, pace) => strokeOrFill(extent, pace),
});
