import { parseOrder } from '../../formats/order.js';
import type { Plan } from '../../formats/plan.js';
import { planOrder } from '../../planning/plan-order.js';
import { driedThroughText } from '../../wording/dried-through.js';
import { lateText } from '../../wording/late.js';
import { consequenceOf, reasonOf } from '../../wording/why.js';
import { brokenRules } from '../check-plan.js';
import { type Command, numberOption, parse, print, readJson } from '../command.js';
import { designsBeside } from '../planned.js';

/** A plan with its waits in words beside their facts, for whoever reads the file; they are not read back. */
const inWords = (plan: Plan) => ({
  ...plan,
  tasks: plan.tasks.map((t) => (t.because.kind === 'drying' ? { ...t, because: { ...t.because, reason: reasonOf(t.because) } } : t)),
  waits: plan.waits.map((w) => ({ ...w, reason: reasonOf(w), consequence: consequenceOf(w) })),
});

const cookiesOf = (plan: Plan): number => plan.trays.flatMap((t) => t.lots).reduce((n, l) => n + l.cookies, 0);

export const plan: Command = {
  name: 'plan',
  usage: 'plan ORDER.json [--seconds N] [--seed N] [--check]',
  summary: 'an order planned: every task with start, end, tray, cookies, bags and why it waits',
  help: `Reads kestfog-order/3: {"format":"kestfog-order/3","designs":[{"file","count","spares","for","packBy"}],
"trays":[{"id","places"} or {"id","widthMm","depthMm"}],"handGapMm","openingHours":[[from,to]],"air":{"tempC","humidityPct","airMPerS"},
"fan":{"places","airMPerS"},"dehydrator":{"places","tempC","airMPerS"},"decorators":[{"id","pace"}],"openBags","pins":[{"kind":"away","from",
"to","label","who"} or {"kind":"tray-first","tray"} or {"kind":"not-before","tray","at"}],"school","margin","packBy","epoch"}.
Times are whole seconds, or ISO 8601 with an offset (then second 0 is "epoch", else the first opening). Files are found
beside the order. Left out: air is 22 °C, 50 %, 0.1 m/s; no fan, no dehydrator; one pair of hands; any number of bags; nothing
pinned; school two-bags; the margin of the school; nothing due.
Prints kestfog-plan/4: {"order","tasks":[{"id","by","kind","trayId","lotId","cookies","title","startS","endS","bags","motions",
"because"}],"stays","waits","designs","trays","arrangement","endS","late","proven","lowerBoundS","handsOnS", …}, seconds since second 0.
Exit 2 says in one line why the order cannot be done; where it is proven that not all can be packed in time, the best late plan is
printed all the same ("late" says by how much). A late plan that may not be the best ends with 0 and a line on standard error; so does
one in which floods end after a neighbour has dried through, where that is feared ("driedThrough" says on which trays).
--seconds bounds the search (default 10), --seed repeats it.
--check judges the plan afterwards, cookie by cookie, by what the trade asks and
by drying integrated anew, not by the problem it was made from: exit 1 with a line for each rule that is broken.`,
  async run(args) {
    const { values, files } = parse(
      args,
      { seconds: { type: 'string', default: '10' }, seed: { type: 'string', default: '1' }, check: { type: 'boolean' } },
      1,
    );
    const seconds = numberOption(values, 'seconds', 0.1, 3600, 'seconds');
    const seed = numberOption(values, 'seed', 0, 2 ** 31, '');
    const file = files[0] as string;
    const order = parseOrder(await readJson(file));
    const designs = await designsBeside(file, order);
    const began = performance.now();
    const made = planOrder({ order, designs, seed, timeUsed: () => (performance.now() - began) / 1000 / seconds });
    print(inWords(made));
    if (values['check'] === 'true') {
      const broken = brokenRules(made);
      for (const rule of broken) process.stderr.write(`check: ${rule}\n`);
      if (broken.length > 0) return 1;
      process.stderr.write(`check: every wait, window, place, pair of hands and opening hour is kept on ${cookiesOf(made)} cookies.\n`);
    }
    const late = lateText(made);
    if (late) process.stderr.write(`${made.late?.proven ? 'The order does not fit. ' : ''}${late}\n`);
    const driedThrough = driedThroughText(made);
    if (driedThrough) process.stderr.write(`${driedThrough}\n`);
    return made.late?.proven ? 2 : 0;
  },
};
