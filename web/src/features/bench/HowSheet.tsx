import type { Alert } from '@kestfog/core/bench';
import { useState, useSyncExternalStore } from 'react';
import { useUnits } from '../../app/units.js';
import { notifier, simulatedNotifier } from '../../devices/notifier.js';
import { pressPedal } from '../../devices/simulated-pedal.js';
import { airText } from '../../text/amounts.js';
import { Choice } from '../../ui/Choice.js';
import { Sheet } from '../../ui/Sheet.js';
import type { BenchSettings } from './bench-settings.js';
import { call } from './knock.js';
import { canSpeak, say, wordsFor } from './speech.js';
import type { RoomAirNow } from './use-room-air.js';

interface Props {
  readonly settings: BenchSettings;
  readonly onSettings: (more: Partial<BenchSettings>) => void;
  readonly hands: readonly string[];
  readonly who: string | null;
  readonly onWho: (who: string | null) => void;
  readonly air: RoomAirNow | null;
  readonly onClose: () => void;
}

const KINDS: readonly (readonly [Alert['kind'], string])[] = [
  ['window-closing', 'a window is closing'],
  ['tray-ready', 'a tray is ready'],
  ['take-out', 'out of the dehydrator'],
];

/** How this device is used at the bench: whose hands, sounds and words, ticking, the air it reckons with. */
/** Stands for everybody's hands; no one is called so. */
const ALL = '*';

export function HowSheet({ settings, onSettings, hands, who, onWho, air, onClose }: Props) {
  const [units] = useUnits();
  const pick = (on: boolean) => `btn min-h-16 text-xl ${on ? 'btn-primary' : ''}`;
  const sample = (kind: Alert['kind']): Alert => ({ id: kind, kind, trayId: 'B', text: '', what: kind === 'take-out' ? 'dehydrator' : 'dots' });
  return (
    <Sheet title="How this device is used" onClose={onClose}>
      <div className="grid gap-6">
        {hands.length > 1 && (
          <section aria-label="Hands">
            <h3 className="text-2xl font-semibold">Whose hands is it for?</h3>
            <Choice
              className="mt-1"
              size="min-h-16 text-xl"
              label="Hands"
              value={who ?? ALL}
              options={[{ id: ALL, label: 'all of them' }, ...hands.map((id) => ({ id, label: id }))]}
              onChange={(id) => onWho(id === ALL ? null : id)}
            />
          </section>
        )}
        <section aria-label="Ticking">
          <h3 className="text-2xl font-semibold">One tap for</h3>
          <Choice
            className="mt-1"
            size="min-h-16 text-xl"
            label="One tap for"
            value={settings.byCookie ? 'cookie' : 'visit'}
            options={[
              { id: 'visit', label: 'a visit' },
              { id: 'cookie', label: 'each cookie' },
            ]}
            onChange={(id) => onSettings({ byCookie: id === 'cookie' })}
          />
        </section>
        <section aria-label="Pedal">
          <h3 className="text-2xl font-semibold">A page-turner pedal</h3>
          <p>Right goes on, left takes back. Without one at hand, this presses a simulated one, once:</p>
          <div className="flex gap-2 mt-1">
            {(['forward', 'back'] as const).map((which) => (
              <button
                key={which}
                type="button"
                className={pick(false)}
                onClick={() => {
                  onClose();
                  pressPedal(which);
                }}
              >
                {which === 'forward' ? 'press right' : 'press left'}
              </button>
            ))}
          </div>
        </section>
        <section aria-label="Calls">
          <h3 className="text-2xl font-semibold">Calls</h3>
          <div className="flex flex-wrap gap-2 mt-1">
            <button type="button" className={pick(settings.quiet)} aria-pressed={settings.quiet} onClick={() => onSettings({ quiet: !settings.quiet })}>
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
        {air && (
          <section aria-label="Air">
            <h3 className="text-2xl font-semibold">The air</h3>
            <p>
              Reckoned with: {airText(air.air.tempC, air.air.humidityFrac * 100, units)}.{' '}
              {air.sensor
                ? `The sensor${air.sensor.simulated ? ' (simulated)' : ''} says ${airText(air.sensor.tempC, air.sensor.humidityPct, units)}.`
                : 'No sensor answers.'}
            </p>
            <button
              type="button"
              className={`${pick(air.follows)} mt-2`}
              aria-pressed={air.follows}
              disabled={!air.sensor}
              onClick={() => air.follow(!air.follows)}
            >
              {air.follows ? 'follows the sensor' : 'follow the sensor'}
            </button>
          </section>
        )}
      </div>
    </Sheet>
  );
}

/** Notifications, for when another page or another program is in front. */
function Notifying({ settings, onSettings }: Pick<Props, 'settings' | 'onSettings'>) {
  const [state, setState] = useState(notifier().state());
  const told = useSyncExternalStore(simulatedNotifier.onTold, () => simulatedNotifier.told.length);
  const swap = async () => {
    await notifier().ask();
    const next = notifier().state();
    setState(next);
    onSettings({ notify: !settings.notify && (next === 'allowed' || next === 'simulated') });
  };
  const last = simulatedNotifier.told[told - 1];
  return (
    <>
      <button
        type="button"
        className={`btn min-h-16 text-xl ${settings.notify && state !== 'refused' ? 'btn-primary' : ''}`}
        aria-pressed={settings.notify && state !== 'refused'}
        disabled={state === 'refused'}
        onClick={() => void swap()}
      >
        {state === 'refused' ? 'the browser was told to show no notifications' : 'also when another page is in front'}
      </button>
      {settings.notify && state !== 'refused' && (
        <button type="button" className="btn min-h-16 text-xl" onClick={() => notifier().tell('This is how it is told.', 'trial', location.pathname)}>
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
