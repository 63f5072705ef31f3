import { describe, expect, it } from 'vitest';
import { mixingOrder, nearColours } from '../design/bags.js';
import { readDesign } from '../design/read-design.js';
import { bagAmounts } from '../steps/bag-amounts.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { gramsOf, withWasteG } from './amounts.js';
import { baseSeconds, baseWaterFrac, scaleRecipe, spoonOf, USUAL_RECIPES } from './recipe.js';
import { splitBowl } from './split.js';
import { countAfterAdding, DROPS_PER_ML, ML_PER_CUP, ML_PER_TBSP, ML_PER_TSP, stiffToRescue, thinning } from './thinning.js';
import { secondsFromWaterFrac, waterFracFromSeconds } from './water.js';

describe('thinning', () => {
  it('200 g from 40 s to 15 s: 4.60 g, 3.2 g first, 0.93 tsp, 92 drops (worked by hand)', () => {
    const t = thinning(200, 40, 15);
    expect(t.waterG).toBeCloseTo(4.6, 2);
    expect(t.firstG).toBeCloseTo(3.2, 1);
    expect(t.tsp).toBeCloseTo(0.93, 2);
    expect(Math.round(t.drops)).toBe(92);
    expect(countAfterAdding(200, 40, t.waterG)).toBeCloseTo(15, 9);
  });
  it('nothing to add where it is loose enough; stiff icing brings it back', () => {
    expect(thinning(200, 12, 15).waterG).toBe(0);
    const g = stiffToRescue(200, 12, 15, 60);
    // Mixing by mass of water: 200 g at 12 s and g at 60 s give 15 s.
    const water = (200 * waterFracFromSeconds(12) + g * waterFracFromSeconds(60)) / (200 + g);
    expect(secondsFromWaterFrac(water)).toBeCloseTo(15, 9);
    expect(stiffToRescue(200, 20, 15, 60)).toBe(0);
    expect(stiffToRescue(200, 12, 15, 15)).toBe(Number.POSITIVE_INFINITY);
  });
  // NIST SP 811 / US customary.
  it('spoons and cups', () => {
    expect(ML_PER_TBSP / ML_PER_TSP).toBeCloseTo(3, 4);
    expect(ML_PER_CUP / ML_PER_TBSP).toBeCloseTo(16, 3);
    expect(DROPS_PER_ML).toBe(20);
  });
});

describe('amounts', () => {
  const round = readDesign(
    '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><circle id="r" cx="50" cy="50" r="45" fill="#3f7f86"/></svg>',
  );
  const bags = (count: number) => bagAmounts(deriveSteps(round, schoolById('two-bags')), count);
  it('a 90 mm round at 2.5 mm takes 15.9 ml, 22.3 g of flood, before waste', () => {
    const flood = bags(1).find((b) => b.grade === 'flood');
    expect(flood?.ml).toBeCloseTo(15.9, 1);
    expect(flood?.g).toBeCloseTo(22.3, 1);
    expect(flood?.mixG).toBeGreaterThan(flood?.g ?? 0);
  });
  it('two dozen take 24 times as much, its dam a bag of its own', () => {
    expect(bags(24)[0]?.g).toBeCloseTo(24 * (bags(1)[0]?.g ?? 0), 9);
    expect(bags(24).map((b) => b.grade)).toEqual(['flood', 'outline']);
    // A bead of 1.5 mm round 282.7 mm: π/4 · 1.5² · 282.7 mm³.
    expect(bags(1)[1]?.ml).toBeCloseTo((Math.PI / 4) * 2.25 * Math.PI * 0.09, 2);
  });
  it('waste is counted once a bag and in proportion', () => expect(withWasteG(100)).toBeCloseTo(125, 9));
  it('density turns ml into g', () => expect(gramsOf(10)).toBe(14));
});

describe('mixing', () => {
  it('pale bowls before dark ones, stiff before thin', () => {
    const order = mixingOrder([
      { colour: '#22343c', seconds: 15 },
      { colour: '#f6f3ea', seconds: 15 },
      { colour: '#f6f3ea', seconds: 30 },
    ]);
    expect(order.map((o) => [o.colour, o.bags.map((b) => b.seconds)])).toEqual([
      ['#f6f3ea', [30, 15]],
      ['#22343c', [15]],
    ]);
  });
  it('near colours are offered for merging, far ones are not', () => {
    expect(nearColours(['#2e3a46', '#2f3b48', '#b3261e'])).toMatchObject([{ a: '#2e3a46', b: '#2f3b48' }]);
    expect(nearColours(['#ffffff', '#b3261e'])).toEqual([]);
  });
  it('recipes scale, and raw egg white carries its caution', () => {
    const r = scaleRecipe(1265, USUAL_RECIPES.dried);
    expect(r.sugarG + r.eggG + r.waterG).toBeCloseTo(1265, 9);
    expect(r.us.sugarCups).toBeCloseTo(1000 / 120, 6);
    expect(r.caution).toBeNull();
    expect(scaleRecipe(500, USUAL_RECIPES.fresh).caution).toMatch(/dried or pasteurised/);
  });
});

describe('a recipe and the thinning curve say the same', () => {
  // Mixes used in practice come out near a fifth of water (common practice, no published source): stiff to piping, not a rock.
  it.each(['dried', 'pasteurised', 'fresh'] as const)('the usual base of %s white', (egg) => {
    expect(baseWaterFrac(USUAL_RECIPES[egg])).toBeGreaterThan(0.185);
    expect(baseWaterFrac(USUAL_RECIPES[egg])).toBeLessThan(0.21);
    expect(baseSeconds(USUAL_RECIPES[egg])).toBeGreaterThan(40);
    expect(baseSeconds(USUAL_RECIPES[egg])).toBeLessThanOrEqual(120);
  });
  it('the base thinned as the calculator says counts what was wanted, and holds the water the recipe and the tap put in', () => {
    const base = USUAL_RECIPES.dried;
    const { waterG } = thinning(500, baseSeconds(base), 15);
    expect((500 * baseWaterFrac(base) + waterG) / (500 + waterG)).toBeCloseTo(waterFracFromSeconds(15), 6);
  });
  it('lemon counts as water, spoons and grams are the same, and a dry base counts as stiff', () => {
    const own = { ...USUAL_RECIPES.dried, waterG: 200, lemonG: 30 };
    expect(baseWaterFrac(own)).toBeCloseTo((200 + 0.92 * 30) / 1255, 9);
    const r = scaleRecipe(1255, own);
    expect(r.us.lemonTsp * spoonOf('lemon', 'dried').gPer).toBeCloseTo(30, 9);
    expect(r.us.eggTbsp * spoonOf('egg', 'dried').gPer).toBeCloseTo(25, 9);
    expect(baseSeconds({ ...own, waterG: 120, lemonG: 0 })).toBe(120);
  });
});

describe('one bowl into its bags', () => {
  it('keeps the dry matter: what goes in as base and water comes out in the bags', () => {
    const water = baseWaterFrac(USUAL_RECIPES.dried);
    const bags = [
      { seconds: 15, grams: 45 },
      { seconds: 30, grams: 20 },
    ];
    const plan = splitBowl(water, bags);
    expect(plan.steps.map((s) => s.seconds)).toEqual([30, 15]);
    expect(plan.baseG + plan.steps.reduce((s, x) => s + x.waterG, 0)).toBeCloseTo(65, 9);
    const dry = bags.reduce((s, b) => s + b.grams * (1 - waterFracFromSeconds(b.seconds)), 0);
    expect(plan.baseG * (1 - water)).toBeCloseTo(dry, 9);
    // By hand for the second step: what is left counts 30 s and must count 15 s.
    expect(plan.steps[1]?.waterG).toBeCloseTo(thinning(45 - (plan.steps[1]?.waterG ?? 0), 30, 15).waterG, 9);
  });
  it('icing stiffer than the base is the base as it is', () => {
    const plan = splitBowl(0.25, [{ seconds: 60, grams: 30 }]);
    expect(plan).toEqual({ baseG: 30, steps: [{ seconds: 60, waterG: 0, takeG: 30 }] });
  });
});
