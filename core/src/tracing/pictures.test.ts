import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { differenceCiede2000, parse } from 'culori';
import jpeg from 'jpeg-js';
import { describe, expect, it } from 'vitest';
import { sectionsOf } from '../design/design.js';
import { circleAt } from '../design/patterns/index.js';
import { readDesign } from '../design/read-design.js';
import { difference, inscribedCircle, intersection, offset, union } from '../geometry/clip.js';
import type { Point } from '../geometry/point.js';
import { areaMm2, boundingBox, contains, type Shape } from '../geometry/shape.js';
import { type Rng, seededRng } from '../time/rng.js';
import { NARROWEST_MM, type Pixels, traceImage } from './trace.js';

/**
 * Twenty-four pictures rendered here, three of the repository's own drawings and three of designs thrown by seed, each blurred,
 * as JPEG of quality 60, with noise, and on a patterned ground under uneven light: traced, they are measured against what was drawn.
 */
interface Area {
  readonly colour: string;
  readonly shape: Shape;
}
const GROUND = '#cdbfa8';
const PX_PER_MM = 6;

const DEMO = fileURLToPath(new URL('../../../server/demo/', import.meta.url));
/** Floods of a drawing as they show: what lies on top is taken from what lies under it. */
const ofDrawing = (file: string): Area[] => {
  const sections = sectionsOf(readDesign(readFileSync(DEMO + file, 'utf8')));
  return sections.map(({ colour, shape }, i) => ({
    colour,
    shape: sections.slice(i + 1).reduce((left, s) => difference(left, s.drawn), shape),
  }));
};

const COLOURS = ['#b3261e', '#1f3f6b', '#f2c14e', '#3f7f86', '#2e3a46', '#e58f8f', '#7a5c3a'];
/** Areas thrown on a round: bands, blots and rings of different icings, each broad enough to be flooded. */
function thrown(seed: number): Area[] {
  const rng = seededRng(seed);
  const pick = (n: number) => Math.floor(rng() * n);
  const base: Shape = [circleAt({ x: 50, y: 50 }, 84)];
  const palette = [...COLOURS].sort(() => rng() - 0.5).slice(0, 4);
  const areas: Area[] = [{ colour: palette[0] as string, shape: base }];
  const over = (shape: Shape, colour: string) => {
    for (const [i, a] of areas.entries()) areas[i] = { ...a, shape: difference(a.shape, shape) };
    areas.push({ colour, shape });
  };
  over(intersection(base, [blot({ x: 30 + pick(10), y: 35 + pick(10) }, 14 + pick(6), rng)]), palette[1] as string);
  over(intersection(base, [blot({ x: 65 + pick(8), y: 60 + pick(8) }, 12 + pick(6), rng)]), palette[2] as string);
  over(intersection(base, [blot({ x: 62, y: 26 }, 9, rng)]), palette[3] as string);
  over([circleAt({ x: 33, y: 72 }, 16)], palette[2] as string);
  over([circleAt({ x: 33, y: 72 }, 8)], palette[3] as string);
  return areas;
}
function blot(c: Point, radiusMm: number, rng: Rng): Point[] {
  const [a, b] = [rng() * 0.2, rng() * 0.12];
  return [...Array(60).keys()].map((i) => {
    const t = (2 * Math.PI * i) / 60;
    const r = radiusMm * (1 + a * Math.sin(2 * t + seedOf(c)) + b * Math.sin(5 * t));
    return { x: c.x + r * Math.cos(t), y: c.y + r * Math.sin(t) };
  });
}
const seedOf = (c: Point) => c.x * 0.37;

const rgb = (hex: string) => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16)) as [number, number, number];
interface Drawn {
  readonly picture: Pixels;
  /** which area each pixel shows; -1 is ground */
  readonly shows: Int16Array;
  readonly areas: readonly Area[];
  readonly widthMm: number;
}
function drawn(areas: readonly Area[]): Drawn {
  const box = boundingBox(areas.flatMap((a) => a.shape.flat()));
  const moved = areas.map((a) => ({ ...a, shape: a.shape.map((r) => r.map((p) => ({ x: p.x - box.minX + 6, y: p.y - box.minY + 6 }))) }));
  const [widthMm, heightMm] = [box.maxX - box.minX + 12, box.maxY - box.minY + 12];
  const [w, h] = [Math.round(widthMm * PX_PER_MM), Math.round(heightMm * PX_PER_MM)];
  const shows = new Int16Array(w * h).fill(-1);
  for (const [k, a] of moved.entries()) {
    const b = boundingBox(a.shape.flat());
    for (let y = Math.floor(b.minY * PX_PER_MM); y <= b.maxY * PX_PER_MM; y++)
      for (let x = Math.floor(b.minX * PX_PER_MM); x <= b.maxX * PX_PER_MM; x++)
        if (contains(a.shape, { x: (x + 0.5) / PX_PER_MM, y: (y + 0.5) / PX_PER_MM })) shows[y * w + x] = k;
  }
  const rgba = new Uint8ClampedArray(w * h * 4);
  for (let i = 0; i < w * h; i++) rgba.set([...rgb(shows[i] === -1 ? GROUND : (moved[shows[i] as number] as Area).colour), 255], 4 * i);
  return { picture: { width: w, height: h, rgba }, shows, areas: moved, widthMm };
}

const changed = (d: Drawn, by: (v: number, i: number, c: number) => number): Pixels => ({
  ...d.picture,
  rgba: Uint8ClampedArray.from(d.picture.rgba, (v, k) => (k % 4 === 3 ? v : by(v, Math.floor(k / 4), k % 4))),
});
const STATES = {
  blurred: (d: Drawn): Pixels => {
    const { width: w, height: h, rgba } = d.picture;
    const at = (x: number, y: number, c: number) =>
      rgba[4 * (Math.min(h - 1, Math.max(0, y)) * w + Math.min(w - 1, Math.max(0, x))) + c] as number;
    return changed(d, (_, i, c) => {
      let sum = 0;
      for (let dy = -2; dy <= 2; dy++) for (let dx = -2; dx <= 2; dx++) sum += at((i % w) + dx, Math.floor(i / w) + dy, c);
      return sum / 25;
    });
  },
  'JPEG 60': (d: Drawn): Pixels => {
    const { width, height, rgba } = d.picture;
    const { data } = jpeg.decode(jpeg.encode({ width, height, data: Buffer.from(rgba as Uint8ClampedArray) }, 60).data, {
      useTArray: true,
    });
    return { width, height, rgba: data };
  },
  noisy: (d: Drawn): Pixels => {
    const rng = seededRng(3);
    return changed(d, (v) => v + (rng() + rng() - 1) * 40);
  },
  'uneven light on a patterned ground': (d: Drawn): Pixels => {
    const { width: w, height: h } = d.picture;
    return changed(d, (v, i) => {
      const [x, y] = [i % w, Math.floor(i / w)];
      const light = 0.92 + 0.16 * (x / w) * (y / h) - 0.05;
      const grain = d.shows[i] === -1 ? 7 * Math.sin(x / 9) + 5 * Math.sin(y / 4) : 0;
      return (v + grain) * light;
    });
  },
} as const;

const SOURCES = {
  'a signal flag': ofDrawing('signal-flag.svg'),
  'a lighthouse': ofDrawing('lighthouse.svg'),
  'a sailboat': ofDrawing('sailboat.svg'),
  'blots by seed 1': thrown(1),
  'blots by seed 2': thrown(2),
  'blots by seed 3': thrown(3),
};
const deltaE = differenceCiede2000();
const far = (a: string, b: string) => deltaE(parse(a) as never, parse(b) as never);

/** Pieces that could be flooded: broad enough, by islands of one icing that lie together. */
function piecesOf(areas: readonly Area[]): number {
  return [...new Set(areas.map((a) => a.colour))].reduce((sum, colour) => {
    const whole = areas.filter((a) => a.colour === colour).reduce<Shape>((u, a) => union(u, a.shape), []);
    const broad = offset(offset(whole, -NARROWEST_MM / 2), NARROWEST_MM / 2);
    return sum + broad.filter((r) => areaMm2([r]) > NARROWEST_MM * NARROWEST_MM).length;
  }, 0);
}

describe('twenty-four pictures of known areas', () => {
  const cases = Object.entries(SOURCES).flatMap(([name, areas]) =>
    Object.keys(STATES).map((state) => [name, state as keyof typeof STATES, areas] as const),
  );
  it('are twenty-four', () => expect(cases).toHaveLength(24));
  it.each(cases)('%s, %s', (_, state, areas) => {
    const d = drawn(areas);
    const picture = STATES[state](d);
    const t = traceImage(picture, { colours: new Set(areas.map((a) => a.colour)).size, widthMm: d.widthMm, noGround: true });
    const traced = t.areas.map((a) => ({ ...a, shape: a.shape.map((r) => r.map((p) => ({ x: p.x + t.corner.x, y: p.y + t.corner.y }))) }));
    let [overlap, all] = [0, 0];
    for (const a of d.areas) {
      all += areaMm2(a.shape);
      for (const x of traced) if (far(x.colour, a.colour) < 12) overlap += areaMm2(intersection(x.shape, a.shape));
    }
    expect(overlap / all).toBeGreaterThanOrEqual(0.95);
    for (const x of traced) expect(inscribedCircle(x.shape).diameterMm).toBeGreaterThanOrEqual(NARROWEST_MM);
    expect(traced.length).toBeLessThanOrEqual(1.3 * piecesOf(d.areas));
    for (const x of traced) {
      const most = d.areas.map((a) => ({ a, mm2: areaMm2(intersection(a.shape, x.shape)) })).sort((p, q) => q.mm2 - p.mm2)[0]?.a;
      expect(far(x.colour, most?.colour ?? '#000000')).toBeLessThanOrEqual(6);
    }
  });
});
