import { useEffect } from 'react';

/** Keeps the screen awake while the Bench is shown; asked for anew when the page comes back to the front. */
export function useWakeLock(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const ask = () => {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      navigator.wakeLock.request('screen').then(
        (l) => {
          if (gone) void l.release();
          else lock = l;
        },
        () => undefined, // refused on low battery: the screen may sleep, nothing else changes
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, []);
}
