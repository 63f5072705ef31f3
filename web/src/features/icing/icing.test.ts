import { describe, expect, it } from 'vitest';
import { medianOf } from './CountPad.js';
import { curvesAlong, type Question, timesOf } from './curves.js';
import { fitnessText } from './fitness-text.js';

const q: Question = { seconds: 15, depthMm: 2.5, tempC: 22, humidityPct: 50, help: 'none' };

describe('drying curves', () => {
  it('rise with humidity, keep the order of states, and end where nothing dries', () => {
    const curves = curvesAlong(q, 'humidityPct');
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
  it('a fan and the box are quicker', () => {
    const crust = (help: Question['help']) => timesOf({ ...q, help }).crusted.p50 as number;
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
    expect(fitnessText(12, jobs)).toEqual({ text: '12 s: fine for flooding wide; likely to crater in pane: 20 s or warm air', fits: false });
  });
});
