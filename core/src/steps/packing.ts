import type { Section } from '../design/design.js';
import { dryThresholdOverBase } from '../drying/front.js';
import { stateThresholds } from '../drying/state.js';
import type { GapContext } from './gap-context.js';
import type { Gap, Step } from './step.js';

/** Nothing is packed before it is dry through, and a layer also passes on part of what its base still holds. */
export function packing(step: Step, { design, school, steps }: Pick<GapContext, 'design' | 'school' | 'steps'>): Gap[] {
  if (step.kind === 'detail' && !step.region)
    return [
      {
        from: step.id,
        to: 'pack.cookie',
        minSeconds: 0,
        rule: 'pack-when-dry',
        facts: { kind: 'packing', work: step.label, dries: false },
      },
    ];
  if ((step.kind !== 'flood' && step.kind !== 'detail') || !step.region) return [];
  const { region } = step;
  const layerOn =
    step.kind === 'flood' ? (design.parts.find((p): p is Section => p.role === 'section' && p.id === step.part)?.layerOn ?? []) : [];
  const bases = layerOn.flatMap((id) => steps.filter((s) => s.kind === 'flood' && s.part === id));
  // The base had lost at least what *crusted* takes when the layer was laid; taking no more is on the safe side.
  const least = (base: NonNullable<Step['region']>) => Math.min(1, school.neighbourCrusts) * stateThresholds(base).crusted;
  const minLossKgPerM2 = Math.max(
    stateThresholds(region).dry,
    ...bases.flatMap((b) => (b.region ? [dryThresholdOverBase(region, b.region, least(b.region))] : [])),
  );
  return [
    {
      from: step.id,
      to: 'pack.cookie',
      minState: 'dry',
      minLossKgPerM2,
      rule: 'pack-when-dry',
      facts: { kind: 'packing', work: step.label, dries: true },
    },
  ];
}
