import type { Plan } from '../formats/plan.js';
import { msg } from '../words/index.js';
import type { Edge } from './chance-edges.js';

/** What would help where a window is missed. */
export function cureOfWindow({ gap, to }: Edge, plan: Plan): string {
  // It opens and shuts together, and only a finger knows when: the share shown is that of working by the clock alone.
  if (gap.oneBody) return msg`touch it before its time and work it when it breaks: by the clock alone it is a guess`;
  const k = to.cookies[1] - to.cookies[0];
  if (plan.margin !== 'careful') return k > 1 ? msg`plan it careful: fewer cookies at a time` : msg`plan it careful, or loosen the icing`;
  return k > 1 ? msg`work it cookie by cookie, or drop a colour` : msg`loosen the icing, or drop a colour`;
}

/** What beginning half an hour sooner would give is read off the same evenings. */
const SOONER_S = 1800;
/** What would help where a wait makes an evening late. */
export function cureOfWait(e: Edge, plan: Plan, lateness: readonly number[], onTime: number | null): string {
  const sooner = lateness.filter((l) => l <= SOONER_S).length / lateness.length;
  if (onTime !== null && sooner > onTime) return msg`begin 30 min sooner: packed on time in ${Math.round(100 * sooner)} % of evenings`;
  if (!plan.dehydratorAir) return msg`a dehydrator would shorten it`;
  return msg`drier or moving air for tray ${e.to.trayId}`;
}
