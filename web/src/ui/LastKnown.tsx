import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import { api } from '../api/client.js';
import { answersAgain, onShown, shownSinceMs } from '../api/last-known.js';
import { dayClock } from '../text/time.js';
import { msgNodes } from '../ui/msg-nodes.js';

const ASK_AGAIN_MS = 3000;

/** Says that what is shown is what was last known, and since when; asks on, and fetches everything anew once the server answers. */
export function LastKnown() {
  const client = useQueryClient();
  const sinceMs = useSyncExternalStore(onShown, shownSinceMs);
  useEffect(() => {
    if (sinceMs === null) return;
    const timer = setInterval(
      () =>
        void api('/health').then(
          () => answersAgain() && void client.invalidateQueries(),
          () => undefined,
        ),
      ASK_AGAIN_MS,
    );
    return () => clearInterval(timer);
  }, [sinceMs, client]);
  if (sinceMs === null) return null;
  return (
    <p role="status" className="no-print bg-warning/25 border-l-8 border-warning px-4 py-2 mx-6 md:mx-10 text-lg">
      {msgNodes`The server does not answer. This is what was last known, ${dayClock(sinceMs)}. What you type and tap is kept on this
        device.`}
    </p>
  );
}
