import { foldRun, lastToUndo, type RunEvent, type RunState, type StoredEvent } from '@kestfog/core/bench';
import type { ClockView, RunView } from '@kestfog/core/wire';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { ApiFailure, api } from '../../api/client.js';
import { outbox, putTap, useOutbox } from '../../outbox/index.js';
import { deviceId, newEvent, noteTaken, runQueue, tapsIn } from '../../outbox/taps.js';
import { clockSince, keepRun, keptRun } from './run-store.js';
import { everySecond, ServerClock } from './server-clock.js';

export interface Run {
  readonly run: RunView | null;
  readonly state: RunState | null;
  readonly nowMs: number;
  /** taps the server has not acknowledged */
  readonly waiting: number;
  readonly online: boolean;
  /** why the run could not be opened */
  readonly failure: string | null;
  /** why the last tap was refused */
  readonly refusal: string | null;
  readonly send: (body: Pick<RunEvent, 'type' | 'data'>) => void;
  readonly undo: () => void;
  readonly canUndo: boolean;
  /** what the server has taken, in its order, and this device's own taps behind it */
  readonly log: readonly RunEvent[];
  /** the number the last of them has, or will have if nobody else says anything before */
  readonly lastSeq: number;
  readonly retry: () => void;
}

const RETRY_MS = 2000;

/** A run as this device sees it: the server's log, its own unacknowledged taps on top, folded by the core's reducer. */
export function useRun(runId: string): Run {
  const [run, setRun] = useState<RunView | null>(null);
  const [stored, setStored] = useState<readonly StoredEvent[]>([]);
  const entries = useOutbox();
  const taps = useMemo(() => tapsIn(entries, runId), [entries, runId]);
  const [online, setOnline] = useState(true);
  const [failure, setFailure] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [nowMs, setNowMs] = useState(0);
  const clock = useRef<ServerClock | null>(null);
  const storedRef = useRef<readonly StoredEvent[]>([]);
  const loaded = useRef(false);

  const takeClock = useCallback((view: ClockView) => {
    if (clock.current) clock.current.set(view);
    else clock.current = new ServerClock(view);
    setNowMs(clock.current.nowMs());
  }, []);
  const takeStored = useCallback((events: readonly StoredEvent[]) => {
    const byId = new Map(storedRef.current.map((e) => [e.id, e]));
    for (const e of events) byId.set(e.id, e);
    storedRef.current = [...byId.values()].sort((a, b) => a.seq - b.seq);
    setStored(storedRef.current);
  }, []);
  const load = useCallback(async () => {
    try {
      const view = await api<RunView>(`/runs/${runId}`);
      const health = await api<ClockView>('/health');
      takeClock({ nowMs: health.nowMs, speed: health.speed });
      takeStored(view.events);
      noteTaken(runId, view.events);
      loaded.current = true;
      setRun(view);
      setFailure(null);
      setOnline(true);
    } catch (error) {
      const gone = error instanceof ApiFailure && error.status >= 400 && error.status < 500;
      // Without the network the run goes on as this device last had it.
      const kept = gone ? null : await keptRun(runId);
      if (kept && storedRef.current.length <= kept.events.length) {
        if (!clock.current) takeClock(clockSince(kept, Date.now()));
        takeStored(kept.events);
        setRun((known) => known ?? kept.run);
      }
      if (!gone) setOnline(false);
      setFailure(error instanceof ApiFailure ? error.message : String(error));
    }
  }, [runId, takeClock, takeStored]);

  const flush = useCallback(() => outbox.send(), []);
  useEffect(
    () =>
      outbox.hear(runQueue(runId), {
        sent: (_entry, stored) => {
          takeStored([stored as StoredEvent]);
          setOnline(true);
        },
        refused: (_entry, reason) => setRefusal(reason),
        away: () => setOnline(false),
      }),
    [runId, takeStored],
  );

  useEffect(() => {
    void load().then(flush);
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let stopped = false;
    const open = () => {
      if (stopped) return;
      const last = storedRef.current.at(-1)?.seq ?? 0;
      source = new EventSource(`/api/runs/${runId}/stream?last=${last}`);
      source.addEventListener('event', (e: MessageEvent<string>) => {
        const message = JSON.parse(e.data) as { event: StoredEvent; clock: ClockView };
        takeClock(message.clock);
        takeStored([message.event]);
      });
      source.addEventListener('clock', (e: MessageEvent<string>) => {
        takeClock((JSON.parse(e.data) as { clock: ClockView }).clock);
        setOnline(true);
        setFailure(null);
        // Opened without the network, the run itself is still to be had.
        void (loaded.current ? flush() : load().then(flush));
      });
      source.onerror = () => {
        setOnline(false);
        // An HTTP error closes an EventSource for good, so it is opened anew.
        if (source?.readyState === EventSource.CLOSED) timer = setTimeout(open, RETRY_MS);
      };
    };
    open();
    // Back from sleep: the clock and what others did meanwhile are asked for at once.
    const awake = () => document.visibilityState === 'visible' && void load().then(flush);
    document.addEventListener('visibilitychange', awake);
    window.addEventListener('online', awake);
    const stopTicking = everySecond(() => clock.current, setNowMs);
    return () => {
      stopped = true;
      clearTimeout(timer);
      stopTicking();
      document.removeEventListener('visibilitychange', awake);
      window.removeEventListener('online', awake);
      source?.close();
    };
  }, [runId, load, flush, takeClock, takeStored]);

  const log = useMemo((): readonly RunEvent[] => [...stored, ...taps.filter((e) => !stored.some((s) => s.id === e.id))], [stored, taps]);
  const state = useMemo(() => (run ? foldRun(run.plan, log) : null), [run, log]);
  useEffect(() => {
    if (run && clock.current) void keepRun({ run, events: stored, clock: clock.current.view(), keptAtMs: Date.now() });
  }, [run, stored]);
  const send = useCallback(
    (body: Pick<RunEvent, 'type' | 'data'>) => {
      if (!clock.current) return;
      setRefusal(null);
      const atMs = clock.current.nowMs();
      setNowMs(atMs);
      putTap(runId, newEvent([...storedRef.current, ...tapsIn(outbox.all(), runId)], body, atMs));
    },
    [runId],
  );
  const target = state
    ? (lastToUndo(state, deviceId()) ??
      state.standing.findLast((e) => e.type === 'taskDone' || e.type === 'taskBegun' || e.type === 'cookieDone') ??
      null)
    : null;
  const undo = useCallback(() => {
    if (target) send({ type: 'undone', data: { eventId: target.id } });
  }, [send, target]);
  return {
    run,
    state,
    nowMs,
    waiting: taps.length,
    online,
    failure,
    refusal,
    send,
    undo,
    canUndo: target !== null,
    log,
    lastSeq: (stored.at(-1)?.seq ?? 0) + log.length - stored.length,
    retry: () => void load(),
  };
}
