import type { TechniqueDefinition } from './technique.js';

export const pen: TechniqueDefinition = {
  id: 'pen',
  label: 'edible pen',
  tool: 'edible pen, non-slip mat',
  needs: 'firm',
  tooEarly: 'pokes through and cracks the surface',
  tooLate: 'waits only cost time',
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
};
