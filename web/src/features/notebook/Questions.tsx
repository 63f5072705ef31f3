import { paceKinds } from '@kestfog/core/calibration';
import { type Air, dryingRate, PRIOR_FACTORS, REFERENCE_REGION, secondsToLose, stateThresholds, Z_90 } from '@kestfog/core/drying';
import { type HonestyWord, honestyWord } from '@kestfog/core/notebook';
import { defectById } from '@kestfog/core/steps';
import type { Kitchen, NotebookAcross, NotebookMonth, NotebookRun } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { Link } from 'react-router';
import { useNotebook } from '../../api/notebook.js';
import { useUnits } from '../../app/units.js';
import { airText, grams, millimetres, percent } from '../../text/amounts.js';
import { motionWord, takesText } from '../../text/pace.js';
import { dayDate, span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Notice } from '../../ui/Notice.js';
import { MonthChart } from './MonthChart.js';
import { defectSeen, lateText, rateText, reckonedText } from './notebook-text.js';

interface Props {
  readonly across: NotebookAcross;
  readonly kitchen: Kitchen;
}
const monthName = (m: NotebookMonth) => format(parseISO(`${m.month}-01`), 'MMMM yyyy');

const inMinutes = ({ value, least, most }: { readonly value: number; readonly least: number; readonly most: number }) => ({
  value: value / 60,
  least: least / 60,
  most: most / 60,
});

/** How long does my crust take in this season? */
export function CrustAnswer({ across, kitchen }: Props) {
  const [units] = useUnits();
  const air: Air = { tempC: kitchen.air.tempC, humidityFrac: kitchen.air.humidityPct / 100, airMPerS: kitchen.air.airMPerS };
  const seconds = (factor: number) => secondsToLose(dryingRate(air), 0, stateThresholds(REFERENCE_REGION).crusted * factor);
  const bookS = seconds(1);
  const told = across.months.filter((m) => m.looks > 0);
  const last = told.at(-1);
  if (!last) return <NothingYet what={msg`Touches at the bench, and work that was begun without a word, teach it.`} />;
  const of = (m: NotebookMonth) => {
    const { mean, sigma } = m.factors.crusted;
    return { value: seconds(Math.exp(mean)), least: seconds(Math.exp(mean - Z_90 * sigma)), most: seconds(Math.exp(mean + Z_90 * sigma)) };
  };
  const now = of(last);
  return (
    <>
      <p className="text-3xl font-medium">
        {msgNodes`${span(now.value)}, eight times in ten between ${span(now.least)} and ${span(now.most)}`}
      </p>
      <p className="text-lg mt-1 max-w-3xl">
        {msgNodes`A flood ${millimetres(REFERENCE_REGION.depthMm, units)} deep in the usual air of this kitchen,
          ${airText(kitchen.air.tempC, kitchen.air.humidityPct, units)}, as ${monthName(last)} taught it with ${last.looks}
            ${plural(last.looks, 'body', 'bodies')} of icing in ${last.runs} ${plural(last.runs, 'run', 'runs')}. The book says
              ${span(bookS)}. Before anything is learned, that is unsure by
                ${Math.round((Math.exp(Z_90 * PRIOR_FACTORS.crusted.sigma) - 1) * 100)} %.`}
      </p>
      <MonthChart
        label={msg`until crusted`}
        months={told.map((m) => ({
          month: m.month,
          ...inMinutes(of(m)),
          note: msg`${monthName(m)}: ${span(of(m).value)} from ${m.looks} bodies of icing`,
        }))}
        text={(min) => msg`${Math.round(min)} min`}
        assumed={{ value: bookS / 60, label: msg`by the book` }}
      />
    </>
  );
}

/** Am I faster than in spring? */
export function PaceAnswer({ across }: Props) {
  const people = [...new Set(across.months.flatMap((m) => Object.keys(m.paces)))].sort();
  const [chosen, setChosen] = useState<string | null>(null);
  const who = chosen ?? people[0];
  const [kind, setKind] = useState<(typeof paceKinds)[number]>('flood');
  const told = across.months.filter((m) => who !== undefined && (m.paces[who]?.[kind].visits ?? 0) > 0);
  if (who === undefined) return <NothingYet what={msg`Visits begun and ended at the bench teach it, pauses cut off.`} />;
  const of = (m: NotebookMonth) => {
    const p = m.paces[who]?.[kind] as { takes: number; sigma: number; visits: number };
    return { value: p.takes, least: p.takes * Math.exp(-Z_90 * p.sigma), most: p.takes * Math.exp(Z_90 * p.sigma), visits: p.visits };
  };
  const [first, last] = [told[0], told.at(-1)];
  const change = first && last && first !== last ? of(last).value / of(first).value : null;
  const isSure = first && last && (of(last).most < of(first).least || of(last).least > of(first).most);
  return (
    <>
      <div className="flex flex-wrap gap-4 items-end">
        {people.length > 1 && (
          <label className="grid gap-1">
            <span className="text-lg">{msg`hands`}</span>
            <select className="select w-40" value={who} onChange={(e) => setChosen(e.target.value)}>
              {people.map((p) => (
                <option key={p}>{p}</option>
              ))}
            </select>
          </label>
        )}
        <label className="grid gap-1">
          <span className="text-lg">{msg`at`}</span>
          <select className="select w-40" value={kind} onChange={(e) => setKind(e.target.value as typeof kind)}>
            {paceKinds.map((k) => (
              <option key={k} value={k}>
                {motionWord[k]}
              </option>
            ))}
          </select>
        </label>
      </div>
      {!last || !first ? (
        <p className="text-lg mt-4">{msgNodes`No ${motionWord[kind]} was seen yet.`}</p>
      ) : (
        <>
          <p className="text-3xl font-medium mt-4">
            {change === null
              ? msg`${motionWord[kind]} takes ${takesText(of(last).value)}`
              : msg`${Math.abs(Math.round((change - 1) * 100))} % ${change < 1 ? msg`quicker` : msg`slower`} than in
                ${monthName(first)}${isSure ? '' : msg`, which may be chance`}`}
          </p>
          <p className="text-lg mt-1 max-w-3xl">
            {msgNodes`In ${monthName(last)}, by ${of(last).visits} ${plural(of(last).visits, 'visit', 'visits')}:
              ${takesText(of(last).value)}, beside what is assumed of anybody. Plans and prices go by it.`}
          </p>
          <MonthChart
            label={msg`${motionWord[kind]} beside what is assumed`}
            months={told.map((m) => ({
              month: m.month,
              ...of(m),
              note: msg`${monthName(m)}: ${takesText(of(m).value)}, ${of(m).visits} visits`,
            }))}
            text={(v) => `× ${v.toFixed(2)}`}
            assumed={{ value: 1, label: msg`as assumed` }}
          />
        </>
      )}
    </>
  );
}

/** Which design costs me most nerves an hour? */
export function NervesAnswer({ across }: Props) {
  const rows = [...across.designs].sort((a, b) => (b.nervesAnHour ?? -1) - (a.nervesAnHour ?? -1));
  const [worst] = rows;
  const [units] = useUnits();
  if (!worst) return <NothingYet what={msg`Finished runs tell it.`} />;
  return (
    <>
      <p className="text-3xl font-medium">
        {(worst.nervesAnHour ?? 0) > 0
          ? msg`${worst.name}: ${worst.nervesAnHour?.toFixed(1)} an hour go wrong`
          : msg`None so far: nothing was said to have gone wrong`}
      </p>
      <p className="text-lg mt-1 max-w-3xl">
        {msg`Counted are cookies with a defect, and cookies whose window of wet work was lost, in an hour of hands on that design.`}
      </p>
      <section className="overflow-x-auto mt-4" tabIndex={0} aria-label={msg`Designs`}>
        <table className="table text-lg w-auto">
          <thead>
            <tr className="text-base-content">
              <th>{msg`design`}</th>
              <th>{msg`runs`}</th>
              <th>{msg`goes wrong an hour`}</th>
              <th>{msg`cookies with a defect`}</th>
              <th>{msg`lost`}</th>
              <th>{msg`cookies an hour`}</th>
              <th>{msg`takes`}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((d) => (
              <tr key={d.name}>
                <th>{d.name}</th>
                <td>{d.runs}</td>
                <td>{d.nervesAnHour === null ? '–' : d.nervesAnHour.toFixed(1)}</td>
                <td>{rateText(d.defects)}</td>
                <td>{d.lost.of}</td>
                <td>{d.anHour === null ? '–' : d.anHour.toFixed(1)}</td>
                <td>{d.takes === null ? '–' : takesText(d.takes)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {across.defects.length > 0 && (
        <>
          <h2 className="text-xl font-semibold mt-6">{msg`By what it was`}</h2>
          <ul className="text-lg">
            {across.defects.map((d) => (
              <li key={d.seen} className="py-1">
                <b className="font-semibold">{defectSeen(d.seen)}</b>: {rateText(d)}
                <span className="block text-base opacity-85">
                  {msgNodes`Why: ${defectById(d.seen).causes}. Against it: ${defectById(d.seen).prevention}.`}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {across.icing.toMixG > 0 && (
        <>
          <h2 className="text-xl font-semibold mt-6">{msg`What became of the icing`}</h2>
          <p className="text-lg max-w-3xl">
            {msgNodes`Of ${grams(across.icing.toMixG, units)} that were to be mixed ${grams(across.icing.onCookiesG, units)} came onto
              cookies, ${percent(across.icing.onCookiesG / across.icing.toMixG)}; the rest stays in bags, is wiped off, or is put by.`}
          </p>
        </>
      )}
    </>
  );
}

/** What went wrong last time with this one? */
export function LastTimeAnswer({ across }: Props) {
  const [name, setName] = useState<string | null>(null);
  const design = name ?? across.designs[0]?.name;
  const found = useNotebook({ q: design ?? '', page: 0 });
  if (design === undefined) return <NothingYet what={msg`Finished runs tell it.`} />;
  const runs = (found.data?.items ?? []).filter((r) => r.summary.designs.some((d) => d.name === design));
  return (
    <>
      <label className="grid gap-1 justify-items-start">
        <span className="text-lg">{msg`design`}</span>
        <select className="select w-64" value={design} onChange={(e) => setName(e.target.value)}>
          {across.designs.map((d) => (
            <option key={d.name}>{d.name}</option>
          ))}
        </select>
      </label>
      <ul className="mt-4 grid gap-4">
        {runs.map((r) => (
          <LastTime key={r.runId} run={r} design={design} />
        ))}
      </ul>
    </>
  );
}
function LastTime({ run, design }: { readonly run: NotebookRun; readonly design: string }) {
  const { summary: s } = run;
  const own = s.designs.find((d) => d.name === design);
  const defects = s.defects.filter((d) => d.design === design);
  const said = [
    ...defects.map((d) => msg`${defectSeen(d.seen)} (cookie ${d.cookie}${d.part ? `, ${d.part}` : ''})`),
    ...((own?.windowsLost ?? 0) > 0 ? [msg`${own?.windowsLost} windows of wet work lost`] : []),
    ...((own?.planned ?? 0) > (own?.packed ?? 0) ? [msg`${(own?.planned ?? 0) - (own?.packed ?? 0)} lost`] : []),
  ];
  return (
    <li className="border-l-4 border-base-content/40 pl-4">
      <h2 className="text-xl font-semibold">
        <Link to={`/notebook/runs/${run.runId}`} className="link link-hover">
          {dayDate(s.startedS * 1000)}, {run.orderName}
        </Link>
        {run.simulated && <span className="badge badge-outline ml-3 align-middle">{msg`simulated`}</span>}
      </h2>
      <p className="text-lg">
        {said.length === 0 ? msg`Nothing was said to have gone wrong` : said.join('; ')}; {lateText(s.endedS - s.plannedEndS)}
        {own && own.plannedHandsOnS > 0 && msg`, hands ${takesText(own.handsOnS / own.plannedHandsOnS)}`}.
      </p>
    </li>
  );
}

const HONEST: Readonly<Record<HonestyWord, string>> = {
  unknown: msg`Nothing is known yet`,
  'as-promised': msg`Yes, as far as is known`,
  'too-short': msg`No: waits were too short more often than they said`,
  'more-careful': msg`Yes, and more careful than it said`,
};
/** Was the plan honest? */
export function HonestyAnswer({ across }: Props) {
  if (across.runs === 0) return <NothingYet what={msg`Finished runs tell it.`} />;
  return (
    <>
      <p className="text-3xl font-medium">{HONEST[honestyWord(across.honesty)]}</p>
      <dl className="text-lg mt-4 grid gap-3 max-w-3xl">
        {across.honesty.map((h) => (
          <div key={h.promised}>
            <dt className="opacity-80">{msgNodes`waits planned to be long enough for ${Math.round(h.promised * 100)} in 100`}</dt>
            <dd className="text-xl font-medium">{reckonedText(h)}</dd>
          </div>
        ))}
        <div>
          <dt className="opacity-80">{msg`packed by when it was due`}</dt>
          <dd className="text-xl font-medium">{rateText(across.inTime)}</dd>
        </div>
        <div>
          <dt className="opacity-80">{msg`cookies worked while their window was open`}</dt>
          <dd className="text-xl font-medium">{rateText(across.windows)}</dd>
        </div>
      </dl>
      <p className="text-base opacity-85 mt-4 max-w-3xl">
        {msg`Known are bodies of icing that somebody felt, and those that were worked on as soon as they were waited for; work begun
          without a word counts as ready. Of one that was found wet before its wait was over, and ready some time after, the others say
            how likely it was ready in between.`}
      </p>
    </>
  );
}

const NothingYet = ({ what }: { readonly what: string }) => <Notice title={msg`Nothing is known yet`}>{what}</Notice>;
