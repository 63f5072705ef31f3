import { celsiusFromFahrenheit, fahrenheitFromCelsius, margins, type OrderView, type Plan } from '@kestfog/core';
import { useEffect, useRef, useState } from 'react';
import { useUnits } from '../../app/units.js';
import { temperature } from '../../text/amounts.js';
import { type Planning, planBeside } from '../../workers/plan-client.js';
import { changedOrder, differenceText, type WhatIf } from './what-if.js';

interface Props {
  readonly order: OrderView;
  readonly plan: Plan;
  readonly keeping: boolean;
  readonly failure: string | null;
  /** shows another plan on the rack, or the kept one again */
  readonly onTry: (plan: Plan | null) => void;
  readonly onKeep: (what: WhatIf) => void;
}

/** Where on the page it is. */
export const WHAT_IF = 'what-if';

/** Coarse at once, better after: rounds of improvement and seconds. */
const PASSES = [
  { rounds: 0, seconds: 1 },
  { rounds: 1200, seconds: 6 },
] as const;
const WAIT_MS = 250;

/** Another evening tried on the rack: the plan is made again beside the page, the difference told, and kept or dropped. */
export function WhatIfPanel({ order, plan, keeping, failure, onTry, onKeep }: Props) {
  const [units] = useUnits();
  const asPlanned: WhatIf = { tempC: order.air.tempC, humidityPct: order.air.humidityPct, margin: order.margin };
  const [what, setWhat] = useState<WhatIf>(asPlanned);
  const [progress, setProgress] = useState<string | null>(null);
  const [said, setSaid] = useState<{ readonly text: string; readonly fits: boolean } | null>(null);
  const running = useRef<Planning | null>(null);
  const latest = useRef({ order, plan, onTry });
  latest.current = { order, plan, onTry };
  const changed = what.tempC !== asPlanned.tempC || what.humidityPct !== asPlanned.humidityPct || what.margin !== asPlanned.margin;

  useEffect(() => {
    if (!changed) return;
    let stopped = false;
    const timer = setTimeout(async () => {
      const { order: o, plan: p } = latest.current;
      for (const pass of PASSES) {
        if (stopped) return;
        setProgress('trying it');
        running.current = planBeside(
          changedOrder(o, p, what),
          p.designs.map((d) => d.drawing),
          pass.seconds,
          pass.rounds,
          (text) => !stopped && setProgress(text),
        );
        const answer = await running.current.answer;
        if (stopped || !answer) return;
        if (!answer.ok) {
          setSaid({ text: answer.message, fits: false });
          latest.current.onTry(null);
          break;
        }
        setSaid({ text: differenceText(p, answer.plan), fits: true });
        latest.current.onTry(answer.plan);
      }
      setProgress(null);
    }, WAIT_MS);
    return () => {
      stopped = true;
      clearTimeout(timer);
      running.current?.cancel();
    };
  }, [what, changed]);

  const drop = () => {
    running.current?.cancel();
    setWhat(asPlanned);
    setSaid(null);
    setProgress(null);
    onTry(null);
  };
  const us = units === 'us';
  return (
    <section id={WHAT_IF} aria-label="What if" className="no-print border-t border-base-300 pt-3 mt-3">
      <div className="flex flex-wrap gap-x-8 gap-y-2 items-end">
        <h2 className="text-xl font-semibold">What if</h2>
        <label className="grid gap-1 w-56">
          <span className="text-lg flex justify-between">
            humidity <b className="font-semibold">{what.humidityPct} %</b>
          </span>
          <input
            type="range"
            className="range w-full"
            min={20}
            max={85}
            value={what.humidityPct}
            onChange={(e) => setWhat({ ...what, humidityPct: Number(e.target.value) })}
          />
        </label>
        <label className="grid gap-1 w-56">
          <span className="text-lg flex justify-between">
            temperature <b className="font-semibold">{temperature(what.tempC, units)}</b>
          </span>
          <input
            type="range"
            className="range w-full"
            min={us ? 50 : 10}
            max={us ? 95 : 35}
            value={us ? Math.round(fahrenheitFromCelsius(what.tempC)) : what.tempC}
            onChange={(e) => setWhat({ ...what, tempC: us ? Math.round(celsiusFromFahrenheit(Number(e.target.value)) * 10) / 10 : Number(e.target.value) })}
          />
        </label>
        <fieldset className="flex gap-2" aria-label="Margin">
          {margins.map((m) => (
            <button
              key={m}
              type="button"
              className={`btn ${what.margin === m ? 'btn-neutral' : ''}`}
              aria-pressed={what.margin === m}
              onClick={() => setWhat({ ...what, margin: m })}
            >
              {m}
            </button>
          ))}
        </fieldset>
        {progress && (
          <button type="button" className="btn" onClick={drop}>
            Stop
          </button>
        )}
        {changed && !progress && said && (
          <>
            <button type="button" className="btn btn-primary" disabled={!said.fits || keeping} onClick={() => onKeep(what)}>
              {keeping ? 'Keeping it …' : 'Keep it'}
            </button>
            <button type="button" className="btn" onClick={drop}>
              Drop it
            </button>
          </>
        )}
      </div>
      <p aria-live="polite" className={`text-lg mt-2 min-h-7 ${said && !said.fits ? 'text-error font-medium' : ''}`}>
        {said ? `${said.text}${progress ? ' (still looking for a better one)' : '.'}` : progress ? `${progress} …` : ''}
      </p>
      {failure && (
        <p role="alert" className="text-error font-medium">
          {failure}
        </p>
      )}
    </section>
  );
}
