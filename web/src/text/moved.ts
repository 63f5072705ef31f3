import type { MoveEffect } from '@kestfog/core/planning';
import { reasonOf } from '@kestfog/core/wording';
import { msg, plural } from '@kestfog/core/words';

/** What followed from moving a part in the stack. */
export function movedText({ moved, moreRounds, now, noLonger }: MoveEffect): string {
  const what = typeof moved === 'string' ? msg`${moved} was moved.` : msg`${moved.first} comes before ${moved.next}, as you say.`;
  const rounds =
    moreRounds > 0
      ? msg`It takes ${moreRounds} more ${plural(moreRounds, 'round', 'rounds')} of drying`
      : moreRounds < 0
        ? msg`It saves a round of drying`
        : msg`It takes as many rounds as before`;
  const waits = now ? msg`; now ${reasonOf(now)}` : noLonger ? msg`; no longer: ${reasonOf(noLonger)}` : '';
  return `${what} ${rounds}${waits}.`;
}
