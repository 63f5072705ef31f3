import { useCallback, useLayoutEffect, useRef } from 'react';

/** The same function for as long as the component stands, which always does what the latest one would: for parts that are memoised. */
export function useSteady<A extends readonly unknown[], R>(act: (...args: A) => R): (...args: A) => R {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
