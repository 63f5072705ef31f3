import type { TechniqueDefinition } from './technique.js';

export const wetLine: TechniqueDefinition = {
  id: 'wet-line',
  label: 'wet lines',
  tool: 'tipless bag',
  needs: 'wet',
  tooEarly: 'spreads wider than placed',
  tooLate: 'stands proud on the skin',
  seconds: ({ lengthMm }, pace) => lengthMm / pace.beadMmPerS,
};
