import {
  asksForReplan,
  type BenchView,
  changesPlan,
  type Gain,
  gainOf,
  isWorthIt,
  movesAnything,
  type Replanned,
  type RunEvent,
  type RunState,
  retimed,
  runIndex,
  SLIP_S,
  slipOf,
  WORTH_S,
} from '@kestfog/core/bench';
import { msg } from '@kestfog/core/words';
import { useEffect, useRef, useState } from 'react';
import { dayClock, span } from '../../text/time.js';
import { replanBeside } from '../../workers/plan-client.js';
import type { Run } from './use-run.js';

/** What a re-plan changes, in one line: what comes next now, and what it wins. */
export function revisionText(state: RunState, next: Replanned, gain: Gain): string {
  const change = nextText(state, next) ?? msg`Re-planned what comes later`;
  return gain.endS >= WORTH_S
    ? msg`${change}; packed ${span(gain.endS)} sooner than by just going on`
    : msg`${change}; hands free today ${span(gain.handsFreeS)} sooner than by just going on`;
}

/** "Re-planned: tray B is next", where another step comes next now. */
function nextText(state: RunState, next: Replanned): string | null {
  const index = runIndex(state);
  const first = (plan: RunState['plan']) => plan.tasks.find((t) => !index.isBegun(t));
  const [was, is] = [first(state.plan), first(retimed(state.plan, next.starts))];
  return is && is.id !== was?.id ? msg`Re-planned: tray ${is.trayId} is next` : null;
}

/** A re-plan after a report: why, what comes next, and when all is packed now. */
export function reportedText(state: RunState, next: Replanned, cause: RunEvent): string {
  const then = nextText(state, next) ?? 'Re-planned';
  return msg`${causeText(cause)}. ${then}; all packed ${dayClock(runIndex(state).plan.msOf(next.endS), cause.atMs)}`;
}

function causeText(e: RunEvent): string {
  switch (e.type) {
    case 'airRead':
      return msg`The air is now ${e.data.tempC} °C, ${Math.round(e.data.humidityPct)} %`;
    case 'defect':
      return msg`Cookie ${e.data.cookie + 1} ${
        e.data.outcome === 'again'
          ? msg`is begun
        again`
          : e.data.outcome === 'tie-dye'
            ? msg`becomes a tie-dye`
            : msg`is out`
      }`;
    case 'bagCounted':
      return msg`The bag counts ${e.data.countedS} s`;
    case 'windowShut':
      return { skip: msg`Left out`, relief: msg`In relief later`, again: msg`Begun again` }[e.data.choice];
    case 'skipped':
      return msg`Left out`;
    case 'touched':
      return { 'not-yet': msg`It is looked at again`, reached: msg`Dry enough already`, past: msg`It has set too far` }[e.data.found];
    case 'imHere':
      return msg`Caught up with where you are`;
    case 'swapped':
      return msg`In the order you want`;
    default:
      return msg`Taken back`;
  }
}

export interface Revision {
  /** said once, until the next step or until it is taken back */
  readonly text: string | null;
  readonly asItWas: () => void;
  readonly lost: Replanned['lost'];
}

/**
 * Plans the rest again beside the page whenever the run has slipped or changed, and takes the better order at once; one touch refuses
 * it.
 */
export function useReplan(bench: Run, view: BenchView | null): Revision {
  const [text, setText] = useState<string | null>(null);
  const [lost, setLost] = useState<Replanned['lost']>([]);
  const latest = useRef({ bench, view });
  latest.current = { bench, view };
  // Without the network too: the plan is sent behind the taps it was made for, and counts if nobody said anything between.
  const asked = asksForReplan(bench.log) ? bench.lastSeq : 0;
  useEffect(() => {
    const { bench: b, view: v } = latest.current;
    if (asked === 0 || !b.state || !v || b.state.finished || b.state.startedAtMs === null || b.state.pausedAtMs !== null) return;
    setText(null);
    const { state } = b;
    const cause = b.log.at(-1) as RunEvent;
    const nowS = runIndex(state).plan.sOf(b.nowMs);
    const changed = changesPlan(b.log);
    if (!changed && slipOf(state.plan, v, nowS) < SLIP_S) return setLost([]);
    const running = replanBeside(state, nowS);
    void running.answer.then((answer) => {
      if (!answer?.ok) return;
      setLost(answer.value.lost);
      const gain = gainOf(state.plan, v, answer.value);
      // After a report what was planned no longer holds: the new plan counts unless it is the old one over again.
      const takes = changed ? movesAnything(state.plan, answer.value.starts) : isWorthIt(gain);
      if (!takes || latest.current.bench.lastSeq !== asked) return;
      setText(changed ? reportedText(state, answer.value, cause) : revisionText(state, answer.value, gain));
      latest.current.bench.send({ type: 'planRevised', data: { baseSeq: asked, starts: answer.value.starts } });
    });
    return running.cancel;
  }, [asked]);
  const asItWas = () => {
    const revised = bench.state?.standing.findLast((e) => e.type === 'planRevised');
    if (revised) bench.send({ type: 'undone', data: { eventId: revised.id } });
    setText(null);
  };
  return { text, asItWas, lost };
}
