import { inscribedCircle, shapeFromRings } from '../geometry/clip.js';
import { distance, type Point, polylineLengthMm } from '../geometry/point.js';
import { type Place, placesAlong } from '../geometry/way.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { type Face, type Glyph, glyphOf } from './faces.js';

/** Where a line of writing stands: straight or bent about its middle, or along an edge; by the middle of its height. */
export type WritingPlace =
  /** the arc the whole line takes, degrees: 0 is straight, positive bends up in the middle, negative down */
  | { readonly middle: Point; readonly arcDeg: number }
  /** the middle of the line stands at this share of the way; it is turned round where it would stand on its head */
  | { readonly along: readonly Point[]; readonly closed: boolean; readonly share: number };

export interface LetteringAsk {
  readonly text: string;
  /** height of a capital, mm */
  readonly heightMm: number;
  readonly place: WritingPlace;
}

/** Least height of capitals for a bead, times its width: common practice, no published source (4 mm for a bead of 1 mm). */
export const LEAST_HEIGHT_PER_BEAD = 4;
/** Beads of a running hand whose ends are nearer than this share of a capital's height are one: *assumed*. */
const JOINED_SHARE = 0.12;

/** Where a letter stands, and how far it is turned. */
interface Stand {
  readonly at: Point;
  readonly turn: number;
}

/**
 * The strokes of words, or their areas, in the order a hand pipes them, letter by letter. A letter stands whole, turned about
 * its own middle, never bent. Throws {@link BadInput} for no words, for letters the face lacks, naming them, and for words that
 * are longer than the edge they are to follow.
 */
export function lettered(face: Face, { text, heightMm, place }: LetteringAsk): Point[][] {
  const letters = [...text.trim().normalize('NFC')];
  if (letters.length === 0) throw new BadInput('no-words', msg`There is no word to pipe yet: type one.`);
  const missing = [...new Set(letters.filter((l) => !glyphOf(face, l)))];
  if (missing.length > 0)
    throw new BadInput(
      'no-such-letter',
      msg`This face has no ${missing.map((m) => `“${m}”`).join(', ')}: choose another face, or spell it otherwise.`,
    );
  const scale = heightMm / face.capital;
  const glyphs = letters.map((l) => glyphOf(face, l) as Glyph);
  const widthMm = glyphs.reduce((sum, g) => sum + g.advance * scale, 0);
  const standAt = 'along' in place ? alongEdge(place, widthMm) : onArc(place, widthMm);
  const out: Point[][][] = [];
  let x = -widthMm / 2;
  for (const g of glyphs) {
    const half = (g.advance * scale) / 2;
    const { at, turn } = standAt(x + half);
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    out.push(
      g.strokes.map((stroke) =>
        stroke.map((p) => {
          const [px, py] = [p.x * scale - half, -p.y * scale + heightMm / 2];
          return { x: at.x + px * c - py * s, y: at.y + px * s + py * c };
        }),
      ),
    );
    x += 2 * half;
  }
  return face.kind === 'strokes' && face.joins ? runOn(out, JOINED_SHARE * heightMm) : out.flat();
}

function onArc({ middle, arcDeg }: { readonly middle: Point; readonly arcDeg: number }, widthMm: number): (alongMm: number) => Stand {
  if (arcDeg === 0) return (along) => ({ at: { x: middle.x + along, y: middle.y }, turn: 0 });
  const radiusMm = widthMm / ((arcDeg * Math.PI) / 180);
  return (along) => {
    const turn = along / radiusMm;
    return { at: { x: middle.x + radiusMm * Math.sin(turn), y: middle.y + radiusMm * (1 - Math.cos(turn)) }, turn };
  };
}

function alongEdge(place: Extract<WritingPlace, { along: unknown }>, widthMm: number): (alongMm: number) => Stand {
  const { closed, share } = place;
  const chain = closed && place.along[0] ? [...place.along, place.along[0]] : place.along;
  const total = polylineLengthMm(chain);
  if (widthMm > total)
    throw new BadInput(
      'too-long',
      msg`The words are ${Math.round(widthMm)} mm long and the edge ${Math.round(total)} mm: make the capitals lower, or say less.`,
    );
  // An open way holds the whole line; a ring goes on where it began.
  const wished = share * total;
  const middle = closed ? wished : Math.max(widthMm / 2, Math.min(total - widthMm / 2, wished));
  const onItsHead = (placesAlong(chain, [middle])[0] as Place).along.x < 0;
  return (along) => {
    const s = middle + (onItsHead ? -along : along);
    const { at, along: way } = placesAlong(chain, [closed ? ((s % total) + total) % total : s])[0] as Place;
    return { at, turn: Math.atan2(way.y, way.x) + (onItsHead ? Math.PI : 0) };
  };
}

/** Letters of a running hand: a stroke goes on in the next letter where that begins beside its end. */
function runOn(letters: readonly (readonly (readonly Point[])[])[], withinMm: number): Point[][] {
  const out: Point[][] = [];
  for (const strokes of letters)
    for (const [i, stroke] of strokes.entries()) {
      const last = out.at(-1);
      const [end, begin] = [last?.at(-1), stroke[0]];
      // Only across letters: strokes of one letter are as its face has them.
      if (i === 0 && last && end && begin && distance(end, begin) <= withinMm) last.push(...stroke);
      else out.push([...stroke]);
    }
  return out;
}

/**
 * The narrowest of some letters at a height, mm: the largest circle within each, the least of them. What is narrower than an
 * icing can be flooded or stencilled does not come out. Infinity for a face of strokes.
 */
export function narrowestMm(face: Face, text: string, heightMm: number): number {
  if (face.kind === 'strokes') return Number.POSITIVE_INFINITY;
  const scale = heightMm / face.capital;
  const widths = [...new Set(text.normalize('NFC').replace(/\s/g, ''))].map((l) => {
    const shape = shapeFromRings(glyphOf(face, l)?.strokes ?? [], 'nonzero');
    return shape.length === 0 ? Number.POSITIVE_INFINITY : inscribedCircle(shape).diameterMm * scale;
  });
  return Math.min(Number.POSITIVE_INFINITY, ...widths);
}
