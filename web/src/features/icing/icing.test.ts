import type { ThinningStepView } from '@kestfog/core/wire';
import { describe, expect, it } from 'vitest';
import { countingOf } from '../../app/counting.js';
import { medianOf } from './CountPad.js';
import { curvesAlong, type Helps, type Question, timesOf } from './curves.js';
import { fitnessText } from './fitness-text.js';
import { adviceFor, curveOf } from './thinning-flow.js';

const q: Question = { seconds: 15, depthMm: 2.5, tempC: 22, humidityPct: 50, help: 'none', on: 'cookie', margin: 'normal' };
const helps: Helps = { fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null }, dehydrator: { tempC: 35, airMPerS: 1 } };
const step = (more: Partial<ThinningStepView>): ThinningStepView => ({
  id: 'a',
  at: '',
  recipe: 'mine',
  grams: 200,
  addedG: 4.6,
  fromS: 40,
  toS: 15,
  ...more,
});

describe('drying curves', () => {
  it('rise with humidity, keep the order of states, and end where nothing dries', () => {
    const curves = curvesAlong(q, 'humidityPct', helps);
    expect(curves.map((c) => c.state)).toEqual(['thickening', 'skinned', 'crusted', 'set', 'firm', 'dry']);
    for (const c of curves) {
      for (const [i, p] of c.points.entries()) {
        expect(p.p10).toBeLessThan(p.p50);
        expect(p.p50).toBeLessThan(p.p90);
        if (i > 0) expect(p.p50).toBeGreaterThan(c.points[i - 1]?.p50 as number);
      }
      expect(c.points.at(-1)?.x).toBeLessThan(86);
    }
  });
  it('a fan and the dehydrator are quicker', () => {
    const crust = (help: Question['help']) => timesOf({ ...q, help }, helps).crusted.p50 as number;
    expect(crust('fan')).toBeLessThan(crust('none'));
    expect(crust('dehydrator')).toBeLessThan(crust('fan'));
  });
});

describe('counts', () => {
  it('the middle try counts', () => {
    expect([medianOf([12]), medianOf([12, 14]), medianOf([30, 12, 13])]).toEqual([12, 13, 13]);
  });
  it('says what a bag is fit for', () => {
    const jobs = [
      { job: 'flood', parts: ['wide'], verdict: 'fine', betterS: null },
      { job: 'flood', parts: ['pane'], verdict: 'craters', betterS: 20 },
    ] as const;
    expect(fitnessText(12, jobs, countingOf(15))).toEqual({
      text: '12 s: fine for flooding wide; likely to crater in pane: 20 s or warm air',
      fits: false,
    });
    // Whoever calls flood "a count of six" hears it on that scale.
    expect(fitnessText(15, jobs, countingOf(6)).text).toBe('6 s: fine for flooding wide; likely to crater in pane: 8 s or warm air');
  });
});

describe('thinning', () => {
  it('adds most of the water first, leaves what is as wanted, and rescues what went too far', () => {
    expect(adviceFor(200, 40, 15, 55)).toMatchObject({ kind: 'add', firstDrops: 64, drops: 92 });
    expect(adviceFor(200, 16, 15, 55)).toEqual({ kind: 'good' });
    const rescue = adviceFor(200, 10, 15, 55);
    expect(rescue.kind === 'too-loose' && rescue.stiffG).toBeGreaterThan(20);
  });
  it('a recipe has its own curve, and only its own tests count', () => {
    expect(curveOf([step({ recipe: 'other', toS: 5 })], 'mine')).toMatchObject({ tests: 0, curve: { slope: 55 } });
    // Icing that falls faster than the book says takes less water the next time.
    const { curve } = curveOf(Array(8).fill(step({ toS: 10 })), 'mine');
    expect(curve.slope).toBeGreaterThan(65);
    const [book, mine] = [adviceFor(200, 40, 15, 55), adviceFor(200, 40, 15, curve.slope)];
    expect(mine.kind === 'add' && book.kind === 'add' && mine.waterG < book.waterG).toBe(true);
  });
});
