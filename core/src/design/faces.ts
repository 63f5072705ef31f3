import { SaxesParser } from 'saxes';
import type { Point } from '../geometry/point.js';
import { type Box, boundingBox } from '../geometry/shape.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';

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
    if (name === 'glyph' && a['unicode'])
      glyphs.set(a['unicode'], { advance: Number(a['horiz-adv-x'] ?? usual), strokes: strokesOf(a['d'] ?? '') });
  });
  parser.write(svgFont).close();
  if (glyphs.size === 0) throw new BadInput('no-glyphs', msg`The face has no letters: choose an SVG font whose glyphs are single strokes.`);
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
/**
 * Accents for faces without such signs, as strokes: x across from the letter's middle, y up from its top (or foot), in capitals' heights.
 */
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

/**
 * Letters that are another with a stroke through it (its ends in shares of the letter's box, y up), two written as one, or one without its
 * dot.
 */
const STRUCK: Readonly<
  Record<string, { readonly base: string; readonly from: readonly [number, number]; readonly to: readonly [number, number] }>
> = {
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

/** A letter of a face: its own, or put together; null where it is neither. */
export function glyphOf(face: Face, letter: string): Glyph | null {
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
    sign.strokes.map((stroke) =>
      stroke.map((p) => ({ x: p.x + middle + shift * face.unitsPerEm, y: (accent.flipped ? s.minY + s.maxY - p.y : p.y) + lift })),
    ),
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
  return {
    advance: shift + second.advance,
    strokes: [...first.strokes, ...second.strokes.map((s) => s.map((p) => ({ x: p.x + shift, y: p.y })))],
  };
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
  const rest = strokes.filter((s) =>
    strokes.some((other) => other !== s && Math.max(...other.map((p) => p.y)) >= Math.min(...s.map((p) => p.y))),
  );
  return rest.length > 0 ? rest : strokes;
}
