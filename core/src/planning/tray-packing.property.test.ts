import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import type { Design } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import { intersection, offset } from '../geometry/clip.js';
import { areaMm2, boundingBox, type Shape } from '../geometry/shape.js';
import { planOrder } from './plan-order.js';
import { shapeAt, TrayPacking } from './tray-packing.js';

const SEED = 20261128;
const demo = ['gull', 'life-ring', 'lighthouse', 'mackerel', 'sailboat', 'signal-flag', 'compass-badge'].map((f) =>
  readDesign(readFileSync(new URL(`../../../server/demo/${f}.svg`, import.meta.url), 'utf8'), f),
);
const oblong = (name: string, w: number, h: number): Design =>
  readDesign(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}"><rect id="cookie" data-part="cookie" width="${w}" height="${h}" fill="none" stroke="#000"/><rect id="a" x="4" y="4" width="60" height="60" fill="#b3261e"/></svg>`,
    name,
  );
const order = (more: object) => parseOrder({ format: 'kestfog-order/3', openingHours: [[0, 50_400]], ...more });

describe('cookies of several designs on one tray', () => {
  it('one large and three small ones that cover less than the tray and do not lie on it are not said to fit', () => {
    const of = (trays: object[]) => () =>
      planOrder({
        order: order({
          designs: [
            { file: 'l', count: 1 },
            { file: 's', count: 3 },
          ],
          trays,
        }),
        designs: [oblong('l', 140, 180), oblong('s', 90, 90)],
        passes: 5,
      });
    expect(of([{ id: 'A', widthMm: 300, depthMm: 200 }])).toThrow(/do not fit/);
    // A larger tray holds them, and says where each lies.
    const plan = of([{ id: 'A', widthMm: 340, depthMm: 290 }])();
    expect(brokenRules(plan)).toEqual([]);
    expect(plan.trays[0]?.lots.flatMap((l) => l.at ?? [])).toHaveLength(4);
  });
  it('places are counted out: no two cookies on one, however designs are mixed', () => {
    const files = ['signal-flag', 'compass-badge', 'mackerel', 'gull'];
    const designs = files.map((f) => demo.find((d) => d.name === f) ?? (demo[0] as Design));
    const counts = [3, 3, 2, 1];
    const trays = ['A', 'B', 'C'].map((id) => ({ id, places: 6 }));
    const plan = planOrder({
      order: order({ designs: files.map((file, i) => ({ file, count: counts[i] })), trays, decorators: [{ id: 'a' }, { id: 'b' }] }),
      designs,
      passes: 5,
    });
    for (const t of plan.trays) {
      const places = t.lots.flatMap((l) => [...Array(l.cookies).keys()].map((k) => l.firstPlace + k));
      expect(new Set(places).size).toBe(places.length);
      expect(Math.max(-1, ...places)).toBeLessThan(6);
    }
  });
  it('property: whatever is laid lies on the tray and keeps the gap', () => {
    fc.assert(
      fc.property(
        fc.record({
          w: fc.integer({ min: 120, max: 500 }),
          d: fc.integer({ min: 120, max: 400 }),
          gap: fc.constantFrom(0, 3, 10),
          wanted: fc.array(fc.tuple(fc.nat({ max: demo.length - 1 }), fc.integer({ min: 1, max: 12 })), { minLength: 1, maxLength: 4 }),
        }),
        ({ w, d, gap, wanted }) => {
          const packing = new TrayPacking(w, d, gap);
          const laid: Shape[] = wanted.flatMap(([i, n]) =>
            packing.lay((demo[i] as Design).cookie, n).map((at) => shapeAt((demo[i] as Design).cookie, at)),
          );
          for (const [k, shape] of laid.entries()) {
            const box = boundingBox(shape.flat());
            expect(box.minX).toBeGreaterThan(-0.01);
            expect(box.minY).toBeGreaterThan(-0.01);
            expect(box.maxX).toBeLessThan(w + 0.01);
            expect(box.maxY).toBeLessThan(d + 0.01);
            const wide = gap > 0 ? offset(shape, gap - 0.02) : shape;
            for (const other of laid.slice(0, k)) expect(areaMm2(intersection(wide, other))).toBeLessThan(0.5);
          }
        },
      ),
      { seed: SEED, numRuns: 60 },
    );
  });
  it('a small tray holds what a hand would lay on it: by counting', () => {
    const big = oblong('big', 100, 100).cookie;
    const small = oblong('small', 68, 68).cookie;
    const packing = new TrayPacking(320, 210, 10);
    // Two big side by side, the small ones in the strip beside them and below.
    expect(packing.lay(big, 2)).toHaveLength(2);
    expect(packing.lay(small, 99)).toHaveLength(5);
  });
});
