import { basename } from 'node:path';
import type { Design } from '../../design/design.js';
import { readDesign } from '../../design/read-design.js';
import { measureOf } from '../../paper/fonts.js';
import { type PaperAsk, type PrintedSheet, paperIds } from '../../paper/page.js';
import { writePdf } from '../../paper/pdf.js';
import { gaugeSheet, guideKinds, guideSheet, templateSheet, transferSheet } from '../../paper/true-size.js';
import { numbersOf, type WorkKind, workKinds, workSheet } from '../../paper/work.js';
import type { WorkAsk } from '../../paper/work-ask.js';
import { deriveSteps } from '../../steps/derive.js';
import { schoolById } from '../../steps/school.js';
import { USUAL_TIPS } from '../../steps/tips.js';
import { BadInput } from '../../units/bad-input.js';
import { type Command, choiceOption, numberOption, parse, readText } from '../command.js';
import { paperFonts } from '../paper-fonts.js';
import { plannedFrom } from '../planned.js';

const drawnKinds = ['template', 'guide', 'transfers', 'gauges'] as const;
type DrawnKind = (typeof drawnKinds)[number];
/** What needs to know of a kitchen that no file says is made on the page alone. */
const KITCHENS: readonly WorkKind[] = ['boxes', 'offer'];
const kinds = [...drawnKinds, ...workKinds.filter((k) => !KITCHENS.includes(k))] as const;

/** What each kind heeds besides its paper; anything else that is said is refused, not ignored. */
const SAYS_OF: Readonly<Record<string, readonly string[]>> = {
  template: ['part', 'mirrored', 'measured-mm'],
  guide: ['guide', 'pitch-mm', 'angle-deg', 'count', 'measured-mm'],
  transfers: ['count', 'spares', 'turned-over', 'measured-mm'],
  gauges: ['measured-mm'],
};
const OF_ORDERS = ['seconds'];
const USUAL = {
  guide: 'stripes',
  'pitch-mm': '8',
  'angle-deg': '0',
  count: '8',
  spares: '0',
  'measured-mm': '100',
  seconds: '10',
} as const;

export const sheet: Command = {
  name: 'sheet',
  usage: `sheet ORDER.json|PLAN.json|DESIGN.svg --kind ${kinds.join('|')} [--paper a4|letter] > OUT.pdf`,
  summary: 'paper for the bench: templates and guides of true size, and sheets to work from',
  help: `Writes a PDF whose lines are true millimetres and whose words can be searched. Of a design: --kind template (--part ID for one part, --mirrored),
guide (--guide ${guideKinds.join('|')}, --pitch-mm, --angle-deg, --count), transfers (--count, --spares, --turned-over), gauges.
Of an order or a plan: run, trays, mixing, labels, shopping, care, cards (boxes and offer need a kitchen's carton and prices: they are made
on the page). An order is planned first, within --seconds (10).
--paper a4 or letter. Sheets of true size have lines of 100 mm: where they measure otherwise, say what they measure with --measured-mm.
Clock times are those of the time zone the command runs in.`,
  async run(args) {
    const text = { type: 'string' } as const;
    const flag = { type: 'boolean' } as const;
    const { values: said, files } = parse(
      args,
      {
        ...{
          kind: text,
          paper: { type: 'string', default: 'a4' },
          part: text,
          mirrored: flag,
          guide: text,
          'pitch-mm': text,
          'angle-deg': text,
        },
        ...{ count: text, spares: text, 'turned-over': flag, 'measured-mm': text, seconds: text },
      },
      1,
    );
    const file = files[0] as string;
    const kind = choiceOption(said, 'kind', kinds);
    for (const [name, value] of Object.entries(said))
      if (value !== undefined && !['kind', 'paper', ...(SAYS_OF[kind] ?? OF_ORDERS)].includes(name))
        throw new BadInput('usage', `--${name} says nothing to --kind ${kind}: leave it out.`);
    const values = { ...USUAL, ...Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined)) };
    const fonts = paperFonts();
    const base: PaperAsk = {
      paper: choiceOption(values, 'paper', paperIds),
      measure: measureOf(fonts),
      name: basename(file).replace(/\.(svg|json)$/i, ''),
      date: new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }),
      measuredMm: numberOption(values, 'measured-mm', 1, 1000, 'mm'),
    };
    const isDrawn = (k: string): k is DrawnKind => (drawnKinds as readonly string[]).includes(k);
    let made: PrintedSheet;
    if (isDrawn(kind)) {
      made =
        kind === 'gauges'
          ? gaugeSheet(USUAL_TIPS, [10, 20, 24, 30, 40, 50], base)
          : ofDesign(kind, readDesign(await readText(file), base.name), values, base);
    } else {
      if (/\.svg$/i.test(file))
        throw new BadInput(
          'usage',
          `--kind ${kind} is made of an order or a plan, not of a drawing: name an ORDER.json, or choose one of ${drawnKinds.join(', ')}.`,
        );
      made = await ofOrder(kind, file, numberOption(values, 'seconds', 0.1, 3600, 'seconds'), base);
    }
    const pdf = await writePdf(made, fonts);
    await new Promise<void>((done, fail) => process.stdout.write(pdf, (error) => (error ? fail(error) : done())));
    return 0;
  },
};

function ofDesign(
  kind: Exclude<DrawnKind, 'gauges'>,
  design: Design,
  values: Readonly<Record<string, string | undefined>>,
  ask: PaperAsk,
): PrintedSheet {
  const numbers = numbersOf(deriveSteps(design, schoolById('two-bags')).steps);
  if (kind === 'template') return templateSheet(design, { part: values['part'], mirrored: values['mirrored'] === 'true', numbers }, ask);
  if (kind === 'guide')
    return guideSheet(
      design,
      {
        guide: choiceOption(values, 'guide', guideKinds),
        pitchMm: numberOption(values, 'pitch-mm', 1, 200, 'mm'),
        angleDeg: numberOption(values, 'angle-deg', -360, 360, 'degrees'),
        count: Math.round(numberOption(values, 'count', 2, 72, 'sectors')),
      },
      ask,
    );
  return transferSheet(
    design,
    {
      count: Math.round(numberOption(values, 'count', 1, 1000, 'pieces')),
      spares: Math.round(numberOption(values, 'spares', 0, 1000, 'pieces')),
      turnedOver: values['turned-over'] === 'true',
      numbers,
    },
    ask,
  );
}

async function ofOrder(kind: WorkKind, file: string, seconds: number, ask: PaperAsk): Promise<PrintedSheet> {
  const plan = await plannedFrom(file, seconds);
  const work: WorkAsk = {
    ...ask,
    name: plan.order.name ?? ask.name,
    clock: (ms) => new Date(ms).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }),
    day: (ms) => new Date(ms).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' }),
    grams: (g) => (g < 10 ? `${g.toFixed(1)} g` : `${Math.round(g)} g`),
  };
  return workSheet(kind, plan, work);
}
