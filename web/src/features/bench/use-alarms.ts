import type { Alert } from '@kestfog/core';
import { useEffect, useRef, useState } from 'react';
import { call } from './knock.js';

const QUIET_KEY = 'kestfog.quiet';

/** Calls each alert once, the most pressing of those that come together; quiet mode leaves them to the eye. */
export function useAlarms(alerts: readonly Alert[]): { readonly quiet: boolean; readonly setQuiet: (quiet: boolean) => void } {
  const [quiet, setQuiet] = useState(() => localStorage.getItem(QUIET_KEY) === 'yes');
  const called = useRef(new Set<string>());
  useEffect(() => {
    const fresh = alerts.filter((a) => !called.current.has(a.id));
    for (const a of fresh) called.current.add(a.id);
    const first = fresh.find((a) => a.kind === 'window-closing') ?? fresh[0];
    if (first && !quiet) call(first.kind);
  }, [alerts, quiet]);
  return {
    quiet,
    setQuiet: (q) => {
      localStorage.setItem(QUIET_KEY, q ? 'yes' : 'no');
      setQuiet(q);
    },
  };
}
