import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenLaw } from '../../test/check-law.js';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { schoolIds } from '../steps/school.js';
import { techniqueById } from '../steps/techniques/index.js';
import { BadInput, NoAnswer } from '../units/bad-input.js';
import { planOrder } from './plan-order.js';

const SEED = 20261128;
const COLOURS = ['#f6f3ea', '#b3261e', '#3f7f86', '#f2c14e', '#22343c'];
const colour = fc.constantFrom(...COLOURS);
const cell = fc.record({ x: fc.integer({ min: 1, max: 6 }), y: fc.integer({ min: 1, max: 6 }) });
const rect = (x: number, y: number, w: number, h: number) => `M${x} ${y}h${w}v${h}h${-w}Z`;
let n = 0;
const id = (kind: string) => `${kind}-${++n}`;

/** A flood of a random size, over or beside those before it. */
const flood = fc
  .record({
    at: cell,
    w: fc.integer({ min: 7, max: 34 }),
    h: fc.integer({ min: 7, max: 34 }),
    colour,
    layer: fc.boolean(),
    sugar: fc.nat(5),
    drops: fc.nat(2),
  })
  .map(({ at, w, h, colour: c, layer, sugar, drops }) => {
    const [x, y] = [at.x * 10, at.y * 10];
    const own = id('flood');
    const marks = Array.from(
      { length: drops },
      (_, i) =>
        `<path id="${id('drop')}" data-part="mark" data-technique="wet-drop" fill="${COLOURS[i]}" d="${rect(x + 2 + 2 * i, y + 2, 1.5, 1.5)}"/>`,
    );
    const grains =
      sugar === 0
        ? `<path id="${id('grains')}" data-part="mark" data-technique="sprinkle" fill="#ffffff" d="${rect(x + 1, y + 1, w - 2, h - 2)}"/>`
        : '';
    return `<path id="${own}" data-part="section" ${layer && w < 16 ? 'data-over="layer" data-depth-mm="1.4"' : ''} fill="${c}" d="${rect(x, y, w, h)}"/>${marks.join('')}${grains}`;
  });
const stroke = (technique: string) =>
  fc
    .record({ at: cell, length: fc.integer({ min: 5, max: 30 }), upright: fc.boolean(), colour })
    .map(({ at, length, upright, colour: c }) => {
      const [x, y] = [at.x * 10 + 3, at.y * 10 + 3];
      return `<path id="${id(technique)}" data-technique="${technique}" fill="none" stroke="${c}" stroke-width="1.4" d="M${x} ${y}${upright ? 'v' : 'h'}${length}"/>`;
    });
const area = (technique: string) =>
  fc
    .record({ at: cell, w: fc.integer({ min: 4, max: 14 }), h: fc.integer({ min: 4, max: 14 }), colour })
    .map(
      ({ at, w, h, colour: c }) =>
        `<path id="${id(technique)}" data-technique="${technique}" fill="${c}" d="${rect(at.x * 10 + 2, at.y * 10 + 2, w, h)}"/>`,
    );
const guide = fc
  .record({ at: cell, kind: fc.constantFrom('traced', 'ruled', 'projected') })
  .map(
    ({ at, kind }) =>
      `<path id="${id('guide')}" data-part="guide" data-guide="${kind}" fill="none" stroke="#999" d="M${at.x * 10} ${at.y * 10 + 5}h12"/>`,
  );
const STROKES = ['piped-line', 'lettering', 'relief', 'closing-outline', 'pen', 'paint', 'dipped-bead'];
const AREAS = ['crackle', 'stencil', 'airbrush', 'dust', 'wafer', 'glued-transfer', 'assembly'];
const stack = fc.record({
  floods: fc.array(flood, { minLength: 1, maxLength: 5 }),
  more: fc.array(
    fc.oneof(
      { weight: 4, arbitrary: fc.oneof(...STROKES.map(stroke)) },
      { weight: 3, arbitrary: fc.oneof(...AREAS.map(area)) },
      { weight: 1, arbitrary: guide },
      { weight: 1, arbitrary: flood },
    ),
    { maxLength: 5 },
  ),
  school: fc.constantFrom(...schoolIds),
  margin: fc.constantFrom('bold', 'normal', 'careful'),
  fan: fc.boolean(),
  count: fc.integer({ min: 1, max: 3 }),
});

describe(`plans of random stacks with all techniques (seed ${SEED})`, () => {
  it('keep the law on every cookie, judged by a checker that shares no rule with the product', () => {
    let planned = 0;
    const used = new Set<string>();
    let noticed = 0;
    fc.assert(
      fc.property(stack, (s) => {
        const text = `<svg xmlns="http://www.w3.org/2000/svg" width="110mm" height="110mm" viewBox="0 0 110 110"><path id="cookie" data-part="cookie" d="M1 1h108v108h-108Z"/>${s.floods.join('')}${s.more.join('')}</svg>`;
        let plan: Plan;
        try {
          const order = parseOrder({
            format: 'kestfog-order/3',
            designs: [{ file: 'stack', count: s.count }],
            trays: [{ id: 'A', places: 3 }],
            openingHours: [0, 1, 2, 3].map((d) => [d * 86_400, d * 86_400 + 50_400]),
            school: s.school,
            margin: s.margin,
            ...(s.fan ? { fan: { places: 1 } } : {}),
          });
          plan = planOrder({ order, designs: [readDesign(text, 'stack')], passes: 10 });
        } catch (e) {
          // A crackle whose window is over, too much wet work: then it is said in a sentence, never planned wrongly.
          expect(e instanceof NoAnswer || e instanceof BadInput, String(e)).toBe(true);
          return;
        }
        planned += 1;
        for (const d of plan.designs) for (const step of d.graph.steps) used.add(step.technique);
        expect([...brokenRules(plan), ...brokenLaw(plan)], text).toEqual([]);
        if (brokenLaw(hasty(plan)).length > 0) noticed += 1;
      }),
      { seed: SEED, numRuns: 50 },
    );
    expect(planned).toBeGreaterThan(40);
    const missing = [...STROKES, ...AREAS, 'flood', 'sprinkle', 'wet-drop'].filter((t) => !used.has(techniqueById(t as never).id));
    expect(missing).toEqual([]);
    // The checker itself notices details that are done some hours too soon.
    expect(noticed).toBeGreaterThan(10);
  });
});

const hasty = (plan: Plan): Plan => ({
  ...plan,
  tasks: plan.tasks.map((t) => (t.kind === 'detail' ? { ...t, startS: t.startS - 20_000 } : t)),
});
