import { airInDehydrator, type FanSetting, fanSettings, setUpSpeedMPerS } from '@kestfog/core/drying';
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@kestfog/core/units';
import type { Kitchen } from '@kestfog/core/wire';
import { useState } from 'react';
import { useKeepKitchen } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { FEET_PER_M, metres, speed, temperature } from '../../text/amounts.js';
import { Choice } from '../../ui/Choice.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { usualOf } from '../orders/order-draft.js';
import { type FromKitchen, setUpChange, taken, toTakeOver } from './taken-over.js';

const tenth = (x: number) => Math.round(x * 10) / 10;

interface Props {
  readonly kitchen: Kitchen;
  /** what orders could count on before, and now */
  readonly onKept: (before: FromKitchen, after: FromKitchen) => void;
}

/** Where the fan stands and how warm the dehydrator is set: what air they make at a tray. */
export function FanSetUp({ kitchen, onKept }: Props) {
  const [units] = useUnits();
  const us = units === 'us';
  const keep = useKeepKitchen();
  const [set, setSet] = useState<{ distance?: string; measured?: string; dehydrator?: string }>({});
  const toC = (v: number) => (us ? celsiusFromFahrenheit(v) : v);
  const perM = us ? FEET_PER_M : 1;
  const distanceText = set.distance ?? (kitchen.fan.distanceM * perM).toFixed(us ? 1 : 2).replace(/\.?0+$/, '');
  const distance = readNumber(distanceText, tenth(0.1 * perM), tenth(20 * perM), 'The distance', us ? 'ft' : 'm');
  const measuredText = set.measured ?? (kitchen.fan.measuredMPerS === null ? '' : String(tenth(kitchen.fan.measuredMPerS * perM)));
  const measured =
    measuredText.trim() === '' ? { value: 0 } : readNumber(measuredText, 0, tenth(5 * perM), 'The speed', us ? 'ft/s' : 'm/s');
  const dehydratorText =
    set.dehydrator ?? (us ? fahrenheitFromCelsius(kitchen.dehydrator.tempC).toFixed(0) : String(kitchen.dehydrator.tempC));
  const dehydrator = us
    ? readNumber(dehydratorText, 68, 176, 'The dehydrator', '°F')
    : readNumber(dehydratorText, 20, 80, 'The dehydrator', '°C');
  const good = 'value' in distance && 'value' in measured && 'value' in dehydrator;
  const measuredMPerS = measuredText.trim() === '' || 'problem' in measured ? null : measured.value / perM;
  // While the distance does not read, what is kept still stands.
  const distanceM = 'value' in distance ? distance.value / perM : kitchen.fan.distanceM;
  const fanMPerS = setUpSpeedMPerS({ ...kitchen.fan, distanceM, measuredMPerS });
  const room = { tempC: kitchen.air.tempC, humidityFrac: kitchen.air.humidityPct / 100, airMPerS: kitchen.air.airMPerS };
  const inDehydrator = 'value' in dehydrator ? airInDehydrator(room, toC(dehydrator.value), kitchen.dehydrator.airMPerS) : null;
  const keepSetUp = (setting: FanSetting = kitchen.fan.setting) => {
    if (!good) return;
    const setUp = {
      fan: { distanceM: distance.value / perM, setting, measuredMPerS },
      dehydrator: { ...kitchen.dehydrator, tempC: toC(dehydrator.value) },
    };
    const { before, after } = setUpChange(kitchen, kitchen, setUp);
    // The usual bench counts on them like any order, unless it was made different on purpose.
    const bench = kitchen.usual && { ...kitchen.usual, air: kitchen.air };
    const usual = bench && usualOf({ ...bench, ...taken(bench, toTakeOver(bench, before, after), after) });
    void keep.mutateAsync({ ...setUp, ...(usual ? { usual } : {}) }).then(
      () => onKept(before, after),
      () => setSet(set),
    );
    // It is shown as kept at once; what is typed after it must not be wiped when the answer comes.
    setSet({});
  };
  return (
    <section id="fan" aria-label="Fan and dehydrator">
      <h2 className="text-2xl font-semibold">Fan and dehydrator</h2>
      <div className="flex flex-wrap items-end gap-4 mt-2">
        <NumberField
          small
          label={us ? 'fan stands off, ft' : 'fan stands off, m'}
          text={distanceText}
          typed={distance}
          onText={(distance) => setSet({ ...set, distance })}
        />
        <Choice
          label="Fan setting"
          value={kitchen.fan.setting}
          options={fanSettings.map((id) => ({ id, label: id }))}
          onChange={keepSetUp}
        />
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
          ? `About ${speed(fanMPerS, units)} at the tray, by the decay of a jet ${metres(distanceM, units)} off (assumed): measure it if you can.`
          : `${speed(fanMPerS, units)} at the tray, as measured.`}{' '}
        {inDehydrator &&
          `In the dehydrator the room’s own vapour makes ${Math.round(inDehydrator.humidityFrac * 100)} % at ${temperature(inDehydrator.tempC, units)}. Warm air only: 35 °C (95 °F) is enough; never leave it or an oven on with food forgotten.`}
      </p>
    </section>
  );
}
