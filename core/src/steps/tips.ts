import { msg, word } from '../words/index.js';
/** What icing leaves a bag through: shapes of metal tips, and the end cut off a bag without one. */
export const tipShapes = ['round', 'star', 'leaf'] as const;
export type TipShape = (typeof tipShapes)[number];

/** One piping tip of a kitchen. */
export interface Tip {
  /** as it is called: "round tip 2" */
  readonly name: string;
  readonly shape: TipShape;
  /** bore, or the width across, mm */
  readonly openingMm: number;
}
export const MOST_TIPS = 30;
export const OPENING_MM = [0.3, 20] as const;

const round = (number: string, openingMm: number): Tip => ({ name: msg`round tip ${number}`, shape: 'round', openingMm });

/** The usual numbers and shapes. Bores from memory: makers differ by a tenth or two; common practice, no published source. */
export const USUAL_TIPS: readonly Tip[] = [
  round('0', 0.6),
  round('1', 1),
  round('2', 1.5),
  round('3', 2),
  round('4', 2.5),
  round('5', 3),
  { name: msg`small star tip`, shape: 'star', openingMm: 3 },
  { name: msg`large star tip`, shape: 'star', openingMm: 6 },
  { name: msg`small leaf tip`, shape: 'leaf', openingMm: 4 },
  { name: msg`large leaf tip`, shape: 'leaf', openingMm: 7 },
];

/** How a technique's icing leaves the bag: through a tip of a shape, or through the snipped end of a tipless bag. */
export type Outlet = TipShape | 'snip';

/** One answer for a step, shown alike on Designs, Icing and Bench. */
export interface Opening {
  /** "round tip 2", or "tipless bag" */
  readonly name: string;
  readonly openingMm: number;
}
export const TIPLESS = msg`tipless bag`;

const plain = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** A tip by what it was called: its name, its number ("2"), its name without "tip", or its shape alone; the narrowest that fits. */
export function tipCalled(said: string, tips: readonly Tip[]): Tip | undefined {
  const wanted = plain(said);
  const called = (t: Tip) => [plain(t.name), plain(t.name).replace(/ ?tip/, ''), plain(t.name).replace('round tip ', '')];
  const byName = tips.find((t) => called(t).includes(wanted) || called(t).includes(wanted.replace(/^tip /, '')));
  return byName ?? narrowest(tips.filter((t) => [t.shape, msg`${word(t.shape)} tip`].includes(wanted)));
}
const narrowest = (tips: readonly Tip[]): Tip | undefined => [...tips].sort((a, b) => a.openingMm - b.openingMm)[0];

/** A bead swells a little when pressed: a tip this much wider than what is drawn still does. */
const NEARLY = 1.1;

/**
 * The opening a step is piped through. What is said beats the kitchen; of the kitchen's tips it is the widest that is not wider
 * than the bead asked for, else the narrowest there is. Without a tip of that shape the bag is snipped.
 */
export function openingFor(
  ask: {
    readonly outlet: Outlet;
    readonly usualMm: number;
    readonly said?: { readonly tip?: string; readonly openingMm?: number } | undefined;
  },
  tips: readonly Tip[],
): Opening {
  const { outlet, usualMm, said } = ask;
  if (said?.tip) {
    const tip = tipCalled(said.tip, tips) ?? tipCalled(said.tip, USUAL_TIPS);
    return { name: tip?.name ?? said.tip, openingMm: said.openingMm ?? tip?.openingMm ?? usualMm };
  }
  if (outlet === 'snip') return { name: TIPLESS, openingMm: said?.openingMm ?? usualMm };
  const wantedMm = said?.openingMm ?? usualMm;
  const own = tips.filter((t) => t.shape === outlet).sort((a, b) => a.openingMm - b.openingMm);
  const tip = own.filter((t) => t.openingMm <= wantedMm * NEARLY).at(-1) ?? own[0];
  if (!tip) return { name: TIPLESS, openingMm: wantedMm };
  return { name: tip.name, openingMm: said?.openingMm ?? tip.openingMm };
}
