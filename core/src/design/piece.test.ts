import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { areaMm2, boundingBox } from '../geometry/shape.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { linesOf, marksOf, sectionsOf } from './design.js';
import { parseEdit } from './document/design-format.js';
import { amended, type DesignDocument, type DesignEdit, standingEdits } from './document/document.js';
import { foldDesign } from './document/fold.js';
import { footprintOf } from './footprint.js';
import { fitting, gluedPieceEdit, pieceEdits } from './piece.js';
import { startingDrawing, startingShapes } from './starting-shapes.js';

const demo = (file: string): DesignDocument => ({
  format: 'kestfog-design/3',
  name: file,
  svg: readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'),
  edits: [],
});
const plaque = (...edits: DesignEdit[]): DesignDocument => ({
  format: 'kestfog-design/3',
  name: 'plaque',
  svg: startingDrawing(startingShapes.find((s) => s.id === 'plaque') as (typeof startingShapes)[number], '#ffffff'),
  edits: edits.map((e, i) => parseEdit(JSON.parse(JSON.stringify(e)), `edits.${i}`)),
});

describe('another design as a piece', () => {
  it.each(['sailboat', 'mackerel', 'lighthouse'])('%s lies on it as its own parts, smaller, as one group, and is undone as one', (file) => {
    const host = foldDesign(plaque());
    const other = foldDesign(demo(file));
    const matrix = fitting(other, host, 40);
    const laid: DesignEdit = { type: 'together', edits: pieceEdits(demo(file), 'p', matrix) };
    const d = foldDesign(plaque(laid));
    expect(d.notes.filter((n) => n.code === 'skipped')).toEqual([]);
    expect(sectionsOf(d).length).toBe(1 + sectionsOf(other).length);
    expect(linesOf(d).length).toBe(linesOf(other).length);
    expect(marksOf(d).length).toBe(marksOf(other).length);
    const f = matrix[0];
    for (const s of sectionsOf(other)) {
      const own = sectionsOf(d).find((x) => x.group === 'p' && x.name === s.name);
      expect(areaMm2(own?.drawn ?? []) / areaMm2(s.shape), s.id).toBeCloseTo(f * f, 3);
      expect(own).toMatchObject({ colour: s.colour, group: 'p' });
      expect(own?.layerOn.length).toBeGreaterThan(0);
    }
    expect(deriveSteps(d, schoolById('two-bags')).rounds).toBeGreaterThan(1);
    expect(foldDesign(plaque(laid, { type: 'undo' })).parts.map((p) => p.id)).toEqual(['base']);
  });
  it('or glued on as one piece made before, the ground of all its icing', () => {
    const host = foldDesign(plaque());
    const other = foldDesign(demo('sailboat'));
    const matrix = fitting(other, host, 40);
    const edit = gluedPieceEdit(other, 'boat', matrix) as DesignEdit;
    const d = foldDesign(plaque(edit));
    const boat = linesOf(d);
    expect(boat.every((l) => l.technique === 'glued-transfer' && l.area)).toBe(true);
    const box = boundingBox(boat.flatMap((l) => footprintOf(l).flat()));
    expect(box.maxX - box.minX).toBeLessThan(40);
    expect(boat.reduce((sum, l) => sum + areaMm2(footprintOf(l)), 0)).toBeGreaterThan(300);
  });
});

it('names as long and as alike as a drawing program gives them stay apart, and words speak of the right part', () => {
  const long = 'layer-of-the-drawing-with-a-name-that-goes-on-and-on-and-on-';
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect id="${long}a" data-part="section" width="20" height="60" fill="#ffffff"/>
    <rect id="${long}b" data-part="section" data-flush="${long}a" x="20" width="20" height="60" fill="#b3261e"/><path id="${long}c" data-part="line" data-after="${long}b" d="M2 5H38" stroke="#000000" fill="none"/></svg>`;
  const piece: DesignDocument = { format: 'kestfog-design/3', name: 'long', svg, edits: [] };
  const matrix = fitting(foldDesign(piece), foldDesign(plaque()), 30);
  const d = foldDesign(plaque({ type: 'together', edits: pieceEdits(piece, 'p', matrix) }));
  expect(d.parts.map((p) => p.id)).toEqual(['base', 'p-1', 'p-2', 'p-3']);
  expect(sectionsOf(d)[2]?.flushWith).toEqual(['p-1']);
  expect(linesOf(d)[0]?.words?.after).toEqual(['p-2']);
});

describe('things done together', () => {
  it('stand, are undone and changed later as if done one by one', () => {
    const name = (n: string) => ({ type: 'rename', name: n }) as const;
    const edits: DesignEdit[] = [{ type: 'together', edits: [name('a'), name('b')] }, name('c'), { type: 'undo' }];
    expect(amended(standingEdits(edits).standing)).toEqual([name('a'), name('b')]);
    expect(foldDesign(plaque(...edits)).name).toBe('b');
    expect(foldDesign(plaque(...edits, { type: 'undo' })).name).toBe('plaque');
    expect(() => parseEdit({ type: 'together', edits: [{ type: 'undo' }] }, 'edits.0')).toThrow(/edits\.0\.edits\[0\]\.type/);
    expect(() => parseEdit({ type: 'together', edits: [] }, 'edits.0')).toThrow(/edits\.0\.edits/);
  });
});
