import type { Alert } from '@kestfog/core/bench';
import type { TechniqueId } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';

/** How this device wants the bench; the words are the user's own. */
export interface BenchSettings {
  readonly quiet: boolean;
  readonly voice: boolean;
  /** a notification besides, where the page is not in front */
  readonly notify: boolean;
  /** tick every cookie, not only every visit */
  readonly byCookie: boolean;
  readonly words: Readonly<Record<Alert['kind'], string>>;
  /** techniques whose lines for the hands are not shown any more */
  readonly known: readonly TechniqueId[];
}

export const FIRST_SETTINGS: BenchSettings = {
  quiet: false,
  voice: false,
  notify: false,
  byCookie: false,
  known: [],
  words: {
    'window-closing': msg`{what}, tray {tray}, half a minute`,
    'tray-ready': msg`Tray {tray} is ready: {what}`,
    'take-out': msg`Take tray {tray} out of the {what}`,
  },
};
const KEY = 'kestfog.bench';

export function storedSettings(): BenchSettings {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<BenchSettings>;
    return {
      ...FIRST_SETTINGS,
      ...kept,
      known: Array.isArray(kept.known) ? kept.known : [],
      words: { ...FIRST_SETTINGS.words, ...kept.words },
    };
  } catch {
    return FIRST_SETTINGS;
  }
}

export function useBenchSettings(): readonly [BenchSettings, (more: Partial<BenchSettings>) => void] {
  const [settings, setSettings] = useState(storedSettings);
  return [
    settings,
    (more) => {
      const next = { ...settings, ...more };
      localStorage.setItem(KEY, JSON.stringify(next));
      setSettings(next);
    },
  ];
}
