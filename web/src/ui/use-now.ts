import { useEffect, useState } from 'react';
import { ServerClock } from '../features/bench/server-clock.js';

const TICK_MS = 15_000;

/** The server's time, from what it said with its last answer, good to a quarter of a minute: enough for a line across a day. */
export function useNow(serverNowMs: number): number {
  const [now, setNow] = useState(serverNowMs);
  useEffect(() => {
    const clock = new ServerClock({ nowMs: serverNowMs, speed: 1 });
    setNow(serverNowMs);
    const timer = setInterval(() => setNow(clock.nowMs()), TICK_MS);
    return () => clearInterval(timer);
  }, [serverNowMs]);
  return now;
}
