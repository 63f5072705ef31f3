import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { offset, shapeFromRings } from '../geometry/clip.js';
import { distance, nearestOnSegment, type Point } from '../geometry/point.js';
import { areaMm2, boundingBox, contains } from '../geometry/shape.js';
import { readOutlineFace } from '../outline-face/index.js';
import { readLineFace } from './faces.js';
import { lettered, narrowestMm } from './lettering.js';
import { circleAt } from './patterns/index.js';

const { resolve } = createRequire(import.meta.url);
const lineFace = (name: string, joins = false) => readLineFace(readFileSync(resolve(`hersheytext/svg_fonts/${name}.svg`), 'utf8'), joins);
const bytes = (path: string): ArrayBuffer => {
  const b = readFileSync(resolve(path));
  return b.buffer.slice(b.byteOffset, b.byteOffset + b.byteLength) as ArrayBuffer;
};
const areaFace = (name: string, weight: number, joins = false) =>
  readOutlineFace(
    ['latin', 'latin-ext'].map((part) => bytes(`@fontsource/${name}/files/${name}-${part}-${weight}-normal.woff`)),
    joins,
  );
const upright = lineFace('EMSReadability');
const faces = {
  upright,
  slanted: lineFace('EMSReadabilityItalic'),
  flowing: lineFace('EMSAllure'),
  running: lineFace('HersheyScript1', true),
  narrow: lineFace('EMSTech'),
  round: areaFace('baloo-2', 800),
  brush: areaFace('lobster', 400, true),
};
/** Letters of the languages of Europe written in Latin script (Unicode: Latin-1 Supplement, Latin Extended-A, and comma below). */
const LETTERS =
  'ÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÐÑÒÓÔÕÖØÙÚÛÜÝÞßàáâãäåæçèéêëìíîïðñòóôõöøùúûüýþÿĀāĂăĄąĆćĊċČčĎďĐđĒēĖėĘęĚěĞğĠġĢģĦħĪīĮįİıĶķĹĺĻļĽľŁłŃńŅņŇňŐőŒœŔŕŘřŚśŞşŠšŢţŤťŪūŮůŰűŲųŴŵŶŷŸŹźŻżŽžȘșȚț';
const place = { middle: { x: 40, y: 40 }, arcDeg: 0 };
const ask = { text: 'Kestrel', heightMm: 8, place };

describe('lettering', () => {
  it('stands as high as asked, in its middle, letter after letter as a hand pipes', () => {
    const strokes = lettered(upright, ask);
    const k = boundingBox(strokes.slice(0, 2).flat());
    expect(k.maxY - k.minY).toBeCloseTo(8, 0);
    const all = boundingBox(strokes.flat());
    expect((all.minX + all.maxX) / 2).toBeCloseTo(40, 0);
    const firsts = strokes.map((s) => Math.min(...s.map((p) => p.x)));
    expect(Math.min(...firsts.slice(-2))).toBeGreaterThan(Math.max(...firsts.slice(0, 2)));
  });
  it.each(Object.entries(faces))('%s has the accented letters of European languages, its own or put together', (_, face) => {
    for (const l of LETTERS) {
      const strokes = lettered(face, { ...ask, text: l });
      expect(strokes.length, l).toBeGreaterThan(0);
      const box = boundingBox(strokes.flat());
      expect(box.maxY - box.minY, l).toBeLessThan(2.5 * 8);
    }
  });
  it('an accent takes the place of a dot, and what a face lacks is named', () => {
    expect(lettered(upright, { ...ask, text: 'ī' })).toHaveLength(2);
    expect(lettered(upright, { ...ask, text: 'ı' })).toHaveLength(1);
    expect(() => lettered(upright, { ...ask, text: 'Ω да' })).toThrow(/no “Ω”, “д”, “а”/);
    expect(() => lettered(faces.round, { ...ask, text: '漢' })).toThrow(/no “漢”/);
    expect(() => lettered(upright, { ...ask, text: '  ' })).toThrow(/no word/);
  });
  it('strokes of neighbours are one only in a running hand', () => {
    const ofOne = (face: typeof upright, text: string) => [...text].reduce((n, l) => n + lettered(face, { ...ask, text: l }).length, 0);
    for (const face of [faces.upright, faces.slanted, faces.flowing, faces.narrow])
      expect(lettered(face, { ...ask, text: 'annual' })).toHaveLength(ofOne(face, 'annual'));
    expect(lettered(faces.running, { ...ask, text: 'annual' }).length).toBeLessThan(ofOne(faces.running, 'annual') - 3);
  });
});

const turnOf = (s: readonly Point[]) => Math.atan2((s.at(-1)?.x ?? 0) - (s[0]?.x ?? 0), -((s.at(-1)?.y ?? 0) - (s[0]?.y ?? 0)));
const lengthOf = (s: readonly Point[]) => distance(s[0] as Point, s.at(-1) as Point);

describe('lettering on an arc and along an edge', () => {
  it('no letter is turned by more than the arc asks, and none is bent', () => {
    const straight = lettered(upright, { ...ask, text: 'IIIII' });
    const bent = lettered(upright, { ...ask, text: 'IIIII', place: { ...place, arcDeg: 60 } });
    const half = ((60 / 2) * Math.PI) / 180;
    for (const [i, s] of bent.entries()) {
      const by = turnOf(s) - turnOf(straight[i] as Point[]);
      expect(Math.abs(Math.atan2(Math.sin(by), Math.cos(by)))).toBeLessThanOrEqual(half + 0.02);
      expect(lengthOf(s)).toBeCloseTo(lengthOf(straight[i] as Point[]), 6);
    }
  });
  const ring = [...circleAt({ x: 50, y: 50 }, 70)];
  it.each([0, 0.25, 0.5, 0.75])('stands by its middle on the edge, whole, and never on its head (at %d of the way)', (share) => {
    const strokes = lettered(upright, { text: 'IIII', heightMm: 6, place: { along: ring, closed: true, share } });
    const mids: number[] = [];
    for (const s of strokes) {
      expect(Math.abs(lengthOf(s) - 6)).toBeLessThan(0.3);
      const mid = { x: ((s[0]?.x ?? 0) + (s.at(-1)?.x ?? 0)) / 2, y: ((s[0]?.y ?? 0) + (s.at(-1)?.y ?? 0)) / 2 };
      const off = Math.min(...ring.map((p, i) => distance(mid, nearestOnSegment(mid, p, ring[(i + 1) % ring.length] as Point))));
      expect(off).toBeLessThan(0.4);
      mids.push(mid.x);
    }
    // Read from left to right, wherever the words stand; beside the middle they run up or down.
    if (share === 0.25 || share === 0.75) expect(mids).toEqual([...mids].sort((a, b) => a - b));
  });
  it('on an open way all of it is kept; words longer than the edge are refused with both lengths', () => {
    const way = [
      { x: 0, y: 0 },
      { x: 60, y: 0 },
    ];
    const at = (share: number) => boundingBox(lettered(upright, { ...ask, place: { along: way, closed: false, share } }).flat());
    expect(at(0).minX).toBeGreaterThanOrEqual(0);
    expect(at(1).maxX).toBeLessThanOrEqual(60);
    expect(() =>
      lettered(upright, { ...ask, text: 'A word that is far too long', place: { along: way, closed: false, share: 0.5 } }),
    ).toThrow(/\d+ mm long and the edge 60 mm/);
  });
});

describe('a face of areas', () => {
  it('has its letters as what they cover, holes left out', () => {
    const o = shapeFromRings(lettered(faces.round, { ...ask, text: 'o' }), 'nonzero');
    expect(o).toHaveLength(2);
    expect(contains(o, { x: 40, y: 41 })).toBe(false);
    const i = boundingBox(lettered(faces.round, { ...ask, text: 'H' }).flat());
    // Its feet are round and reach a little below the line.
    expect(Math.abs(i.maxY - i.minY - 8)).toBeLessThan(0.2);
  });
  it('says how narrow it is at a height: as wide a tip goes in, and no wider', () => {
    const mm = narrowestMm(faces.round, 'Leaf', 12);
    for (const l of 'Leaf') {
      const shape = shapeFromRings(lettered(faces.round, { ...ask, heightMm: 12, text: l }), 'nonzero');
      expect(areaMm2(offset(shape, -(mm / 2) * 0.95)), l).toBeGreaterThan(0);
    }
    expect(narrowestMm(upright, 'Leaf', 12)).toBe(Number.POSITIVE_INFINITY);
  });
  it('what is no face is said', () => expect(() => readOutlineFace([new ArrayBuffer(40)], false)).toThrow(/cannot be read/));
});
