import { describe, expect, it } from 'vitest';
import { difference, intersection, union } from '../geometry/clip.js';
import { areaMm2, type Ring } from '../geometry/shape.js';
import { readDesign } from './read-design.js';
import { meetingEnds, meetingNeighbours, placeAround, SNAP_MM } from './snap.js';

const design = readDesign(
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="80mm" viewBox="0 0 100 80"><rect id="cookie" data-part="cookie" width="100" height="80" fill="#d9a566"/>
  <rect id="base" data-part="section" x="5" y="5" width="90" height="70" fill="#f6f3ea"/><rect id="left" data-part="section" data-over="layer" x="15" y="20" width="20" height="40" fill="#b3261e"/>
  <rect id="right" data-part="section" data-over="layer" x="60" y="20" width="20" height="40" fill="#2e3a46"/>
  <rect id="frame" data-part="line" x="38" y="30" width="18" height="12" fill="none" stroke="#112233" stroke-width="2"/></svg>`,
);
const rect = (x0: number, y0: number, x1: number, y1: number): Ring => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];

describe('a drawn area meets what lies beside it', () => {
  it('a narrow gap is closed, a narrow overlap trimmed, the rest stays as it was drawn', () => {
    const left = [rect(15, 20, 35, 60)];
    for (const x of [35.9, 34.3]) {
      const met = [meetingNeighbours(rect(x, 25, 50, 50), design)];
      expect(areaMm2(intersection(met, left))).toBeLessThan(0.01);
      // From the neighbour's edge to where it was drawn, but for the corners, which a bead rounds.
      const asked = [rect(35, 25, 50, 50)];
      expect(areaMm2(difference(asked, met))).toBeLessThan(1);
      expect(areaMm2(difference(met, asked))).toBeLessThan(1);
    }
  });
  it('reaches the edge of the flood it is drawn on, and no farther', () => {
    const met = [meetingNeighbours(rect(40, 6.2, 50, 15), design)];
    expect(areaMm2(met)).toBeCloseTo(10 * 10, -1);
    expect(Math.min(...met.flat().map((p) => p.y))).toBeCloseTo(5, 2);
    const over = [meetingNeighbours(rect(40, 3, 50, 15), design)];
    expect(Math.min(...over.flat().map((p) => p.y))).toBeCloseTo(5, 2);
  });
  it('what lies across another by more than a slip was meant to, and far off nothing changes', () => {
    const across = rect(28, 25, 45, 50);
    expect(areaMm2([meetingNeighbours(across, design)])).toBeCloseTo(areaMm2([across]), 6);
    const alone = rect(40, 48, 50, 55);
    expect(meetingNeighbours(alone, design)).toBe(alone);
  });
});

describe('a place is filled by a tap', () => {
  it('inside an outline that is piped, and between floods', () => {
    const inside = placeAround(design, { x: 47, y: 36 }) ?? [];
    expect(areaMm2(inside)).toBeCloseTo(16 * 10, 0);
    expect(placeAround(design, { x: 38, y: 36 })).toBeNull();
    const around = placeAround(design, { x: 50, y: 70 }) ?? [];
    expect(areaMm2(around)).toBeCloseTo(90 * 70 - 2 * 800 - 20 * 14 + 0.86, 0);
    expect(areaMm2(intersection(union(around, []), [rect(60, 20, 80, 60)]))).toBeLessThan(0.1);
    expect(areaMm2(placeAround(design, { x: 2, y: 2 }) ?? [])).toBeCloseTo(100 * 80 - 90 * 70, 0);
    expect(placeAround(design, { x: 65, y: 50 })).toBeNull();
  });
});

describe('the ends of a stroke', () => {
  it('meet edges and ends near them, and nothing else moves', () => {
    const met = meetingEnds(
      [
        { x: 35.6, y: 40 },
        { x: 50, y: 50 },
        { x: 59.3, y: 41 },
      ],
      design,
    );
    expect(met).toEqual([
      { x: 35, y: 40 },
      { x: 50, y: 50 },
      { x: 60, y: 41 },
    ]);
    const free = [
      { x: 40 - 2 * SNAP_MM - 0.5, y: 65 },
      { x: 50, y: 68 },
    ];
    expect(meetingEnds(free, design)).toEqual(free);
  });
});
