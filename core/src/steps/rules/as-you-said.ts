import type { Rule } from './rule.js';

/** An order the user asked for by hand, whatever the other rules would allow. */
export const asYouSaid: Rule = {
  id: 'as-you-said',
  gaps: ({ before, stepsOn, factsOf, sections }) =>
    before
      .filter(([a, b]) => sections.some((s) => s.id === a) && sections.some((s) => s.id === b))
      .flatMap(([first, then]) =>
        stepsOn(first, 'flood').flatMap((from) =>
          stepsOn(then, 'flood').map((to) => ({
            from: from.id,
            to: to.id,
            minSeconds: 0,
            rule: 'as-you-said' as const,
            reason: `${factsOf(first).name} comes before ${factsOf(then).name}, as you asked`,
            consequence: 'not the order you wanted',
          })),
        ),
      ),
};
