import { pointsOnBezierCurves } from 'points-on-curve';
import svgpath from 'svgpath';
import { distance, type Point } from './point.js';

/** Greatest distance between a curve and the chain of points that stands for it. */
export const FLATTEN_MM = 0.01;

/** Nothing drawn for a cookie, in whatever units, reaches farther from the page's corner. */
export const REACH_MM = 20_000;

export interface FlatSubpath {
  readonly points: readonly Point[];
  /** ended by Z, or drawn back to its first point */
  readonly closed: boolean;
}

/**
 * Path data → chains of points in mm. `transforms` are SVG transform lists, innermost element first, the last one
 * turning the drawing's units into mm. Throws {@link PathDataError} on bad data.
 */
export function flattenPath(d: string, transforms: readonly string[]): FlatSubpath[] {
  // Arcs become curves before they are moved: in a mirrored drawing the package would bend them the other way.
  const drawn = svgpath(d).abs().unshort().unarc();
  const parsed = transforms.reduce((path, t) => path.transform(t), drawn) as ReturnType<typeof svgpath> & { err?: string };
  if (parsed.err) throw new PathDataError(parsed.err);
  // Curves are only flattened where they lie near: one that reaches to the moon has more points than there is room for.
  parsed.iterate((segment) => {
    for (const n of (segment as readonly (string | number)[]).slice(1)) if (!(Math.abs(n as number) <= REACH_MM)) throw new TooFarError();
  });
  const out: FlatSubpath[] = [];
  let points: Point[] = [];
  const end = (closed: boolean) => {
    const clean = points.filter((p, i) => i === 0 || distance(p, points[i - 1] as Point) > 1e-6);
    const meets = clean.length > 2 && distance(clean[0] as Point, clean.at(-1) as Point) < FLATTEN_MM;
    if (meets) clean.pop();
    if (clean.length > 1) out.push({ points: clean, closed: closed || meets });
    points = [];
  };
  // points-on-curve compares sixteen times the squared deviation with its tolerance.
  const curve = (ctrl: [Point, Point, Point, Point]) => {
    const chain = pointsOnBezierCurves(
      ctrl.map((p): [number, number] => [p.x, p.y]),
      16 * FLATTEN_MM * FLATTEN_MM,
    );
    points.push(...chain.slice(1).map(([x, y]) => ({ x, y })));
  };
  parsed.iterate((segment, _index, x, y) => {
    const s = segment as readonly (string | number)[];
    const n = (i: number) => s[i] as number;
    const here = { x, y };
    switch (s[0]) {
      case 'M':
        end(false);
        points = [{ x: n(1), y: n(2) }];
        break;
      case 'L':
        if (points.length === 0) points = [here];
        points.push({ x: n(1), y: n(2) });
        break;
      case 'H':
        if (points.length === 0) points = [here];
        points.push({ x: n(1), y });
        break;
      case 'V':
        if (points.length === 0) points = [here];
        points.push({ x, y: n(1) });
        break;
      case 'C':
        if (points.length === 0) points = [here];
        curve([here, { x: n(1), y: n(2) }, { x: n(3), y: n(4) }, { x: n(5), y: n(6) }]);
        break;
      case 'Q': {
        if (points.length === 0) points = [here];
        const c = { x: n(1), y: n(2) };
        const to = { x: n(3), y: n(4) };
        const toward = (a: Point) => ({ x: a.x + (2 / 3) * (c.x - a.x), y: a.y + (2 / 3) * (c.y - a.y) });
        curve([here, toward(here), toward(to), to]);
        break;
      }
      case 'Z':
      case 'z':
        end(true);
        break;
      default:
        throw new PathDataError(`unexpected command ${String(s[0])}`);
    }
  });
  end(false);
  return out;
}

/** A path reaches beyond {@link REACH_MM}, or nowhere that is a number. */
export class TooFarError extends Error {}

export class PathDataError extends Error {}
