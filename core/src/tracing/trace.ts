import { converter } from 'culori';
import { contours } from 'd3-contour';
import { kmeans } from 'ml-kmeans';
import { offset, shapeFromRings, union } from '../geometry/clip.js';
import { blurred, toSquaredDistances, UNKNOWN } from '../geometry/field.js';
import type { Point } from '../geometry/point.js';
import { areaMm2, boundingBox, pathData, type Ring, type Shape, signedRingArea } from '../geometry/shape.js';
import { simplified } from '../geometry/simplify.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';

/** A picture: four bytes a pixel. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly rgba: ArrayLike<number>;
}

export interface TraceAsk {
  /** icing colours, 2 to 8 */
  readonly colours: number;
  /** how wide what is traced becomes, mm */
  readonly widthMm: number;
  /** what runs along the picture's border is no icing */
  readonly noGround: boolean;
}

/** One area of one icing. */
export interface TracedArea {
  readonly colour: string;
  readonly shape: Shape;
  readonly areaMm2: number;
}

export interface Tracing {
  /** largest first: later ones were cut out of them */
  readonly areas: readonly TracedArea[];
  /** what the areas cover, with a rim of bare cookie round it */
  readonly cookie: Shape;
  readonly widthMm: number;
  readonly heightMm: number;
  /** where its corner lies in the picture, mm from the picture's own */
  readonly corner: Point;
  /** areas left out because they were too small to flood */
  readonly left: number;
}

/** A flood narrower than this cannot be filled: it becomes part of what is beside it, mm. */
export const NARROWEST_MM = 2;
/** Bare rim round everything, mm. */
const RIM_MM = 3;
/** A picture is worked out this fine, mm a pixel, so that its edge is right to a few tenths. */
const FINE_MM = 0.15;
const MOST_PX = 900;
const LEAST_PX = 16;
/** So many pixels are looked at for the colours. */
const SAMPLES = 4000;
/** Light and shade on one icing change its lightness most: it counts for less than its hue. *Assumed*. */
const LIGHTNESS_COUNTS = 0.45;
/** Colours nearer than this (weighted Lab) are one icing. *Assumed*. */
const SAME_COLOUR = 7;
/** Colours are looked for in the flattest share of a picture, over so many pixels, in so many groups an icing. *Assumed*. */
const CALM_SHARE = 0.9;
const CALM_PX = 3;
const GROUPS_PER_COLOUR = 3;
const KEPT_WITHIN_MM = 0.15;
const CLEAR = 255;

/**
 * A picture cut into areas that can be flooded: its colours found (k-means in CIELAB, lightness counting less, so that a
 * shade is no colour of its own), every pixel given to one of them, areas evened out so that none is narrower than
 * {@link NARROWEST_MM}, and their edges traced (marching squares). Deterministic. Throws {@link BadInput} with the cure.
 */
export function traceImage(picture: Pixels, ask: TraceAsk): Tracing {
  if (picture.width < LEAST_PX || picture.height < LEAST_PX)
    throw new BadInput(
      'too-small',
      msg`The picture is ${picture.width} × ${picture.height} pixels, and needs at least ${LEAST_PX} on each side: choose a larger one.`,
    );
  const small = reduced(picture, Math.min(MOST_PX, Math.max(LEAST_PX * 4, Math.round(ask.widthMm / FINE_MM))));
  const { width: w, height: h } = small;
  const pxPerMm = w / ask.widthMm;
  const lab = labOf(small);
  // What is taken off has a colour too.
  const labels = labelled(small, lab, ask.colours + (ask.noGround ? 1 : 0));
  if (ask.noGround) clearGround(labels, w, h);
  const even = withoutThin(evened(labels, w, h, (NARROWEST_MM / 2) * pxPerMm), w, h, (NARROWEST_MM / 2) * pxPerMm);
  const least = NARROWEST_MM * NARROWEST_MM;
  let left = 0;
  const areas: TracedArea[] = [];
  for (const label of new Set(even)) {
    if (label === CLEAR) continue;
    const mask = Array.from(even, (v) => (v === label ? 1 : 0));
    const [found] = contours().size([w, h]).smooth(true).thresholds([0.5])(mask);
    for (const polygon of found?.coordinates ?? []) {
      const rings = polygon.map((ring) => ringOf(ring as [number, number][], pxPerMm)).filter((r): r is Ring => r !== null);
      const shape = shapeFromRings(rings, 'evenodd');
      const mm2 = areaMm2(shape);
      if (mm2 < least) {
        left += 1;
        continue;
      }
      areas.push({ colour: meanColour(small, even, label, w, h), shape, areaMm2: mm2 });
    }
  }
  if (areas.length === 0)
    throw new BadInput(
      'one-colour',
      msg`The picture is all one colour once its ground is taken off: keep its ground, or choose another picture.`,
    );
  areas.sort((a, b) => b.areaMm2 - a.areaMm2);
  const all = areas.reduce<Shape>((sum, a) => union(sum, a.shape), []);
  // Outward and back: what lies a hair apart is on one cookie.
  const grown = offset(offset(all, RIM_MM + 1), -1);
  const cookie = grown.filter((r) => signedRingArea(r) > 0);
  const box = boundingBox(cookie.flat());
  const moved = (s: Shape): Shape => s.map((r) => r.map((p) => ({ x: p.x - box.minX, y: p.y - box.minY })));
  return {
    areas: areas.map((a) => ({ ...a, shape: moved(a.shape) })),
    cookie: moved(cookie),
    widthMm: box.maxX - box.minX,
    heightMm: box.maxY - box.minY,
    corner: { x: box.minX, y: box.minY },
    left,
  };
}

/** The tracing as a drawing of true size, as any other that is brought. */
export function tracedSvg(t: Tracing): string {
  const n = (v: number) => Math.round(v * 100) / 100;
  const parts = t.areas.map(
    (a) => `<path data-part="section" data-over="inlay" fill="${a.colour}" fill-rule="evenodd" d="${pathData(a.shape)}"/>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(t.widthMm)}mm" height="${n(t.heightMm)}mm" viewBox="0 0 ${n(t.widthMm)} ${n(t.heightMm)}"><path id="cookie" data-part="cookie" fill="#d9a566" d="${pathData(t.cookie)}"/>${parts.join('')}</svg>`;
}

function ringOf(ring: readonly [number, number][], pxPerMm: number): Ring | null {
  const points = ring.slice(0, -1).map(([x, y]): Point => ({ x: x / pxPerMm, y: y / pxPerMm }));
  return simplified({ points: roundedOff(points), closed: true }, KEPT_WITHIN_MM)?.points ?? null;
}

/** Steps of pixels evened out along the edge. */
function roundedOff(points: readonly Point[]): Point[] {
  const n = points.length;
  if (n < 12) return [...points];
  return points.map((_, i) => {
    let [x, y] = [0, 0];
    for (let k = -2; k <= 2; k++) {
      const p = points[(i + k + n) % n] as Point;
      x += p.x;
      y += p.y;
    }
    return { x: x / 5, y: y / 5 };
  });
}

/** The picture averaged down to so many pixels across (never up). */
function reduced(p: Pixels, across: number): Pixels {
  const w = Math.min(p.width, across);
  const h = Math.max(1, Math.round((p.height * w) / p.width));
  if (w === p.width) return p;
  const rgba = new Float32Array(w * h * 4);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [x0, x1] = [Math.floor((x * p.width) / w), Math.max(Math.floor((x * p.width) / w) + 1, Math.floor(((x + 1) * p.width) / w))];
      const [y0, y1] = [Math.floor((y * p.height) / h), Math.max(Math.floor((y * p.height) / h) + 1, Math.floor(((y + 1) * p.height) / h))];
      const sum = [0, 0, 0, 0];
      for (let v = y0; v < y1; v++)
        for (let u = x0; u < x1; u++) {
          const k = 4 * (v * p.width + u);
          const a = (p.rgba[k + 3] as number) / 255;
          for (let c = 0; c < 3; c++) sum[c] = (sum[c] as number) + (p.rgba[k + c] as number) * a;
          sum[3] = (sum[3] as number) + a;
        }
      const a = sum[3] as number;
      const k = 4 * (y * w + x);
      for (let c = 0; c < 3; c++) rgba[k + c] = a > 0 ? (sum[c] as number) / a : 255;
      rgba[k + 3] = (255 * a) / ((x1 - x0) * (y1 - y0));
    }
  return { width: w, height: h, rgba };
}

/** Levels of a channel that are told apart: two of them lie further apart than noise, and colours come again. */
const LEVEL = 4;
const toLab = converter('lab65');

/** CIELAB of every pixel, the lightness weighted down; slightly blurred, against noise. */
function labOf({ width: w, height: h, rgba }: Pixels): readonly [Float32Array, Float32Array, Float32Array] {
  const [l, a, b] = [new Float32Array(w * h), new Float32Array(w * h), new Float32Array(w * h)];
  const known = new Map<number, readonly [number, number, number]>();
  for (let i = 0; i < w * h; i++) {
    const [r, g, bl] = [0, 1, 2].map((c) => Math.round((rgba[4 * i + c] as number) / LEVEL)) as [number, number, number];
    const key = (r * 256 + g) * 256 + bl;
    let lab = known.get(key);
    if (!lab) {
      const found = toLab({ mode: 'rgb', r: (r * LEVEL) / 255, g: (g * LEVEL) / 255, b: (bl * LEVEL) / 255 });
      lab = [found.l * LIGHTNESS_COUNTS, found.a, found.b];
      known.set(key, lab);
    }
    l[i] = lab[0];
    a[i] = lab[1];
    b[i] = lab[2];
  }
  // Beyond the picture there is nothing: what is there is averaged.
  const share = blurred(new Float32Array(w * h).fill(1), w, h, 1);
  for (const field of [l, a, b]) {
    blurred(field, w, h, 1);
    for (let i = 0; i < field.length; i++) field[i] = (field[i] as number) / (share[i] as number);
  }
  return [l, a, b];
}

type Lab = readonly [Float32Array, Float32Array, Float32Array];

/**
 * The icings of a picture, as weighted Lab. Looked for where it is flattest, since an edge shows colours that nobody piped;
 * in more groups than there are icings, of which those are put together that cost least until as many are left as asked: noise on a
 * large area would otherwise be taken for two icings, and two that are alike for one.
 */
function icingsOf(p: Pixels, lab: Lab, colours: number): number[][] {
  const { width: w, height: h } = p;
  const [l, a, b] = lab.map((field) => blurred(field.slice(), w, h, CALM_PX)) as unknown as Lab;
  const isThere = (i: number) => (p.rgba[4 * i + 3] as number) >= 128;
  const step = Math.max(1, Math.floor((w * h) / SAMPLES));
  const seen: { readonly lab: number[]; readonly unrest: number }[] = [];
  for (let i = Math.floor(step / 2); i < w * h; i += step) {
    if (!isThere(i)) continue;
    const [x, y] = [i % w, Math.floor(i / w)];
    const [u, v] = [Math.min(w - 1, x + CALM_PX), Math.min(h - 1, y + CALM_PX)];
    const unrest = [l, a, b].reduce(
      (sum, f) => sum + ((f[y * w + u] as number) - (f[i] as number)) ** 2 + ((f[v * w + x] as number) - (f[i] as number)) ** 2,
      0,
    );
    seen.push({ lab: [l[i] as number, a[i] as number, b[i] as number], unrest });
  }
  if (seen.length < colours * 4) throw new BadInput('nothing-there', msg`The picture is clear all over: choose one that shows something.`);
  seen.sort((one, other) => one.unrest - other.unrest);
  const samples = seen.slice(0, Math.ceil(seen.length * CALM_SHARE)).map((s) => s.lab);
  const found = kmeans(samples, Math.min(samples.length, colours * GROUPS_PER_COLOUR), {
    seed: 7,
    initialization: 'kmeans++',
    maxIterations: 60,
  });
  let groups = found.centroids.map((at, k) => ({ at, size: found.clusters.filter((c) => c === k).length })).filter((g) => g.size > 0);
  for (;;) {
    let nearest = { i: 0, j: 0, costs: Number.POSITIVE_INFINITY, apart: 0 };
    for (const [i, one] of groups.entries())
      for (let j = i + 1; j < groups.length; j++) {
        const other = groups[j] as typeof one;
        const apart = Math.hypot(...one.at.map((v, k) => v - (other.at[k] as number)));
        // What it costs to call two groups one (Ward 1963): few samples between two icings cost little, two icings much.
        const costs = apart <= SAME_COLOUR ? 0 : ((one.size * other.size) / (one.size + other.size)) * apart * apart;
        if (costs < nearest.costs || (costs === 0 && nearest.costs === 0 && apart < nearest.apart)) nearest = { i, j, costs, apart };
      }
    if (groups.length < 2 || (groups.length <= colours && nearest.costs > 0)) break;
    const [one, other] = [groups[nearest.i], groups[nearest.j]] as [(typeof groups)[number], (typeof groups)[number]];
    const size = one.size + other.size;
    const at = one.at.map((v, k) => (v * one.size + (other.at[k] as number) * other.size) / size);
    groups = [...groups.filter((g) => g !== one && g !== other), { at, size }];
  }
  return groups.map((g) => g.at);
}

/** Every pixel's colour by number, {@link CLEAR} where the picture is clear. */
function labelled(p: Pixels, lab: Lab, colours: number): Uint8Array {
  const [l, a, b] = lab;
  const n = p.width * p.height;
  const isThere = (i: number) => (p.rgba[4 * i + 3] as number) >= 128;
  const middles = icingsOf(p, lab, colours);
  if (middles.length < 2) throw new BadInput('one-colour', msg`The picture is all one colour: choose one with at least two.`);
  const out = new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    if (!isThere(i)) {
      out[i] = CLEAR;
      continue;
    }
    let best = 0;
    let least = Number.POSITIVE_INFINITY;
    for (const [k, m] of middles.entries()) {
      const d =
        ((l[i] as number) - (m[0] as number)) ** 2 +
        ((a[i] as number) - (m[1] as number)) ** 2 +
        ((b[i] as number) - (m[2] as number)) ** 2;
      if (d < least) [least, best] = [d, k];
    }
    out[i] = best;
  }
  return out;
}

/** Takes off what the picture's border shows most, as far as it hangs together with the border. */
function clearGround(labels: Uint8Array, w: number, h: number): void {
  const border: number[] = [];
  for (let x = 0; x < w; x++) border.push(x, (h - 1) * w + x);
  for (let y = 0; y < h; y++) border.push(y * w, y * w + w - 1);
  const counts = new Map<number, number>();
  for (const i of border) counts.set(labels[i] as number, (counts.get(labels[i] as number) ?? 0) + 1);
  const [ground] = [...counts].sort((a, b) => b[1] - a[1])[0] as [number, number];
  if (ground === CLEAR) return;
  const stack = border.filter((i) => labels[i] === ground);
  for (const i of stack) labels[i] = CLEAR;
  while (stack.length > 0) {
    const i = stack.pop() as number;
    const x = i % w;
    for (const j of [x > 0 ? i - 1 : -1, x < w - 1 ? i + 1 : -1, i - w, i + w])
      if (j >= 0 && j < w * h && labels[j] === ground) {
        labels[j] = CLEAR;
        stack.push(j);
      }
  }
}

/** Every pixel given to the colour that is most about it, three times over: specks and threads go, edges become even. */
function evened(labels: Uint8Array, w: number, h: number, radiusPx: number): Uint8Array {
  let now = labels;
  for (let pass = 0; pass < 3; pass++) {
    const best = new Float32Array(w * h).fill(-1);
    const next = new Uint8Array(w * h);
    for (const label of new Set(now)) {
      const share = blurred(
        Float32Array.from(now, (v) => (v === label ? 1 : 0)),
        w,
        h,
        radiusPx * 0.5,
      );
      for (let i = 0; i < share.length; i++)
        if ((share[i] as number) > (best[i] as number)) {
          best[i] = share[i] as number;
          next[i] = label;
        }
    }
    now = next;
  }
  return now;
}

/** What is nowhere as broad as can be piped goes to what lies nearest to it; a hole of clear ground stays. */
function withoutThin(labels: Uint8Array, w: number, h: number, halfPx: number): Uint8Array {
  const out = labels.slice();
  const isThin = new Uint8Array(w * h);
  for (const label of new Set(labels)) {
    if (label === CLEAR) continue;
    const far = new Float64Array(w * h);
    // The picture's own border is an edge too.
    for (let i = 0; i < far.length; i++)
      far[i] = labels[i] === label && i % w > 0 && i % w < w - 1 && i >= w && i < far.length - w ? UNKNOWN : 0;
    toSquaredDistances(far, w, h);
    const seen = new Uint8Array(w * h);
    for (let start = 0; start < far.length; start++) {
      if (seen[start] || labels[start] !== label) continue;
      const own = [start];
      seen[start] = 1;
      let broadest = 0;
      for (let k = 0; k < own.length; k++) {
        const i = own[k] as number;
        broadest = Math.max(broadest, far[i] as number);
        for (const j of neighbours(i, w, h))
          if (!seen[j] && labels[j] === label) {
            seen[j] = 1;
            own.push(j);
          }
      }
      if (Math.sqrt(broadest) < halfPx) for (const i of own) isThin[i] = 1;
    }
  }
  // From all sides inward, so that each pixel takes its nearest neighbour's colour.
  let edge = [...out.keys()].filter((i) => isThin[i] === 0 && neighbours(i, w, h).some((j) => isThin[j] === 1));
  while (edge.length > 0) {
    const next: number[] = [];
    for (const i of edge)
      for (const j of neighbours(i, w, h))
        if (isThin[j] === 1) {
          isThin[j] = 0;
          out[j] = out[i] as number;
          next.push(j);
        }
    edge = next;
  }
  return out;
}

function neighbours(i: number, w: number, h: number): number[] {
  const x = i % w;
  const out: number[] = [];
  if (x > 0) out.push(i - 1);
  if (x < w - 1) out.push(i + 1);
  if (i >= w) out.push(i - w);
  if (i < w * (h - 1)) out.push(i + w);
  return out;
}

/** The colour of an icing: the middle of its pixels' lightness, since lights and shades pull a mean. */
function meanColour(p: Pixels, labels: Uint8Array, label: number, w: number, h: number): string {
  const values: [number, number, number, number][] = [];
  const step = Math.max(1, Math.floor((w * h) / 20_000));
  for (let i = 0; i < w * h; i += step)
    if (labels[i] === label) {
      const [r, g, b] = [p.rgba[4 * i] as number, p.rgba[4 * i + 1] as number, p.rgba[4 * i + 2] as number];
      values.push([0.2126 * r + 0.7152 * g + 0.0722 * b, r, g, b]);
    }
  values.sort((x, y) => x[0] - y[0]);
  const middle = values.slice(Math.floor(values.length * 0.35), Math.ceil(values.length * 0.65) + 1);
  const mean = (k: 1 | 2 | 3) => Math.round(middle.reduce((s, v) => s + v[k], 0) / Math.max(1, middle.length));
  return `#${[mean(1), mean(2), mean(3)].map((v) => v.toString(16).padStart(2, '0')).join('')}`;
}
