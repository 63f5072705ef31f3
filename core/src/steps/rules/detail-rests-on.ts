import { type Region, stateThresholds } from '../../drying/state.js';
import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** Piped details rest on a set base (some schools: crusted); pens press and need firm or dry icing. */
export const detailRestsOn: Rule = {
  id: 'detail-rests-on',
  gaps: ({ school, design, steps, factsOf, stepsOn }) =>
    steps
      .filter((s) => s.technique === 'piped-line' || s.technique === 'pen')
      .flatMap((step) => {
        const rests = new Set(design.lines.filter((l) => step.parts.includes(l.id)).flatMap((l) => l.restsOn));
        const minState = step.technique === 'pen' ? school.pensOn : school.detailsOn;
        return [...rests]
          .flatMap((id) => stepsOn(id, 'flood'))
          .map(
            (from): Gap => ({
              from: from.id,
              to: step.id,
              minState,
              minLossKgPerM2: stateThresholds(from.region as Region)[minState],
              rule: step.technique === 'pen' ? 'pen-needs-firm' : 'detail-rests-on',
              reason: `${factsOf(from.part).name} is ${minState} before ${step.label} ${step.technique === 'pen' ? 'is drawn' : 'is piped'} on it`,
              consequence: step.technique === 'pen' ? 'the pen pokes through and cracks the surface' : 'the detail sinks in',
            }),
          );
      }),
};
