import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/**
 * What is looked at within a place, in its address: a reload, a bookmark and the way back find it again. An empty word takes one out.
 * Changes that belong together are made in one call.
 */
export function useLooked<K extends string>(): readonly [(key: K) => string, (changes: Readonly<Partial<Record<K, string>>>) => void] {
  const [params, setParams] = useSearchParams();
  const look = useCallback(
    (changes: Readonly<Partial<Record<K, string>>>) =>
      setParams(
        (now) => {
          const next = new URLSearchParams(now);
          for (const [key, value] of Object.entries<string | undefined>(changes)) {
            if (value) next.set(key, value);
            else next.delete(key);
          }
          return next;
        },
        { replace: true, preventScrollReset: true },
      ),
    [setParams],
  );
  return [(key) => params.get(key) ?? '', look];
}
