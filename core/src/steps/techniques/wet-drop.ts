import type { TechniqueDefinition } from './technique.js';

export const wetDrop: TechniqueDefinition = {
  id: 'wet-drop',
  label: 'wet drops',
  tool: 'tipless bag',
  needs: 'wet',
  tooEarly: 'spreads wider than placed',
  tooLate: 'stands proud on the skin',
  seconds: ({ count }, pace) => count * pace.dropS,
};
