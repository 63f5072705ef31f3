import { circleAt, type Design, footprintOf, type Part, partById } from '../design/index.js';
import { inscribedCircle, offset, strokeInside } from '../geometry/clip.js';
import type { Point } from '../geometry/point.js';
import { boxOf, type Ring, type Shape } from '../geometry/shape.js';
import { SQUARE_MM, squareCorners } from '../light/beam.js';
import type { Tip } from '../steps/tips.js';
import { BadInput } from '../units/bad-input.js';
import { msg, word } from '../words/index.js';
import { type Piece, pieceOf, trueSizeSheet } from './lay-out.js';
import { box, line, outline, type PaperAsk, type PaperMark, type PrintedSheet, words } from './page.js';

/** A knife takes so much; the line to cut along lies half of it outside: *assumed*, a craft blade. */
export const KNIFE_MM = 0.6;
const HAIR_MM = 0.15;
const FAINT_MM = 0.1;
/** Guides beneath reach so far beyond the cookie on both sides, so that their ends show beside it. */
export const OVERHANG_MM = 12;
/** Fingers reach between pieces on parchment that lie so far apart: common practice, no published source. */
export const FINGER_MM = 8;
const MOST_PIECES = 500;

const mirroredMarks = (marks: readonly PaperMark[]): PaperMark[] =>
  marks.map((m) =>
    m.kind === 'drawn' ? { ...m, rings: m.rings.map((ring) => ring.map((p) => ({ x: -p.x, y: p.y }))) } : { ...m, xMm: -m.xMm },
  );

/** Parts by the numbers the bench gives them: in the order they are piped. */
export type Numbers = ReadonlyMap<string, number>;

/** Number of a part in the middle of it, or above it where there is no room; beside the cross where that lies in the middle. */
function numbered(part: Part, numbers: Numbers, tone: 'black' | 'grey', crossAt?: Point): PaperMark[] {
  const n = numbers.get(part.id);
  if (n === undefined) return [];
  const { centre, diameterMm } = inscribedCircle(footprintOf(part));
  if (diameterMm < 3) {
    const top = footprintOf(part)
      .flat()
      .reduce((best, p) => (p.y < best.y ? p : best));
    return [words(String(n), top.x, top.y - 0.6, 2.2, { align: 'middle', tone })];
  }
  const sizeMm = Math.min(4, diameterMm * 0.6);
  const beside = crossAt && Math.hypot(centre.x - crossAt.x, centre.y - crossAt.y) < 4 ? 3 + sizeMm / 2 : 0;
  return [words(String(n), centre.x + beside, centre.y + sizeMm * 0.35 + beside, sizeMm, { align: 'middle', tone })];
}

export interface TemplateAsk {
  /** one part with its neighbours faint; the whole cookie where none is named */
  readonly part?: string | undefined;
  /** seen from behind, for tracing from there */
  readonly mirrored?: boolean;
  readonly numbers?: Numbers;
}

/**
 * What is cut out of card or film: the outline half a knife's width outside, a cross in its middle, an arrow upward, neighbours faint.
 * Throws {@link BadInput} where there is no such part.
 */
export function templateSheet(
  design: Design,
  { part: partId, mirrored = false, numbers = new Map() }: TemplateAsk,
  ask: PaperAsk,
): PrintedSheet {
  const part = partId === undefined ? undefined : partById(design, partId);
  if (partId !== undefined && !part)
    throw new BadInput(
      'part',
      msg`"${partId}" is no part of ${design.name}: name one of ${design.parts
        .slice(0, 6)
        .map((p) => `"${p.id}"`)
        .join(', ')}.`,
    );
  const own: Shape = part ? footprintOf(part) : design.cookie;
  const cutAt = offset(own, KNIFE_MM / 2);
  const b = boxOf(cutAt);
  const reach = [box(b.minX - 6, b.minY - 6, b.maxX - b.minX + 12, b.maxY - b.minY + 12)];
  const faint = design.parts
    .filter((p) => p !== part && p.role !== 'mark')
    .flatMap((p) => footprintOf(p).flatMap((ring) => strokeInside(ring, true, reach)))
    .map((ring) => line(ring, FAINT_MM, 'faint'));
  const { centre } = inscribedCircle(own);
  const marks: PaperMark[] = [
    ...faint,
    outline(cutAt, HAIR_MM),
    ...cross(centre),
    ...upArrow(centre),
    ...(part ? numbered(part, numbers, 'black', centre) : design.parts.flatMap((p) => numbered(p, numbers, 'grey', centre))),
  ];
  const shown = mirrored ? mirroredMarks(marks) : marks;
  const what = msg`cutting template${part ? msg` of ${part.name}` : ''}${mirrored ? msg`, mirrored` : ''}`;
  return trueSizeSheet(ask, what, [pieceOf(part?.name ?? design.name, shown)]);
}

const cross = ({ x, y }: Point): PaperMark[] => [
  line(
    [
      { x: x - 3, y },
      { x: x + 3, y },
    ],
    HAIR_MM,
    'grey',
  ),
  line(
    [
      { x, y: y - 3 },
      { x, y: y + 3 },
    ],
    HAIR_MM,
    'grey',
  ),
];
const upArrow = ({ x, y }: Point): PaperMark[] => [
  line(
    [
      { x, y: y - 4 },
      { x, y: y - 9 },
    ],
    0.25,
    'grey',
  ),
  line(
    [
      { x: x - 1.5, y: y - 7 },
      { x, y: y - 9 },
      { x: x + 1.5, y: y - 7 },
    ],
    0.25,
    'grey',
  ),
];

/** "own": what the design itself has for guides. */
export const guideKinds = ['own', 'stripes', 'grid', 'thirds', 'quarters', 'sectors', 'rings', 'dots', 'writing'] as const;
export type GuideKind = (typeof guideKinds)[number];
/** Those whose lines lie so far apart. */
export const pitchedGuides: readonly GuideKind[] = ['stripes', 'grid', 'rings', 'dots', 'writing'];
export interface GuideAsk {
  readonly guide: GuideKind;
  /** from one line, ring or dot to the next, mm */
  readonly pitchMm: number;
  /** how far the whole is turned, degrees */
  readonly angleDeg: number;
  /** sectors all around */
  readonly count: number;
}

/** Whether a design has guides of its own. */
export const hasGuides = (design: Design): boolean => design.parts.some((p) => p.role === 'guide');

/** A straight guide goes on so far beyond both its ends that they are seen beside the cookie; a bent one ends where it ends. */
function beyond(way: readonly Point[], byMm: number): Ring {
  const [a, b] = [way[0] as Point, way.at(-1) as Point];
  const long = Math.hypot(b.x - a.x, b.y - a.y);
  const isStraight = way.every((p) => Math.abs((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) < STRAIGHT_MM * long);
  if (!isStraight || long === 0) return [...way];
  const [ux, uy] = [(b.x - a.x) / long, (b.y - a.y) / long];
  return [{ x: a.x - ux * byMm, y: a.y - uy * byMm }, ...way.slice(1, -1), { x: b.x + ux * byMm, y: b.y + uy * byMm }];
}
/** A line that strays no more than this from its chord is straight, mm. */
const STRAIGHT_MM = 0.1;

/**
 * The lines of a guide in the drawing's own millimetres, within a window. Throws {@link BadInput} where nobody could follow them, or where
 * a design has none of its own.
 */
export function guideLines(design: Design, { guide, pitchMm, angleDeg, count }: GuideAsk, window: Shape): Ring[] {
  if (!(pitchMm >= 1)) throw new BadInput('pitch', msg`Lines ${pitchMm} mm apart cannot be followed: 1 mm or more.`);
  const b = boxOf(design.cookie);
  const middle = { x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 };
  const half = Math.hypot(b.maxX - b.minX, b.maxY - b.minY) / 2 + OVERHANG_MM;
  const turn = (angleDeg * Math.PI) / 180;
  const at = (u: number, v: number): Point => ({
    x: middle.x + u * Math.cos(turn) - v * Math.sin(turn),
    y: middle.y + u * Math.sin(turn) + v * Math.cos(turn),
  });
  const along = (v: number): Ring => [at(-half, v), at(half, v)];
  const across = (u: number): Ring => [at(u, -half), at(u, half)];
  const ray = (deg: number): Ring => [middle, at(half * Math.cos((deg * Math.PI) / 180), half * Math.sin((deg * Math.PI) / 180))];
  const circle = (r: number): Ring =>
    [...Array(97).keys()].map((k) => at(r * Math.cos((2 * Math.PI * k) / 96), r * Math.sin((2 * Math.PI * k) / 96)));
  const steps = (from: number) => [...Array(Math.floor((half - from) / pitchMm) + 1).keys()].map((k) => from + k * pitchMm);
  const both = (from: number) => [...new Set(steps(from).flatMap((v) => [v, -v]))];
  const [w, h] = [b.maxX - b.minX, b.maxY - b.minY];
  const own = design.parts.filter((p) => p.role === 'guide');
  if (guide === 'own' && own.length === 0)
    throw new BadInput('no-guides', msg`${design.name} has no guides of its own: choose another kind, and make it a step of the design.`);
  const ways: Readonly<Record<GuideKind, () => Ring[]>> = {
    own: () => own.map((p) => (p.closed ? [...p.points, p.points[0] as Point] : beyond(p.points, 2 * half))),
    stripes: () => both(pitchMm / 2).map(along),
    grid: () => [...both(0).map(along), ...both(0).map(across)],
    thirds: () => [along(-h / 6), along(h / 6), across(-w / 6), across(w / 6)],
    quarters: () => [along(0), across(0)],
    sectors: () => [...Array(Math.max(2, Math.round(count))).keys()].map((k) => ray((360 * k) / Math.max(2, Math.round(count)) - 90)),
    rings: () =>
      steps(pitchMm)
        .filter((r) => r <= Math.max(w, h) / 2)
        .map(circle),
    dots: () =>
      both(0).flatMap((u) =>
        both(0)
          .map((v): Ring => [at(u - 0.6, v), at(u + 0.6, v)])
          .concat(both(0).map((v): Ring => [at(u, v - 0.6), at(u, v + 0.6)])),
      ),
    writing: () =>
      both(pitchMm / 2)
        .filter((v) => Math.abs(v) <= h / 2)
        .map(along),
  };
  return ways[guide]().flatMap((way) => strokeInside(way, false, window));
}

/** What lies beneath a cookie, or beside it: lines that reach 12 mm beyond it on both sides, so that their ends are seen. */
export function guideSheet(design: Design, how: GuideAsk, ask: PaperAsk): PrintedSheet {
  const { guide, pitchMm, count } = how;
  const b = boxOf(design.cookie);
  const window = [box(b.minX - OVERHANG_MM, b.minY - OVERHANG_MM, b.maxX - b.minX + 2 * OVERHANG_MM, b.maxY - b.minY + 2 * OVERHANG_MM)];
  const middle = { x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 };
  // Words and borders that follow the design's own guides are shown in outline where they come to lie.
  const guided = guide === 'own' ? design.parts.filter((p) => p.role === 'line').flatMap(footprintOf) : [];
  const marks: PaperMark[] = [
    outline(design.cookie, FAINT_MM, 'faint'),
    ...guided.map((ring) => line([...ring, ring[0] as Point], HAIR_MM, 'grey')),
    ...guideLines(design, how, window).map((way) => line(way, 0.25)),
    ...cross(middle),
  ];
  const pitch = pitchedGuides.includes(guide)
    ? msg` ${pitchMm} mm apart`
    : guide === 'sectors'
      ? msg` of ${Math.round(360 / Math.max(2, Math.round(count)))}°`
      : '';
  return trueSizeSheet(ask, guide === 'own' ? msg`guides of the design` : msg`guide: ${word(guide)}${pitch}`, [
    pieceOf(msg`${guide === 'own' ? msg`guides` : word(guide)} for ${design.name}`, marks),
  ]);
}

/**
 * Pieces to pipe through parchment: as many as are needed with their spares, never nearer than fingers need, mirrored where they are
 * turned over when they are laid. Throws {@link BadInput} for more than 500.
 */
export function transferSheet(
  design: Design,
  {
    count,
    spares,
    turnedOver,
    numbers = new Map(),
  }: { readonly count: number; readonly spares: number; readonly turnedOver: boolean; readonly numbers?: Numbers },
  ask: PaperAsk,
): PrintedSheet {
  const all = count + spares;
  if (!(Number.isInteger(all) && all >= 1 && all <= MOST_PIECES))
    throw new BadInput('pieces', msg`${all} pieces cannot be put on sheets: from 1 to ${MOST_PIECES}.`);
  const marks: PaperMark[] = [
    outline(design.cookie, HAIR_MM, 'grey'),
    ...design.parts.flatMap((p): PaperMark[] => [
      ...footprintOf(p).map((ring) => line([...ring, ring[0] as Point], HAIR_MM, p.role === 'section' ? 'black' : 'grey')),
      ...(p.role === 'section' ? numbered(p, numbers, 'grey') : []),
    ]),
  ];
  const piece = pieceOf(design.name, turnedOver ? mirroredMarks(marks) : marks, 0);
  const note = msg`Parchment on top: print never touches food.`;
  const sheet = trueSizeSheet(
    ask,
    msg`transfers, ${count}${spares > 0 ? msg` and ${spares} spare` : ''}${turnedOver ? msg`, mirrored to be turned over` : ''}. ${note}`,
    [...Array(all).keys()].map((): Piece => piece),
    FINGER_MM,
  );
  return sheet;
}

/** Beads by their thickness, mm. */
const BEADS_MM = [0.5, 0.75, 1, 1.25, 1.5, 2, 2.5, 3] as const;
/** Heights rolling sticks come in, mm: common practice, no published source. */
const DOUGH_MM = [3, 4, 5, 6, 7, 8, 10] as const;

/** What beads and openings are held against: bars of beads, circles of the kitchen's tips and of what it traces round, marks for dough. */
export function gaugeSheet(tips: readonly Tip[], circlesMm: readonly number[], ask: PaperAsk): PrintedSheet {
  const bars = BEADS_MM.flatMap((mm, i): PaperMark[] => [
    { kind: 'drawn', rings: [box(0, i * 7, 60, mm)], closed: true, tone: 'black', lineMm: 0, fill: 'black' },
    words(msg`${mm} mm`, 63, i * 7 + mm / 2 + 1.1, 3),
  ]);
  const openings = [...tips]
    .sort((a, b) => a.openingMm - b.openingMm)
    .map((t) =>
      pieceOf(
        t.name,
        [
          outline([circleAt({ x: 14, y: 6 }, t.openingMm)], HAIR_MM),
          outline([box(0, 0, 28, 18)], FAINT_MM, 'faint'),
          words(t.name.length > 20 ? `${t.name.slice(0, 19)}…` : t.name, 14, 13, 2.2, { align: 'middle' }),
          words(msg`${t.openingMm} mm`, 14, 16.5, 2.4, { align: 'middle' }),
        ],
        0,
      ),
    );
  const dough = DOUGH_MM.flatMap((mm, i): PaperMark[] => [
    outline([box(i * 20, 14 - mm, 14, mm)], HAIR_MM),
    words(msg`${mm} mm`, i * 20 + 7, 18, 2.6, { align: 'middle' }),
  ]);
  const circles = circlesMm.map((mm) =>
    pieceOf(msg`${mm} mm`, [
      outline([circleAt({ x: 0, y: 0 }, mm)], HAIR_MM),
      ...cross({ x: 0, y: 0 }),
      words(msg`${mm} mm`, 0, mm < 16 ? mm / 2 + 3.4 : mm / 2 - 2, 2.6, { align: 'middle' }),
    ]),
  );
  return trueSizeSheet(
    ask,
    msg`gauges: beads, openings, circles, dough`,
    [
      withRoom(pieceOf(msg`beads`, bars), 18),
      withRoom(pieceOf(msg`dough`, dough), 0, 6),
      ...openings,
      ...circles,
      pieceOf(msg`square`, squareMarks()),
    ],
    4,
  );
}
/** The square a projector is set up on: its corners are where the crosses meet. */
function squareMarks(): PaperMark[] {
  const half = SQUARE_MM / 2;
  return [
    outline([box(-half, -half, SQUARE_MM, SQUARE_MM)], 0.4),
    ...squareCorners.flatMap(({ x, y }) => [
      line(
        [
          { x: x - 4, y },
          { x: x + 4, y },
        ],
        0.4,
      ),
      line(
        [
          { x, y: y - 4 },
          { x, y: y + 4 },
        ],
        0.4,
      ),
    ]),
    ...cross({ x: 0, y: 0 }),
    words(msg`for the projector: drag its four lights onto the crosses`, 0, half - 5, 2.6, { align: 'middle' }),
  ];
}
const withRoom = (p: Piece, right: number, below = 0): Piece => ({ ...p, widthMm: p.widthMm + right, heightMm: p.heightMm + below });
