import type { Point } from '../../geometry/point.js';
import { type Box, boundingBox, contains, type Shape } from '../../geometry/shape.js';
import type { DrawnPath } from '../drawn-path.js';
import { bodiesOf, isWetWork } from '../read-design.js';
import { wetGround } from '../settle.js';
import { idsOf } from '../words.js';

/** Ground of floods or beads as they were drawn. */
interface Ground {
  readonly shapes: readonly Shape[];
  readonly box: Box;
}
/** What each path covers while it is wet, worked out once: a path never changes, it is replaced. */
const grounds = new WeakMap<DrawnPath, Ground | null>();
/** What a wet stroke was laid into, as long as both paths are there. */
const laidInto = new WeakMap<DrawnPath, DrawnPath>();

function groundOf(p: DrawnPath): Ground | null {
  const known = grounds.get(p);
  if (known !== undefined) return known;
  // Each by itself: where two strokes of one path cross, both are there.
  const shapes = bodiesOf(p).flatMap((part) => {
    const ground = wetGround(part);
    return ground ? [ground] : [];
  });
  const found = shapes.length > 0 ? { shapes, box: boundingBox(shapes.flat(2)) } : null;
  grounds.set(p, found);
  return found;
}

const covers = (g: Ground | null, p: Point): boolean =>
  g !== null &&
  p.x >= g.box.minX &&
  p.x <= g.box.maxX &&
  p.y >= g.box.minY &&
  p.y <= g.box.maxY &&
  g.shapes.some((shape) => contains(shape, p));

/** The topmost flood or bead at a place, by what was drawn. */
export const bodyAt = (paths: readonly DrawnPath[], at: Point): DrawnPath | undefined => paths.findLast((p) => covers(groundOf(p), at));

const flushIds = (p: DrawnPath): readonly string[] => idsOf(p.data['flush']);

/** A body with those it is said to lie level with: what is drawn across them belongs to all. */
export const levelBodies = (paths: readonly DrawnPath[], body: DrawnPath): ReadonlySet<DrawnPath> =>
  new Set(paths.filter((p) => p === body || flushIds(body).includes(p.id) || flushIds(p).includes(body.id)));

/** Where in the stack something is laid that lies in these bodies: after them, and after everything that lies wet in them already. */
export function afterWet(paths: readonly DrawnPath[], bodies: ReadonlySet<DrawnPath>): number {
  const standing = new Set(paths);
  return paths.reduce((last, p, i) => {
    if (bodies.has(p)) return i;
    if (!isWetWork(p)) return last;
    let body = laidInto.get(p);
    if (!body || !standing.has(body)) {
      const first = p.subpaths[0]?.points[0];
      body = first && bodyAt(paths, first);
      if (body) laidInto.set(p, body);
    }
    return body && bodies.has(body) ? i : last;
  }, 0);
}
