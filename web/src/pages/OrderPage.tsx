import type { OrderView } from '@kestfog/core/wire';
import { driedThroughText } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { lazy, Suspense, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { ApiFailure } from '../api/client.js';
import { changeOf, type OrderChange } from '../api/order-input.js';
import {
  useBeginRun,
  useDesignChoices,
  useHosts,
  useMakePlan,
  useOrder,
  usePlan,
  useRemoveOrder,
  useSaveOrder,
  useSchools,
} from '../api/queries.js';
import { LessonsOf } from '../features/notebook/Lessons.js';
import { Conflict } from '../features/orders/Conflict.js';
import { dropDraft } from '../features/orders/kept-draft.js';
import { NoPlan } from '../features/orders/NoPlan.js';
import { NotFit } from '../features/orders/NotFit.js';
import { Answer, FirstSteps, OrderDesigns } from '../features/orders/OrderSummary.js';
import { Pairing } from '../features/orders/Pairing.js';
import { PlannedChecks } from '../features/orders/PlannedChecks.js';
import { PlanAhead, Planning } from '../features/orders/Planning.js';
import { Safety, Supplies } from '../features/orders/Reckoning.js';
import { Transfers } from '../features/orders/Transfers.js';
import { TrashRun } from '../features/orders/TrashRun.js';
import { dayClock, dayDate } from '../text/time.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { OrderHead } from '../ui/OrderHead.js';
import { Sections } from '../ui/Sections.js';
import { usePutBack } from '../ui/use-put-back.js';
import { useTitle } from '../ui/use-title.js';
import { Wiping } from '../ui/wiping.js';

/** Most look at an order and do not change it: its form is fetched when it is opened. */
const OrderForm = lazy(async () => ({ default: (await import('../features/orders/OrderForm.js')).OrderForm }));

export function OrderPage() {
  const { orderId = '' } = useParams();
  const order = useOrder(orderId);
  useTitle(order.data?.name ?? null);
  const designs = useDesignChoices();
  const schools = useSchools();
  const plan = usePlan(orderId);
  const make = useMakePlan(orderId);
  const save = useSaveOrder(orderId);
  const remove = useRemoveOrder();
  const begin = useBeginRun(orderId);
  const navigate = useNavigate();
  /** the order as it was when its form was opened */
  const [changing, setChanging] = useState<OrderView | null>(null);
  const putBack = usePutBack('orders');
  // The others are of interest only where a bench may be shared.
  const hosts = useHosts(orderId, changing !== null);

  if (order.isPending || designs.isPending) return <Loading what={msg`getting the order`} />;
  if (order.isError)
    return (
      <div className="pt-10">
        <Notice title={msg`The order could not be read`} tone="closing">
          {order.error.message}{' '}
          <Link to="/orders" className="link">
            {msg`Back to the orders`}
          </Link>
        </Notice>
      </div>
    );
  const o = order.data;
  const planned = o.plan && !o.plan.stale ? plan.data?.plan : undefined;
  const packMs = Date.parse(o.packBy);

  if (changing) {
    const close = () => {
      dropDraft(orderId);
      save.reset();
      setChanging(null);
    };
    const isConflict = save.error instanceof ApiFailure && save.error.code === 'changed-elsewhere';
    return (
      <>
        <h1 className="text-5xl font-semibold pt-6 pb-6">{msg`Change the order`}</h1>
        <Suspense fallback={<Loading what={msg`opening the form`} />}>
          <OrderForm
            form={orderId}
            initial={changeOf(changing)}
            designs={designs.data ?? []}
            hosts={hosts.data ?? []}
            saving={save.isPending}
            failure={save.error && !isConflict ? save.error.message : null}
            onTyped={() => !isConflict && save.reset()}
            submitText={msg`Keep the changes`}
            onSubmit={(input) =>
              save.mutate(
                { ...input, basedOn: changeOf(changing).basedOn ?? changing.revision },
                { onSuccess: close, onError: () => void order.refetch() },
              )
            }
          />
        </Suspense>
        {isConflict && save.variables && (
          <div className="mt-4">
            <Conflict
              mine={save.variables}
              theirs={o}
              busy={order.isFetching}
              onMine={() => save.mutate({ ...(save.variables as OrderChange), basedOn: o.revision }, { onSuccess: close })}
              onTheirs={close}
            />
          </div>
        )}
        <button type="button" className="btn btn-ghost mt-4" onClick={close}>
          {msg`Leave it as it was`}
        </button>
      </>
    );
  }
  return (
    <Wiping value={o.schoolUsed.wiping}>
      <OrderHead order={o} title={o.name}>
        <p className="text-xl">{msgNodes`packed by ${dayDate(packMs)} ${dayClock(packMs, packMs)}`}</p>
      </OrderHead>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-8">
        <NotKeptHere place={`/orders/${o.id}`} />
        {!planned && !o.hostId && <PlanAhead order={o} />}
        {o.hostId ? (
          <Notice title={msg`Worked on the bench of ${o.hostName ?? msg`another order`}`}>
            {msg`Its cookies, trays and hands are planned `}
            <Link to={`/orders/${o.hostId}`} className="link">
              {msg`with that order`}
            </Link>
            {msg`; its own time to be packed counts.`}
          </Notice>
        ) : make.isPending ? (
          <Planning order={o} onStop={make.stop} />
        ) : make.isError ? (
          <NoPlan
            order={o}
            failure={make.error}
            busy={save.isPending}
            onTake={(input) => save.mutate(input, { onSuccess: () => make.mutate() })}
          />
        ) : planned ? (
          <>
            {planned.late && (
              <NotFit
                order={o}
                plan={planned}
                busy={save.isPending}
                onTake={(input) => save.mutate(input, { onSuccess: () => make.mutate() })}
              />
            )}
            <Answer order={o} plan={planned} />
            {planned.driedThrough && <Notice title={msg`Floods beside what has dried through`}>{driedThroughText(planned)}</Notice>}
          </>
        ) : o.plan?.stale ? (
          <Notice title={msg`The order has changed since it was planned`} />
        ) : o.plan ? (
          <Loading what={msg`getting the plan`} />
        ) : (
          <Notice title={msg`Not planned yet`}>{msg`Kestfog works out rounds, waits and the order of hands from the drawings.`}</Notice>
        )}

        <div className="flex flex-wrap gap-3">
          {o.hostId ? (
            <Link to={`/orders/${o.hostId}`} className="btn btn-primary btn-lg text-xl px-8">
              {msg`To that bench`}
            </Link>
          ) : o.run ? (
            <Link to={`/runs/${o.run.id}`} className="btn btn-primary btn-lg text-xl px-8">
              {o.run.finished ? msg`See the finished run` : msg`Back to the bench`}
            </Link>
          ) : planned ? (
            <button
              type="button"
              className={`btn btn-lg text-xl px-8 ${planned.late ? '' : 'btn-primary'}`}
              disabled={begin.isPending}
              onClick={() => begin.mutate(undefined, { onSuccess: (r) => void navigate(`/runs/${r.id}`) })}
            >
              {msg`Go to the bench`}
            </button>
          ) : (
            <button type="button" className="btn btn-primary btn-lg text-xl px-8" disabled={make.isPending} onClick={() => make.mutate()}>
              {msg`Plan it`}
            </button>
          )}
          {planned && (
            <Link to={`/orders/${o.id}/rack`} className="btn btn-lg text-xl">
              {msg`See the rack`}
            </Link>
          )}
          {!o.run && (
            <button
              type="button"
              className="btn btn-ghost btn-lg"
              onClick={() => {
                save.reset();
                setChanging(o);
              }}
            >
              {msg`Change the order`}
            </button>
          )}
          {o.run && <TrashRun order={o} run={o.run} />}
          <Link to={`/orders/new?from=${o.id}`} className="btn btn-ghost btn-lg">
            {msg`The same again`}
          </Link>
          <button
            type="button"
            className="btn btn-ghost btn-lg"
            disabled={remove.isPending}
            onClick={() =>
              remove.mutate(
                { id: o.id, name: o.name },
                {
                  onSuccess: () => {
                    putBack({ id: o.id, name: o.name }, o.run ? msg`Its plan and its run lie there with it.` : undefined);
                    void navigate('/orders');
                  },
                },
              )
            }
          >
            {msg`Delete`}
          </button>
        </div>
        {begin.isError && (
          <Notice title={msg`The bench cannot open yet`} tone="closing">
            {begin.error.message}
          </Notice>
        )}
        {remove.isError && (
          <Notice title={msg`It was not deleted`} tone="closing">
            {remove.error.message}
          </Notice>
        )}
        <Sections
          parts={[
            ...(planned
              ? ([
                  ['safety', msg`how safe it is`],
                  ['checks', msg`what may go wrong`],
                ] as const)
              : []),
            ['cookies', msg`the cookies`],
            ...(planned
              ? ([
                  ['first', msg`what comes first`],
                  ['supplies', msg`supplies and cost`],
                ] as const)
              : []),
          ]}
        />
        {planned && plan.data && (
          <div id="safety">
            <Safety planId={plan.data.id} plan={planned} />
          </div>
        )}
        {planned && plan.data && (
          <div id="checks">
            <PlannedChecks
              planId={plan.data.id}
              plan={planned}
              busy={save.isPending || make.isPending}
              onStays={
                o.run
                  ? null
                  : (stays) => {
                      const input = changeOf(o);
                      save.mutate({ ...input, pins: [...input.pins, ...stays] }, { onSuccess: () => make.mutate() });
                    }
              }
            />
          </div>
        )}
        {o.notes !== '' && <p className="text-xl whitespace-pre-line border-l-4 border-base-300 pl-4">{o.notes}</p>}
        <section id="cookies">
          <h2 className="text-2xl font-semibold mb-4">{msg`Cookies`}</h2>
          <LessonsOf
            designs={(designs.data ?? []).filter((d) => o.designs.some((x) => x.designId === d.id)).map((d) => d.name)}
            school={schools.data?.find((x) => x.id === o.school)?.label}
          />
          <OrderDesigns
            order={o}
            designs={designs.data ?? []}
            saving={save.isPending}
            onNewest={(designId) => {
              const input = changeOf(o);
              save.mutate({
                ...input,
                designs: input.designs.map((d) =>
                  d.designId === designId ? { ...d, version: o.designs.find((x) => x.designId === designId)?.latest ?? 1 } : d,
                ),
              });
            }}
          />
          <Pairing order={o} designs={designs.data ?? []} />
        </section>
        {planned && (
          <section id="first">
            <h2 className="text-2xl font-semibold mb-2">{msg`First`}</h2>
            <FirstSteps plan={planned} />
          </section>
        )}
        <Transfers order={o} designs={designs.data ?? []} />
        {planned && (
          <div id="supplies">
            <Supplies plan={planned} />
          </div>
        )}
      </div>
    </Wiping>
  );
}
