import { stockTable } from '@kestfog/core/paper';
import { gelThing, type StockThing, usualThings } from '@kestfog/core/stock';
import type { Kitchen, StockItem } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { useKeepThing, useStock } from '../../api/stock.js';
import { useUnits } from '../../app/units.js';
import { dayClock } from '../../text/time.js';
import { RemoveButton } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { saveFile } from '../../ui/save-file.js';
import { Leftovers } from './Leftovers.js';
import { amountText } from './stock-text.js';
import { ThingField } from './ThingField.js';

const GEL = 'gel';
/** So many of the latest bookings are listed. */
const LATEST = 5;

/** What is in the house: what shopping lists leave out, and runs take off with one yes. */
export function Stock({ kitchen }: { readonly kitchen: Kitchen }) {
  const [units] = useUnits();
  const stock = useStock();
  const keep = useKeepThing();
  const [gel, setGel] = useState<string | null>(null);
  const items = stock.data?.items ?? [];
  const usual = usualThings({ egg: kitchen.mix?.egg ?? kitchen.eggWhite, carton: kitchen.carton, tips: kitchen.tips });
  const more = usual.filter((t) => !items.some((i) => i.item === t.item));
  const count = (thing: StockThing) => keep.mutate({ thing, amount: 0, revision: 0 });
  const groups: readonly (readonly [string, readonly StockItem[]])[] = [
    [msg`used up`, items.filter((i) => i.usedUp)],
    [msg`tools and pots`, items.filter((i) => !i.usedUp)],
  ];
  const typedGel = gel?.trim() ?? '';
  const addGel = () => {
    if (typedGel === '') return;
    count(gelThing(typedGel));
    setGel(null);
  };
  return (
    <section id="stock" aria-label={msg`In the house`}>
      <h2 className="text-2xl font-semibold">{msg`In the house`}</h2>
      <p className="text-lg mt-1">
        {msg`Shopping lists leave out what is here; after a run, what it used is taken off with one yes. What is not listed is not
          counted.`}
      </p>
      {stock.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {msgNodes`The stock could not be read: ${stock.error.message}`}
        </p>
      )}
      {stock.data && items.length === 0 && (
        <p className="text-lg mt-3">{msg`Nothing is counted yet. Begin below, or on an order’s shopping list.`}</p>
      )}
      {groups
        .filter(([, of]) => of.length > 0)
        .map(([name, of]) => (
          <div key={name} className="mt-4">
            <h3 className="text-lg font-semibold">{name}</h3>
            <ul className="divide-y divide-base-300">
              {of.map((i) => (
                <li key={i.item} className="py-1.5 flex flex-wrap items-center gap-3">
                  <span className="grow text-lg basis-40">{i.what}</span>
                  <ThingField key={units} thing={i} known={i} />
                  <RemoveButton
                    label={msg`Count no more ${i.what}`}
                    disabled={false}
                    onClick={() => keep.mutate({ thing: i, amount: null, revision: i.revision })}
                  />
                </li>
              ))}
            </ul>
          </div>
        ))}
      <div className="flex flex-wrap items-end gap-3 mt-4">
        <label className="grid gap-1">
          <span className="text-lg">{msg`count another thing`}</span>
          <select
            className="select w-64"
            value={gel === null ? '' : GEL}
            onChange={(e) => {
              const thing = more.find((t) => t.item === e.target.value);
              if (thing) count(thing);
              setGel(e.target.value === GEL ? '' : null);
            }}
          >
            <option value="">{msg`choose …`}</option>
            <option value={GEL}>{msg`a gel colour`}</option>
            {more.map((t) => (
              <option key={t.item} value={t.item}>
                {t.what}
              </option>
            ))}
          </select>
        </label>
        {gel !== null && (
          <>
            <label className="grid gap-1">
              <span className="text-lg">{msg`its name, as you mix by it`}</span>
              <input
                className="input w-48"
                maxLength={40}
                value={gel}
                onChange={(e) => setGel(e.target.value)}
                onKeyDown={(e) => e.key === 'Enter' && addGel()}
              />
            </label>
            <button type="button" className="btn" disabled={typedGel === ''} onClick={addGel}>
              {msg`Count it`}
            </button>
          </>
        )}
        {items.length > 0 && (
          <button type="button" className="btn btn-ghost" onClick={() => saveFile('stock.csv', 'text/csv', stockTable(items))}>
            {msg`Table of the stock`}
          </button>
        )}
      </div>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
      {(stock.data?.bookings.length ?? 0) > 0 && (
        <div className="mt-5">
          <h3 className="text-lg font-semibold">{msg`taken off for`}</h3>
          <ul className="text-lg">
            {stock.data?.bookings.slice(0, LATEST).map((b) => (
              <li key={b.runId} className="py-1">
                {b.orderName || msg`a run`}, {dayClock(Date.parse(b.at))}:{' '}
                {b.lines.map((l) => `${amountText(l.unit, l.amount, units)} ${l.what}`).join(', ') || msg`nothing that is counted`}
              </li>
            ))}
          </ul>
        </div>
      )}
      <div className="mt-6">
        <Leftovers />
      </div>
    </section>
  );
}
