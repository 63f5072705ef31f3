import { differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { type SurfaceState, surfaceStates } from '../drying/state.js';
import { wetStages } from '../marbling/stages.js';
import { finishedLook } from '../planning/look.js';
import { type Gleam, gleams, type Picture, paint } from './paint.js';
import { coverOf, distanceWithin } from './raster.js';
import { type Flaw, sceneOf } from './scene.js';

const svg = (inside: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><rect id="cookie" data-part="cookie" width="80" height="80" rx="6" fill="#d9a566"/>${inside}</svg>`;
const plain = (colour: string) => svg(`<rect id="sea" data-part="section" x="5" y="5" width="70" height="70" rx="5" fill="${colour}"/>`);
const painted = (text: string, state: SurfaceState, px = 200, flaws: readonly Flaw[] = [], gleam: Gleam = 0) => {
  const design = readDesign(text);
  return paint(sceneOf(design, finishedLook(design, state), wetStages(design), flaws), px, gleam);
};
const at = (p: Picture, xShare: number, yShare: number): [number, number, number, number] => {
  const k = 4 * (Math.round(yShare * p.height) * p.width + Math.round(xShare * p.width));
  return [p.rgba[k] as number, p.rgba[k + 1] as number, p.rgba[k + 2] as number, p.rgba[k + 3] as number];
};
/** Mean colour of a square of pixels about a place: what the eye takes for the colour. */
const meanAt = (p: Picture, xShare: number, yShare: number, half = 6) => {
  const sum = [0, 0, 0];
  let n = 0;
  for (let dy = -half; dy <= half; dy++)
    for (let dx = -half; dx <= half; dx++) {
      const c = at(p, xShare + dx / p.width, yShare + dy / p.height);
      for (let i = 0; i < 3; i++) sum[i] = (sum[i] as number) + (c[i] as number);
      n += 1;
    }
  const [r, g, b] = sum.map((v) => v / n / 255);
  return { mode: 'rgb' as const, r: r as number, g: g as number, b: b as number };
};
const greys = (p: Picture): number[] => {
  const bins = Array<number>(32).fill(0);
  let n = 0;
  for (let k = 0; k < p.rgba.length; k += 4) {
    if ((p.rgba[k + 3] as number) < 250) continue;
    const grey = 0.2126 * (p.rgba[k] as number) + 0.7152 * (p.rgba[k + 1] as number) + 0.0722 * (p.rgba[k + 2] as number);
    bins[Math.min(31, Math.floor(grey / 8))] = (bins[Math.min(31, Math.floor(grey / 8))] as number) + 1;
    n += 1;
  }
  return bins.map((b) => b / n);
};
/** How uneven a picture is at the scale of pixels: mirrors and grain are, paper is not. */
const roughness = (p: Picture): number => {
  let sum = 0;
  let n = 0;
  for (let y = 20; y < p.height - 20; y++)
    for (let x = 20; x < p.width - 20; x++) {
      const k = 4 * (y * p.width + x);
      sum += Math.abs((p.rgba[k + 1] as number) - (p.rgba[k + 5] as number));
      n += 1;
    }
  return sum / n;
};

describe('the raster', () => {
  const frame = { x0Mm: 0, y0Mm: 0, pxPerMm: 4, width: 120, height: 120 };
  const circle = (r: number, turn: 1 | -1) =>
    [...Array(180).keys()].map((i) => ({
      x: 15 + r * Math.cos((turn * i * Math.PI) / 90),
      y: 15 + r * Math.sin((turn * i * Math.PI) / 90),
    }));
  it('covers a ring by its area, and leaves its hole open', () => {
    const cover = coverOf([circle(10, 1), circle(4, -1)], frame);
    const mm2 = (cover?.data.reduce((a, b) => a + b, 0) ?? 0) / 16;
    expect(mm2 / (Math.PI * (100 - 16))).toBeCloseTo(1, 2);
  });
  it('tells distances from the edge to half a pixel', () => {
    const cover = coverOf([circle(10, 1)], frame);
    const far = cover ? distanceWithin(cover) : [];
    let most = 0;
    for (const d of far) most = Math.max(most, d);
    // The middle lies in the corner of four pixels.
    expect(Math.abs(most - (40 - Math.SQRT1_2))).toBeLessThan(0.6);
  });
});

describe('icing that looks like icing', () => {
  it.each(['#b3261e', '#f6f3ea', '#22343c', '#f2c14e', '#9cc5a1'])(
    '%s keeps its colour within ΔE00 3 where it lies flat and lit, in every state',
    (colour) => {
      const own = {
        mode: 'rgb' as const,
        ...Object.fromEntries(['r', 'g', 'b'].map((c, i) => [c, Number.parseInt(colour.slice(1 + 2 * i, 3 + 2 * i), 16) / 255])),
      };
      for (const state of surfaceStates)
        expect(differenceCiede2000()(own as never, meanAt(painted(plain(colour), state), 0.62, 0.66)), state).toBeLessThan(3);
    },
  );
  it('highlights move on what is wet and stand still on all else; the icing keeps its colour meanwhile', () => {
    const own = { mode: 'rgb' as const, r: 0xb3 / 255, g: 0x26 / 255, b: 0x1e / 255 };
    const of = (state: SurfaceState) => gleams.map((g) => painted(plain('#b3261e'), state, 200, [], g));
    for (const p of of('wet')) expect(differenceCiede2000()(own, meanAt(p, 0.62, 0.66))).toBeLessThan(3);
    const brightest = (p: Picture) => {
      let [k, most] = [0, 0];
      for (let i = 0; i < p.rgba.length; i += 4) if ((p.rgba[i + 1] as number) > most) [k, most] = [i / 4, p.rgba[i + 1] as number];
      return [k % p.width, Math.floor(k / p.width)];
    };
    const changed = (a: Picture, b: Picture) => a.rgba.reduce((n, v, k) => n + (v === b.rgba[k] ? 0 : 1), 0) / a.rgba.length;
    const [left, middle, right] = of('wet') as [Picture, Picture, Picture];
    expect(new Set([left, middle, right].map((p) => brightest(p).join())).size).toBeGreaterThan(1);
    expect(Math.min(changed(left, middle), changed(middle, right))).toBeGreaterThan(0.005);
    for (const state of surfaceStates.filter((s) => s !== 'wet')) {
      const [a, b, c] = of(state) as [Picture, Picture, Picture];
      expect([state, changed(a, b), changed(b, c)]).toEqual([state, 0, 0]);
    }
  });
  it('every state differs from its neighbours in grey, by its tones or by its texture', () => {
    const pictures = surfaceStates.map((s) => painted(plain('#7a9aa5'), s));
    for (let i = 1; i < pictures.length; i++) {
      const [a, b] = [pictures[i - 1] as Picture, pictures[i] as Picture];
      const moved = greys(a).reduce((sum, v, k) => sum + Math.abs(v - (greys(b)[k] as number)), 0) / 2;
      const rougher = Math.abs(Math.log(roughness(a) / roughness(b)));
      expect(Math.max(moved / 0.03, rougher / 0.2), `${surfaceStates[i - 1]} and ${surfaceStates[i]}`).toBeGreaterThan(1);
    }
  });
  it('only what is wet mirrors: the brightest light fades from wet to dry', () => {
    const brightest = (s: SurfaceState) => {
      const p = painted(plain('#b3261e'), s);
      let n = 0;
      // On the icing only: the rim of the biscuit catches light in every state.
      for (let y = 19; y < p.height - 19; y++)
        for (let x = 19; x < p.width - 19; x++) {
          const [r, g, b] = at(p, x / p.width, y / p.height);
          if (r > 215 && g > 150 && b > 140) n += 1;
        }
      return n;
    };
    expect(brightest('wet')).toBeGreaterThan(brightest('crusted'));
    expect(brightest('crusted')).toBeGreaterThanOrEqual(brightest('dry'));
    expect(brightest('dry')).toBe(0);
  });
  it('is the same picture every time, clear beside the cookie', () => {
    const [a, b] = [painted(plain('#b3261e'), 'firm'), painted(plain('#b3261e'), 'firm')];
    expect(a.rgba).toEqual(b.rgba);
    expect(at(a, 0.01, 0.01)[3]).toBe(0);
    expect(at(a, 0.5, 0.5)[3]).toBe(255);
  });
  it('at 24 px grain is tone and not noise: firm is as even as dry there', () => {
    const even = (s: SurfaceState) => {
      const p = painted(plain('#7a9aa5'), s, 24);
      const values = [...Array(49).keys()].map((i) => at(p, 0.4 + 0.03 * (i % 7), 0.45 + 0.03 * Math.floor(i / 7))[1]);
      const mean = values.reduce((x, y) => x + y, 0) / values.length;
      return Math.sqrt(values.reduce((x, y) => x + (y - mean) ** 2, 0) / values.length);
    };
    expect(even('firm')).toBeLessThan(3);
  });
});

describe('what lies where', () => {
  const hedge = svg(`<rect id="wall" data-part="section" x="5" y="5" width="70" height="70" fill="#d9c7a6"/>
<path id="seam" data-part="line" data-technique="pen" d="M10 40H70" stroke="#7a5a3c" stroke-width="1" fill="none"/>
<rect id="hedge" data-part="section" data-over="layer" x="20" y="30" width="40" height="20" fill="#6f9a4f"/>`);
  it('later parts cover earlier ones: a hedge over a pen line hides it', () => {
    const p = painted(hedge, 'dry');
    const [r, g] = at(p, 0.5, 0.5);
    expect(g).toBeGreaterThan(r);
    const line = at(p, 0.2, 42 / 84);
    expect(line[0]).toBeLessThan(190);
  });
  it('only what is on is painted', () => {
    const design = readDesign(hedge);
    const p = paint(sceneOf(design, { sections: { wall: 'wet' }, lines: {}, marks: [] }, []), 200);
    const [r, g] = at(p, 0.5, 0.4);
    expect(r).toBeGreaterThan(g);
  });
  const feather = svg(`<rect id="sea" data-part="section" x="5" y="5" width="70" height="70" fill="#1d4e89"/>
<path id="foam" data-part="mark" data-technique="wet-line" data-on="sea" d="M10 40H70" stroke="#ffffff" stroke-width="3" fill="none"/>
<path id="pull" data-part="mark" data-technique="drag" data-on="sea" d="M40 25V65" stroke="#000000" stroke-width="1" fill="none"/>`);
  it('colour that was dragged lies where it flowed, before the pull where it was laid', () => {
    const design = readDesign(feather);
    const stages = wetStages(design);
    const white = (marks: string[]) => {
      const p = paint(sceneOf(design, { sections: { sea: 'wet' }, lines: {}, marks }, stages), 420);
      // Ten millimetres on, where only what was carried along can be.
      return Math.max(...[...Array(17).keys()].map((i) => at(p, 0.5 + (i - 8) / 420, 52 / 84)[0]));
    };
    expect(white(['foam', 'pull'])).toBeGreaterThan(white(['foam']) + 25);
  });
  it('a crater is a dark hollow with a bright far side, and bleeding is the neighbour’s colour', () => {
    const whole = painted(plain('#f6f3ea'), 'dry');
    const hole = painted(plain('#f6f3ea'), 'dry', 200, [{ kind: 'crater', x: 40, y: 40, sizeMm: 8 }]);
    const dark = Math.min(...[...Array(9).keys()].map((i) => at(hole, 0.45 + i * 0.005, 0.45 + i * 0.005)[1]));
    expect(dark).toBeLessThan(at(whole, 0.46, 0.46)[1] - 25);
    const bled = painted(plain('#f6f3ea'), 'dry', 200, [{ kind: 'bleed', x: 40, y: 40, sizeMm: 8, colour: '#b3261e' }]);
    expect(at(bled, 0.5, 0.5)[1]).toBeLessThan(160);
  });
});
