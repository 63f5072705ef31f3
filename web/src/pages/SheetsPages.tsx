import { Link, useParams } from 'react-router';
import { useDesign, useKitchen, useOrder, usePlan, useSchools } from '../api/queries.js';
import { DesignSheets } from '../features/sheets/DesignSheets.js';
import { OrderSheets } from '../features/sheets/OrderSheets.js';
import { Printing } from '../features/sheets/Printing.js';
import { Loading, Notice } from '../ui/Notice.js';
import { OrderHead } from '../ui/OrderHead.js';
import { useTitle } from '../ui/use-title.js';

/** Paper, a calendar and tables of one order. */
export function OrderSheetsPage() {
  const { orderId = '' } = useParams();
  const order = useOrder(orderId);
  const plan = usePlan(orderId);
  const kitchen = useKitchen();
  useTitle(order.data ? `Sheets of ${order.data.name}` : null);
  const failure = order.error ?? kitchen.error;
  if (failure && !order.data) return <Missing title="The sheets could not be made" text={failure.message} to="/orders" back="Back to the orders" />;
  if (!order.data || !kitchen.data || plan.isPending) return <Loading what="getting the order" />;
  return (
    <>
      <OrderHead order={order.data} title="Sheets" />
      {plan.data && order.data.plan?.stale && (
        <div className="mb-5">
          <Notice title="The order was changed since it was planned" tone="closing">
            What is printed here is the plan from before.{' '}
            <Link to={`/orders/${orderId}`} className="link">
              Plan it again
            </Link>
          </Notice>
        </div>
      )}
      {plan.data ? (
        <OrderSheets order={order.data} planned={plan.data} kitchen={kitchen.data} />
      ) : (
        <Notice title="There is nothing to print yet" tone="closing">
          {plan.error?.message ?? 'The order has no plan.'}{' '}
          <Link to={`/orders/${orderId}`} className="link">
            Plan it first
          </Link>
        </Notice>
      )}
    </>
  );
}

/** Paper of true size for one design. */
export function DesignSheetsPage() {
  const { designId = '' } = useParams();
  const design = useDesign(designId);
  const schools = useSchools();
  useTitle(design.data ? `Sheets of ${design.data.name}` : null);
  if (design.isError && !design.data)
    return <Missing title="The design could not be read" text={design.error.message} to="/designs" back="Back to the designs" />;
  const school = schools.data?.find((s) => s.id === 'two-bags') ?? schools.data?.[0];
  if (!design.data || !school) return <Loading what="getting the design" />;
  return (
    <>
      <p className="pt-2 text-lg">
        <Link to={`/designs/${designId}`} className="link link-hover">
          {design.data.name}
        </Link>
      </p>
      <h1 className="text-4xl font-semibold mb-5">Sheets</h1>
      <DesignSheets design={design.data.drawing} school={school} />
    </>
  );
}

/** Circles that are traced round, mm: *assumed*, common sizes of couplers, wheels and small cutters. */
const CIRCLES_MM = [10, 20, 24, 30, 40, 50] as const;

/** Bars, circles and marks to hold beads, openings and dough against. */
export function GaugesPage() {
  const kitchen = useKitchen();
  useTitle('Gauges');
  if (!kitchen.data) return <Loading what="getting the kitchen" />;
  return (
    <>
      <p className="pt-2 text-lg">
        <Link to="/kitchen" className="link link-hover">
          Kitchen
        </Link>
      </p>
      <h1 className="text-4xl font-semibold mb-5">Gauges</h1>
      <Printing ask={{ kind: 'gauges', tips: kitchen.data.tips, circlesMm: CIRCLES_MM }} name="Kestfog" trueSize what="gauges">
        <p className="text-lg">Bars as thick as beads, the openings of your tips, circles to trace round, heights for dough.</p>
      </Printing>
    </>
  );
}

function Missing({ title, text, to, back }: { readonly title: string; readonly text: string; readonly to: string; readonly back: string }) {
  return (
    <div className="pt-10">
      <Notice title={title} tone="closing">
        {text}{' '}
        <Link to={to} className="link">
          {back}
        </Link>
      </Notice>
    </div>
  );
}
