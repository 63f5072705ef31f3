import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import regularExtended from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff?url';
import boldExtended from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff?url';
import { colourName, type Design } from '@kestfog/core/design';
import type { Plan } from '@kestfog/core/formats';
import {
  type FontFiles,
  type GuideAsk,
  gaugeSheet,
  guideSheet,
  type Measure,
  measureOf,
  numbersOf,
  type PaperAsk,
  type PaperId,
  type PrintedSheet,
  templateSheet,
  transferSheet,
  type WorkAsk,
  type WorkKind,
  workSheet,
  writePdf,
} from '@kestfog/core/paper';
import { deriveSteps, type School, type Tip } from '@kestfog/core/steps';
import { BadInput } from '@kestfog/core/units';
import { refusalText } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { expose } from 'comlink';
import { format } from 'date-fns';
import '../text/names-of-days.js';
import type { ClockHours } from '../app/clock.js';
import type { Units } from '../app/units.js';
import { grams } from '../text/amounts.js';

/** How a sheet is printed, whatever is on it. */
export interface Print {
  readonly paper: PaperId;
  /** what the 100 mm line of the last print measured */
  readonly measuredMm: number;
  readonly name: string;
  readonly atMs: number;
}
export type SheetAsk =
  | { readonly kind: 'template'; readonly design: Design; readonly school: School; readonly part?: string; readonly mirrored: boolean }
  | { readonly kind: 'guide'; readonly design: Design; readonly guide: GuideAsk }
  | {
      readonly kind: 'transfers';
      readonly design: Design;
      readonly school: School;
      readonly count: number;
      readonly spares: number;
      readonly turnedOver: boolean;
    }
  | { readonly kind: 'gauges'; readonly tips: readonly Tip[]; readonly circlesMm: readonly number[] }
  | {
      readonly kind: WorkKind;
      readonly plan: Plan;
      readonly hours: ClockHours;
      readonly units: Units;
      readonly colourNames: Readonly<Record<string, string>>;
      readonly kitchen: NonNullable<WorkAsk['kitchen']>;
    };

export type Made<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly message: string };

interface Fonts {
  readonly files: FontFiles;
  readonly measure: Measure;
}
let fonts: Promise<Fonts> | null = null;
async function bytesOf(address: string): Promise<Uint8Array> {
  const answer = await fetch(address);
  if (!answer.ok) throw new BadInput('no-font', msg`The font of the paper could not be fetched: try again once the network is back.`);
  return new Uint8Array(await answer.arrayBuffer());
}
function paperFonts(): Promise<Fonts> {
  fonts ??= Promise.all([regular, regularExtended, bold, boldExtended].map(bytesOf)).then(
    ([r, re, b, be]) => {
      const files = { regular: [r, re], bold: [b, be] } as FontFiles;
      return { files, measure: measureOf(files) };
    },
    (error) => {
      fonts = null;
      throw error;
    },
  );
  return fonts;
}

function sheetOf(ask: SheetAsk, print: Print, measure: Measure): PrintedSheet {
  const paper: PaperAsk = {
    paper: print.paper,
    measuredMm: print.measuredMm,
    measure,
    name: print.name,
    date: format(print.atMs, 'd MMMM yyyy'),
  };
  switch (ask.kind) {
    case 'template':
      return templateSheet(
        ask.design,
        { part: ask.part, mirrored: ask.mirrored, numbers: numbersOf(deriveSteps(ask.design, ask.school).steps) },
        paper,
      );
    case 'guide':
      return guideSheet(ask.design, ask.guide, paper);
    case 'transfers':
      return transferSheet(ask.design, { ...ask, numbers: numbersOf(deriveSteps(ask.design, ask.school).steps) }, paper);
    case 'gauges':
      return gaugeSheet(ask.tips, ask.circlesMm, paper);
    default:
      return workSheet(ask.kind, ask.plan, {
        ...paper,
        clock: (ms) => format(ms, ask.hours === 24 ? 'HH:mm' : 'h:mm aaa'),
        day: (ms) => format(ms, 'EEEE d MMMM'),
        grams: (g) => grams(g, ask.units),
        nameOf: (colour) => ask.colourNames[colour] ?? colourName(colour),
        kitchen: ask.kitchen,
      });
  }
}

async function made<T>(work: (fonts: Fonts) => T | Promise<T>): Promise<Made<T>> {
  try {
    return { ok: true, value: await work(await paperFonts()) };
  } catch (error) {
    if (error instanceof BadInput) return { ok: false, message: refusalText(error) };
    throw error;
  }
}

const work = {
  sheet: (ask: SheetAsk, print: Print): Promise<Made<PrintedSheet>> => made(({ measure }) => sheetOf(ask, print, measure)),
  pdf: (ask: SheetAsk, print: Print): Promise<Made<Uint8Array>> =>
    made(({ files, measure }) => writePdf(sheetOf(ask, print, measure), files)),
};
export type SheetWork = typeof work;
expose(work);
