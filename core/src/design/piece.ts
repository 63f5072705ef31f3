import { union } from '../geometry/clip.js';
import { boundingBox, type Shape } from '../geometry/shape.js';
import { belongs, growthOf, type Matrix, middleOf, placedBy } from './arrange.js';
import type { Design, Part } from './design.js';
import { type DesignDocument, SAYABLE, type SingleEdit } from './document/document.js';
import { draftOf, foldDesign } from './document/fold.js';
import type { DrawnPath } from './drawn-path.js';
import { footprintOf } from './footprint.js';

/** Words that name other parts. */
const NAMING: readonly string[] = ['after', 'flush', 'guides'];
/** Words a stroke says by itself, or that speak of a whole drawing. */
const SAID_BY_THE_STROKE: readonly string[] = ['name', 'colour', 'part', 'technique', 'over', 'group'];

/** A design brought to a width, its middle to that of another. */
export function fitting(piece: Design, on: Design, widthMm: number): Matrix {
  const [own, host] = [boundingBox(piece.cookie.flat()), boundingBox(on.cookie.flat())];
  const f = widthMm / (own.maxX - own.minX);
  const [from, to] = [middleOf(own), middleOf(host)];
  return [f, 0, 0, f, to.x - from.x * f, to.y - from.y * f];
}

/**
 * Another design laid on one as its own parts, all of one group: its floods on top, in their colours, with everything in and on
 * them and what was said of them. Guides stay with their cookie.
 */
export function pieceEdits(doc: DesignDocument, id: string, matrix: Matrix): SingleEdit[] {
  const design = foldDesign(doc);
  return draftOf(doc).drawing.paths.flatMap((path): SingleEdit[] => {
    const own = design.parts.filter((p) => belongs(p.id, path.id) && p.role !== 'guide');
    const [first] = own;
    if (!first) return [];
    const rings = first.role === 'section' ? first.shape : null;
    const strokes = (rings ? rings.map((points) => ({ points, closed: true })) : path.subpaths).map((s) => ({
      closed: s.closed,
      points: s.points.map((p) => placedBy(matrix, p)),
    }));
    const drawn: SingleEdit = {
      type: 'draw',
      id: `${id}-${path.id}`.slice(0, 60),
      name: first.name.slice(0, 80),
      technique: first.role === 'guide' ? 'guide' : first.role === 'section' ? (first.technique ?? 'flood') : first.technique,
      strokes,
      area: rings !== null || isArea(path, first),
      layer: first.role === 'section',
      colour: first.colour,
      widthMm: Math.min(30, Math.max(0.2, (path.strokeWidthMm || 1) * growthOf(matrix))),
    };
    const said = Object.entries(path.data).flatMap(([key, value]): [string, string][] =>
      value === '' || SAID_BY_THE_STROKE.includes(key) || !(SAYABLE as readonly string[]).includes(key)
        ? []
        : [
            [
              key,
              NAMING.includes(key)
                ? value
                    .split(/\s+/)
                    .map((x) => `${id}-${x}`.slice(0, 60))
                    .join(' ')
                : value,
            ],
          ],
    );
    return [drawn, { type: 'say', part: drawn.id, said: { ...Object.fromEntries(said), group: id } }];
  });
}

const isArea = (path: DrawnPath, part: Part): boolean =>
  (part.role === 'line' && part.area === true) || (part.role === 'mark' && path.fill !== null && part.technique !== 'drag' && part.technique !== 'wet-line');

/** Another design glued on as one piece that was made before: the ground of its icing, in the colour there is most of. */
export function gluedPieceEdit(piece: Design, id: string, matrix: Matrix): SingleEdit | null {
  const floods = piece.parts.filter((p) => p.role === 'section');
  const ground = floods.reduce<Shape>((sum, p) => union(sum, footprintOf(p)), []);
  const most = [...floods].sort((a, b) => boxArea(footprintOf(b)) - boxArea(footprintOf(a)))[0];
  if (!most || ground.length === 0) return null;
  return {
    type: 'draw',
    id,
    name: piece.name.slice(0, 80),
    technique: 'glued-transfer',
    strokes: ground.map((ring) => ({ points: ring.map((p) => placedBy(matrix, p)), closed: true })),
    area: true,
    layer: false,
    colour: most.colour,
    widthMm: 1,
  };
}

const boxArea = (s: Shape): number => {
  const b = boundingBox(s.flat());
  return (b.maxX - b.minX) * (b.maxY - b.minY);
};
