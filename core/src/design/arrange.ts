import type { Point } from '../geometry/point.js';
import { type Box, boundingBox } from '../geometry/shape.js';
import type { Design } from './design.js';
import { footprintOf } from './footprint.js';

/** A movement of the plane as SVG writes it: x → a·x + c·y + e, y → b·x + d·y + f, in mm. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** A part and where it goes. */
export interface Movement {
  readonly part: string;
  readonly matrix: Matrix;
}

export const placedBy = ([a, b, c, d, e, f]: Matrix, p: Point): Point => ({ x: a * p.x + c * p.y + e, y: b * p.x + d * p.y + f });
/** What a length becomes, on average over all directions. */
export const growthOf = ([a, b, c, d]: Matrix): number => Math.sqrt(Math.abs(a * d - b * c));

export const shift = (xMm: number, yMm: number): Matrix => [1, 0, 0, 1, xMm, yMm];
export const scaleAbout = (p: Point, factor: number): Matrix => [factor, 0, 0, factor, p.x * (1 - factor), p.y * (1 - factor)];
/** Left and right changed about an upright through a point. */
export const mirrorAbout = (p: Point): Matrix => [-1, 0, 0, 1, 2 * p.x, 0];
export function turnAbout(p: Point, deg: number): Matrix {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  return [c, s, -s, c, p.x - p.x * c + p.y * s, p.y - p.x * s - p.y * c];
}

export const middleOf = (box: Box): Point => ({ x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 });

/** A path is meant by its own name, and every piece of a pattern or a divided part by the name of the whole. */
export const belongs = (id: string, part: string): boolean =>
  id === part || (id.startsWith(`${part}.`) && /^[\d.]+$/.test(id.slice(part.length + 1)));

/** The box round a part and all its pieces, mm; null where it is not there. */
export function boxOfPart(design: Design, part: string): Box | null {
  const points = design.parts.filter((p) => belongs(p.id, part)).flatMap((p) => footprintOf(p).flat());
  return points.length === 0 ? null : boundingBox(points);
}

/** Sides and middles that parts are brought to. */
export const alignments = ['left', 'middle across', 'right', 'top', 'middle down', 'bottom'] as const;
export type Alignment = (typeof alignments)[number];

/** Parts brought to one side or middle: of all of them together, or of the cookie where it is one alone. */
export function aligned(design: Design, parts: readonly string[], to: Alignment): Movement[] {
  const boxes = boxesOf(design, parts);
  const all = boxes.length === 1 ? boundingBox(design.cookie.flat()) : wholeOf(boxes.map((b) => b.box));
  return boxes.map(({ part, box }) => ({ part, matrix: STEPS[to](all, box) }));
}

const STEPS: Readonly<Record<Alignment, (all: Box, box: Box) => Matrix>> = {
  left: (all, box) => shift(all.minX - box.minX, 0),
  'middle across': (all, box) => shift(middleOf(all).x - middleOf(box).x, 0),
  right: (all, box) => shift(all.maxX - box.maxX, 0),
  top: (all, box) => shift(0, all.minY - box.minY),
  'middle down': (all, box) => shift(0, middleOf(all).y - middleOf(box).y),
  bottom: (all, box) => shift(0, all.maxY - box.maxY),
};

/** Three parts or more with equal gaps between them, the outermost staying; fewer have nothing between them, and stay. */
export function distributed(design: Design, parts: readonly string[], way: 'across' | 'down'): Movement[] {
  const [low, high] = way === 'across' ? (['minX', 'maxX'] as const) : (['minY', 'maxY'] as const);
  const boxes = boxesOf(design, parts).sort((a, b) => a.box[low] + a.box[high] - (b.box[low] + b.box[high]));
  if (boxes.length < 3) return [];
  const [first, last] = [boxes[0], boxes.at(-1)] as [Boxed, Boxed];
  const room = last.box[high] - first.box[low] - boxes.reduce((sum, { box }) => sum + box[high] - box[low], 0);
  const gap = room / (boxes.length - 1);
  let at = first.box[low];
  return boxes.map(({ part, box }) => {
    const by = at - box[low];
    at += box[high] - box[low] + gap;
    return { part, matrix: way === 'across' ? shift(by, 0) : shift(0, by) };
  });
}

interface Boxed {
  readonly part: string;
  readonly box: Box;
}
const boxesOf = (design: Design, parts: readonly string[]): Boxed[] =>
  parts.flatMap((part) => {
    const box = boxOfPart(design, part);
    return box ? [{ part, box }] : [];
  });
export const wholeOf = (boxes: readonly Box[]): Box =>
  boundingBox(
    boxes.flatMap((b) => [
      { x: b.minX, y: b.minY },
      { x: b.maxX, y: b.maxY },
    ]),
  );
