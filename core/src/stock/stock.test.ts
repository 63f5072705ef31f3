import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/index.js';
import { parseOrder } from '../formats/index.js';
import { bagsOf, planOrder } from '../planning/index.js';
import { USUAL_TIPS } from '../steps/index.js';
import { shopping, usedUpOf } from './stock.js';
import { suppliesOf, usualThings } from './supplies.js';

const file = (name: string) => readFileSync(new URL(`../../test/fixtures/${name}`, import.meta.url), 'utf8');
const flag = readDesign(
  `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><path id="cookie" data-part="cookie" fill="#d9a566" d="M0 0H80V60H0Z"/>
  <path id="hoist" data-part="section" fill="#1f4e79" d="M4 4H76V56H4Z"/>
  <path id="rope" data-part="line" data-technique="pen" fill="none" stroke="#e3c58a" stroke-width="1" d="M10 50H36"/></svg>`,
  'Harbour flag',
);
const plan = planOrder({
  order: parseOrder(JSON.parse(file('paper/order.json'))),
  designs: [flag, readDesign(file('cards/bath.svg'), 'Bath')],
  passes: 2,
  timeUsed: () => 0,
});
const carton = { name: 'tray box', widthMm: 200, depthMm: 150, layers: 1 };
const navy = {
  '#1f4e79': {
    gelGPer100G: 2,
    parts: [
      { gel: 'Navy', parts: 3 },
      { gel: 'black', parts: 1 },
    ],
  },
};
const supplies = suppliesOf(plan, { carton, gels: navy });
const needs = Object.fromEntries(supplies.map((s) => [s.item, s.need]));

describe('what an order needs', () => {
  it('every thing has one name, and a figure above nothing', () => {
    expect(new Set(supplies.map((s) => s.item)).size).toBe(supplies.length);
    for (const s of supplies) expect([s.item, s.need > 0]).toEqual([s.item, true]);
  });
  it('gels are weighed by how the colour was mixed; a colour nobody weighed is to be had, whatever it takes', () => {
    const navyG = bagsOf(plan)
      .filter((b) => b.colour === '#1f4e79')
      .reduce((g, b) => g + b.mixG, 0);
    expect(navyG).toBeGreaterThan(10);
    expect([needs['gel navy'], needs['gel black']]).toEqual([expect.closeTo(navyG * 0.015, 6), expect.closeTo(navyG * 0.005, 6)]);
    expect(supplies.some((s) => s.item === 'colour #1f4e79')).toBe(false);
    expect(supplies.find((s) => s.item === 'pen #e3c58a')).toMatchObject({ unit: 'there', need: 1, usedUp: false });
  });
  it('what a kitchen can count beforehand is what orders ask for', () => {
    const usual = usualThings({ egg: 'dried', carton, tips: [...(plan.order.tips ?? USUAL_TIPS)] });
    const asked = supplies.filter((s) => !/^(cookie|gel|colour|pen|sprinkles|dust|lemon) /.test(s.item));
    for (const { item, what, unit, usedUp } of asked) expect(usual).toContainEqual({ item, what, unit, usedUp });
    // Sugar, egg white, bags, a tip, cartons and wraps at the least.
    expect(asked.length).toBeGreaterThanOrEqual(6);
  });
  it('as many tips as bags that want one, as many bags as there are', () => {
    const bags = bagsOf(plan);
    expect(needs['bag']).toBe(bags.length);
    for (const s of supplies.filter((x) => x.item.startsWith('tip ')))
      expect(s.need).toBe(bags.filter((b) => b.openings.some((o) => `tip ${o.name}` === s.item)).length);
  });
});

describe('what is missing, and what is used up', () => {
  const stock = { sugar: 100, bag: 400, 'gel navy': 0, 'pen #e3c58a': 1, wrap: 3 };
  it('what the kitchen has is taken off; what it has not said is to be bought whole', () => {
    const list = Object.fromEntries(shopping(supplies, stock).map((s) => [s.item, [s.have, s.buy]]));
    expect(list).toMatchObject({
      sugar: [100, (needs['sugar'] as number) - 100],
      bag: [400, 0],
      'gel navy': [0, needs['gel navy']],
      'pen #e3c58a': [1, 0],
      'gel black': [null, needs['gel black']],
    });
  });
  it('only what is counted and does not come back is taken off after the run', () => {
    expect(
      usedUpOf(supplies, { ...stock, 'tip nothing': 3 })
        .map((u) => u.item)
        .sort(),
    ).toEqual(['bag', 'gel navy', 'sugar', 'wrap']);
    expect(usedUpOf(supplies, {})).toEqual([]);
  });
});
