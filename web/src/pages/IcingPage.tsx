import { orderBags } from '@kestfog/core';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { useDesigns, useOrder } from '../api/queries.js';
import { Bags } from '../features/icing/Bags.js';
import { DryingExplorer } from '../features/icing/DryingExplorer.js';
import { Thinning } from '../features/icing/Thinning.js';
import { Loading, Notice } from '../ui/Notice.js';

export function IcingPage() {
  const { orderId = '' } = useParams();
  const order = useOrder(orderId);
  const designs = useDesigns();
  const drawings = useMemo(
    () => (designs.data ?? []).filter((d) => order.data?.designs.some((x) => x.designId === d.id)).map((d) => d.drawing),
    [order.data, designs.data],
  );
  const bags = useMemo(() => {
    if (!order.data || !designs.data) return null;
    const items = order.data.designs.flatMap((d) => {
      const design = designs.data.find((x) => x.id === d.designId);
      return design ? [{ design: design.drawing, count: d.count }] : [];
    });
    return orderBags(items, order.data.school);
  }, [order.data, designs.data]);
  if (order.isError || designs.isError)
    return (
      <div className="pt-10">
        <Notice title="The icing could not be worked out" tone="closing">
          {(order.error ?? designs.error)?.message}{' '}
          <Link to="/orders" className="link">
            Back to the orders
          </Link>
        </Notice>
      </div>
    );
  if (!order.data || !bags) return <Loading what="adding up the bags" />;
  return (
    <>
      <p className="pt-4 text-lg">
        <Link to={`/orders/${orderId}`} className="link link-hover">
          {order.data.name}
        </Link>
      </p>
      <h1 className="text-5xl font-semibold mb-6">Icing</h1>
      {order.data.plan?.stale && (
        <div className="mb-6">
          <Notice title="The plan does not know this yet">
            A bag was counted since it was made, or the order has changed:{' '}
            <Link to={`/orders/${orderId}`} className="link">
              plan it again
            </Link>{' '}
            and the waits follow.
          </Notice>
        </div>
      )}
      <div className="grid gap-12">
        <div className="grid xl:grid-cols-[3fr_2fr] gap-12">
          <Bags bags={bags} order={order.data} designs={drawings} />
          <Thinning />
        </div>
        <DryingExplorer
          start={{
            seconds: 15,
            depthMm: 2.5,
            tempC: Math.min(35, Math.max(10, order.data.air.tempC)),
            humidityPct: Math.min(90, Math.max(20, order.data.air.humidityPct)),
            help: 'none',
          }}
        />
      </div>
    </>
  );
}
