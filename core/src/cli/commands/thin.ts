import { thinning } from '../../icing/thinning.js';
import { type Command, numberOption, parse, print } from '../command.js';

export const thin: Command = {
  name: 'thin',
  usage: 'thin --grams G --from-s S --to-s S',
  summary: 'water that takes icing from one count to a looser one',
  help: `--grams (1–20000) of icing that counts --from-s seconds (1.5–120), wanted at --to-s (1.5–120).
Prints {"waterG","firstG","ml","tsp","drops"}: add firstG (70 %), count again, then the rest. With icing that is loose
enough already everything is 0.`,
  async run(args) {
    const { values } = parse(args, { grams: { type: 'string' }, 'from-s': { type: 'string' }, 'to-s': { type: 'string' } }, 0);
    const t = thinning(
      numberOption(values, 'grams', 1, 20_000, 'g'),
      numberOption(values, 'from-s', 1.5, 120, 'seconds'),
      numberOption(values, 'to-s', 1.5, 120, 'seconds'),
    );
    const round = (n: number, digits: number) => Math.round(n * 10 ** digits) / 10 ** digits;
    print({ waterG: round(t.waterG, 2), firstG: round(t.firstG, 1), ml: round(t.ml, 2), tsp: round(t.tsp, 2), drops: Math.round(t.drops) });
    return 0;
  },
};
