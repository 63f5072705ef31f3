import { msg } from '../../words/index.js';
import { technique } from './technique.js';

export const outline = technique({
  id: 'outline',
  kind: 'dam',
  leaves: 'bead',
  asks: 'flood',
  label: msg`outline`,
  verb: msg`outline`,
  icing: 'outline',
  tool: msg`round tip 1–3 or a tiny snip`,
  openingMm: 1.5,
  until: null,
  tooEarly: msg`on a wet neighbour the dam runs into it`,
  tooLate: msg`a bead that has set shows as a line round the flood`,
  badlyDone: msg`wobbles, breaks, peaks: touch up while wet`,
  hands: ({ rings }) => [
    msg`tip just above the cookie: lift the line and let it fall`,
    ...(rings === 2 ? [msg`a second ring close against the first`] : []),
    msg`anchor it at the turns`,
    msg`wipe the tip, back into the damp nest`,
  ],
  cautions: [],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
