import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { linesOf, marksOf, sectionsOf } from './design.js';
import { parseEdit } from './document/design-format.js';
import type { DesignDocument, DesignEdit } from './document/document.js';
import { foldDesign } from './document/fold.js';
import { alongWay, handStroke, repeated } from './hand.js';

const svg =
  '<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><circle id="cookie" data-part="cookie" cx="40" cy="40" r="39" fill="#d9a566"/><circle id="base" data-part="section" cx="40" cy="40" r="35" fill="#f6f3ea"/></svg>';
const folded = (...edits: DesignEdit[]) => foldDesign({ format: 'kestfog-design/3', name: 'face', svg, edits } as DesignDocument);
const circle = (x: number, y: number, d: number) =>
  [...Array(24).keys()].map((i) => ({ x: x + (d / 2) * Math.cos((i * Math.PI) / 12), y: y + (d / 2) * Math.sin((i * Math.PI) / 12) }));
const draw = (more: Partial<Extract<DesignEdit, { type: 'draw' }>>): DesignEdit => ({
  type: 'draw',
  id: 'd1',
  name: 'drawn',
  technique: 'piped-line',
  strokes: [
    {
      points: [
        { x: 20, y: 20 },
        { x: 60, y: 20 },
      ],
      closed: false,
    },
  ],
  area: false,
  layer: false,
  colour: '#22343c',
  widthMm: 1.5,
  ...more,
});

describe('a stroke of the hand', () => {
  it('loses its tremble and keeps its ends', () => {
    const drawn = [...Array(200).keys()].map((i) => ({ x: i * 0.2, y: 10 + 0.25 * Math.sin(i * 2.1) }));
    const even = handStroke(drawn);
    expect(even[0]).toEqual(drawn[0]);
    expect(even.at(-1)).toEqual(drawn.at(-1));
    expect(even.length).toBeLessThan(30);
    for (const p of even.slice(1, -1)) expect(Math.abs(p.y - 10)).toBeLessThan(0.16);
  });
  it('keeps the shape it was drawn in to a fraction of a bead', () =>
    fc.assert(
      fc.property(fc.double({ min: 4, max: 30, noNaN: true }), (r) => {
        const ring = [...Array(240).keys()].map((i) => ({ x: r * Math.cos((i * Math.PI) / 120), y: r * Math.sin((i * Math.PI) / 120) }));
        for (const p of handStroke(ring, true)) expect(Math.abs(Math.hypot(p.x, p.y) - r)).toBeLessThan(0.15);
      }),
      { seed: 7, numRuns: 40, endOnFailure: true },
    ));
  it('is repeated left and right and around, but never upon itself', () => {
    const middle = { x: 40, y: 40 };
    expect(repeated([{ x: 30, y: 20 }], { way: 'mirror' }, middle)).toEqual([[{ x: 30, y: 20 }], [{ x: 50, y: 20 }]]);
    expect(repeated([{ x: 40.2, y: 20 }], { way: 'mirror' }, middle)).toHaveLength(1);
    const five = repeated([{ x: 60, y: 40 }], { way: 'turn', times: 5 }, middle).flat();
    expect(five).toHaveLength(5);
    for (const p of five) expect(Math.hypot(p.x - 40, p.y - 40)).toBeCloseTo(20, 9);
    expect(repeated([middle], { way: 'turn', times: 5 }, middle)).toHaveLength(1);
  });
  it('dots drawn in a row are evenly spaced, first and last where the hand was', () => {
    const row = alongWay(
      [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
        { x: 10, y: 7 },
      ],
      4,
    );
    expect(row[0]).toEqual({ x: 0, y: 0 });
    expect(row.at(-1)?.y).toBeCloseTo(7, 9);
    expect(row).toHaveLength(5);
  });
});

describe('what is piped on the screen', () => {
  it('a line lies on the flood and waits for it, a second layer lies on top, a flood beside or in it is let in', () => {
    const line = folded(draw({}));
    expect(linesOf(line)[0]).toMatchObject({ technique: 'piped-line', restsOn: ['base'], widthMm: 1.5 });
    const flood = (layer: boolean) =>
      folded(draw({ technique: 'flood', area: true, layer, strokes: [{ points: circle(40, 40, 20), closed: true }] }));
    expect(sectionsOf(flood(true)).at(-1)?.layerOn).toEqual(['base']);
    expect(sectionsOf(flood(false)).at(-1)?.layerOn).toEqual([]);
    expect(deriveSteps(flood(true), schoolById('two-bags')).rounds).toBe(2);
  });
  it('wet drops go into the flood they lie in, before what is drawn over it, each one to itself', () => {
    const eyes = draw({
      id: 'eyes',
      technique: 'wet-drop',
      strokes: [circle(30, 35, 6), circle(50, 35, 6)].map((points) => ({ points, closed: true })),
    });
    const design = folded(draw({}), eyes);
    expect(marksOf(design).map((m) => [m.id, m.sectionId, m.technique])).toEqual([
      ['eyes.1', 'base', 'wet-drop'],
      ['eyes.2', 'base', 'wet-drop'],
    ]);
    expect(design.parts.map((p) => p.id)).toEqual(['base', 'eyes.1', 'eyes.2', 'd1']);
  });
  it('wet work beside every flood is left out, and that is said', () => {
    const design = folded(
      draw({
        name: 'stray',
        technique: 'wet-line',
        strokes: [
          {
            points: [
              { x: 1, y: 1 },
              { x: 3, y: 1 },
            ],
            closed: false,
          },
        ],
      }),
    );
    expect(marksOf(design)).toEqual([]);
    expect(design.notes.at(-1)).toMatchObject({ code: 'skipped', place: 'stray' });
  });
  it('undone and done again it is the same design; too much of it is refused by place', () => {
    expect(folded(draw({}), { type: 'undo' }).parts).toHaveLength(1);
    expect(folded(draw({}), { type: 'undo' }, { type: 'redo' })).toEqual(folded(draw({})));
    const many = draw({
      strokes: [...Array(7).keys()].map(() => ({ points: [...Array(2000).keys()].map((i) => ({ x: i / 100, y: 1 })), closed: false })),
    });
    expect(() => parseEdit(many, 'edits.0')).toThrow(/at most 12000 points/);
    expect(() => parseEdit({ ...draw({}), technique: 'drip' } as never, 'edits.0')).toThrow(/technique/);
    expect(() => parseEdit({ ...draw({}), strokes: [] } as never, 'edits.0')).toThrow();
  });
});
