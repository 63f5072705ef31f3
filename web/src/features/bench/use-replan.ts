import { asksForReplan, type BenchView, type Gain, gainOf, isWorthIt, type Replanned, type RunState, retimed, SLIP_S, slipOf, WORTH_S } from '@kestfog/core';
import { useEffect, useRef, useState } from 'react';
import { span } from '../../text/time.js';
import { replanBeside } from '../../workers/plan-client.js';
import type { Run } from './use-run.js';

/** What a re-plan changes, in one line: what comes next now, and what it wins. */
export function revisionText(state: RunState, next: Replanned, gain: Gain): string {
  const isOpen = (id: string) => (state.tasks.get(id)?.begunAtMs ?? null) === null;
  const first = (plan: RunState['plan']) => plan.tasks.find((t) => isOpen(t.id));
  const [was, is] = [first(state.plan), first(retimed(state.plan, next.starts))];
  const change = is && is.id !== was?.id ? `Re-planned: tray ${is.trayId} is next` : 'Re-planned what comes later';
  return gain.endS >= WORTH_S
    ? `${change}; packed ${span(gain.endS)} sooner than by just going on`
    : `${change}; hands free today ${span(gain.handsFreeS)} sooner than by just going on`;
}

export interface Revision {
  /** said once, until the next step or until it is taken back */
  readonly text: string | null;
  readonly asItWas: () => void;
  readonly lost: Replanned['lost'];
}

/** Plans the rest again beside the page whenever the run has slipped, and takes the better order at once; one touch refuses it. */
export function useReplan(bench: Run, view: BenchView | null): Revision {
  const [text, setText] = useState<string | null>(null);
  const [lost, setLost] = useState<Replanned['lost']>([]);
  const latest = useRef({ bench, view });
  latest.current = { bench, view };
  const asked = asksForReplan(bench.events) && bench.online && bench.waiting === 0 ? (bench.events.at(-1)?.seq ?? 0) : 0;
  useEffect(() => {
    const { bench: b, view: v } = latest.current;
    if (asked === 0 || !b.state || !v || b.state.finished || b.state.startedAtMs === null || b.state.pausedAtMs !== null) return;
    setText(null);
    const { state } = b;
    const epochMs = Date.parse(state.plan.epoch as string);
    const nowS = (b.nowMs - epochMs) / 1000;
    if (slipOf(state.plan, v, nowS) < SLIP_S) return setLost([]);
    const running = replanBeside(state.plan, state, epochMs, nowS);
    void running.answer.then((answer) => {
      if (!answer?.ok) return;
      setLost(answer.value.lost);
      const gain = gainOf(state.plan, v, answer.value);
      if (!isWorthIt(gain) || latest.current.bench.events.at(-1)?.seq !== asked) return;
      setText(revisionText(state, answer.value, gain));
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
