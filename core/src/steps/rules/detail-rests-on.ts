import { type Region, stateThresholds } from '../../drying/state.js';
import type { School } from '../school.js';
import type { Gap } from '../step.js';
import { type TechniqueDefinition, techniqueById } from '../techniques/index.js';
import type { Rule } from './rule.js';

type Rested = 'crusted' | 'set' | 'firm' | 'dry';

/** The state a technique asks for under it; where schools differ the school says, and a transfer leaning on several parts wants firm ones. */
export function stateUnder(definition: TechniqueDefinition, school: School, leansOn: number): Rested {
  if (definition.asTheSchoolSays === 'details') return school.detailsOn;
  if (definition.asTheSchoolSays === 'pens') return school.pensOn;
  if (definition.id === 'glued-transfer' && leansOn > 1) return 'firm';
  return definition.needs as Rested;
}

/** Details rest on what is there already: piped ones on a set base, pressing work on a firm one, dust and paint on a dry one. */
export const detailRestsOn: Rule = {
  id: 'detail-rests-on',
  gaps: ({ school, design, steps, factsOf, stepsOn }) =>
    steps
      .filter((s) => s.kind === 'detail')
      .flatMap((step) => {
        const definition = techniqueById(step.technique);
        const rests = new Set(design.lines.filter((l) => step.parts.includes(l.id)).flatMap((l) => l.restsOn));
        const minState = stateUnder(definition, school, rests.size);
        const { until } = definition;
        return [...rests]
          .flatMap((id) => stepsOn(id, 'flood'))
          .map((from): Gap => {
            const thresholds = stateThresholds(from.region as Region);
            return {
              from: from.id,
              to: step.id,
              minState,
              minLossKgPerM2: thresholds[minState],
              ...(until ? { maxState: until, maxLossKgPerM2: thresholds[until], oneBody: true as const } : {}),
              rule: definition.asTheSchoolSays === 'pens' ? 'pen-needs-firm' : until ? 'crackle-window' : 'detail-rests-on',
              reason: `${factsOf(from.part).name} is ${minState} before the ${step.label} on it (${definition.label})`,
              consequence: definition.tooEarly,
            };
          });
      }),
};
