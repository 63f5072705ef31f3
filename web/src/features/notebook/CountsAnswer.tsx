import type { CountMonth, CountsOf } from '@kestfog/core/notebook';
import type { NotebookAcross } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Notice } from '../../ui/Notice.js';
import { MonthChart } from './MonthChart.js';

const nameOf = ({ recipe, who }: CountsOf) => `${recipe ?? msg`a recipe that was not kept`}, ${who ?? msg`whoever mixed it`}`;
const monthName = (m: CountMonth) => format(parseISO(`${m.month}-01`), 'MMMM yyyy');
/** Seconds of a count: fewer are thinner icing. */
const off = (times: number) => Math.round(Math.abs(times - 1) * 100);
const offText = (times: number) =>
  off(times) === 0 ? msg`as meant` : msg`${off(times)} % ${times < 1 ? msg`thinner` : msg`thicker`} than meant`;

/** How do my bags count beside what I meant, by recipe and by hands, over time? */
export function CountsAnswer({ across }: { readonly across: NotebookAcross }) {
  const [chosen, setChosen] = useState(0);
  const of = across.counts[chosen] ?? across.counts[0];
  const last = of?.months.at(-1);
  if (!of || !last)
    return <Notice title={msg`Nothing is known yet`}>{msg`Bags that are counted, as they are mixed or at the bench, tell it.`}</Notice>;
  const isSure = last.least > 1 || last.most < 1;
  return (
    <>
      {across.counts.length > 1 && (
        <label className="grid gap-1 justify-items-start">
          <span className="text-lg">{msg`recipe and hands`}</span>
          <select className="select w-80" value={across.counts.indexOf(of)} onChange={(e) => setChosen(Number(e.target.value))}>
            {across.counts.map((c, i) => (
              <option key={nameOf(c)} value={i}>
                {nameOf(c)}
              </option>
            ))}
          </select>
        </label>
      )}
      <p className="text-3xl font-medium mt-4">
        {offText(last.times)}
        {off(last.times) > 0 && !isSure && msg`, which may be chance`}
      </p>
      <p className="text-lg mt-1 max-w-3xl">
        {msgNodes`${nameOf(of)}: ${last.bags} ${plural(last.bags, 'bag', 'bags')} counted in ${monthName(last)}, ${of.bags} in all; eight
          times in ten it lies between ${offText(last.least)} and ${offText(last.most)}. A bag that counts fewer seconds than meant is
            thinner, dries more slowly and spreads further; what was counted is what the waits go by.`}
      </p>
      <MonthChart
        label={msg`counts beside what was meant`}
        months={of.months.map((m) => ({
          month: m.month,
          value: m.times,
          least: m.least,
          most: m.most,
          note: `${monthName(m)}: ${offText(m.times)}, ${m.bags} ${plural(m.bags, 'bag', 'bags')}`,
        }))}
        text={(v) => `× ${v.toFixed(2)}`}
        assumed={{ value: 1, label: msg`as meant` }}
      />
    </>
  );
}
