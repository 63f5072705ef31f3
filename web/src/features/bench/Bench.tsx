import {
  type Alert,
  type AwayTray,
  actualStays,
  alertsOf,
  awayTrays,
  type BenchView,
  benchView,
  type CautionId,
  type DayEnd,
  type Expected,
  endOfDay,
  lookAfter,
  type Plan,
  type Replanned,
  STENCIL_USES,
  stillWetUntilS,
  untilStencilWash,
} from '@kestfog/core';
import { Undo2, Volume2, VolumeX } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useKitchen } from '../../api/queries.js';
import { clockTime, dayClock, span, stopwatch } from '../../text/time.js';
import { bagsByColour, becauseText, capital, cookiesText, designName, motionLines } from '../../text/words.js';
import { Cookie } from '../../ui/Cookie.js';
import { cautionOf, keepRead, readToday } from './cautions-today.js';
import { knock } from './knock.js';
import { type TrayNow, traysNow } from './tray-state.js';
import { useAlarms } from './use-alarms.js';
import { useOneAction } from './use-one-action.js';
import { useReplan } from './use-replan.js';
import type { Run } from './use-run.js';
import { useWakeLock } from './use-wake-lock.js';
import { WipeLock } from './WipeLock.js';

const NONE: readonly Alert[] = [];
/** So long after a step was taken up, a finger may still say that it is too wet for it. */
const TOUCH_MS = 120_000;

/** The run, full screen: now, what is about to close, what is next; one action forward, one back. */
export function Bench({ bench }: { readonly bench: Run }) {
  useWakeLock();
  const { run, state, nowMs } = bench;
  // The plan as it stands: re-planned as often as the run has slipped.
  const plan = state?.plan;
  const epochMs = plan ? Date.parse(plan.epoch as string) : 0;
  const view = plan && state ? benchView(plan, state, epochMs, nowMs) : null;
  const forward = () => {
    if (!state || !view) return;
    if (state.startedAtMs === null) bench.send({ type: 'runStarted', data: {} });
    else if (state.pausedAtMs !== null) bench.send({ type: 'resumed', data: {} });
    else if (view.now)
      bench.send(
        view.inHandSinceMs === null ? { type: 'taskBegun', data: { taskId: view.now.task.id } } : { type: 'taskDone', data: { taskId: view.now.task.id } },
      );
    else return;
    knock();
  };
  const back = () => {
    if (!bench.canUndo) return;
    bench.undo();
    knock(220);
  };
  const act = useOneAction({ forward, back });
  const alerts = plan && state && view ? alertsOf(plan, state, view, nowMs) : NONE;
  const { quiet, setQuiet } = useAlarms(alerts);
  const revision = useReplan(bench, view);
  const eggWhite = useKitchen().data?.eggWhite ?? 'dried';
  const [read, setRead] = useState<readonly CautionId[]>([]);
  if (!run || !plan || !state || !view) return null;
  const trays = traysNow(plan, state, epochMs, nowMs);
  // What has only just been taken up may still be found too wet for it.
  const { now } = view;
  const touchable = now !== null && !view.waiting && (view.inHandSinceMs === null || nowMs - view.inHandSinceMs < TOUCH_MS) && state.pausedAtMs === null;
  const untilS =
    touchable && state.startedAtMs !== null
      ? stillWetUntilS(
          plan,
          state,
          now.task,
          epochMs,
          (nowMs - epochMs) / 1000,
          actualStays(plan, state, epochMs).filter((x) => x.trayId === now.task.trayId),
        )
      : null;
  const inBox = awayTrays(plan, state, nowMs).filter((a) => a.where === 'box');
  const caution = view.now && state.startedAtMs !== null ? cautionOf(view.now.task, eggWhite, [...readToday(nowMs), ...read]) : null;
  return (
    <div className="min-h-dvh flex flex-col px-4 md:px-6 text-xl leading-snug">
      <header className="flex flex-wrap items-center gap-x-4 sm:gap-x-6 pt-2">
        <Link to={`/orders/${run.orderId}`} className="link link-hover min-h-16 flex items-center">
          {run.orderName}
        </Link>
        <span>
          {view.done} of {view.total} done
        </span>
        <button type="button" className="btn btn-ghost min-h-16 min-w-16 text-xl px-2" aria-pressed={quiet} onClick={() => setQuiet(!quiet)}>
          {quiet ? <VolumeX aria-hidden size={30} /> : <Volume2 aria-hidden size={30} />}
          <span className="sr-only sm:not-sr-only">{quiet ? 'quiet' : 'sounds on'}</span>
        </button>
        <WipeLock />
        <span className="grow" />
        {(!bench.online || bench.waiting > 0) && (
          <span role="status" className="text-error font-semibold">
            {bench.waiting > 0
              ? `${bench.waiting} ${bench.waiting === 1 ? 'tap' : 'taps'} not saved yet, trying again`
              : 'the server does not answer, trying again'}
          </span>
        )}
        <time className="clock text-5xl sm:text-[64px] leading-none font-medium">{clockTime(nowMs)}</time>
      </header>
      {bench.refusal && (
        <p role="alert" className="text-error font-semibold border-l-4 border-error pl-3">
          {bench.refusal}
        </p>
      )}
      {revision.text && (
        <p role="status" className="border-l-8 border-primary pl-4 flex flex-wrap items-center gap-x-6 gap-y-2">
          <span className="text-2xl">{revision.text}.</span>
          <button type="button" className="btn min-h-16 text-xl" onClick={revision.asItWas}>
            as it was
          </button>
        </p>
      )}
      <main className="grow grid lg:grid-cols-[25rem_1fr_20rem] gap-x-8 gap-y-4 pt-2 content-start">
        {state.startedAtMs === null ? (
          <BeforeStart plan={plan} epochMs={epochMs} />
        ) : view.now ? (
          <Now
            plan={plan}
            view={view}
            nowMs={nowMs}
            paused={state.pausedAtMs !== null}
            dayEnd={endOfDay(plan, state, view, epochMs, nowMs)}
            untilWash={view.now ? untilStencilWash(plan, state, view.now.task) : null}
          />
        ) : (
          <AllDone plan={plan} nowMs={nowMs} startedAtMs={state.startedAtMs} />
        )}
        <aside className="grid gap-5 content-start">
          {(view.closing.length > 0 || inBox.length > 0) && <ClosingList view={view} inBox={inBox} nowMs={nowMs} />}
          {revision.lost.length > 0 && <Lost plan={plan} lost={revision.lost} />}
          {caution && (
            <section aria-label="Caution" className="border-l-8 border-base-content/60 pl-4">
              <p>{caution.text}</p>
              <button
                type="button"
                className="btn min-h-16 text-xl mt-2"
                onClick={() => {
                  keepRead(caution.id, nowMs);
                  setRead([...read, caution.id]);
                }}
              >
                understood
              </button>
            </section>
          )}
          {state.startedAtMs !== null && view.next.length > 0 && <NextList plan={plan} next={view.next} nowMs={nowMs} />}
        </aside>
      </main>
      <div className="flex flex-wrap sm:flex-nowrap gap-3 sm:gap-4 py-3 sticky bottom-0 bg-base-100">
        <button type="button" className="btn h-24 w-20 sm:w-28 text-xl flex-col px-1" disabled={!bench.canUndo} onClick={act.back}>
          <Undo2 aria-hidden size={30} />
          undo
        </button>
        {(view.now || state.startedAtMs === null) && (
          <button type="button" className={`btn h-24 grow w-24 text-2xl sm:text-4xl font-semibold ${view.waiting ? '' : 'btn-primary'}`} onClick={act.forward}>
            {forwardText(view, state.startedAtMs === null, state.pausedAtMs !== null)}
          </button>
        )}
        {now && untilS !== null && (
          <button
            type="button"
            className="btn h-16 sm:h-24 basis-full sm:basis-28 order-first sm:order-none text-xl px-1"
            onClick={() => bench.send({ type: 'stillWet', data: { taskId: now.task.id, untilS } })}
          >
            still wet
          </button>
        )}
        {state.startedAtMs !== null && view.now && state.pausedAtMs === null && (
          <button type="button" className="btn h-24 w-20 sm:w-28 text-xl px-1" onClick={() => bench.send({ type: 'paused', data: {} })}>
            pause
          </button>
        )}
      </div>
      <RackStrip plan={plan} trays={trays} />
    </div>
  );
}

function forwardText(view: BenchView, notStarted: boolean, paused: boolean): string {
  if (notStarted) return 'Begin the run';
  if (paused) return 'Go on';
  if (view.inHandSinceMs !== null) return 'Done';
  return view.waiting ? 'Begin already' : 'Begin';
}

function Now({
  plan,
  view,
  nowMs,
  paused,
  dayEnd,
  untilWash,
}: {
  readonly plan: Plan;
  readonly view: BenchView;
  readonly nowMs: number;
  readonly paused: boolean;
  readonly dayEnd: DayEnd | null;
  /** cookies until the stencil is washed, where the step stencils */
  readonly untilWash: number | null;
}) {
  const { task, startMs } = view.now as Expected;
  const lot = plan.trays.flatMap((t) => t.lots).find((l) => l.id === task.lotId);
  const design = plan.designs.find((d) => d.id === lot?.designId);
  const parts = task.motions.flatMap((m) => design?.graph.steps.find((s) => s.id === m.stepId)?.parts ?? []);
  const waitS = (startMs - nowMs) / 1000;
  const motions = motionLines(task);
  return (
    <>
      <div>
        {design && (
          <Cookie
            design={design.drawing}
            look={lookAfter(plan, task, design.drawing)}
            lit={parts}
            className="w-full max-h-44 sm:max-h-[26rem]"
            label={`${design.drawing.name} after this step`}
          />
        )}
      </div>
      <section aria-live="polite">
        {paused && <p className="text-4xl font-semibold mb-2">Paused. Icing goes on drying.</p>}
        {dayEnd ? (
          <div className="mb-3">
            <p className="text-[44px] leading-tight font-semibold">Done for today. Back at {dayClock(dayEnd.backAtMs)}</p>
            <p className="text-2xl mt-2">
              {dayEnd.left} {dayEnd.left === 1 ? 'step' : 'steps'} left.
              {dayEnd.drying.length > 0 &&
                ` ${dayEnd.drying.length === 1 ? 'Tray' : 'Trays'} ${dayEnd.drying.join(', ')} ${dayEnd.drying.length === 1 ? 'dries' : 'dry'} overnight: covered, never airtight.`}{' '}
              Count sharp tools and bag offcuts back in{plan.stays.some((s) => s.where === 'box') ? ', and switch the dehydrator off' : ''}.
            </p>
          </div>
        ) : (
          view.waiting && (
            <p className="text-[44px] leading-tight font-semibold mb-3">
              Nothing until {dayClock(startMs, nowMs)}, {span(waitS)}
            </p>
          )
        )}
        <p className="text-2xl">
          {view.waiting ? 'then ' : ''}tray <b className="text-4xl">{task.trayId}</b>
          {task.lotId && `, ${designName(plan, task)}, ${cookiesText(plan, task)}`}
        </p>
        <h1 className={`${view.waiting ? 'text-3xl' : 'text-[44px] leading-tight'} font-semibold mt-1`}>{capital(task.title)}</h1>
        {task.bags.length > 0 && (
          <ul className="flex flex-wrap gap-x-6 gap-y-1 mt-3 text-2xl">
            {bagsByColour(task.bags).map((b) => (
              <li key={b.colour} className="flex items-center gap-3">
                <span className="inline-block w-9 h-9 rounded-full border-2 border-base-content/60" style={{ background: b.colour }} />
                {b.text}
              </li>
            ))}
          </ul>
        )}
        {!view.waiting && motions.lines.length > 0 && (
          <div className="mt-3 text-2xl">
            {motions.intro}
            <ol className="list-decimal pl-8">
              {motions.lines.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ol>
          </div>
        )}
        {untilWash !== null && (
          <p className="mt-3 text-2xl">
            Wash the stencil after {untilWash === STENCIL_USES ? `every ${STENCIL_USES}` : `${untilWash} more, then after every ${STENCIL_USES}`} cookies.
          </p>
        )}
        {view.inHandSinceMs !== null ? (
          <p className="mt-4 flex items-baseline gap-4">
            <span className="clock text-[72px] leading-none font-medium">{stopwatch(nowMs - view.inHandSinceMs)}</span>
            <span className="text-2xl">of about {stopwatch((task.endS - task.startS) * 1000)}</span>
          </p>
        ) : (
          <p className="mt-3 text-2xl">{capital(view.waiting && !dayEnd && view.waitingFor ? view.waitingFor : becauseText(plan, task.because))}.</p>
        )}
      </section>
    </>
  );
}

function ClosingList({ view, inBox, nowMs }: { readonly view: BenchView; readonly inBox: readonly AwayTray[]; readonly nowMs: number }) {
  return (
    <section aria-label="Closing" className="border-l-8 border-error pl-4">
      <h2 className="text-2xl font-semibold text-error">Closing</h2>
      <ul className="grid gap-3 mt-1">
        {inBox.map((a) => (
          <li key={`${a.trayId} ${a.round}`}>
            <span className="clock text-4xl font-medium">{nowMs < a.outAtMs ? stopwatch(a.outAtMs - nowMs) : `${stopwatch(nowMs - a.outAtMs)} over`}</span>
            <span className="block">
              {nowMs < a.outAtMs ? `then tray ${a.trayId} comes out of the dehydrator` : `take tray ${a.trayId} out of the dehydrator`}
            </span>
          </li>
        ))}
        {view.closing.slice(0, 3).map((c) => {
          const leftMs = c.closesAtMs - nowMs;
          return (
            <li key={c.taskId + c.label}>
              <span className="clock text-4xl font-medium">{leftMs > 0 ? stopwatch(leftMs) : 'over'}</span>
              <span className="block">
                {leftMs > 0 ? `${c.label} on cookie ${c.cookie}, tray ${c.trayId}` : `${c.label}: touch first, it may be thickening`}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Windows that cannot be held any more, with what is left to choose. */
function Lost({ plan, lost }: { readonly plan: Plan; readonly lost: Replanned['lost'] }) {
  return (
    <section aria-label="Cannot be held" className="border-l-8 border-error pl-4">
      <h2 className="text-2xl font-semibold text-error">Cannot be held any more</h2>
      <ul className="grid gap-3 mt-1">
        {lost.slice(0, 2).map((l) => {
          const task = plan.tasks.find((t) => t.id === l.taskId);
          return (
            <li key={l.taskId}>
              {task && `${capital(task.title)}, tray ${task.trayId}: `}
              {l.consequence}. Skip it, do it in relief once it has crusted, or begin that cookie again.
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function NextList({ plan, next, nowMs }: { readonly plan: Plan; readonly next: readonly Expected[]; readonly nowMs: number }) {
  return (
    <section aria-label="Next">
      <h2 className="text-2xl font-semibold">Next</h2>
      <ol className="grid gap-3 mt-1">
        {next.map((e) => (
          <li key={e.task.id}>
            <span className="clock text-2xl font-medium">{dayClock(e.startMs, nowMs)}</span>{' '}
            <span>
              tray {e.task.trayId}: {e.task.title}
              {e.task.lotId ? `, ${cookiesText(plan, e.task)}` : ''}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function BeforeStart({ plan, epochMs }: { readonly plan: Plan; readonly epochMs: number }) {
  const first = plan.tasks[0];
  return (
    <section className="lg:col-span-2">
      <h1 className="text-[44px] leading-tight font-semibold">Ready when you are</h1>
      <p className="text-2xl mt-3">
        The plan begins {first ? dayClock(epochMs + first.startS * 1000) : ''} and takes {span(plan.handsOnS)} of hands. Space, a page-turner pedal or the
        button below moves on; undo is always there.
      </p>
      <p className="text-2xl mt-3">Only icing, colours and pens sold as edible; dried or pasteurised egg white rather than raw. Local food rules decide.</p>
    </section>
  );
}

function AllDone({ plan, nowMs, startedAtMs }: { readonly plan: Plan; readonly nowMs: number; readonly startedAtMs: number }) {
  const cookies = plan.trays.flatMap((t) => t.lots).reduce((s, l) => s + l.cookies, 0);
  return (
    <section className="lg:col-span-2">
      <h1 className="text-[44px] leading-tight font-semibold">All {cookies} are packed</h1>
      <p className="text-2xl mt-3">
        Begun {dayClock(startedAtMs)}, finished by {dayClock(nowMs)}. Count the sharp tools and bag offcuts back in.
      </p>
    </section>
  );
}

/** Every tray as it is now. */
function RackStrip({ plan, trays }: { readonly plan: Plan; readonly trays: readonly TrayNow[] }) {
  return (
    <section aria-label="Trays">
      <ul aria-label="The trays now" className="flex flex-wrap gap-x-8 gap-y-2 pb-3 border-t border-base-300 pt-2">
        {trays.map((t) => (
          <li key={t.trayId} className="flex items-center gap-3">
            <b className="text-3xl">{t.trayId}</b>
            {t.lots.map(({ lot, look }) => {
              const design = plan.designs.find((d) => d.id === lot.designId);
              return design ? (
                <Cookie key={lot.id} design={design.drawing} look={look} className="h-16 w-16" label={`${design.drawing.name} on tray ${t.trayId}`} />
              ) : null;
            })}
            <span>
              {t.packed ? 'packed' : t.inHand ? 'in hand' : (t.least ?? 'bare')}
              {t.away && (t.away === 'fan' ? ', at the fan' : ', in the dehydrator')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
