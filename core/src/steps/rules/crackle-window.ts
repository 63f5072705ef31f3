import type { Gap } from '../step.js';
import type { Rule } from './rule.js';

/** What is crackled is crackled before its neighbours are flooded, since the press would smear them. */
export const crackleWindow: Rule = {
  id: 'crackle-window',
  gaps: ({ design, steps, factsOf, stepsOn }) =>
    steps
      .filter((s) => s.technique === 'crackle')
      .flatMap((crackle) => {
        const on = [...new Set(design.lines.filter((l) => crackle.parts.includes(l.id)).flatMap((l) => l.restsOn))];
        return on.flatMap((id) =>
          factsOf(id)
            .touches.filter((n) => factsOf(n).round > factsOf(id).round)
            .flatMap((n) => stepsOn(n, 'flood'))
            .map(
              (neighbour): Gap => ({
                from: crackle.id,
                to: neighbour.id,
                minSeconds: 0,
                rule: 'crackle-window',
                reason: `${factsOf(id).name} is crackled before ${neighbour.label} beside it is flooded`,
                consequence: 'pressing smears the wet neighbour',
              }),
            ),
        );
      }),
};
