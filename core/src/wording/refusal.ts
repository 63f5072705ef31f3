import type { RefusedOrder } from '../steps/edges.js';
import type { Why } from '../steps/why.js';
import type { BadInput, NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { askText, reasonOf } from './why.js';

/**
 * A refusal in one sentence. Most say all there is to say themselves; those that rest on a wait or an order of the steps get
 * the words of that here, where words are made.
 */
export function refusalText({ code, message, facts }: BadInput | NoAnswer): string {
  if (code === 'order-cycle') {
    const [one, other] = (facts['orders'] as readonly RefusedOrder[]).map(
      (o) => msg`"${o.later}" comes after "${o.earlier}" (${askText(o.ask, o.state)})`,
    );
    return msg`${one} and ${other}, which contradict each other: take one of these orders back.`;
  }
  const why = facts['why'] as Why | undefined;
  return why === undefined ? message : `${message.replace(/\.$/, '')} (${reasonOf(why)}).`;
}
