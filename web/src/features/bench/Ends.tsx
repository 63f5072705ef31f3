import type { Morning as Stand } from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import { msg, plural } from '@kestfog/core/words';
import { Link } from 'react-router';
import { dayClock, span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Booked } from '../stock/Booked.js';

export function BeforeStart({ plan, epochMs }: { readonly plan: Plan; readonly epochMs: number }) {
  const first = plan.tasks[0];
  return (
    <section className="md:col-span-2">
      <h1 className="text-[44px] leading-tight font-semibold">{msg`Ready when you are`}</h1>
      <p className="text-2xl mt-3">
        {msgNodes`The plan begins ${first ? dayClock(epochMs + first.startS * 1000) : ''} and takes ${span(plan.handsOnS)} of hands.
          Space, a page-turner pedal or the button below moves on; undo is always there.`}
      </p>
      <p className="text-2xl mt-3">
        {msg`Only icing, colours and pens sold as edible; dried or pasteurised egg white rather than raw. Local food rules decide.`}
      </p>
    </section>
  );
}

export function AllDone({
  run,
  plan,
  packed,
  nowMs,
  startedAtMs,
}: {
  readonly run: { readonly id: string; readonly orderId: string };
  readonly plan: Plan;
  readonly packed: number;
  readonly nowMs: number;
  readonly startedAtMs: number;
}) {
  const cookies = plan.trays.flatMap((t) => t.lots).reduce((s, l) => s + l.cookies, 0);
  return (
    <section className="md:col-span-2">
      <h1 className="text-[44px] leading-tight font-semibold">{msgNodes`All ${packed} are packed`}</h1>
      <p className="text-2xl mt-3">
        {msgNodes`${packed < cookies && msg`${cookies - packed} did not make it. `}Begun ${dayClock(startedAtMs)}, finished by
          ${dayClock(nowMs)}.`}
      </p>
      <div className="flex flex-wrap gap-3 mt-5">
        <Link to={`/orders/${run.orderId}`} className="btn btn-primary min-h-16 text-2xl">
          {msg`To the order`}
        </Link>
        <Link to="/orders" className="btn min-h-16 text-2xl">
          {msg`What is next`}
        </Link>
      </div>
      <Booked run={run} plan={plan} />
      <p className="text-xl mt-5">
        {msg`The evening is in the `}
        <Link to={`/notebook/runs/${run.id}`} className="link">
          {msg`notebook, compared with its plan`}
        </Link>
        {msg`; what it taught is kept under `}
        <Link to={`/orders/${run.orderId}/icing/air`} className="link">
          {msg`air and drying`}
        </Link>
        {msg` and in the `}
        <Link to="/kitchen#hands" className="link">
          {msg`kitchen`}
        </Link>
        {msg`, also once its order is deleted. `}
        <a href={`/api/runs/${run.id}/export`} className="link" download>
          {msg`Save the run as a file`}
        </a>
      </p>
    </section>
  );
}

/** In the morning: where every tray stands and what comes first on it. */
export function Morning({ stand }: { readonly stand: Stand }) {
  return (
    <section aria-label={msg`Where it stands`} className="border-l-8 border-primary pl-4">
      <h2 className="text-2xl font-semibold">
        {msgNodes`After ${span(stand.awayMs / 1000)} away, ${stand.left} ${plural(stand.left, 'step', 'steps')} left`}
      </h2>
      <ul className="mt-1">
        {stand.trays.map((t) => (
          <li key={t.trayId}>
            <b className="text-2xl">{t.trayId}</b> {t.least ?? msg`bare`}
            {t.next ? msg`; next: ${t.next.title}` : msg`; packed`}
          </li>
        ))}
      </ul>
    </section>
  );
}
