import { intersection, strokeInside } from '../geometry/clip.js';
import { boundingBox } from '../geometry/shape.js';
import { msg } from '../words/index.js';
import { framed, proofSquare, roomOf } from './frame.js';
import { box, line, moved, type PaperAsk, type PaperMark, type PrintedSheet, words } from './page.js';

/** A drawing that is cut out or laid beneath in one piece: its marks from its own corner, mm. */
export interface Piece {
  readonly name: string;
  readonly marks: readonly PaperMark[];
  readonly widthMm: number;
  readonly heightMm: number;
}

const APART_MM = 8;
/** Sheets that are glued together overlap so far. */
const OVERLAP_MM = 10;

/** Pieces of true size on as few pages as rows of them need; one larger than a page is parted over several, with marks to join them by. */
export function trueSizeSheet(ask: PaperAsk, title: string, pieces: readonly Piece[], apartMm = APART_MM): PrintedSheet {
  const room = roomOf(ask, true);
  // A print that measures short is drawn larger: what has to fit is less.
  const scale = 100 / (ask.measuredMm ?? 100);
  const [wide, high] = [room.widthMm / scale, room.heightMm / scale];
  const pages: PaperMark[][] = [];
  let page: PaperMark[] | null = null;
  let [x, y, rowMm] = [0, 0, 0];
  const put = (piece: Piece) => {
    if (page && x > 0 && x + piece.widthMm > wide) [x, y, rowMm] = [0, y + rowMm + apartMm, 0];
    if (!page || y + piece.heightMm > high) {
      page = [];
      pages.push(page);
      [x, y, rowMm] = [0, 0, 0];
    }
    page.push(...moved(piece.marks, x, y));
    x += piece.widthMm + apartMm;
    rowMm = Math.max(rowMm, piece.heightMm);
  };
  const isLarge = (p: Piece) => p.widthMm > wide || p.heightMm > high;
  for (const p of pieces) if (!isLarge(p)) put(p);
  put({ name: 'proof', marks: proofSquare(), widthMm: 50, heightMm: 50 });
  for (const p of pieces) if (isLarge(p)) pages.push(...parted(p, wide, high));
  return framed(ask, title, pages, true);
}

/** A piece that is larger than a page, as overlapping pages; dashes show how far the next lies over. */
function parted(piece: Piece, wide: number, high: number): PaperMark[][] {
  const across = Math.max(1, Math.ceil((piece.widthMm - OVERLAP_MM) / (wide - OVERLAP_MM)));
  const down = Math.max(1, Math.ceil((piece.heightMm - OVERLAP_MM) / (high - OVERLAP_MM)));
  const out: PaperMark[][] = [];
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      const [left, top] = [column * (wide - OVERLAP_MM), row * (high - OVERLAP_MM)];
      const marks: PaperMark[] = moved(cut(piece.marks, left, top, wide, high), -left, -top);
      const name = (r: number, c: number) => `${String.fromCharCode(65 + r)}${c + 1}`;
      marks.push(words(msg`${piece.name}, ${name(row, column)} of ${name(down - 1, across - 1)}`, 0, 3, 3, { tone: 'grey' }));
      const dash = [2, 1.5];
      if (column > 0)
        marks.push(
          line(
            [
              { x: OVERLAP_MM, y: 0 },
              { x: OVERLAP_MM, y: high },
            ],
            0.2,
            'grey',
            dash,
          ),
          words(msg`lay over ${name(row, column - 1)} as far as the dashes`, OVERLAP_MM + 1, 8, 2.6, { tone: 'grey' }),
        );
      if (row > 0)
        marks.push(
          line(
            [
              { x: 0, y: OVERLAP_MM },
              { x: wide, y: OVERLAP_MM },
            ],
            0.2,
            'grey',
            dash,
          ),
          words(msg`lay over ${name(row - 1, column)} as far as the dashes`, OVERLAP_MM + 1, OVERLAP_MM + 4, 2.6, { tone: 'grey' }),
        );
      out.push(marks);
    }
  return out;
}

/** What of the marks lies in a window of the piece. */
function cut(marks: readonly PaperMark[], left: number, top: number, wide: number, high: number): PaperMark[] {
  const window = [box(left, top, wide, high)];
  return marks.flatMap((m): PaperMark[] => {
    if (m.kind === 'words') return m.xMm >= left && m.xMm <= left + wide && m.yMm >= top && m.yMm <= top + high ? [m] : [];
    const inside: PaperMark[] = [];
    if (m.fill) {
      const area = intersection(m.rings, window);
      if (area.length > 0) inside.push({ ...m, rings: area, lineMm: 0 });
    }
    if (m.lineMm > 0) {
      const edges = m.rings.flatMap((ring) => strokeInside(ring, m.closed, window));
      const { fill: _fill, ...edge } = m;
      if (edges.length > 0) inside.push({ ...edge, rings: edges, closed: false });
    }
    return inside;
  });
}

/** Marks as a piece: from their own upper left corner on. Words do not count for its size. */
export function pieceOf(name: string, marks: readonly PaperMark[], besidesMm = 1): Piece {
  const b = boundingBox(marks.flatMap((m) => (m.kind === 'drawn' ? m.rings.flat() : [])));
  return {
    name,
    marks: moved(marks, besidesMm - b.minX, besidesMm - b.minY),
    widthMm: b.maxX - b.minX + 2 * besidesMm,
    heightMm: b.maxY - b.minY + 2 * besidesMm,
  };
}
