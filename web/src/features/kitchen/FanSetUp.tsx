import { airInDehydrator, type FanSetting, fanSettings, setUpSpeedMPerS } from '@kestfog/core/drying';
import type { Kitchen } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { useKeepKitchen } from '../../api/queries.js';
import type { Units } from '../../app/units.js';
import { FEET_PER_M, metres, speed, temperature } from '../../text/amounts.js';
import { Choice } from '../../ui/Choice.js';
import { Field } from '../../ui/Field.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { celsiusIn, turnedBy, warmthText, warmthTurned } from '../../ui/typed-measures.js';
import { aNumber, aNumberOrNone, useKeptForm } from '../../ui/use-kept-form.js';
import { usualOf } from '../orders/order-draft.js';
import { type FromKitchen, setUpChange, taken, toTakeOver } from './taken-over.js';

const tenth = (x: number) => Math.round(x * 10) / 10;
/** As typed, in the user's units; measured: empty where nobody did. */
interface Fields {
  distance: string;
  measured: string;
  dehydrator: string;
}
const perM = (units: Units) => (units === 'us' ? FEET_PER_M : 1);
const distanceText = (m: number, units: Units) => (m * perM(units)).toFixed(units === 'us' ? 1 : 2).replace(/\.?0+$/, '');
const speedText = (mPerS: number, units: Units) => String(tenth(mPerS * perM(units)));
const fieldsOf = ({ fan, dehydrator }: Pick<Kitchen, 'fan' | 'dehydrator'>, units: Units): Fields => ({
  distance: distanceText(fan.distanceM, units),
  measured: fan.measuredMPerS === null ? '' : speedText(fan.measuredMPerS, units),
  dehydrator: warmthText(dehydrator.tempC, units),
});
const turned = (typed: Fields, from: Units, to: Units): Fields => ({
  distance: turnedBy(typed.distance, (t) => distanceText(numberIn(t) / perM(from), to)),
  measured: turnedBy(typed.measured, (t) => speedText(numberIn(t) / perM(from), to)),
  dehydrator: warmthTurned(typed.dehydrator, from, to),
});

interface Props {
  readonly kitchen: Kitchen;
  /** what orders could count on before, and now */
  readonly onKept: (before: FromKitchen, after: FromKitchen) => void;
}

/** Where the fan stands and how warm the dehydrator is set: what air they make at a tray. */
export function FanSetUp({ kitchen, onKept }: Props) {
  const keep = useKeepKitchen();
  const { form, units } = useKeptForm<Fields>({ name: 'kitchen.fan', begin: (u) => fieldsOf(kitchen, u), turned });
  const { register, watch, handleSubmit, formState } = form;
  const { errors, isValid } = formState;
  const typed = watch();
  const us = units === 'us';
  const changed = JSON.stringify(typed) !== JSON.stringify(fieldsOf(kitchen, units));
  const per = perM(units);
  const measured = numberIn(typed.measured) / per;
  const measuredMPerS = errors.measured || !Number.isFinite(measured) ? null : measured;
  // While the distance does not read, what is kept still stands.
  const farM = numberIn(typed.distance) / per;
  const distanceM = errors.distance || !(farM > 0) ? kitchen.fan.distanceM : farM;
  const fanMPerS = setUpSpeedMPerS({ ...kitchen.fan, distanceM, measuredMPerS });
  const room = { tempC: kitchen.air.tempC, humidityFrac: kitchen.air.humidityPct / 100, airMPerS: kitchen.air.airMPerS };
  const warmC = celsiusIn(typed.dehydrator, units);
  const inDehydrator = errors.dehydrator || !Number.isFinite(warmC) ? null : airInDehydrator(room, warmC, kitchen.dehydrator.airMPerS);
  const keepSetUp = (now: Fields, setting: FanSetting) => {
    const setUp = {
      fan: {
        distanceM: numberIn(now.distance) / per,
        setting,
        measuredMPerS: now.measured.trim() === '' ? null : numberIn(now.measured) / per,
      },
      dehydrator: { ...kitchen.dehydrator, tempC: celsiusIn(now.dehydrator, units) },
    };
    const { before, after } = setUpChange(kitchen, kitchen, setUp);
    // The usual bench counts on them like any order, unless it was made different on purpose.
    const bench = kitchen.usual && { ...kitchen.usual, air: kitchen.air };
    const usual = bench && usualOf({ ...bench, ...taken(bench, toTakeOver(bench, before, after), after) });
    void keep.mutateAsync({ ...setUp, ...(usual ? { usual } : {}) }).then(
      () => onKept(before, after),
      // The form says why, and still has what was typed.
      () => undefined,
    );
  };
  return (
    <section id="fan" aria-label={msg`Fan and dehydrator`}>
      <h2 className="text-2xl font-semibold">{msg`Fan and dehydrator`}</h2>
      <form
        className="flex flex-wrap items-start gap-4 mt-2"
        noValidate
        onSubmit={handleSubmit((now) => keepSetUp(now, kitchen.fan.setting))}
      >
        <Field label={us ? msg`fan stands off, ft` : msg`fan stands off, m`} error={errors.distance?.message}>
          <NumberInput
            isWrong={!!errors.distance}
            {...register('distance', aNumber(tenth(0.1 * per), tenth(20 * per), msg`The distance`, us ? 'ft' : 'm'))}
          />
        </Field>
        <div className="pt-8">
          <Choice
            label={msg`Fan setting`}
            value={kitchen.fan.setting}
            options={fanSettings.map((id) => ({ id, label: word(id) }))}
            onChange={(setting) => void handleSubmit((now) => keepSetUp(now, setting))()}
          />
        </div>
        <Field label={us ? msg`or measured, ft/s` : msg`or measured, m/s`} error={errors.measured?.message}>
          <NumberInput
            isWrong={!!errors.measured}
            {...register('measured', aNumberOrNone(0, tenth(5 * per), msg`The speed`, us ? 'ft/s' : 'm/s'))}
          />
        </Field>
        <Field label={us ? msg`dehydrator, °F` : msg`dehydrator, °C`} error={errors.dehydrator?.message}>
          <NumberInput
            isWrong={!!errors.dehydrator}
            {...register('dehydrator', us ? aNumber(68, 176, msg`The dehydrator`, '°F') : aNumber(20, 80, msg`The dehydrator`, '°C'))}
          />
        </Field>
        {changed && (
          <button type="submit" className="btn mt-8" disabled={!isValid || keep.isPending}>
            {msg`Keep`}
          </button>
        )}
      </form>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
      <p className="mt-2 text-base opacity-85">
        {measuredMPerS === null
          ? msg`About ${speed(fanMPerS, units)} at the tray, by the decay of a jet ${metres(distanceM, units)} off (assumed): measure it
            if you can.`
          : msg`${speed(fanMPerS, units)} at the tray, as measured.`}{' '}
        {inDehydrator &&
          msg`In the dehydrator the room’s own vapour makes ${Math.round(inDehydrator.humidityFrac * 100)} % at
            ${temperature(inDehydrator.tempC, units)}. Warm air only: 35 °C (95 °F) is enough; never leave it or an oven on with food
              forgotten.`}
      </p>
    </section>
  );
}
