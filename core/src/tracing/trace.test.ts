import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { differenceCiede2000, parse } from 'culori';
import { describe, expect, it } from 'vitest';
import { sectionsOf } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { inscribedCircle, intersection } from '../geometry/clip.js';
import { areaMm2, boundingBox } from '../geometry/shape.js';
import { wetStages } from '../marbling/stages.js';
import { paint } from '../picture/paint.js';
import { PICTURE_PAD_MM, sceneOf } from '../picture/scene.js';
import { finishedLook } from '../planning/look.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { seededRng } from '../time/rng.js';
import { NARROWEST_MM, type Pixels, tracedSvg, traceImage } from './trace.js';

/** A picture made by a rule: white ground, and a colour for each place. */
const made = (width: number, height: number, colourAt: (x: number, y: number) => readonly [number, number, number]): Pixels => {
  const rgba = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) rgba.set([...colourAt(x, y), 255], 4 * (y * width + x));
  return { width, height, rgba };
};
const WHITE = [255, 255, 255] as const;
const noisy = (p: Pixels, by: number): Pixels => {
  const rng = seededRng(5);
  return { ...p, rgba: Uint8ClampedArray.from(p.rgba, (v, i) => (i % 4 === 3 ? v : v + (rng() - 0.5) * 2 * by)) };
};
const ask = { colours: 3, widthMm: 80, noGround: true };

describe('a picture is traced into areas', () => {
  const target = made(400, 400, (x, y) => {
    const r = Math.hypot(x - 200, y - 200);
    return r < 60 ? [179, 38, 30] : r < 120 ? [31, 63, 107] : r < 180 ? [63, 127, 134] : WHITE;
  });
  it.each([
    ['as it is', target],
    ['with noise', noisy(target, 25)],
  ])('rings of known areas come back within 1 per cent, %s', (_, picture) => {
    const t = traceImage(picture, ask);
    const mm2 = (r: number) => Math.PI * (r / 5) ** 2;
    expect(t.areas).toHaveLength(3);
    for (const [i, expected] of [mm2(180) - mm2(120), mm2(120) - mm2(60), mm2(60)].entries())
      expect(Math.abs((t.areas[i]?.areaMm2 ?? 0) / expected - 1)).toBeLessThan(0.01);
  });
  it('asked for more colours than there are, edges do not become areas of their own', () => {
    const t = traceImage(target, { ...ask, colours: 6 });
    expect(t.areas.map((a) => a.colour)).toHaveLength(3);
  });
  it('a shade is no colour of its own, and nothing is narrower than can be piped', () => {
    const shaded = made(400, 400, (x, y) => {
      if (x < 40 || x > 360 || y < 40 || y > 360) return WHITE;
      const light = 0.8 + 0.25 * (y / 400);
      // A hair of 0.6 mm across it.
      if (Math.abs(x - 200) < 1.5) return [20, 20, 20];
      return [Math.min(255, 179 * light), 38 * light, 30 * light];
    });
    const t = traceImage(shaded, { ...ask, colours: 2 });
    expect(t.areas).toHaveLength(1);
    expect(inscribedCircle(t.areas[0]?.shape ?? []).diameterMm).toBeGreaterThan(NARROWEST_MM);
  });
  it('what it makes is a drawing like any other, on a cookie with a bare rim', () => {
    const design = readDesign(tracedSvg(traceImage(target, ask)));
    expect(sectionsOf(design)).toHaveLength(3);
    const box = boundingBox(design.cookie.flat());
    expect(box.maxX - box.minX).toBeCloseTo(72 + 6, 0);
    expect(deriveSteps(design, schoolById('two-bags')).rounds).toBeGreaterThanOrEqual(2);
  });
  it('says in one sentence what it cannot use', () => {
    expect(() =>
      traceImage(
        made(300, 300, () => [90, 90, 90]),
        ask,
      ),
    ).toThrow(/all one colour/);
    expect(() =>
      traceImage(
        made(8, 300, () => [90, 90, 90]),
        ask,
      ),
    ).toThrow(/at least 16/);
    expect(() => traceImage({ width: 100, height: 100, rgba: new Uint8ClampedArray(40_000) }, ask)).toThrow(/clear all over/);
  });
});

// The repository's own cookies, painted by its picture engine: shaded, domed, on a clear ground.
const DEMO = fileURLToPath(new URL('../../../server/demo/', import.meta.url));
describe('its own pictures', () => {
  // What lies over a flood (rope, lines) is traced as itself, and taken from the flood: the more there is of it, the less is left.
  it.each([
    ['signal-flag.svg', 0.92],
    ['lighthouse.svg', 0.9],
    ['sailboat.svg', 0.85],
    ['life-ring.svg', 0.77],
  ])('%s: its floods come back by place and colour, %f of their area', (file, least) => {
    const design = readDesign(readFileSync(DEMO + file, 'utf8'));
    const picture = paint(sceneOf(design, finishedLook(design, 'dry'), wetStages(design)), 700);
    const colours = new Set(sectionsOf(design).map((s) => s.colour));
    const box = boundingBox(design.cookie.flat());
    const t = traceImage(picture, {
      // Its icings, the biscuit, and its shaded rim.
      colours: Math.min(9, colours.size + 2),
      widthMm: box.maxX - box.minX + 2 * PICTURE_PAD_MM,
      noGround: false,
    });
    let [overlap, all] = [0, 0];
    // A painted cookie has air round it, as wide on all sides.
    const shift = { x: t.corner.x + box.minX - PICTURE_PAD_MM, y: t.corner.y + box.minY - PICTURE_PAD_MM };
    for (const s of sectionsOf(design)) {
      const mm2 = areaMm2(s.shape);
      all += mm2;
      overlap += t.areas
        .filter((a) => differenceCiede2000()(parse(a.colour) as never, parse(s.colour) as never) < 9)
        .reduce(
          (sum, a) =>
            sum +
            areaMm2(
              intersection(
                a.shape.map((r) => r.map((p) => ({ x: p.x + shift.x, y: p.y + shift.y }))),
                s.shape,
              ),
            ),
          0,
        );
    }
    expect(overlap / all).toBeGreaterThan(least);
  });
});
