import { asSaidNow, type StoredEvent } from '@kestfog/core/bench';
import { planUpToDate } from '@kestfog/core/formats';
import type { ClockView, RunView } from '@kestfog/core/wire';
import { get, set } from 'idb-keyval';

/** A run as this device last had it, so that a reload without the network finds it. */
export interface KeptRun {
  readonly run: RunView;
  readonly events: readonly StoredEvent[];
  readonly clock: ClockView;
  /** the device's own clock when it was kept; only differences of it count */
  readonly keptAtMs: number;
}

const keyOf = (runId: string) => `kestfog.run.${runId}`;

export async function keptRun(runId: string): Promise<KeptRun | null> {
  try {
    const kept = await get<KeptRun>(keyOf(runId));
    return kept
      ? { ...kept, run: { ...kept.run, plan: planUpToDate(kept.run.plan) }, events: kept.events.map((e) => asSaidNow(e) as StoredEvent) }
      : null;
  } catch {
    return null;
  }
}

/** Kept if the browser lets it: private windows may not, and the bench runs all the same. */
export async function keepRun(kept: KeptRun): Promise<void> {
  await set(keyOf(kept.run.id), kept).catch(() => undefined);
}

/** The server's time now, from when the run was kept. */
export const clockSince = (kept: KeptRun, wallMs: number): ClockView => ({
  nowMs: kept.clock.nowMs + Math.max(0, wallMs - kept.keptAtMs) * kept.clock.speed,
  speed: kept.clock.speed,
});
