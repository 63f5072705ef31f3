import type { StockThing } from '@kestfog/core/stock';
import type { StockItem } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { useKeepThing } from '../../api/stock.js';
import { useUnits } from '../../app/units.js';
import { G_PER_OZ } from '../../text/amounts.js';
import { readNumber } from '../../ui/NumberField.js';

const MOST = 100_000;

/** How much of a thing is in the house: kept as soon as the field is left. Empty, it is not counted. */
export function ThingField({ thing, known }: { readonly thing: StockThing; readonly known: StockItem | undefined }) {
  const [units] = useUnits();
  const keep = useKeepThing();
  const gPerUnit = thing.unit === 'g' && units === 'us' ? G_PER_OZ : 1;
  const from = known === undefined ? '' : String(Math.round((known.amount / gPerUnit) * 100) / 100);
  const [typing, setTyping] = useState<string | null>(null);
  const text = typing ?? from;
  const say = (amount: number | null) =>
    keep.mutate({ thing, amount, revision: known?.revision ?? 0 }, { onSuccess: () => setTyping(null) });
  const label = msg`${thing.what} in the house`;
  if (thing.unit === 'there')
    return (
      <span className="grid gap-1">
        <span className="grid place-items-center w-27 min-h-11">
          <input
            type="checkbox"
            className="checkbox"
            aria-label={label}
            checked={(known?.amount ?? 0) > 0}
            onChange={(e) => say(e.target.checked ? 1 : 0)}
          />
        </span>
        {keep.isError && <Refused>{keep.error.message}</Refused>}
      </span>
    );
  const unit = thing.unit === 'pieces' ? '' : units === 'us' ? 'oz' : 'g';
  const read = readNumber(text, 0, MOST, msg`This`, unit);
  const wrong = text.trim() === '' ? null : 'problem' in read ? read.problem : null;
  const done = () => {
    if (typing === null || wrong) return;
    if (typing.trim() === from) setTyping(null);
    else if ('value' in read) say(thing.unit === 'pieces' ? Math.round(read.value) : read.value * gPerUnit);
    else if (known) say(null);
    else setTyping(null);
  };
  return (
    <span className="grid gap-1">
      <span className="flex items-center gap-2">
        <input
          className="input w-20"
          inputMode="decimal"
          aria-label={unit ? `${label}, ${unit}` : label}
          aria-invalid={wrong !== null}
          value={text}
          onChange={(e) => setTyping(e.target.value)}
          onBlur={done}
          onKeyDown={(e) => e.key === 'Enter' && done()}
        />
        <span className="text-lg w-5">{word(unit)}</span>
      </span>
      {wrong && <Refused>{wrong}</Refused>}
      {keep.isError && <Refused>{keep.error.message}</Refused>}
    </span>
  );
}

const Refused = ({ children }: { readonly children: string }) => (
  <span role="alert" className="text-error font-medium max-w-60">
    {children}
  </span>
);
