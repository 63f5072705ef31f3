import { lightnessAndChroma } from '../design/contrast.js';
import type { Design, Part, Section } from '../design/design.js';
import { sectionById } from '../design/design.js';
import { footprintOf } from '../design/footprint.js';
import { inscribedCircle } from '../geometry/clip.js';
import { type Point, polylineLengthMm } from '../geometry/point.js';
import { distanceToEdges } from '../geometry/shape.js';
import { placesAlong } from '../geometry/way.js';
import type { Flaw } from './scene.js';

/** How large what went wrong is shown, mm: *assumed*, as it is usually seen; never larger than the part has room for. */
const SIZE_MM: Readonly<Record<Flaw['kind'], number>> = { crater: 7, dent: 9, ridge: 10, bleed: 3.5, smudge: 7 };
/** Colours run across a join nearer than this, at places so far apart, mm. */
const JOIN_MM = 0.6;
const BLEEDS_EVERY_MM = 5;

/**
 * What went wrong with a part, where it would be seen: in the widest place of a flood, half way along a bead; a bleeding colour
 * along the join with the neighbour it comes from, the one that differs most in lightness. Empty where the part is not there, or
 * has no neighbour to bleed from.
 */
export function flawsOn(design: Design, partId: string, kind: Flaw['kind']): Flaw[] {
  const part = design.parts.find((p) => p.id === partId);
  if (!part) return [];
  if (kind === 'bleed') return bleeding(design, part);
  const { at, roomMm } = placeOf(design, part);
  return [{ kind, x: at.x, y: at.y, sizeMm: Math.min(SIZE_MM[kind], roomMm), ...(kind === 'smudge' ? { colour: part.colour } : {}) }];
}

function placeOf(design: Design, part: Part): { readonly at: Point; readonly roomMm: number } {
  if (part.role === 'section' || (part.role === 'mark' && part.closed)) {
    const { centre, diameterMm } = inscribedCircle(part.role === 'section' ? part.shape : footprintOf(part));
    return { at: centre, roomMm: Math.max(1, 0.8 * diameterMm) };
  }
  const middle = placesAlong(part.points, [polylineLengthMm(part.points) / 2])[0]?.at ?? { x: 0, y: 0 };
  const under = part.role === 'line' ? sectionById(design, part.restsOn[0] ?? '') : undefined;
  return { at: middle, roomMm: under ? Math.max(2, 1.5 * distanceToEdges(under.shape, middle)) : 6 };
}

function bleeding(design: Design, part: Part): Flaw[] {
  if (part.role !== 'section') return [];
  const neighbours = design.parts.filter((p): p is Section => p.role === 'section' && p !== part && p.colour !== part.colour);
  const own = lightnessAndChroma(part.colour).lightness;
  const far = (s: Section) => Math.abs(lightnessAndChroma(s.colour).lightness - own);
  for (const from of [...neighbours].sort((a, b) => far(b) - far(a))) {
    const flaws = part.shape.flatMap((ring) => {
      const closed = [...ring, ring[0] as Point];
      const n = Math.floor(polylineLengthMm(closed) / BLEEDS_EVERY_MM);
      return placesAlong(
        closed,
        [...Array(n).keys()].map((k) => k * BLEEDS_EVERY_MM),
      )
        .filter(({ at }) => distanceToEdges(from.shape, at) < JOIN_MM)
        .map(({ at }): Flaw => ({ kind: 'bleed', x: at.x, y: at.y, sizeMm: SIZE_MM.bleed, colour: from.colour }));
    });
    if (flaws.length > 0) return flaws;
  }
  return [];
}
