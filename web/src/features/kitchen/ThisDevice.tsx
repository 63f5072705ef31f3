import { msg } from '@kestfog/core/words';
import { setClock, useClockHours } from '../../app/clock.js';
import { setLetters, useLetters } from '../../app/keys.js';
import { useUnits } from '../../app/units.js';
import { Choice } from '../../ui/Choice.js';
import { useBenchSettings } from '../bench/bench-settings.js';
import { Calls } from '../bench/Calls.js';

/** What is shown and called on this device only: units, clock, keys, sounds and words. */
export function ThisDevice() {
  const [units, setUnits] = useUnits();
  const hours = useClockHours();
  const letters = useLetters();
  const [settings, setSettings] = useBenchSettings();
  return (
    <section id="device" aria-label={msg`This device`} className="grid gap-4 text-lg">
      <h2 className="text-2xl font-semibold">{msg`This device`}</h2>
      <Choice
        label={msg`Units`}
        value={units}
        options={[
          { id: 'metric', label: msg`grams, mm, °C` },
          { id: 'us', label: msg`cups, inches, °F` },
        ]}
        onChange={setUnits}
      />
      <Choice
        label={msg`Clock`}
        value={String(hours)}
        options={[
          { id: '24', label: '14:35' },
          { id: '12', label: msg`2:35 pm` },
        ]}
        onChange={(h) => setClock(h === '12' ? 12 : 24)}
      />
      <label className="flex items-center gap-3 min-h-11">
        <input type="checkbox" className="toggle" checked={letters} onChange={(e) => setLetters(e.target.checked)} />
        {msg`single letters are keys (? lists them)`}
      </label>
      <Calls settings={settings} onSettings={setSettings} />
    </section>
  );
}
