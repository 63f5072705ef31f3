import { svgPathProperties } from 'svg-path-properties';
import { describe, expect, it } from 'vitest';
import { difference, inscribedCircle, offset, shapeFromRings } from './clip.js';
import { touches } from './contact.js';
import { flattenPath } from './flatten.js';
import { polylineLengthMm } from './point.js';
import { areaMm2, centroid, contains, perimeterMm, type Shape } from './shape.js';

const shape = (d: string, transforms: string[] = ['scale(1)']): Shape =>
  shapeFromRings(
    flattenPath(d, transforms).map((s) => s.points),
    'nonzero',
  );
const circle = (r: number, x = 0, y = 0) => shape(`M${x - r} ${y}a${r} ${r} 0 1 1 ${2 * r} 0a${r} ${r} 0 1 1 ${-2 * r} 0Z`);
const rect = (x: number, y: number, w: number, h: number) => shape(`M${x} ${y}h${w}v${h}h${-w}Z`);

describe('figures with closed forms', () => {
  it('a circle of 20 mm', () => {
    expect(areaMm2(circle(20))).toBeCloseTo(Math.PI * 400, -0.5);
    expect(perimeterMm(circle(20)) / (Math.PI * 40)).toBeCloseTo(1, 3);
    expect(inscribedCircle(circle(20)).diameterMm).toBeCloseTo(40, 0);
  });
  it('an equilateral triangle of side 30: r = side / 2√3', () => {
    const t = shape(`M0 0L30 0L15 ${15 * Math.sqrt(3)}Z`);
    expect(areaMm2(t)).toBeCloseTo((Math.sqrt(3) / 4) * 900, 2);
    expect(inscribedCircle(t).diameterMm).toBeCloseTo(30 / Math.sqrt(3), 1);
    expect(centroid(t).y).toBeCloseTo(15 / Math.sqrt(3), 3);
  });
  it('a ring: hole counted in the perimeter, not in the area', () => {
    const ring = difference(circle(20), circle(10));
    expect(areaMm2(ring) / (Math.PI * 300)).toBeCloseTo(1, 3);
    expect(perimeterMm(ring) / (Math.PI * 60)).toBeCloseTo(1, 3);
    expect(inscribedCircle(ring).diameterMm).toBeCloseTo(10, 0);
    expect(contains(ring, { x: 0, y: 0 })).toBe(false);
    expect(contains(ring, { x: 15, y: 0 })).toBe(true);
  });
  it('an offset grows a square by its rounded rim', () => {
    expect(areaMm2(offset(rect(0, 0, 10, 10), 2))).toBeCloseTo(100 + 80 + Math.PI * 4, 0);
  });
  it('even-odd and nonzero differ where a path runs over itself', () => {
    const rings = flattenPath('M0 0h10v10h-10Z M2 2h6v6h-6Z', ['scale(1)']).map((s) => s.points);
    expect(areaMm2(shapeFromRings(rings, 'nonzero'))).toBeCloseTo(100, 6);
    expect(areaMm2(shapeFromRings(rings, 'evenodd'))).toBeCloseTo(64, 6);
  });
});

describe('paths against the reference library svg-path-properties', () => {
  it.each([
    'M10 80 C 40 10, 65 10, 95 80 S 150 150, 180 80',
    'M10 80 Q 52.5 10, 95 80 T 180 80',
    'M6 10 A 6 4 10 1 0 14 10',
    'M3,7 L13,-20 l5 5 h12 v7 H0 V-3 z',
  ])('length of %s', (d) => {
    const own = flattenPath(d, ['scale(1)']).reduce((s, p) => s + polylineLengthMm(p.points, p.closed), 0);
    expect(own / new svgPathProperties(d).getTotalLength()).toBeCloseTo(1, 3);
  });
  // A transform moves points and nothing else (SVG 2, "Coordinate systems, transformations and units").
  it.each([
    ['mirrored', 'scale(-1 1)', (x: number, y: number) => ({ x: -x, y })],
    ['upside down', 'scale(1 -1)', (x: number, y: number) => ({ x, y: -y })],
    ['turned', 'rotate(90)', (x: number, y: number) => ({ x: -y, y: x })],
    ['stretched and mirrored', 'scale(-2 1)', (x: number, y: number) => ({ x: -2 * x, y })],
    ['slanted', 'matrix(1 0 -0.5 1 0 0)', (x: number, y: number) => ({ x: x - 0.5 * y, y })],
  ] as const)('arcs %s lie where their points do', (_how, transform, by) => {
    for (const d of [
      'M20 20 A20 20 0 0 1 20 60 Z',
      'M20 20 A20 20 0 0 0 20 60 Z',
      'M6 10 A 6 4 10 1 0 14 10 Z',
      'M6 10 a 9 4 30 1 1 8 2 Z',
    ]) {
      const moved = shape(d).map((ring) => ring.map((p) => by(p.x, p.y)));
      const own = shape(d, [transform]);
      expect(areaMm2(difference(own, moved)) + areaMm2(difference(moved, own)), d).toBeLessThan(0.002 * Math.abs(areaMm2(own)) + 0.05);
    }
  });
  it('transforms apply innermost first', () => {
    const [line] = flattenPath('M1 0L2 0', ['rotate(90)', 'translate(10 0) scale(2)']);
    expect(line?.points[0]?.x).toBeCloseTo(10, 9);
    expect(line?.points[0]?.y).toBeCloseTo(2, 9);
  });
});

describe('touching', () => {
  it('along a shared edge, across a gap of half a millimetre, and not beyond', () => {
    expect(touches(rect(0, 0, 10, 10), rect(10, 0, 10, 10))).toBe(true);
    expect(touches(rect(0, 0, 10, 10), rect(10.45, 3, 10, 10))).toBe(true);
    expect(touches(rect(0, 0, 10, 10), rect(10.6, 0, 10, 10))).toBe(false);
  });
  it('needs a millimetre of edge', () => {
    expect(touches(rect(0, 0, 10, 10), rect(10, 8.9, 10, 10))).toBe(true);
    expect(touches(rect(0, 0, 10, 10), rect(10, 9.2, 10, 10))).toBe(false);
  });
  it('corners do not touch: diagonal quarters, and slices that meet at a point', () => {
    expect(touches(rect(0, 0, 10, 10), rect(10, 10, 10, 10))).toBe(false);
    const slice = (k: number, n: number) => {
      const at = (a: number) => `${30 * Math.cos(a)} ${30 * Math.sin(a)}`;
      return shape(`M0 0L${at((2 * Math.PI * k) / n)}L${at((2 * Math.PI * (k + 1)) / n)}Z`);
    };
    for (const n of [4, 6, 8, 12]) {
      expect(touches(slice(0, n), slice(1, n))).toBe(true);
      expect(touches(slice(0, n), slice(2, n))).toBe(false);
    }
  });
  it('a disc inside a ring touches it all round', () => {
    expect(touches(circle(10), difference(circle(20), circle(10)))).toBe(true);
  });
});
