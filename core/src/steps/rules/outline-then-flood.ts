import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** The dam melts into the flood while it is wet, or has skinned before it holds the flood: as the school works. */
export const outlineThenFlood: Rule = {
  id: 'outline-then-flood',
  gaps: ({ design, school, factsOf, stepsOn }) =>
    design.sections.flatMap((section): Gap[] => {
      const [outline] = stepsOn(section.id, 'dam');
      const [flood] = stepsOn(section.id, 'flood');
      if (!outline || !flood) return [];
      const thresholds = stateThresholds(outline.region as Region);
      if (school.outline === 'merges') {
        return [
          {
            from: outline.id,
            to: flood.id,
            minSeconds: 0,
            maxState: 'thickening',
            maxLossKgPerM2: thresholds.thickening,
            rule: 'outline-then-flood',
            reason: `the outline of ${section.name} melts into its flood while it is wet`,
            consequence: 'a line shows round the section',
          },
        ];
      }
      const own: Gap = {
        from: outline.id,
        to: flood.id,
        minState: 'skinned',
        minLossKgPerM2: thresholds.skinned,
        rule: 'outline-then-flood',
        reason: `the outline of ${section.name} skins first, so that it holds the flood`,
        consequence: 'the dam gives way and the flood runs off',
      };
      // All dams are drawn on the bare cookie: a bead laid against a wet neighbour would run into it.
      const neighbours = factsOf(section.id)
        .touches.filter((id) => factsOf(id).round < factsOf(section.id).round && section.layerOn.length === 0)
        .flatMap((id) => stepsOn(id, 'flood'));
      return [
        own,
        ...neighbours.map(
          (n): Gap => ({
            from: outline.id,
            to: n.id,
            minSeconds: 0,
            rule: 'dam-before-neighbour',
            reason: `the dam of ${section.name} is drawn before ${n.label} beside it is flooded`,
            consequence: 'the bead runs into its wet neighbour',
          }),
        ),
      ];
    }),
};
