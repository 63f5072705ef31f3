import { technique } from './technique.js';

export const outline = technique({
  id: 'outline',
  kind: 'dam',
  leaves: 'bead',
  asks: 'flood',
  label: 'outline',
  verb: 'outline',
  icing: 'outline',
  tool: 'round tip 1–3 or a tiny snip',
  openingMm: 1.5,
  until: null,
  tooEarly: 'on a wet neighbour the dam runs into it',
  tooLate: 'a bead that has set shows as a line round the flood',
  badlyDone: 'wobbles, breaks, peaks: touch up while wet',
  hands: ({ rings }) => [
    'tip just above the cookie: lift the line and let it fall',
    ...(rings === 2 ? ['a second ring close against the first'] : []),
    'anchor it at the turns',
    'wipe the tip, back into the damp nest',
  ],
  cautions: [],
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
});
