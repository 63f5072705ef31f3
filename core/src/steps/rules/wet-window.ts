import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** Wet work begins at once or after the school's pause and ends before the flood thickens; marks keep their order. */
export const wetWindow: Rule = {
  id: 'wet-window',
  gaps: ({ design, school, steps, stepsOn }) =>
    design.sections.flatMap((section): Gap[] => {
      const [flood] = stepsOn(section.id, 'flood');
      if (!flood) return [];
      const thickening = stateThresholds(flood.region as Region).thickening;
      const wet = steps.filter((s) => s.sectionId === section.id && (s.technique === 'wet-drop' || s.technique === 'wet-line' || s.technique === 'drag'));
      return wet.flatMap((step, i): Gap[] => {
        const window: Gap = {
          from: flood.id,
          to: step.id,
          minSeconds: i === 0 ? school.pauseS : 0,
          maxState: 'thickening',
          maxLossKgPerM2: thickening,
          rule: 'wet-window',
          reason: `${step.label} goes into ${section.name} while it is wet`,
          consequence: step.technique === 'drag' ? 'the scribe tears the skin and drags lumps' : 'marks stand proud instead of sinking flat',
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
