import { expect, it } from 'vitest';
import { polylineLengthMm } from './point.js';
import { beginningOf, placesAlong, pointsAlong, stepped } from './way.js';

const corner = [
  { x: 0, y: 0 },
  { x: 4, y: 0 },
  { x: 4, y: 4 },
];

it('places lie along the chain, with the direction it goes on in, and stay on it beyond its ends', () => {
  const places = placesAlong(corner, [-1, 1, 5, 9]);
  expect(places.map((p) => [p.at.x, p.at.y])).toEqual([
    [0, 0],
    [1, 0],
    [4, 1],
    [4, 4],
  ]);
  expect(places[1]?.along).toEqual({ x: 1, y: 0 });
  expect(places[2]?.along).toEqual({ x: 0, y: 1 });
});

it('points are spread evenly, steps are short, and a beginning has its length', () => {
  expect(pointsAlong(corner, 4).map((p) => [p.x, p.y])).toEqual([
    [1, 0],
    [3, 0],
    [4, 1],
    [4, 3],
  ]);
  const fine = stepped(corner, 0.3);
  for (const [i, p] of fine.entries()) if (i > 0) expect(polylineLengthMm([fine[i - 1] as never, p])).toBeLessThanOrEqual(0.3 + 1e-9);
  expect(polylineLengthMm(beginningOf(corner, 5.5))).toBeCloseTo(5.5, 9);
  expect(beginningOf(corner, 99)).toEqual(corner);
  expect(beginningOf(corner, 0)).toEqual([
    { x: 0, y: 0 },
    { x: 0, y: 0 },
  ]);
});
