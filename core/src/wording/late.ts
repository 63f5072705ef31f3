import type { Plan } from '../formats/plan.js';
import { msg } from '../words/index.js';

/** How late a plan is, and what would help; null where all is packed in time. */
export function lateText({ late, designs }: Pick<Plan, 'late' | 'designs'>): string | null {
  if (!late) return null;
  const design = designs.find((d) => d.id === late.designId);
  const due =
    late.after === 'closing'
      ? msg`the bench closes for the last time`
      : late.after === 'own-due'
        ? msg`${design?.for ?? design?.drawing.name ?? late.designId} must be packed`
        : msg`the time it must be packed by`;
  return msg`The best plan found ends ${minutesText(late.byS)} after ${due}. Start earlier, open the bench longer, or take cookies off.`;
}

function minutesText(s: number): string {
  const min = Math.ceil(s / 60);
  return min < 60 ? msg`${min} min` : msg`${Math.floor(min / 60)} h ${min % 60} min`;
}
