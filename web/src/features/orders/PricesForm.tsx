import type { Prices } from '@kestfog/core/planning';
import { moneyText } from '@kestfog/core/units';
import type { Kitchen } from '@kestfog/core/wire';
import { useKeepKitchen } from '../../api/queries.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { Suggested, type Suggestion } from '../../ui/Suggested.js';
import { useTyped } from '../../ui/use-typed.js';

const PRICES: readonly { readonly key: Exclude<keyof Prices, 'currency'>; readonly label: string; readonly most: number }[] = [
  { key: 'handsPerHour', label: 'an hour of hands', most: 1000 },
  { key: 'icingPerKg', label: 'a kg of icing', most: 1000 },
  { key: 'cookieEach', label: 'a baked cookie', most: 100 },
  { key: 'cartonEach', label: 'a carton', most: 100 },
];

const nameOf = new Intl.DisplayNames('en', { type: 'currency' });
/** Codes the browser knows (ISO 4217), with their names; a sign may be typed as well. */
const CURRENCIES: readonly Suggestion[] = (Intl.supportedValuesOf?.('currency') ?? []).map((id) => ({ id, label: nameOf.of(id) ?? id }));

/** What an order's cost and cartons are reckoned with. */
export function PricesForm({ kitchen }: { readonly kitchen: Kitchen }) {
  const keep = useKeepKitchen();
  const [currency, setCurrency] = useTyped('kitchen.currency', kitchen.prices.currency);
  const [text, setText] = useTyped('kitchen.prices', Object.fromEntries(PRICES.map((p) => [p.key, String(kitchen.prices[p.key])])));
  const [carton, setCarton] = useTyped('kitchen.carton', {
    width: String(kitchen.carton.widthMm),
    depth: String(kitchen.carton.depthMm),
    layers: String(kitchen.carton.layers),
  });
  const prices = PRICES.map((p) => ({ ...p, typed: readNumber(text[p.key] ?? '', 0, p.most, 'The price', '') }));
  const sides = {
    width: readNumber(carton.width, 40, 1000, 'The width', 'mm'),
    depth: readNumber(carton.depth, 40, 1000, 'The depth', 'mm'),
    layers: readNumber(carton.layers, 1, 20, 'Layers', ''),
  };
  const good = prices.every((p) => 'value' in p.typed) && Object.values(sides).every((s) => 'value' in s) && currency.trim() !== '';
  const value = (t: (typeof prices)[number]['typed']) => ('value' in t ? t.value : 0);
  return (
    <section id="prices" aria-label="Prices and carton">
      <h2 className="text-2xl font-semibold">Prices and carton</h2>
      <div className="flex flex-wrap gap-4 mt-3 items-start">
        <div>
          <Suggested label="money" value={currency} suggestions={CURRENCIES} maxLength={4} describedBy="money-as" onChange={setCurrency} />
          <span id="money-as" className="text-base opacity-80">
            {currency.trim() === '' ? 'a sign, or a code such as EUR' : `as ${moneyText(1234.5, currency.trim())}`}
          </span>
        </div>
        {prices.map((p) => (
          <NumberField
            key={p.key}
            small
            label={p.label}
            text={text[p.key] ?? ''}
            typed={p.typed}
            onText={(t) => setText({ ...text, [p.key]: t })}
          />
        ))}
        <NumberField
          small
          label="carton width, mm"
          text={carton.width}
          typed={sides.width}
          onText={(width) => setCarton({ ...carton, width })}
        />
        <NumberField
          small
          label="carton depth, mm"
          text={carton.depth}
          typed={sides.depth}
          onText={(depth) => setCarton({ ...carton, depth })}
        />
        <NumberField small label="layers" text={carton.layers} typed={sides.layers} onText={(layers) => setCarton({ ...carton, layers })} />
      </div>
      <button
        type="button"
        className="btn mt-3"
        disabled={!good || keep.isPending}
        onClick={() =>
          keep.mutate({
            prices: {
              currency: currency.trim(),
              ...(Object.fromEntries(prices.map((p) => [p.key, value(p.typed)])) as Omit<Prices, 'currency'>),
            },
            carton: {
              ...kitchen.carton,
              widthMm: value(sides.width),
              depthMm: value(sides.depth),
              layers: Math.round(value(sides.layers)),
            },
          })
        }
      >
        {keep.isPending ? 'Keeping them …' : 'Keep these'}
      </button>
      {keep.isSuccess && !keep.isPending && (
        <span role="status" className="ml-3 text-lg">
          Kept.
        </span>
      )}
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
    </section>
  );
}
