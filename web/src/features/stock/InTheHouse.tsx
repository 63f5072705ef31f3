import type { Supply } from '@kestfog/core/stock';
import { msg } from '@kestfog/core/words';
import { useStock } from '../../api/stock.js';
import { useUnits } from '../../app/units.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { amountText } from './stock-text.js';
import { ThingField } from './ThingField.js';

/** Beside a shopping list: what of it is in the house. */
export function InTheHouse({ supplies }: { readonly supplies: readonly Supply[] }) {
  const [units] = useUnits();
  const stock = useStock();
  return (
    <section aria-label={msg`In the house`} className="order-last">
      <h2 className="text-xl font-semibold">{msg`In the house`}</h2>
      {stock.isError ? (
        <p role="alert" className="text-error font-medium">
          {msgNodes`The stock could not be read: ${stock.error.message}`}
        </p>
      ) : (
        <ul className="divide-y divide-base-300 mt-1">
          {supplies.map((s) => {
            const known = stock.data?.items.find((i) => i.item === s.item);
            return (
              <li key={s.item} className="py-1.5 flex items-center gap-2">
                <span className="text-lg leading-snug grow">
                  {s.dab && (
                    <span
                      className="inline-block w-4 h-4 mr-2 rounded-full border border-base-content/40 align-middle"
                      style={{ background: s.dab }}
                    />
                  )}
                  {s.what}
                  {s.unit !== 'there' && <span className="opacity-80">{msgNodes`, ${amountText(s.unit, s.need, units)} needed`}</span>}
                </span>
                <ThingField key={units} thing={s} known={known} />
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}
