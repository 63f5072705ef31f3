import { basename } from 'node:path';
import { mixingOrder, nearColours } from '../../design/bags.js';
import { readDesign } from '../../design/read-design.js';
import { fills } from '../../design/technique-names.js';
import { bagAmounts } from '../../steps/bag-amounts.js';
import { deriveSteps } from '../../steps/derive.js';
import { schoolById, schoolIds } from '../../steps/school.js';
import { BadInput } from '../../units/bad-input.js';
import { type Command, choiceOption, numberOption, parse, print, readText } from '../command.js';

export const amounts: Command = {
  name: 'amounts',
  usage: 'amounts DESIGN.svg --count N [--school two-bags] [--fill plump|just|low]',
  summary: 'what each bag must hold for so many cookies',
  help: `Prints {"bags":[{"colour","grade","seconds","g","ml","mixG","openings":[{"name","openingMm"}],"uses":[{"technique","label","ml"}]}],"mixing":[{"colour","seconds":[…]}],"near":[{"a","b",
"difference"}]}. g and ml land on the cookies; mixG adds what stays in the bag, is wiped off and tried out. "mixing" is
the order of bowls (pale before dark, stiff before thin); "near" are colours that could share a bag (CIEDE2000 below 5). --fill\noverrides how full the school fills.`,
  async run(args) {
    const { values, files } = parse(
      args,
      { count: { type: 'string', default: '1' }, school: { type: 'string', default: 'two-bags' }, fill: { type: 'string' } },
      1,
    );
    const count = numberOption(values, 'count', 1, 5000, 'cookies');
    if (!Number.isInteger(count)) throw new BadInput('option', `--count must be a whole number, not "${values['count'] ?? ''}".`);
    const file = files[0] as string;
    const design = readDesign(await readText(file), basename(file).replace(/\.svg$/i, ''));
    const preset = schoolById(choiceOption(values, 'school', schoolIds));
    const school = values['fill'] === undefined ? preset : { ...preset, fill: choiceOption(values, 'fill', fills) };
    const bags = bagAmounts(deriveSteps(design, school), count);
    const round = (n: number) => Math.round(n * 100) / 100;
    print({
      format: 'kestfog-amounts/1',
      design: design.name,
      count,
      bags: bags.map((b) => ({
        ...b,
        g: round(b.g),
        ml: round(b.ml),
        mixG: round(b.mixG),
        uses: b.uses.map((u) => ({ ...u, ml: round(u.ml) })),
      })),
      mixing: mixingOrder(bags).map((m) => ({ colour: m.colour, seconds: m.bags.map((b) => b.seconds) })),
      near: nearColours(bags.map((b) => b.colour)).map((p) => ({ ...p, difference: round(p.difference) })),
    });
    return 0;
  },
};
