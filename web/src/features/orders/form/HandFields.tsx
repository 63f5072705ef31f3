import { MOST_DECORATORS } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { Plus } from 'lucide-react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { Field, RemoveButton, within } from '../../../ui/Field.js';
import type { OrderDraft } from '../order-draft.js';

/** Who decorates and how fast, and how many bags they keep open. */
export function HandFields({ hidden }: { readonly hidden: boolean }) {
  const { register, control, formState, watch } = useFormContext<OrderDraft>();
  const decorators = useFieldArray({ control, name: 'decorators' });
  const { errors } = formState;
  const names = watch('decorators');
  return (
    <fieldset hidden={hidden}>
      <legend className="text-2xl font-semibold mb-3">{msg`Hands`}</legend>
      <ul className="grid gap-3">
        {decorators.fields.map((f, i) => (
          <li key={f.id} className="flex flex-wrap items-end gap-3">
            <Field label={msg`who`} error={errors.decorators?.[i]?.id?.message}>
              <input
                className="input input-lg w-56"
                {...register(`decorators.${i}.id`, {
                  required: msg`Name them.`,
                  maxLength: { value: 40, message: msg`Shorter.` },
                  validate: (v, all) => all.decorators.filter((d) => d.id === v).length === 1 || msg`Twice.`,
                })}
              />
            </Field>
            <Field label={msg`pace (1 as assumed, 2 twice as fast)`} error={errors.decorators?.[i]?.pace?.message}>
              <input
                type="number"
                step="any"
                className="input input-lg w-32"
                {...register(`decorators.${i}.pace`, within(0.3, 3, msg`The pace`))}
              />
            </Field>
            <RemoveButton
              label={msg`Remove ${names[i]?.id ?? ''}`}
              disabled={decorators.fields.length === 1}
              onClick={() => decorators.remove(i)}
            />
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-5 items-end mt-3">
        <button
          type="button"
          className="btn"
          disabled={decorators.fields.length >= MOST_DECORATORS}
          onClick={() => decorators.append({ id: msg`hands ${decorators.fields.length + 1}`, pace: 1 })}
        >
          <Plus aria-hidden size={18} />
          {msg` another pair of hands`}
        </button>
        <Field label={msg`bags that may lie open at once (empty: any)`} error={errors.openBags?.message}>
          <input
            type="number"
            className="input input-lg w-32"
            {...register('openBags', {
              validate: (v) => v === '' || (Number.isInteger(Number(v)) && Number(v) >= 1 && Number(v) <= 60) || msg`From 1 to 60 bags.`,
            })}
          />
        </Field>
      </div>
    </fieldset>
  );
}
