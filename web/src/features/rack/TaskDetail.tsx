import type { Pin, Plan, PlanTask } from '@kestfog/core/formats';
import { bagChanges, bagUsesOf, lookAfter } from '@kestfog/core/planning';
import { reasonOf } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { useColourName } from '../../app/colour-names.js';
import { dayClock, span } from '../../text/time.js';
import { bagsByColour, becauseText, capital, cookiesText, designName } from '../../text/words.js';
import { BagChanges } from '../../ui/BagChanges.js';
import { Cookie } from '../../ui/Cookie.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { TrayMap } from '../../ui/TrayMap.js';
import { soonestWindows } from './windows.js';

/** A tray put off is put off by so much. */
const LATER_S = 1800;
/** A round sent to dry by a touch; more or less is said in the order. */
const STAY_MIN = { dehydrator: 3, fan: 10 } as const;

/** All there is to say of one step: picture, bag, times, why it waits, how much slack, what it holds up. */
export function TaskDetail({
  plan,
  task,
  epochMs,
  slackS,
  isOnChain,
  whole,
  onWhole,
  onChoose,
  onPin,
}: {
  readonly plan: Plan;
  readonly task: PlanTask;
  readonly epochMs: number;
  /** how much later it could begin */
  readonly slackS: number;
  readonly isOnChain: boolean;
  /** everything is shown, not only what, when and why */
  readonly whole: boolean;
  readonly onWhole: (whole: boolean) => void;
  readonly onChoose: (id: string) => void;
  /** null where nothing may be changed */
  readonly onPin: ((pin: Pin) => void) | null;
}) {
  const nameOf = useColourName();
  const lot = plan.trays.flatMap((t) => t.lots).find((l) => l.id === task.lotId);
  const design = plan.designs.find((d) => d.id === lot?.designId);
  const parts = task.motions.flatMap((m) => design?.graph.steps.find((s) => s.id === m.stepId)?.parts ?? []);
  const before = plan.waits.filter((w) => w.to === task.id && w.rule !== 'prepared-first').sort((a, b) => a.slackS - b.slackS);
  const after = plan.waits.filter((w) => w.from === task.id && w.rule !== 'prepared-first').sort((a, b) => a.slackS - b.slackS);
  const at = (s: number) => dayClock(epochMs + s * 1000);
  const windows = soonestWindows(task);
  const { openBags } = plan.order;
  const bagChange = openBags === null ? null : (bagChanges(bagUsesOf(plan), openBags).get(task.id) ?? null);
  const trayBegins = Math.min(...plan.tasks.filter((t) => t.trayId === task.trayId).map((t) => t.startS));
  const bagLine = task.bags.length > 0 && (
    <ul className="grid gap-1 text-base">
      {bagsByColour(task.bags, nameOf).map((b) => (
        <li key={b.colour} className="flex items-center gap-2">
          <span className="inline-block w-6 h-6 rounded-full border border-base-content/40" style={{ background: b.colour }} />
          {b.text}
        </li>
      ))}
    </ul>
  );
  const windowLine = windows.length > 0 && (
    <p className="text-lg text-error font-medium">
      {msgNodes`${capital(windows.map((m) => m.label).join(', '))}: within ${span(Math.min(...windows.map((m) => m.windowS as number)))}
        of flooding, ${task.way === 'colour-by-colour' ? msg`colour by colour over all of them` : msg`cookie by cookie`}.`}
    </p>
  );
  const picture = design && (
    <Cookie
      design={design.drawing}
      look={lookAfter(plan, task, design.drawing)}
      lit={parts}
      className={whole ? 'w-32 h-24' : 'w-16 h-12'}
      label={msg`${design.drawing.name} after this step`}
    />
  );
  return (
    <section
      aria-live="polite"
      aria-label={msg`The step`}
      className="no-print sticky bottom-0 z-20 bg-base-100 mt-1 border-t-2 border-base-content/60 pt-1.5 pb-2 md:max-h-[40vh] overflow-y-auto"
    >
      <div className="flex flex-wrap md:flex-nowrap items-start gap-x-6 gap-y-1">
        <div className={whole ? 'w-32 shrink-0' : 'w-16 shrink-0'}>{picture}</div>
        <div className="grow min-w-0">
          <p className="flex flex-wrap items-baseline gap-x-4">
            <span className="clock text-lg">
              {msgNodes`${at(task.startS)} to ${dayClock(epochMs + task.endS * 1000, epochMs + task.startS * 1000)}`}
            </span>
            <span className="text-base opacity-80">
              {msgNodes`tray ${task.trayId}
                ${plan.order.decorators.length > 1 && `· ${task.by} `}${task.lotId && `· ${designName(plan, task)}, ${cookiesText(plan, task)}`}`}
            </span>
          </p>
          <h2 className="text-xl font-semibold leading-tight">{capital(task.title)}</h2>
          <p className="text-base">
            <b className="font-semibold">{msg`Why then:`}</b> {becauseText(plan, task.because)}.{' '}
            <b className="font-semibold">{msg`To spare:`}</b>{' '}
            {slackS < 60 ? msg`nothing; later here is later at the end` : msg`it could begin ${span(slackS)} later`}
            {isOnChain && msg`; it is one of those that set the end`}.
          </p>
          {whole && <BagChanges change={bagChange} className="mt-1 grid gap-1 text-lg" />}
          {whole && windowLine}
        </div>
        <div className="shrink-0 max-w-sm">{bagLine}</div>
        <button type="button" className="btn btn-sm shrink-0" aria-expanded={whole} onClick={() => onWhole(!whole)}>
          {whole ? msg`less` : msg`more`}
        </button>
      </div>
      {whole && (
        <div className="text-base mt-2 grid md:grid-cols-[1fr_1fr_auto] gap-x-8 gap-y-2 content-start">
          <WaitList title={msg`It waited for`} waits={before} end="from" onChoose={onChoose} />
          <WaitList title={msg`It holds up`} waits={after} end="to" onChoose={onChoose} />
          {task.kind === 'prepare' && <TrayMap plan={plan} trayId={task.trayId} className="max-w-64" />}
          {onPin && (
            <div className="flex flex-wrap gap-2 no-print">
              <button type="button" className="btn btn-sm" onClick={() => onPin({ kind: 'tray-first', tray: task.trayId })}>
                {msgNodes`begin with tray ${task.trayId}`}
              </button>
              <button
                type="button"
                className="btn btn-sm"
                onClick={() => onPin({ kind: 'not-before', tray: task.trayId, at: trayBegins + LATER_S })}
              >
                {msgNodes`tray ${task.trayId} half an hour later`}
              </button>
              {task.kind === 'wet' &&
                (['dehydrator', 'fan'] as const).map(
                  (where) =>
                    plan.order[where] && (
                      <button
                        key={where}
                        type="button"
                        className="btn btn-sm"
                        onClick={() => onPin({ kind: 'stay', tray: task.trayId, round: task.round, where, minutes: STAY_MIN[where] })}
                      >
                        {msgNodes`this round ${where === 'dehydrator' ? msg`into the dehydrator` : msg`before the fan`},
                          ${STAY_MIN[where]} min`}
                      </button>
                    ),
                )}
            </div>
          )}
        </div>
      )}
    </section>
  );
}

function WaitList({
  title,
  waits,
  end,
  onChoose,
}: {
  readonly title: string;
  readonly waits: Plan['waits'];
  readonly end: 'from' | 'to';
  readonly onChoose: (id: string) => void;
}) {
  if (waits.length === 0) return null;
  return (
    <div>
      <h3 className="font-semibold">{title}</h3>
      <ul>
        {waits.slice(0, 3).map((w) => (
          <li key={w.from + w.to + w.rule}>
            <button type="button" className="link link-hover text-left" onClick={() => onChoose(w[end])}>
              {reasonOf(w)},{' '}
              <span className="opacity-80 whitespace-nowrap">{w.slackS > 0 ? msg`${span(w.slackS)} to spare` : msg`nothing to spare`}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
