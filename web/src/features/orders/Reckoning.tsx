import type { Plan } from '@kestfog/core/formats';
import { bagsOf, cartonsOfPlan, costOfPlan } from '@kestfog/core/planning';
import { moneyText } from '@kestfog/core/units';
import { reasonOf } from '@kestfog/core/wording';
import { msg, plural } from '@kestfog/core/words';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useKitchen } from '../../api/queries.js';
import { useColourName } from '../../app/colour-names.js';
import { useUnits } from '../../app/units.js';
import { grams, millimetres, percent } from '../../text/amounts.js';
import { dayClock, span } from '../../text/time.js';
import { consistencyText } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { chanceBeside, latestStartBeside } from '../../workers/plan-client.js';
import { useBeside } from '../../workers/use-beside.js';

const wayText = {
  'as-listed': msg`design after design, as listed`,
  'laborious-first': msg`the laborious designs first`,
  mixed: msg`laborious beside easy on each tray`,
} as const;

/** How safe the plan is: the latest start, the chance of success, where it is weakest and what would strengthen it. */
export function Safety({ planId, plan }: { readonly planId: string; readonly plan: Plan }) {
  const epochMs = Date.parse(plan.epoch as string);
  const latest = useBeside(msg`latest ${planId}`, () => latestStartBeside(plan));
  const chance = useBeside(msg`chance ${planId}`, () => chanceBeside(plan));
  const startS = plan.tasks[0]?.startS ?? 0;
  const at = (taskId: string) => dayClock(epochMs + (plan.tasks.find((t) => t.id === taskId)?.startS ?? 0) * 1000);
  const others = plan.arrangement.tried.filter((t) => t.endS !== null && t.way !== plan.arrangement.way);
  const otherEnds = others.map((t) => msg`${wayText[t.way]} (packed ${dayClock(epochMs + (t.endS as number) * 1000)})`).join('; ');
  return (
    <section aria-label={msg`How safe it is`} className="grid gap-4">
      <dl className="grid grid-cols-2 lg:grid-cols-4 gap-x-10 gap-y-4">
        <div>
          <dt className="text-lg opacity-80">{msg`latest safe start`}</dt>
          <dd className="text-3xl clock font-medium">{latest.pending ? '…' : dayClock(epochMs + (latest.value ?? startS) * 1000)}</dd>
          <dd className="text-base opacity-80">
            {latest.pending
              ? msg`trying later starts`
              : (latest.failure ??
                (plan.late
                  ? msg`late already`
                  : latest.value === null
                    ? msg`no later start on the quarter hour fits`
                    : msg`still packed in time, waits kept`))}
          </dd>
        </div>
        <div>
          <dt className="text-lg opacity-80">{msg`packed in time`}</dt>
          <dd className="text-3xl clock font-medium">
            {chance.pending ? '…' : chance.value?.onTime == null ? '–' : percent(chance.value.onTime)}
          </dd>
          <dd className="text-base opacity-80">
            {chance.pending
              ? msg`living the evening 400 times`
              : (chance.failure ??
                (chance.value?.onTime === null
                  ? msg`nothing is due, so nothing can be late`
                  : msg`of ${chance.value?.draws} simulated evenings, the plan’s order kept`))}
          </dd>
        </div>
        <div className="col-span-2">
          <dt className="text-lg opacity-80">{msg`on the trays`}</dt>
          <dd className="text-2xl font-medium">{wayText[plan.arrangement.way]}</dd>
          {others.length > 0 && (
            <dd className="text-base opacity-80">
              {plan.order.fan || plan.order.dehydrator
                ? msgNodes`by quick plans of other ways, before anything was sent to the fan or the dehydrator: ${otherEnds}`
                : msgNodes`by quick plans of other ways: ${otherEnds}`}
            </dd>
          )}
        </div>
      </dl>
      {chance.value && chance.value.weakest.length > 0 && (
        <div>
          <h2 className="text-2xl font-semibold">{msg`Where it is weakest`}</h2>
          <ol className="divide-y divide-base-300 text-lg">
            {chance.value.weakest.map((w) => (
              <li key={w.taskId + JSON.stringify(w.what)} className="py-2 grid md:grid-cols-[4.5rem_1fr] gap-x-4">
                <b className="font-semibold clock">{percent(w.share)}</b>
                <span>
                  {typeof w.what === 'string'
                    ? msg`${w.what} on tray ${w.trayId}, ${at(w.taskId)}: the window is missed`
                    : msg`tray ${w.trayId}, ${at(w.taskId)} comes late: ${reasonOf(w.what)}`}
                  <span className="opacity-85">. {w.cure.charAt(0).toUpperCase() + w.cure.slice(1)}.</span>
                </span>
              </li>
            ))}
          </ol>
        </div>
      )}
    </section>
  );
}

/** What it costs, what it is packed in, and what has to be in the house. */
export function Supplies({ plan }: { readonly plan: Plan }) {
  const [units] = useUnits();
  const nameOf = useColourName();
  const kitchen = useKitchen().data;
  const bags = useMemo(() => bagsOf(plan), [plan]);
  if (!kitchen) return null;
  const colours = [...new Set(bags.map((b) => b.colour))].map((c) => bags.filter((b) => b.colour === c));
  const packed = cartonsOfPlan(plan, kitchen.carton);
  const cost = costOfPlan(plan, kitchen.prices, kitchen.carton);
  const { made, sold, icingG, cartonCount: cartons } = cost;
  const money = (x: number) => moneyText(x, kitchen.prices.currency);
  const size = (x: number) => millimetres(x, units);
  return (
    <section aria-label={msg`Supplies and cost`} className="grid lg:grid-cols-2 gap-x-12 gap-y-6">
      <div>
        <h2 className="text-2xl font-semibold mb-2">{msg`Supplies`}</h2>
        <ul className="text-lg divide-y divide-base-300">
          <li className="py-1.5">{msgNodes`${made} baked cookies${made > sold ? msg`, ${made - sold} of them spares` : ''}`}</li>
          {colours.map((own) => (
            <li key={own[0]?.colour} className="py-1.5 flex items-center gap-3">
              <span
                className="inline-block w-6 h-6 shrink-0 rounded-full border border-base-content/40"
                style={{ background: own[0]?.colour }}
              />
              <span className="grow">
                {nameOf(own[0]?.colour ?? '')}: {own.map((b) => `${consistencyText(b)} ${grams(b.mixG, units)}`).join(', ')}
              </span>
              <span className="clock shrink-0">
                {grams(
                  own.reduce((s, b) => s + b.mixG, 0),
                  units,
                )}
              </span>
            </li>
          ))}
          {packed.map((p) => (
            <li key={p.design.id} className="py-1.5 flex gap-3">
              <span className="grow">{p.design.drawing.name}</span>
              <span>
                {p.cartons === null
                  ? msg`does not lie flat in the carton`
                  : msg`${p.cartons} ${plural(p.cartons, 'carton', 'cartons')}, ${p.perCarton} a carton`}
              </span>
            </li>
          ))}
        </ul>
        <p className="mt-1 text-base opacity-80">
          {msgNodes`${cartons} cartons of ${size(kitchen.carton.widthMm)} × ${size(kitchen.carton.depthMm)} inside,
            ${kitchen.carton.layers} ${plural(kitchen.carton.layers, 'layer', 'layers')}; icing as mixed, waste included.`}
        </p>
      </div>
      <div>
        <h2 className="text-2xl font-semibold mb-2">{msg`Cost`}</h2>
        {cost.total > 0 ? (
          <dl className="text-lg divide-y divide-base-300">
            {(
              [
                [msg`hands, ${span(plan.handsOnS)}`, cost.hands],
                [msg`icing, ${grams(icingG, units)}`, cost.icing],
                [msg`${made} baked cookies`, cost.cookies],
                [msg`${cartons} cartons`, cost.cartons],
                [msg`in all`, cost.total],
                [msg`each cookie`, cost.each],
              ] as const
            ).map(([what, value]) => (
              <div key={what} className="py-1.5 flex gap-3">
                <dt className="grow">{what}</dt>
                <dd className="clock font-medium">{money(value)}</dd>
              </div>
            ))}
          </dl>
        ) : (
          <p className="text-lg opacity-80">
            {msg`No prices are known yet: what an hour of your hands, a kilogram of icing, a baked cookie and a carton cost.`}
          </p>
        )}
        <p className="mt-3 no-print">
          <Link to="/kitchen#prices" className="link">
            {msg`Prices and carton`}
          </Link>
          {msg` are said once, in the kitchen.`}
        </p>
      </div>
    </section>
  );
}
