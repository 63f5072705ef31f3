import { benchView, pausesOf, runIndex } from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import { judge, type Lesson, type Truth, type Verdict } from '@kestfog/core/rehearsal';
import type { TaskId } from '@kestfog/core/units';
import { msg } from '@kestfog/core/words';
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Choice } from '../../ui/Choice.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { Bench } from '../bench/Bench.js';
import { Feel } from './Feel.js';
import { type KeptRehearsal, keyOfRehearsal, SPEEDS, useRehearsal } from './use-rehearsal.js';
import { VerdictView } from './VerdictView.js';

/** So long before a mark it rings, s. */
const BEFORE_MARK_S = 1;

interface Props {
  readonly plan: Plan;
  /** the name under which this window keeps where it stands */
  readonly keptAs: string;
  readonly home: { readonly to: string; readonly label: string };
  readonly name: string;
  readonly truth: Truth;
  readonly seed: number;
  readonly kitchen: string;
  readonly kept: KeptRehearsal | null;
  readonly call?: Lesson['call'];
  /** what is shown above the verdict */
  readonly lesson?: ReactNode;
  readonly onVerdict?: (verdict: Verdict) => void;
  readonly onAgain: () => void;
  readonly onLeave: () => void;
}

/** A rehearsal that goes on: the bench with its own clock, a finger, a telephone; at its end what became of it. */
export function Going({ plan, keptAs, home, name, truth: given, seed, kitchen, kept, call, lesson, onVerdict, onAgain, onLeave }: Props) {
  const { bench, speed, setSpeed, jumpTo, backTo, events } = useRehearsal(plan, name, kept);
  // Made anew on every drawing of the page it would forget nothing, and look like another.
  const [truth] = useState(given);
  const [feeling, setFeeling] = useState<TaskId | null>(null);
  const { state, nowMs } = bench;
  const index = state ? runIndex(state) : null;
  const view = index ? benchView(index, nowMs, null) : null;
  const key = keyOfRehearsal(keptAs);
  const isOver = state?.finished === true;
  const standing = useRef<KeptRehearsal | null>(null);
  // Played to its end, or left, it begins anew the next time.
  const isLeft = useRef(false);
  standing.current = isOver || isLeft.current ? null : { seed, kitchen, events, nowMs };
  const keep = useCallback(() => {
    try {
      if (standing.current) sessionStorage.setItem(key, JSON.stringify(standing.current));
      else sessionStorage.removeItem(key);
    } catch {
      // A window that keeps nothing: a reload begins anew.
    }
  }, [key]);
  useEffect(keep, [keep, events, isOver]);
  // The clock of it is kept where the page goes, not at every second.
  useEffect(() => {
    window.addEventListener('pagehide', keep);
    return () => {
      window.removeEventListener('pagehide', keep);
      keep();
    };
  }, [keep]);
  const forget = () => {
    isLeft.current = true;
    standing.current = null;
    keep();
  };
  const verdict = useMemo(() => (state?.finished ? judge(plan, events, truth) : null), [state?.finished, plan, events, truth]);
  const told = useRef<Verdict | null>(null);
  useEffect(() => {
    if (verdict && told.current !== verdict) onVerdict?.(verdict);
    told.current = verdict;
  }, [verdict, onVerdict]);
  // It rings once, in the middle of wet work; let ring, it rings again behind the next.
  const done = state ? [...state.tasks.values()].filter((t) => t.doneAtMs !== null).length : 0;
  const [lettingRing, setLettingRing] = useState(0);
  // A pause of one's own is shorter than the call.
  const isAnswered = state !== null && call !== undefined && pausesOf(state).some(([a, b]) => b - a >= call.minutes * 60_000);
  const inHand = view?.now && view.inHandSinceMs !== null ? view.now.task : null;
  const isWet = inHand?.motions.some((m) => m.windowS !== null) === true;
  const rings = call !== undefined && !isAnswered && !verdict && (lettingRing > 0 ? done >= lettingRing : done >= call.afterTasks && isWet);
  if (!index || !view) return null;
  if (verdict)
    return (
      <VerdictView
        index={index}
        verdict={verdict}
        home={home}
        lesson={lesson}
        onBackTo={backTo}
        onAgain={() => {
          forget();
          onAgain();
        }}
      />
    );
  const now = view.now;
  const waitMs = now && view.waiting ? now.startMs : null;
  const answer = () => {
    // One flood is laid, and its marks are still to come.
    const mark = inHand?.motions.find((m) => m.windowS !== null)?.startS;
    const intoS = mark ? (mark[Math.floor(mark.length / 2)] as number) - BEFORE_MARK_S : 0;
    const rungMs = Math.max(nowMs, (view.inHandSinceMs ?? 0) + intoS * 1000);
    jumpTo(rungMs);
    bench.send({ type: 'paused', data: {} });
    jumpTo(rungMs + (call?.minutes ?? 0) * 60_000);
    bench.send({ type: 'resumed', data: {} });
  };
  return (
    <>
      <div className="bg-base-200 px-4 md:px-6 py-2 flex flex-wrap items-center gap-x-5 gap-y-2 text-lg">
        <b>{msg`Rehearsal: nothing is kept`}</b>
        <button type="button" className="btn min-h-11" disabled={!now} onClick={() => now && setFeeling(now.task.id)}>
          {msg`Put a finger to it`}
        </button>
        <button type="button" className="btn min-h-11" disabled={waitMs === null} onClick={() => waitMs !== null && jumpTo(waitMs)}>
          {msg`Skip the wait`}
        </button>
        <span className="grow" />
        <Choice
          label={msg`how fast the clock runs`}
          size="btn-sm min-h-11"
          value={String(speed)}
          options={SPEEDS.map((s) => ({ id: String(s), label: s === 0 ? msg`stopped` : `${s} ×` }))}
          onChange={(s) => setSpeed(Number(s) as typeof speed)}
        />
        <button
          type="button"
          className="btn btn-ghost min-h-11"
          onClick={() => {
            forget();
            onLeave();
          }}
        >
          {msg`Leave it`}
        </button>
      </div>
      <Bench bench={bench} home={home.to} />
      {feeling && <Feel bench={bench} index={index} taskId={feeling} truth={truth} onClose={() => setFeeling(null)} />}
      {rings && (
        <Sheet title={msg`The telephone rings`} onClose={() => setLettingRing(done + 1)}>
          <p className="text-2xl">{msgNodes`It will take ${call.minutes} minutes.`}</p>
          <div className="flex flex-wrap gap-3 mt-4">
            <button type="button" className="btn btn-primary min-h-16 text-xl" onClick={answer}>
              {msg`Answer it now`}
            </button>
            <button type="button" className="btn min-h-16 text-xl" onClick={() => setLettingRing(done + 1)}>
              {msg`Finish this first`}
            </button>
          </div>
        </Sheet>
      )}
    </>
  );
}

/** Where a rehearsal of this window stood; null where none did, or it was of something that is there no more. */
export function readKept(name: string, kitchens: readonly string[]): KeptRehearsal | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(keyOfRehearsal(name)) ?? 'null') as KeptRehearsal | null;
    return kept && Array.isArray(kept.events) && kitchens.includes(kept.kitchen) ? kept : null;
  } catch {
    return null;
  }
}
