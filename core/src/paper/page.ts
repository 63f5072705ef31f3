import type { Ring } from '../geometry/shape.js';

/** What a printer lays down: solid, or so faint that it guides the eye and not the knife; or a colour, #rrggbb. */
export type Tone = 'black' | 'grey' | 'faint' | `#${string}`;

const TONES: Readonly<Record<string, string>> = { black: '#000000', grey: '#737373', faint: '#b8b8b8' };
/** A tone as #rrggbb, on the screen as on paper. */
export const inkOf = (tone: Tone): string => TONES[tone] ?? tone;

/** A line, or an area, in millimetres from the page's upper left corner, y downward. */
export interface DrawnMark {
  readonly kind: 'drawn';
  readonly rings: readonly Ring[];
  readonly closed: boolean;
  readonly tone: Tone;
  /** 0 draws no edge */
  readonly lineMm: number;
  readonly dashMm?: readonly number[];
  readonly fill?: Tone;
}

/** One line of words; its place is where its baseline begins, ends or has its middle. */
export interface WordsMark {
  readonly kind: 'words';
  readonly text: string;
  readonly xMm: number;
  readonly yMm: number;
  /** height of the em */
  readonly sizeMm: number;
  readonly bold?: boolean;
  readonly align?: 'start' | 'middle' | 'end';
  readonly tone?: Tone;
}

export type PaperMark = DrawnMark | WordsMark;

export interface PaperPage {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly marks: readonly PaperMark[];
}

/** Pages of one kind, as they are printed. */
export interface PrintedSheet {
  readonly title: string;
  readonly pages: readonly PaperPage[];
}

/** Sheets by their size in mm: A4 by ISO 216, Letter by ANSI/ASME Y14.1 (8½ × 11 in). */
export const papers = { a4: { widthMm: 210, heightMm: 297 }, letter: { widthMm: 215.9, heightMm: 279.4 } } as const;
export type PaperId = keyof typeof papers;
export const paperIds = Object.keys(papers) as readonly PaperId[];

/** How words come out: what the font of the paper says of them. */
export interface Measure {
  /** width of one line, mm */
  readonly widthMm: (text: string, sizeMm: number, bold?: boolean) => number;
  /** letters the font has no shape for, each once */
  readonly lacks: (text: string) => readonly string[];
}

/** Everything a sheet is made with, whatever its kind. */
export interface PaperAsk {
  readonly paper: PaperId;
  readonly measure: Measure;
  /** what it belongs to: the design or the order */
  readonly name: string;
  /** the day it is printed, in words */
  readonly date: string;
  /** what the 100 mm line of the last print measured, mm; 100 where it was right */
  readonly measuredMm?: number;
}

export const line = (points: Ring, lineMm: number, tone: Tone = 'black', dashMm?: readonly number[]): DrawnMark => ({
  kind: 'drawn',
  rings: [points],
  closed: false,
  tone,
  lineMm,
  ...(dashMm ? { dashMm } : {}),
});
export const outline = (rings: readonly Ring[], lineMm: number, tone: Tone = 'black', dashMm?: readonly number[]): DrawnMark => ({
  kind: 'drawn',
  rings,
  closed: true,
  tone,
  lineMm,
  ...(dashMm ? { dashMm } : {}),
});
export const box = (xMm: number, yMm: number, widthMm: number, heightMm: number): Ring => [
  { x: xMm, y: yMm },
  { x: xMm + widthMm, y: yMm },
  { x: xMm + widthMm, y: yMm + heightMm },
  { x: xMm, y: yMm + heightMm },
];
export const words = (
  text: string,
  xMm: number,
  yMm: number,
  sizeMm: number,
  more: Partial<Omit<WordsMark, 'kind' | 'text'>> = {},
): WordsMark => ({
  kind: 'words',
  text,
  xMm,
  yMm,
  sizeMm,
  ...more,
});

/** The marks moved, and turned into a larger or smaller print where the last one measured wrong. */
export function moved(marks: readonly PaperMark[], dx: number, dy: number, scale = 1): PaperMark[] {
  return marks.map((m) =>
    m.kind === 'words'
      ? { ...m, xMm: m.xMm * scale + dx, yMm: m.yMm * scale + dy, sizeMm: m.sizeMm * scale }
      : { ...m, rings: m.rings.map((ring) => ring.map((p) => ({ x: p.x * scale + dx, y: p.y * scale + dy }))) },
  );
}

/** Words in lines no wider than that; a word that is wider itself is cut. */
export function wrapped(text: string, widthMm: number, sizeMm: number, measure: Measure, bold = false): string[] {
  const fits = (s: string) => measure.widthMm(s, sizeMm, bold) <= widthMm;
  const lines: string[] = [];
  let now = '';
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const longer = now ? `${now} ${word}` : word;
    if (fits(longer)) {
      now = longer;
      continue;
    }
    if (now) lines.push(now);
    let rest = word;
    while (!fits(rest)) {
      let n = rest.length - 1;
      while (n > 1 && !fits(rest.slice(0, n))) n -= 1;
      lines.push(rest.slice(0, n));
      rest = rest.slice(n);
    }
    now = rest;
  }
  if (now) lines.push(now);
  return lines;
}
