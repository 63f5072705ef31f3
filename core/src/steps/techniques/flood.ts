import type { TechniqueDefinition } from './technique.js';

export const flood: TechniqueDefinition = {
  id: 'flood',
  label: 'flood',
  tool: 'tipless bag, scribe',
  needs: 'bare',
  tooEarly: 'runs together with a wet neighbour',
  tooLate: 'waits only cost time',
  seconds: ({ areaMm2 }, pace) => (areaMm2 / 100) * (pace.floodSPerCm2 + pace.scribeSPerCm2),
};
