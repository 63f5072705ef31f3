import { useState } from 'react';

const keyOf = (runId: string) => `kestfog.hands.${runId}`;

/** Whose hands this device speaks for; null for all of them. Kept by run. */
export function useHands(runId: string, known: readonly string[]): readonly [string | null, (who: string | null) => void] {
  const [who, setWho] = useState(() => localStorage.getItem(keyOf(runId)));
  return [
    who !== null && known.includes(who) && known.length > 1 ? who : null,
    (next) => {
      if (next === null) localStorage.removeItem(keyOf(runId));
      else localStorage.setItem(keyOf(runId), next);
      setWho(next);
    },
  ];
}
