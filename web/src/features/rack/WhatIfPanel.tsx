import { margins } from '@kestfog/core/drying';
import type { OrderFile, Plan } from '@kestfog/core/formats';
import type { School } from '@kestfog/core/steps';
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@kestfog/core/units';
import { driedThroughText, lateText } from '@kestfog/core/wording';
import { msg, word } from '@kestfog/core/words';
import { X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useSchools } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { temperature } from '../../text/amounts.js';
import { clockTime, span } from '../../text/time.js';
import { Choice } from '../../ui/Choice.js';
import { type Beside, planBeside } from '../../workers/plan-client.js';
import { asPlanned, changedOrder, differenceText, isChanged, pinText, type WhatIf, withPin } from './what-if.js';

interface Props {
  readonly plan: Plan;
  readonly what: WhatIf;
  readonly onWhat: (what: WhatIf) => void;
  readonly keeping: boolean;
  readonly failure: string | null;
  /** shows another plan on the rack, or the kept one again */
  readonly onTry: (plan: Plan | null) => void;
  readonly onKeep: (order: OrderFile) => void;
}

/** Where on the page it is. */
export const WHAT_IF = 'what-if';

/** Coarse at once, better after: passes of improvement and seconds. */
const PASSES = [
  { passes: 0, seconds: 1 },
  { passes: 1200, seconds: 6 },
] as const;
const WAIT_MS = 250;

/** Another evening tried on the rack: the plan is made again beside the page, the difference shown, and kept or dropped. */
export function WhatIfPanel({ plan, what, onWhat, keeping, failure, onTry, onKeep }: Props) {
  const [units] = useUnits();
  const schools: readonly School[] = useSchools().data ?? [];
  const [progress, setProgress] = useState<string | null>(null);
  const [said, setSaid] = useState<{ readonly text: string; readonly fits: boolean } | null>(null);
  const running = useRef<Beside<Plan> | null>(null);
  const latest = useRef({ plan, onTry });
  latest.current = { plan, onTry };
  const changed = isChanged(plan.order, what);

  useEffect(() => {
    const { plan: before } = latest.current;
    if (!isChanged(before.order, what)) {
      setSaid(null);
      setProgress(null);
      latest.current.onTry(null);
      return;
    }
    // What has not been tried yet cannot be kept: the answer to an earlier question does not stand for this one.
    setSaid(null);
    setProgress(msg`trying it`);
    let stopped = false;
    const timer = setTimeout(async () => {
      for (const pass of PASSES) {
        if (stopped) return;
        setProgress(msg`trying it`);
        running.current = planBeside(
          changedOrder(before.order, what),
          before.designs.map((d) => d.drawing),
          pass.seconds,
          pass.passes,
          (text) => !stopped && setProgress(text),
        );
        const answer = await running.current.answer;
        if (stopped || !answer) return;
        if (!answer.ok) {
          setSaid({ text: answer.message, fits: false });
          latest.current.onTry(null);
          break;
        }
        const late = lateText(answer.value);
        const risked = driedThroughText(answer.value);
        setSaid({ text: [late ?? differenceText(before, answer.value), ...(risked ? [risked] : [])].join(' '), fits: late === null });
        latest.current.onTry(answer.value);
      }
      setProgress(null);
    }, WAIT_MS);
    return () => {
      stopped = true;
      clearTimeout(timer);
      running.current?.cancel();
    };
  }, [what]);

  const drop = () => {
    running.current?.cancel();
    onWhat(asPlanned(plan.order));
  };
  const us = units === 'us';
  const epochMs = Date.parse(plan.epoch as string);
  const firstFrom = plan.order.openingHours[0]?.[0] ?? 0;
  return (
    <section id={WHAT_IF} aria-label={msg`What if`} className="no-print border-t border-base-300 pt-3 mt-3">
      <h2 className="text-xl font-semibold">{msg`What if`}</h2>
      <div className="flex flex-wrap gap-x-8 gap-y-3 items-end mt-1">
        <Slider
          label={msg`humidity`}
          value={`${what.humidityPct} %`}
          min={20}
          max={85}
          at={what.humidityPct}
          onAt={(humidityPct) => onWhat({ ...what, humidityPct })}
        />
        <Slider
          label={msg`temperature`}
          value={temperature(what.tempC, units)}
          min={us ? 50 : 10}
          max={us ? 95 : 35}
          at={us ? Math.round(fahrenheitFromCelsius(what.tempC)) : what.tempC}
          onAt={(t) => onWhat({ ...what, tempC: us ? Math.round(celsiusFromFahrenheit(t) * 10) / 10 : t })}
        />
        <Slider
          label={msg`pace`}
          value={what.pace === 1 ? msg`as planned` : `${what.pace.toFixed(2).replace(/0$/, '')} ×`}
          min={50}
          max={150}
          step={5}
          at={Math.round(what.pace * 100)}
          onAt={(p) => onWhat({ ...what, pace: p / 100 })}
        />
        <Slider
          label={msg`begin`}
          value={clockTime(epochMs + (firstFrom + what.laterMin * 60) * 1000)}
          min={0}
          max={360}
          step={15}
          at={what.laterMin}
          onAt={(laterMin) => onWhat({ ...what, laterMin })}
        />
        <Choice
          label={msg`Margin`}
          value={what.margin}
          options={margins.map((id) => ({ id, label: word(id) }))}
          onChange={(margin) => onWhat({ ...what, margin })}
        />
        <Places label={msg`before the fan`} at={what.fanPlaces} onAt={(fanPlaces) => onWhat({ ...what, fanPlaces })} />
        <Places
          label={msg`in the dehydrator`}
          at={what.dehydratorPlaces}
          onAt={(dehydratorPlaces) => onWhat({ ...what, dehydratorPlaces })}
        />
        <label className="grid gap-1">
          <span className="text-lg">{msg`school`}</span>
          <select
            className="select w-44"
            value={what.school.id}
            onChange={(e) => onWhat({ ...what, school: schools.find((s) => s.id === e.target.value) ?? plan.order.school })}
          >
            {(schools.some((s) => s.id === what.school.id) ? schools : [what.school, ...schools]).map((s) => (
              <option key={s.id} value={s.id}>
                {s.label}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="flex flex-wrap gap-x-4 gap-y-2 items-center mt-3">
        <span className="text-lg">{msg`You insist on:`}</span>
        {what.pins.length === 0 && <span className="text-lg opacity-80">{msg`nothing yet; point at a tray to begin with it, or`}</span>}
        {what.pins.map((p, i) => (
          <span key={JSON.stringify(p)} className="text-lg flex items-center border-b-2 border-base-content/50">
            {pinText(p, epochMs)}
            <button
              type="button"
              className="btn btn-ghost btn-sm btn-square"
              aria-label={msg`Do without: ${pinText(p, epochMs)}`}
              onClick={() => onWhat({ ...what, pins: what.pins.filter((_, k) => k !== i) })}
            >
              <X aria-hidden size={18} />
            </button>
          </span>
        ))}
        <Break plan={plan} onBreak={(pin) => onWhat({ ...what, pins: withPin(what.pins, pin) })} />
      </div>
      <div className="flex flex-wrap gap-3 items-center mt-2 min-h-12">
        {progress && (
          <button type="button" className="btn" onClick={drop}>
            {msg`Stop`}
          </button>
        )}
        {changed && !progress && said && (
          <>
            <button
              type="button"
              className="btn btn-primary"
              disabled={!said.fits || keeping}
              onClick={() => onKeep(changedOrder(plan.order, what))}
            >
              {keeping ? msg`Keeping it …` : msg`Keep it`}
            </button>
            <button type="button" className="btn" onClick={drop}>
              {msg`Drop it`}
            </button>
          </>
        )}
        <p aria-live="polite" className={`text-lg ${said && !said.fits ? 'text-error font-medium' : ''}`}>
          {said
            ? `${said.text.replace(/\.$/, '')}${progress ? msg` (still looking for a better one)` : '.'}`
            : progress
              ? `${progress} …`
              : ''}
        </p>
      </div>
      {failure && (
        <p role="alert" className="text-error font-medium">
          {failure}
        </p>
      )}
    </section>
  );
}

function Slider({
  label,
  value,
  min,
  max,
  step = 1,
  at,
  onAt,
}: {
  readonly label: string;
  readonly value: string;
  readonly min: number;
  readonly max: number;
  readonly step?: number;
  readonly at: number;
  readonly onAt: (at: number) => void;
}) {
  return (
    <label className="grid gap-1 w-52">
      <span className="text-lg flex justify-between">
        {label} <b className="font-semibold">{value}</b>
      </span>
      <input
        type="range"
        className="range w-full"
        min={min}
        max={max}
        step={step}
        value={at}
        onChange={(e) => onAt(Number(e.target.value))}
      />
    </label>
  );
}

const MOST_PLACES = 4;
function Places({ label, at, onAt }: { readonly label: string; readonly at: number; readonly onAt: (at: number) => void }) {
  return (
    <label className="grid gap-1">
      <span className="text-lg">{label}</span>
      <select className="select w-32" value={at} onChange={(e) => onAt(Number(e.target.value))}>
        {[...Array(Math.max(MOST_PLACES, at) + 1).keys()].map((n) => (
          <option key={n} value={n}>
            {n === 0 ? msg`none` : n === 1 ? msg`one tray` : msg`${n} trays`}
          </option>
        ))}
      </select>
    </label>
  );
}

const BREAK_MIN = [15, 30, 45, 60] as const;
const DAY_S = 86_400;

/** Nobody at the bench for a while: lunch, a telephone call. */
function Break({ plan, onBreak }: { readonly plan: Plan; readonly onBreak: (pin: OrderFile['pins'][number]) => void }) {
  const epochMs = Date.parse(plan.epoch as string);
  const [day, setDay] = useState(0);
  const [time, setTime] = useState('18:00');
  const [minutes, setMinutes] = useState<number>(30);
  const opening = plan.openingHours[day] ?? plan.openingHours[0] ?? [0, DAY_S];
  // The clock time on the day of that opening, in the browser's own zone.
  const at = new Date(epochMs + opening[0] * 1000);
  const [h, m] = time.split(':').map(Number);
  at.setHours(h ?? 0, m ?? 0, 0, 0);
  const from = Math.round((at.getTime() - epochMs) / 1000);
  const inside = from >= opening[0] && from < opening[1];
  return (
    <span className="flex flex-wrap items-center gap-2">
      {plan.openingHours.length > 1 && (
        <select className="select w-28" aria-label={msg`Day of the break`} value={day} onChange={(e) => setDay(Number(e.target.value))}>
          {plan.openingHours.map(([s], i) => (
            <option key={s} value={i}>
              {msg`day ${i + 1}`}
            </option>
          ))}
        </select>
      )}
      <input type="time" className="input w-32" aria-label={msg`Break begins`} value={time} onChange={(e) => setTime(e.target.value)} />
      <select className="select w-28" aria-label={msg`Break lasts`} value={minutes} onChange={(e) => setMinutes(Number(e.target.value))}>
        {BREAK_MIN.map((n) => (
          <option key={n} value={n}>
            {span(n * 60)}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="btn"
        disabled={!inside}
        onClick={() => onBreak({ kind: 'away', from, to: from + minutes * 60, label: msg`a break`, who: null })}
      >
        {msg`be away then`}
      </button>
      {!inside && <span className="text-base opacity-80">{msg`the bench is closed then`}</span>}
    </span>
  );
}
