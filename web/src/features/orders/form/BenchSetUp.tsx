import { margins } from '@kestfog/core/drying';
import type { DesignSummary, OrderInput, SchoolView } from '@kestfog/core/wire';
import { msg, plural, word } from '@kestfog/core/words';
import { useFormContext } from 'react-hook-form';
import type { Units } from '../../../app/units.js';
import { airText } from '../../../text/amounts.js';
import { countWord } from '../../../text/words.js';
import { Field } from '../../../ui/Field.js';
import type { OrderDraft } from '../order-draft.js';
import { AirFields } from './AirFields.js';
import { HandFields } from './HandFields.js';
import { TrayFields } from './TrayFields.js';

interface Props {
  readonly designs: readonly DesignSummary[];
  readonly schools: readonly SchoolView[];
  /** the school it begins with: there before the list has come, or the browser would quietly choose the first */
  readonly first: string;
}

/** What does not change from order to order: trays, hands, air and what dries faster, the way of working. */
export function BenchSetUp({ designs, schools, first }: Props) {
  const { register } = useFormContext<OrderDraft>();
  return (
    <>
      <TrayFields designs={designs} hidden={false} />
      <HandFields hidden={false} />
      <AirFields hidden={false} />
      <fieldset>
        <legend className="text-2xl font-semibold mb-3">{msg`Way of working`}</legend>
        <div className="flex flex-wrap gap-5">
          <Field label={msg`school`}>
            <select className="select select-lg w-56" {...register('school')}>
              {(schools.some((s) => s.id === first) ? schools : [{ id: first, label: first }]).map((s) => (
                <option key={s.id} value={s.id}>
                  {s.label}
                </option>
              ))}
            </select>
          </Field>
          <Field label={msg`margin`}>
            <select className="select select-lg w-56" {...register('margin')}>
              {margins.map((m) => (
                <option key={m} value={m}>
                  {word(m)}
                </option>
              ))}
            </select>
          </Field>
        </div>
        <p className="mt-2 text-base opacity-80">
          {msg`A school is a decorator’s habits: how thick, how long each wait, what is piped when. The margin says how sure a wait is to
            be long enough.`}
        </p>
      </fieldset>
    </>
  );
}

/** A bench in one line: "seven trays, me, two bags, normal margin, 22 °C, 50 %, a fan for one tray" */
export function benchText(
  o: Pick<OrderInput, 'trays' | 'decorators' | 'margin' | 'air' | 'fan' | 'dehydrator' | 'openBags'>,
  school: string,
  units: Units,
): string {
  const trays = (n: number) => `${countWord(n)} ${plural(n, 'tray', 'trays')}`;
  return [
    trays(o.trays.length),
    o.decorators.map((d) => d.id).join(msg` and `),
    school,
    msg`${word(o.margin)} margin`,
    airText(o.air.tempC, o.air.humidityPct, units),
    ...(o.fan ? [msg`a fan for ${trays(o.fan.places)}`] : []),
    ...(o.dehydrator ? [msg`a dehydrator for ${trays(o.dehydrator.places)}`] : []),
    ...(o.openBags === null ? [] : [msg`at most ${countWord(o.openBags)} ${plural(o.openBags, 'bag', 'bags')} open`]),
  ].join(', ');
}
