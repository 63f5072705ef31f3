import { type BenchView, nextStep, type RunEvent, type RunIndex } from '@kestfog/core/bench';
import { knock } from './knock.js';
import type { Run } from './use-run.js';

/** A run begun so long before its time, or a step so long before its wait ends, is asked about first: *assumed*. */
const EARLY_RUN_MS = 30 * 60_000;
const EARLY_STEP_MS = 60_000;

/** When it would be time for what is about to be begun, where that is long from now; null where it may begin. */
function earlyUntilMs(index: RunIndex, view: BenchView, type: RunEvent['type'], nowMs: number): number | null {
  const first = index.state.plan.tasks[0];
  if (type === 'runStarted') {
    const startMs = first ? index.plan.msOf(first.startS) : nowMs;
    return startMs - nowMs > EARLY_RUN_MS ? startMs : null;
  }
  return type === 'taskBegun' && view.waiting && view.now && view.now.startMs - nowMs > EARLY_STEP_MS ? view.now.startMs : null;
}

/** What would be begun, and from when on it is time for it. */
export interface TooEarly {
  readonly step: NonNullable<ReturnType<typeof nextStep>>;
  readonly untilMs: number;
}

/**
 * What one action forward and one back do at a run, from whichever window: the next step, unless it is too early, and the last taken back.
 */
export function stepsOfRun(
  bench: Run,
  index: RunIndex | null,
  view: BenchView | null | undefined,
  byCookie: boolean,
  onEarly: (early: TooEarly) => void,
) {
  return {
    forward: () => {
      if (!index || !view) return;
      const step = nextStep(index.state, view, byCookie);
      if (!step) return;
      const untilMs = earlyUntilMs(index, view, step.type, bench.nowMs);
      if (untilMs !== null) return onEarly({ step, untilMs });
      bench.send(step);
      knock();
    },
    back: () => {
      if (!bench.canUndo) return;
      bench.undo();
      knock(220);
    },
  };
}
