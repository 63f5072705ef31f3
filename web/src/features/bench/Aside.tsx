import type { AwayTray, BenchView, Expected, Replanned } from '@kestfog/core/bench';
import { type Plan, planIndex, takeOutIdOf } from '@kestfog/core/formats';
import { consequenceOf } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { dayClock, stopwatch } from '../../text/time.js';
import { capital, cookiesText } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';

interface ClosingProps {
  readonly view: BenchView;
  readonly inDehydrator: readonly AwayTray[];
  readonly nowMs: number;
  /** a window is over: what becomes of its work */
  readonly onDecide: (taskId: string) => void;
}

/** What is running out, soonest first, with what to do. */
export function ClosingList({ view, inDehydrator, nowMs, onDecide }: ClosingProps) {
  // A tray in the dehydrator has its own line: its taking out is not shown twice.
  const takesOut = (c: (typeof view.closing)[number]) => inDehydrator.some((a) => a.stayId !== null && c.taskId === takeOutIdOf(a.stayId));
  const closing = view.closing.filter((c) => !takesOut(c));
  return (
    <section aria-label={msg`Closing`} className="border-l-8 border-error pl-4">
      <h2 className="text-2xl font-semibold text-error">{msg`Closing`}</h2>
      <ul className="grid gap-3 mt-1">
        {inDehydrator.map((a) => (
          <li key={a.stayId ?? `${a.trayId} ${a.outAtMs}`}>
            <span className="clock text-4xl font-medium">
              {nowMs < a.outAtMs ? stopwatch(a.outAtMs - nowMs) : msg`${stopwatch(nowMs - a.outAtMs)} over`}
            </span>
            <span className="block">
              {nowMs < a.outAtMs
                ? msg`then tray ${a.trayId} comes out of the dehydrator`
                : msg`take tray ${a.trayId} out of the dehydrator`}
            </span>
          </li>
        ))}
        {closing.slice(0, 3).map((c) => {
          const leftMs = c.closesAtMs - nowMs;
          return (
            <li key={c.taskId + c.label}>
              <span className="clock text-4xl font-medium">{leftMs > 0 ? stopwatch(leftMs) : msg`over`}</span>
              <span className="block">
                {c.cookie === null
                  ? msg`${c.label}, tray ${c.trayId}: ${
                      leftMs > 0
                        ? msg`by ${dayClock(c.closesAtMs, nowMs)}`
                        : msg`touch first, it may be
                    too late`
                    }`
                  : leftMs > 0
                    ? msg`${c.label} on cookie ${c.cookie}, tray ${c.trayId}`
                    : msg`${c.label}: touch first, it may be thickening`}
              </span>
              {leftMs <= 0 && (
                <button type="button" className="btn min-h-16 text-xl mt-1" onClick={() => onDecide(c.taskId)}>
                  {msg`decide`}
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

interface LostProps {
  readonly plan: Plan;
  readonly lost: Replanned['lost'];
  readonly onChoose: (taskId: string) => void;
}

/** Windows that cannot be held any more; each is decided, not left to be found out. */
export function Lost({ plan, lost, onChoose }: LostProps) {
  return (
    <section aria-label={msg`Cannot be held`} className="border-l-8 border-error pl-4">
      <h2 className="text-2xl font-semibold text-error">{msg`Cannot be held any more`}</h2>
      <ul className="grid gap-3 mt-1">
        {lost.slice(0, 2).map((l) => {
          const task = planIndex(plan).task(l.taskId);
          return task ? (
            <li key={l.taskId}>
              {msgNodes`${capital(task.title)}, tray ${task.trayId}: ${consequenceOf(l.why)}.`}
              <button type="button" className="btn min-h-16 text-xl mt-1" onClick={() => onChoose(l.taskId)}>
                {msg`decide`}
              </button>
            </li>
          ) : null;
        })}
      </ul>
    </section>
  );
}

interface NextProps {
  readonly plan: Plan;
  readonly next: readonly Expected[];
  readonly nowMs: number;
  readonly title: string;
  /** to look at those hands' bench instead */
  readonly onHands?: (who: string) => void;
}

export function NextList({ plan, next, nowMs, title, onHands }: NextProps) {
  return (
    <section aria-label={title}>
      <h2 className="text-2xl font-semibold">{title}</h2>
      <ol className="grid gap-3 mt-1">
        {next.map((e) => (
          <li key={e.task.id}>
            <span className="clock text-2xl font-medium">{dayClock(e.startMs, nowMs)}</span>{' '}
            <span>{msgNodes`tray ${e.task.trayId}: ${e.task.title}${e.task.lotId ? `, ${cookiesText(plan, e.task)}` : ''}`}</span>
            {onHands && (
              <button type="button" className="btn min-h-16 text-xl mt-1" onClick={() => onHands(e.task.by)}>
                {msgNodes`hands of ${e.task.by}`}
              </button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
