import { Plus } from 'lucide-react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import type { OrderDraft } from '../order-draft.js';
import { Field, RemoveButton } from './Field.js';

/** When someone is at the bench, and when all is packed; a guest has only the latter of its own. */
export function BenchFields({ sharing }: { readonly sharing: boolean }) {
  const { register, control, formState } = useFormContext<OrderDraft>();
  const hours = useFieldArray({ control, name: 'openingHours' });
  const { errors } = formState;
  return (
    <fieldset>
      <legend className="text-2xl font-semibold mb-3">{sharing ? 'Due' : 'At the bench'}</legend>
      <div hidden={sharing}>
        <ul className="grid gap-3">
          {hours.fields.map((f, i) => (
            <li key={f.id} className="flex flex-wrap items-end gap-3">
              <Field label="from" error={errors.openingHours?.[i]?.from?.message}>
                <input type="datetime-local" className="input input-lg" {...register(`openingHours.${i}.from`, { required: 'When does it open?' })} />
              </Field>
              <Field label="to" error={errors.openingHours?.[i]?.to?.message}>
                <input
                  type="datetime-local"
                  className="input input-lg"
                  {...register(`openingHours.${i}.to`, {
                    required: 'When does it close?',
                    validate: (v, all) => v > (all.openingHours[i]?.from ?? '') || 'It must close after it opens.',
                  })}
                />
              </Field>
              <RemoveButton label={`Remove opening ${i + 1}`} disabled={hours.fields.length === 1} onClick={() => hours.remove(i)} />
            </li>
          ))}
        </ul>
        <button type="button" className="btn mt-3" onClick={() => hours.append({ from: '', to: '' })}>
          <Plus aria-hidden size={18} /> another opening
        </button>
      </div>
      <div className="mt-5">
        <Field label="Packed by" error={errors.packBy?.message}>
          <input type="datetime-local" className="input input-lg" {...register('packBy', { required: 'When must it be packed?' })} />
        </Field>
      </div>
    </fieldset>
  );
}
