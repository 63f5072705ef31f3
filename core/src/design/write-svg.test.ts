import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areaMm2, boundingBox } from '../geometry/shape.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { shift, turnAbout } from './arrange.js';
import { borderAlong } from './borders.js';
import type { Design } from './design.js';
import { parseEdit } from './document/design-format.js';
import type { DesignDocument, DesignEdit } from './document/document.js';
import { foldDesign } from './document/fold.js';
import { footprintOf } from './footprint.js';
import { circleAt, patternIds } from './patterns/index.js';
import { readDesign } from './read-design.js';
import { startingDrawing, startingShapes } from './starting-shapes.js';
import { writeDesignSvg } from './write-svg.js';

const doc = (edits: readonly DesignEdit[], shape = 0): DesignDocument =>
  ({
    format: 'kestfog-design/3',
    name: 'a "drawn" <one> & more',
    svg: startingDrawing(startingShapes[shape] as (typeof startingShapes)[number], '#e9eef0'),
    edits,
  }) as DesignDocument;
/** What a part is, wherever it was read: names, roles, ground to the hundredth of a square millimetre. */
const essence = (d: Design) => {
  const { minX, minY } = boundingBox(d.cookie.flat());
  return d.parts.map((p) => ({
    id: p.id,
    role: p.role,
    colour: p.colour,
    technique: 'technique' in p ? p.technique : undefined,
    ground: Math.round(areaMm2(footprintOf(p)) * 20) / 20,
    box: Object.values(
      boundingBox(
        footprintOf(p)
          .flat()
          .map((q) => ({ x: q.x - minX, y: q.y - minY })),
      ),
    ).map((v) => Math.round(v * 50) / 50),
    lies: p.role === 'mark' ? p.sectionId : p.role === 'section' ? p.layerOn : p.restsOn,
    group: p.group,
  }));
};
const draw = (id: string, technique: string, x: number, y: number, size: number, area: boolean): DesignEdit =>
  ({
    type: 'draw',
    id,
    name: technique,
    technique,
    strokes: [
      area
        ? { points: circleAt({ x, y }, size), closed: true }
        : {
            points: [
              { x, y },
              { x: x + size, y: y + 2 },
            ],
            closed: false,
          },
    ],
    area,
    layer: size > 12,
    colour: '#2e3a46',
    widthMm: area ? 2 : 1.5,
  }) as DesignEdit;

describe('a design as a drawing', () => {
  it('is of true size, and says what was said', () => {
    const d = doc([
      { type: 'say', part: 'base', said: { name: 'sky & "sea"', seconds: '20' } },
      { type: 'transfer', on: true },
      { type: 'ordering', ordering: 'middle' },
    ]);
    const again = readDesign(writeDesignSvg(d), 'again');
    const [a, b] = [foldDesign(d), again].map((x) => boundingBox(x.cookie.flat()));
    expect((b?.maxX ?? 0) - (b?.minX ?? 0)).toBeCloseTo((a?.maxX ?? 1) - (a?.minX ?? 0), 3);
    expect(again).toMatchObject({ transfer: true, ordering: 'middle', parts: [{ name: 'sky & "sea"', seconds: 20 }] });
  });
  it('what was taken off a part piece by piece stays off, under the names of those that are left', () => {
    const edge = circleAt({ x: 45, y: 45 }, 60);
    const border = borderAlong(edge, 'dots', 3);
    const dots: DesignEdit = {
      type: 'draw',
      id: 'b',
      name: 'dots',
      technique: 'piped-line',
      strokes: border.strokes.slice(0, 6),
      area: true,
      layer: false,
      colour: '#b3261e',
      widthMm: 1,
    };
    const d = doc([dots, { type: 'remove', part: 'b.3' }]);
    const ids = (x: Design) => x.parts.map((p) => p.id);
    expect(ids(readDesign(writeDesignSvg(d)))).toEqual(ids(foldDesign(d)));
  });
  it('what is to come first comes first again', () => {
    const d = doc([
      draw('one', 'pen', 30, 30, 5, false),
      draw('two', 'piped-line', 50, 50, 5, false),
      { type: 'first', first: 'two', next: 'one' },
    ]);
    const order = (x: Design) => deriveSteps(x, schoolById('two-bags')).steps.map((s) => s.part);
    expect(order(readDesign(writeDesignSvg(d)))).toEqual(order(foldDesign(d)));
  });

  const id = fc.integer({ min: 0, max: 4 }).map((i) => `d${i}`);
  const place = fc.integer({ min: 20, max: 66 });
  const anyEdit: fc.Arbitrary<DesignEdit> = fc.oneof(
    fc
      .tuple(
        fc.constantFrom('flood', 'relief', 'sprinkle', 'dust', 'stencil', 'wet-drop'),
        place,
        place,
        fc.integer({ min: 3, max: 20 }),
        fc.uuid(),
      )
      .map(([t, x, y, size, u]) => draw(u, t, x, y, size, true)),
    fc
      .tuple(id, fc.constantFrom('piped-line', 'pen', 'lettering', 'wet-line', 'drag', 'dipped-bead'), place, place, fc.uuid())
      .map(([, t, x, y, u]) => draw(u, t, x, y, 9, false)),
    fc.tuple(fc.constantFrom(...patternIds), fc.uuid(), fc.integer({ min: 0, max: 99 })).map(
      ([pattern, u, seed]): DesignEdit => ({
        type: 'pattern',
        id: u,
        sectionId: 'base',
        pattern,
        ask: { sizeMm: 2, spacingMm: 14, angleDeg: 10, count: 4, seed },
        colours: ['#b3261e', '#2e3a46', '#ffffff'],
        seconds: null,
      }),
    ),
    fc.tuple(place, fc.integer({ min: -170, max: 170 })).map(
      ([x, deg]): DesignEdit => ({
        type: 'arrange',
        moves: [{ part: 'base', matrix: deg % 2 ? shift(x / 40, 1) : turnAbout({ x: 45, y: 45 }, deg) }],
      }),
    ),
    fc.constant<DesignEdit>({
      type: 'divide',
      sectionId: 'base',
      division: { way: 'stripes', parts: 2, angleDeg: 30, shares: [1, 3] },
      colours: ['#ffffff', '#3f7f86'],
    }),
    fc.constant<DesignEdit>({ type: 'say', part: 'base', said: { group: 'g', 'depth-mm': '2' } }),
    fc.constant<DesignEdit>({ type: 'copy', part: 'base', id: 'again', matrix: shift(3, 3) }),
    fc.constant<DesignEdit>({ type: 'recolour', from: '#2e3a46', to: '#112233' }),
    fc.constant<DesignEdit>({ type: 'undo' }),
    fc.constant<DesignEdit>({ type: 'redo' }),
  );
  it('any run of tools, undos and redos is the same design for the server and in its own drawing (seed 1818)', () =>
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 9 }), fc.nat({ max: startingShapes.length - 1 }), (edits, shape) => {
        const d = doc(edits, shape);
        const here = foldDesign(d);
        const there = foldDesign({ ...d, edits: edits.map((e, i) => parseEdit(JSON.parse(JSON.stringify(e)), `edits.${i}`)) });
        expect(there).toEqual(here);
        // Edit after edit, as the page does it, and some of them taken back again.
        for (let k = 0; k <= edits.length; k++) foldDesign({ ...d, edits: edits.slice(0, k) });
        foldDesign({ ...d, edits: edits.slice(0, 1) });
        expect(foldDesign(d)).toEqual(here);
        expect(essence(readDesign(writeDesignSvg(d), d.name))).toEqual(essence(here));
      }),
      { seed: 1818, numRuns: 60, endOnFailure: true },
    ));
});
