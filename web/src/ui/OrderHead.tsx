import type { OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import type { ReactNode } from 'react';
import { Link, NavLink } from 'react-router';

const placeClass = ({ isActive }: { isActive: boolean }) => `py-2 ${isActive ? 'underline underline-offset-8 decoration-2' : 'link-hover'}`;

interface Props {
  readonly order: Pick<OrderView, 'id' | 'name' | 'plan' | 'run' | 'hostId'>;
  /** what is looked at; the order's own page is named by its order */
  readonly title: string;
  readonly children?: ReactNode;
}

/** Which order this is, and its places: one touch from each to every other. */
export function OrderHead({ order, title, children }: Props) {
  const at = `/orders/${order.id}`;
  return (
    <header className="pt-3 mb-5">
      <nav aria-label={msg`Places of this order`} className="no-print flex flex-wrap items-center gap-x-5 text-lg">
        {title !== order.name && (
          <Link to={at} className="link link-hover py-2 max-w-xs truncate">
            {order.name}
          </Link>
        )}
        {order.plan && !order.plan.stale && !order.hostId && (
          <NavLink to={`${at}/rack`} className={placeClass}>
            {msg`Rack`}
          </NavLink>
        )}
        <NavLink to={`${at}/icing`} className={placeClass}>
          {msg`Icing`}
        </NavLink>
        {order.plan && (
          <>
            <NavLink to={`${at}/sheets`} className={placeClass}>
              {msg`Sheets`}
            </NavLink>
            <NavLink to={`${at}/rehearse`} className={placeClass}>
              {msg`Rehearse`}
            </NavLink>
          </>
        )}
        {order.run && (
          <NavLink to={`/runs/${order.run.id}`} className={placeClass}>
            {msg`Bench`}
          </NavLink>
        )}
      </nav>
      <div className="flex flex-wrap items-baseline gap-x-8 gap-y-2">
        <h1 className="text-5xl font-semibold min-w-0 break-words">{title}</h1>
        {title !== order.name && <p className="on-paper text-xl">{order.name}</p>}
        {children}
      </div>
    </header>
  );
}
