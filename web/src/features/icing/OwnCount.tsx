import { grades } from '@kestfog/core/icing';
import type { Kitchen } from '@kestfog/core/wire';
import { useKeepKitchen, useKitchen } from '../../api/queries.js';
import { countingOf } from '../../app/counting.js';
import { Choice } from '../../ui/Choice.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { useTyped } from '../../ui/use-typed.js';

export const WAY_WORDS: Readonly<Record<Kitchen['countsBy'], string>> = {
  line: 'a line drawn through',
  ribbon: 'a ribbon dropped in',
  trail: 'a trail off the spoon',
};
const WAYS = (['line', 'ribbon', 'trail'] as const).map((id) => ({ id, label: WAY_WORDS[id] }));

/** How this decorator counts: nobody's fifteen is anybody else's. */
export function OwnCount() {
  const kitchen = useKitchen().data;
  const keep = useKeepKitchen();
  const [text, setText] = useTyped<string | null>('kitchen.flood-count', null);
  const [recipe, setRecipe] = useTyped<string | null>('kitchen.recipe', null);
  if (!kitchen) return null;
  const shown = text ?? String(kitchen.floodCount);
  const typed = readNumber(shown, 1, 60, 'Your flood', 'seconds');
  const counting = countingOf('value' in typed ? typed.value : kitchen.floodCount);
  const name = recipe ?? kitchen.recipe;
  const changed = ('value' in typed && typed.value !== kitchen.floodCount) || name.trim() !== kitchen.recipe;
  return (
    <section id="count" aria-label="How I count">
      <h2 className="text-2xl font-semibold">How I count</h2>
      <Choice
        className="mt-2"
        label="I count by"
        value={kitchen.countsBy}
        options={WAYS}
        onChange={(countsBy) => keep.mutate({ countsBy })}
      />
      <div className="flex flex-wrap items-end gap-5 mt-3">
        <NumberField label="my flood counts, s" text={shown} typed={typed} onText={setText} />
        <label className="grid gap-1">
          <span className="text-lg">the recipe it is</span>
          <input className="input input-lg w-44" maxLength={40} value={name} onChange={(e) => setRecipe(e.target.value)} />
        </label>
        {changed && (
          <button
            type="button"
            className="btn btn-lg"
            disabled={'problem' in typed || name.trim() === '' || keep.isPending}
            onClick={() => {
              if (!('value' in typed)) return;
              // It is shown as kept at once; what is typed after it must not be wiped when the answer comes.
              keep.mutate(
                { floodCount: typed.value, recipe: name.trim() },
                {
                  onError: () => {
                    setText(shown);
                    setRecipe(name);
                  },
                },
              );
              setText(null);
              setRecipe(null);
            }}
          >
            Keep
          </button>
        )}
      </div>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
      <p className="mt-2 text-base opacity-85">
        On your scale:{' '}
        {grades
          .filter((g) => g.id !== 'stiff')
          .map((g) => `${g.label} ${counting.own(g.fromS)}–${counting.own(g.toS)}`)
          .join(', ')}
        . Counts anywhere from 2 to 20 are reported for the same icing, so a count by word alone may be 40 % off; a weighed thinning test
        narrows that.
      </p>
    </section>
  );
}
