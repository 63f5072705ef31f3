import type { Alert } from '@kestfog/core/bench';
import { useEffect, useRef } from 'react';
import { notifier } from '../../devices/notifier.js';
import type { BenchSettings } from './bench-settings.js';
import { call } from './knock.js';
import { say, wordsFor } from './speech.js';

interface Where {
  /** the page a touch on a notification leads to */
  readonly place: string;
  /** asked before anything is called out, where another page may do it */
  readonly mayCall?: () => Promise<boolean>;
}

/**
 * Calls each alert once, the most pressing of those that come together; quiet mode leaves them to the eye. Where the page is not in front,
 * a notification says it too, if the user wants that.
 */
export function useAlarms(alerts: readonly Alert[], { quiet, voice, words, notify }: BenchSettings, { place, mayCall }: Where): void {
  const called = useRef(new Set<string>());
  useEffect(() => {
    const fresh = alerts.filter((a) => !called.current.has(a.id));
    for (const a of fresh) called.current.add(a.id);
    const first = fresh.find((a) => a.kind === 'window-closing') ?? fresh[0];
    if (!first || quiet) return;
    const out = () => {
      call(first.kind);
      const text = wordsFor(first, words);
      if (voice) say(text);
      if (notify && document.visibilityState === 'hidden') notifier().tell(text, first.id, place);
    };
    if (mayCall) void mayCall().then((may) => may && out());
    else out();
  }, [alerts, quiet, voice, words, notify, place, mayCall]);
}
