import { framed, roomOf } from './frame.js';
import { box, line, moved, outline, type PaperAsk, type PaperMark, type PrintedSheet, type Tone, words, wrapped } from './page.js';

export interface Column {
  readonly title: string;
  /** mm; the one column without a width takes what is left */
  readonly widthMm?: number;
  readonly align?: 'start' | 'middle' | 'end';
}
/** What stands in one place of a table. */
export type Cell =
  | string
  | { readonly text: string; readonly bold?: boolean; readonly tone?: Tone }
  | { readonly tick: true }
  | { readonly dab: string };

/** What flows down the pages, one below the other. */
export type Block =
  | { readonly kind: 'heading'; readonly text: string }
  | { readonly kind: 'text'; readonly text: string; readonly bold?: boolean }
  | { readonly kind: 'table'; readonly columns: readonly Column[]; readonly rows: readonly (readonly Cell[])[]; readonly caption?: string };

const TEXT_MM = 3;
const LINE_MM = 3.9;
const PAD_MM = 1;
const TICK_MM = 3;

interface Style {
  readonly sizeMm: number;
  readonly lineMm: number;
}
export const USUAL: Style = { sizeMm: TEXT_MM, lineMm: LINE_MM };
/** For sheets that must fit few pages. Seven points and a half: still read at arm's length in good light. */
export const CLOSE: Style = { sizeMm: 2.65, lineMm: 3.25 };

/** Blocks set one below the other on as many pages as they need; a table that goes on repeats its head. */
export function flowing(ask: PaperAsk, title: string, blocks: readonly Block[], style: Style = USUAL): PrintedSheet {
  const room = roomOf(ask, false);
  const { measure } = ask;
  const pages: PaperMark[][] = [[]];
  let y = 0;
  const page = () => pages.at(-1) as PaperMark[];
  const next = () => {
    pages.push([]);
    y = 0;
  };
  const need = (mm: number) => {
    if (y + mm > room.heightMm && y > 0) next();
  };
  const paragraph = (text: string, sizeMm: number, lineMm: number, bold: boolean) => {
    for (const l of wrapped(text, room.widthMm, sizeMm, measure, bold)) {
      need(lineMm);
      y += lineMm;
      page().push(words(l, 0, y - lineMm * 0.25, sizeMm, { bold }));
    }
  };
  for (const block of blocks) {
    if (block.kind === 'heading') {
      // A heading stays with what it heads.
      need(22);
      if (y > 0) y += 3;
      paragraph(block.text, 4.2, 5.6, true);
    } else if (block.kind === 'text') paragraph(block.text, style.sizeMm, style.lineMm, block.bold === true);
    else table(block);
  }
  return framed(ask, title, pages, false);

  function table({ columns, rows, caption }: Extract<Block, { kind: 'table' }>): void {
    const fixed = columns.reduce((sum, c) => sum + (c.widthMm ?? 0), 0);
    const free = columns.filter((c) => c.widthMm === undefined).length;
    const widths = columns.map((c) => c.widthMm ?? (room.widthMm - fixed) / free);
    const lefts = widths.map((_, i) => widths.slice(0, i).reduce((a, b) => a + b, 0));
    const pad = style === CLOSE ? 0.45 : PAD_MM;
    const setRow = (cells: readonly Cell[], bold: boolean): { readonly marks: PaperMark[]; readonly heightMm: number } => {
      let lines = 1;
      const marks = cells.flatMap((cell, i): PaperMark[] => {
        const [left, width] = [lefts[i] as number, widths[i] as number];
        if (typeof cell === 'object' && 'tick' in cell)
          return [outline([box(left + (width - TICK_MM) / 2, pad + (style.lineMm - TICK_MM) / 2, TICK_MM, TICK_MM)], 0.25)];
        if (typeof cell === 'object' && 'dab' in cell) {
          const at = { x: left + 2.2, y: pad + style.lineMm / 2 };
          const ring = [...Array(24).keys()].map((k) => ({
            x: at.x + 1.5 * Math.cos((k * Math.PI) / 12),
            y: at.y + 1.5 * Math.sin((k * Math.PI) / 12),
          }));
          return [{ kind: 'drawn', rings: [ring], closed: true, tone: 'black', lineMm: 0.15, fill: cell.dab as Tone }];
        }
        const own = typeof cell === 'string' ? { text: cell } : cell;
        const isBold = bold || ('bold' in own && own.bold === true);
        const set = wrapped(own.text, width - 1.2, style.sizeMm, measure, isBold);
        lines = Math.max(lines, set.length);
        const align = columns[i]?.align ?? 'start';
        const x = align === 'start' ? left + 0.4 : align === 'end' ? left + width - 0.8 : left + width / 2;
        return set.map((l, k) =>
          words(l, x, pad + (k + 0.75) * style.lineMm, style.sizeMm, {
            bold: isBold,
            align,
            ...('tone' in own && own.tone ? { tone: own.tone } : {}),
          }),
        );
      });
      return { marks, heightMm: lines * style.lineMm + 2 * pad };
    };
    const put = (row: { readonly marks: readonly PaperMark[]; readonly heightMm: number }, ruleMm: number) => {
      page().push(...moved(row.marks, 0, y));
      y += row.heightMm;
      page().push(
        line(
          [
            { x: 0, y },
            { x: room.widthMm, y },
          ],
          ruleMm,
          ruleMm > 0.15 ? 'black' : 'faint',
        ),
      );
    };
    const isTitled = columns.some((c) => c.title);
    const head = setRow(
      columns.map((c) => c.title),
      true,
    );
    const begin = () => {
      if (caption) paragraph(caption, style.sizeMm + 0.6, style.lineMm + 1.4, true);
      if (isTitled) put(head, 0.25);
    };
    need(4 * style.lineMm + 8);
    begin();
    for (const cells of rows) {
      const row = setRow(cells, false);
      if (y + row.heightMm > room.heightMm) {
        next();
        begin();
      }
      put(row, 0.1);
    }
  }
}
