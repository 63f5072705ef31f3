import { strongContrast } from '../../design/contrast.js';
import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** Touching sections are never wet together: the later waits for the earlier to crust, across strong contrast to set. */
export const touchingSections: Rule = {
  id: 'touching-sections',
  gaps: ({ school, sections, sectionOf, factsOf, stepsOn }) =>
    sections.flatMap((later) =>
      later.touches
        .filter((id) => factsOf(id).round < later.round)
        .flatMap((id): Gap[] => {
          const [from] = stepsOn(id, 'flood');
          if (!from) return [];
          const thresholds = stateThresholds(from.region as Region);
          const strong = strongContrast(sectionOf(id).colour, sectionOf(later.id).colour);
          // Grains hold a surface together: a sugared one counts as crusted once it has skinned.
          const sugared = stepsOn(id, 'mark').some((s) => s.technique === 'sprinkle');
          const crusts = school.neighbourCrusts * (sugared ? thresholds.skinned : thresholds.crusted);
          const wait = strong
            ? {
                minState: 'set' as const,
                minLossKgPerM2: Math.max(thresholds.set, crusts),
                reason: `${factsOf(id).name} sets before ${later.name} beside it: strong contrast would bleed`,
                consequence: 'the colours bleed into each other hours later',
              }
            : {
                minState: sugared ? ('skinned' as const) : ('crusted' as const),
                minLossKgPerM2: crusts,
                reason: `${factsOf(id).name} ${sugared ? 'skins under its sugar' : 'crusts'} before ${later.name} beside it is flooded`,
                consequence: 'the colours run together and no step shows',
              };
          // A dam that was drawn on the bare cookie waits for nobody; one that melts in is laid with its flood.
          const targets = school.outline === 'merges' || sectionOf(later.id).layerOn.length > 0 ? (['dam', 'flood'] as const) : (['flood'] as const);
          return targets.flatMap((t) => stepsOn(later.id, t)).map((to): Gap => ({ from: from.id, to: to.id, rule: 'touching-sections', ...wait }));
        }),
    ),
};
