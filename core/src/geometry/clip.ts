import { Clipper, ClipperD, ClipType, EndType, FillRule, JoinType, type PathsD } from 'clipper2-ts';
import polylabel from 'polylabel';
import type { Point } from './point.js';
import { centroid, contains, type Ring, type Shape, signedRingArea } from './shape.js';

/** Decimal places kept by polygon operations: a tenth of a micrometre. */
const PRECISION = 4;

const paths = (shape: Shape): PathsD => shape.map((ring) => ring.map((p) => ({ x: p.x, y: p.y })));
/** Plain points without the library's third number, to the precision it worked in. */
const plain = (found: PathsD): Shape => found.map((ring) => ring.map((p) => ({ x: rounded(p.x), y: rounded(p.y) })));
const rounded = (v: number) => Math.round(v * 10 ** PRECISION) / 10 ** PRECISION;
const boolean = (type: ClipType, a: Shape, b: Shape | null, rule: FillRule): Shape =>
  plain(Clipper.booleanOpD(type, paths(a), b ? paths(b) : null, rule, PRECISION));

/** Rings as drawn (any winding, self-crossing allowed) made into a clean shape by the drawing's fill rule. */
export const shapeFromRings = (rings: readonly Ring[], rule: 'nonzero' | 'evenodd'): Shape =>
  boolean(ClipType.Union, rings, null, rule === 'evenodd' ? FillRule.EvenOdd : FillRule.NonZero);
export const union = (a: Shape, b: Shape): Shape => boolean(ClipType.Union, a, b, FillRule.NonZero);
export const difference = (a: Shape, b: Shape): Shape => boolean(ClipType.Difference, a, b, FillRule.NonZero);
export const intersection = (a: Shape, b: Shape): Shape => boolean(ClipType.Intersection, a, b, FillRule.NonZero);
/** Grown by `byMm` (shrunk where negative), with round corners. */
export const offset = (shape: Shape, byMm: number): Shape =>
  plain(Clipper.inflatePathsD(paths(shape), byMm, JoinType.Round, EndType.Polygon, 2, PRECISION, 0.01));

/** The ground a bead of this width covers along a chain of points, with round ends. */
export const strokeShape = (points: readonly Point[], widthMm: number, closed: boolean): Shape =>
  plain(
    Clipper.inflatePathsD(
      paths([points]),
      Math.max(widthMm, 0.02) / 2,
      JoinType.Round,
      closed ? EndType.Joined : EndType.Round,
      2,
      PRECISION,
      0.02,
    ),
  );

/** The stretches of a chain of points that lie inside a shape, in the order they come along it. */
export function strokeInside(points: readonly Point[], closed: boolean, shape: Shape): Ring[] {
  const engine = new ClipperD(PRECISION);
  const chain = closed && points[0] ? [...points, points[0]] : points;
  engine.addOpenSubjectPaths(paths([chain]));
  engine.addClipPaths(paths(shape));
  const open: PathsD = [];
  engine.execute(ClipType.Intersection, FillRule.NonZero, [], open);
  return plain(open) as Ring[];
}

/** Largest circle that fits, by the pole of inaccessibility to 0.05 mm. */
export function inscribedCircle(shape: Shape): { readonly centre: Point; readonly diameterMm: number } {
  let best = { centre: centroid(shape), diameterMm: 0 };
  const outers = shape.filter((r) => signedRingArea(r) > 0);
  const holes = shape.filter((r) => signedRingArea(r) < 0);
  for (const outer of outers) {
    const own = holes.filter((h) => contains([outer], h[0] as Point));
    const rings = [outer, ...own].map((r) => r.map((p): [number, number] => [p.x, p.y]));
    const found = polylabel(rings, 0.05);
    if (2 * found.distance > best.diameterMm)
      best = { centre: { x: found[0] as number, y: found[1] as number }, diameterMm: 2 * found.distance };
  }
  return best;
}
