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
import { msg } from '@kestfog/core/words';
import { useKeepKitchen, useKitchen } from '../../api/queries.js';
import { useCounting } from '../../app/counting.js';
import { type Units, useUnits } from '../../app/units.js';
import { Choice } from '../../ui/Choice.js';
import { Field } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';

const EGGS: readonly { readonly id: EggWhite; readonly label: string }[] = [
  { id: 'dried', label: msg`dried egg white` },
  { id: 'pasteurised', label: msg`pasteurised white` },
  { id: 'fresh', label: msg`fresh white` },
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
      <h3 className="text-xl font-semibold">{msgNodes`The base${kitchen?.mix && `, ${kitchen.recipe}`}`}</h3>
      <p className="text-2xl mt-3">
        {units === 'us'
          ? msg`${rounded(r.us.sugarCups, 0.25)} cups of powdered sugar, ${rounded(r.us.eggTbsp, 0.5)} tbsp of ${label},
            ${rounded(r.us.waterTsp, 0.25)} tsp of water${lemon ? msg`, ${rounded(r.us.lemonTsp, 0.25)} tsp of lemon juice` : ''}`
          : msg`${Math.round(r.sugarG)} g of powdered sugar, ${Math.round(r.eggG)} g of ${label}, ${Math.round(r.waterG)} g of
            water${lemon ? msg`, ${Math.round(r.lemonG)} g of lemon juice` : ''}`}
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
          <summary className="cursor-pointer underline underline-offset-4 text-lg">{msg`your own recipe`}</summary>
          <RecipeForm kitchen={kitchen} />
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
      {msgNodes`${(100 * baseWaterFrac(recipe)).toFixed(1)} % water: it ${
        seconds >= 120
          ? msg`is stiff and does not close`
          : msg`counts
        about ${counting.text(Math.round(seconds))}`
      } before anything is stirred in.`}
    </p>
  );
}

const FIELDS: readonly {
  readonly key: 'sugarG' | 'eggG' | 'waterG' | 'lemonG';
  readonly what: Ingredient;
  readonly label: string;
  readonly mostG: number;
}[] = [
  { key: 'sugarG', what: 'sugar', label: msg`powdered sugar`, mostG: 20_000 },
  { key: 'eggG', what: 'egg', label: msg`egg white`, mostG: 5000 },
  { key: 'waterG', what: 'water', label: msg`water`, mostG: 5000 },
  { key: 'lemonG', what: 'lemon', label: msg`lemon juice`, mostG: 1000 },
];

const unitOf = (what: Ingredient, egg: EggWhite, units: Units) => (units === 'us' ? spoonOf(what, egg) : { unit: 'g', gPer: 1 });

type Amounts = Record<(typeof FIELDS)[number]['key'], string>;
interface RecipeFields extends Amounts {
  egg: EggWhite;
  mixing: string;
  name: string;
}
const hundredth = (n: number) => String(Math.round(n * 100) / 100);

/** Ingredients of one lot, in grams or in cups and spoons; the base is scaled from them. */
export function RecipeForm({ kitchen }: { readonly kitchen: Kitchen }) {
  const keep = useKeepKitchen();
  const start = recipeOf(kitchen);
  const amounts = (of: (f: (typeof FIELDS)[number]) => string) => Object.fromEntries(FIELDS.map((f) => [f.key, of(f)])) as Amounts;
  const { form, units } = useKeptForm<RecipeFields>({
    name: 'kitchen.recipe',
    begin: (u) => ({
      egg: start.egg,
      mixing: start.mixing,
      name: kitchen.recipe,
      ...amounts((f) => hundredth(start[f.key] / unitOf(f.what, start.egg, u).gPer)),
    }),
    turned: (typed, from, to) => ({
      ...typed,
      ...amounts((f) => {
        const n = numberIn(typed[f.key]);
        const grams = n * unitOf(f.what, typed.egg, from).gPer;
        return !Number.isFinite(n) ? typed[f.key] : hundredth(grams / unitOf(f.what, typed.egg, to).gPer);
      }),
    }),
  });
  const { register, watch, setValue, handleSubmit, formState } = form;
  const { errors, isValid } = formState;
  const typed = watch();
  const { egg } = typed;
  const fields = FIELDS.map((f) => {
    const { unit, gPer } = unitOf(f.what, egg, units);
    const least = f.key === 'sugarG' ? Math.ceil(1 / gPer) : 0;
    return { ...f, unit, gPer, rule: aNumber(least, Math.floor(f.mostG / gPer), msg`The ${f.label}`, unit) };
  });
  const recipeIn = (of: RecipeFields): OwnRecipe => {
    const g = (key: keyof Amounts) => numberIn(of[key]) * unitOf(FIELDS.find((f) => f.key === key)?.what ?? 'sugar', of.egg, units).gPer;
    return { sugarG: g('sugarG'), eggG: g('eggG'), waterG: g('waterG'), lemonG: g('lemonG'), egg: of.egg, mixing: of.mixing.trim() };
  };
  return (
    <form
      className="grid gap-3 mt-2"
      noValidate
      onSubmit={handleSubmit((now) => {
        const mix = recipeIn(now);
        keep.mutate({ mix, eggWhite: mix.egg, recipe: now.name.trim() });
      })}
    >
      <Choice
        label={msg`Egg white`}
        value={egg}
        options={EGGS}
        onChange={(to) => setValue('egg', to, { shouldDirty: true, shouldValidate: true })}
      />
      <div className="flex flex-wrap gap-4 items-start">
        {fields.map((f) => (
          <Field key={f.key} label={`${f.key === 'eggG' ? eggLabel(egg) : f.label}, ${f.unit}`} error={errors[f.key]?.message}>
            <NumberInput large isWrong={!!errors[f.key]} {...register(f.key, f.rule)} />
          </Field>
        ))}
      </div>
      <Field label={msg`what it is called`} error={errors.name?.message}>
        <input
          className="input input-lg w-60"
          maxLength={40}
          {...register('name', { validate: (text) => text.trim() !== '' || msg`Name it.` })}
        />
      </Field>
      <Field label={msg`how it is mixed`}>
        <input className="input input-lg w-full max-w-2xl" maxLength={300} {...register('mixing')} />
      </Field>
      {/* What is wrong is named a moment after it is typed. */}
      {isValid && FIELDS.every((f) => Number.isFinite(numberIn(typed[f.key]))) && <ReadsAs recipe={recipeIn(typed)} />}
      <div className="flex flex-wrap gap-3">
        <button type="submit" className="btn btn-lg" disabled={!isValid || keep.isPending}>
          {msg`Keep the recipe`}
        </button>
        {kitchen.mix && (
          <button type="button" className="btn btn-lg btn-ghost" disabled={keep.isPending} onClick={() => keep.mutate({ mix: null })}>
            {msg`the usual one again`}
          </button>
        )}
      </div>
      {keep.isError && (
        <p role="alert" className="text-error font-medium">
          {keep.error.message}
        </p>
      )}
    </form>
  );
}
