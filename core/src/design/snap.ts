import { difference, intersection, offset, shapeFromRings, union } from '../geometry/clip.js';
import { distance, nearestOnSegment, type Point } from '../geometry/point.js';
import { areaMm2, boundingBox, contains, type Ring, type Shape } from '../geometry/shape.js';
import { type Design, type PipedLine, type Section, sectionsOf } from './design.js';
import { footprintOf } from './footprint.js';

/** A gap narrower than twice this is closed, an overlap narrower than that is trimmed: what a hand means to meet, mm (*assumed*). */
export const SNAP_MM = 1;
/** A flood whose ground holds at least this share of what is drawn is what it is drawn on, not its neighbour. */
const LIES_ON_SHARE = 0.6;
/** Smaller than this is nothing to flood, mm². */
const LEAST_MM2 = 1;
/** How far round the cookie there is something to be seen of its ground, mm. */
const AROUND_MM = 12;

/** Colour without a body, which is laid over edges and bounds nothing. */
const FILMS: readonly PipedLine['technique'][] = ['airbrush', 'dust', 'pen', 'paint'];

type Area = Section | (PipedLine & { readonly area: true });
const areasOf = (design: Design): readonly Area[] =>
  design.parts.filter((p): p is Area => p.role === 'section' || (p.role === 'line' && p.area === true && !FILMS.includes(p.technique)));

function frameOf(design: Design): Shape {
  const box = boundingBox(design.cookie.flat());
  const [x0, y0, x1, y1] = [box.minX - AROUND_MM, box.minY - AROUND_MM, box.maxX + AROUND_MM, box.maxY + AROUND_MM];
  return [
    [
      { x: x0, y: y0 },
      { x: x1, y: y0 },
      { x: x1, y: y1 },
      { x: x0, y: y1 },
    ],
  ];
}

/**
 * A drawn area made to meet what lies beside it: narrow gaps are closed, narrow overlaps trimmed, and it reaches the edge of
 * the flood it is drawn on where it comes near it. What it crosses by more was meant to lie on top, and is let be.
 * (A morphological closing of the area and its neighbours, with the neighbours taken off again.)
 */
export function meetingNeighbours(drawn: Ring, design: Design): Ring {
  const area = shapeFromRings([drawn], 'nonzero');
  const size = areaMm2(area);
  if (size < LEAST_MM2) return drawn;
  const frame = frameOf(design);
  const reach = offset(area, 2 * SNAP_MM);
  let beside: Shape = [];
  for (const part of areasOf(design)) {
    const ground = footprintOf(part);
    if (areaMm2(intersection(reach, ground)) <= 0) continue;
    const common = intersection(area, ground);
    // Drawn on it: its edge is as far as it goes. Beside it: it is met. Across it: it is meant.
    if (areaMm2(common) >= LIES_ON_SHARE * size && areaMm2(ground) > size) {
      if (areaMm2(difference(reach, ground)) > 0) beside = union(beside, difference(frame, ground));
    } else if (offset(common, -SNAP_MM).length === 0) beside = union(beside, ground);
  }
  if (beside.length === 0) return drawn;
  const closed = offset(offset(union(area, beside), SNAP_MM), -SNAP_MM);
  const met = intersection(difference(union(closed, area), beside), reach);
  const best = met.filter((r) => areaMm2([r]) > 0).sort((a, b) => areaMm2(intersection([b], area)) - areaMm2(intersection([a], area)))[0];
  return best && areaMm2([best]) >= LEAST_MM2 ? best : drawn;
}

/**
 * The bounded place round a point, as far as it goes: inside an outline that is piped there, up to the edges of floods beside
 * it, between two of them. Null where nothing bounds it but the flood it lies on, and on a line.
 */
export function placeAround(design: Design, at: Point): Shape | null {
  const under = sectionsOf(design).findLast((s) => contains(s.shape, at));
  let free: Shape = under ? under.shape : design.cookie;
  for (const part of design.parts) {
    if (part === under || (part.role !== 'section' && part.role !== 'line')) continue;
    if (part.role === 'line' && FILMS.includes(part.technique)) continue;
    const ground = footprintOf(part);
    // The flood under the point lies on others: those are not in its way.
    if (under && part.role === 'section' && areaMm2(intersection(ground, under.shape)) > 0.99 * areaMm2(under.shape)) continue;
    free = difference(free, ground);
  }
  // Of rings round the point, the innermost: others have it in one of their holes.
  const outer = free.filter((r) => areaMm2([r]) > 0 && contains([r], at)).sort((a, b) => areaMm2([a]) - areaMm2([b]))[0];
  if (!outer || !contains(free, at)) return null;
  const found: Shape = [outer, ...free.filter((r) => areaMm2([r]) < 0 && contains([outer], r[0] as Point))];
  const whole = under ? under.shape : design.cookie;
  // Nothing bounds it but what it lies on.
  if (areaMm2(found) > 0.999 * areaMm2(whole) && under) return null;
  return areaMm2(found) >= LEAST_MM2 ? found : null;
}

/** A stroke whose ends are laid onto the ends and edges that are near enough to be meant. */
export function meetingEnds(stroke: readonly Point[], design: Design): Point[] {
  if (stroke.length < 2) return [...stroke];
  const targets = design.parts.flatMap((p): { points: Ring; closed: boolean }[] =>
    p.role === 'line' && !p.area
      ? [{ points: p.points, closed: p.closed }]
      : p.role === 'section'
        ? p.shape.map((points) => ({ points, closed: true }))
        : [],
  );
  const snapped = (p: Point): Point => {
    let best: { at: Point; mm: number } | null = null;
    for (const { points, closed } of targets) {
      // An end is meant before the line it ends.
      if (!closed)
        for (const end of [points[0], points.at(-1)])
          if (end && distance(end, p) <= SNAP_MM && (!best || distance(end, p) < best.mm + SNAP_MM / 2))
            best = { at: end, mm: distance(end, p) };
      for (const [i, a] of points.entries()) {
        const b = points[i + 1] ?? (closed ? points[0] : undefined);
        if (!b) continue;
        const at = nearestOnSegment(p, a, b);
        const mm = distance(at, p);
        if (mm <= SNAP_MM && (!best || mm < best.mm - SNAP_MM / 2)) best = { at, mm };
      }
    }
    return best?.at ?? p;
  };
  return [snapped(stroke[0] as Point), ...stroke.slice(1, -1), snapped(stroke.at(-1) as Point)];
}
