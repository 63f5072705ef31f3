import type { Alert } from '@kestfog/core/bench';
import { msg } from '@kestfog/core/words';
import { useState, useSyncExternalStore } from 'react';
import { notifier, simulatedNotifier } from '../../devices/notifier.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import type { BenchSettings } from './bench-settings.js';
import { call } from './knock.js';
import { canSpeak, say, wordsFor } from './speech.js';

interface Props {
  readonly settings: BenchSettings;
  readonly onSettings: (more: Partial<BenchSettings>) => void;
}

const KINDS: readonly (readonly [Alert['kind'], string])[] = [
  ['window-closing', msg`a window is closing`],
  ['tray-ready', msg`a tray is ready`],
  ['take-out', msg`out of the dehydrator`],
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
    <section aria-label={msg`Calls`}>
      <h3 className="text-2xl font-semibold">{msg`Calls`}</h3>
      <div className="flex flex-wrap gap-2 mt-1">
        <button
          type="button"
          className={pick(settings.quiet)}
          aria-pressed={settings.quiet}
          onClick={() => onSettings({ quiet: !settings.quiet })}
        >
          {msg`quiet`}
        </button>
        <button
          type="button"
          className={pick(settings.voice)}
          aria-pressed={settings.voice}
          disabled={!canSpeak()}
          onClick={() => onSettings({ voice: !settings.voice })}
        >
          {canSpeak() ? msg`spoken as well` : msg`this browser has no voice`}
        </button>
        <Notifying settings={settings} onSettings={onSettings} />
      </div>
      <div className="grid gap-3 mt-3">
        {KINDS.map(([kind, label]) => (
          <div key={kind} className="flex flex-wrap items-end gap-3">
            <label className="grid gap-1 grow">
              <span>{msgNodes`${label}; {tray} and {what} are put in`}</span>
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
              {msg`hear it`}
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
        {state === 'refused' ? msg`this browser is set to show no notifications` : msg`also when another page is in front`}
      </button>
      {settings.notify && state !== 'refused' && (
        <button
          type="button"
          className="btn min-h-16 text-xl"
          onClick={() => notifier().tell(msg`This is how a call looks.`, 'trial', location.pathname)}
        >
          {msg`show one`}
        </button>
      )}
      {state === 'simulated' && settings.notify && (
        <p role="status" className="w-full">
          {msgNodes`This address has no notifications; a simulated one keeps them here. ${
            last
              ? msg`The last: ${last.text}`
              : msg`None
            yet.`
          }`}
        </p>
      )}
    </>
  );
}
