import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import { techniqueById } from '../techniques/index.js';
import type { Rule } from './rule.js';

/** Wet work begins at once or after the school's pause and ends before its technique's window shuts; marks keep their order. */
export const wetWindow: Rule = {
  id: 'wet-window',
  gaps: ({ design, school, stepsOn }) =>
    design.sections.flatMap((section): Gap[] => {
      const [flood] = stepsOn(section.id, 'flood');
      if (!flood) return [];
      const thresholds = stateThresholds(flood.region as Region);
      return stepsOn(section.id, 'mark').flatMap((step, i, wet): Gap[] => {
        const definition = techniqueById(step.technique);
        const until = definition.until ?? 'thickening';
        const window: Gap = {
          from: flood.id,
          to: step.id,
          minSeconds: i === 0 ? school.pauseS : 0,
          maxState: until,
          maxLossKgPerM2: thresholds[until],
          rule: 'wet-window',
          reason: `${step.label} goes into ${section.name} while it is wet`,
          consequence: definition.tooLate,
        };
        const before = wet[i - 1];
        if (!before) return [window];
        return [
          window,
          {
            from: before.id,
            to: step.id,
            minSeconds: 0,
            rule: 'marks-in-order',
            reason: `${step.label} follows ${before.label} at once`,
            consequence: 'the pattern comes out another way round',
          },
        ];
      });
    }),
};
