import { difference, offset, shapeFromRings, union } from '../../geometry/clip.js';
import { areaMm2, type Shape } from '../../geometry/shape.js';
import { belongs, growthOf, type Matrix, type Movement, placedBy } from '../arrange.js';
import type { DrawnPath } from '../drawn-path.js';
import { footprintOf } from '../footprint.js';
import { islands } from '../islands.js';
import { type Draft, designIn, freshName, withPaths } from './draft.js';

/** Less than this left of an area is nothing, mm². */
const LEAST_MM2 = 1;

/** The paths of a part, and of what lies wet in it: they go where it goes. */
function withWhatIsWet(d: Draft, part: string): ReadonlySet<DrawnPath> {
  const { paths } = d.drawing;
  const own = new Set(paths.filter((p) => belongs(p.id, part)));
  if (own.size === 0) return own;
  const { parts } = designIn(d);
  const bodies = parts.filter((p) => belongs(p.id, part)).map((p) => p.id);
  for (const mark of parts) {
    if (mark.role !== 'mark' || !bodies.includes(mark.sectionId)) continue;
    const path = paths.find((p) => belongs(mark.id, p.id));
    if (path) own.add(path);
  }
  return own;
}

function placed(p: DrawnPath, m: Matrix): DrawnPath {
  return {
    ...p,
    subpaths: p.subpaths.map((s) => ({ ...s, points: s.points.map((q) => placedBy(m, q)) })),
    strokeWidthMm: p.strokeWidthMm * growthOf(m),
  };
}

/** Every part goes by its own movement; what is named twice, or lies wet in one that goes too, goes once. */
export function arranged(d: Draft, moves: readonly Movement[]): Draft | null {
  const goes = new Map<DrawnPath, Matrix>();
  for (const { part, matrix } of moves) for (const p of withWhatIsWet(d, part)) if (!goes.has(p)) goes.set(p, matrix);
  if (goes.size === 0) return null;
  return withPaths(
    d,
    d.drawing.paths.map((p) => {
      const by = goes.get(p);
      return by ? placed(p, by) : p;
    }),
  );
}

export function copied(
  d: Draft,
  { part, id, matrix }: { readonly part: string; readonly id: string; readonly matrix: Matrix },
): Draft | null {
  const { paths } = d.drawing;
  const chosen = withWhatIsWet(d, part);
  if (chosen.size === 0) return null;
  // What lies in it is a part of its own still, under a name of its own.
  const roots = new Map<string, string>([[part, freshName(d, id)]]);
  const nameFor = (old: string) => {
    if (belongs(old, part)) return roots.get(part) + old.slice(part.length);
    const root = old.replace(/\.[\d.]+$/, '');
    if (!roots.has(root)) roots.set(root, freshName(d, `${roots.get(part)}-${roots.size}`));
    return roots.get(root) + old.slice(root.length);
  };
  const made = paths.filter((p) => chosen.has(p)).map((p) => ({ ...placed(p, matrix), id: nameFor(p.id) }));
  const last = paths.findLastIndex((p) => belongs(p.id, part));
  return withPaths(d, [...paths.slice(0, last + 1), ...made, ...paths.slice(last + 1)]);
}

const groundOf = (p: DrawnPath): Shape =>
  p.fill === null
    ? []
    : shapeFromRings(
        p.subpaths.map((s) => s.points),
        p.fillRule,
      );
const withGround = (p: DrawnPath, shape: Shape): DrawnPath => ({
  ...p,
  subpaths: shape.map((points) => ({ points, closed: true })),
  fillRule: 'nonzero',
});

export function united(d: Draft, parts: readonly string[]): Draft | null {
  const { paths } = d.drawing;
  const own = parts.map((part) => paths.filter((p) => belongs(p.id, part) && p.fill !== null));
  const first = own[0]?.[0];
  if (!first || parts.length < 2 || own.some((p) => p.length === 0)) return null;
  const whole = own.flat().reduce<Shape>((sum, p) => union(sum, groundOf(p)), []);
  const gone = new Set(own.flat().filter((p) => p !== first));
  return withPaths(
    d,
    paths.flatMap((p) => (p === first ? [withGround(p, whole)] : gone.has(p) ? [] : [p])),
  );
}

export function islandsApart(d: Draft, part: string): Draft | null {
  const { paths } = d.drawing;
  const path = paths.find((p) => p.id === part && p.fill !== null);
  if (!path) return null;
  const pieces = islands(groundOf(path));
  if (pieces.length < 2) return null;
  const made = pieces.map(
    ({ ring, holes }, i): DrawnPath => ({
      ...withGround(path, [ring, ...holes]),
      id: `${part}.${i + 1}`,
      data: { ...path.data, name: `${path.data['name'] ?? part.replace(/[-_]+/g, ' ')} ${i + 1}` },
    }),
  );
  return withPaths(
    d,
    paths.flatMap((p) => (p === path ? made : [p])),
  );
}

export function cutOut(
  d: Draft,
  { part, by, gapMm }: { readonly part: string; readonly by: readonly string[]; readonly gapMm: number },
): Draft | null {
  const design = designIn(d);
  const cutters = design.parts.filter((p) => by.some((b) => belongs(p.id, b)) && !belongs(p.id, part));
  if (cutters.length === 0) return null;
  const knife = offset(
    cutters.reduce<Shape>((sum, p) => union(sum, footprintOf(p)), []),
    gapMm,
  );
  let found = false;
  const paths = d.drawing.paths.map((p) => {
    if (!belongs(p.id, part) || p.fill === null) return p;
    const left = difference(groundOf(p), knife);
    // Nothing would be left of it: it stays as it is, and what was asked is reported.
    if (areaMm2(left) < LEAST_MM2) return p;
    found = true;
    return withGround(p, left);
  });
  return found ? withPaths(d, paths) : null;
}

/** The pieces of a pattern, each under a name that belongs to no whole any more. */
export function setFree(d: Draft, part: string): Draft | null {
  const { paths } = d.drawing;
  const pieces = paths.filter((p) => p.id !== part && belongs(p.id, part));
  if (pieces.length === 0) return null;
  const free = (old: string) => freshName(d, `${part}-${old.slice(part.length + 1).replaceAll('.', '-')}`);
  const names = new Map(pieces.map((p) => [p.id, free(p.id)]));
  return withPaths(
    d,
    paths.map((p, i) =>
      names.has(p.id) ? { ...p, id: names.get(p.id) as string, data: { ...p.data, name: `${p.data['name'] ?? part} ${i}` } } : p,
    ),
  );
}
