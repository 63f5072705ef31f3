import { useEffect, useRef } from 'react';
import { isAsking, lettersAreOn } from '../../app/keys.js';

/** Pedals bounce and wet cloths wipe: nothing counts twice within this. */
export const DEAD_MS = 400;

/** Anything that knows when it happened: a mouse, touch or key event. */
type Touch = { readonly timeStamp: number };

interface Actions {
  readonly forward: () => void;
  readonly back: () => void;
}

/**
 * The one input handler of the Bench: space, a page-turner's Page Down or a tap on the big button go forward; Page Up
 * or U take back. Space never presses whatever has the focus.
 */
export function useOneAction({ forward, back }: Actions): { forward: (e: Touch) => void; back: (e: Touch) => void } {
  const last = useRef(Number.NEGATIVE_INFINITY);
  const latest = useRef({ forward, back });
  latest.current = { forward, back };
  const guarded = useRef({
    /** `atMs` is when the touch happened, not when a busy page came round to it */
    run(which: 'forward' | 'back', atMs: number) {
      if (atMs - last.current < DEAD_MS) return;
      last.current = atMs;
      latest.current[which]();
    },
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const which =
        e.key === ' ' || e.key === 'PageDown' ? 'forward' : e.key === 'PageUp' || (/^u$/i.test(e.key) && lettersAreOn()) ? 'back' : null;
      // A sheet that asks something has the keys to itself.
      if (!which || e.ctrlKey || e.metaKey || e.altKey || isAsking()) return;
      e.preventDefault();
      e.stopPropagation();
      if (!e.repeat) guarded.current.run(which, e.timeStamp);
    };
    // A focused button would fire on keyup of Space, so that is swallowed too.
    const onUp = (e: KeyboardEvent) => {
      if (e.key === ' ' && !isAsking()) e.preventDefault();
    };
    window.addEventListener('keydown', onKey, true);
    window.addEventListener('keyup', onUp, true);
    return () => {
      window.removeEventListener('keydown', onKey, true);
      window.removeEventListener('keyup', onUp, true);
    };
  }, []);
  return { forward: (e) => guarded.current.run('forward', e.timeStamp), back: (e) => guarded.current.run('back', e.timeStamp) };
}
