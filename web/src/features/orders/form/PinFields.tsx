import { Plus } from 'lucide-react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { blankPin, type OrderDraft } from '../order-draft.js';
import { Field, RemoveButton, within } from './Field.js';

/** What the user insists on: kept, or shown why it cannot be. */
export function PinFields({ hidden }: { readonly hidden: boolean }) {
  const { register, control, formState, watch, getValues } = useFormContext<OrderDraft>();
  const pins = useFieldArray({ control, name: 'pins' });
  const { errors } = formState;
  const draft = watch();
  return (
    <fieldset hidden={hidden}>
      <legend className="text-2xl font-semibold mb-3">What you insist on</legend>
      {pins.fields.length === 0 && (
        <p className="text-lg opacity-80">
          Nothing. Lunch, a telephone call, a tray that must be first, three minutes in the dehydrator after a round: what you say here is
          kept, or this page says why it cannot be.
        </p>
      )}
      <ul className="grid gap-3">
        {pins.fields.map((f, i) => (
          <li key={f.id} className="flex flex-wrap items-end gap-3">
            <Field label="what">
              <select className="select select-lg w-64" {...register(`pins.${i}.kind`)}>
                <option value="away">nobody at the bench</option>
                <option value="tray-first">this tray first</option>
                <option value="not-before">not before</option>
                <option value="stay">a round goes to dry</option>
              </select>
            </Field>
            {draft.pins[i]?.kind === 'away' ? (
              <>
                <Field label="why">
                  <input className="input input-lg w-40" {...register(`pins.${i}.label`, { maxLength: 60 })} />
                </Field>
                <Field label="from" error={errors.pins?.[i]?.from?.message}>
                  <input
                    type="datetime-local"
                    className="input input-lg"
                    {...register(`pins.${i}.from`, { validate: (v, all) => all.pins[i]?.kind !== 'away' || v !== '' || 'From when?' })}
                  />
                </Field>
                <Field label="to" error={errors.pins?.[i]?.to?.message}>
                  <input
                    type="datetime-local"
                    className="input input-lg"
                    {...register(`pins.${i}.to`, {
                      validate: (v, all) =>
                        all.pins[i]?.kind !== 'away' || (v !== '' && v > (all.pins[i]?.from ?? '')) || 'It must end after it begins.',
                    })}
                  />
                </Field>
                {draft.decorators.length > 1 && (
                  <Field label="who">
                    <select className="select select-lg w-40" {...register(`pins.${i}.who`)}>
                      <option value="">everyone</option>
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
                <Field label="tray" error={errors.pins?.[i]?.tray?.message}>
                  <select
                    className="select select-lg w-28"
                    {...register(`pins.${i}.tray`, {
                      validate: (v, all) => all.pins[i]?.kind === 'away' || all.trays.some((t) => t.id === v) || 'Choose a tray.',
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
                    <Field label="after its round" error={errors.pins?.[i]?.round?.message}>
                      <input type="number" className="input input-lg w-24" {...register(`pins.${i}.round`, within(1, 40, 'The round'))} />
                    </Field>
                    <Field label="where">
                      <select className="select select-lg w-52" {...register(`pins.${i}.where`)}>
                        <option value="dehydrator">into the dehydrator</option>
                        <option value="fan">before the fan</option>
                      </select>
                    </Field>
                    <Field label="minutes" error={errors.pins?.[i]?.minutes?.message}>
                      <input
                        type="number"
                        className="input input-lg w-24"
                        {...register(`pins.${i}.minutes`, within(1, 240, 'The minutes'))}
                      />
                    </Field>
                  </>
                )}
                {draft.pins[i]?.kind === 'not-before' && (
                  <Field label="not before" error={errors.pins?.[i]?.at?.message}>
                    <input
                      type="datetime-local"
                      className="input input-lg"
                      {...register(`pins.${i}.at`, {
                        validate: (v, all) => all.pins[i]?.kind !== 'not-before' || v !== '' || 'Not before when?',
                      })}
                    />
                  </Field>
                )}
              </>
            )}
            <RemoveButton label={`Remove what you insist on, ${i + 1}`} disabled={false} onClick={() => pins.remove(i)} />
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn mt-3"
        onClick={() => pins.append(blankPin(getValues('openingHours.0.from'), getValues('trays.0.id')))}
      >
        <Plus aria-hidden size={18} /> something to insist on
      </button>
    </fieldset>
  );
}
