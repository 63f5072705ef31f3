import { airInDehydrator, type FanSetting, fanSettings, fanSpeedMPerS } from '@kestfog/core/drying';
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@kestfog/core/units';
import { type ClimateScenario, climateScenarios, type OrderView } from '@kestfog/core/wire';
import { useState } from 'react';
import { useKeepKitchen, useKitchen, usePlayClimate } from '../../api/queries.js';
import { useClimate } from '../../api/use-climate.js';
import { useUnits } from '../../app/units.js';
import { FEET_PER_M, metres, speed, temperature } from '../../text/amounts.js';
import { Choice } from '../../ui/Choice.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';

const SCENARIO: Readonly<Record<ClimateScenario, string>> = { steady: 'steady', 'rainy-evening': 'rainy evening', 'oven-on': 'oven on' };

interface Props {
  readonly order: OrderView;
  readonly saving: boolean;
  readonly failure: string | null;
  readonly onAir: (air: OrderView['air'], fan: OrderView['fan']) => void;
}

/** The air the order dries in: read off the sensor or typed, with what helps it along. */
export function AirPanel({ order, saving, failure, onAir }: Props) {
  const [units] = useUnits();
  const us = units === 'us';
  const { reading, lost } = useClimate();
  const play = usePlayClimate();
  const kitchen = useKitchen().data;
  const keep = useKeepKitchen();
  const [typed, setTyped] = useState<{ temp: string; humidity: string } | null>(null);
  const [set, setSet] = useState<{ distance?: string; measured?: string; dehydrator?: string }>({});
  if (!kitchen) return null;
  const tempText = typed?.temp ?? (us ? fahrenheitFromCelsius(order.air.tempC).toFixed(0) : String(order.air.tempC));
  const humidityText = typed?.humidity ?? String(order.air.humidityPct);
  const temp = us ? readNumber(tempText, 41, 113, 'The temperature', '°F') : readNumber(tempText, 5, 45, 'The temperature', '°C');
  const humidity = readNumber(humidityText, 1, 100, 'The humidity', '%');
  const toC = (v: number) => (us ? celsiusFromFahrenheit(v) : v);
  const tenth = (x: number) => Math.round(x * 10) / 10;

  const perM = us ? FEET_PER_M : 1;
  const distanceText = set.distance ?? (kitchen.fan.distanceM * perM).toFixed(us ? 1 : 2).replace(/\.?0+$/, '');
  const distance = readNumber(distanceText, tenth(0.1 * perM), tenth(20 * perM), 'The distance', us ? 'ft' : 'm');
  const measuredText = set.measured ?? (kitchen.fan.measuredMPerS === null ? '' : String(tenth(kitchen.fan.measuredMPerS * perM)));
  const measured = measuredText.trim() === '' ? { value: 0 } : readNumber(measuredText, 0, tenth(5 * perM), 'The speed', us ? 'ft/s' : 'm/s');
  const dehydratorText = set.dehydrator ?? (us ? fahrenheitFromCelsius(kitchen.dehydrator.tempC).toFixed(0) : String(kitchen.dehydrator.tempC));
  const dehydrator = us ? readNumber(dehydratorText, 68, 176, 'The dehydrator', '°F') : readNumber(dehydratorText, 20, 80, 'The dehydrator', '°C');
  const good = 'value' in distance && 'value' in measured && 'value' in dehydrator;
  const measuredMPerS = measuredText.trim() === '' || 'problem' in measured ? null : measured.value / perM;
  const fanMPerS = measuredMPerS ?? ('value' in distance ? fanSpeedMPerS(distance.value / perM, kitchen.fan.setting) : kitchen.fan.distanceM);
  const room = { tempC: order.air.tempC, humidityFrac: order.air.humidityPct / 100, airMPerS: order.air.airMPerS };
  const inDehydrator = 'value' in dehydrator ? airInDehydrator(room, toC(dehydrator.value), kitchen.dehydrator.airMPerS) : null;
  const keepSetUp = (setting: FanSetting = kitchen.fan.setting) => {
    if (!good) return;
    keep.mutate(
      {
        fan: { distanceM: distance.value / perM, setting, measuredMPerS },
        dehydrator: { ...kitchen.dehydrator, tempC: toC(dehydrator.value) },
      },
      { onError: () => setSet(set) },
    );
    // It is shown as kept at once; what is typed after it must not be wiped when the answer comes.
    setSet({});
  };
  const fanOfOrder = order.fan && Math.abs(order.fan.airMPerS - fanMPerS) > 0.05;
  return (
    <section aria-label="Air">
      <h2 className="text-2xl font-semibold">The air</h2>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 mt-2">
        <output aria-label="climate sensor" className="clock text-4xl font-semibold">
          {reading ? `${temperature(reading.tempC, units)}  ${reading.humidityPct.toFixed(0)} %` : '–'}
        </output>
        <button
          type="button"
          className="btn btn-lg"
          disabled={!reading || saving}
          onClick={() => reading && onAir({ ...order.air, tempC: tenth(reading.tempC), humidityPct: Math.round(reading.humidityPct) }, order.fan)}
        >
          Plan with this air
        </button>
        {lost && <span className="text-error font-medium">The sensor does not answer; the last reading stands.</span>}
      </div>
      <div className="flex flex-wrap items-center gap-2 mt-2">
        <span className="text-base">simulated sensor plays</span>
        <Choice<ClimateScenario | ''>
          label="What the simulated sensor plays"
          value={reading?.simulated?.scenario ?? ''}
          options={climateScenarios.map((id) => ({ id, label: SCENARIO[id] }))}
          onChange={(s) => s !== '' && play.mutate(s)}
        />
      </div>
      <div className="flex flex-wrap items-end gap-4 mt-4">
        <NumberField label={us ? 'typed, °F' : 'typed, °C'} text={tempText} typed={temp} onText={(t) => setTyped({ temp: t, humidity: humidityText })} />
        <NumberField label="humidity, %" text={humidityText} typed={humidity} onText={(t) => setTyped({ temp: tempText, humidity: t })} />
        {typed && (
          <button
            type="button"
            className="btn btn-lg"
            disabled={!('value' in temp) || !('value' in humidity) || saving}
            onClick={() => {
              if (!('value' in temp) || !('value' in humidity)) return;
              onAir({ ...order.air, tempC: tenth(toC(temp.value)), humidityPct: humidity.value }, order.fan);
              setTyped(null);
            }}
          >
            Plan with what I typed
          </button>
        )}
      </div>
      {failure && (
        <p role="alert" className="text-error font-medium mt-2">
          {failure}
        </p>
      )}

      <h3 className="text-xl font-semibold mt-6">Fan and dehydrator</h3>
      <div className="flex flex-wrap items-end gap-4 mt-2">
        <NumberField
          small
          label={us ? 'fan stands off, ft' : 'fan stands off, m'}
          text={distanceText}
          typed={distance}
          onText={(distance) => setSet({ ...set, distance })}
        />
        <Choice label="Fan setting" value={kitchen.fan.setting} options={fanSettings.map((id) => ({ id, label: id }))} onChange={keepSetUp} />
        <NumberField
          small
          label={us ? 'or measured, ft/s' : 'or measured, m/s'}
          text={measuredText}
          typed={measured}
          onText={(measured) => setSet({ ...set, measured })}
        />
        <NumberField
          small
          label={us ? 'dehydrator, °F' : 'dehydrator, °C'}
          text={dehydratorText}
          typed={dehydrator}
          onText={(dehydrator) => setSet({ ...set, dehydrator })}
        />
        {Object.keys(set).length > 0 && (
          <button type="button" className="btn" disabled={!good || keep.isPending} onClick={() => keepSetUp()}>
            Keep
          </button>
        )}
      </div>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
      <p className="mt-2 text-base opacity-85">
        {measuredMPerS === null
          ? `About ${speed(fanMPerS, units)} at the tray, by the decay of a jet ${'value' in distance ? metres(distance.value / perM, units) : ''} off (assumed): measure it if you can.`
          : `${speed(fanMPerS, units)} at the tray, as measured.`}{' '}
        {inDehydrator &&
          `In the dehydrator the room’s own vapour makes ${Math.round(inDehydrator.humidityFrac * 100)} % at ${temperature(inDehydrator.tempC, units)}. Warm air only: 35 °C (95 °F) is enough; never leave it or an oven on with food forgotten.`}
      </p>
      {fanOfOrder && order.fan && (
        <button
          type="button"
          className="btn mt-2"
          disabled={saving}
          onClick={() => onAir(order.air, { places: order.fan?.places ?? 1, airMPerS: tenth(fanMPerS) })}
        >
          Plan with this fan (the order counts on {speed(order.fan.airMPerS, units)})
        </button>
      )}
    </section>
  );
}
