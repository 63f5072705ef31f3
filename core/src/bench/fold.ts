import { isObservation, type RunEvent } from './event.js';
import { Folding } from './folding.js';
import { inOwnTime } from './own-time.js';
import type { RunPlan } from './run-plan.js';
import type { RunState } from './run-state.js';
import { whyNotUndone } from './undo.js';

/**
 * Folds a run's log over its plan. What was done counts in the order of the list, the server's; what was seen counts by its own time,
 * wherever it stands in it. Whole log in, state out: replaying in pieces gives the same.
 */
export function foldRun(plan: RunPlan, events: readonly RunEvent[]): RunState {
  const standing = standingOf(plan, events);
  const run = new Folding(plan);
  for (const e of standing) run.apply(e);
  return run.state(standing);
}

/** The same, shown step by step: `visit` sees each standing event with the run as it was before it. */
export function replayRun(plan: RunPlan, events: readonly RunEvent[], visit: (event: RunEvent, before: () => RunState) => void): RunState {
  const standing = standingOf(plan, events);
  const run = new Folding(plan);
  for (const e of standing) {
    visit(e, () => run.state(standing));
    run.apply(e);
  }
  return run.state(standing);
}

/**
 * A run that only goes on: what is said comes one after the other, and nothing of it is taken back or came late. It makes of a log what
 * {@link foldRun} makes of it, without beginning anew for every event.
 */
export class GrowingRun {
  private readonly said: RunEvent[] = [];
  private readonly run: Folding;
  constructor(plan: RunPlan) {
    this.run = new Folding(plan);
  }
  say(event: RunEvent): void {
    this.run.apply(event);
    this.said.push(event);
  }
  /** as it stands now */
  state(): RunState {
    return this.run.state([...this.said]);
  }
}

function standingOf(plan: RunPlan, events: readonly RunEvent[]): RunEvent[] {
  const inOrder = inOwnTime(events);
  const seen = new Set(events.filter(isObservation).map((e) => e.id));
  // Nothing is built upon what was only seen: it can be taken back at any time.
  const undone = new Set(events.flatMap((e) => (e.type === 'undone' && seen.has(e.data.eventId) ? [e.data.eventId] : [])));
  // Judged by what had happened by then: what came after it, done anew, does not bring it back.
  const standing: RunEvent[] = [];
  for (const e of inOrder) {
    if (undone.has(e.id)) continue;
    if (e.type === 'undone' && !seen.has(e.data.eventId) && !whyNotUndone(plan, standing, e.data.eventId)) {
      undone.add(e.data.eventId);
      standing.splice(
        standing.findLastIndex((x) => x.id === e.data.eventId),
        1,
      );
    }
    standing.push(e);
  }
  return standing;
}
