import type { TechniqueDefinition } from './technique.js';

export const pipedLine: TechniqueDefinition = {
  id: 'piped-line',
  label: 'pipe',
  tool: 'round tip',
  needs: 'set',
  tooEarly: 'sinks into a soft base',
  tooLate: 'waits only cost time',
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
};
