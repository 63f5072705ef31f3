import type { Plan } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useMakePlan, useOrder, usePlan, useSaveOrder } from '../api/queries.js';
import { useLooked } from '../app/use-looked.js';
import { inputFromFile } from '../features/orders/fit.js';
import { Rack, rackDates } from '../features/rack/Rack.js';
import { WHAT_IF, WhatIfPanel } from '../features/rack/WhatIfPanel.js';
import { asPlanned, type WhatIf, withPin } from '../features/rack/what-if.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { useSteady } from '../ui/use-steady.js';
import { useTitle } from '../ui/use-title.js';

export function RackPage() {
  const { orderId = '' } = useParams();
  const plan = usePlan(orderId);
  const order = useOrder(orderId);
  useTitle(plan.data ? msg`Rack of ${plan.data.orderName}` : null);
  const [looked, look] = useLooked<'step'>();
  const onChosen = useSteady((step: string) => {
    if (step !== looked('step')) look({ step });
  });
  const save = useSaveOrder(orderId);
  const make = useMakePlan(orderId);
  const [tried, setTried] = useState<Plan | null>(null);
  const [changed, setChanged] = useState<{ readonly of: string; readonly what: WhatIf } | null>(null);
  // Once the run has begun, or the plan no longer fits the order, there is nothing to compare with.
  const mayTry = plan.data !== undefined && order.data !== undefined && !order.data.run && !order.data.plan?.stale;
  // What is tried belongs to one plan; another plan begins anew.
  const what = plan.data && (changed?.of === plan.data.id ? changed.what : asPlanned(plan.data.plan.order));
  const onWhat = (next: WhatIf) => plan.data && setChanged({ of: plan.data.id, what: next });
  return (
    <>
      {!plan.data && <h1 className="text-3xl font-semibold pt-2">{msg`Rack`}</h1>}
      {plan.isPending && <Loading what={msg`getting the plan`} />}
      {plan.isError && (
        <Notice title={msg`There is no rack to show`} tone="closing">
          {plan.error.message}{' '}
          <Link to={`/orders/${orderId}`} className="link">
            {msg`To the order`}
          </Link>
        </Notice>
      )}
      {plan.data && what && (
        <Rack
          plan={tried ?? plan.data.plan}
          serverNowMs={plan.data.serverNowMs}
          first={looked('step')}
          onChosen={onChosen}
          onPin={
            mayTry
              ? (pin) => {
                  onWhat({ ...what, pins: withPin(what.pins, pin) });
                  document.getElementById(WHAT_IF)?.scrollIntoView({ block: 'end' });
                }
              : null
          }
        >
          <h1 className="text-3xl font-semibold">
            {msgNodes`Rack ${<span className="sr-only">{msgNodes`of ${plan.data.orderName}`}</span>}`}
          </h1>
          <Link to={`/orders/${orderId}`} className="link link-hover text-lg max-w-52 truncate">
            {plan.data.orderName}
          </Link>
          <Link to={`/orders/${orderId}/icing`} className="link link-hover text-lg">
            {msg`Icing`}
          </Link>
          <Link to={`/orders/${orderId}/sheets`} className="link link-hover text-lg">
            {msg`Sheets`}
          </Link>
          <Link to={`/orders/${orderId}/rehearse`} className="link link-hover text-lg">
            {msg`Rehearse`}
          </Link>
          {order.data?.run && (
            <Link to={`/runs/${order.data.run.id}`} className="link link-hover text-lg">
              {msg`Bench`}
            </Link>
          )}
          <span className="text-base opacity-85">{tried ? msg`as it would be` : rackDates(plan.data.plan)}</span>
          <button type="button" className="btn btn-sm btn-ghost" onClick={() => window.print()}>
            {msg`Print`}
          </button>
          {mayTry && (
            <button
              type="button"
              className="btn btn-sm btn-ghost"
              onClick={() => document.getElementById(WHAT_IF)?.scrollIntoView({ block: 'end' })}
            >
              {msg`What if …`}
            </button>
          )}
        </Rack>
      )}
      {mayTry && order.data && plan.data && what && (
        <WhatIfPanel
          key={plan.data.id}
          plan={plan.data.plan}
          what={what}
          onWhat={onWhat}
          keeping={save.isPending || make.isPending}
          failure={save.error?.message ?? make.error?.message ?? null}
          onTry={setTried}
          onKeep={(file) => {
            const input = { ...inputFromFile(order.data, file), school: file.school.id };
            save.mutate(input, { onSuccess: () => make.mutate(undefined, { onSuccess: () => setTried(null) }) });
          }}
        />
      )}
    </>
  );
}
