import { Link } from 'react-router';
import { useOrders } from '../api/queries.js';
import { OrderList } from '../features/orders/OrderList.js';
import { Loading, Notice } from '../ui/Notice.js';

export function OrdersPage() {
  const orders = useOrders();
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-6 pt-6 pb-6">
        <h1 className="text-5xl font-semibold">Orders</h1>
        <Link to="/orders/new" className="btn btn-lg">
          New order
        </Link>
      </div>
      {orders.isPending && <Loading what="looking up what is due" />}
      {orders.isError && (
        <Notice title="The orders could not be read" tone="closing">
          {orders.error.message}{' '}
          <button type="button" className="link" onClick={() => void orders.refetch()}>
            Try again
          </button>
        </Notice>
      )}
      {orders.data?.length === 0 && (
        <Notice title="Nothing is due">
          Bring a drawing and say how many and by when:{' '}
          <Link to="/orders/new" className="link">
            make the first order
          </Link>
          .
        </Notice>
      )}
      {orders.data && orders.data.length > 0 && <OrderList orders={orders.data} />}
    </>
  );
}
