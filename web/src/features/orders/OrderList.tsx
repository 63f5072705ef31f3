import type { OrderSummary } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { Link } from 'react-router';
import { dayClock, dayDate, span } from '../../text/time.js';
import { DesignPicture } from '../../ui/DesignPicture.js';
import { msgNodes } from '../../ui/msg-nodes.js';

/** What is due, soonest first. */
export function OrderList({ orders }: { readonly orders: readonly OrderSummary[] }) {
  return (
    <ul className="divide-y divide-base-300 border-y border-base-300">
      {orders.map((o) => (
        <li key={o.id}>
          <Link
            to={`/orders/${o.id}`}
            className="grid md:grid-cols-[15rem_1fr_auto] gap-x-10 gap-y-2 items-center py-5 hover:bg-base-200 -mx-4 px-4 rounded-box"
          >
            <Pictures order={o} />
            <div>
              <h2 className="text-3xl font-semibold">{o.name}</h2>
              <p className="text-xl mt-1">
                {msgNodes`${o.cookies} cookies on ${o.trays} ${plural(o.trays, 'tray', 'trays')}, packed by
                  ${dayDate(Date.parse(o.packBy))} ${dayClock(Date.parse(o.packBy), Date.parse(o.packBy))}`}
              </p>
            </div>
            <p className="text-xl md:text-right">{statusText(o)}</p>
          </Link>
        </li>
      ))}
    </ul>
  );
}

/** All at one scale beside each other; of many designs smaller, in two rows. */
const FEW = 3;
function Pictures({ order }: { readonly order: OrderSummary }) {
  const many = order.designs.length > FEW;
  return (
    <div className={`flex flex-wrap items-end min-h-28 ${many ? 'gap-2' : 'gap-4'}`}>
      {order.designs.map((d, i) => (
        <DesignPicture
          key={`${i} ${d.designId}`}
          of={d}
          pxPerMm={many ? 0.52 : 1.05}
          className="max-w-32 shrink-0"
          label={`${d.name}, ${d.count}`}
        />
      ))}
    </div>
  );
}

function statusText(o: OrderSummary): string {
  if (o.hostId) return msg`on the bench of ${o.hostName ?? msg`another order`}`;
  if (o.run?.finished) return msg`packed`;
  if (o.run) return msg`at the bench: ${o.run.done} of ${o.run.total} done`;
  if (!o.plan) return msg`not planned yet`;
  if (o.plan.stale) return msg`changed since it was planned`;
  const early = (Date.parse(o.packBy) - Date.parse(o.plan.endsAt)) / 1000;
  return o.plan.lateS > 0 ? msg`does not fit: packed ${span(o.plan.lateS)} late` : msg`fits, packed ${span(early)} early`;
}
