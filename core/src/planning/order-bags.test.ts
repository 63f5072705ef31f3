import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { withWasteG } from '../icing/amounts.js';
import { schoolById } from '../steps/school.js';
import { orderBags } from './order-bags.js';

const demo = (file: string, name: string) =>
  readDesign(readFileSync(new URL(`../../../server/demo/${file}`, import.meta.url), 'utf8'), name);

describe('the bags of an order', () => {
  const lighthouse = { design: demo('lighthouse.svg', 'Lighthouse'), count: 12 };
  const bags = orderBags([lighthouse, { design: demo('mackerel.svg', 'Mackerel'), count: 12 }], schoolById('two-bags'));
  it('the eye’s white and the bands’ white are one bag, with one bag’s waste', () => {
    const white = bags.filter((b) => b.colour === '#f6f3ea' && b.seconds === 15);
    expect(white).toHaveLength(1);
    expect(white[0]?.designs).toEqual(['Lighthouse', 'Mackerel']);
    expect(white[0]?.mixG).toBeCloseTo(withWasteG(white[0]?.g ?? 0), 9);
    expect(white[0]?.g).toBeGreaterThan(
      orderBags([lighthouse], schoolById('two-bags')).find((b) => b.colour === '#f6f3ea' && b.seconds === 15)?.g ?? 0,
    );
  });
  it('one bag school needs fewer bags than two', () => {
    expect(orderBags([lighthouse], schoolById('one-bag')).length).toBeLessThan(orderBags([lighthouse], schoolById('two-bags')).length);
  });
});
