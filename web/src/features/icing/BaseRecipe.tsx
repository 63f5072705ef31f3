import { type EggWhite, scaleRecipe } from '@kestfog/core/icing';
import { useKeepKitchen, useKitchen } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';

const EGGS: readonly { readonly id: EggWhite; readonly label: string }[] = [
  { id: 'dried', label: 'dried egg white' },
  { id: 'pasteurised', label: 'pasteurised white' },
  { id: 'fresh', label: 'fresh white' },
];

const rounded = (n: number, to: number) => Math.round(n / to) * to;

/** The stiff base for all bowls, scaled, in grams or cups and spoons. */
export function BaseRecipe({ baseG }: { readonly baseG: number }) {
  const [units] = useUnits();
  const kitchen = useKitchen().data;
  const keep = useKeepKitchen();
  const egg = (keep.isPending ? keep.variables.eggWhite : kitchen?.eggWhite) ?? 'dried';
  const label = EGGS.find((e) => e.id === egg)?.label;
  const r = scaleRecipe(baseG, egg);
  return (
    <div className="mt-6">
      <h3 className="text-xl font-semibold">The base</h3>
      <fieldset className="flex flex-wrap gap-2 mt-2" aria-label="Egg white">
        {EGGS.map((e) => (
          <button
            key={e.id}
            type="button"
            className={`btn ${egg === e.id ? 'btn-neutral' : ''}`}
            aria-pressed={egg === e.id}
            disabled={!kitchen}
            onClick={() => kitchen && keep.mutate({ ...kitchen, eggWhite: e.id })}
          >
            {e.label}
          </button>
        ))}
      </fieldset>
      <p className="text-2xl mt-3">
        {units === 'us'
          ? `${rounded(r.us.sugarCups, 0.25)} cups of powdered sugar, ${rounded(r.us.eggTbsp, 0.5)} tbsp of ${label}, ${rounded(r.us.waterTsp, 0.25)} tsp of water`
          : `${Math.round(r.sugarG)} g of powdered sugar, ${Math.round(r.eggG)} g of ${label}, ${Math.round(r.waterG)} g of water`}
      </p>
      {r.caution && (
        <p role="note" className="mt-2 text-lg text-error font-medium border-l-4 border-error pl-3 max-w-3xl">
          {r.caution}
        </p>
      )}
    </div>
  );
}
