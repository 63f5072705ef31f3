import { msg } from '@kestfog/core/words';
import { useFormContext } from 'react-hook-form';
import { useClimate } from '../../../api/use-climate.js';
import { useUnits } from '../../../app/units.js';
import { temperature } from '../../../text/amounts.js';
import { Field, within } from '../../../ui/Field.js';
import { msgNodes } from '../../../ui/msg-nodes.js';
import { type OrderDraft, shownTemp } from '../order-draft.js';

/** The air of the room, typed or from the sensor, and what dries faster than it. */
export function AirFields({ hidden }: { readonly hidden: boolean }) {
  const [units] = useUnits();
  const climate = useClimate();
  const { register, formState, watch, setValue } = useFormContext<OrderDraft>();
  const { errors } = formState;
  const hasDehydrator = Number(watch('dehydratorPlaces')) > 0;
  const tempRange = units === 'us' ? { min: 41, max: 113, unit: '°F' } : { min: 5, max: 45, unit: '°C' };
  return (
    <fieldset hidden={hidden}>
      <legend className="text-2xl font-semibold mb-3">{msg`Air`}</legend>
      {climate.reading && (
        <button
          type="button"
          className="btn mb-3"
          onClick={() => {
            setValue('temp', shownTemp(climate.reading?.tempC ?? 0, units), { shouldDirty: true });
            setValue('humidityPct', Math.round(climate.reading?.humidityPct ?? 0), { shouldDirty: true });
          }}
        >
          {msgNodes`take it from the sensor: ${temperature(climate.reading.tempC, units)}, ${Math.round(climate.reading.humidityPct)} %`}
        </button>
      )}
      <div className="flex flex-wrap gap-5 items-start">
        <Field label={msg`temperature, ${tempRange.unit}`} error={errors.temp?.message}>
          <input
            type="number"
            step="any"
            className="input input-lg w-32"
            {...register('temp', within(tempRange.min, tempRange.max, msg`The temperature`))}
          />
        </Field>
        <Field label={msg`humidity, %`} error={errors.humidityPct?.message}>
          <input type="number" step="any" className="input input-lg w-32" {...register('humidityPct', within(1, 100, msg`Humidity`))} />
        </Field>
        <Field label={msg`trays before the fan`} error={errors.fanPlaces?.message}>
          <input type="number" className="input input-lg w-32" {...register('fanPlaces', within(0, 20, msg`The number of trays`))} />
        </Field>
        <Field label={msg`trays in the dehydrator`} error={errors.dehydratorPlaces?.message}>
          <input type="number" className="input input-lg w-32" {...register('dehydratorPlaces', within(0, 20, msg`The number of trays`))} />
        </Field>
        {hasDehydrator && (
          <Field label={msg`set to, ${tempRange.unit}`} error={errors.dehydratorTemp?.message}>
            <input
              type="number"
              step="any"
              className="input input-lg w-32"
              {...register('dehydratorTemp', within(units === 'us' ? 68 : 20, units === 'us' ? 176 : 80, msg`The dehydrator`))}
            />
          </Field>
        )}
      </div>
      {hasDehydrator && (
        <p className="mt-2 text-base opacity-80">
          {msg`Warm air: never leave it running with food forgotten in it, mind burns, and follow its maker and your local code.`}
        </p>
      )}
    </fieldset>
  );
}
