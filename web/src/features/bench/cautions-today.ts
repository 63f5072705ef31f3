import type { PlanTask, Stay } from '@kestfog/core/formats';
import type { EggWhite } from '@kestfog/core/icing';
import { type CautionId, cautionsFor } from '@kestfog/core/steps';
import { format } from 'date-fns';

const KEY = 'kestfog.cautions';

/** Cautions already read on a day; another day begins with none. */
export function readToday(nowMs: number): readonly CautionId[] {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as { day?: string; read?: CautionId[] };
    return kept.day === format(nowMs, 'yyyy-MM-dd') && Array.isArray(kept.read) ? kept.read : [];
  } catch {
    return [];
  }
}

export function keepRead(id: CautionId, nowMs: number): void {
  localStorage.setItem(KEY, JSON.stringify({ day: format(nowMs, 'yyyy-MM-dd'), read: [...readToday(nowMs), id] }));
}

/**
 * The first caution that a step brings up and that was not read today; null where there is none.
 * @param stay - where the step carries its tray to or fetches it from, if it does
 */
export function cautionOf(
  task: Pick<PlanTask, 'motions'>,
  stay: Pick<Stay, 'where'> | undefined,
  eggWhite: EggWhite,
  read: readonly CautionId[],
): { readonly id: CautionId; readonly text: string } | null {
  const techniques = [...new Set(task.motions.map((m) => m.technique))];
  const arise = cautionsFor({ techniques, eggWhite, warmAir: stay?.where === 'dehydrator', cutByHand: false });
  return arise.find((c) => !read.includes(c.id)) ?? null;
}
