import { linesOf } from '@kestfog/core/design';
import { suggestedSpares } from '@kestfog/core/planning';
import type { DesignSummary, OrderView } from '@kestfog/core/wire';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { inputOfView } from '../../api/order-input.js';
import { useSaveOrder } from '../../api/queries.js';
import { transferOrder } from './order-draft.js';

/** Pieces that are glued on, counted over the whole order. */
export const transfersNeeded = (order: Pick<OrderView, 'designs'>): number =>
  order.designs.reduce((s, d) => s + (d.count + d.spares) * linesOf(d.drawing).filter((l) => l.technique === 'glued-transfer').length, 0);

/** Transfers dry for most of a day: they are a small order of their own, the day before. */
export function Transfers({ order, designs }: { readonly order: OrderView; readonly designs: readonly DesignSummary[] }) {
  const save = useSaveOrder();
  const navigate = useNavigate();
  const pieces = transfersNeeded(order);
  const choices = designs.filter((d) => d.drawing.transfer);
  const [chosen, setChosen] = useState(choices[0]?.id ?? '');
  if (pieces === 0) return null;
  const spares = suggestedSpares({ steps: [] }, pieces, true);
  return (
    <section aria-label="Transfers">
      <h2 className="text-2xl font-semibold mb-2">Transfers</h2>
      <p className="text-lg">
        {pieces} are glued on, and {spares} spares are usual. They need 12 to 18 hours on parchment before they lift, so they are piped the day before.
      </p>
      {choices.length === 0 ? (
        <p className="text-lg mt-2">There is no design that is a transfer: mark one as such in Designs, and it can be ordered from here.</p>
      ) : (
        <div className="flex flex-wrap gap-3 items-end mt-2">
          <label className="grid gap-1">
            <span className="text-lg">which</span>
            <select className="select select-lg w-64" value={chosen} onChange={(e) => setChosen(e.target.value)}>
              {choices.map((d) => (
                <option key={d.id} value={d.id}>
                  {d.name}
                </option>
              ))}
            </select>
          </label>
          <button
            type="button"
            className="btn btn-lg"
            disabled={save.isPending}
            onClick={() => save.mutate(transferOrder(inputOfView(order), chosen, pieces, spares), { onSuccess: (o) => void navigate(`/orders/${o.id}`) })}
          >
            Make them an order of their own
          </button>
        </div>
      )}
      {save.isError && (
        <p role="alert" className="text-error font-medium mt-2 text-lg">
          {save.error.message}
        </p>
      )}
    </section>
  );
}
