import { dryThresholdOverBase } from '../../drying/front.js';
import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** Nothing is packed before it is dry through, and a layer also passes on part of what its base still holds. */
export const packWhenDry: Rule = {
  id: 'pack-when-dry',
  gaps: ({ design, steps, stepsOn, factsOf }) => [
    ...steps
      .filter((s) => s.kind === 'detail' && !s.region)
      .map(
        (step): Gap => ({
          from: step.id,
          to: 'pack.cookie',
          minSeconds: 0,
          rule: 'pack-when-dry',
          reason: `the ${step.label} is done before the cookie is packed`,
          consequence: 'it is left undone',
        }),
      ),
    ...steps
      .filter((s) => (s.kind === 'flood' || s.kind === 'detail') && s.region)
      .map((step): Gap => {
        const region = step.region as Region;
        const layerOn = step.kind === 'flood' ? (design.sections.find((s) => s.id === step.part)?.layerOn ?? []) : [];
        const bases = layerOn.flatMap((id) => stepsOn(id, 'flood'));
        // The base had lost at least what *crusted* takes when the layer was laid; taking no more is on the safe side.
        const minLossKgPerM2 = Math.max(
          stateThresholds(region).dry,
          ...bases.map((b) => dryThresholdOverBase(region, b.region as Region, stateThresholds(b.region as Region).crusted)),
        );
        const name = step.kind === 'flood' ? factsOf(step.part).name : step.label;
        return {
          from: step.id,
          to: 'pack.cookie',
          minState: 'dry',
          minLossKgPerM2,
          rule: 'pack-when-dry',
          reason: `${name} is dry through before the cookie is packed`,
          consequence: 'damp boxes, smudges, mould',
        };
      }),
  ],
};
