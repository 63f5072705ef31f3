import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areaMm2, boundingBox, centroid, contains } from '../../geometry/shape.js';
import { aligned, alignments, boxOfPart, distributed, mirrorAbout, scaleAbout, shift, turnAbout } from '../arrange.js';
import { marksOf, sectionsOf } from '../design.js';
import { acrossStripes, dividedShape } from '../divide.js';
import { parseEdit } from './design-format.js';
import type { DesignDocument, DesignEdit } from './document.js';
import { foldDesign } from './fold.js';

const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><circle id="cookie" data-part="cookie" cx="50" cy="50" r="49" fill="#d9a566"/>
  <circle id="base" data-part="section" cx="50" cy="50" r="46" fill="#f6f3ea"/><rect id="a" data-part="section" data-over="layer" x="30" y="30" width="10" height="10" fill="#b3261e"/>
  <rect id="b" data-part="section" data-over="layer" x="44" y="33" width="10" height="14" fill="#2e3a46"/><rect id="c" data-part="section" data-over="layer" x="66" y="30" width="6" height="6" fill="#3f7f86"/>
  <circle id="dot" data-part="mark" data-technique="wet-drop" cx="35" cy="35" r="2" fill="#ffffff"/></svg>`;
const folded = (...edits: DesignEdit[]) =>
  foldDesign({ format: 'kestfog-design/3', name: 'd', svg, edits: edits.map((e, i) => parseEdit(e, `edits.${i}`)) } as DesignDocument);
const box = (d: ReturnType<typeof folded>, id: string) => boxOfPart(d, id) as NonNullable<ReturnType<typeof boxOfPart>>;
const areaOf = (d: ReturnType<typeof folded>, id: string) => areaMm2(sectionsOf(d).find((s) => s.id === id)?.drawn ?? []);
const marks = (more: object): DesignEdit => ({
  type: 'pattern',
  id: 'm',
  sectionId: 'base',
  pattern: 'dots-grid',
  ask: { sizeMm: 3, spacingMm: 12, angleDeg: 0, count: 6, seed: 1 },
  colours: ['#2e3a46'],
  seconds: 15,
  ...more,
});

describe('arranging', () => {
  it('moves a part with what lies wet in it, nudged, larger, turned, mirrored', () => {
    const moved = folded({ type: 'arrange', moves: [{ part: 'a', matrix: shift(0.5, -2) }] });
    expect(box(moved, 'a')).toMatchObject({ minX: 30.5, minY: 28 });
    expect(centroid([marksOf(moved)[0]?.points ?? []]).x).toBeCloseTo(35.5, 3);
    expect(marksOf(moved)[0]?.sectionId).toBe('a');
    const twice = folded({ type: 'arrange', moves: [{ part: 'a', matrix: scaleAbout({ x: 35, y: 35 }, 2) }] });
    expect(areaOf(twice, 'a')).toBeCloseTo(400, 3);
    const turned = folded({ type: 'arrange', moves: [{ part: 'b', matrix: turnAbout({ x: 49, y: 40 }, 90) }] });
    expect(box(turned, 'b').maxX - box(turned, 'b').minX).toBeCloseTo(14, 4);
    const mirrored = folded({ type: 'arrange', moves: [{ part: 'c', matrix: mirrorAbout({ x: 50, y: 50 }) }] });
    expect(box(mirrored, 'c')).toMatchObject({ minX: expect.closeTo(28, 4), maxX: expect.closeTo(34, 4) });
    expect(areaOf(mirrored, 'c')).toBeCloseTo(36, 3);
  });
  it('what goes by two names goes once; what is not there is reported', () => {
    const d = folded({
      type: 'arrange',
      moves: [
        { part: 'a', matrix: shift(1, 0) },
        { part: 'dot', matrix: shift(1, 0) },
      ],
    });
    expect(centroid([marksOf(d)[0]?.points ?? []]).x).toBeCloseTo(36, 3);
    expect(folded({ type: 'arrange', moves: [{ part: 'nobody', matrix: shift(1, 0) }] }).notes.at(-1)?.text).toContain(
      '"nobody" is not there any more',
    );
  });
  it.each(alignments)('brings parts to one %s, and one alone to that of the cookie', (to) => {
    const before = folded();
    const moves = aligned(before, ['a', 'b', 'c'], to);
    const after = folded({ type: 'arrange', moves });
    const side = (id: string) => {
      const x = box(after, id);
      return {
        left: x.minX,
        right: x.maxX,
        'middle across': (x.minX + x.maxX) / 2,
        top: x.minY,
        bottom: x.maxY,
        'middle down': (x.minY + x.maxY) / 2,
      }[to];
    };
    expect(side('b')).toBeCloseTo(side('a'), 3);
    expect(side('c')).toBeCloseTo(side('a'), 3);
    const one = folded({ type: 'arrange', moves: aligned(before, ['c'], to) });
    const [own, cookie] = [box(one, 'c'), boundingBox(one.cookie.flat())];
    const isAcross = to === 'left' || to === 'right' || to === 'middle across';
    if (to === 'left') expect(own.minX).toBeCloseTo(cookie.minX, 3);
    else expect(isAcross ? own.minY : own.minX).toBeCloseTo(isAcross ? 30 : 66, 3);
  });
  it('spreads three with equal gaps between them; two have nothing between', () => {
    const d = folded({ type: 'arrange', moves: distributed(folded(), ['c', 'a', 'b'], 'across') });
    expect(box(d, 'b').minX - box(d, 'a').maxX).toBeCloseTo(box(d, 'c').minX - box(d, 'b').maxX, 3);
    expect([box(d, 'a').minX, box(d, 'c').maxX]).toEqual([expect.closeTo(30, 3), expect.closeTo(72, 3)]);
    expect(distributed(folded(), ['a', 'b'], 'across')).toEqual([]);
  });
  it('a copy has names of its own, and what lay wet in it', () => {
    const d = folded(
      { type: 'copy', part: 'a', id: 'again', matrix: shift(-10, 20) },
      { type: 'say', part: 'again', said: { colour: '#112233' } },
    );
    expect(sectionsOf(d).map((s) => s.id)).toEqual(['base', 'a', 'again', 'b', 'c']);
    expect(marksOf(d).map((m) => [m.id, m.sectionId])).toEqual([
      ['again-1', 'again'],
      ['dot', 'a'],
    ]);
    expect([sectionsOf(d)[1]?.colour, sectionsOf(d)[2]?.colour]).toEqual(['#b3261e', '#112233']);
    expect(marksOf(d)[0]?.colour).toBe('#ffffff');
  });
  it('unites areas, and cuts others out of one with a gap', () => {
    const one = folded({ type: 'arrange', moves: [{ part: 'b', matrix: shift(-8, 0) }] }, { type: 'unite', parts: ['a', 'b'] });
    expect(sectionsOf(one).map((s) => s.id)).toEqual(['base', 'a', 'c']);
    expect(areaOf(one, 'a')).toBeCloseTo(100 + 140 - 4 * 7, 2);
    const cut = folded({ type: 'cut-out', part: 'base', by: ['c'], gapMm: 1 });
    expect(areaOf(folded(), 'base') - areaOf(cut, 'base')).toBeCloseTo(36 + 4 * 6 + Math.PI, 1);
    expect(contains(sectionsOf(cut)[0]?.drawn ?? [], { x: 69, y: 33 })).toBe(false);
    // Nothing would be left: it stays, and that is said.
    expect(folded({ type: 'cut-out', part: 'c', by: ['base'], gapMm: 0 }).notes.at(-1)?.code).toBe('skipped');
  });
});

it('the islands of an area become parts of their own', () => {
  const far = folded({ type: 'unite', parts: ['a', 'c'] });
  expect(sectionsOf(far).map((s) => s.id)).toEqual(['base', 'a', 'b']);
  const apart = folded({ type: 'unite', parts: ['a', 'c'] }, { type: 'part-islands', part: 'a' });
  expect(sectionsOf(apart).map((s) => s.id)).toEqual(['base', 'a.1', 'a.2', 'b']);
  expect(areaOf(apart, 'a.1') + areaOf(apart, 'a.2')).toBeCloseTo(136, 3);
  expect(folded({ type: 'part-islands', part: 'b' }).notes.at(-1)?.code).toBe('skipped');
});

describe('a pattern stays a pattern', () => {
  it('and gets other numbers, colours or marks later, keeping what was done since', () => {
    const before = marksOf(folded(marks({})));
    const later = folded(marks({}), { type: 'say', part: 'm', said: { name: 'spots' } }, {
      ...(marks({ ask: { sizeMm: 3, spacingMm: 20, angleDeg: 0, count: 6, seed: 1 }, colours: ['#ff0000'] }) as object),
      type: 'pattern-again',
    } as DesignEdit);
    const own = marksOf(later).filter((m) => m.id.startsWith('m.'));
    expect(own.length).toBeLessThan(before.length - 1);
    expect(own.every((m) => m.colour === '#ff0000' && m.name === 'spots')).toBe(true);
  });
  it('or is set free, and its marks are moved singly', () => {
    const d = folded(marks({}), { type: 'set-free', part: 'm' }, { type: 'arrange', moves: [{ part: 'm-2', matrix: shift(1, 1) }] });
    const [was, is] = [folded(marks({})), d].map((x) => marksOf(x).filter((m) => m.sectionId === 'base'));
    const goneBy = is?.map((m, i) => centroid([m.points]).x - centroid([was?.[i]?.points ?? []]).x) ?? [];
    expect(goneBy.filter((x) => Math.abs(x) > 0.01)).toHaveLength(1);
    expect(new Set(marksOf(d).map((m) => m.id)).size).toBe(marksOf(d).length);
  });
  it('a change of what is not there is reported', () =>
    expect(folded({ ...(marks({ id: 'gone' }) as object), type: 'pattern-again' } as DesignEdit).notes.at(-1)?.text).toContain('"gone"'));
});

describe('dividing unevenly', () => {
  const base = sectionsOf(folded())[0]?.shape ?? [];
  it('pieces have the shares of the whole, and are changed later under their own names', () => {
    const shares = [1, 2, 5];
    const pieces = dividedShape(base, { way: 'stripes', parts: 3, angleDeg: 0, shares });
    expect(pieces.map((p) => acrossStripes(p, 0)).map(([from, to]) => to - from)).toEqual(
      [11.5, 23, 57.5].map((mm) => expect.closeTo(mm, 1)),
    );
    const sectors = dividedShape(base, { way: 'radial', parts: 3, angleDeg: 10, shares });
    const whole = areaMm2(base);
    expect(sectors.map((p) => areaMm2(p) / whole)).toEqual([1 / 8, 2 / 8, 5 / 8].map((share) => expect.closeTo(share, 2)));
    const d = folded(
      { type: 'divide', sectionId: 'base', division: { way: 'stripes', parts: 3, angleDeg: 0 }, colours: ['#ffffff'] },
      { type: 'say', part: 'base.2', said: { colour: '#123456' } },
      { type: 'divide-again', sectionId: 'base', division: { way: 'stripes', parts: 3, angleDeg: 0, shares: [1, 1, 2] } },
    );
    expect(d.parts.filter((p) => p.id.startsWith('base.')).map((p) => [p.id, p.colour])).toEqual([
      ['base.1', '#ffffff'],
      ['base.2', '#123456'],
      ['base.3', '#ffffff'],
    ]);
    expect(box(d, 'base.3').maxY - box(d, 'base.3').minY).toBeCloseTo(46, 1);
  });
  it('nothing is lost and nothing lies twice, whatever the shares (seed 18)', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.05, max: 10, noNaN: true }), { minLength: 2, maxLength: 8 }),
        fc.integer({ min: -180, max: 180 }),
        fc.constantFrom('stripes' as const, 'radial' as const),
        (shares, angleDeg, way) => {
          const pieces = dividedShape(base, { way, parts: shares.length, angleDeg, shares });
          expect(pieces.reduce((sum, p) => sum + areaMm2(p), 0)).toBeCloseTo(areaMm2(base), 0);
        },
      ),
      { seed: 18, numRuns: 60, endOnFailure: true },
    ));
});
