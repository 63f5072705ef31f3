import { toSquaredDistances, UNKNOWN } from '../geometry/field.js';
import type { Shape } from '../geometry/shape.js';

/** A grid of numbers, a row after the other. */
export interface Grid {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}
export const grid = (width: number, height: number): Grid => ({ width, height, data: new Float32Array(width * height) });

/** From millimetres to pixels of a picture. */
export interface Frame {
  readonly x0Mm: number;
  readonly y0Mm: number;
  readonly pxPerMm: number;
  readonly width: number;
  readonly height: number;
}

/** The part of a picture something covers: pixels from (x, y), and how much of each, 0 to 1. */
export interface Cover extends Grid {
  readonly x: number;
  readonly y: number;
}

/**
 * How much of each pixel a shape covers, exactly: the area to the right of every edge is summed up, signed, and the sums are
 * run along the rows. Outer rings positive, holes negative, none crossing another. Null where it lies beside the picture.
 */
export function coverOf(shape: Shape, frame: Frame): Cover | null {
  const { pxPerMm: s } = frame;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of shape)
    for (const p of ring) {
      if (p.x < minX) minX = p.x;
      if (p.x > maxX) maxX = p.x;
      if (p.y < minY) minY = p.y;
      if (p.y > maxY) maxY = p.y;
    }
  const left = Math.max(0, Math.floor((minX - frame.x0Mm) * s) - 1);
  const top = Math.max(0, Math.floor((minY - frame.y0Mm) * s) - 1);
  const right = Math.min(frame.width, Math.ceil((maxX - frame.x0Mm) * s) + 1);
  const bottom = Math.min(frame.height, Math.ceil((maxY - frame.y0Mm) * s) + 1);
  if (!(right > left && bottom > top)) return null;
  const [w, h] = [right - left, bottom - top];
  const sums = new Float32Array((w + 1) * h + 1);
  for (const ring of shape)
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const a = ring[j] as { x: number; y: number };
      const b = ring[i] as { x: number; y: number };
      edge(
        sums,
        w,
        h,
        Math.min(w, Math.max(0, (a.x - frame.x0Mm) * s - left)),
        (a.y - frame.y0Mm) * s - top,
        Math.min(w, Math.max(0, (b.x - frame.x0Mm) * s - left)),
        (b.y - frame.y0Mm) * s - top,
      );
    }
  const data = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    let sum = 0;
    for (let x = 0; x < w; x++) {
      sum += sums[y * (w + 1) + x] as number;
      const c = Math.abs(sum);
      data[y * w + x] = c > 0.999 ? 1 : c < 0.001 ? 0 : c;
    }
  }
  return { x: left, y: top, width: w, height: h, data };
}

function edge(sums: Float32Array, w: number, h: number, ax: number, ay: number, bx: number, by: number): void {
  if (ay === by) return;
  const dir = ay < by ? 1 : -1;
  const [x0, y0, x1, y1] = ay < by ? [ax, ay, bx, by] : [bx, by, ax, ay];
  const slope = (x1 - x0) / (y1 - y0);
  let x = y0 < 0 ? x0 - y0 * slope : x0;
  const last = Math.min(h - 1, Math.ceil(y1) - 1);
  for (let y = Math.max(0, Math.floor(y0)); y <= last; y++) {
    const row = y * (w + 1);
    const dy = Math.min(y + 1, y1) - Math.max(y, y0);
    const next = x + slope * dy;
    const d = dy * dir;
    const [from, to] = x < next ? [x, next] : [next, x];
    const first = Math.floor(from);
    const end = Math.ceil(to);
    if (end <= first + 1) {
      const middle = (x + next) / 2 - first;
      sums[row + first] = (sums[row + first] as number) + d - d * middle;
      sums[row + first + 1] = (sums[row + first + 1] as number) + d * middle;
    } else {
      const per = 1 / (to - from);
      const f = from - first;
      const a0 = 0.5 * per * (1 - f) * (1 - f);
      const g = to - end + 1;
      const am = 0.5 * per * g * g;
      sums[row + first] = (sums[row + first] as number) + d * a0;
      if (end === first + 2) sums[row + first + 1] = (sums[row + first + 1] as number) + d * (1 - a0 - am);
      else {
        const a1 = per * (1.5 - f);
        sums[row + first + 1] = (sums[row + first + 1] as number) + d * (a1 - a0);
        for (let k = first + 2; k < end - 1; k++) sums[row + k] = (sums[row + k] as number) + d * per;
        const a2 = a1 + (end - first - 3) * per;
        sums[row + end - 1] = (sums[row + end - 1] as number) + d * (1 - a2 - am);
      }
      sums[row + end] = (sums[row + end] as number) + d * am;
    }
    x = next;
  }
}

/**
 * Distance in pixels from each pixel's middle to the edge of what is covered, 0 outside, begun from how
 * much each edge pixel is covered.
 */
export function distanceWithin(cover: Cover): Float32Array {
  const { width: w, height: h, data } = cover;
  // One pixel around, so that what fills its box has an edge too.
  const [W, H] = [w + 2, h + 2];
  const f = new Float64Array(W * H);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const c = data[y * w + x] as number;
      f[(y + 1) * W + x + 1] = c >= 1 ? UNKNOWN : c > 0.5 ? (c - 0.5) ** 2 : 0;
    }
  toSquaredDistances(f, W, H);
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) out[y * w + x] = Math.sqrt(f[(y + 1) * W + x + 1] as number);
  return out;
}

/** The same picture of noise every time: a number from 0 to 1 for each place of a lattice. */
export function noiseAt(x: number, y: number, seed: number): number {
  let h = Math.imul(x | 0, 374761393) ^ Math.imul(y | 0, 668265263) ^ Math.imul(seed, 1274126177);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

/** Noise joined smoothly between the places of its lattice, −1 to 1. */
export function smoothNoise(x: number, y: number, seed: number): number {
  const [c, r] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - c, y - r];
  const u = fx * fx * (3 - 2 * fx);
  const v = fy * fy * (3 - 2 * fy);
  const top = noiseAt(c, r, seed) * (1 - u) + noiseAt(c + 1, r, seed) * u;
  const bottom = noiseAt(c, r + 1, seed) * (1 - u) + noiseAt(c + 1, r + 1, seed) * u;
  return 2 * (top * (1 - v) + bottom * v) - 1;
}
