import fontkit from '@pdf-lib/fontkit';
import {
  closePath,
  LineCapStyle,
  LineJoinStyle,
  lineTo,
  moveTo,
  PDFDocument,
  type PDFFont,
  PDFOperator,
  PDFOperatorNames,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rgb,
  setDashPattern,
  setFillingRgbColor,
  setLineCap,
  setLineJoin,
  setLineWidth,
  setStrokingRgbColor,
  stroke,
} from 'pdf-lib';
import { type FontFiles, openFaces, runsOf } from './fonts.js';
import { type DrawnMark, inkOf, type PaperPage, type PrintedSheet, type Tone, type WordsMark } from './page.js';

/** PDF 1.7 user units: 72 an inch. */
export const PT_PER_MM = 72 / 25.4;

function rgbOf(tone: Tone): [number, number, number] {
  const n = Number.parseInt(inkOf(tone).slice(1), 16);
  return [(n >> 16) / 255, ((n >> 8) & 255) / 255, (n & 255) / 255];
}

/** The sheet as a PDF: vector lines in true millimetres, words that can be searched and copied, the font's used letters inside. */
export async function writePdf(sheet: PrintedSheet, files: FontFiles): Promise<Uint8Array> {
  const doc = await PDFDocument.create();
  doc.registerFontkit(fontkit);
  doc.setTitle(sheet.title);
  doc.setCreator('Kestfog');
  doc.setProducer('Kestfog');
  const faces = { regular: openFaces(files.regular), bold: openFaces(files.bold) };
  const fonts = new Map<string, PDFFont>();
  const fontOf = async (bold: boolean, file: number): Promise<PDFFont> => {
    const key = `${bold} ${file}`;
    const known = fonts.get(key);
    if (known) return known;
    const made = await doc.embedFont((bold ? files.bold : files.regular)[file] as Uint8Array, {
      subset: true,
      features: { kern: false, liga: false },
    });
    fonts.set(key, made);
    return made;
  };
  for (const page of sheet.pages) {
    const on = doc.addPage([page.widthMm * PT_PER_MM, page.heightMm * PT_PER_MM]);
    for (const mark of page.marks) {
      if (mark.kind === 'drawn') draw(on, page, mark);
      else await write(on, page, mark);
    }
  }
  return doc.save();

  async function write(on: PDFPage, page: PaperPage, mark: WordsMark): Promise<void> {
    const bold = mark.bold === true;
    const size = mark.sizeMm * PT_PER_MM;
    const [r, g, b] = rgbOf(mark.tone ?? 'black');
    const runs = [];
    for (const run of runsOf(mark.text, bold ? faces.bold : faces.regular))
      runs.push({ text: run.text, font: await fontOf(bold, run.file) });
    const width = runs.reduce((sum, run) => sum + run.font.widthOfTextAtSize(run.text, size), 0);
    let x = mark.xMm * PT_PER_MM - (mark.align === 'end' ? width : mark.align === 'middle' ? width / 2 : 0);
    for (const run of runs) {
      on.drawText(run.text, { x, y: (page.heightMm - mark.yMm) * PT_PER_MM, size, font: run.font, color: rgb(r, g, b) });
      x += run.font.widthOfTextAtSize(run.text, size);
    }
  }
}

function draw(on: PDFPage, page: PaperPage, mark: DrawnMark): void {
  const ops: PDFOperator[] = [
    pushGraphicsState(),
    setLineJoin(LineJoinStyle.Round),
    setLineCap(LineCapStyle.Butt),
    setLineWidth(mark.lineMm * PT_PER_MM),
  ];
  ops.push(setStrokingRgbColor(...rgbOf(mark.tone)));
  if (mark.fill) ops.push(setFillingRgbColor(...rgbOf(mark.fill)));
  if (mark.dashMm)
    ops.push(
      setDashPattern(
        mark.dashMm.map((d) => d * PT_PER_MM),
        0,
      ),
    );
  for (const ring of mark.rings) {
    for (const [i, p] of ring.entries()) {
      const [x, y] = [p.x * PT_PER_MM, (page.heightMm - p.y) * PT_PER_MM];
      ops.push(i === 0 ? moveTo(x, y) : lineTo(x, y));
    }
    if (mark.closed) ops.push(closePath());
  }
  const isStroked = mark.lineMm > 0;
  if (mark.rings.some((r) => r.length > 1) && (mark.fill || isStroked))
    ops.push(mark.fill ? PDFOperator.of(isStroked ? PDFOperatorNames.FillEvenOddAndStroke : PDFOperatorNames.FillEvenOdd) : stroke());
  ops.push(popGraphicsState());
  on.pushOperators(...ops);
}
