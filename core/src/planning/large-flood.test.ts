import { describe, expect, it } from 'vitest';
import { Recount } from '../bench/recount.js';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import type { Motion, PlanTask } from '../formats/plan.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { Gap } from '../steps/step.js';
import { secondsByKind } from './own-pace.js';
import { planOrder } from './plan-order.js';
import { timeGap } from './timed-gap.js';

/** A plaque of 180 × `highMm`: at a hand's pace its flood takes minutes, and its outline thickens in less than two. */
const plaque = (highMm: number, marks = '') =>
  readDesign(
    `<svg xmlns="http://www.w3.org/2000/svg" width="190mm" height="${highMm + 10}mm" viewBox="0 0 190 ${highMm + 10}">
      <path id="c" data-part="cookie" fill="none" stroke="#000" d="M2 2h186v${highMm + 6}h-186z"/>
      <path id="face" fill="#ffffff" d="M5 5h180v${highMm}h-180z"/>${marks}</svg>`,
    'plaque.svg',
  );
const plan = (design: ReturnType<typeof plaque>, school: string) =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: [{ file: 'plaque.svg', count: 2 }],
      trays: [{ id: 'A', places: 2 }],
      openingHours: [[0, 12 * 3600]],
      school,
    }),
    designs: [design],
    passes: 40,
  });
const wet = (p: ReturnType<typeof plan>): PlanTask[] => p.tasks.filter((t) => t.kind === 'wet');

describe('a flood so large that its outline would thicken before it is filled', () => {
  for (const school of ['two-bags', 'one-bag', 'warm-box'])
    it(`is worked in parts, each run into the one before, not refused: ${school}`, () => {
      const p = plan(plaque(140), school);
      expect(brokenRules(p)).toEqual([]);
      expect(wet(p)).toHaveLength(2);
      for (const t of wet(p)) {
        expect(t.parts).toBeGreaterThan(1);
        expect(t.title).toContain(`outline and flood, in ${t.parts} parts one into the other, face`);
      }
      // A snip is cut wider once, not before every cookie.
      expect(wet(p).filter((t) => t.title.startsWith('widen the snip')).length).toBeLessThan(2);
    });
  it('one that its outline bears is outlined and flooded in one go, as ever', () => {
    const p = plan(plaque(20), 'two-bags');
    expect(wet(p).map((t) => t.parts)).toEqual([undefined]);
    expect(wet(p)[0]?.title).toBe('flood face');
  });
  it('outline and flood in turns are learned from as what each takes, and handling is the rest', () => {
    const p = plan(plaque(140), 'two-bags');
    for (const t of wet(p)) {
      const byKind = secondsByKind(p, t);
      expect([...byKind.values()].reduce((a, b) => a + b, 0)).toBeCloseTo(t.endS - t.startS, 6);
      const [dam, flood] = (['dam', 'flood'] as const).map((k) => p.designs[0]?.graph.steps.find((s) => s.kind === k)?.seconds as number);
      // Taking up the other bag belongs to its part.
      expect(byKind.get('dam')).toBeCloseTo((dam as number) + (t.parts as number) * ASSUMED_PACE.bagPickUpS, 6);
      expect(byKind.get('flood') as number).toBeGreaterThan(flood as number);
    }
  });
  it('at the bench, too, the window of a drop counts from the first part', () => {
    const p = plan(plaque(48, '<circle id="d" fill="#ff0000" cx="20" cy="20" r="2"/>'), 'two-bags');
    expect(brokenRules(p)).toEqual([]);
    const [task] = wet(p);
    const [flood, drop] = ['flood', 'mark'].map((k) => task?.motions.find((m) => m.kind === k)) as [Motion, Motion];
    expect(task?.parts).toBeGreaterThan(1);
    const first = flood.firstPartS?.[0] as number;
    expect(first).toBeLessThan((flood.endS[0] as number) - 30);
    const gap = p.designs[0]?.graph.gaps.find((g) => g.rule === 'wet-window') as Gap;
    const windowS = timeGap(gap, p.air, p.margin, p.factors).maxS as number;
    // Counted from the flood's end, it is shorter by what the first part lay before.
    expect((flood.endS[0] as number) + (drop.windowS as number)).toBeLessThanOrEqual(first + windowS);
    expect((flood.endS[0] as number) + (drop.windowS as number)).toBeGreaterThan(first + windowS - 2);
    const asRun = new Recount({ plan: p, tasks: new Map(), room: [], carries: [], looks: [], atS: 0 })
      .plan()
      .tasks.find((t) => t.id === task?.id);
    expect(Math.abs((asRun?.motions.find((m) => m.stepId === drop.stepId)?.windowS as number) - (drop.windowS as number))).toBeLessThan(2);
  });
  it('drops into it count from its first part, which thickens first: what that closes to is refused by its real reason', () => {
    const dots = [...Array(40).keys()]
      .map((i) => `<circle id="d${i}" fill="#ff0000" cx="${20 + (i % 10) * 15}" cy="${30 + Math.floor(i / 10) * 25}" r="2"/>`)
      .join('');
    expect(() => plan(plaque(140, dots), 'two-bags')).toThrow(/one pass of wet work takes [78]:.. on one cookie and the window is/);
  });
});
