import type { TechniqueDefinition } from './technique.js';

export const pack: TechniqueDefinition = {
  id: 'pack',
  label: 'pack',
  tool: 'box',
  needs: 'dry',
  tooEarly: 'damp, smudges, mould',
  tooLate: 'waits only cost time',
  seconds: (_extent, pace) => pace.packSPerCookie,
};
