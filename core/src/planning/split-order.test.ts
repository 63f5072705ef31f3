import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenLaw } from '../../test/check-law.js';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { planOrder } from './plan-order.js';

/**
 * The same cookies on the same trays, ordered by one customer or by two: what is done on a cookie, in which order and for
 * how long cannot depend on who pays for it.
 */
const CARDS = ['tea-cosy', 'slate-sign', 'oven-mitt', 'harbour-sign', 'dragonfly', 'hills', 'toggle-coat'];

const planned = (card: string, lines: readonly number[]): Plan => {
  const svg = readFileSync(new URL(`../../test/fixtures/cards/${card}.svg`, import.meta.url), 'utf8');
  const designs = lines.map(() => readDesign(svg, card));
  const order = parseOrder({
    format: 'kestfog-order/3',
    designs: lines.map((count, i) => ({ file: card, count, for: `customer ${i + 1}` })),
    trays: ['A', 'B'].map((id) => ({ id, places: 3 })),
    openingHours: [0, 1, 2].map((d) => [d * 86_400, d * 86_400 + 50_400]),
  });
  return planOrder({ order, designs, passes: 40 });
};
/** Steps of each cookie in the order they are done, by tray. */
const done = (plan: Plan): string[] =>
  plan.trays.flatMap((tray) =>
    tray.lots.flatMap((lot) =>
      Array.from({ length: lot.cookies }, (_, cookie) => {
        const at = plan.tasks
          .filter((t) => t.lotId === lot.id && cookie >= t.cookies[0] && cookie < t.cookies[1])
          .flatMap((t) => t.motions.map((m) => ({ step: m.stepId, startS: t.startS + (m.startS[cookie - t.cookies[0]] as number) })));
        return `${tray.id}: ${at
          .sort((a, b) => a.startS - b.startS)
          .map((m) => m.step)
          .join(' ')}`;
      }),
    ),
  );

describe('an order split in two', () => {
  it.each(CARDS)('%s: each cookie is worked in the same order, in the same time', (card) => {
    const [one, two] = [planned(card, [6]), planned(card, [3, 3])];
    for (const plan of [one, two]) expect([...brokenRules(plan), ...brokenLaw(plan)]).toEqual([]);
    expect(done(one).length).toBe(6);
    expect(done(two)).toEqual(done(one));
    expect(two.handsOnS).toBeCloseTo(one.handsOnS, 3);
    expect(two.endS).toBe(one.endS);
  });
});
