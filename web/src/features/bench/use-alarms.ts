import type { Alert } from '@kestfog/core/bench';
import { useEffect, useRef } from 'react';
import type { BenchSettings } from './bench-settings.js';
import { call } from './knock.js';
import { say, wordsFor } from './speech.js';

/** Calls each alert once, the most pressing of those that come together; quiet mode leaves them to the eye. */
export function useAlarms(alerts: readonly Alert[], { quiet, voice, words }: BenchSettings): void {
  const called = useRef(new Set<string>());
  useEffect(() => {
    const fresh = alerts.filter((a) => !called.current.has(a.id));
    for (const a of fresh) called.current.add(a.id);
    const first = fresh.find((a) => a.kind === 'window-closing') ?? fresh[0];
    if (!first || quiet) return;
    call(first.kind);
    if (voice) say(wordsFor(first, words));
  }, [alerts, quiet, voice, words]);
}
