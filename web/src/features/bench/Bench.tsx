import {
  type Alert,
  alertsOf,
  awayTrays,
  type BenchView,
  benchView,
  cameThrough,
  dehydratorLeftOn,
  endOfDay,
  mayTouch,
  morningOf,
  nextStep,
  type RunState,
  runIndex,
  stencilUses,
} from '@kestfog/core/bench';
import type { CautionId } from '@kestfog/core/steps';
import { msg, plural } from '@kestfog/core/words';
import { ArrowLeft, Hand, Pause, Settings2, Undo2, Volume2, VolumeX } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useKitchen } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { useOutbox } from '../../outbox/index.js';
import { airText } from '../../text/amounts.js';
import { clockTime } from '../../text/time.js';
import { KeptSign } from '../../ui/KeptSign.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Wiping } from '../../ui/wiping.js';
import { REHEARSAL } from '../rehearsal/rehearsal-id.js';
import { ClosingList, Lost, NextList } from './Aside.js';
import { Asked } from './Asked.js';
import { useBenchSettings } from './bench-settings.js';
import { useBenchIsOpen } from './callers.js';
import { cautionOf, keepRead, readToday } from './cautions-today.js';
import { AllDone, BeforeStart, Morning } from './Ends.js';
import { InsecureNotice } from './InsecureNotice.js';
import { Now } from './Now.js';
import { RackStrip } from './RackStrip.js';
import { type Asking, Reports } from './Reports.js';
import { SoundTouch } from './SoundTouch.js';
import { stepsOfRun } from './steps-of-run.js';
import { ToolCount } from './ToolCount.js';
import { useAlarms } from './use-alarms.js';
import { useHands } from './use-hands.js';
import { useOneAction } from './use-one-action.js';
import { useReplan } from './use-replan.js';
import { useRoomAir } from './use-room-air.js';
import type { Run } from './use-run.js';
import { useSpokenStep } from './use-spoken-step.js';
import { useWakeLock } from './use-wake-lock.js';
import { WipeLock } from './WipeLock.js';

const NONE: readonly Alert[] = [];
/** The run, full screen: now, what is about to close, what is next; one action forward, one back. */
export function Bench({
  bench,
  home,
}: {
  readonly bench: Run /** where it goes back to; its order, where nothing else is said */;
  readonly home?: string;
}) {
  useWakeLock();
  const { run, state, nowMs } = bench;
  // Of a rehearsal nothing stays: no caution counts as read, no alarm of a real bench is kept quiet, none of its own leads elsewhere.
  const isReal = run?.id !== REHEARSAL;
  useBenchIsOpen(isReal);
  const refused = useOutbox().filter((e) => e.refused !== null).length;
  // The plan as it stands: re-planned as often as the run has slipped.
  const plan = state?.plan;
  const index = state && runIndex(state);
  const [settings, setSettings] = useBenchSettings();
  const hands = plan?.order.decorators.map((d) => d.id) ?? [];
  const [who, setWho] = useHands(run?.id ?? '', hands);
  const view = index && benchView(index, nowMs, who);
  const [asking, setAsking] = useState<Asking | null>(null);
  const act = useOneAction(stepsOfRun(bench, index, view, settings.byCookie, (early) => setAsking({ kind: 'early', ...early })));
  const alerts = index && view ? alertsOf(index, view, nowMs) : NONE;
  useAlarms(alerts, settings, { place: isReal ? `/runs/${run?.id ?? ''}` : window.location.pathname });
  useSpokenStep(plan, view, settings.voice && !settings.quiet);
  const revision = useReplan(bench, view);
  const air = useRoomAir(bench);
  const [units] = useUnits();
  const eggWhite = useKitchen().data?.eggWhite ?? 'dried';
  const [read, setRead] = useState<readonly CautionId[]>([]);
  const [airLeft, setAirLeft] = useState(false);
  if (!run || !plan || !state || !index || !view) return null;
  const { now } = view;
  const begun = state.startedAtMs !== null;
  const inDehydrator = awayTrays(index, nowMs).filter((a) => a.where === 'dehydrator');
  const caution = now && begun ? cautionOf(now.task, index.plan.stayOf(now.task), eggWhite, [...readToday(nowMs), ...read]) : null;
  const stand = morningOf(index, nowMs);
  const dayEnd = endOfDay(index, view, nowMs);
  return (
    <Wiping value={plan.order.school.wiping}>
      <div className="min-h-dvh flex flex-col px-4 md:px-6 text-xl leading-snug">
        <header className="flex flex-wrap items-center gap-x-1 sm:gap-x-5 pt-2">
          <Link
            to={home ?? `/orders/${run.orderId}`}
            className="link link-hover min-h-16 min-w-11 sm:min-w-16 flex items-center max-sm:justify-center max-lg:max-w-40"
          >
            <ArrowLeft aria-hidden size={30} className="sm:hidden" />
            <span className="max-sm:sr-only">{run.orderName}</span>
          </Link>
          <span className="max-sm:text-lg whitespace-nowrap">
            {msgNodes`${view.done} of ${view.total} ${<span className="max-sm:sr-only">{msg`done`}</span>}`}
          </span>
          {who !== null && (
            <span className="flex items-center gap-2">
              <Hand aria-hidden size={26} /> {who}
            </span>
          )}
          <button
            type="button"
            className="btn btn-ghost min-h-16 min-w-16 text-xl px-2 max-sm:hidden"
            aria-pressed={settings.quiet}
            onClick={() => setSettings({ quiet: !settings.quiet })}
          >
            {settings.quiet ? <VolumeX aria-hidden size={30} /> : <Volume2 aria-hidden size={30} />}
            <span className="sr-only lg:not-sr-only">{settings.quiet ? msg`quiet` : msg`sounds on`}</span>
          </button>
          <WipeLock />
          <button type="button" className="btn btn-ghost min-h-16 min-w-16 text-xl px-2" onClick={() => setAsking({ kind: 'how' })}>
            <Settings2 aria-hidden size={30} />
            <span className="sr-only">{msg`how this device is used`}</span>
          </button>
          <span className="grow" />
          {(!bench.online || bench.waiting > 0) && (
            <span role="status" className="text-error font-semibold">
              {bench.waiting > 0
                ? msg`${bench.waiting} ${plural(bench.waiting, 'tap', 'taps')} not saved yet, trying again`
                : msg`the server does not answer, trying again`}
            </span>
          )}
          {refused > 0 && <KeptSign className="text-xl" />}
          <time className="clock text-3xl sm:text-5xl lg:text-[64px] leading-none font-medium">{clockTime(nowMs)}</time>
        </header>
        {begun && !state.finished && !settings.quiet && <SoundTouch />}
        <InsecureNotice />
        {bench.refusal && (
          <p role="alert" className="text-error font-semibold border-l-4 border-error pl-3">
            {bench.refusal}
          </p>
        )}
        {revision.text && (
          <p role="status" className="border-l-8 border-primary pl-4 flex flex-wrap items-center gap-x-6 gap-y-2">
            <span className="text-2xl">{revision.text}.</span>
            <button type="button" className="btn min-h-16 text-xl" onClick={revision.asItWas}>
              {msg`as it was`}
            </button>
          </p>
        )}
        {air?.sensor && air.differs && !air.follows && begun && !airLeft && (
          <p role="status" className="border-l-8 border-base-content/60 pl-4 flex flex-wrap items-center gap-x-6 gap-y-2">
            <span>
              {msgNodes`The air: ${airText(air.sensor.tempC, air.sensor.humidityPct, units)} by the ${
                air.sensor.simulated
                  ? msg`simulated
                `
                  : ''
              }sensor, reckoned with ${airText(air.air.tempC, air.air.humidityFrac * 100, units)}.`}
            </span>
            <button type="button" className="btn min-h-16 text-xl" onClick={() => air.follow(true)}>
              {msg`follow the sensor`}
            </button>
            <button type="button" className="btn min-h-16 text-xl" onClick={() => setAirLeft(true)}>
              {msg`leave it`}
            </button>
          </p>
        )}
        <main className="grow grid md:grid-cols-[18rem_1fr] lg:grid-cols-[22rem_1fr_20rem] gap-x-8 gap-y-4 pt-2 content-start">
          {!begun ? (
            <BeforeStart plan={plan} epochMs={index.plan.epochMs} />
          ) : now ? (
            <Now
              index={index}
              orderId={run.orderId}
              view={view}
              nowMs={nowMs}
              dayEnd={dayEnd}
              stencils={stencilUses(index, now.task)}
              known={settings.known}
              onKnown={(t, on) => setSettings({ known: on ? [...settings.known, t] : settings.known.filter((k) => k !== t) })}
              byCookie={settings.byCookie}
            />
          ) : state.finished ? (
            <AllDone run={run} plan={plan} packed={cameThrough(index)} nowMs={nowMs} startedAtMs={state.startedAtMs as number} />
          ) : (
            <section className="md:col-span-2">
              <h1 className="text-[44px] leading-tight font-semibold">{msg`Nothing left for these hands`}</h1>
              <p className="text-2xl mt-3">{msgNodes`The others have ${view.total - view.done} steps to go.`}</p>
            </section>
          )}
          <aside className="grid gap-5 content-start md:max-lg:col-span-2 md:max-lg:grid-cols-2">
            {stand && !dayEnd && <Morning stand={stand} />}
            {(view.closing.length > 0 || inDehydrator.length > 0) && (
              <ClosingList
                view={view}
                inDehydrator={inDehydrator}
                nowMs={nowMs}
                onDecide={(taskId) => setAsking({ kind: 'shut', taskId, found: false })}
              />
            )}
            {dehydratorLeftOn(index, nowMs) && (
              <section aria-label={msg`Dehydrator`} className="border-l-8 border-error pl-4">
                <p className="text-2xl">{msg`The dehydrator is empty and still on.`}</p>
                <button type="button" className="btn min-h-16 text-xl mt-2" onClick={() => bench.send({ type: 'dehydratorOff', data: {} })}>
                  {msg`it is off`}
                </button>
              </section>
            )}
            {begun && <ToolCount bench={bench} index={index} dayOver={dayEnd !== null || state.finished} />}
            {revision.lost.length > 0 && (
              <Lost plan={plan} lost={revision.lost} onChoose={(taskId) => setAsking({ kind: 'shut', taskId, found: false })} />
            )}
            {caution && (
              <section aria-label={msg`Caution`} className="border-l-8 border-base-content/60 pl-4">
                <p>{caution.text}</p>
                <button
                  type="button"
                  className="btn min-h-16 text-xl mt-2"
                  onClick={() => {
                    if (isReal) keepRead(caution.id, nowMs);
                    setRead([...read, caution.id]);
                  }}
                >
                  {msg`understood`}
                </button>
              </section>
            )}
            {begun && view.beside.length > 0 && (
              <NextList plan={plan} next={view.beside} nowMs={nowMs} title={msg`The others`} onHands={setWho} />
            )}
            {begun && view.next.length > 0 && <NextList plan={plan} next={view.next} nowMs={nowMs} title={msg`Next`} />}
          </aside>
        </main>
        <div className="grid gap-2 py-3 sticky bottom-0 bg-base-100">
          <Reports bench={bench} state={state} view={view} touch={mayTouch(index, view, nowMs)} onAsk={setAsking} />
          <div className="flex gap-3 sm:gap-4">
            <button type="button" className="btn h-24 w-20 sm:w-28 text-xl flex-col px-1" disabled={!bench.canUndo} onClick={act.back}>
              <Undo2 aria-hidden size={30} />
              {msg`undo`}
            </button>
            {(now || !begun) && (
              <button
                type="button"
                className={`btn h-24 grow w-24 text-2xl sm:text-4xl font-semibold ${view.waiting ? '' : 'btn-primary'}`}
                onClick={act.forward}
              >
                {forwardText(state, view, settings.byCookie)}
              </button>
            )}
            {begun && now && state.pausedAtMs === null && (
              <button
                type="button"
                className="btn h-24 w-20 sm:w-28 text-xl flex-col px-1"
                onClick={() => bench.send({ type: 'paused', data: {} })}
              >
                <Pause aria-hidden size={30} />
                {msg`pause`}
              </button>
            )}
          </div>
        </div>
        <RackStrip plan={plan} index={index} nowMs={nowMs} onTray={(trayId) => setAsking({ kind: 'tray', trayId })} />
        <Asked
          asking={asking}
          onAsk={setAsking}
          bench={bench}
          view={view}
          how={{ runId: run?.id ?? '', settings, onSettings: setSettings, hands, who, onWho: setWho, air }}
        />
      </div>
    </Wiping>
  );
}

function forwardText(state: RunState, view: BenchView, byCookie: boolean): string {
  if (state.startedAtMs === null) return msg`Begin the run`;
  if (state.pausedAtMs !== null) return msg`Go on`;
  const step = nextStep(state, view, byCookie);
  if (step?.type === 'cookieDone') return msg`Done: cookie ${(step.data as { cookie: number }).cookie + 1}`;
  if (view.inHandSinceMs !== null) return msg`Done`;
  return view.waiting ? msg`Begin already` : msg`Begin`;
}
