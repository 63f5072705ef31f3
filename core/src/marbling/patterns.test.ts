import { describe, expect, it } from 'vitest';
import { marksOf } from '../design/design.js';
import { foldDesign } from '../design/document/fold.js';
import { type PatternId, patternById, patterns } from '../design/patterns/index.js';
import { REFERENCE_AIR } from '../drying/air.js';
import { areaMm2, contains, type Shape, signedRingArea } from '../geometry/shape.js';
import { stepSequence } from '../planning/step-sequence.js';
import { wetTiming } from '../planning/wet-timing.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { wetPools } from './pools.js';
import { wetPicture } from './wet-flow.js';

const svg =
  '<svg xmlns="http://www.w3.org/2000/svg" width="64mm" height="64mm" viewBox="0 0 64 64"><circle id="cookie" data-part="cookie" cx="32" cy="32" r="31" fill="#d9a566"/><circle id="s" data-part="section" cx="32" cy="32" r="27" fill="#f6f3ea"/></svg>';
const laid = (id: PatternId, more: { readonly sizeMm?: number; readonly spacingMm?: number; readonly count?: number } = {}) => {
  const [sizeMm, spacingMm] = patternById(id).usual ?? [2, 8];
  const design = foldDesign({
    format: 'kestfog-design/3',
    name: id,
    svg,
    edits: [
      {
        type: 'pattern',
        id: 'm',
        sectionId: 's',
        pattern: id,
        ask: { sizeMm, spacingMm, angleDeg: 0, count: 6, seed: 3, ...more },
        colours: ['#b3261e', '#1d4e89', '#6f9a4f'],
        seconds: null,
      },
    ],
  });
  const pool = wetPools(design)[0];
  if (!pool) throw new Error(id);
  return { design, pool, picture: wetPicture(pool) };
};
const recipes = patterns.filter((p) => p.kind === 'recipes').map((p) => p.id);
const holesOf = (shape: Shape) => shape.filter((r) => signedRingArea(r) < -1).length;

describe('every pattern of the trade', () => {
  it.each(recipes)('%s keeps every mark’s area, stays in its flood, and can be planned in one drying', (id) => {
    const { design, pool, picture } = laid(id);
    for (const i of picture.inks.filter((x) => x.laidAreaMm2 > 0)) {
      const full = picture.troubles.some((t) => t.kind === 'full');
      expect(Math.abs(areaMm2(i.shape) / i.laidAreaMm2 - 1), i.markId).toBeLessThan(full ? 0.03 : 0.01);
      for (const p of i.shape.flat()) expect(Math.hypot(p.x - 32, p.y - 32)).toBeLessThan(27.02);
    }
    const graph = deriveSteps(design, schoolById('two-bags'));
    const steps = stepSequence(graph, REFERENCE_AIR, 'normal');
    // One flooding; what is piped over its crust needs no second.
    expect(graph.rounds).toBe(1);
    for (const m of pool.marks)
      expect(
        steps.some((s) => s.step.parts.includes(m.id)),
        m.id,
      ).toBe(true);
    expect(wetTiming(pool, graph, REFERENCE_AIR, 'normal').seconds.every((s) => s > 0)).toBe(true);
  });
  it('hearts point the way they were pulled, each with a notch behind', () => {
    const { pool, picture } = laid('hearts');
    for (const m of pool.marks.filter((x) => x.technique === 'wet-drop')) {
      const shape = picture.inks.filter((i) => i.markId === m.id).flatMap((i) => i.shape);
      const middle = m.points.reduce((s, p) => s + p.x / m.points.length, 0);
      const xs = shape.flat().map((p) => p.x);
      expect(Math.max(...xs) - middle).toBeGreaterThan(middle - Math.min(...xs));
    }
  });
  it('a web keeps its rings open, tie-dye its order of colours from the middle', () => {
    const web = laid('web').picture;
    expect(web.inks.filter((i) => contains(i.shape, { x: 32, y: 32 }))).toEqual([]);
    expect(web.inks.every((i) => holesOf(i.shape) <= 1)).toBe(true);
    const { pool, picture } = laid('tie-dye-out');
    const ways = pool.marks
      .filter((m) => m.technique === 'wet-line')
      .map((m) => areaMm2(picture.inks.filter((i) => i.markId === m.id).flatMap((i) => i.shape)));
    expect(ways).toEqual([...ways].sort((a, b) => a - b));
  });
  it('the second pull of a chevron goes against the first, and petals are pulled out before in', () => {
    const drags = (id: PatternId) => marksOf(laid(id).design).filter((m) => m.technique === 'drag');
    const down = (m: { readonly points: readonly { readonly y: number }[] }) =>
      Math.sign((m.points.at(-1)?.y ?? 0) - (m.points[0]?.y ?? 0));
    const chevron = drags('chevron').map(down);
    expect([...new Set(chevron)]).toHaveLength(2);
    expect(chevron.slice(0, Math.ceil(chevron.length / 2)).every((d) => d === chevron[0])).toBe(true);
    const out = drags('bulls-eye-petals').map(
      (m) =>
        Math.hypot((m.points.at(-1)?.x ?? 0) - 32, (m.points.at(-1)?.y ?? 0) - 32) >
        Math.hypot((m.points[0]?.x ?? 0) - 32, (m.points[0]?.y ?? 0) - 32),
    );
    expect(out).toEqual([...Array(6).fill(true), ...Array(6).fill(false)]);
  });
  it('bubbles are drawn as rings and filled: they add less than as many injected drops', () => {
    const { pool, picture } = laid('bubbles');
    const injected = wetPicture({ ...pool, marks: pool.marks.map(({ words: _, ...m }) => m) });
    expect(picture.addedMl).toBeLessThan(injected.addedMl * 0.75);
  });
  it('the more cookies are worked together, the drier the first has become by each motion', () => {
    const { design, pool } = laid('feathers');
    const timing = wetTiming(pool, deriveSteps(design, schoolById('two-bags')), REFERENCE_AIR, 'normal');
    const [one, six] = [timing.dried(1), timing.dried(6)];
    for (const [i, d] of one.entries()) expect(six[i] as number).toBeGreaterThan(d);
    expect(Math.max(...timing.dried(timing.most))).toBeLessThanOrEqual(1);
  });
});
