import type { Rule } from './rule.js';

/** Cool cookies, guides and open bags come before the first icing. */
export const preparedFirst: Rule = {
  id: 'prepared-first',
  gaps: ({ steps }) =>
    steps
      .filter((s) => s.kind === 'dam' || s.technique === 'thin-coat' || (s.kind === 'detail' && s.round === 1))
      .map((s) => ({
        from: 'preparation.cookie',
        to: s.id,
        minSeconds: 0,
        rule: 'prepared-first',
        reason: 'cookies are cool and bags open before the first icing',
        consequence: 'warm cookies melt icing, unopened bags cost the wet window',
      })),
};
