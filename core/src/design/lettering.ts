import { SaxesParser } from 'saxes';
import { inscribedCircle, shapeFromRings } from '../geometry/clip.js';
import { distance, type Point, polylineLengthMm } from '../geometry/point.js';
import { type Box, boundingBox } from '../geometry/shape.js';
import { type Place, placesAlong } from '../geometry/way.js';
import { BadInput } from '../units/bad-input.js';

/** One letter: strokes, or the rings of what it covers, in the face's units, upwards positive as faces have it. */
export interface Glyph {
  readonly advance: number;
  readonly strokes: readonly (readonly Point[])[];
}

export interface Face {
  readonly unitsPerEm: number;
  /** height of a capital, measured on its H, in the face's units */
  readonly capital: number;
  readonly glyphs: { readonly get: (letter: string) => Glyph | undefined };
  /** letters are single strokes, each one bead; or areas, flooded or stencilled */
  readonly kind: 'strokes' | 'areas';
  /** a running hand: where a letter ends at the beginning of the next, the bead goes on */
  readonly joins: boolean;
}

/** Reads an SVG font (SVG 1.1, chapter 20) whose glyphs are polylines. Throws {@link BadInput} where it is none. */
export function readLineFace(svgFont: string, joins = false): Face {
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
  return { unitsPerEm, capital, glyphs, kind: 'strokes', joins };
}

function strokesOf(d: string): Point[][] {
  const out: Point[][] = [];
  for (const [, command, x, y] of d.matchAll(/([ML])\s*(-?[\d.]+)[\s,]+(-?[\d.]+)/g)) {
    if (command === 'M') out.push([]);
    out.at(-1)?.push({ x: Number(x), y: Number(y) });
  }
  return out.filter((s) => s.length > 1);
}

type Strokes = Glyph['strokes'];

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

type Way = readonly (readonly [x: number, y: number])[];
/** Accents for faces without such signs, as strokes: x across from the letter's middle, y up from its top (or foot), in capitals' heights. */
const DRAWN_ACCENTS: Readonly<Record<string, { readonly at: 'top' | 'foot' | 'foot on the right'; readonly ways: readonly Way[] }>> = {
  '\u0300': {
    at: 'top',
    ways: [
      [
        [-0.1, 0.2],
        [0.06, 0.06],
      ],
    ],
  },
  '\u0301': {
    at: 'top',
    ways: [
      [
        [-0.06, 0.06],
        [0.1, 0.2],
      ],
    ],
  },
  '\u0302': {
    at: 'top',
    ways: [
      [
        [-0.13, 0.06],
        [0, 0.18],
        [0.13, 0.06],
      ],
    ],
  },
  '\u0303': {
    at: 'top',
    ways: [
      [
        [-0.16, 0.07],
        [-0.08, 0.14],
        [0.08, 0.07],
        [0.16, 0.14],
      ],
    ],
  },
  '\u0304': {
    at: 'top',
    ways: [
      [
        [-0.18, 0.08],
        [0.18, 0.08],
      ],
    ],
  },
  '\u0306': {
    at: 'top',
    ways: [
      [
        [-0.16, 0.16],
        [-0.1, 0.07],
        [0, 0.04],
        [0.1, 0.07],
        [0.16, 0.16],
      ],
    ],
  },
  '\u0307': {
    at: 'top',
    ways: [
      [
        [0, 0.06],
        [0, 0.1],
      ],
    ],
  },
  '\u0308': {
    at: 'top',
    ways: [
      [
        [-0.11, 0.06],
        [-0.11, 0.1],
      ],
      [
        [0.11, 0.06],
        [0.11, 0.1],
      ],
    ],
  },
  '\u030a': {
    at: 'top',
    ways: [
      [
        [0.09, 0.13],
        [0, 0.22],
        [-0.09, 0.13],
        [0, 0.04],
        [0.09, 0.13],
      ],
    ],
  },
  '\u030b': {
    at: 'top',
    ways: [
      [
        [-0.13, 0.06],
        [-0.03, 0.2],
      ],
      [
        [0.03, 0.06],
        [0.13, 0.2],
      ],
    ],
  },
  '\u030c': {
    at: 'top',
    ways: [
      [
        [-0.13, 0.18],
        [0, 0.06],
        [0.13, 0.18],
      ],
    ],
  },
  '\u0326': {
    at: 'foot',
    ways: [
      [
        [0.02, -0.08],
        [0.02, -0.15],
        [-0.05, -0.24],
      ],
    ],
  },
  '\u0327': {
    at: 'foot',
    ways: [
      [
        [0, 0],
        [0, -0.08],
        [0.08, -0.13],
        [0, -0.22],
        [-0.08, -0.2],
      ],
    ],
  },
  '\u0328': {
    at: 'foot on the right',
    ways: [
      [
        [0, 0],
        [-0.08, -0.1],
        [-0.06, -0.2],
        [0.06, -0.22],
      ],
    ],
  },
};

/** Letters that are another with a stroke through it (its ends in shares of the letter's box, y up), two written as one, or one without its dot. */
const STRUCK: Readonly<Record<string, { readonly base: string; readonly from: readonly [number, number]; readonly to: readonly [number, number] }>> = {
  ø: { base: 'o', from: [0, -0.1], to: [1, 1.1] },
  Ø: { base: 'O', from: [0, -0.05], to: [1, 1.05] },
  ł: { base: 'l', from: [-0.35, 0.38], to: [1.35, 0.62] },
  Ł: { base: 'L', from: [-0.2, 0.32], to: [0.55, 0.6] },
  đ: { base: 'd', from: [0.45, 0.82], to: [1.2, 0.82] },
  Đ: { base: 'D', from: [-0.2, 0.5], to: [0.4, 0.5] },
  Ð: { base: 'D', from: [-0.2, 0.5], to: [0.4, 0.5] },
  ð: { base: 'd', from: [0.55, 0.72], to: [1.15, 0.95] },
  ħ: { base: 'h', from: [-0.25, 0.8], to: [0.45, 0.8] },
  Ħ: { base: 'H', from: [-0.15, 0.75], to: [1.15, 0.75] },
};
const WRITTEN_AS_ONE: Readonly<Record<string, string>> = { Æ: 'AE', æ: 'ae', Œ: 'OE', œ: 'oe', ß: 'ss' };
/** Of two letters written as one, the second comes so much nearer, in its breadths: *assumed*. */
const NEARER = 0.12;

function glyphOf(face: Face, letter: string): Glyph | null {
  const own = face.glyphs.get(letter);
  // Some faces name a letter and leave it blank.
  if (own && (own.strokes.length > 0 || letter.trim() === '')) return own;
  // An area cannot be put together from strokes: such a face has a letter or has it not.
  if (face.kind === 'areas') return null;
  return struck(face, letter) ?? asOne(face, letter) ?? thorn(face, letter) ?? dotless(face, letter) ?? accented(face, letter);
}

function accented(face: Face, letter: string): Glyph | null {
  const [base, ...marks] = [...letter.normalize('NFD')];
  const body = base === undefined ? undefined : face.glyphs.get(base);
  if (!body || marks.length === 0) return null;
  // An accent takes the place of a dot.
  let strokes = base === 'i' || base === 'j' ? withoutDot(body.strokes) : body.strokes;
  for (const m of marks) {
    const added = signed(face, strokes, m) ?? drawnAccent(face, strokes, m);
    if (!added) return null;
    strokes = [...strokes, ...added];
  }
  return { advance: body.advance, strokes };
}

const boxOf = (strokes: Strokes): Box => boundingBox(strokes.flat());

/** An accent the face has as a sign of its own, set over the middle of a letter, or under it. */
function signed(face: Face, body: Strokes, mark: string): Strokes | null {
  const accent = ACCENTS[mark];
  const sign = accent && face.glyphs.get(accent.from);
  if (!sign || !accent) return null;
  const [s, b] = [boxOf(sign.strokes), boxOf(body)];
  const middle = (b.minX + b.maxX) / 2 - (s.minX + s.maxX) / 2;
  const lift = mark === '\u0327' ? 0 : b.maxY + face.capital * 0.1 - s.minY;
  return (accent.doubled ? [-0.07, 0.07] : [0]).flatMap((shift) =>
    sign.strokes.map((stroke) => stroke.map((p) => ({ x: p.x + middle + shift * face.unitsPerEm, y: (accent.flipped ? s.minY + s.maxY - p.y : p.y) + lift }))),
  );
}

function drawnAccent(face: Face, body: Strokes, mark: string): Strokes | null {
  const accent = DRAWN_ACCENTS[mark];
  if (!accent) return null;
  const b = boxOf(body);
  const x = accent.at === 'foot on the right' ? b.minX + 0.8 * (b.maxX - b.minX) : (b.minX + b.maxX) / 2;
  const y = accent.at === 'top' ? b.maxY : Math.max(0, b.minY);
  return accent.ways.map((way) => way.map(([dx, dy]) => ({ x: x + dx * face.capital, y: y + dy * face.capital })));
}

function struck(face: Face, letter: string): Glyph | null {
  const how = STRUCK[letter];
  const body = how && face.glyphs.get(how.base);
  if (!how || !body) return null;
  const b = boxOf(body.strokes);
  // A letter that is one upright has no breadth to take shares of.
  const breadth = Math.max(b.maxX - b.minX, 0.25 * face.capital);
  const left = (b.minX + b.maxX - breadth) / 2;
  const place = ([x, y]: readonly [number, number]): Point => ({ x: left + x * breadth, y: b.minY + y * (b.maxY - b.minY) });
  return { advance: body.advance, strokes: [...body.strokes, [place(how.from), place(how.to)]] };
}

function asOne(face: Face, letter: string): Glyph | null {
  const [first, second] = [...(WRITTEN_AS_ONE[letter] ?? '')].map((l) => face.glyphs.get(l));
  if (!first || !second) return null;
  const shift = first.advance - NEARER * second.advance;
  return { advance: shift + second.advance, strokes: [...first.strokes, ...second.strokes.map((s) => s.map((p) => ({ x: p.x + shift, y: p.y })))] };
}

/** A thorn: a p with its stem up to a capital's height; a large one stands on the line. */
function thorn(face: Face, letter: string): Glyph | null {
  if (letter !== 'þ' && letter !== 'Þ') return null;
  const bowl = face.glyphs.get('p');
  if (!bowl) return null;
  const b = boxOf(bowl.strokes);
  const up = letter === 'Þ' ? Math.max(0, -b.minY) : 0;
  const strokes = bowl.strokes.map((s) => s.map((p) => ({ x: p.x, y: p.y + up })));
  const stem = [
    { x: b.minX, y: face.capital },
    { x: b.minX, y: Math.min(b.minY + up, face.capital) },
  ];
  return { advance: bowl.advance, strokes: [stem, ...strokes] };
}

function dotless(face: Face, letter: string): Glyph | null {
  const body = letter === 'ı' ? face.glyphs.get('i') : undefined;
  return body ? { advance: body.advance, strokes: withoutDot(body.strokes) } : null;
}

/** The strokes without that which lies wholly over all the others. */
function withoutDot(strokes: Strokes): Strokes {
  const rest = strokes.filter((s) => strokes.some((other) => other !== s && Math.max(...other.map((p) => p.y)) >= Math.min(...s.map((p) => p.y))));
  return rest.length > 0 ? rest : strokes;
}

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
  if (letters.length === 0) throw new BadInput('no-words', 'There is no word to pipe yet: type one.');
  const missing = [...new Set(letters.filter((l) => !glyphOf(face, l)))];
  if (missing.length > 0)
    throw new BadInput('no-such-letter', `This face has no ${missing.map((m) => `“${m}”`).join(', ')}: choose another face, or spell it otherwise.`);
  const scale = heightMm / face.capital;
  const glyphs = letters.map((l) => glyphOf(face, l) as Glyph);
  const widthMm = glyphs.reduce((sum, g) => sum + g.advance * scale, 0);
  const standAt = 'along' in place ? alongWay(place, widthMm) : onArc(place, widthMm);
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

function alongWay(place: Extract<WritingPlace, { along: unknown }>, widthMm: number): (alongMm: number) => Stand {
  const { closed, share } = place;
  const chain = closed && place.along[0] ? [...place.along, place.along[0]] : place.along;
  const total = polylineLengthMm(chain);
  if (widthMm > total)
    throw new BadInput('too-long', `The words are ${Math.round(widthMm)} mm long and the edge ${Math.round(total)} mm: make the capitals lower, or say less.`);
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
