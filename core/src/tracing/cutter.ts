import { contours } from 'd3-contour';
import { kmeans } from 'ml-kmeans';
import { Matrix, solve } from 'ml-matrix';
import { offset } from '../geometry/clip.js';
import { blurred } from '../geometry/field.js';
import { homography, type PlaneMap, similarity } from '../geometry/homography.js';
import type { Point } from '../geometry/point.js';
import { areaMm2, boundingBox, contains, pathData, type Ring, signedRingArea } from '../geometry/shape.js';
import { simplified } from '../geometry/simplify.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import type { Pixels } from './trace.js';

/** Where a photograph's millimetres come from; points in pixels. */
export type KnownSize =
  /** two points and the length between them: right where the camera looked straight down */
  | { readonly way: 'length'; readonly points: readonly [Point, Point]; readonly lengthMm: number }
  /** the corners of a card that lies beside it, in order round it: also where the camera looked from the side */
  | { readonly way: 'card'; readonly corners: readonly Point[]; readonly widthMm: number; readonly heightMm: number };

/** A bank card or a pass: ISO/IEC 7810, format ID-1. */
export const CARD_MM = { width: 85.6, height: 53.98 } as const;

/** A cutter's outline, its corner at 0, 0. */
export interface CutterOutline {
  readonly ring: Ring;
  readonly widthMm: number;
  readonly heightMm: number;
  /** where its corner lies in the plane of what is known: from the first point, or the card's first corner */
  readonly corner: Point;
  /** the same outline where it is seen, pixels of the picture */
  readonly seen: Ring;
}

/** The picture is looked at this large at most; its edge is found to a fraction of a pixel. */
const MOST_PX = 1100;
/** Smaller than this share of the picture is dust, mm² do not help before the size is known. */
const LEAST_SHARE = 0.004;
/** So many pixels are looked at for the paper's light, and for what is not paper. */
const SAMPLES = 6000;
/** Rounds of finding the paper's light anew without what is not paper. */
const ROUNDS = 6;
/** Breadth of the border that is taken for paper at first, as a share of the picture. *Assumed*. */
const BORDER_SHARE = 0.08;
/** Paper lies within so many typical deviations of its own light. *Assumed*. */
const PAPER_WITHIN = 2.5;
const KEPT_WITHIN_MM = 0.08;
/** A cookie is no smaller and no larger than this, mm. */
const LEAST_MM = 15;
const MOST_MM = 400;

/**
 * The outline of the one thing that lies on plain paper: a cutter, seen from above, or a cookie it cut. The paper's uneven light
 * is fitted by a surface of the second degree and taken off, what differs from it is what lies there, and the outer edge of the
 * largest such thing is its outline, holes filled; of several things that which `at` (pixels) lies in. Deterministic. Throws {@link
 * BadInput} with the cure.
 */
export function cutterOutline(picture: Pixels, known: KnownSize, at?: Point): CutterOutline {
  const toMm = mapOf(known);
  const share = Math.max(1, Math.ceil(Math.max(picture.width, picture.height) / MOST_PX));
  const { differs, width: w, height: h } = unlikePaper(picture, share);
  // What gives the size is not what is looked for.
  if (known.way === 'card') {
    const card = offset([positive(known.corners.map((p) => ({ x: p.x / share, y: p.y / share })))], Math.max(3, w / 150));
    for (let i = 0; i < differs.length; i++) if (contains(card, { x: (i % w) + 0.5, y: Math.floor(i / w) + 0.5 })) differs[i] = 0;
  }
  const level = between(differs);
  const [found] = contours().size([w, h]).smooth(true).thresholds([level])(Array.from(differs));
  const outers = (found?.coordinates ?? [])
    .map((polygon) => (polygon[0] as [number, number][]).slice(0, -1).map(([x, y]): Point => ({ x, y })))
    .filter((ring) => ring.every((p) => p.x > 1 && p.y > 1 && p.x < w - 1 && p.y < h - 1))
    .sort((a, b) => Math.abs(signedRingArea(b)) - Math.abs(signedRingArea(a)));
  const meant = at && { x: at.x / share, y: at.y / share };
  const outer = meant ? outers.find((ring) => contains([ring], meant)) : outers[0];
  if (!outer || Math.abs(signedRingArea(outer)) < LEAST_SHARE * w * h)
    throw new BadInput(
      'no-outline',
      msg`No outline was found: lay the cutter or the cookie alone on plain paper of another colour, wholly inside the picture.`,
    );
  const seen = outer.map((p) => ({ x: p.x * share, y: p.y * share }));
  const mm = seen.map(toMm);
  const ring = positive(simplified({ points: mm, closed: true }, KEPT_WITHIN_MM)?.points ?? mm);
  const box = boundingBox(ring);
  const [widthMm, heightMm] = [box.maxX - box.minX, box.maxY - box.minY];
  if (!(Math.min(widthMm, heightMm) >= LEAST_MM && Math.max(widthMm, heightMm) <= MOST_MM))
    throw new BadInput(
      'size',
      msg`The outline would be ${Math.round(widthMm)} × ${Math.round(heightMm)} mm: a cookie is ${LEAST_MM} to ${MOST_MM} mm, so look at
        the points and the length again.`,
    );
  return {
    ring: ring.map((p) => ({ x: p.x - box.minX, y: p.y - box.minY })),
    widthMm,
    heightMm,
    corner: { x: box.minX, y: box.minY },
    seen,
  };
}

const positive = (ring: Ring): Ring => (signedRingArea(ring) < 0 ? [...ring].reverse() : ring);

function mapOf(known: KnownSize): PlaneMap {
  if (known.way === 'length') {
    const [a, b] = known.points;
    if (Math.hypot(a.x - b.x, a.y - b.y) < 8)
      throw new BadInput('points', msg`The two points lie on each other: put them at the ends of what you measured.`);
    return similarity(
      [a, b],
      [
        { x: 0, y: 0 },
        { x: known.lengthMm, y: 0 },
      ],
    );
  }
  const { widthMm: w, heightMm: h } = known;
  const map = homography(known.corners, [
    { x: 0, y: 0 },
    { x: w, y: 0 },
    { x: w, y: h },
    { x: 0, y: h },
  ]);
  if (!map || Math.abs(areaMm2([known.corners])) < 400)
    throw new BadInput('points', msg`The four points make no card: put one on each of its corners, going round it.`);
  return map;
}

/** How far each pixel is from the paper under it: lightness taken against a fitted surface, colour against the paper's own. */
function unlikePaper(p: Pixels, share: number): { readonly differs: Float32Array; readonly width: number; readonly height: number } {
  const [w, h] = [Math.floor(p.width / share), Math.floor(p.height / share)];
  const fields = [0, 1, 2].map(() => new Float32Array(w * h));
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (const [c, field] of fields.entries()) {
        let sum = 0;
        for (let v = 0; v < share; v++)
          for (let u = 0; u < share; u++) sum += p.rgba[4 * ((y * share + v) * p.width + x * share + u) + c] as number;
        field[y * w + x] = sum / (share * share);
      }
  const differs = new Float32Array(w * h);
  const samples: number[] = [];
  const step = Math.max(1, Math.floor((w * h) / SAMPLES));
  for (let i = 0; i < w * h; i += step) samples.push(i);
  const basis = (i: number): number[] => {
    const [x, y] = [(2 * (i % w)) / w - 1, (2 * Math.floor(i / w)) / h - 1];
    return [1, x, y, x * x, x * y, y * y];
  };
  // Round the border there is mostly paper, however much lies in the middle.
  let kept = samples.filter(
    (i) => Math.min(i % w, w - 1 - (i % w)) < BORDER_SHARE * w || Math.min(i, w * h - 1 - i) / w < BORDER_SHARE * h,
  );
  let fits: number[][] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const rows = new Matrix(kept.map(basis));
    fits = fields.map((f) => solve(rows, Matrix.columnVector(kept.map((i) => f[i] as number))).to1DArray());
    const off = samples.map((i) => Math.hypot(...fields.map((f, c) => (f[i] as number) - dot(basis(i), fits[c] as number[]))));
    const typical = [...off].sort((a, b) => a - b)[Math.floor(off.length * 0.4)] as number;
    const next = samples.filter((_, k) => (off[k] as number) <= Math.max(4, PAPER_WITHIN * typical));
    if (next.length < 50) break;
    kept = next;
  }
  for (let i = 0; i < w * h; i++) {
    const b = basis(i);
    differs[i] = Math.hypot(...fields.map((f, c) => (f[i] as number) - dot(b, fits[c] as number[])));
  }
  blurred(differs, w, h, 1);
  return { differs, width: w, height: h };
}

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, v, i) => sum + v * (b[i] as number), 0);

/** Half way between what is paper and what is not, the middle of the edge: two groups of differences (k-means, as Otsu 1979 parts them). */
function between(differs: Float32Array): number {
  const step = Math.max(1, Math.floor(differs.length / SAMPLES));
  const samples: number[][] = [];
  for (let i = 0; i < differs.length; i += step) samples.push([differs[i] as number]);
  const { centroids } = kmeans(samples, 2, { seed: 7, initialization: 'kmeans++' });
  return centroids.reduce((sum, [v]) => sum + (v as number) / 2, 0);
}

/** Icing keeps so far off the baked edge, mm: *assumed*, as the starting shapes do. */
const BARE_RIM_MM = 4;

/** The drawing of a cutter: its baked outline and one flood a little inside it. */
export function cutterSvg({ ring, widthMm, heightMm }: CutterOutline, colour: string): string {
  const n = (v: number) => Math.round(v * 100) / 100;
  const inside = offset([ring], -BARE_RIM_MM);
  if (inside.length === 0)
    throw new BadInput('too-narrow', msg`The outline is nowhere ${2 * BARE_RIM_MM} mm broad: there is no room for icing in it.`);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${n(widthMm)}mm" height="${n(heightMm)}mm" viewBox="0 0 ${n(widthMm)} ${n(heightMm)}" data-cutter="own">`,
    `<path id="cookie" data-part="cookie" fill="#d9a566" d="${pathData([ring])}"/>`,
    `<path id="base" data-part="section" data-name="base" fill="${colour}" fill-rule="evenodd" d="${pathData(inside)}"/>`,
    '</svg>',
  ].join('\n');
}
