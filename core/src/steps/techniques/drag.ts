import type { TechniqueDefinition } from './technique.js';

export const drag: TechniqueDefinition = {
  id: 'drag',
  label: 'drag with the scribe',
  tool: 'scribe',
  needs: 'wet',
  tooEarly: 'colours smear where marks have not levelled',
  tooLate: 'the skin tears and lumps are dragged',
  seconds: ({ count }, pace, wipesScribe) => count * (pace.dragS + (wipesScribe ? pace.wipeS : 0)),
};
