import {
  type Air,
  type DryingOutlook,
  type DryingState,
  dryingOutlook,
  dryingRate,
  type Factors,
  margins,
  secondsToLose,
  stateThresholds,
  windowFactor,
} from '@kestfog/core/drying';
import { waterFracFromSeconds } from '@kestfog/core/icing';
import type { Kitchen } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { type ReactNode, useMemo, useState } from 'react';
import { useCounting } from '../../app/counting.js';
import { useUnits } from '../../app/units.js';
import { millimetres, temperature } from '../../text/amounts.js';
import { span } from '../../text/time.js';
import { Choice } from '../../ui/Choice.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { CurvesAlong } from './CurvesAlong.js';
import { type Along, airOf, type Question, RANGES, regionOf, shownStates, timesOf } from './curves.js';
import { TimeStrip } from './TimeStrip.js';

const ALONG: readonly { readonly id: Along; readonly label: string }[] = [
  { id: 'time', label: msg`time` },
  { id: 'humidityPct', label: msg`humidity` },
  { id: 'depthMm', label: msg`depth` },
  { id: 'seconds', label: msg`consistency` },
];

interface Props {
  readonly start: Question;
  readonly kitchen: Kitchen;
  readonly factors: Factors;
  /** how unsure a count is, spread of its logarithm */
  readonly countSpread: number;
  readonly children: (question: Question, air: Air) => ReactNode;
}

/** How long until each state, and what changes it: change one thing and see the others. */
export function DryingExplorer({ start, kitchen, factors, countSpread, children }: Props) {
  const [units] = useUnits();
  const counting = useCounting();
  const [q, setQ] = useState<Question>(start);
  const [along, setAlong] = useState<Along>('time');
  const air = airOf(q, kitchen);
  const belief = useMemo(() => ({ factors, countSpread }), [factors, countSpread]);
  const now = useMemo(() => timesOf(q, kitchen, belief), [q, kitchen, belief]);
  const outlook = useMemo(() => dryingOutlook(regionOf(q), airOf(q, kitchen)), [q, kitchen]);
  const wetWorkEndsS = secondsToLose(
    dryingRate(air),
    0,
    stateThresholds(regionOf(q)).thickening * windowFactor('thickening', q.margin, factors),
  );
  const value = {
    humidityPct: `${Math.round(q.humidityPct)} %`,
    depthMm: millimetres(q.depthMm, units),
    seconds: counting.text(q.seconds),
    tempC: temperature(q.tempC, units),
  };
  const slider = (key: keyof typeof value, label: string) => (
    <label className="grid gap-1">
      <span className="text-lg flex justify-between gap-4">
        {label} <b className="font-semibold">{value[key]}</b>
      </span>
      <input
        type="range"
        className="range w-full"
        min={RANGES[key].from}
        max={RANGES[key].to}
        step={RANGES[key].step}
        value={q[key]}
        onChange={(e) => setQ({ ...q, [key]: Number(e.target.value) })}
      />
    </label>
  );
  return (
    <section aria-label={msg`Drying`}>
      <h2 className="text-2xl font-semibold">{msg`How long it dries`}</h2>
      <div className="grid sm:grid-cols-2 lg:grid-cols-4 gap-x-8 gap-y-3 mt-3">
        {slider('humidityPct', msg`humidity`)}
        {slider('tempC', msg`temperature`)}
        {slider('seconds', msg`consistency`)}
        {slider('depthMm', msg`depth`)}
      </div>
      <div className="flex flex-wrap gap-x-8 gap-y-2 mt-4 items-center">
        <Choice
          label={msg`What helps`}
          value={q.help}
          options={[
            { id: 'none', label: msg`still air` },
            { id: 'fan', label: msg`fan in front` },
            { id: 'dehydrator', label: msg`dehydrator ${temperature(kitchen.dehydrator.tempC, units)}` },
          ]}
          onChange={(help) => setQ({ ...q, help })}
        />
        <Choice
          label={msg`What it lies on`}
          value={q.on}
          options={[
            { id: 'cookie', label: msg`on a cookie` },
            { id: 'parchment', label: msg`on parchment` },
          ]}
          onChange={(on) => setQ({ ...q, on })}
        />
        <Choice
          label={msg`How sure`}
          value={q.margin}
          options={margins.map((id) => ({ id, label: word(id) }))}
          onChange={(margin) => setQ({ ...q, margin })}
        />
        <div className="flex flex-wrap gap-2 items-center">
          <span className="text-lg">{msg`drawn along`}</span>
          <Choice label={msg`Drawn along`} value={along} options={ALONG} onChange={setAlong} />
        </div>
      </div>
      <div className="mt-4">
        {along === 'time' ? <TimeStrip times={now} /> : <CurvesAlong question={q} along={along} kitchen={kitchen} belief={belief} />}
      </div>
      <div className="overflow-x-auto">
        <table className="table text-lg mt-2">
          <thead>
            <tr className="text-base-content">
              <th>{msg`state`}</th>
              <th>{msg`half of all cookies`}</th>
              <th>{msg`eight in ten between`}</th>
              <th>{msgNodes`a ${word(q.margin)} plan waits`}</th>
              <th>{msg`why`}</th>
            </tr>
          </thead>
          <tbody>
            {shownStates.map((s) => {
              const t = now[s];
              const why = outlook.why[s];
              return (
                <tr key={s}>
                  <th scope="row">{s === 'dry' && q.on === 'parchment' ? msg`dry: lift it` : word(s)}</th>
                  {t.p50 === null ? (
                    <td colSpan={3}>
                      {why?.code === 'humid' ? msg`never: this air takes too little water` : msg`more than three days`}
                      {why && msg`; it works at ${why.limitHumidityPct} % or below`}
                    </td>
                  ) : (
                    <>
                      <td>{span(t.p50)}</td>
                      <td>
                        {msgNodes`${t.p10 === null ? '' : span(t.p10)} and ${t.p90 === null ? msg`more than three days` : span(t.p90)}`}
                      </td>
                      <td>
                        {s === 'thickening'
                          ? msg`ends wet work by ${span(wetWorkEndsS)}`
                          : t.planned === null
                            ? msg`more than three days`
                            : span(t.planned)}
                      </td>
                    </>
                  )}
                  <td>
                    <Why state={s} question={q} outlook={outlook} factors={factors} />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="mt-3 text-base opacity-85 max-w-4xl">
        {msgNodes`The surface loses ${outlook.fluxGPerM2H.toFixed(0)} g of water a square metre an hour and cools to
          ${temperature(outlook.surfaceTempC, units)}. A state comes when a certain amount of water is lost; the bands say how far cookies
            and kitchens differ, and how unsure the count is: ${Math.round(countSpread * 100)} %${
              countSpread > 0.2 &&
              msg` until a
              weighed thinning test`
            }. The times known in the trade are common practice with no published source.`}
      </p>
      <div className="mt-8">{children(q, air)}</div>
    </section>
  );
}

interface WhyProps {
  readonly state: DryingState;
  readonly question: Question;
  readonly outlook: DryingOutlook;
  readonly factors: Factors;
}

/** What one number of the table is made of, and what would change it. */
function Why({ state, question, outlook, factors }: WhyProps) {
  const counting = useCounting();
  const needG = stateThresholds(regionOf(question))[state] * 1000;
  const learned = Math.exp(factors[state].mean);
  const water = waterFracFromSeconds(question.seconds);
  return (
    <details>
      <summary className="cursor-pointer underline underline-offset-4">{msg`why`}</summary>
      <p className="max-w-md text-base">
        {msgNodes`${word(state)} takes ${needG.toFixed(1)} g of water lost a square metre${
          Math.abs(learned - 1) > 0.005 &&
          msg` (×
          ${learned.toFixed(2)} in your kitchen)`
        }: icing of ${counting.text(question.seconds)} holds ${(water * 100).toFixed(1)} % water
            (assumed line); this air takes ${outlook.fluxGPerM2H.toFixed(0)} g/m²h at first (Incropera & DeWitt; Norrish 1966), then less
              as the front sinks in. Sooner: drier, warmer or moving air, thicker icing, a thinner layer. How sure: ±
                ${((Math.exp(1.2816 * factors[state].sigma) - 1) * 100).toFixed(0)} % of the water for eight in ten.`}
      </p>
    </details>
  );
}
