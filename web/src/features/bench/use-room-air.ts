import { driesOtherwise, roomAt, runIndex } from '@kestfog/core/bench';
import type { Air } from '@kestfog/core/drying';
import type { ClimateReading } from '@kestfog/core/wire';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api } from '../../api/client.js';
import type { Run } from './use-run.js';

/** No sooner than this after the last reading that was reckoned with. */
const APART_MS = 180_000;
const EVERY_MS = 4000;
const keyOf = (runId: string) => `kestfog.follows-sensor.${runId}`;

export interface RoomAirNow {
  /** what is reckoned with */
  readonly air: Air;
  /** what the sensor says; null while it is silent */
  readonly sensor: { readonly tempC: number; readonly humidityPct: number; readonly simulated: boolean } | null;
  /** whether the two differ so much that drying does */
  readonly differs: boolean;
  readonly follows: boolean;
  readonly follow: (on: boolean) => void;
}

/** The room's air at the bench: what is reckoned with beside what the sensor says; followed, a change is planned around at once. */
export function useRoomAir(bench: Run): RoomAirNow | null {
  const { run, state, nowMs } = bench;
  const runId = run?.id ?? '';
  // Asked for, not streamed: a browser keeps few lines open to one server, and the log needs one.
  const { data: reading } = useQuery({
    queryKey: ['climate'],
    queryFn: () => api<ClimateReading>('/climate'),
    refetchInterval: EVERY_MS,
    retry: false,
  });
  const [follows, setFollows] = useState<boolean | null>(null);
  const following = follows ?? (runId !== '' && localStorage.getItem(keyOf(runId)) === 'yes');
  const index = state && runIndex(state).plan;
  const air = state && index ? roomAt(state.plan, state.room, index.sOf(nowMs)) : null;
  const sensed = reading && air ? { ...air, tempC: reading.tempC, humidityFrac: reading.humidityPct / 100 } : null;
  const differs = air !== null && sensed !== null && driesOtherwise(air, sensed);
  const last = state?.room.at(-1);
  const lastMs = index && last ? index.msOf(last.fromS) : Number.NEGATIVE_INFINITY;
  const due = following && differs && state?.startedAtMs != null && !state.finished && nowMs - lastMs > APART_MS;
  const { send } = bench;
  useEffect(() => {
    if (due && reading) send({ type: 'airRead', data: { tempC: reading.tempC, humidityPct: reading.humidityPct } });
  }, [due, reading, send]);
  if (!air) return null;
  return {
    air,
    sensor: reading ? { tempC: reading.tempC, humidityPct: reading.humidityPct, simulated: reading.simulated !== null } : null,
    differs,
    follows: following,
    follow: (on) => {
      localStorage.setItem(keyOf(runId), on ? 'yes' : 'no');
      setFollows(on);
    },
  };
}
