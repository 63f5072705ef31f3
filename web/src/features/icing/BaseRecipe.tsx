import {
  baseSeconds,
  baseWaterFrac,
  type EggWhite,
  type Ingredient,
  type OwnRecipe,
  scaleRecipe,
  spoonOf,
  USUAL_RECIPES,
} from '@kestfog/core/icing';
import type { Kitchen } from '@kestfog/core/wire';
import { useKeepKitchen, useKitchen } from '../../api/queries.js';
import { useCounting } from '../../app/counting.js';
import { type Units, useUnits } from '../../app/units.js';
import { Choice } from '../../ui/Choice.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { useTyped } from '../../ui/use-typed.js';

const EGGS: readonly { readonly id: EggWhite; readonly label: string }[] = [
  { id: 'dried', label: 'dried egg white' },
  { id: 'pasteurised', label: 'pasteurised white' },
  { id: 'fresh', label: 'fresh white' },
];
const eggLabel = (egg: EggWhite) => EGGS.find((e) => e.id === egg)?.label ?? egg;

export const recipeOf = (kitchen: Pick<Kitchen, 'mix' | 'eggWhite'> | undefined): OwnRecipe =>
  kitchen?.mix ?? USUAL_RECIPES[kitchen?.eggWhite ?? 'dried'];

const rounded = (n: number, to: number) => Math.round(n / to) * to;

/** The base for all bowls, scaled, in grams or cups and spoons; of the usual recipe or of one's own. */
export function BaseRecipe({ baseG }: { readonly baseG: number }) {
  const [units] = useUnits();
  const kitchen = useKitchen().data;
  const recipe = recipeOf(kitchen);
  const r = scaleRecipe(baseG, recipe);
  const label = eggLabel(recipe.egg);
  const lemon = recipe.lemonG > 0;
  return (
    <div className="mt-6">
      <h3 className="text-xl font-semibold">The base{kitchen?.mix && `, ${kitchen.recipe}`}</h3>
      <p className="text-2xl mt-3">
        {units === 'us'
          ? `${rounded(r.us.sugarCups, 0.25)} cups of powdered sugar, ${rounded(r.us.eggTbsp, 0.5)} tbsp of ${label}, ${rounded(r.us.waterTsp, 0.25)} tsp of water${lemon ? `, ${rounded(r.us.lemonTsp, 0.25)} tsp of lemon juice` : ''}`
          : `${Math.round(r.sugarG)} g of powdered sugar, ${Math.round(r.eggG)} g of ${label}, ${Math.round(r.waterG)} g of water${lemon ? `, ${Math.round(r.lemonG)} g of lemon juice` : ''}`}
      </p>
      {recipe.mixing && <p className="text-lg mt-1">{recipe.mixing}.</p>}
      <ReadsAs recipe={recipe} />
      {r.caution && (
        <p role="note" className="mt-2 text-lg text-error font-medium border-l-4 border-error pl-3 max-w-3xl">
          {r.caution}
        </p>
      )}
      {kitchen && (
        <details className="mt-2">
          <summary className="cursor-pointer underline underline-offset-4 text-lg">your own recipe</summary>
          <RecipeForm key={`${units} ${JSON.stringify(recipe)}`} kitchen={kitchen} />
        </details>
      )}
    </div>
  );
}

/** What its water comes to on the thinning curve. */
function ReadsAs({ recipe }: { readonly recipe: OwnRecipe }) {
  const counting = useCounting();
  const seconds = baseSeconds(recipe);
  return (
    <p className="text-base opacity-85 mt-1">
      {(100 * baseWaterFrac(recipe)).toFixed(1)} % water: it{' '}
      {seconds >= 120 ? 'is stiff and does not close' : `counts about ${counting.text(Math.round(seconds))}`} before anything is stirred in.
    </p>
  );
}

const FIELDS: readonly {
  readonly key: 'sugarG' | 'eggG' | 'waterG' | 'lemonG';
  readonly what: Ingredient;
  readonly label: string;
  readonly mostG: number;
}[] = [
  { key: 'sugarG', what: 'sugar', label: 'powdered sugar', mostG: 20_000 },
  { key: 'eggG', what: 'egg', label: 'egg white', mostG: 5000 },
  { key: 'waterG', what: 'water', label: 'water', mostG: 5000 },
  { key: 'lemonG', what: 'lemon', label: 'lemon juice', mostG: 1000 },
];

const unitOf = (what: Ingredient, egg: EggWhite, units: Units) => (units === 'us' ? spoonOf(what, egg) : { unit: 'g', gPer: 1 });

/** Ingredients of one lot, in grams or in cups and spoons; the base is scaled from them. */
export function RecipeForm({ kitchen }: { readonly kitchen: Kitchen }) {
  const [units] = useUnits();
  const keep = useKeepKitchen();
  const start = recipeOf(kitchen);
  const [egg, setEgg] = useTyped<EggWhite>('kitchen.mix.egg', start.egg);
  const [mixing, setMixing] = useTyped('kitchen.mix.mixing', start.mixing);
  const [name, setName] = useTyped('kitchen.mix.recipe', kitchen.recipe);
  const [texts, setTexts] = useTyped<Record<string, string>>(
    `kitchen.mix.amounts ${units}`,
    Object.fromEntries(FIELDS.map((f) => [f.key, String(Math.round((start[f.key] / unitOf(f.what, start.egg, units).gPer) * 100) / 100)])),
  );
  const typed = FIELDS.map((f) => {
    const { unit, gPer } = unitOf(f.what, egg, units);
    const least = f.key === 'sugarG' ? Math.ceil(1 / gPer) : 0;
    return { ...f, unit, gPer, typed: readNumber(texts[f.key] ?? '', least, Math.floor(f.mostG / gPer), `The ${f.label}`, unit) };
  });
  const good = typed.every((f) => 'value' in f.typed) && name.trim() !== '';
  const recipe: OwnRecipe | null = good
    ? ({
        ...Object.fromEntries(typed.map((f) => [f.key, 'value' in f.typed ? f.typed.value * f.gPer : 0])),
        egg,
        mixing: mixing.trim(),
      } as unknown as OwnRecipe)
    : null;
  return (
    <div className="grid gap-3 mt-2">
      <Choice label="Egg white" value={egg} options={EGGS} onChange={setEgg} />
      <div className="flex flex-wrap gap-4 items-start">
        {typed.map((f) => (
          <NumberField
            key={f.key}
            label={`${f.key === 'eggG' ? eggLabel(egg) : f.label}, ${f.unit}`}
            text={texts[f.key] ?? ''}
            typed={f.typed}
            onText={(t) => setTexts({ ...texts, [f.key]: t })}
          />
        ))}
      </div>
      <label className="grid gap-1">
        <span className="text-lg">what it is called</span>
        <input className="input input-lg w-60" maxLength={40} value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <label className="grid gap-1">
        <span className="text-lg">how it is mixed</span>
        <input className="input input-lg w-full max-w-2xl" maxLength={300} value={mixing} onChange={(e) => setMixing(e.target.value)} />
      </label>
      {recipe && <ReadsAs recipe={recipe} />}
      <div className="flex flex-wrap gap-3">
        <button
          type="button"
          className="btn btn-lg"
          disabled={!recipe || keep.isPending}
          onClick={() => recipe && keep.mutate({ mix: recipe, eggWhite: recipe.egg, recipe: name.trim() })}
        >
          Keep the recipe
        </button>
        {kitchen.mix && (
          <button type="button" className="btn btn-lg btn-ghost" disabled={keep.isPending} onClick={() => keep.mutate({ mix: null })}>
            the usual one again
          </button>
        )}
      </div>
      {keep.isError && (
        <p role="alert" className="text-error font-medium">
          {keep.error.message}
        </p>
      )}
    </div>
  );
}
