import { msg } from '@kestfog/core/words';
import { useUnits } from '../../app/units.js';
import { pressPedal } from '../../devices/simulated-pedal.js';
import { airText } from '../../text/amounts.js';
import { Choice } from '../../ui/Choice.js';
import { msgNodes } from '../../ui/msg-nodes.js';
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
    <Sheet title={msg`How this device is used`} onClose={onClose}>
      <div className="grid gap-6">
        {hands.length > 1 && (
          <section aria-label={msg`Hands`}>
            <h3 className="text-2xl font-semibold">{msg`Whose hands is it for?`}</h3>
            <Choice
              className="mt-1"
              size="min-h-16 text-xl"
              label={msg`Hands`}
              value={who ?? ALL}
              options={[{ id: ALL, label: msg`all of them` }, ...hands.map((id) => ({ id, label: id }))]}
              onChange={(id) => onWho(id === ALL ? null : id)}
            />
          </section>
        )}
        <section aria-label={msg`Ticking`}>
          <h3 className="text-2xl font-semibold">{msg`One tap for`}</h3>
          <Choice
            className="mt-1"
            size="min-h-16 text-xl"
            label={msg`One tap for`}
            value={settings.byCookie ? 'cookie' : 'visit'}
            options={[
              { id: 'visit', label: msg`a visit` },
              { id: 'cookie', label: msg`each cookie` },
            ]}
            onChange={(id) => onSettings({ byCookie: id === 'cookie' })}
          />
        </section>
        <section aria-label={msg`Pedal`}>
          <h3 className="text-2xl font-semibold">{msg`A page-turner pedal`}</h3>
          <p>{msg`Right goes on, left takes back. Without one at hand, this presses a simulated one, once:`}</p>
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
                {which === 'forward' ? msg`press right` : msg`press left`}
              </button>
            ))}
          </div>
        </section>
        {runId !== REHEARSAL && (
          <section aria-label={msg`Light`}>
            <h3 className="text-2xl font-semibold">{msg`A projector over the table`}</h3>
            <p>{msg`Shows what is piped now at true size on the cookie. Put the window on the projector’s screen.`}</p>
            <a href={`/runs/${runId}/light`} target="_blank" rel="noreferrer" className={`${pick(false)} mt-2`}>
              {msg`Light on the table`}
            </a>
          </section>
        )}
        <Calls settings={settings} onSettings={onSettings} />
        {air && (
          <section aria-label={msg`Air`}>
            <h3 className="text-2xl font-semibold">{msg`The air`}</h3>
            <p>
              {msgNodes`Reckoned with: ${airText(air.air.tempC, air.air.humidityFrac * 100, units)}. `}
              {air.sensor
                ? msg`The sensor${air.sensor.simulated ? msg` (simulated)` : ''} says
                  ${airText(air.sensor.tempC, air.sensor.humidityPct, units)}.`
                : msg`No sensor answers.`}
            </p>
            <button
              type="button"
              className={`${pick(air.follows)} mt-2`}
              aria-pressed={air.follows}
              disabled={!air.sensor}
              onClick={() => air.follow(!air.follows)}
            >
              {air.follows ? msg`follows the sensor` : msg`follow the sensor`}
            </button>
          </section>
        )}
      </div>
    </Sheet>
  );
}
