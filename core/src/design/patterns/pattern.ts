import type { Point } from '../../geometry/point.js';
import { boundingBox, centroid, contains, distanceToEdges, type Shape } from '../../geometry/shape.js';
import { stepped } from '../../geometry/way.js';
import type { Rng } from '../../time/rng.js';
import type { DropWay, MarkTechnique } from '../technique-names.js';

/** What a pattern is asked for. Lengths in mm, angles in degrees, clockwise from the right as SVG turns. */
export interface PatternAsk {
  /** width of a line or diameter of a drop, mm; a drag's is the scribe's */
  readonly sizeMm: number;
  /** between the middles of neighbours, mm; never closer than the spread allows */
  readonly spacingMm: number;
  readonly angleDeg: number;
  /** how many, for patterns that count: petals, pulls, turns, rings */
  readonly count: number;
  /** for scattered ones: the same seed gives the same scatter */
  readonly seed: number;
}

/** One stroke or drop of a pattern. */
export interface PatternStroke {
  /** done while the flood is wet, or piped over its crust */
  readonly technique: MarkTechnique | 'piped-line';
  readonly points: readonly Point[];
  readonly closed: boolean;
  /** size of this one, where the pattern has several */
  readonly sizeMm: number;
  /** 0 for the main colour, 1 and on for further ones of patterns that stack */
  readonly colour: number;
  /** how a drop is laid, where the pattern needs one way of it */
  readonly way?: DropWay;
}

/** The room a pattern has: a section of the cookie. */
export interface Room {
  readonly shape: Shape;
  readonly middle: Point;
  /** from the middle to the farthest edge */
  readonly radiusMm: number;
}

/** One definition a pattern; adding one is adding it to the array of its file. */
export interface PatternDefinition<Id extends string = string> {
  readonly id: Id;
  readonly label: string;
  readonly kind: 'recipes' | 'drops' | 'lines' | 'drags';
  /** what each further colour is for, in the order of its layers; one colour where nothing is said */
  readonly colours?: readonly string[];
  /** size and spacing it is tried with first, mm; the usual ones of its kind where nothing is said */
  readonly usual?: readonly [sizeMm: number, spacingMm: number];
  /** which of the asked numbers it heeds */
  readonly heeds: readonly (keyof PatternAsk)[];
  readonly strokes: (room: Room, ask: PatternAsk, rng: Rng) => PatternStroke[];
}
export const pattern = <const Id extends string>(d: PatternDefinition<Id>): PatternDefinition<Id> => d;

export function roomOf(shape: Shape): Room {
  const box = boundingBox(shape.flat());
  const middle = centroid(shape);
  const radiusMm = Math.max(0, ...shape.flat().map((p) => Math.hypot(p.x - middle.x, p.y - middle.y)));
  return { shape, middle: contains(shape, middle) ? middle : { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 }, radiusMm };
}

/** Whether a drop of this size lies wholly on the section with a hair of icing around it. */
export const hasRoom = (room: Room, p: Point, sizeMm: number): boolean =>
  contains(room.shape, p) && distanceToEdges(room.shape, p) >= sizeMm / 2 + 0.3;

const CIRCLE_POINTS = 28;
export const circleAt = (c: Point, diameterMm: number): Point[] =>
  [...Array(CIRCLE_POINTS).keys()].map((i) => {
    const a = (2 * Math.PI * i) / CIRCLE_POINTS;
    return { x: c.x + (diameterMm / 2) * Math.cos(a), y: c.y + (diameterMm / 2) * Math.sin(a) };
  });

export const drop = (c: Point, sizeMm: number, colour = 0): PatternStroke => ({
  technique: 'wet-drop',
  points: circleAt(c, sizeMm),
  closed: true,
  sizeMm,
  colour,
});

const STEP_MM = 0.5;
const KEEP_OFF_MM = 1;

/** The parts of a way that lie on the section, a millimetre off its edge. */
export function onSection(
  room: Room,
  way: readonly Point[],
  technique: PatternStroke['technique'],
  sizeMm: number,
  colour = 0,
): PatternStroke[] {
  const out: PatternStroke[] = [];
  let run: Point[] = [];
  const end = () => {
    const length = run.reduce((s, p, i) => (i === 0 ? 0 : s + Math.hypot(p.x - (run[i - 1] as Point).x, p.y - (run[i - 1] as Point).y)), 0);
    if (length >= 2) out.push({ technique, points: thinned(run), closed: false, sizeMm, colour });
    run = [];
  };
  for (const p of stepped(way, STEP_MM)) {
    if (contains(room.shape, p) && distanceToEdges(room.shape, p) >= KEEP_OFF_MM) run.push(p);
    else end();
  }
  end();
  return out;
}

/** Straight runs need only their ends. */
function thinned(points: readonly Point[]): Point[] {
  return points.filter((p, i) => {
    const [a, b] = [points[i - 1], points[i + 1]];
    if (!a || !b) return true;
    return Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) > 1e-6;
  });
}

/**
 * Places thrown like darts, none nearer than `apartMm` to another: one too near is taken back (Cook, "Stochastic sampling in
 * computer graphics", 1986).
 */
export function scattered(room: Room, sizeMm: number, apartMm: number, rng: Rng, most: number): Point[] {
  const out: Point[] = [];
  const { middle: m, radiusMm: r } = room;
  for (let i = 0; i < 2000 && out.length < most; i++) {
    const p = { x: m.x + (2 * rng() - 1) * r, y: m.y + (2 * rng() - 1) * r };
    if (hasRoom(room, p, sizeMm) && out.every((d) => Math.hypot(d.x - p.x, d.y - p.y) >= apartMm)) out.push(p);
  }
  return out;
}

export const turned = (p: Point, about: Point, deg: number): Point => {
  const a = (deg * Math.PI) / 180;
  const [x, y] = [p.x - about.x, p.y - about.y];
  return { x: about.x + x * Math.cos(a) - y * Math.sin(a), y: about.y + x * Math.sin(a) + y * Math.cos(a) };
};

/** A straight way through the middle of the room, shifted sideways. */
export const acrossRoom = (room: Room, deg: number, shiftMm: number): Point[] => {
  const { middle: m, radiusMm: r } = room;
  return [
    { x: m.x - r, y: m.y + shiftMm },
    { x: m.x + r, y: m.y + shiftMm },
  ].map((p) => turned(p, m, deg));
};

export const circleWay = (c: Point, radiusMm: number): Point[] =>
  [...Array(73).keys()].map((i) => ({
    x: c.x + radiusMm * Math.cos((2 * Math.PI * i) / 72),
    y: c.y + radiusMm * Math.sin((2 * Math.PI * i) / 72),
  }));

/** Shifts to both sides of the middle, from the middle outward, so that spacing comes out even. */
export function fromMiddleOut(halfMm: number, spacingMm: number): number[] {
  const n = Math.floor(halfMm / spacingMm);
  return [0, ...[...Array(n).keys()].flatMap((i) => [(i + 1) * spacingMm, -(i + 1) * spacingMm])];
}
