import { planTable, tableKinds } from '../../paper/csv.js';
import { type Command, choiceOption, numberOption, parse } from '../command.js';
import { plannedFrom } from '../planned.js';

export const table: Command = {
  name: 'table',
  usage: `table ORDER.json|PLAN.json [--kind ${tableKinds.join('|')}] [--seconds N] > OUT.csv`,
  summary: 'a planned order as a table for any spreadsheet',
  help: `Writes comma-separated rows (RFC 4180, UTF-8): every task (--kind plan, where nothing is said), the bags to mix (bags), or the waits
(waits). An order is planned first, within --seconds (10); a plan (kestfog-plan/4) is taken as it is. Moments are ISO 8601 in UTC where
the plan has a clock.`,
  async run(args) {
    const { values, files } = parse(args, { kind: { type: 'string', default: 'plan' }, seconds: { type: 'string', default: '10' } }, 1);
    const kind = choiceOption(values, 'kind', tableKinds);
    process.stdout.write(planTable(await plannedFrom(files[0] as string, numberOption(values, 'seconds', 0.1, 3600, 'seconds')), kind));
    return 0;
  },
};
