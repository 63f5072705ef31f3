import type { Plan } from '@kestfog/core/formats';
import { paceEffect } from '@kestfog/core/planning';
import type { DesignSummary, OrderView } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { Link } from 'react-router';
import { paceEffectText } from '../../text/pace.js';
import { dayClock, span } from '../../text/time.js';
import { becauseText, capital, cookiesText } from '../../text/words.js';
import { Cookie } from '../../ui/Cookie.js';
import { msgNodes } from '../../ui/msg-nodes.js';

/** The answer first: whether it fits, when it starts and ends, hands against drying. */
export function Answer({ order, plan }: { readonly order: OrderView; readonly plan: Plan }) {
  const epochMs = Date.parse(plan.epoch as string);
  const first = plan.tasks[0];
  const startMs = epochMs + (first?.startS ?? 0) * 1000;
  const endMs = epochMs + plan.endS * 1000;
  const effect = paceEffect(plan);
  const nights = plan.openingHours.length - 1;
  const freeDayOne = plan.openingHours[0]
    ? Math.max(...plan.tasks.filter((t) => t.startS < (plan.openingHours[0] as readonly [number, number])[1]).map((t) => t.endS))
    : plan.endS;
  const allS = plan.endS - (first?.startS ?? 0);
  const facts: [string, string, string?][] = [
    [msg`first touch`, dayClock(startMs)],
    ...(nights > 0
      ? ([[msg`hands free`, dayClock(epochMs + freeDayOne * 1000), msg`on the first day`]] as [string, string, string][])
      : []),
    [
      msg`packed`,
      dayClock(endMs),
      plan.late
        ? msg`${span(60 * Math.ceil(plan.late.byS / 60))} too late`
        : msg`${span((Date.parse(order.packBy) - endMs) / 1000)} before it is due`,
    ],
    [msg`hands-on`, span(plan.handsOnS), msg`of ${span(allS)}; the rest is drying and free time`],
  ];
  return (
    <section aria-label={msg`The answer`}>
      <p className="text-4xl font-semibold">{plan.late ? msg`The best plan found` : msg`It fits.`}</p>
      <dl className="mt-5 grid grid-cols-2 lg:grid-cols-4 gap-x-10 gap-y-4">
        {facts.map(([what, value, more]) => (
          <div key={what}>
            <dt className="text-lg opacity-80">{what}</dt>
            <dd className="text-3xl clock font-medium">{value}</dd>
            {more && <dd className="text-base opacity-80">{more}</dd>}
          </div>
        ))}
      </dl>
      <p className="mt-4 text-base opacity-80">
        {plan.proven
          ? msg`With the cookies on these trays no plan can end earlier.`
          : msg`With the cookies on these trays no plan can end before ${dayClock(epochMs + plan.lowerBoundS * 1000)}; this one may not be
            the very best.`}
        {msg` Waits hold for `}
        {plan.margin === 'bold'
          ? msg`half of all cookies (bold)`
          : plan.margin === 'normal'
            ? msg`four cookies in five (normal)`
            : msg`nineteen cookies in twenty (careful)`}
        .{effect && ` ${paceEffectText(effect)}`}
      </p>
    </section>
  );
}

interface OrderDesignsProps {
  readonly order: OrderView;
  readonly designs: readonly DesignSummary[];
  readonly saving: boolean;
  /** the order takes the newest version of a design */
  readonly onNewest: (designId: string) => void;
}

export function OrderDesigns({ order, designs, saving, onNewest }: OrderDesignsProps) {
  return (
    <ul className="flex flex-wrap gap-x-12 gap-y-6">
      {order.designs.map((d) => {
        const design = designs.find((x) => x.id === d.designId);
        return (
          <li key={`${d.guestOf?.id} ${d.designId}`} className="flex items-center gap-5">
            <Cookie design={d.drawing} look="dry" pxPerMm={1.5} className="max-w-56" label={d.name} />
            <div className="text-lg">
              <p className="text-2xl font-semibold">
                {d.count} ×{' '}
                <Link to={`/designs/${d.designId}`} className="link link-hover">
                  {d.name}
                </Link>
              </p>
              {d.spares > 0 && <p className="opacity-85">{msgNodes`and ${d.spares} ${plural(d.spares, 'spare', 'spares')}`}</p>}
              {d.guestOf && (
                <p className="opacity-85">
                  {msg`for `}
                  <Link to={`/orders/${d.guestOf.id}`} className="link">
                    {d.guestOf.name}
                  </Link>
                  {msgNodes`, packed by ${dayClock(Date.parse(d.guestOf.packBy))}`}
                </p>
              )}
              {design && d.version === d.latest && (
                <>
                  <p className="opacity-85">{msgNodes`${design.rounds} ${plural(design.rounds, 'round', 'rounds')} of drying`}</p>
                  <p className="opacity-85">{msgNodes`${span(design.handsOnS)} of hands for each`}</p>
                </>
              )}
              {d.version < d.latest && !order.run && !d.guestOf && (
                <p className="mt-1">
                  {msg`The design was changed since. `}
                  <button type="button" className="btn btn-sm" disabled={saving} onClick={() => onNewest(d.designId)}>
                    {msg`Take the newer one`}
                  </button>
                </p>
              )}
              {d.drawing.notes.length > 0 && (
                <details className="mt-1 max-w-96">
                  <summary className="cursor-pointer underline underline-offset-4">{msg`how the drawing was read`}</summary>
                  <ul className="list-disc pl-5 text-base">
                    {d.drawing.notes.map((n) => (
                      <li key={n.place + n.text}>{n.text}</li>
                    ))}
                  </ul>
                </details>
              )}
            </div>
          </li>
        );
      })}
    </ul>
  );
}

/** The first things to do, so that the page says what comes next without the rack. */
export function FirstSteps({ plan }: { readonly plan: Plan }) {
  const epochMs = Date.parse(plan.epoch as string);
  return (
    <ol className="text-lg divide-y divide-base-300">
      {plan.tasks.slice(0, 5).map((t) => (
        <li key={t.id} className="py-2 grid grid-cols-[5rem_4.5rem_1fr] gap-4 items-baseline">
          <span className="clock">{dayClock(epochMs + t.startS * 1000, epochMs + t.startS * 1000)}</span>
          <span className="font-semibold">{msgNodes`tray ${t.trayId}`}</span>
          <span>
            {capital(t.title)}
            {t.lotId && <span className="opacity-85">, {cookiesText(plan, t)}</span>}
            {t.because.kind === 'drying' && <span className="opacity-85"> ({becauseText(plan, t.because)})</span>}
          </span>
        </li>
      ))}
    </ol>
  );
}
