import type { TechniqueDefinition } from './technique.js';

export const preparation: TechniqueDefinition = {
  id: 'preparation',
  label: 'prepare',
  tool: 'template, scribe',
  needs: 'bare',
  tooEarly: 'warm cookies melt icing',
  tooLate: 'unopened bags cost the wet window',
  seconds: (_extent, pace) => pace.prepareSPerCookie,
};
