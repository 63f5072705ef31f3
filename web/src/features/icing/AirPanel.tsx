import { type ClimateScenario, climateScenarios, type OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Link } from 'react-router';
import { useKitchen, usePlayClimate } from '../../api/queries.js';
import { useClimate } from '../../api/use-climate.js';
import type { Units } from '../../app/units.js';
import { speed, temperature } from '../../text/amounts.js';
import { Choice } from '../../ui/Choice.js';
import { Field } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { celsiusIn, warmthText, warmthTurned } from '../../ui/typed-measures.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';
import { orderFanMPerS } from '../orders/order-draft.js';

const SCENARIO: Readonly<Record<ClimateScenario, string>> = {
  steady: msg`steady`,
  'rainy-evening': msg`rainy evening`,
  'oven-on': msg`oven on`,
};

interface Fields {
  readonly temp: string;
  readonly humidity: string;
}
const fieldsOf = ({ air }: OrderView, units: Units): Fields => ({
  temp: warmthText(air.tempC, units),
  humidity: String(air.humidityPct),
});
const turned = (typed: Fields, from: Units, to: Units): Fields => ({ ...typed, temp: warmthTurned(typed.temp, from, to) });

interface Props {
  readonly order: OrderView;
  readonly saving: boolean;
  readonly failure: string | null;
  readonly onAir: (air: OrderView['air'], fan: OrderView['fan']) => void;
}

/** The air the order dries in: read off the sensor or typed. */
export function AirPanel({ order, saving, failure, onAir }: Props) {
  const { form, units } = useKeptForm<Fields>({ name: `order.${order.id}.air`, begin: (u) => fieldsOf(order, u), turned });
  const { errors, isValid } = form.formState;
  const us = units === 'us';
  const { reading, lost } = useClimate();
  const play = usePlayClimate();
  const kitchen = useKitchen().data;
  if (!kitchen) return null;
  const isChanged = JSON.stringify(form.watch()) !== JSON.stringify(fieldsOf(order, units));
  const tenth = (x: number) => Math.round(x * 10) / 10;

  const fanMPerS = orderFanMPerS(kitchen);
  const fanOfOrder = order.fan && Math.abs(order.fan.airMPerS - fanMPerS) > 0.05;
  return (
    <section aria-label={msg`Air`}>
      <h2 className="text-2xl font-semibold">{msg`The air`}</h2>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 mt-2">
        <output aria-label={msg`climate sensor`} className="clock text-4xl font-semibold">
          {reading ? `${temperature(reading.tempC, units)}  ${reading.humidityPct.toFixed(0)} %` : '–'}
        </output>
        <button
          type="button"
          className="btn btn-lg"
          disabled={!reading || saving}
          onClick={() =>
            reading && onAir({ ...order.air, tempC: tenth(reading.tempC), humidityPct: Math.round(reading.humidityPct) }, order.fan)
          }
        >
          {msg`Plan with this air`}
        </button>
        {lost && <span className="text-error font-medium">{msg`The sensor does not answer; the last reading stands.`}</span>}
      </div>
      <div className="flex flex-wrap items-center gap-2 mt-2">
        <span className="text-base">{msg`simulated sensor plays`}</span>
        <Choice<ClimateScenario | ''>
          label={msg`What the simulated sensor plays`}
          value={reading?.simulated?.scenario ?? ''}
          options={climateScenarios.map((id) => ({ id, label: SCENARIO[id] }))}
          onChange={(s) => s !== '' && play.mutate(s)}
        />
      </div>
      <form
        className="flex flex-wrap items-start gap-4 mt-4"
        noValidate
        onSubmit={form.handleSubmit((now) =>
          onAir({ ...order.air, tempC: tenth(celsiusIn(now.temp, units)), humidityPct: numberIn(now.humidity) }, order.fan),
        )}
      >
        <Field label={us ? msg`typed, °F` : msg`typed, °C`} error={errors.temp?.message}>
          <NumberInput
            large
            isWrong={!!errors.temp}
            {...form.register('temp', us ? aNumber(41, 113, msg`The temperature`, '°F') : aNumber(5, 45, msg`The temperature`, '°C'))}
          />
        </Field>
        <Field label={msg`humidity, %`} error={errors.humidity?.message}>
          <NumberInput large isWrong={!!errors.humidity} {...form.register('humidity', aNumber(1, 100, msg`The humidity`, '%'))} />
        </Field>
        {isChanged && (
          <button type="submit" className="btn btn-lg mt-8" disabled={!isValid || saving}>
            {msg`Plan with what I typed`}
          </button>
        )}
      </form>
      {failure && (
        <p role="alert" className="text-error font-medium mt-2">
          {failure}
        </p>
      )}

      <p className="text-lg mt-4">
        {msgNodes`The fan blows ${speed(fanMPerS, units)} at the tray, the dehydrator is set to
          ${temperature(kitchen.dehydrator.tempC, units)}: `}
        <Link to="/kitchen#fan" className="link">
          {msg`said in the kitchen`}
        </Link>
        .
      </p>
      {fanOfOrder && order.fan && (
        <button
          type="button"
          className="btn mt-2"
          disabled={saving}
          onClick={() => onAir(order.air, { places: order.fan?.places ?? 1, airMPerS: fanMPerS })}
        >
          {msgNodes`Plan with this fan (the order counts on ${speed(order.fan.airMPerS, units)})`}
        </button>
      )}
    </section>
  );
}
