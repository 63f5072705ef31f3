import { Link, useParams } from 'react-router';
import { usePlan } from '../api/queries.js';
import { Rack, rackDates } from '../features/rack/Rack.js';
import { Loading, Notice } from '../ui/Notice.js';

export function RackPage() {
  const { orderId = '' } = useParams();
  const plan = usePlan(orderId);
  return (
    <>
      <p className="pt-4 text-lg no-print">
        <Link to={`/orders/${orderId}`} className="link link-hover">
          {plan.data?.orderName ?? 'The order'}
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6 mb-3">
        <h1 className="text-5xl font-semibold">Rack</h1>
        {plan.data && <p className="text-xl">{rackDates(plan.data.plan)}</p>}
        {plan.data && (
          <button type="button" className="btn btn-ghost no-print" onClick={() => window.print()}>
            Print
          </button>
        )}
      </div>
      {plan.isPending && <Loading what="getting the plan" />}
      {plan.isError && (
        <Notice title="There is no rack to show" tone="closing">
          {plan.error.message}{' '}
          <Link to={`/orders/${orderId}`} className="link">
            To the order
          </Link>
        </Notice>
      )}
      {plan.data && <Rack plan={plan.data.plan} />}
    </>
  );
}
