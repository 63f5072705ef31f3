import {
  type BenchView,
  bagChangeAt,
  type DayEnd,
  type Expected,
  openCookies,
  openingsOf,
  type RunIndex,
  type StencilUse,
  wantsKneading,
  withoutPausesMs,
} from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import { lookAfter } from '@kestfog/core/planning';
import { bagKey, handsWords, type Opening, type TechniqueId, techniqueById } from '@kestfog/core/steps';
import { reasonOf } from '@kestfog/core/wording';
import { msg, plural } from '@kestfog/core/words';
import { useMemo } from 'react';
import { useColourName } from '../../app/colour-names.js';
import { useCounting } from '../../app/counting.js';
import { type Units, useUnits } from '../../app/units.js';
import { openingsText } from '../../text/amounts.js';
import { dayClock, span, stopwatch } from '../../text/time.js';
import { bagText, becauseText, capital, cookiesText, designName, motionLines } from '../../text/words.js';
import { BagChanges } from '../../ui/BagChanges.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { StepPicture } from '../../ui/StepPicture.js';
import { LessonsAt } from '../notebook/Lessons.js';
import { HandsLines } from './HandsLines.js';

interface Props {
  readonly index: RunIndex;
  readonly orderId: string;
  readonly view: BenchView;
  readonly nowMs: number;
  readonly dayEnd: DayEnd | null;
  /** its stencils with when they are washed */
  readonly stencils: readonly StencilUse[];
  /** techniques whose lines are hidden on this device */
  readonly known: readonly TechniqueId[];
  readonly onKnown: (technique: TechniqueId, known: boolean) => void;
  /** cookies are ticked one by one on this device */
  readonly byCookie: boolean;
}

/** What is printed for a step, by its technique. */
const SHEETS: Readonly<Partial<Record<TechniqueId, Readonly<Record<string, string>>>>> = {
  'guide-sheet': { drawn: msg`guide`, guide: msg`own` },
  'guide-traced': { drawn: 'template' },
  'guide-stencil': { drawn: 'template' },
};

/** The one thing to do now: the cookie after it, where, with which bags, in which motions, and how long it should take. */
export function Now({ index, orderId, view, nowMs, dayEnd, stencils, known, onKnown, byCookie }: Props) {
  const [units] = useUnits();
  const counting = useCounting();
  const nameOf = useColourName();
  const { task, startMs } = view.now as Expected;
  const { state } = index;
  const { plan } = state;
  const design = index.plan.designOf(task);
  // What hangs on the step and the run alone is not worked out again every second.
  const { parts, motions, words } = useMemo(() => {
    const steps = task.motions.flatMap((m) => index.plan.step(task, m.stepId) ?? []);
    const widened = task.motions.some((m) => m.technique === 'widen-snip');
    const { school, tips } = index.state.plan.order;
    return {
      parts: steps.flatMap((s) => s.parts),
      motions: motionLines(task),
      words: design ? handsWords(design.drawing, steps, school, tips, widened) : [],
    };
  }, [index, task, design]);
  const look = useMemo(() => design && lookAfter(plan, task, design.drawing, index.isDone), [plan, task, design, index]);
  const bagChange = useMemo(() => bagChangeAt(index, task), [index, task]);
  const left = openCookies(task, state.tasks.get(task.id)?.ticked);
  const [soonest] = view.closing;
  const stopwatchLine = view.inHandSinceMs !== null && (
    <>
      <span className="clock text-[72px] leading-none font-medium">{stopwatch(withoutPausesMs(state, view.inHandSinceMs, nowMs))}</span>
      <span className="text-2xl">{msgNodes`of about ${stopwatch((task.endS - task.startS) * 1000)}`}</span>
      {byCookie && task.lotId && <span className="text-2xl">{msgNodes`cookie ${(left[0] ?? task.cookies[0]) + 1} is next`}</span>}
    </>
  );
  const sheet = task.motions.map((m) => SHEETS[m.technique]).find((s) => s !== undefined);
  // A detail's tool is said at once: a pen, a template, a brush is fetched before the first cookie.
  const tool = task.motions[0] && techniqueById(task.motions[0].technique).tool;
  return (
    <>
      {/* In one column the words come first: a phone shows no more than them and the button. */}
      <div className="order-last md:order-none">
        {design && look && (
          <StepPicture
            design={design.drawing}
            look={look}
            parts={parts}
            seconds={(task.endS - task.startS) / Math.max(1, task.cookies[1] - task.cookies[0])}
            className="w-full max-h-64 md:max-h-[18rem]"
            label={msg`${design.drawing.name} after this step`}
          />
        )}
        {stopwatchLine && <p className="mt-2 hidden md:flex flex-wrap items-baseline gap-x-4">{stopwatchLine}</p>}
      </div>
      <section aria-live="polite">
        {state.pausedAtMs !== null && <p className="text-4xl font-semibold mb-2">{msg`Paused. Icing goes on drying.`}</p>}
        {dayEnd ? (
          <Evening plan={plan} dayEnd={dayEnd} />
        ) : (
          view.waiting && (
            <p className="text-[44px] leading-tight font-semibold mb-3">
              {msgNodes`Nothing until ${dayClock(startMs, nowMs)},
                ${<span className="whitespace-nowrap">{span((startMs - nowMs) / 1000)}</span>}`}
            </p>
          )
        )}
        <p className="text-2xl">
          {msgNodes`${view.waiting ? msg`then ` : ''}tray
            ${<b className="text-4xl">{task.trayId}</b>}${task.lotId && `, ${designName(plan, task)}, ${cookiesText(plan, task)}`}`}
        </p>
        <h1 className={`${view.waiting ? 'text-3xl' : 'text-[34px] sm:text-[44px] leading-tight'} font-semibold mt-1`}>
          {capital(task.title)}
        </h1>
        {stopwatchLine && (
          <p aria-live="off" className="mt-2 flex md:hidden flex-wrap items-baseline gap-x-4">
            {stopwatchLine}
          </p>
        )}
        {/* What is running out stays in sight on a phone too; the list with everything follows below. */}
        {soonest && (
          <p className="md:hidden border-l-8 border-error pl-3 text-2xl" aria-hidden="true">
            <span className="clock font-medium">{soonest.closesAtMs > nowMs ? stopwatch(soonest.closesAtMs - nowMs) : msg`over`}</span>{' '}
            {soonest.label}
          </p>
        )}
        <BagChanges change={bagChange} className="grid gap-1 mt-3 text-2xl" />
        {task.bags.length > 0 && (
          <ul className="grid gap-1 mt-3 text-2xl">
            {task.bags.map((b) => (
              <li key={bagKey(b)} className="flex items-center gap-3">
                <span
                  className="inline-block w-9 h-9 shrink-0 rounded-full border-2 border-base-content/60"
                  style={{ background: b.colour }}
                />
                <span>
                  {bagText(b, nameOf)}
                  {state.counted.has(bagKey(b)) && msg`, counts ${counting.text(state.counted.get(bagKey(b)) as number)} now`}
                  {openingText(openingsOf(plan, task, b), units)}
                  {wantsKneading(index, b, nowMs) && <b>{msg`, knead it`}</b>}
                </span>
              </li>
            ))}
          </ul>
        )}
        {task.kind === 'detail' && tool && <p className="mt-3 text-2xl">{capital(tool)}.</p>}
        <LessonsAt design={design?.drawing.name ?? null} step={task.title} school={plan.order.school.label} />
        {/* A rehearsal of a lesson has no order to print for. */}
        {sheet && orderId !== '' && (
          <p className="mt-3 text-2xl">
            <a
              href={`/orders/${orderId}/sheets?${new URLSearchParams({ sheet: 'true-size', design: design?.id ?? '', ...sheet })}`}
              target="_blank"
              rel="noreferrer"
              className="link"
            >
              {msg`Print its sheet`}
            </a>
          </p>
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
        {stencils.map((s) => (
          <p key={s.name} className="mt-3 text-2xl">
            {msgNodes`Wash the stencil${stencils.length > 1 && msg` of ${s.name}`} after ${
              s.left === s.every
                ? msg`every
              ${s.every}`
                : msg`${s.left} more, then after every ${s.every}`
            } cookies.`}
          </p>
        ))}
        {view.inHandSinceMs === null && (
          <p className="mt-3 text-2xl">
            {capital(view.waiting && !dayEnd && view.waitingFor ? waitingText(view.waitingFor) : becauseText(plan, task.because))}.
          </p>
        )}
        {!view.waiting && <HandsLines words={words} known={known} onKnown={onKnown} />}
      </section>
    </>
  );
}

const waitingText = (what: NonNullable<BenchView['waitingFor']>): string =>
  what === 'found-wet' ? msg`it was found not to be there yet` : reasonOf(what);
const openingText = (openings: readonly Opening[], units: Units): string =>
  openings.length === 0 ? '' : `, ${openingsText(openings, units)}`;

function Evening({ plan, dayEnd }: { readonly plan: Plan; readonly dayEnd: DayEnd }) {
  const one = dayEnd.drying.length === 1;
  return (
    <div className="mb-3">
      <p className="text-[44px] leading-tight font-semibold">{msgNodes`Done for today. Back at ${dayClock(dayEnd.backAtMs)}`}</p>
      <p className="text-2xl mt-2">
        {msgNodes`${dayEnd.left} ${plural(dayEnd.left, 'step', 'steps')} left.`}
        {dayEnd.drying.length > 0 &&
          msg` ${one ? msg`Tray` : msg`Trays`} ${dayEnd.drying.join(', ')} ${one ? msg`dries` : msg`dry`} overnight: covered, never
            airtight.`}{' '}
        {plan.stays.some((s) => s.where === 'dehydrator') && msg`Switch the dehydrator off.`}
      </p>
    </div>
  );
}
