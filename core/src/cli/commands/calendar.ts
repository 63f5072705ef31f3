import { createHash } from 'node:crypto';
import { plansCalendar } from '../../calendar/plan-calendar.js';
import { type Command, numberOption, parse } from '../command.js';
import { plannedFrom } from '../planned.js';

export const calendar: Command = {
  name: 'calendar',
  usage: 'calendar ORDER.json|PLAN.json [--seconds N] [--sequence N] > OUT.ics',
  summary: 'sittings, mixing, what is fetched, packing and handing over, for any calendar',
  help: `Writes an iCalendar file (RFC 5545): sittings at the bench, mixing before the first, trays to fetch, when pens are possible, packing, and
when the order is due, with alarms, in UTC. Its events keep their names from plan to plan, so that a calendar that reads the next file
moves them instead of showing them twice; give it a higher --sequence (0). An order is planned first, within --seconds (10); a plan
(kestfog-plan/4) is taken as it is.`,
  async run(args) {
    const { values, files } = parse(args, { seconds: { type: 'string', default: '10' }, sequence: { type: 'string', default: '0' } }, 1);
    const sequence = Math.round(numberOption(values, 'sequence', 0, 1e6, ''));
    const plan = await plannedFrom(files[0] as string, numberOption(values, 'seconds', 0.1, 3600, 'seconds'));
    const id = createHash('sha256')
      .update(JSON.stringify([plan.order.name ?? null, plan.designs.map((d) => [d.id, d.count])]))
      .digest('hex')
      .slice(0, 16);
    process.stdout.write(plansCalendar([{ plan, id, sequence, stampMs: Date.now() }], plan.order.name ?? 'Kestfog'));
    return 0;
  },
};
