import type { TechniqueDefinition } from './technique.js';

export const outline: TechniqueDefinition = {
  id: 'outline',
  label: 'outline',
  tool: 'round tip or a small snip',
  needs: 'bare',
  tooEarly: 'on a wet neighbour the dam runs into it',
  tooLate: 'a bead that has set shows as a line round the flood',
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
};
