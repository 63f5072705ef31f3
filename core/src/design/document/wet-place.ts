import { shapeFromRings, strokeShape } from '../../geometry/clip.js';
import type { Point } from '../../geometry/point.js';
import { areaMm2, type Box, boundingBox, contains, type Shape } from '../../geometry/shape.js';
import type { DrawnPath } from '../drawn-path.js';
import { SECTION_MIN_MM2 } from '../read-design.js';
import { BEADS } from '../settle.js';
import { detailTechniques, markTechniques } from '../technique-names.js';

/** Ground of a flood or a bead as it was drawn. */
interface Ground {
  readonly shape: Shape;
  readonly box: Box;
}
/** What each path covers while it is wet, worked out once: a path never changes, it is replaced. */
const grounds = new WeakMap<DrawnPath, Ground | null>();
/** What a wet stroke was laid into, as long as both paths are there. */
const laidInto = new WeakMap<DrawnPath, DrawnPath>();

const isOneOf = (list: readonly string[], v: string | undefined): boolean => v !== undefined && list.includes(v);

/** The ground of a path that says itself, or shows by its size, that it is a flood or a bead; null of any other. */
function groundOf(p: DrawnPath): Ground | null {
  const known = grounds.get(p);
  if (known !== undefined) return known;
  const { part, technique } = p.data;
  const isMark = part === 'mark' || isOneOf(markTechniques, technique);
  const isDetail = part === 'line' || isOneOf(detailTechniques, technique);
  const rings = () =>
    shapeFromRings(
      p.subpaths.map((s) => s.points),
      p.fillRule,
    );
  let shape: Shape = [];
  if (part === 'cookie' || part === 'guide' || isMark) shape = [];
  else if (isDetail) {
    if (isOneOf(BEADS, technique ?? 'piped-line'))
      shape =
        p.fill !== null && isOneOf(detailTechniques, technique)
          ? rings()
          : p.subpaths.flatMap((s) => strokeShape(s.points, Math.max(0.2, p.strokeWidthMm), s.closed));
  } else if (p.fill !== null) {
    shape = rings();
    if (part !== 'section' && areaMm2(shape) < SECTION_MIN_MM2) shape = [];
  }
  const found = shape.length > 0 ? { shape, box: boundingBox(shape.flat()) } : null;
  grounds.set(p, found);
  return found;
}

const covers = (g: Ground | null, p: Point): boolean =>
  g !== null && p.x >= g.box.minX && p.x <= g.box.maxX && p.y >= g.box.minY && p.y <= g.box.maxY && contains(g.shape, p);

/** The topmost flood or bead at a place, by what was drawn. */
export const bodyAt = (paths: readonly DrawnPath[], at: Point): DrawnPath | undefined => paths.findLast((p) => covers(groundOf(p), at));

const flushIds = (p: DrawnPath): readonly string[] => (p.data['flush'] ?? '').split(/[\s,]+/).filter((id) => id !== '');

/** A body with those it is said to lie level with: what is drawn across them belongs to all. */
export const levelBodies = (paths: readonly DrawnPath[], body: DrawnPath): ReadonlySet<DrawnPath> =>
  new Set(paths.filter((p) => p === body || flushIds(body).includes(p.id) || flushIds(p).includes(body.id)));

/** Where in the stack something is laid that lies in these bodies: after them, and after everything that lies wet in them already. */
export function afterWet(paths: readonly DrawnPath[], bodies: ReadonlySet<DrawnPath>): number {
  const standing = new Set(paths);
  return paths.reduce((last, p, i) => {
    if (bodies.has(p)) return i;
    if (p.data['part'] !== 'mark' && !isOneOf(markTechniques, p.data['technique'])) return last;
    let body = laidInto.get(p);
    if (!body || !standing.has(body)) {
      const first = p.subpaths[0]?.points[0];
      body = first && bodyAt(paths, first);
      if (body) laidInto.set(p, body);
    }
    return body && bodies.has(body) ? i : last;
  }, 0);
}
