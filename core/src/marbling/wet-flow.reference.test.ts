import { describe, expect, it } from 'vitest';
import type { WetMark } from '../design/design.js';
import { intersection } from '../geometry/clip.js';
import { distance, type Point } from '../geometry/point.js';
import { areaMm2, boundingBox, contains, distanceToEdges, type Shape, signedRingArea } from '../geometry/shape.js';
import { besselK } from './bessel.js';
import { Drag } from './drag.js';
import type { WetPool } from './pools.js';
import { brinkmanConstants, scribeFlow } from './scribe-flow.js';
import { FlowStopped, type WetAsk, wetPicture, wetPictures } from './wet-flow.js';

const circle = (x: number, y: number, r: number, n = 96): Point[] =>
  [...Array(n).keys()].map((i) => ({ x: x + r * Math.cos((2 * Math.PI * i) / n), y: y + r * Math.sin((2 * Math.PI * i) / n) }));
const rect = (w: number, h: number): Shape => [
  [
    { x: 0, y: 0 },
    { x: w, y: 0 },
    { x: w, y: h },
    { x: 0, y: h },
  ],
];
const mark = (technique: WetMark['technique'], id: string, points: readonly Point[], more: Partial<WetMark> = {}): WetMark => ({
  role: 'mark',
  id,
  name: id,
  technique,
  sectionId: 's',
  points,
  closed: technique === 'wet-drop',
  colour: '#ffffff',
  widthMm: 1,
  ...more,
});
const drop = (id: string, x: number, y: number, r: number, more: Partial<WetMark> = {}) => mark('wet-drop', id, circle(x, y, r), more);
const pull = (id: string, ...way: Point[]) => mark('drag', id, way);
const poolOf = (shape: Shape, marks: readonly WetMark[], more: Partial<WetPool> = {}): WetPool => ({
  id: 's',
  sections: [{ role: 'section', id: 's', name: 's', colour: '#cc3344', shape, drawn: shape, depthMm: 2.5, layerOn: [] }],
  shape,
  depthMm: 2.5,
  marks,
  ...more,
});
const after = (shape: Shape, marks: readonly WetMark[], ask: WetAsk = {}, more: Partial<WetPool> = {}) =>
  wetPicture(poolOf(shape, marks, more), ask);
const shapeOf = (p: ReturnType<typeof wetPicture>, id: string): Shape => p.inks.filter((i) => i.markId === id).flatMap((i) => i.shape);
const keepsArea = (p: ReturnType<typeof wetPicture>) => {
  for (const i of p.inks) expect(Math.abs(areaMm2(i.shape) / i.laidAreaMm2 - 1), i.markId).toBeLessThan(0.01);
};
/** How far a shape reaches across a line x = at, mm; 0 where it does not. */
const heightAt = (shape: Shape, at: number): number => {
  const strip = intersection(shape, [
    [
      { x: at - 0.05, y: -99 },
      { x: at + 0.05, y: -99 },
      { x: at + 0.05, y: 99 },
      { x: at - 0.05, y: 99 },
    ],
  ]);
  return areaMm2(strip) / 0.1;
};

// Abramowitz & Stegun, Handbook of Mathematical Functions, table 9.8 (values from memory of the table).
it.each([
  [0.1, 2.4270690247, 9.8538447809],
  [1, 0.4210244382, 0.6019072302],
  [2, 0.1138938727, 0.1398658818],
  [5, 0.0036910983, 0.0040446134],
])('K₀ and K₁ at %f are the handbook’s', (x, k0, k1) => {
  expect(besselK(0, x) / k0).toBeCloseTo(1, 7);
  expect(besselK(1, x) / k1).toBeCloseTo(1, 7);
});

describe('the flow round a scribe (closed form of Brinkman’s equation)', () => {
  const [a, h] = [0.5, 2.5];
  const { lambdaMm, c1, c2 } = brinkmanConstants(a, h);
  const f = (r: number) => c1 / r + c2 * besselK(1, r / lambdaMm);
  const psi = (x: number, y: number) => {
    const r = Math.hypot(x, y);
    return (f(r) * y) / r;
  };
  it('moves with the scribe at its skin', () => {
    const flow = scribeFlow(a, h);
    expect(flow.along[0]).toBeCloseTo(1, 9);
    expect(flow.across[0]).toBeCloseTo(1, 9);
    expect(lambdaMm).toBeCloseTo(5 / Math.PI, 12);
  });
  it('solves ∇²(∇²ψ − ψ/λ²) = 0, and is a dipole C₁/r² far off', () => {
    const e = 0.02;
    // Fourth-order differences of the Laplacian; ω = ∇²ψ is what the pressure cannot make.
    const laplace = (g: (x: number, y: number) => number, x: number, y: number) =>
      [
        [g(x + e, y), g(x - e, y), g(x + 2 * e, y), g(x - 2 * e, y)],
        [g(x, y + e), g(x, y - e), g(x, y + 2 * e), g(x, y - 2 * e)],
      ].reduce(
        (sum, [p, q, pp, qq]) =>
          sum + (16 * ((p as number) + (q as number)) - (pp as number) - (qq as number) - 30 * g(x, y)) / (12 * e * e),
        0,
      );
    const vorticity = (x: number, y: number) => laplace(psi, x, y);
    for (let x = -6; x <= 6; x += 1.5)
      for (let y = 0.7; y <= 6; y += 1.3) {
        const residual = laplace(vorticity, x, y) - vorticity(x, y) / lambdaMm ** 2;
        expect(Math.abs(residual)).toBeLessThan(2e-4);
        // The part that carries vorticity is K₁'s own: ω = ψ_K/λ², exactly.
        const r = Math.hypot(x, y);
        expect(Math.abs(vorticity(x, y) - (c2 * besselK(1, r / lambdaMm) * y) / r / lambdaMm ** 2)).toBeLessThan(3e-6);
      }
    expect((f(25) * 25) / c1).toBeCloseTo(1, 5);
  });
  it('keeps areas: the map of a whole pull has a Jacobian of 1', () => {
    const drag = new Drag(
      [
        { x: 0, y: 0 },
        { x: 30, y: 0 },
      ],
      scribeFlow(a, h),
      null,
    );
    const at = (x: number, y: number) => {
      drag.move(x, y);
      return { x: drag.x, y: drag.y };
    };
    const e = 1e-3;
    for (const x of [4, 15, 24])
      for (const y of [0.9, 1.5, 3.1, 5, 9, 20]) {
        const [p, q, s] = [at(x, y), at(x + e, y), at(x, y + e)];
        const jacobian = ((q.x - p.x) * (s.y - p.y) - (s.x - p.x) * (q.y - p.y)) / (e * e);
        expect(Math.abs(jacobian - 1), `${x} ${y}`).toBeLessThan(0.06);
      }
  });
  // The design faded ψ out between 25 and 30 mm: all that flows back then does so along that rim.
  it('a flow cut off at a distance would shear the icing there by a millimetre; this one does not', () => {
    const way = [
      { x: 0, y: 0 },
      { x: 30, y: 0 },
    ];
    const drag = new Drag(way, scribeFlow(a, h), null);
    drag.move(15, 27.5);
    expect(Math.hypot(drag.x - 15, drag.y - 27.5)).toBeLessThan(0.15);
    // ∫ (faded − unfaded) of the backflow half way through the rim, for a pull of 30 mm.
    let sheared = 0;
    for (let s = 0; s < 30; s += 0.05) {
      const r = Math.hypot(15 - s, 27.5);
      const t = (r - 25) / 5;
      if (t > 0 && t < 1) sheared += 0.05 * f(r) * ((-30 * t * t * (1 - t) ** 2) / 5) * (27.5 / r) ** 2;
    }
    expect(sheared).toBeLessThan(-0.8);
  });
});

// Lu, Jaffer, Jin, Zhao & Mao 2012: the drop map keeps area outside the drop.
it('a drop laid beside another pushes it away, and neither loses area nor lies over the other', () => {
  const [one, two] = wetPictures(poolOf(rect(60, 40), [drop('a', 26, 20, 3), drop('b', 31, 20, 3)]), [1, 2]);
  if (!one || !two) throw new Error('two pictures were asked for');
  keepsArea(two);
  const left = (p: typeof one) =>
    Math.min(
      ...shapeOf(p, 'a')
        .flat()
        .map((q) => q.x),
    );
  expect(left(two)).toBeLessThan(left(one) - 0.3);
  expect(areaMm2(intersection(shapeOf(two, 'a'), shapeOf(two, 'b')))).toBeLessThan(0.1);
});

describe('a dot of 6 mm pulled through by a scribe of 1 mm in 2.5 mm of icing', () => {
  const tray = rect(60, 40);
  const dot = drop('dot', 20, 20, 3, { seconds: 200 });
  const p = after(tray, [dot, pull('p', { x: 12, y: 20 }, { x: 32, y: 20 })], { floodSeconds: 200 });
  const shape = shapeOf(p, 'dot');
  const xs = shape.flat().map((q) => q.x);
  it('is a heart: a point in front, a notch behind, as wide as before, its area kept', () => {
    keepsArea(p);
    const reach = Math.max(...xs) - 32;
    expect(reach).toBeGreaterThanOrEqual(0.5);
    expect(reach).toBeLessThanOrEqual(0.8);
    expect(heightAt(shape, 30)).toBeLessThan(1.3);
    // Behind, on the axis, the colour begins well in front of the lobes beside it.
    const lobes = Math.min(
      ...shape
        .flat()
        .filter((q) => Math.abs(q.y - 20) > 0.8)
        .map((q) => q.x),
    );
    const notch = Math.min(...[...Array(200).keys()].map((i) => lobes + i * 0.1).filter((x) => contains(shape, { x, y: 20.15 })));
    expect(notch - lobes).toBeGreaterThan(1.5);
    const ys = shape.flat().map((q) => q.y);
    expect(Math.max(...ys) - Math.min(...ys)).toBeGreaterThan(5);
  });
  it('begun at its middle it has one point and no notch', () => {
    const q = shapeOf(after(tray, [dot, pull('p', { x: 20, y: 20 }, { x: 32, y: 20 })], { floodSeconds: 200 }), 'dot');
    const back = Math.min(...q.flat().map((v) => v.x));
    expect(contains(q, { x: back + 0.4, y: 20 })).toBe(true);
    expect(Math.max(...q.flat().map((v) => v.x))).toBeGreaterThan(32.4);
  });
  it('a thicker scribe carries more, and deeper icing is drawn from wider', () => {
    const carried = (ask: WetAsk) => {
      const q = shapeOf(after(tray, [dot, pull('p', { x: 12, y: 20 }, { x: 32, y: 20 })], { floodSeconds: 200, ...ask }), 'dot');
      return areaMm2(
        intersection(q, [
          [
            { x: 25, y: 0 },
            { x: 60, y: 0 },
            { x: 60, y: 40 },
            { x: 25, y: 40 },
          ],
        ]),
      );
    };
    expect(carried({ scribeMm: 2 })).toBeGreaterThan(carried({ scribeMm: 1 }));
    expect(scribeFlow(0.5, 4).across[150] as number).toBeGreaterThan(scribeFlow(0.5, 2).across[150] as number);
  });
  it('the mirrored pull gives the mirrored heart, and pulled back a little way it returns', () => {
    const flipped = after(tray, [drop('dot', 40, 20, 3, { seconds: 200 }), pull('p', { x: 48, y: 20 }, { x: 28, y: 20 })], {
      floodSeconds: 200,
    });
    expect(
      areaMm2(
        intersection(
          shapeOf(flipped, 'dot').map((r) => r.map((q) => ({ x: 60 - q.x, y: q.y })).reverse()),
          shape,
        ),
      ),
    ).toBeGreaterThan(0.985 * areaMm2(shape));
    // Slow flow runs back along its way; over 4 mm the outline returns within 0.1 mm, further on the fine threads are lost to rounding.
    const there = pull('a', { x: 19, y: 20 }, { x: 23, y: 20 });
    const back = pull('b', { x: 23, y: 20 }, { x: 19, y: 20 });
    const [laid, returned] = wetPictures(poolOf(tray, [dot, there, back]), [1, 3], { floodSeconds: 200 });
    for (const q of shapeOf(returned as never, 'dot').flat()) expect(distanceToEdges(shapeOf(laid as never, 'dot'), q)).toBeLessThan(0.1);
  });
});

describe('patterns keep their make', () => {
  const round = [circle(30, 30, 30, 120)];
  const rings = [8, 15, 22].map((r, i) => mark('wet-line', `ring${i}`, circle(30, 30, r, 64), { closed: true, widthMm: 1.5 }));
  const spokes = [...Array(8).keys()].map((i) =>
    pull(`p${i}`, { x: 30, y: 30 }, { x: 30 + 27 * Math.cos((i * Math.PI) / 4), y: 30 + 27 * Math.sin((i * Math.PI) / 4) }),
  );
  it('a web: three rings stay three rings, none a disc, and nothing crosses the edge', () => {
    const p = after(round, [...rings, ...spokes]);
    keepsArea(p);
    for (const i of p.inks) {
      const large = i.shape.filter((r) => Math.abs(signedRingArea(r)) > 20);
      expect(large.map((r) => Math.sign(signedRingArea(r))).sort()).toEqual([-1, 1]);
      for (const q of i.shape.flat()) expect(distance(q, { x: 30, y: 30 })).toBeLessThan(30.01);
    }
    expect(contains(shapeOf(p, 'ring2'), { x: 30, y: 30 })).toBe(false);
  });
  it('feathers: a line pulled across comes to a point at each pull, the other way about at the next', () => {
    const line = mark(
      'wet-line',
      'l',
      [
        { x: 5, y: 20 },
        { x: 55, y: 20 },
      ],
      { widthMm: 1.5 },
    );
    const p = after(rect(60, 40), [line, pull('a', { x: 20, y: 8 }, { x: 20, y: 32 }), pull('b', { x: 40, y: 32 }, { x: 40, y: 8 })]);
    const ys = (x: number) =>
      shapeOf(p, 'l')
        .flat()
        .filter((q) => Math.abs(q.x - x) < 1)
        .map((q) => q.y);
    expect(Math.max(...ys(20))).toBeGreaterThan(31);
    expect(Math.min(...ys(40))).toBeLessThan(9);
    keepsArea(p);
  });
  it('drops in drops are rings: none lies over another', () => {
    const p = after(rect(40, 40), [drop('iris', 20, 20, 6), drop('pupil', 20, 20, 3), drop('glint', 19, 19, 1)]);
    keepsArea(p);
    for (const [i, a] of p.inks.entries())
      for (const b of p.inks.slice(i + 1)) expect(areaMm2(intersection(a.shape, b.shape))).toBeLessThan(0.15);
    expect(shapeOf(p, 'iris').filter((r) => signedRingArea(r) < 0)).toHaveLength(1);
  });
  it('marks at the very edge keep their area within the pool, and what cannot leave raises it', () => {
    const p = after(rect(40, 25), [
      drop('a', 3, 4, 3),
      drop('b', 8, 4, 3),
      drop('c', 5, 9, 2),
      pull('p', { x: 2, y: 2 }, { x: 38, y: 20 }),
    ]);
    keepsArea(p);
    for (const q of p.inks.flatMap((i) => i.shape.flat())) expect(Math.min(q.x, q.y, 40 - q.x, 25 - q.y)).toBeGreaterThan(-0.01);
    expect(p.raisedMm).toBeCloseTo((p.addedMl * 1000) / 1000, 9);
    expect(p.troubles.map((t) => t.kind)).toContain('edge');
  });
  it('more marks than the pool has room for are squeezed by one factor, and it says so', () => {
    const dots = [...Array(16).keys()].map((i) => drop(`d${i}`, 4 + 5.3 * (i % 4), 4 + 5.3 * Math.floor(i / 4), 2.8));
    const p = after(rect(24, 24), dots);
    expect(p.troubles.map((t) => t.kind)).toContain('full');
    const shares = p.inks.map((i) => i.laidAreaMm2);
    expect(Math.max(...shares) / Math.min(...shares)).toBeCloseTo(1, 6);
    expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(0.9 * 24 * 24, 3);
  });
});

describe('what would not come out so', () => {
  const tray = rect(60, 40);
  const line = mark(
    'wet-line',
    'l',
    [
      { x: 5, y: 20 },
      { x: 55, y: 20 },
    ],
    { widthMm: 1.5 },
  );
  const feather = pull('p', { x: 30, y: 10 }, { x: 30, y: 34 });
  const tip = (ask: WetAsk, l = line) =>
    Math.max(
      ...shapeOf(after(tray, [l, feather], ask), 'l')
        .flat()
        .map((q) => q.y),
    );
  it('past thickening the pull tears and leads less far', () => {
    const late = after(tray, [line, feather], { dried: () => 1.6 });
    expect(late.troubles).toEqual([{ kind: 'torn', markIds: ['l'] }]);
    expect(tip({ dried: () => 1.6 })).toBeLessThan(tip({}) - 4);
    expect(after(tray, [line, feather], { dried: () => 0.9 }).troubles).toEqual([]);
  });
  it('a mark spreads by its own count and the flood’s, and less the later it is laid', () => {
    const widthOf = (seconds: number, dried = 0) =>
      heightAt(shapeOf(after(tray, [{ ...line, seconds }], { floodSeconds: 15, dried: () => dried }), 'l'), 30);
    expect(widthOf(8)).toBeGreaterThan(widthOf(25));
    expect(widthOf(8, 0.8)).toBeLessThan(widthOf(8));
    expect(widthOf(8, 1)).toBeCloseTo(1.5, 1);
  });
  it('a mark much stiffer than the flood does not follow, and is named', () => {
    const stiff = { ...line, seconds: 100 };
    expect(after(tray, [stiff, feather], { floodSeconds: 15 }).troubles).toEqual([{ kind: 'stiff', markIds: ['l'] }]);
    expect(tip({ floodSeconds: 15 }, stiff)).toBeLessThan(22);
  });
  it('an unwiped scribe smears the beginning of the next pull, a wiped one does not', () => {
    const pulls = [line, feather, pull('q', { x: 45, y: 10 }, { x: 45, y: 16 })];
    const smears = (wiped: boolean) => after(tray, pulls, { wiped: () => wiped }).inks.filter((i) => i.markId === 'q');
    expect(smears(true)).toEqual([]);
    expect(smears(false).map((i) => i.colour)).toEqual(['#ffffff']);
  });
});

it('steps through the motions, also part of the way, and leaves no trace of looking', () => {
  const marks = [drop('a', 20, 20, 3), pull('p', { x: 12, y: 20 }, { x: 32, y: 20 })];
  const pool = poolOf(rect(60, 40), marks);
  const far = (p: ReturnType<typeof wetPicture>) =>
    Math.max(
      ...shapeOf(p, 'a')
        .flat()
        .map((q) => q.x),
    );
  const pictures = wetPictures(pool, [0, 1, 1.5, 1.8, 2]);
  expect(pictures[0]?.inks).toEqual([]);
  expect(pictures.slice(1).map(far)).toEqual([...pictures.slice(1).map(far)].sort((a, b) => a - b));
  expect(pictures[4]).toEqual(wetPicture(pool));
});

it('ends before its next motion when there is no more time for it', () => {
  let asked = 0;
  const pool = poolOf(rect(60, 40), [drop('a', 20, 20, 3), drop('b', 40, 20, 3)]);
  expect(() => wetPicture(pool, { stop: () => ++asked > 1 })).toThrow(FlowStopped);
  expect(asked).toBe(2);
});

it('where flush floods are of two depths, each is drawn as deep as it is there', () => {
  const box = (x0: number, x1: number): Shape => [
    [
      { x: x0, y: 0 },
      { x: x1, y: 0 },
      { x: x1, y: 80 },
      { x: x0, y: 80 },
    ],
  ];
  const section = (id: string, x0: number, x1: number, depthMm: number) => {
    const shape = box(x0, x1);
    return { role: 'section' as const, id, name: id, colour: '#cc3344', shape, drawn: shape, depthMm, layerOn: [] };
  };
  const line = (id: string, x0: number, x1: number) =>
    mark(
      'wet-line',
      id,
      [
        { x: x0, y: 40 },
        { x: x1, y: 40 },
      ],
      { closed: false },
    );
  const marks = [
    line('shallow', 10, 50),
    line('deep', 70, 110),
    pull('one', { x: 30, y: 30 }, { x: 30, y: 50 }),
    pull('two', { x: 90, y: 30 }, { x: 90, y: 50 }),
  ];
  const seen = (shallow: number, deep: number) => {
    const picture = wetPicture({
      id: 'a',
      sections: [section('a', 0, 60, shallow), section('b', 60, 120, deep)],
      shape: box(0, 120),
      depthMm: (shallow + deep) / 2,
      marks,
    });
    // How far the line is carried a millimetre and a half beside the pull.
    const beside = (id: string, x: number) => {
      const strip = intersection(shapeOf(picture, id), box(x - 0.1, x + 0.1));
      const all = boundingBox(strip.flat());
      return (all.minY + all.maxY) / 2 - 40;
    };
    return [beside('shallow', 31.5), beside('deep', 91.5)] as const;
  };
  const [thin, thick] = [seen(1.2, 1.2), seen(3.2, 3.2)];
  // The wall about the pool knows one depth, the mean: that is less than a tenth of a millimetre here.
  const both = seen(1.2, 3.2);
  expect(Math.abs(both[0] - thin[0])).toBeLessThan(0.1);
  expect(Math.abs(both[1] - thick[1])).toBeLessThan(0.1);
  expect(thick[1] - thin[1]).toBeGreaterThan(1);
});
it('a drag across flush floods carries both colours', () => {
  const [left, right] = [rect(20, 30), rect(40, 30).map((r) => r.map((p) => ({ x: Math.max(20, p.x), y: p.y })))];
  const section = (id: string, shape: Shape, colour: string) => ({
    role: 'section' as const,
    id,
    name: id,
    colour,
    shape,
    drawn: shape,
    depthMm: 2.5,
    layerOn: [],
  });
  const pool: WetPool = {
    id: 'l',
    sections: [section('l', left, '#112233'), section('r', right, '#ddeeff')],
    shape: rect(40, 30),
    depthMm: 2.5,
    marks: [pull('p', { x: 30, y: 15 }, { x: 8, y: 15 })],
  };
  const drawn = wetPicture(pool).inks.find((i) => i.markId === 'r');
  expect(Math.min(...(drawn?.shape.flat() ?? []).map((q) => q.x))).toBeLessThan(8);
  expect(areaMm2(drawn?.shape ?? [])).toBeCloseTo(600, -1);
});
