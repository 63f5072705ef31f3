import { foldRun, lastToUndo, type RunEvent, type RunState, runIndex, type StoredEvent } from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import type { TaskId } from '@kestfog/core/units';
import type { RunView } from '@kestfog/core/wire';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { deviceId, newEvent } from '../../outbox/taps.js';
import { everySecond, ServerClock } from '../bench/server-clock.js';
import type { Run } from '../bench/use-run.js';
import { REHEARSAL } from './rehearsal-id.js';

export const SPEEDS = [0, 1, 10, 30, 60, 120] as const;
export type Speed = (typeof SPEEDS)[number];
/** Before its first task, s. */
const BEFORE_S = 30;

/** A rehearsal as it is kept in this window, so that a reload goes on where it stood. Nothing of it goes anywhere else. */
export interface KeptRehearsal {
  readonly seed: number;
  readonly kitchen: string;
  readonly events: readonly RunEvent[];
  readonly nowMs: number;
}
export const keyOfRehearsal = (name: string) => `kestfog.rehearsal.${name}`;

export interface Rehearsal {
  readonly bench: Run;
  readonly speed: Speed;
  readonly setSpeed: (speed: Speed) => void;
  /** moves the clock on */
  readonly jumpTo: (ms: number) => void;
  /** what was done after a moment is undone, and the clock put back to it */
  readonly backTo: (ms: number) => void;
  readonly events: readonly StoredEvent[];
}

const startOf = (plan: Plan): number => Date.parse(plan.epoch as string) + ((plan.tasks[0]?.startS ?? 0) - BEFORE_S) * 1000;

function foldsIn(plan: Plan, events: readonly RunEvent[]): boolean {
  try {
    foldRun(plan, events);
    return true;
  } catch {
    return false;
  }
}

/** The soonest moment hands can be done with what is said, ms; nothing else takes any time to say. */
function doneBy(plan: Plan, events: readonly RunEvent[], body: Pick<RunEvent, 'type' | 'data'>): number {
  if (body.type !== 'taskDone' && body.type !== 'cookieDone') return 0;
  const data = body.data as { readonly taskId: TaskId; readonly cookie?: number };
  const run = runIndex(foldRun(plan, events));
  const task = run.plan.task(data.taskId);
  const begunMs = run.begunMs(data.taskId);
  if (!task || begunMs === null) return 0;
  const all = task.endS - task.startS;
  const cookies = Math.max(1, task.cookies[1] - task.cookies[0]);
  const done = data.cookie === undefined ? cookies : (run.record(task.id)?.ticked?.length ?? 0) + 1;
  return begunMs + ((all * done) / cookies) * 1000;
}

/** The bench on a clock and a log of its own: the same screens, and nobody else hears of it. */
export function useRehearsal(plan: Plan, name: string, kept: KeptRehearsal | null): Rehearsal {
  // What was kept may be of a plan that is there no more.
  const [from] = useState(() => (kept && foldsIn(plan, kept.events) ? kept : null));
  const [events, setEvents] = useState<readonly RunEvent[]>(from?.events ?? []);
  // Two taps within one frame both count.
  const latest = useRef(events);
  const [speed, setSpeedNow] = useState<Speed>(1);
  const speedNow = useRef<Speed>(1);
  const clock = useRef<ServerClock | null>(null);
  clock.current ??= new ServerClock({ nowMs: from?.nowMs ?? startOf(plan), speed: 1 });
  const [nowMs, setNowMs] = useState(clock.current.nowMs());
  // Another speed has another next second.
  useEffect(() => everySecond(() => clock.current, setNowMs), [speed]);
  const set = useCallback((ms: number, at: Speed) => {
    clock.current?.set({ nowMs: ms, speed: at });
    setNowMs(ms);
  }, []);
  const setSpeed = useCallback(
    (at: Speed) => {
      speedNow.current = at;
      set(clock.current?.nowMs() ?? 0, at);
      setSpeedNow(at);
    },
    [set],
  );
  const stored = useMemo(() => events.map((e, i): StoredEvent => ({ ...e, seq: i + 1 }) as StoredEvent), [events]);
  const [refusal, setRefusal] = useState<string | null>(null);
  const state = useMemo((): RunState => foldRun(plan, stored), [plan, stored]);
  const send = useCallback(
    (body: Pick<RunEvent, 'type' | 'data'>) => {
      // Work takes its time here too: what is said to be done is done when hands can have done it.
      const atMs = Math.max(clock.current?.nowMs() ?? 0, doneBy(plan, latest.current, body));
      set(atMs, speedNow.current);
      const next = [...latest.current, newEvent(latest.current, body, atMs)];
      try {
        foldRun(plan, next);
      } catch (error) {
        return setRefusal(error instanceof Error ? error.message : String(error));
      }
      setRefusal(null);
      latest.current = next;
      setEvents(next);
    },
    [plan, set],
  );
  const target = lastToUndo(state, deviceId()) ?? null;
  const undo = useCallback(() => {
    if (target) send({ type: 'undone', data: { eventId: target.id } });
  }, [send, target]);
  const run = useMemo((): RunView => ({ id: REHEARSAL, orderId: '', orderName: name, plan, events: [], serverNowMs: 0 }), [name, plan]);
  return {
    bench: {
      run,
      state,
      nowMs,
      waiting: 0,
      online: true,
      failure: null,
      refusal,
      send,
      undo,
      canUndo: target !== null,
      log: stored,
      lastSeq: stored.length,
      retry: () => undefined,
    },
    speed,
    setSpeed,
    jumpTo: (ms) => set(ms, speed),
    backTo: (ms) => {
      latest.current = latest.current.filter((e) => e.atMs < ms);
      setEvents(latest.current);
      speedNow.current = 1;
      set(ms, 1);
      setSpeedNow(1);
    },
    events: stored,
  };
}
