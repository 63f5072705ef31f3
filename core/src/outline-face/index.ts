import * as opentype from 'opentype.js';
import type { Face, Glyph } from '../design/faces.js';
import { shapeFromRings } from '../geometry/clip.js';
import { flattenPath } from '../geometry/flatten.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';

/** As a module it names what it has; as Node.js takes it, all of that is in its default. */
const { parse } = 'default' in opentype ? (opentype as unknown as { readonly default: typeof opentype }).default : opentype;

/** Letters are taken at this size, so that their curves keep a hundredth of a millimetre at any size they are piped in. */
const EM = 100;

/**
 * A face whose letters are areas, from the files it is divided into (Latin, Latin extended …): OpenType or TrueType, also as
 * WOFF. What overlaps within a letter becomes one area. Throws {@link BadInput} where a file is none.
 */
export function readOutlineFace(files: readonly ArrayBuffer[], joins: boolean): Face {
  const fonts = files.map((file) => {
    try {
      return parse(file);
    } catch {
      throw new BadInput('no-glyphs', msg`The face cannot be read: choose an OpenType, TrueType or WOFF file.`);
    }
  });
  const known = new Map<string, Glyph | null>();
  const glyphOf = (letter: string): Glyph | undefined => {
    const found = known.get(letter);
    if (found !== undefined) return found ?? undefined;
    const font = fonts.find((f) => f.charToGlyph(letter).index !== 0);
    const glyph = font?.charToGlyph(letter);
    const made =
      font && glyph
        ? { advance: (glyph.advanceWidth / font.unitsPerEm) * EM, strokes: ringsOf(glyph.getPath(0, 0, EM).toPathData(3)) }
        : null;
    known.set(letter, made);
    return made ?? undefined;
  };
  const capital = Math.max(
    0,
    ...(glyphOf('H')
      ?.strokes.flat()
      .map((p) => p.y) ?? []),
  );
  if (capital === 0) throw new BadInput('no-glyphs', msg`The face has no letters: choose one with the Latin alphabet.`);
  return { unitsPerEm: EM, capital, glyphs: { get: glyphOf }, kind: 'areas', joins };
}

/** Upwards positive, as faces have it. */
const ringsOf = (d: string): Glyph['strokes'] =>
  d === ''
    ? []
    : shapeFromRings(
        flattenPath(d, []).map((s) => s.points.map((p) => ({ x: p.x, y: -p.y }))),
        'nonzero',
      );
