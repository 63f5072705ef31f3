import { openRun, withPlan } from '../../bench/run-format.js';
import { runAccount } from '../../notebook/account.js';
import { runTable, runTableKinds } from '../../notebook/run-table.js';
import { planTable, tableKinds } from '../../paper/csv.js';
import { type Command, choiceOption, numberOption, parse, readJson } from '../command.js';
import { plannedFrom } from '../planned.js';

const kinds = [...tableKinds, ...runTableKinds] as const;
const isOfRun = (kind: (typeof kinds)[number]): kind is (typeof runTableKinds)[number] =>
  (runTableKinds as readonly string[]).includes(kind);

export const table: Command = {
  name: 'table',
  usage: `table ORDER.json|PLAN.json|RUN.json [--kind ${kinds.join('|')}] [--seconds N] > OUT.csv`,
  summary: 'a planned order, or a run, as a table for any spreadsheet',
  help: `Writes comma-separated rows (RFC 4180, UTF-8): every task (--kind plan, where nothing is said), the bags to mix (bags), or the waits
(waits). An order is planned first, within --seconds (10); a plan (kestfog-plan/4) is taken as it is. Of a run (kestfog-run/4 with its
plan): what was done when, beside when it was planned (times), or what was counted and found (found). Moments are ISO 8601 in UTC where
the plan has a clock.`,
  async run(args) {
    const { values, files } = parse(args, { kind: { type: 'string', default: 'plan' }, seconds: { type: 'string', default: '10' } }, 1);
    const kind = choiceOption(values, 'kind', kinds);
    const [file] = files as [string];
    if (isOfRun(kind)) {
      const { plan, events } = withPlan(openRun(await readJson(file)));
      process.stdout.write(runTable(runAccount(plan, events), kind));
    } else process.stdout.write(planTable(await plannedFrom(file, numberOption(values, 'seconds', 0.1, 3600, 'seconds')), kind));
    return 0;
  },
};
