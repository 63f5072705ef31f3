import type { MoveEffect } from '@kestfog/core/planning';
import { reasonOf } from '@kestfog/core/wording';

/** What followed from moving a part in the stack. */
export function movedText({ moved, moreRounds, now, noLonger }: MoveEffect): string {
  const what = typeof moved === 'string' ? `${moved} was moved.` : `${moved.first} comes before ${moved.next}, as you say.`;
  const rounds =
    moreRounds > 0
      ? `It takes ${moreRounds} more ${moreRounds === 1 ? 'round' : 'rounds'} of drying`
      : moreRounds < 0
        ? 'It saves a round of drying'
        : 'It takes as many rounds as before';
  const waits = now ? `; now ${reasonOf(now)}` : noLonger ? `; no longer: ${reasonOf(noLonger)}` : '';
  return `${what} ${rounds}${waits}.`;
}
