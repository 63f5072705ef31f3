import { describe, expect, it } from 'vitest';
import { sectionsOf } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { askedToSimplify } from '../design/simpler-drawing.js';
import { areaMm2 } from './shape.js';
import { simplified } from './simplify.js';

describe('lines with fewer points', () => {
  it('a straight line keeps its ends, a corner stays, nothing moves farther than is said', () => {
    const line = [...Array(1000).keys()].map((k) => ({ x: k / 10, y: 0.04 * Math.sin(k) }));
    const corner = [...line, { x: 100, y: 50 }];
    const { points } = simplified({ points: corner, closed: false }, 0.1) as { points: readonly { x: number; y: number }[] };
    expect(points.length).toBeLessThan(8);
    expect(points[0]).toEqual(line[0]);
    expect(points.at(-1)).toEqual({ x: 100, y: 50 });
    expect(points.some((p) => p.x > 99.5 && p.y < 1)).toBe(true);
  });
  it('a ring keeps its area; a speck is left out', () => {
    const ring = [...Array(20_000).keys()].map((k) => ({
      x: 30 * Math.cos((k * Math.PI) / 10_000),
      y: 30 * Math.sin((k * Math.PI) / 10_000),
    }));
    const { points } = simplified({ points: ring, closed: true }, 0.1) as { points: readonly { x: number; y: number }[] };
    expect(points.length).toBeLessThan(100);
    expect(areaMm2([[...points]])).toBeGreaterThan(0.99 * Math.PI * 900);
    expect(simplified({ points: [0, 1, 2].map((k) => ({ x: k / 100, y: (k % 2) / 100 })), closed: true }, 0.1)).toBeNull();
  });
  it('a drawing of a hundred thousand points is refused as it is, and read where it asks to be simplified, with a note', () => {
    const at = (k: number) => {
      const a = (k * 2 * Math.PI) / 100_000;
      const r = 30 + 0.02 * Math.sin(k * 1.7);
      return `${(40 + r * Math.cos(a)).toFixed(3)} ${(40 + r * Math.sin(a)).toFixed(3)}`;
    };
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><path data-part="cookie" d="M5 5H75V75H5Z" fill="#c98f4e"/><path d="M${[...Array(100_000).keys()].map(at).join('L')}Z" fill="#b3261e"/></svg>`;
    expect(() => readDesign(svg)).toThrow(/more than 40000 points/);
    const design = readDesign(askedToSimplify(svg));
    expect(design.notes.map((n) => n.text)).toContainEqual(expect.stringMatching(/simplified to 0.1 mm: 10\d{4} points became \d{2,3}\./));
    expect(sectionsOf(design)).toHaveLength(1);
    expect(() => readDesign(svg.replace('<svg', '<svg data-simplify-mm="9"'))).toThrow(
      /data-simplify-mm="9" must be a number from 0.01 to 1/,
    );
  });
});
