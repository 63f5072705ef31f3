import { cookiesMade } from '@kestfog/core/formats';
import { COUNTING_SPREAD, WEIGHED_SPREAD } from '@kestfog/core/icing';
import { orderBags } from '@kestfog/core/planning';
import type { OrderInput } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMemo } from 'react';
import { Link, NavLink, useParams } from 'react-router';
import { changeOf } from '../api/order-input.js';
import { useKitchen, useOrder, useSaveOrder, useThinningSteps, useTouches } from '../api/queries.js';
import { useFactors } from '../api/use-making.js';
import { useCounting } from '../app/counting.js';
import { AirPanel } from '../features/icing/AirPanel.js';
import { Bags } from '../features/icing/Bags.js';
import { DryingExplorer } from '../features/icing/DryingExplorer.js';
import { Mixing } from '../features/icing/Mixing.js';
import { WAY_WORDS } from '../features/icing/OwnCount.js';
import { Thinning } from '../features/icing/Thinning.js';
import { Touches } from '../features/icing/Touches.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { OrderHead } from '../ui/OrderHead.js';
import { useTitle } from '../ui/use-title.js';
import { NotFoundPage } from './NotFoundPage.js';

const PARTS = { '': msg`bags to mix`, mixing: msg`bowl by bowl`, count: msg`count and thin`, air: msg`air and drying` } as const;
type Part = keyof typeof PARTS;

const isPart = (part: string): part is Part => part in PARTS;

/** Everything about the icing of one order, in parts: what to mix, bowl by bowl, count and thin, air and drying. */
export function IcingPage() {
  const { orderId = '', part = '' } = useParams();
  const order = useOrder(orderId);
  useTitle(order.data ? msg`Icing of ${order.data.name}` : null);
  const kitchen = useKitchen();
  const touches = useTouches();
  const steps = useThinningSteps();
  const merge = useSaveOrder(orderId);
  const breathe = useSaveOrder(orderId);
  const counting = useCounting();
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
  if (!isPart(part)) return <NotFoundPage />;
  if (failure)
    return (
      <div className="pt-10">
        <Notice title={msg`The icing could not be worked out`} tone="closing">
          {failure.message}{' '}
          <Link to="/orders" className="link">
            {msg`Back to the orders`}
          </Link>
        </Notice>
      </div>
    );
  if (!order.data || !bags || !kitchen.data) return <Loading what={msg`adding up the bags`} />;
  const o = order.data;
  const change = (more: Partial<OrderInput>) => ({ ...changeOf(o), ...more });
  return (
    <>
      <OrderHead order={o} title={msg`Icing`}>
        <nav aria-label={msg`Parts of this place`} className="no-print flex flex-wrap gap-2">
          {Object.entries(PARTS).map(([id, label]) => (
            <NavLink
              key={id}
              end
              preventScrollReset
              to={`/orders/${orderId}/icing${id && `/${id}`}`}
              className={({ isActive }) => `btn text-lg ${isActive ? 'btn-neutral' : 'btn-ghost'}`}
            >
              {label}
            </NavLink>
          ))}
        </nav>
      </OrderHead>
      <NotKeptHere place={`/orders/${orderId}/icing`} />
      {o.plan?.stale && (
        <div className="mb-6">
          <Notice title={msg`The plan does not know this yet`}>
            {msg`A bag was counted, a touch was reported, the air or the order has changed since it was made: `}
            <Link to={`/orders/${orderId}`} className="link">
              {msg`plan it again`}
            </Link>
            {msg` and the waits follow.`}
          </Notice>
        </div>
      )}
      {part === '' && (
        <Bags
          bags={bags}
          order={o}
          designs={drawings}
          onMerge={(merges) => merge.mutate(change({ merges }))}
          merging={{ pending: merge.isPending, failure: merge.error?.message ?? null }}
        />
      )}
      {part === 'mixing' && <Mixing bags={bags} order={o} />}
      {part === 'count' && (
        <div className="max-w-4xl">
          <Thinning key={kitchen.data.floodCount} bags={bags} order={o} />
          <p className="text-lg mt-8">
            {msgNodes`Your flood counts ${counting.text(15)}, by ${WAY_WORDS[kitchen.data.countsBy]}: `}
            <Link to="/kitchen#count" className="link">
              {msg`said in the kitchen`}
            </Link>
            .
          </p>
        </div>
      )}
      {part === 'air' && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-12">
          <AirPanel
            order={o}
            saving={breathe.isPending}
            failure={breathe.error?.message ?? null}
            onAir={(air, fan) => breathe.mutate(change({ air, fan }))}
          />
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
            {(question, air) => <Touches question={question} air={air} factors={factors} />}
          </DryingExplorer>
        </div>
      )}
    </>
  );
}
