import { msg } from '@kestfog/core/words';
import { Plus } from 'lucide-react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { useKitchen } from '../../../api/queries.js';
import { useServerNowMs } from '../../../api/use-server-now.js';
import { Field, RemoveButton } from '../../../ui/Field.js';
import { localTime, nextOpening, type OrderDraft } from '../order-draft.js';

/** When someone is at the bench, and when all is packed; a guest has only the latter of its own. */
export function BenchFields({ sharing }: { readonly sharing: boolean }) {
  const { register, control, formState, getValues } = useFormContext<OrderDraft>();
  const hours = useFieldArray({ control, name: 'openingHours' });
  const { errors } = formState;
  const nowMs = useServerNowMs();
  const week = useKitchen().data?.week;
  // The next day of the usual week after the last one here; where nothing is usual, it is typed.
  const another = () => {
    const last = Math.max(...getValues('openingHours').map((h) => Date.parse(h.from)));
    const next = week && Number.isFinite(last) ? nextOpening(week, last) : null;
    return next ? { from: localTime(next.from), to: localTime(next.to) } : { from: '', to: '' };
  };
  const isPast = (local: string) => nowMs !== null && Date.parse(local) <= nowMs;
  // A guest is worked in the hours of its host.
  const isGuest = (all: OrderDraft) => all.hostId !== '';
  const whyNot = (to: string, from: string): string | null => {
    if (to === '') return msg`When does it close?`;
    if (to <= from) return msg`It must close after it opens.`;
    return isPast(to) ? msg`These hours are past.` : null;
  };
  return (
    <fieldset>
      <legend className="text-2xl font-semibold mb-3">{sharing ? msg`Due` : msg`At the bench`}</legend>
      <div hidden={sharing}>
        <ul className="grid gap-3">
          {hours.fields.map((f, i) => (
            <li key={f.id} className="flex flex-wrap items-end gap-3">
              <Field label={msg`from`} error={errors.openingHours?.[i]?.from?.message}>
                <input
                  type="datetime-local"
                  className="input input-lg"
                  {...register(`openingHours.${i}.from`, { validate: (v, all) => isGuest(all) || v !== '' || msg`When does it open?` })}
                />
              </Field>
              <Field label={msg`to`} error={errors.openingHours?.[i]?.to?.message}>
                <input
                  type="datetime-local"
                  className="input input-lg"
                  {...register(`openingHours.${i}.to`, {
                    validate: (v, all) => isGuest(all) || whyNot(v, all.openingHours[i]?.from ?? '') || true,
                  })}
                />
              </Field>
              <RemoveButton label={msg`Remove opening ${i + 1}`} disabled={hours.fields.length === 1} onClick={() => hours.remove(i)} />
            </li>
          ))}
        </ul>
        <button type="button" className="btn mt-3" onClick={() => hours.append(another())}>
          <Plus aria-hidden size={18} />
          {msg` another opening`}
        </button>
      </div>
      <div className="mt-5">
        <Field label={msg`Packed by`} error={errors.packBy?.message}>
          <input
            type="datetime-local"
            className="input input-lg"
            {...register('packBy', { required: msg`When must it be packed?`, validate: (v) => !isPast(v) || msg`That time is past.` })}
          />
        </Field>
      </div>
    </fieldset>
  );
}
