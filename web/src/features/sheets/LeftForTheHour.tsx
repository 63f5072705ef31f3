import type { Plan } from '@kestfog/core/formats';
import { costOfPlan, leftForTheHour } from '@kestfog/core/planning';
import { moneyText } from '@kestfog/core/units';
import type { Kitchen } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMemo } from 'react';
import { span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';

/** What a price leaves for an hour of hands; it stands on the page alone, never on the offer. */
export function LeftForTheHour({ plan, kitchen, each }: { readonly plan: Plan; readonly kitchen: Kitchen; readonly each: number | null }) {
  const cost = useMemo(() => costOfPlan(plan, kitchen.prices, kitchen.carton), [plan, kitchen]);
  const left = leftForTheHour(cost, each ?? cost.each);
  if (left === null) return null;
  const money = (x: number) => moneyText(x, kitchen.prices.currency);
  return (
    <p className="text-lg">
      {msgNodes`${each === null ? msg`As listed, it` : msg`It`} leaves ${<b>{money(left)}</b>} for each hour of hands
        (${span(cost.handsOnS)} in all), at the pace this order was planned with, once icing, cookies and cartons are paid.`}
    </p>
  );
}
