import type { Stay } from '@kestfog/core/formats';
import { msg, word } from '@kestfog/core/words';
import { span } from '../../text/time.js';
import type { TimeAxis } from './time-axis.js';

/** Width of a letter of a label, px; as near as a label needs it. */
const LETTER_PX = 7.4;
/** Room for a label until the next stay begins, px. */
export const roomAfter = (s: Stay, stays: readonly Stay[], { scale, width }: TimeAxis): number =>
  Math.min(width, ...stays.filter((o) => o.startS > s.startS).map((o) => scale(o.startS))) - scale(s.startS);

/** What a stay is, as far as there is room for it before the next one. */
export function stayLabel(s: Stay, roomPx: number): string {
  const [where, long] = [word(s.where), span(s.endS - s.startS)];
  return [`${where} ${long}${STAY_WHY[s.why]}`, `${where} ${long}`, long].find((t) => t.length * LETTER_PX + 10 <= roomPx) ?? '';
}

/** What a stay is there for, where not only to save time. */
export const STAY_WHY = { time: '', pools: msg`, sets small pools`, asked: msg`, as you asked`, dries: msg`, dries only there` } as const;
