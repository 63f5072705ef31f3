import { grades } from '@kestfog/core/icing';
import type { Kitchen } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useKeepKitchen, useKitchen } from '../../api/queries.js';
import { countingOf } from '../../app/counting.js';
import { Choice } from '../../ui/Choice.js';
import { Field } from '../../ui/Field.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';

export const WAY_WORDS: Readonly<Record<Kitchen['countsBy'], string>> = {
  line: msg`a line drawn through`,
  ribbon: msg`a ribbon dropped in`,
  trail: msg`a trail off the spoon`,
};
const WAYS = (['line', 'ribbon', 'trail'] as const).map((id) => ({ id, label: WAY_WORDS[id] }));

/** How this decorator counts: nobody's fifteen is anybody else's. */
export function OwnCount() {
  const kitchen = useKitchen().data;
  return kitchen ? <OwnCountForm kitchen={kitchen} /> : null;
}

function OwnCountForm({ kitchen }: { readonly kitchen: Kitchen }) {
  const keep = useKeepKitchen();
  const { form } = useKeptForm({
    name: 'kitchen.count',
    begin: () => ({ count: String(kitchen.floodCount), recipe: kitchen.recipe }),
  });
  const { register, watch, handleSubmit, formState } = form;
  const { errors, isValid } = formState;
  const typed = watch();
  const said = numberIn(typed.count);
  // What is wrong is named a moment after it is typed.
  const count = errors.count || !(said >= 1) ? kitchen.floodCount : said;
  const counting = countingOf(count);
  const changed = typed.count !== String(kitchen.floodCount) || typed.recipe.trim() !== kitchen.recipe;
  return (
    <section id="count" aria-label={msg`How I count`}>
      <h2 className="text-2xl font-semibold">{msg`How I count`}</h2>
      <Choice
        className="mt-2"
        label={msg`I count by`}
        value={kitchen.countsBy}
        options={WAYS}
        onChange={(countsBy) => keep.mutate({ countsBy })}
      />
      <form
        className="flex flex-wrap items-end gap-5 mt-3"
        noValidate
        onSubmit={handleSubmit((d) => keep.mutate({ floodCount: numberIn(d.count), recipe: d.recipe.trim() }))}
      >
        <Field label={msg`my flood counts, s`} error={errors.count?.message}>
          <NumberInput large isWrong={!!errors.count} {...register('count', aNumber(1, 60, msg`Your flood`, 'seconds'))} />
        </Field>
        <Field label={msg`the recipe it is`} error={errors.recipe?.message}>
          <input
            className="input input-lg w-44"
            maxLength={40}
            {...register('recipe', { validate: (text) => text.trim() !== '' || msg`Name it.` })}
          />
        </Field>
        {changed && (
          <button type="submit" className="btn btn-lg" disabled={!isValid || keep.isPending}>
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
        {msg`On your scale: `}
        {grades
          .filter((g) => g.id !== 'stiff')
          .map((g) => `${g.label} ${counting.own(g.fromS)}–${counting.own(g.toS)}`)
          .join(', ')}
        {msg`. Counts anywhere from 2 to 20 are reported for the same icing, so a count by word alone may be 40 % off; a weighed thinning
          test narrows that.`}
      </p>
    </section>
  );
}
