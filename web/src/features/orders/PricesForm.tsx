import type { Prices } from '@kestfog/core/planning';
import { moneyText } from '@kestfog/core/units';
import type { Kitchen } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { useKeepKitchen } from '../../api/queries.js';
import type { Units } from '../../app/units.js';
import { Field } from '../../ui/Field.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { Suggested, type Suggestion } from '../../ui/Suggested.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';
import { lengthTurned, limitIn, mmIn, shownIn } from '../../ui/use-length.js';

const PRICES: readonly { readonly key: Exclude<keyof Prices, 'currency'>; readonly label: string; readonly most: number }[] = [
  { key: 'handsPerHour', label: msg`an hour of hands`, most: 1000 },
  { key: 'icingPerKg', label: msg`a kg of icing`, most: 1000 },
  { key: 'cookieEach', label: msg`a baked cookie`, most: 100 },
  { key: 'cartonEach', label: msg`a carton`, most: 100 },
];

const nameOf = new Intl.DisplayNames('en', { type: 'currency' });
/** Codes the browser knows (ISO 4217), with their names; a sign may be typed as well. */
const CURRENCIES: readonly Suggestion[] = (Intl.supportedValuesOf?.('currency') ?? []).map((id) => ({ id, label: nameOf.of(id) ?? id }));

type PriceKey = (typeof PRICES)[number]['key'];
/** As typed; the carton's sides in the user's unit. */
type Fields = Record<PriceKey | 'currency' | 'width' | 'depth' | 'layers', string>;
/** Sides of a carton, mm. */
const SIDE_MM = [40, 1000] as const;

const fieldsOf = ({ prices, carton }: Kitchen, units: Units): Fields => ({
  ...(Object.fromEntries(PRICES.map((p) => [p.key, String(prices[p.key])])) as Record<PriceKey, string>),
  currency: prices.currency,
  width: shownIn(carton.widthMm, units === 'us'),
  depth: shownIn(carton.depthMm, units === 'us'),
  layers: String(carton.layers),
});

/** What an order's cost and cartons are reckoned with. */
export function PricesForm({ kitchen }: { readonly kitchen: Kitchen }) {
  const keep = useKeepKitchen();
  const { form, units } = useKeptForm<Fields>({
    name: 'kitchen.prices',
    begin: (u) => fieldsOf(kitchen, u),
    turned: (typed, from, to) => ({
      ...typed,
      width: lengthTurned(typed.width, from, to, 1),
      depth: lengthTurned(typed.depth, from, to, 1),
    }),
  });
  const { register, watch, setValue, handleSubmit, formState } = form;
  const { errors, isValid } = formState;
  const unit = units === 'us' ? 'in' : 'mm';
  const currency = watch('currency');
  register('currency', { validate: (text) => text.trim() !== '' });
  const side = (what: string) => aNumber(limitIn(SIDE_MM[0], units), limitIn(SIDE_MM[1], units), what, unit);
  const mm = (text: string) => Math.round(10 * mmIn(text, units)) / 10;
  return (
    <section id="prices" aria-label={msg`Prices and carton`}>
      <h2 className="text-2xl font-semibold">{msg`Prices and carton`}</h2>
      <form
        noValidate
        onSubmit={handleSubmit((typed) =>
          keep.mutate({
            prices: {
              currency: typed.currency.trim(),
              ...(Object.fromEntries(PRICES.map((p) => [p.key, numberIn(typed[p.key])])) as Record<PriceKey, number>),
            },
            carton: {
              ...kitchen.carton,
              widthMm: mm(typed.width),
              depthMm: mm(typed.depth),
              layers: Math.round(numberIn(typed.layers)),
            },
          }),
        )}
      >
        <div className="flex flex-wrap gap-4 mt-3 items-start">
          <div>
            <Suggested
              label={msg`money`}
              value={currency}
              suggestions={CURRENCIES}
              maxLength={4}
              describedBy="money-as"
              onChange={(to) => setValue('currency', to, { shouldDirty: true, shouldValidate: true })}
            />
            <span id="money-as" className="text-base opacity-80">
              {currency.trim() === '' ? msg`a sign, or a code such as EUR` : msg`as ${moneyText(1234.5, currency.trim())}`}
            </span>
          </div>
          {PRICES.map((p) => (
            <Field key={p.key} label={p.label} error={errors[p.key]?.message}>
              <NumberInput {...register(p.key, aNumber(0, p.most, msg`The price`))} isWrong={!!errors[p.key]} />
            </Field>
          ))}
          <Field label={msg`carton width, ${word(unit)}`} error={errors.width?.message}>
            <NumberInput {...register('width', side(msg`The width`))} isWrong={!!errors.width} />
          </Field>
          <Field label={msg`carton depth, ${word(unit)}`} error={errors.depth?.message}>
            <NumberInput {...register('depth', side(msg`The depth`))} isWrong={!!errors.depth} />
          </Field>
          <Field label={msg`layers`} error={errors.layers?.message}>
            <NumberInput {...register('layers', aNumber(1, 20, msg`Layers`))} isWrong={!!errors.layers} />
          </Field>
        </div>
        <button type="submit" className="btn mt-3" disabled={!isValid || keep.isPending}>
          {keep.isPending ? msg`Keeping them …` : msg`Keep these`}
        </button>
        {keep.isSuccess && !keep.isPending && (
          <span role="status" className="ml-3 text-lg">
            {msg`Kept.`}
          </span>
        )}
      </form>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
    </section>
  );
}
