import type { Plan } from '../formats/plan.js';
import { listed, msg } from '../words/index.js';
import { span } from './span.js';

/** Where floods come beside what has dried through by then, though that is feared, and what would help; null where none does. */
export function driedThroughText({ driedThrough = [] }: Pick<Plan, 'driedThrough'>): string | null {
  if (driedThrough.length === 0) return null;
  const trays = [...new Set(driedThrough.map((d) => d.trayId))];
  const by = span(Math.max(...driedThrough.map((d) => d.byS)));
  const what =
    trays.length === 1
      ? msg`On tray ${trays[0]} a flood ends up to ${by} after the one beside it has dried through.`
      : msg`On trays ${listed(trays)} floods end up to ${by} after those beside them have dried through.`;
  return msg`${what} The way you work avoids that, since craters may form along the edge: begin earlier, or leave more time to pack.`;
}
