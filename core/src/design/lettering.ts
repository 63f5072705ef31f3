import { SaxesParser } from 'saxes';
import type { Point } from '../geometry/point.js';
import { BadInput } from '../units/bad-input.js';

/** One letter of a single-line face: strokes in em thousandths, upwards positive as fonts have it. */
interface Glyph {
  readonly advance: number;
  readonly strokes: readonly (readonly Point[])[];
}

/** A face whose letters are single strokes: each is one bead. */
export interface LineFace {
  readonly unitsPerEm: number;
  /** height of a capital, measured on its H, in the face's units */
  readonly capital: number;
  readonly glyphs: ReadonlyMap<string, Glyph>;
}

/** Reads an SVG font (SVG 1.1, chapter 20) whose glyphs are polylines. Throws {@link BadInput} where it is none. */
export function readLineFace(svgFont: string): LineFace {
  const glyphs = new Map<string, Glyph>();
  let unitsPerEm = 1000;
  let usual = 500;
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    const a = attributes as Readonly<Record<string, string>>;
    if (name === 'font') usual = Number(a['horiz-adv-x'] ?? usual);
    if (name === 'font-face') unitsPerEm = Number(a['units-per-em'] ?? unitsPerEm);
    if (name === 'glyph' && a['unicode']) glyphs.set(a['unicode'], { advance: Number(a['horiz-adv-x'] ?? usual), strokes: strokesOf(a['d'] ?? '') });
  });
  parser.write(svgFont).close();
  if (glyphs.size === 0) throw new BadInput('no-glyphs', 'The face has no letters: choose an SVG font whose glyphs are single strokes.');
  const capital = Math.max(
    1,
    ...(glyphs
      .get('H')
      ?.strokes.flat()
      .map((p) => p.y) ?? [unitsPerEm * 0.7]),
  );
  return { unitsPerEm, capital, glyphs };
}

function strokesOf(d: string): Point[][] {
  const out: Point[][] = [];
  for (const [, command, x, y] of d.matchAll(/([ML])\s*(-?[\d.]+)[\s,]+(-?[\d.]+)/g)) {
    if (command === 'M') out.push([]);
    out.at(-1)?.push({ x: Number(x), y: Number(y) });
  }
  return out.filter((s) => s.length > 1);
}

/** Accents a face has by themselves, for letters it has not with them: what decomposing a letter (Unicode NFD) leaves beside its base. */
const ACCENTS: Readonly<Record<string, { readonly from: string; readonly flipped?: boolean; readonly doubled?: boolean }>> = {
  '\u0300': { from: '`' },
  '\u0301': { from: '´' },
  '\u0302': { from: '^' },
  '\u0303': { from: '~' },
  '\u0308': { from: '¨' },
  '\u030a': { from: '°' },
  '\u030b': { from: '´', doubled: true },
  '\u030c': { from: '^', flipped: true },
  '\u0327': { from: '¸' },
};

function glyphOf(face: LineFace, letter: string): Glyph | null {
  const own = face.glyphs.get(letter);
  if (own) return own;
  const [base, ...marks] = [...letter.normalize('NFD')];
  const body = base === undefined ? undefined : face.glyphs.get(base);
  if (!body || marks.length === 0) return null;
  const strokes = [...body.strokes];
  for (const m of marks) {
    const accent = ACCENTS[m];
    const sign = accent && face.glyphs.get(accent.from);
    if (!sign || !accent) return null;
    const xs = sign.strokes.flat().map((p) => p.x);
    const ys = sign.strokes.flat().map((p) => p.y);
    const bodyXs = body.strokes.flat().map((p) => p.x);
    const top = Math.max(...body.strokes.flat().map((p) => p.y));
    const middle = (Math.min(...bodyXs) + Math.max(...bodyXs)) / 2 - (Math.min(...xs) + Math.max(...xs)) / 2;
    const isBelow = m === '\u0327';
    const lift = isBelow ? 0 : top + face.capital * 0.1 - Math.min(...ys);
    const [low, high] = [Math.min(...ys), Math.max(...ys)];
    for (const shift of accent.doubled ? [-0.07, 0.07] : [0])
      for (const s of sign.strokes)
        strokes.push(s.map((p) => ({ x: p.x + middle + shift * face.unitsPerEm, y: (accent.flipped ? low + high - p.y : p.y) + lift })));
  }
  return { advance: body.advance, strokes };
}

export interface LetteringAsk {
  readonly text: string;
  /** height of a capital, mm */
  readonly heightMm: number;
  /** where the middle of the line of writing stands */
  readonly middle: Point;
  /** arc the whole line of writing takes, degrees: 0 is straight, positive bends up in the middle, negative down */
  readonly arcDeg: number;
}

/** Least height of capitals for a bead, times its width: common practice, no published source (4 mm for a bead of 1 mm). */
export const LEAST_HEIGHT_PER_BEAD = 4;

/**
 * The strokes of words in the order a hand pipes them, letter by letter. Throws {@link BadInput} for no words, and for
 * letters the face lacks, naming them.
 */
export function lettered(face: LineFace, { text, heightMm, middle, arcDeg }: LetteringAsk): Point[][] {
  const letters = [...text.trim().normalize('NFC')];
  if (letters.length === 0) throw new BadInput('no-words', 'There is no word to pipe yet: type one.');
  const missing = [...new Set(letters.filter((l) => !glyphOf(face, l)))];
  if (missing.length > 0)
    throw new BadInput('no-such-letter', `This face has no ${missing.map((m) => `“${m}”`).join(', ')}: choose another face, or spell it otherwise.`);
  const scale = heightMm / face.capital;
  const glyphs = letters.map((l) => glyphOf(face, l) as Glyph);
  const widthMm = glyphs.reduce((sum, g) => sum + g.advance * scale, 0);
  const radiusMm = arcDeg === 0 ? null : widthMm / ((arcDeg * Math.PI) / 180);
  const out: Point[][] = [];
  let x = -widthMm / 2;
  for (const g of glyphs) {
    const half = (g.advance * scale) / 2;
    // A letter stands whole on the arc, turned about its own middle, never bent.
    const along = x + half;
    const turn = radiusMm === null ? 0 : along / radiusMm;
    const foot = radiusMm === null ? { x: along, y: 0 } : { x: radiusMm * Math.sin(turn), y: radiusMm * (1 - Math.cos(turn)) };
    for (const s of g.strokes)
      out.push(
        s.map((p) => {
          const [px, py] = [p.x * scale - half, -p.y * scale + heightMm / 2];
          return { x: middle.x + foot.x + px * Math.cos(turn) - py * Math.sin(turn), y: middle.y + foot.y + px * Math.sin(turn) + py * Math.cos(turn) };
        }),
      );
    x += 2 * half;
  }
  return out;
}
