import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { box, line, moved, outline, type PaperAsk, type PaperMark, type PaperPage, type PrintedSheet, papers, words } from './page.js';

/** What printers cannot reach, and hands hold, mm. */
const MARGIN_MM = 10;
const HEAD_MM = 12;
const FOOT_MM = 12;
const SMALL_MM = 3;
/** A print that measures farther off than this is not a printer's error but another scale. */
const MEASURED_MM = [90, 110] as const;

/** Room below the head, and above the foot that sheets of true size have, mm. */
export function roomOf({ paper }: Pick<PaperAsk, 'paper'>, trueSize: boolean) {
  const { widthMm, heightMm } = papers[paper];
  const footMm = trueSize ? FOOT_MM : 0;
  return {
    xMm: MARGIN_MM + 4,
    yMm: MARGIN_MM + HEAD_MM,
    widthMm: widthMm - 2 * MARGIN_MM - 4,
    heightMm: heightMm - 2 * MARGIN_MM - HEAD_MM - footMm,
  };
}

/**
 * Pages with their head and foot: name, what it is, date, which page of how many; on sheets of true size a line of 100 mm along
 * the left edge and along the foot. `bodies` lie in {@link roomOf}, measured from its corner. Throws {@link BadInput} where a name has
 * letters that the paper's font lacks.
 */
export function framed(ask: PaperAsk, title: string, bodies: readonly (readonly PaperMark[])[], trueSize: boolean): PrintedSheet {
  const { widthMm, heightMm } = papers[ask.paper];
  const room = roomOf(ask, trueSize);
  const measured = ask.measuredMm ?? 100;
  if (!(measured >= MEASURED_MM[0] && measured <= MEASURED_MM[1]))
    throw new BadInput(
      'measured',
      msg`The 100 mm line measured ${measured} mm: that is another scale. Print at 100 %, and type what the line measures then.`,
    );
  const scale = trueSize ? 100 / measured : 1;
  const pages = bodies.map((body, i): PaperPage => {
    const head: PaperMark[] = [
      words(ask.name, MARGIN_MM + 4, MARGIN_MM + 4, 4.2, { bold: true }),
      words(title, MARGIN_MM + 4, MARGIN_MM + 8.6, SMALL_MM),
      words(ask.date, widthMm - MARGIN_MM, MARGIN_MM + 4, SMALL_MM, { align: 'end' }),
      words(msg`page ${i + 1} of ${bodies.length}`, widthMm - MARGIN_MM, MARGIN_MM + 8.6, SMALL_MM, { align: 'end' }),
    ];
    const proof = trueSize ? proofLines(heightMm, scale) : [];
    return { widthMm, heightMm, marks: [...head, ...moved(body, room.xMm, room.yMm, scale), ...proof] };
  });
  const sheet = { title: `${ask.name}: ${title}`, pages };
  refuseUnknownLetters(sheet, ask);
  return sheet;
}

/** Lines of 100 mm across and along the page: where they measure wrong, so does everything else. */
function proofLines(heightMm: number, scale: number): PaperMark[] {
  const long = 100 * scale;
  const [x, y] = [MARGIN_MM + 4, heightMm - MARGIN_MM - 2];
  const left = MARGIN_MM;
  const top = heightMm - MARGIN_MM - FOOT_MM - long;
  const across = [
    line(
      [
        { x, y },
        { x: x + long, y },
      ],
      0.2,
    ),
    ...[x, x + long].map((at) =>
      line(
        [
          { x: at, y: y - 1.5 },
          { x: at, y: y + 1.5 },
        ],
        0.2,
      ),
    ),
  ];
  const along = [
    line(
      [
        { x: left, y: top },
        { x: left, y: top + long },
      ],
      0.2,
    ),
    ...[top, top + long].map((at) =>
      line(
        [
          { x: left - 1.5, y: at },
          { x: left + 1.5, y: at },
        ],
        0.2,
      ),
    ),
  ];
  return [
    ...across,
    ...along,
    words(msg`100 mm: print at 100 %; if it measures otherwise, type what it measures`, x + long + 3, y + 1, 2.4),
  ];
}

/** A square of 50 mm, to be measured both ways. */
export const proofSquare = (): PaperMark[] => [outline([box(0, 0, 50, 50)], 0.2), words('50 mm', 25, 26, SMALL_MM, { align: 'middle' })];

function refuseUnknownLetters(sheet: PrintedSheet, { measure }: PaperAsk): void {
  const lacking = new Set(sheet.pages.flatMap((p) => p.marks.flatMap((m) => (m.kind === 'words' ? measure.lacks(m.text) : []))));
  if (lacking.size > 0)
    throw new BadInput(
      'no-glyphs',
      msg`The paper's font has no ${[...lacking]
        .slice(0, 5)
        .map((c) => `“${c}”`)
        .join(', ')}: give what is called so another name.`,
    );
}
