import { useUnits } from '../../app/units.js';
import { pressPedal } from '../../devices/simulated-pedal.js';
import { airText } from '../../text/amounts.js';
import { Choice } from '../../ui/Choice.js';
import { Sheet } from '../../ui/Sheet.js';
import { REHEARSAL } from '../rehearsal/rehearsal-id.js';
import type { BenchSettings } from './bench-settings.js';
import { Calls } from './Calls.js';
import type { RoomAirNow } from './use-room-air.js';

interface Props {
  readonly runId: string;
  readonly settings: BenchSettings;
  readonly onSettings: (more: Partial<BenchSettings>) => void;
  readonly hands: readonly string[];
  readonly who: string | null;
  readonly onWho: (who: string | null) => void;
  readonly air: RoomAirNow | null;
  readonly onClose: () => void;
}

/** How this device is used at the bench: whose hands, sounds and words, ticking, the air it reckons with. */
/** Stands for everybody's hands; no one is called so. */
const ALL = '*';

export function HowSheet({ runId, settings, onSettings, hands, who, onWho, air, onClose }: Props) {
  const [units] = useUnits();
  const pick = (on: boolean) => `btn min-h-16 text-xl ${on ? 'btn-primary' : ''}`;
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
        {runId !== REHEARSAL && (
          <section aria-label="Light">
            <h3 className="text-2xl font-semibold">A projector over the table</h3>
            <p>Shows what is piped now at true size on the cookie. Put the window on the projector’s screen.</p>
            <a href={`/runs/${runId}/light`} target="_blank" rel="noreferrer" className={`${pick(false)} mt-2`}>
              Light on the table
            </a>
          </section>
        )}
        <Calls settings={settings} onSettings={onSettings} />
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
