import { cookiesMade } from '@kestfog/core/formats';
import { COUNTING_SPREAD, WEIGHED_SPREAD } from '@kestfog/core/icing';
import { orderBags } from '@kestfog/core/planning';
import type { OrderInput } from '@kestfog/core/wire';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { changeOf } from '../api/order-input.js';
import { useKitchen, useOrder, useSaveOrder, useThinningSteps, useTouches } from '../api/queries.js';
import { useFactors } from '../api/use-making.js';
import { AirPanel } from '../features/icing/AirPanel.js';
import { Bags } from '../features/icing/Bags.js';
import { DryingExplorer } from '../features/icing/DryingExplorer.js';
import { OwnCount } from '../features/icing/OwnCount.js';
import { Paces } from '../features/icing/Paces.js';
import { Thinning } from '../features/icing/Thinning.js';
import { Touches } from '../features/icing/Touches.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { useTitle } from '../ui/use-title.js';

const PARTS = [
  ['bags', 'bags to mix'],
  ['thinning', 'thinning'],
  ['air', 'the air'],
  ['drying', 'how long it dries'],
] as const;

export function IcingPage() {
  const { orderId = '' } = useParams();
  const order = useOrder(orderId);
  useTitle(order.data ? `Icing of ${order.data.name}` : null);
  const kitchen = useKitchen();
  const touches = useTouches();
  const steps = useThinningSteps();
  const merge = useSaveOrder(orderId);
  const breathe = useSaveOrder(orderId);
  const drawings = useMemo(() => (order.data?.designs ?? []).map((d) => d.drawing), [order.data]);
  const bags = useMemo(
    () =>
      order.data
        ? orderBags(
            order.data.designs.map((d) => ({ design: d.drawing, count: cookiesMade(d) })),
            order.data.schoolUsed,
            order.data.merges,
            kitchen.data?.tips,
          )
        : null,
    [order.data, kitchen.data],
  );
  const factors = useFactors();
  const failure = order.error ?? kitchen.error ?? touches.list.error;
  if (failure)
    return (
      <div className="pt-10">
        <Notice title="The icing could not be worked out" tone="closing">
          {failure.message}{' '}
          <Link to="/orders" className="link">
            Back to the orders
          </Link>
        </Notice>
      </div>
    );
  if (!order.data || !bags || !kitchen.data) return <Loading what="adding up the bags" />;
  const o = order.data;
  const change = (more: Partial<OrderInput>) => ({ ...changeOf(o), ...more });
  return (
    <>
      <p className="pt-4 text-lg">
        <Link to={`/orders/${orderId}`} className="link link-hover">
          {o.name}
        </Link>
      </p>
      <NotKeptHere place={`/orders/${orderId}/icing`} />
      <div className="flex flex-wrap items-baseline gap-x-8 gap-y-2 mb-6">
        <h1 className="text-5xl font-semibold">Icing</h1>
        <nav aria-label="Parts of this place" className="flex flex-wrap gap-x-6 text-lg">
          {PARTS.map(([id, label]) => (
            <a key={id} href={`#${id}`} className="link py-2">
              {label}
            </a>
          ))}
        </nav>
      </div>
      {o.plan?.stale && (
        <div className="mb-6">
          <Notice title="The plan does not know this yet">
            A bag was counted, a touch was reported, the air or the order has changed since it was made:{' '}
            <Link to={`/orders/${orderId}`} className="link">
              plan it again
            </Link>{' '}
            and the waits follow.
          </Notice>
        </div>
      )}
      <div className="grid gap-14">
        <div className="grid grid-cols-[minmax(0,1fr)] xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-12 items-start">
          <div id="bags">
            <Bags
              bags={bags}
              order={o}
              designs={drawings}
              onMerge={(merges) => merge.mutate(change({ merges }))}
              merging={{ pending: merge.isPending, failure: merge.error?.message ?? null }}
            />
          </div>
          <div className="grid grid-cols-[minmax(0,1fr)] gap-12">
            <div id="thinning">
              <Thinning key={kitchen.data.floodCount} bags={bags} order={o} />
            </div>
            <OwnCount />
          </div>
        </div>
        <div id="air">
          <AirPanel order={o} saving={breathe.isPending} failure={breathe.error?.message ?? null} onAir={(air, fan) => breathe.mutate(change({ air, fan }))} />
        </div>
        <div id="drying" className="grid grid-cols-[minmax(0,1fr)] gap-10">
          <DryingExplorer
            key={`${o.air.tempC} ${o.air.humidityPct}`}
            kitchen={kitchen.data}
            factors={factors}
            countSpread={steps.list.data?.some((x) => x.recipe === kitchen.data.recipe) ? WEIGHED_SPREAD : COUNTING_SPREAD}
            start={{
              seconds: 15,
              depthMm: 2.5,
              tempC: Math.min(35, Math.max(10, o.air.tempC)),
              humidityPct: Math.min(90, Math.max(20, o.air.humidityPct)),
              help: 'none',
              on: 'cookie',
              margin: o.margin,
            }}
          >
            {(question, air) => (
              <>
                <Touches question={question} air={air} factors={factors} />
                <Paces />
              </>
            )}
          </DryingExplorer>
        </div>
      </div>
    </>
  );
}
