import type { Plan } from '@kestfog/core/formats';
import { suppliesOf, usedUpOf } from '@kestfog/core/stock';
import { msg } from '@kestfog/core/words';
import { amountsOf, useBooking, useStock } from '../../api/stock.js';
import { useColourName } from '../../app/colour-names.js';
import { useUnits } from '../../app/units.js';
import { amountText } from './stock-text.js';
import { useSupplied } from './use-supplied.js';

/** After a run: what it used is taken off the stock with one yes, and put back with one tap. Nothing where nothing of it is counted. */
export function Booked({ run, plan }: { readonly run: { readonly id: string; readonly orderId: string }; readonly plan: Plan }) {
  const [units] = useUnits();
  const nameOf = useColourName();
  const stock = useStock().data;
  const supplied = useSupplied(plan, run.orderId);
  const { book, putBack } = useBooking(run.id);
  const booked = stock?.bookings.find((b) => b.runId === run.id);
  const uses = stock && supplied ? usedUpOf(suppliesOf(plan, supplied, nameOf), amountsOf(stock)) : [];
  const failure = book.error ?? putBack.error;
  if (!booked && uses.length === 0) return null;
  const listed = (booked?.lines ?? uses).map((l) => `${amountText(l.unit, l.amount, units)} ${l.what}`).join(', ');
  return (
    <section aria-label={msg`What it used`} className="border-l-8 border-primary pl-4 mt-6">
      <h2 className="text-2xl font-semibold">{booked ? msg`Taken off the stock` : msg`What it used`}</h2>
      <p className="text-xl mt-1">{listed || msg`Nothing that is counted.`}</p>
      {booked ? (
        <button type="button" className="btn min-h-16 text-xl mt-2" disabled={putBack.isPending} onClick={() => putBack.mutate()}>
          {msg`Put it back`}
        </button>
      ) : (
        <button type="button" className="btn btn-primary min-h-16 text-xl mt-2" disabled={book.isPending} onClick={() => book.mutate(uses)}>
          {msg`Take it off the stock`}
        </button>
      )}
      {failure && (
        <p role="alert" className="text-error text-xl font-medium mt-2">
          {failure.message}
        </p>
      )}
    </section>
  );
}
