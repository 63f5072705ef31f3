import { OPENING_MM, type Tip, type TipShape, tipShapes, USUAL_TIPS } from '@kestfog/core/steps';
import type { Kitchen } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { Plus } from 'lucide-react';
import { useFieldArray } from 'react-hook-form';
import { useKeepKitchen } from '../../api/queries.js';
import type { Units } from '../../app/units.js';
import { Field, RemoveButton } from '../../ui/Field.js';
import { NumberInput } from '../../ui/NumberField.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';
import { lengthTurned, limitIn, mmIn, shownIn } from '../../ui/use-length.js';

/** A tip as it is typed: its opening in the user's unit. */
interface Row {
  name: string;
  shape: TipShape;
  opening: string;
}
const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

const rowOf = (t: Tip, units: Units): Row => ({ name: t.name, shape: t.shape, opening: shownIn(t.openingMm, units === 'us') });

/** The tips there are: what Designs, Icing and Bench say a part is piped through, and how wide its dam is. */
export function Tips({ kitchen }: { readonly kitchen: Kitchen }) {
  const keep = useKeepKitchen();
  const { form, units } = useKeptForm<{ rows: Row[] }>({
    name: 'kitchen.tips',
    begin: (u) => ({ rows: kitchen.tips.map((t) => rowOf(t, u)) }),
    turned: ({ rows }, from, to) => ({ rows: rows.map((r) => ({ ...r, opening: lengthTurned(r.opening, from, to) })) }),
  });
  const { register, control, handleSubmit, formState, getValues } = form;
  const { fields, append, remove, replace } = useFieldArray({ control, name: 'rows' });
  const { errors, isValid } = formState;
  const unit = units === 'us' ? 'in' : 'mm';
  const names = fields.map((_, k) => `rows.${k}.name` as const);
  return (
    <section id="tips" aria-label={msg`Tips`}>
      <h2 className="text-2xl font-semibold">{msg`Tips`}</h2>
      <p className="text-lg mt-1">
        {msg`Each part is piped through the widest of these that is not wider than its line; an outline is as thick as its tip. Bores are
          the usual ones until you measure yours.`}
      </p>
      {fields.length === 0 && <p className="text-lg mt-2">{msg`None: every bag is snipped.`}</p>}
      <form
        noValidate
        onSubmit={handleSubmit(({ rows }) =>
          keep.mutate({
            tips: rows.map((r) => ({ name: r.name.trim(), shape: r.shape, openingMm: Math.round(mmIn(r.opening, units) * 100) / 100 })),
          }),
        )}
      >
        <ul className="grid gap-3 mt-3">
          {fields.map((f, i) => (
            <li key={f.id} className="flex flex-wrap items-start gap-3">
              <Field label={msg`name`} error={errors.rows?.[i]?.name?.message}>
                <input
                  className="input w-44"
                  maxLength={40}
                  aria-invalid={!!errors.rows?.[i]?.name}
                  {...register(`rows.${i}.name`, {
                    // Of two alike the later is named; either can be changed.
                    deps: names,
                    validate: (text, { rows }) =>
                      text.trim() === '' ? msg`Name it.` : rows.findIndex((r) => sameName(r.name, text)) === i || msg`Twice.`,
                  })}
                />
              </Field>
              <Field label={msg`shape`}>
                <select className="select w-28" {...register(`rows.${i}.shape`)}>
                  {tipShapes.map((s) => (
                    <option key={s} value={s}>
                      {word(s)}
                    </option>
                  ))}
                </select>
              </Field>
              <Field label={msg`opening, ${word(unit)}`} error={errors.rows?.[i]?.opening?.message}>
                <NumberInput
                  isWrong={!!errors.rows?.[i]?.opening}
                  {...register(
                    `rows.${i}.opening`,
                    aNumber(limitIn(OPENING_MM[0], units), limitIn(OPENING_MM[1], units), msg`The opening`, unit),
                  )}
                />
              </Field>
              <div className="pt-8">
                <RemoveButton label={msg`Remove ${getValues(`rows.${i}.name`)}`} disabled={false} onClick={() => remove(i)} />
              </div>
            </li>
          ))}
        </ul>
        <div className="flex flex-wrap gap-3 mt-4">
          <button
            type="button"
            className="btn"
            disabled={fields.length >= 30}
            onClick={() => append({ name: '', shape: 'round', opening: shownIn(2, units === 'us') })}
          >
            <Plus aria-hidden size={18} />
            {msg` another tip`}
          </button>
          <button type="button" className="btn btn-ghost" onClick={() => replace(USUAL_TIPS.map((t) => rowOf(t, units)))}>
            {msg`the usual set`}
          </button>
          <button type="submit" className="btn btn-primary" disabled={!isValid || keep.isPending}>
            {msg`Keep the tips`}
          </button>
          {keep.isSuccess && (
            <span role="status" className="self-center text-lg">
              {msg`Kept.`}
            </span>
          )}
        </div>
      </form>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
    </section>
  );
}
