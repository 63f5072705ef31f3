import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** Sections meant to lie level meet while both are wet: the later is flooded before the earlier thickens. */
export const flushJoin: Rule = {
  id: 'flush-join',
  gaps: ({ design, stepsOn }) =>
    design.sections.flatMap((first, i) =>
      design.sections.slice(i + 1).flatMap((second): Gap[] => {
        if (!first.flushWith?.includes(second.id)) return [];
        const [from] = stepsOn(first.id, 'flood');
        const [to] = stepsOn(second.id, 'flood');
        if (!from || !to) return [];
        return [
          {
            from: from.id,
            to: to.id,
            minSeconds: 0,
            maxState: 'thickening',
            maxLossKgPerM2: stateThresholds(from.region as Region).thickening,
            rule: 'flush-join',
            reason: `${second.name} meets ${first.name} while it is wet, so that they lie level`,
            consequence: 'a step shows along the join',
          },
        ];
      }),
    ),
};
