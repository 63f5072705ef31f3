import { type BenchView, closingS, type Replanned, type RunState, retimed, type StoredEvent } from '@kestfog/core';
import { useEffect, useRef, useState } from 'react';
import { span } from '../../text/time.js';
import { replanBeside } from '../../workers/plan-client.js';
import type { Run } from './use-run.js';

/** Slips under this are silent; a re-plan has to win this much to be worth a change of order. */
const SLIP_S = 90;
const WORTH_S = 180;

/** Whether what just happened can have moved the plan: not a re-plan itself, nor its being taken back. */
export function asksForReplan(events: readonly StoredEvent[]): boolean {
  const last = events.at(-1);
  if (!last) return false;
  if (last.type === 'undone') return events.find((e) => e.id === last.data.eventId)?.type !== 'planRevised';
  return last.type === 'taskDone' || last.type === 'taskBegun' || last.type === 'resumed' || last.type === 'stillWet';
}

export interface Gain {
  readonly endS: number;
  readonly handsFreeS: number;
}

/** What a re-plan wins over just going on in the same order, seconds sooner. */
export function gainOf(plan: RunState['plan'], view: Pick<BenchView, 'expectedEndMs' | 'handsFreeMs'>, next: Pick<Replanned, 'endS' | 'handsFreeS'>): Gain {
  const epochMs = Date.parse(plan.epoch as string);
  return { endS: (view.expectedEndMs - epochMs) / 1000 - next.endS, handsFreeS: (view.handsFreeMs - epochMs) / 1000 - next.handsFreeS };
}

/** All packed clearly sooner, or the hands free sooner today and nothing later at the end. */
export const isWorthIt = (gain: Gain): boolean => gain.endS >= WORTH_S || (gain.endS > -SLIP_S && gain.handsFreeS >= WORTH_S);

/** By how much the run is behind its plan, at the end or at the end of today, seconds. */
export function slipOf(plan: RunState['plan'], view: Pick<BenchView, 'expectedEndMs' | 'handsFreeMs'>, nowS: number): number {
  const epochMs = Date.parse(plan.epoch as string);
  const closes = closingS(plan, nowS);
  const free = Math.max(nowS, ...plan.tasks.filter((t) => t.startS < closes).map((t) => t.endS));
  return Math.max((view.expectedEndMs - epochMs) / 1000 - plan.endS, (view.handsFreeMs - epochMs) / 1000 - free);
}

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
