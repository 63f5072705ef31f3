import { type AllergenId, allergens, type KnownAllergens, type LaidOn } from '@kestfog/core/labelling';
import type { Kitchen } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useKeepKitchen } from '../../api/queries.js';
import { useKeptForm } from '../../ui/use-kept-form.js';

interface Props {
  readonly kitchen: Kitchen;
  /** what is laid on the cookies in question */
  readonly laid: readonly LaidOn[];
}

/**
 * What a label must name, by what brings it: looked up once on the packets, kept for every order. Nothing ticked is not the same as
 * "none of these": until somebody looked, labels say that nobody has.
 */
export function Allergens({ kitchen, laid }: Props) {
  const keep = useKeepKitchen();
  const { form } = useKeptForm<{ known: KnownAllergens }>({ name: 'kitchen.allergens', begin: () => ({ known: kitchen.allergens }) });
  const known = form.watch('known') as KnownAllergens;
  const setKnown = (next: KnownAllergens) => form.setValue('known', next, { shouldDirty: true });
  const setLaidOn = (item: string, ids: readonly AllergenId[] | null) => {
    const { [item]: _before, ...others } = known.laidOn;
    setKnown({ ...known, laidOn: ids === null ? others : { ...others, [item]: ids } });
  };
  const changed = JSON.stringify(known) !== JSON.stringify(kitchen.allergens);
  return (
    <div className="grid gap-2">
      <p className="text-lg">
        {msg`The icing brings egg. What does the rest bring? Read the packets; crumbs and tools of other batches count as traces. Local
          food law decides what a label must name.`}
      </p>
      <Looked what={msg`in the cookie`} ids={known.cookie} onChange={(cookie) => setKnown({ ...known, cookie })} />
      {laid.map((l) => (
        <Looked key={l.item} what={msg`in ${l.what}`} ids={known.laidOn[l.item] ?? null} onChange={(ids) => setLaidOn(l.item, ids)} />
      ))}
      <Looked what={msg`traces of what else is used here`} ids={known.traces} onChange={(traces) => setKnown({ ...known, traces })} />
      <div className="flex flex-wrap items-center gap-3">
        <button type="button" className="btn" disabled={!changed || keep.isPending} onClick={() => keep.mutate({ allergens: known })}>
          {keep.isPending ? msg`Keeping them …` : msg`Keep the allergens`}
        </button>
        {keep.isError && (
          <span role="alert" className="text-error font-medium">
            {keep.error.message}
          </span>
        )}
      </div>
    </div>
  );
}

/** What one thing brings: open until somebody looked. */
function Looked({
  what,
  ids,
  onChange,
}: {
  readonly what: string;
  readonly ids: readonly AllergenId[] | null;
  readonly onChange: (ids: readonly AllergenId[] | null) => void;
}) {
  const has = (id: AllergenId) => ids?.includes(id) ?? false;
  const tick = (id: AllergenId, on: boolean) => {
    const next = allergens.flatMap((a) => ((a.id === id ? on : has(a.id)) ? [a.id] : []));
    // The last one taken away says that it is not known, never that there is nothing.
    onChange(next.length === 0 ? null : next);
  };
  const said = allergens.filter((a) => has(a.id)).map((a) => a.what);
  return (
    <details className="border-t border-base-300 pt-2">
      <summary className="text-lg cursor-pointer min-h-11 content-center">
        {what}: <b>{ids === null ? msg`not looked up yet` : said.length === 0 ? msg`none of these` : said.join(', ')}</b>
      </summary>
      <fieldset className="grid gap-x-6 gap-y-1 sm:grid-cols-2 my-2">
        <legend className="sr-only">{what}</legend>
        {allergens.map((a) => (
          <label key={a.id} className="flex items-center gap-3 min-h-11 text-lg">
            <input type="checkbox" className="checkbox" checked={has(a.id)} onChange={(e) => tick(a.id, e.target.checked)} />
            {a.what}
          </label>
        ))}
        <label className="flex items-center gap-3 min-h-11 text-lg">
          <input
            type="checkbox"
            className="checkbox"
            checked={ids !== null && ids.length === 0}
            onChange={(e) => onChange(e.target.checked ? [] : null)}
          />
          {msg`none of these`}
        </label>
      </fieldset>
    </details>
  );
}
