import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { type OrderFile, parseOrder } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { Bag } from '../steps/step.js';
import { type BagUse, bagChanges, bagUsesOf } from './open-bags.js';
import { planOrder } from './plan-order.js';

const bag = (colour: string): Bag => ({ colour, seconds: 15 });
/** One visit a minute, each with the bags named by its letters. */
const visits = (by: string, ...of: string[]): BagUse[] =>
  of.map((letters, i) => ({ id: `${by}${i}`, by, bags: [...letters].map(bag), prepares: false, startS: i * 60, endS: i * 60 + 50 }));
const opened = (uses: readonly BagUse[], most: number) => [...bagChanges(uses, most).values()].flatMap((c) => c.opens).length;

describe('bags lying open', () => {
  it('the one needed last is put away: so many openings as the textbook example of optimal paging has faults', () => {
    // The reference string of the usual textbook example (Silberschatz, Galvin, Gagne, Operating System Concepts, ch. 9, from memory):
    // with three frames the optimal policy has 9 faults.
    const string = visits('a', ...'70120304230321201701'.split(''));
    expect(opened(string, 3)).toBe(9);
    // All twenty at hand: only the six pages' own first opening is left.
    expect(opened(string, 6)).toBe(6);
  });
  it('more bags open never mean more openings', () => {
    const string = visits('a', ...'abcadbeacbdaebcd'.split(''));
    const faults = [1, 2, 3, 4, 5].map((most) => opened(string, most));
    expect(faults).toEqual([...faults].sort((x, y) => y - x));
    expect(new Set(faults).size).toBeGreaterThan(3);
  });
  it('what is in hand is never put away, each pair of hands has bags of its own, and what is done with takes no room', () => {
    const both: BagUse[] = [
      { id: 'long', by: 'one', bags: [bag('a')], prepares: false, startS: 0, endS: 600 },
      ...visits('two', 'a', 'b', 'a'),
    ];
    const changes = bagChanges(both, 2);
    // The other's own bag makes room for its next one, not the one in hand.
    expect(changes.get('two1')).toEqual({ opens: [bag('b')], putsAway: [bag('a')] });
    // "b" is done with: nothing is put away for it.
    expect(changes.get('two2')).toEqual({ opens: [bag('a')], putsAway: [] });
  });
});

const names = ['lighthouse', 'signal-flag'];
const drawn = names.map((f) => readDesign(readFileSync(new URL(`../../../server/demo/${f}.svg`, import.meta.url), 'utf8'), f));
const order = (openBags: number | null, more: Partial<OrderFile> = {}): OrderFile => ({
  ...parseOrder({
    format: 'kestfog-order/3',
    designs: names.map((file) => ({ file, count: 4 })),
    trays: ['A', 'B'].map((id) => ({ id, places: 4 })),
    openingHours: [[0, 86_400]],
  }),
  openBags,
  ...more,
});
const plan = (openBags: number | null, more: Partial<OrderFile> = {}): Plan =>
  planOrder({ order: order(openBags, more), designs: drawn, passes: 20 });
const openings = (p: Plan) => p.tasks.flatMap((t) => t.opening?.bags ?? []);

describe('an order of which only so many bags may lie open', () => {
  const bagsOf = (p: Plan) => new Set(bagUsesOf(p).flatMap((u) => u.bags.map((b) => `${b.colour} ${b.seconds}`))).size;
  const free = plan(null);
  const inHand = Math.max(...free.tasks.map((t) => t.bags.length));

  it('has more bags in all than it has in hand at once', () => expect(bagsOf(free)).toBeGreaterThan(inHand));
  it('opens what was put away before the visit that needs it, in time that is planned, and never has more open', () => {
    const tight = plan(inHand);
    expect(brokenRules(tight)).toEqual([]);
    expect(openings(tight).length).toBeGreaterThan(0);
    for (const t of tight.tasks)
      if (t.opening) {
        expect(t.opening.seconds).toBe(t.opening.bags.length * ASSUMED_PACE.openBagS);
        expect(Math.min(...t.motions.flatMap((m) => m.startS))).toBeGreaterThanOrEqual(t.opening.seconds);
      }
    expect(tight.handsOnS).toBe(free.handsOnS + openings(tight).length * ASSUMED_PACE.openBagS);
  });
  it('the checker sees a bag too many: the plan that may open any breaks the limit', () => {
    expect(brokenRules({ ...free, order: order(inHand) }).filter((r) => r.includes('lie open'))).not.toEqual([]);
  });
  it('with room for all, nothing is opened anew, and it is the plan without a limit', () => {
    const all = plan(bagsOf(free));
    expect(openings(all)).toEqual([]);
    expect(all.endS).toBe(free.endS);
  });
  it('with every bag more it ends no later', () => {
    const limits = [...Array(bagsOf(free) - inHand + 1).keys()].map((k) => plan(inHand + k));
    limits.forEach((p, i) => {
      const before = limits[i - 1];
      if (before) expect(p.endS).toBeLessThanOrEqual(1.01 * before.endS);
    });
  });
  it('two pairs of hands share the room', () => {
    const two = plan(2 * inHand, {
      decorators: [
        { id: 'first', pace: 1 },
        { id: 'second', pace: 1 },
      ],
    });
    expect(brokenRules(two)).toEqual([]);
    expect(new Set(two.tasks.map((t) => t.by)).size).toBe(2);
  });
  it('with fan and dehydrator too', () => {
    const p = plan(inHand, { fan: { places: 1, airMPerS: 1 }, dehydrator: { places: 1, tempC: 35, airMPerS: 0.5 } });
    expect(brokenRules(p)).toEqual([]);
    expect(p.stays.length).toBeGreaterThan(0);
  });
});
