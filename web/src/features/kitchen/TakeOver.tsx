import type { OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { fetchOrdersAhead, useChangeOrders } from '../../api/queries.js';
import { dayClock } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { say } from '../../ui/toasts.js';
import { type FromKitchen, taken, toTakeOver, wordsOf } from './taken-over.js';

interface Props {
  readonly before: FromKitchen;
  readonly after: FromKitchen;
  readonly onClose: () => void;
}

/** Asks which open orders the kitchen's change shall reach; says nothing where there are none, or while they cannot be read. */
export function TakeOver({ before, after, onClose }: Props) {
  const orders = useQuery({ queryKey: ['orders', 'ahead'], queryFn: fetchOrdersAhead, gcTime: 0, staleTime: 0 });
  const change = useChangeOrders();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const fieldsOf = (o: OrderView) => toTakeOver(o, before, after);
  const could = (orders.data ?? []).filter((o) => fieldsOf(o).length > 0);
  if (could.length === 0) return null;
  const chosen = could.filter((o) => !left.has(o.id));
  return (
    <Sheet title={msg`Take it over in open orders?`} onClose={onClose}>
      <p>{msg`These are not begun, and still have what you just changed as the kitchen had it before.`}</p>
      <ul className="mt-3 divide-y divide-base-300 border-y border-base-300">
        {could.map((o) => (
          <li key={o.id}>
            <label className="flex flex-wrap items-center gap-x-4 py-2 min-h-16">
              <input
                type="checkbox"
                className="checkbox checkbox-lg"
                checked={!left.has(o.id)}
                onChange={(e) => setLeft(new Set(e.target.checked ? [...left].filter((x) => x !== o.id) : [...left, o.id]))}
              />
              <b className="font-semibold">{o.name}</b>
              <span>{msgNodes`${wordsOf(fieldsOf(o))}; packed by ${dayClock(Date.parse(o.packBy))}`}</span>
            </label>
          </li>
        ))}
      </ul>
      {change.isError && (
        <p role="alert" className="text-error font-medium mt-3">
          {change.error.message}
        </p>
      )}
      <div className="flex flex-wrap gap-3 mt-4">
        <button
          type="button"
          className="btn btn-primary min-h-16 text-xl"
          disabled={chosen.length === 0 || change.isPending}
          onClick={() =>
            change.mutate(
              { orders: chosen, change: (o) => taken(o, fieldsOf(o), after) },
              {
                onSuccess: () => {
                  say(msg`Taken over in ${chosen.length === 1 ? msg`one order: plan it` : msg`${chosen.length} orders: plan them`} again.`);
                  onClose();
                },
              },
            )
          }
        >
          {msg`Take it over`}
        </button>
        <button type="button" className="btn min-h-16 text-xl" onClick={onClose}>
          {msg`Leave them as they are`}
        </button>
      </div>
    </Sheet>
  );
}
