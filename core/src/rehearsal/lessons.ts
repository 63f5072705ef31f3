import type { Design } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { type OrderFile, parseOrder } from '../formats/order.js';
import { msg } from '../words/index.js';
import { BY_THE_BOOK, type Kitchen, slower } from './kitchen.js';

/** Something to practise: a small order, the icing it is played on, and what it teaches. All cookies in it are invented. */
export interface Lesson {
  readonly id: string;
  readonly title: string;
  /** what to look out for while it is played */
  readonly notice: string;
  /** the one thing it teaches, said afterwards */
  readonly teaches: string;
  readonly kitchen: Kitchen;
  readonly seed: number;
  /** somebody rings in the middle of the first wet visit behind so many tasks, and it takes so many minutes */
  readonly call?: { readonly afterTasks: number; readonly minutes: number };
  readonly cookies: readonly { readonly drawing: keyof typeof DRAWINGS; readonly count: number }[];
  readonly fan?: true;
}

const round = (r: number) => `M30 ${30 - r}A${r} ${r} 0 1 1 30 ${30 + r}A${r} ${r} 0 1 1 30 ${30 - r}Z`;
const half = (r: number, side: 'left' | 'right') => `M30 ${30 - r}A${r} ${r} 0 0 ${side === 'left' ? 0 : 1} 30 ${30 + r}Z`;
const section = (id: string, colour: string, d: string, more = '') =>
  `<path id="${id}" data-part="section" fill="${colour}" d="${d}"${more}/>`;
const dot = (id: string, colour: string, x: number, y: number) =>
  `<circle id="${id}" data-part="mark" data-technique="wet-drop" fill="${colour}" cx="${x}" cy="${y}" r="2.5"/>`;
const line = (id: string, technique: string, colour: string, widthMm: number, d: string) =>
  `<path id="${id}" data-part="line" data-technique="${technique}" fill="none" stroke="${colour}" stroke-width="${widthMm}" d="${d}"/>`;
const cookie = (inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path id="cookie" data-part="cookie" fill="#d9a566" d="${round(28)}"/>${inner}</svg>`;
const [FOG, RED, SEA, SAND, INK] = ['#f6f3ea', '#b3261e', '#3f7f86', '#f2c14e', '#22343c'];
const FLOOD = section('round', FOG, round(25));

/** A round cookie with one flood. */
export const plainRound = (): Design => readDesign(cookie(FLOOD), msg`Plain round`);

/** Practice cookies. */
const DRAWINGS = {
  'Spotted round': cookie(
    FLOOD + [0, 1, 2, 3, 4].map((k) => dot(`dot-${k + 1}`, RED, 30 + 13 * Math.sin(k * 1.2566), 30 - 13 * Math.cos(k * 1.2566))).join(''),
  ),
  'Two halves': cookie(section('left half', SEA, half(25, 'left')) + section('right half', SAND, half(25, 'right'))),
  'Red and white': cookie(section('white half', FOG, half(25, 'left')) + section('red half', RED, half(25, 'right'))),
  'Written round': cookie(FLOOD + line('word', 'lettering', INK, 1.5, 'M16 33Q22 20 27 33T38 33T46 30')),
  'Drawn round': cookie(FLOOD + line('drawing', 'pen', INK, 0.6, 'M18 38L30 18L42 38Z')),
  'Badge on a round': cookie(section('round', SEA, round(25)) + section('badge', FOG, round(12), ' data-over="layer"')),
  'Cracked round': cookie(FLOOD + line('cracks', 'crackle', INK, 0.6, 'M20 22L40 24M22 32L41 36M24 42L36 44')),
} as const;

const lesson = (l: Omit<Lesson, 'kitchen' | 'seed'> & Partial<Pick<Lesson, 'kitchen' | 'seed'>>): Lesson => ({
  kitchen: BY_THE_BOOK,
  seed: 7,
  ...l,
});

/** From easy to hard. */
export const LESSONS: readonly Lesson[] = [
  lesson({
    id: 'dots',
    title: msg`Flood three, drop the dots`,
    notice: msg`The flood thickens from the moment it is laid: dots go in while it still moves.`,
    teaches: msg`Wet dots sink level only in icing that still flows. Nothing is fetched, and nobody is answered, between a flood and its
      marks.`,
    cookies: [{ drawing: 'Spotted round', count: 3 }],
  }),
  lesson({
    id: 'neighbours',
    title: msg`Two neighbours`,
    notice: msg`The second half touches the first. What must the first have, before?`,
    teaches: msg`Two wet floods run together. The first must have crusted before the second lies against it.`,
    cookies: [{ drawing: 'Two halves', count: 4 }],
  }),
  lesson({
    id: 'strong-colours',
    title: msg`Red beside white`,
    notice: msg`It looks crusted long before it is safe beside a strong colour.`,
    teaches: msg`A strong colour creeps into a pale one that has only crusted. It waits until that has set.`,
    cookies: [{ drawing: 'Red and white', count: 4 }],
  }),
  lesson({
    id: 'writing',
    title: msg`A word on a flood`,
    notice: msg`A bead is heavy: what it stands on must bear it.`,
    teaches: msg`A line sinks into a soft base. Set icing holds a touch, and then it holds a word.`,
    cookies: [{ drawing: 'Written round', count: 4 }],
  }),
  lesson({
    id: 'second-layer',
    title: msg`A badge on a flood`,
    notice: msg`A second layer weighs on the first over its whole width.`,
    teaches: msg`A flood on a flood sinks where the lower one is soft. It waits longer than a line does.`,
    cookies: [{ drawing: 'Badge on a round', count: 4 }],
  }),
  lesson({
    id: 'pen',
    title: msg`The pen comes last`,
    notice: msg`Hours, not minutes. What is done meanwhile?`,
    teaches: msg`A pen pokes through whatever is not firm. It belongs to the end of the evening or to the next day.`,
    cookies: [{ drawing: 'Drawn round', count: 4 }],
  }),
  lesson({
    id: 'damp',
    title: msg`The damp evening`,
    notice: msg`The bench counts by the book, and tonight dries a good deal slower. Put a finger to it before you believe it.`,
    teaches: msg`A finger knows more than a clock. One look tells the bench, and all later waits are longer by it.`,
    kitchen: slower(1.6),
    seed: 11,
    cookies: [{ drawing: 'Two halves', count: 4 }],
  }),
  lesson({
    id: 'dry',
    title: msg`The dry evening`,
    notice: msg`Tonight everything comes sooner. Who only waits, waits for nothing.`,
    teaches: msg`Where a finger finds it ready, work can begin: needless waiting is lost sleep.`,
    kitchen: slower(0.6),
    seed: 12,
    cookies: [
      { drawing: 'Two halves', count: 4 },
      { drawing: 'Written round', count: 4 },
    ],
  }),
  lesson({
    id: 'two-trays',
    title: msg`Two trays against each other`,
    notice: msg`While one tray dries the other is worked. Do not let the second lure you to the first too early.`,
    teaches: msg`Two trays fill each other’s waits; the wait of each is still its own.`,
    cookies: [
      { drawing: 'Red and white', count: 4 },
      { drawing: 'Badge on a round', count: 4 },
    ],
  }),
  lesson({
    id: 'cracks',
    title: msg`Cracks open and shut`,
    notice: msg`Too early it dents, too late nothing cracks. Between them lie minutes.`,
    teaches: msg`A window with two ends is met by a finger, not by a clock: feel it before its time.`,
    seed: 5,
    cookies: [{ drawing: 'Cracked round', count: 3 }],
  }),
  lesson({
    id: 'call',
    title: msg`The telephone`,
    notice: msg`Somebody will ring. What is wet then?`,
    teaches: msg`Finish the cookie that is wet, then answer. What has stood meanwhile is felt before it is worked on.`,
    seed: 9,
    call: { afterTasks: 1, minutes: 12 },
    cookies: [
      { drawing: 'Spotted round', count: 4 },
      { drawing: 'Two halves', count: 4 },
    ],
  }),
  lesson({
    id: 'seven-trays',
    title: msg`Seven trays, a damp evening, one fan, a telephone call`,
    notice: msg`All of it at once. Go by the bench, feel what waits longest, and do not hurry the last hour.`,
    teaches: msg`A long evening is won by looks that tell something, and by leaving alone what is not there yet.`,
    kitchen: slower(1.25),
    seed: 21,
    call: { afterTasks: 3, minutes: 10 },
    fan: true,
    cookies: (Object.keys(DRAWINGS) as (keyof typeof DRAWINGS)[]).map((drawing) => ({ drawing, count: 4 })),
  }),
];

/** The order a lesson is planned from, beginning at an hour (ISO 8601), and its drawings in order. */
export function orderOfLesson(of: Lesson, fromIso: string): { readonly order: OrderFile; readonly designs: readonly Design[] } {
  const from = Date.parse(fromIso);
  const at = (hours: number) => new Date(from + hours * 3_600_000).toISOString();
  const order = parseOrder({
    format: 'kestfog-order/3',
    name: of.title,
    designs: of.cookies.map((c) => ({ file: c.drawing, count: c.count })),
    trays: of.cookies.map((c, i) => ({ id: String.fromCharCode(65 + i), places: c.count })),
    openingHours: [
      [at(0), at(9)],
      [at(16), at(30)],
    ],
    margin: 'normal',
    ...(of.fan ? { fan: { places: 1, airMPerS: 1 } } : {}),
  });
  return { order, designs: of.cookies.map((c) => readDesign(DRAWINGS[c.drawing], c.drawing)) };
}
