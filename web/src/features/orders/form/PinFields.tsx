import { msg } from '@kestfog/core/words';
import { Plus } from 'lucide-react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { Field, RemoveButton, within } from '../../../ui/Field.js';
import { blankPin, type OrderDraft } from '../order-draft.js';

/** What the user insists on: kept, or shown why it cannot be. */
export function PinFields({ hidden }: { readonly hidden: boolean }) {
  const { register, control, formState, watch, getValues } = useFormContext<OrderDraft>();
  const pins = useFieldArray({ control, name: 'pins' });
  const { errors } = formState;
  const draft = watch();
  return (
    <fieldset hidden={hidden}>
      <legend className="text-2xl font-semibold mb-3">{msg`What you insist on`}</legend>
      {pins.fields.length === 0 && (
        <p className="text-lg opacity-80">
          {msg`Nothing. Lunch, a telephone call, a tray that must be first, three minutes in the dehydrator after a round: what you say
            here is kept, or this page says why it cannot be.`}
        </p>
      )}
      <ul className="grid gap-3">
        {pins.fields.map((f, i) => (
          <li key={f.id} className="flex flex-wrap items-end gap-3">
            <Field label={msg`what`}>
              <select className="select select-lg w-64" {...register(`pins.${i}.kind`)}>
                <option value="away">{msg`nobody at the bench`}</option>
                <option value="tray-first">{msg`this tray first`}</option>
                <option value="not-before">{msg`not before`}</option>
                <option value="stay">{msg`a round goes to dry`}</option>
              </select>
            </Field>
            {draft.pins[i]?.kind === 'away' ? (
              <>
                <Field label={msg`why`}>
                  <input className="input input-lg w-40" {...register(`pins.${i}.label`, { maxLength: 60 })} />
                </Field>
                <Field label={msg`from`} error={errors.pins?.[i]?.from?.message}>
                  <input
                    type="datetime-local"
                    className="input input-lg"
                    {...register(`pins.${i}.from`, { validate: (v, all) => all.pins[i]?.kind !== 'away' || v !== '' || msg`From when?` })}
                  />
                </Field>
                <Field label={msg`to`} error={errors.pins?.[i]?.to?.message}>
                  <input
                    type="datetime-local"
                    className="input input-lg"
                    {...register(`pins.${i}.to`, {
                      validate: (v, all) =>
                        all.pins[i]?.kind !== 'away' || (v !== '' && v > (all.pins[i]?.from ?? '')) || msg`It must end after it begins.`,
                    })}
                  />
                </Field>
                {draft.decorators.length > 1 && (
                  <Field label={msg`who`}>
                    <select className="select select-lg w-40" {...register(`pins.${i}.who`)}>
                      <option value="">{msg`everyone`}</option>
                      {draft.decorators.map((d) => (
                        <option key={d.id} value={d.id}>
                          {d.id}
                        </option>
                      ))}
                    </select>
                  </Field>
                )}
              </>
            ) : (
              <>
                <Field label={msg`tray`} error={errors.pins?.[i]?.tray?.message}>
                  <select
                    className="select select-lg w-28"
                    {...register(`pins.${i}.tray`, {
                      validate: (v, all) => all.pins[i]?.kind === 'away' || all.trays.some((t) => t.id === v) || msg`Choose a tray.`,
                    })}
                  >
                    {draft.trays.map((t) => (
                      <option key={t.id} value={t.id}>
                        {t.id}
                      </option>
                    ))}
                  </select>
                </Field>
                {draft.pins[i]?.kind === 'stay' && (
                  <>
                    <Field label={msg`after its round`} error={errors.pins?.[i]?.round?.message}>
                      <input
                        type="number"
                        className="input input-lg w-24"
                        {...register(`pins.${i}.round`, within(1, 40, msg`The round`))}
                      />
                    </Field>
                    <Field label={msg`where`}>
                      <select className="select select-lg w-52" {...register(`pins.${i}.where`)}>
                        <option value="dehydrator">{msg`into the dehydrator`}</option>
                        <option value="fan">{msg`before the fan`}</option>
                      </select>
                    </Field>
                    <Field label={msg`minutes`} error={errors.pins?.[i]?.minutes?.message}>
                      <input
                        type="number"
                        className="input input-lg w-24"
                        {...register(`pins.${i}.minutes`, within(1, 240, msg`The minutes`))}
                      />
                    </Field>
                  </>
                )}
                {draft.pins[i]?.kind === 'not-before' && (
                  <Field label={msg`not before`} error={errors.pins?.[i]?.at?.message}>
                    <input
                      type="datetime-local"
                      className="input input-lg"
                      {...register(`pins.${i}.at`, {
                        validate: (v, all) => all.pins[i]?.kind !== 'not-before' || v !== '' || msg`Not before when?`,
                      })}
                    />
                  </Field>
                )}
              </>
            )}
            <RemoveButton label={msg`Remove what you insist on, ${i + 1}`} disabled={false} onClick={() => pins.remove(i)} />
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn mt-3"
        onClick={() => pins.append(blankPin(getValues('openingHours.0.from'), getValues('trays.0.id')))}
      >
        <Plus aria-hidden size={18} />
        {msg` something to insist on`}
      </button>
    </fieldset>
  );
}
