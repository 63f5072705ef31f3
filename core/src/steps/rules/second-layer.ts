import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** Small and light enough to lie on a crust. */
const LIGHT_MM2 = 200;
const LIGHT_DEPTH_MM = 1.5;

/** A second layer waits for its base to crust if it is small and light, else to set. */
export const secondLayer: Rule = {
  id: 'second-layer',
  gaps: ({ school, design, factsOf, stepsOn }) =>
    design.sections.flatMap((layer) =>
      layer.layerOn.flatMap((baseId): Gap[] => {
        const [from] = stepsOn(baseId, 'flood');
        if (!from) return [];
        const thresholds = stateThresholds(from.region as Region);
        const light = factsOf(layer.id).areaMm2 < LIGHT_MM2 && layer.depthMm <= LIGHT_DEPTH_MM;
        const minState = light ? ('crusted' as const) : ('set' as const);
        const minLossKgPerM2 = light ? Math.max(1, school.neighbourCrusts) * thresholds.crusted : thresholds.set;
        return (['dam', 'flood'] as const)
          .flatMap((t) => stepsOn(layer.id, t))
          .map((to) => ({
            from: from.id,
            to: to.id,
            minState,
            minLossKgPerM2,
            rule: 'second-layer',
            reason: `${factsOf(baseId).name} ${light ? 'crusts' : 'sets'} before ${layer.name} is laid on it`,
            consequence: 'no step shows and the layer sinks',
          }));
      }),
    ),
};
