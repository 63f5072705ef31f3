import { union } from '../geometry/clip.js';
import { areaMm2, boundingBox, type Shape } from '../geometry/shape.js';
import { belongs, growthOf, type Matrix, middleOf, placedBy } from './arrange.js';
import type { Design, Guide, Part, Section } from './design.js';
import { type DesignDocument, SAYABLE, type SingleEdit } from './document/document.js';
import { draftOf, foldDesign } from './document/fold.js';
import type { DrawnPath } from './drawn-path.js';
import { footprintOf } from './footprint.js';
import { idsOf } from './words.js';

/** Words that name other parts. */
const NAMING: readonly string[] = ['after', 'flush', 'guides'];
/** What is said of a part beside what its stroke says by itself. */
const SAYABLE_OF_A_PIECE: readonly string[] = SAYABLE.filter(
  (key) => !['name', 'colour', 'part', 'technique', 'over', 'group'].includes(key),
);

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
  const { paths } = draftOf(doc).drawing;
  // Short names of their own: those of a drawing may be long, and alike in their beginnings.
  const names = new Map(paths.map((p, i) => [p.id, `${id}-${i + 1}`]));
  return paths.flatMap((path): SingleEdit[] => {
    const first = design.parts.find((p): p is Exclude<Part, Guide> => belongs(p.id, path.id) && p.role !== 'guide');
    if (!first) return [];
    const rings = first.role === 'section' ? first.shape : null;
    const strokes = (rings ? rings.map((points) => ({ points, closed: true })) : path.subpaths).map((s) => ({
      closed: s.closed,
      points: s.points.map((p) => placedBy(matrix, p)),
    }));
    const drawn: SingleEdit = {
      type: 'draw',
      id: names.get(path.id) as string,
      name: first.name.slice(0, 80),
      technique: first.role === 'section' ? (first.technique ?? 'flood') : first.technique,
      strokes,
      area: rings !== null || isArea(path, first),
      layer: first.role === 'section',
      colour: first.colour,
      widthMm: Math.min(30, Math.max(0.2, (path.strokeWidthMm || 1) * growthOf(matrix))),
    };
    const said = Object.entries(path.data)
      .filter(([key, value]) => value !== '' && SAYABLE_OF_A_PIECE.includes(key))
      .map(([key, value]) => [key, NAMING.includes(key) ? renamed(value, names) : value] as const);
    // Level with another and on top cannot both be said: how such a flood lies on the cookie is read from where it lies.
    const over: Record<string, string> = path.data['flush'] ? { over: '' } : {};
    return [drawn, { type: 'say', part: drawn.id, said: { ...Object.fromEntries(said), ...over, group: id } }];
  });
}

/** Names of parts in a word, as they are called in the piece; a whole that is several paths is all of them. */
const renamed = (word: string, names: ReadonlyMap<string, string>): string =>
  idsOf(word)
    .flatMap((of) => [...names].filter(([old]) => belongs(old, of)).map(([, name]) => name))
    .join(' ');

const isArea = (path: DrawnPath, part: Part): boolean =>
  (part.role === 'line' && part.area === true) ||
  (part.role === 'mark' && path.fill !== null && part.technique !== 'drag' && part.technique !== 'wet-line');

/** Another design glued on as one piece that was made before: the ground of its icing, in the colour there is most of. */
export function gluedPieceEdit(piece: Design, id: string, matrix: Matrix): SingleEdit {
  const floods = piece.parts.filter((p) => p.role === 'section');
  const ground = floods.reduce<Shape>((sum, p) => union(sum, footprintOf(p)), []);
  // A design has at least one flood, or it could not be read.
  const most = [...floods].sort((a, b) => areaMm2(footprintOf(b)) - areaMm2(footprintOf(a)))[0] as Section;
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
