import { useEffect, useState } from 'react';

/** held by every bench that is open in this browser */
const BENCH = 'kestfog-bench';
/** held by the one other page that calls out where no bench is open, and follows the runs that go on */
const STAND_IN = 'kestfog-stand-in';

/** At the bench: while it is open, no other page of this browser calls out. One that is only rehearsed silences nobody. */
export function useBenchIsOpen(isReal: boolean): void {
  useEffect(() => {
    if (!isReal) return;
    const leaving = new AbortController();
    hold(BENCH, { mode: 'shared', signal: leaving.signal }, leaving.signal);
    return () => leaving.abort();
  }, [isReal]);
}

/** Whether this page stands in for the bench: the one that was in front last. A browser without locks has all of them do so. */
export function useStandsIn(): boolean {
  const [standsIn, setStandsIn] = useState(!navigator.locks);
  useEffect(() => {
    if (!navigator.locks) return;
    const leaving = new AbortController();
    // Times it is held: as it comes to the front it may take what it gets in turn at that moment.
    let held = 0;
    const take = (way: LockOptions) =>
      hold(STAND_IN, way, leaving.signal, (is) => {
        held += is ? 1 : -1;
        setStandsIn(held > 0);
        // Taken by a page that came to the front: this one is next once that has gone.
        if (held === 0 && !leaving.signal.aborted) take({ signal: leaving.signal });
      });
    const inFront = () => document.visibilityState === 'visible' && held === 0 && take({ steal: true });
    take({ signal: leaving.signal });
    inFront();
    document.addEventListener('visibilitychange', inFront);
    return () => {
      document.removeEventListener('visibilitychange', inFront);
      leaving.abort();
    };
  }, []);
  return standsIn;
}

/** Whether a page that stands in has to call: no bench is open in this browser. */
export async function isNoBenchOpen(): Promise<boolean> {
  if (!navigator.locks) return true;
  const { held = [], pending = [] } = await navigator.locks.query();
  return ![...held, ...pending].some((l) => l.name === BENCH);
}

/** Holds a lock until `leaving`; tells when it is held, and when no longer. */
function hold(name: string, options: LockOptions, leaving: AbortSignal, tell: (holds: boolean) => void = () => undefined): void {
  if (!navigator.locks) return;
  let held = false;
  const kept = () =>
    new Promise<void>((done) => {
      held = true;
      tell(true);
      leaving.addEventListener('abort', () => done(), { once: true });
    });
  navigator.locks
    .request(name, options, kept)
    // Left before it was its turn, or taken by another.
    .catch(() => undefined)
    .finally(() => held && tell(false));
}
