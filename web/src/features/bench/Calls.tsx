import type { Alert } from '@kestfog/core/bench';
import { useState, useSyncExternalStore } from 'react';
import { notifier, simulatedNotifier } from '../../devices/notifier.js';
import type { BenchSettings } from './bench-settings.js';
import { call } from './knock.js';
import { canSpeak, say, wordsFor } from './speech.js';

interface Props {
  readonly settings: BenchSettings;
  readonly onSettings: (more: Partial<BenchSettings>) => void;
}

const KINDS: readonly (readonly [Alert['kind'], string])[] = [
  ['window-closing', 'a window is closing'],
  ['tray-ready', 'a tray is ready'],
  ['take-out', 'out of the dehydrator'],
];

const pick = (on: boolean) => `btn min-h-16 text-xl ${on ? 'btn-primary' : ''}`;
const sample = (kind: Alert['kind']): Alert => ({
  id: kind,
  kind,
  trayId: 'B',
  text: '',
  what: kind === 'take-out' ? 'dehydrator' : 'dots',
});

/** How this device calls: sounds, a voice in the user's own words, notifications. */
export function Calls({ settings, onSettings }: Props) {
  return (
    <section aria-label="Calls">
      <h3 className="text-2xl font-semibold">Calls</h3>
      <div className="flex flex-wrap gap-2 mt-1">
        <button
          type="button"
          className={pick(settings.quiet)}
          aria-pressed={settings.quiet}
          onClick={() => onSettings({ quiet: !settings.quiet })}
        >
          quiet
        </button>
        <button
          type="button"
          className={pick(settings.voice)}
          aria-pressed={settings.voice}
          disabled={!canSpeak()}
          onClick={() => onSettings({ voice: !settings.voice })}
        >
          {canSpeak() ? 'spoken as well' : 'this browser has no voice'}
        </button>
        <Notifying settings={settings} onSettings={onSettings} />
      </div>
      <div className="grid gap-3 mt-3">
        {KINDS.map(([kind, label]) => (
          <div key={kind} className="flex flex-wrap items-end gap-3">
            <label className="grid gap-1 grow">
              <span>
                {label}; {'{tray}'} and {'{what}'} are put in
              </span>
              <input
                className="input input-lg w-full min-h-16 text-xl"
                maxLength={120}
                value={settings.words[kind]}
                onChange={(e) => onSettings({ words: { ...settings.words, [kind]: e.target.value } })}
              />
            </label>
            <button
              type="button"
              className="btn min-h-16 text-xl"
              onClick={() => {
                call(kind);
                if (settings.voice) say(wordsFor(sample(kind), settings.words));
              }}
            >
              hear it
            </button>
          </div>
        ))}
      </div>
    </section>
  );
}

/** Notifications, for when another page or another program is in front. */
function Notifying({ settings, onSettings }: Props) {
  const [state, setState] = useState(notifier().state());
  const told = useSyncExternalStore(simulatedNotifier.onShown, () => simulatedNotifier.shown.length);
  const swap = async () => {
    await notifier().ask();
    const next = notifier().state();
    setState(next);
    onSettings({ notify: !settings.notify && (next === 'allowed' || next === 'simulated') });
  };
  const last = simulatedNotifier.shown[told - 1];
  return (
    <>
      <button
        type="button"
        className={`btn min-h-16 h-auto max-w-full whitespace-normal text-xl ${settings.notify && state !== 'refused' ? 'btn-primary' : ''}`}
        aria-pressed={settings.notify && state !== 'refused'}
        disabled={state === 'refused'}
        onClick={() => void swap()}
      >
        {state === 'refused' ? 'this browser is set to show no notifications' : 'also when another page is in front'}
      </button>
      {settings.notify && state !== 'refused' && (
        <button
          type="button"
          className="btn min-h-16 text-xl"
          onClick={() => notifier().tell('This is how a call looks.', 'trial', location.pathname)}
        >
          show one
        </button>
      )}
      {state === 'simulated' && settings.notify && (
        <p role="status" className="w-full">
          This address has no notifications; a simulated one keeps them here. {last ? `The last: ${last.text}` : 'None yet.'}
        </p>
      )}
    </>
  );
}
