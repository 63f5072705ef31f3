import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Design, Section } from '../design/design.js';
import { dividedShape } from '../design/divide.js';
import { areaMm2, distanceToEdges, type Shape } from '../geometry/shape.js';
import { deriveSteps } from './derive.js';
import { schoolById } from './school.js';

const SEED = 41;
const round: Shape = [
  [...Array(90).keys()].map((i) => ({ x: 45 + 45 * Math.cos((Math.PI * i) / 45), y: 45 + 45 * Math.sin((Math.PI * i) / 45) })),
];

/** A round cut by a few straight lines, each piece a section. */
function partition(cuts: readonly { readonly x: number; readonly y: number; readonly deg: number }[]): Shape[] {
  return cuts.reduce<Shape[]>(
    (pieces, c) => {
      const a = (c.deg * Math.PI) / 180;
      const points = [
        { x: c.x - Math.cos(a), y: c.y - Math.sin(a) },
        { x: c.x + Math.cos(a), y: c.y + Math.sin(a) },
      ];
      return pieces.flatMap((p) => dividedShape(p, { way: 'line', points })).filter((p) => areaMm2(p) > 8);
    },
    [round],
  );
}

const designOf = (shapes: readonly Shape[], layers: ReadonlyMap<number, number>): Design => ({
  name: 'cut',
  cookie: round,
  parts: shapes.map(
    (shape, i): Section => ({
      role: 'section',
      drawn: shape,
      id: `s${i}`,
      name: `piece ${i}`,
      shape,
      colour: i % 2 ? '#f6f3ea' : '#e9eef0',
      depthMm: 2.5,
      layerOn: layers.has(i) ? [`s${layers.get(i)}`] : [],
    }),
  ),
  notes: [],
});

/** Walks along a's edge and counts what runs beside b: another way of looking than the product's. */
function runsBeside(a: Shape, b: Shape): boolean {
  let beside = 0;
  for (const ring of a) {
    for (let i = 0; i < ring.length; i++) {
      const [p, q] = [ring[i], ring[(i + 1) % ring.length]] as [{ x: number; y: number }, { x: number; y: number }];
      const length = Math.hypot(q.x - p.x, q.y - p.y);
      const n = Math.max(1, Math.ceil(length / 0.1));
      for (let k = 0; k < n; k++) {
        const at = { x: p.x + ((q.x - p.x) * (k + 0.5)) / n, y: p.y + ((q.y - p.y) * (k + 0.5)) / n };
        // Well inside the reach, so that the two ways of measuring cannot differ by rounding.
        if (distanceToEdges(b, at) < 0.1) beside += length / n;
      }
    }
  }
  return beside > 1.5;
}

function leastRounds(n: number, apart: (a: number, b: number) => boolean, layers: ReadonlyMap<number, number>): number {
  for (let rounds = 1; ; rounds++) {
    const colour = Array<number>(n).fill(-1);
    const place = (v: number): boolean => {
      if (v === n) return true;
      for (let c = 0; c < rounds; c++) {
        colour[v] = c;
        const ok =
          colour.slice(0, v).every((o, u) => o !== c || !apart(u, v)) &&
          [...layers].every(([over, under]) => Math.max(over, under) > v || (colour[under] as number) < (colour[over] as number));
        if (ok && place(v + 1)) return true;
      }
      colour[v] = -1;
      return false;
    };
    if (place(0)) return rounds;
  }
}

describe(`random partitions of a cookie (seed ${SEED})`, () => {
  const cut = fc.record({
    x: fc.integer({ min: 20, max: 70 }),
    y: fc.integer({ min: 20, max: 70 }),
    deg: fc.integer({ min: 0, max: 179 }),
  });
  it('no touching pair shares a round, rounds are as few as exhaustive search finds, layers are never inverted', () => {
    fc.assert(
      fc.property(fc.array(cut, { minLength: 1, maxLength: 3 }), fc.boolean(), (cuts, layered) => {
        const shapes = partition(cuts).slice(0, 8);
        const layers = new Map(layered && shapes.length > 2 ? [[shapes.length - 1, 0] as const] : []);
        const graph = deriveSteps(designOf(shapes, layers), schoolById('two-bags'));
        const index = (id: string) => Number(id.slice(1));
        const touching = graph.sections.map((s) => new Set(s.touches.map(index)));
        for (const [i, s] of graph.sections.entries()) {
          for (const t of s.touches) expect(graph.sections[index(t)]?.round).not.toBe(s.round);
          for (const [j, other] of shapes.entries())
            if (i < j && layers.get(j) !== i && runsBeside(shapes[i] as Shape, other))
              expect(graph.sections[j]?.round, `${i} beside ${j}`).not.toBe(s.round);
        }
        for (const [over, under] of layers) expect(graph.sections[over]?.round).toBeGreaterThan(graph.sections[under]?.round as number);
        const apart = (a: number, b: number) => touching[a]?.has(b) === true || layers.get(a) === b || layers.get(b) === a;
        expect(graph.rounds).toBe(leastRounds(shapes.length, apart, layers));
        expect(graph.roundsProven).toBe(true);
      }),
      { seed: SEED, numRuns: 40, endOnFailure: true },
    );
  });
});
