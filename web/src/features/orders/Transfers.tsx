import { type Design, linesOf, marksOf } from '@kestfog/core/design';
import { suggestedSpares } from '@kestfog/core/planning';
import type { DesignSummary, OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { inputOfView } from '../../api/order-input.js';
import { useMakeOrder } from '../../api/queries.js';
import { dayClock } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { transferOrder } from './order-draft.js';

/** Pieces one cookie takes: what is glued on, laid in wet, or put together from two. */
const piecesOf = (design: Design): number =>
  linesOf(design).reduce((n, l) => n + (l.technique === 'glued-transfer' ? 1 : l.technique === 'assembly' ? 2 : 0), 0) +
  marksOf(design).filter((m) => m.technique === 'lay-in').length;

/** Pieces counted over the whole order, those of its guests that are pieces themselves left out. */
export const transfersNeeded = (order: Pick<OrderView, 'designs'>): number =>
  order.designs.reduce((s, d) => s + (d.guestOf?.pieces ? 0 : (d.count + d.spares) * piecesOf(d.drawing)), 0);

/** Transfers dry for most of a day: they are a small order of their own, the day before. */
export function Transfers({ order, designs }: { readonly order: OrderView; readonly designs: readonly DesignSummary[] }) {
  const save = useMakeOrder();
  const navigate = useNavigate();
  const pieces = transfersNeeded(order);
  const choices = designs.filter((d) => d.transfer);
  const [chosen, setChosen] = useState(choices[0]?.id ?? '');
  if (pieces === 0) return null;
  const spares = suggestedSpares({ steps: [] }, pieces, true);
  return (
    <section aria-label={msg`Transfers`}>
      <h2 className="text-2xl font-semibold mb-2">{msg`Transfers`}</h2>
      <p className="text-lg">
        {msgNodes`${pieces} are put on, and ${spares} spares are usual. They need 12 to 18 hours on parchment before they lift, and
          nothing is planned with them before that.`}
      </p>
      {order.transfers.length > 0 && (
        <ul className="mt-2 grid gap-1 text-lg">
          {order.transfers.map((t) => (
            <li key={t.id}>
              <Link to={`/orders/${t.id}`} className="link">
                {t.name}
              </Link>
              {msgNodes`: ${t.pieces} and ${t.spares} spare${t.shared ? msg`, on this bench` : ''}; `}
              {t.liftAt
                ? msg`lifted ${dayClock(Date.parse(t.liftAt))}`
                : t.shared
                  ? msg`planned with this order`
                  : msg`not planned yet, so counted on for when they are due`}
              {t.pieces < pieces && order.transfers.length === 1 && <b>{msgNodes` (${pieces - t.pieces} short)`}</b>}
            </li>
          ))}
        </ul>
      )}
      {choices.length === 0 ? (
        <p className="text-lg mt-2">{msg`There is no design that is a transfer: mark one as such in Designs, and it can be ordered from
          here.`}</p>
      ) : (
        <div className="flex flex-wrap gap-3 items-end mt-2">
          <label className="grid gap-1">
            <span className="text-lg">{msg`which`}</span>
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
            onClick={() =>
              save.mutate(transferOrder(inputOfView(order), order.id, chosen, pieces, spares), {
                onSuccess: ({ id, waits }) => void navigate(waits ? '/orders' : `/orders/${id}`),
              })
            }
          >
            {msg`Make them the day before`}
          </button>
          {order.hostId === null && !order.run && (
            <button
              type="button"
              className="btn btn-lg"
              disabled={save.isPending}
              onClick={() => save.mutate(transferOrder(inputOfView(order), order.id, chosen, pieces, spares, true))}
            >
              {msg`Make them on this bench`}
            </button>
          )}
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
