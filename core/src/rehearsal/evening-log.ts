import type { RunEvent, StoredEvent } from '../bench/event.js';
import { GrowingRun } from '../bench/fold.js';
import { type RunIndex, runIndex } from '../bench/run-index.js';
import type { Plan } from '../formats/plan.js';

/** The log of an evening that is made up as it goes on: what is said, and how the run stands by then. */
export class EveningLog {
  readonly events: StoredEvent[] = [];
  private readonly going: GrowingRun;
  private readonly epochMs: number;
  constructor(plan: Plan) {
    this.going = new GrowingRun(plan);
    this.epochMs = Date.parse(plan.epoch as string);
  }
  /** at so many seconds of the plan; what comes behind is said no earlier */
  say(atS: number, body: Pick<RunEvent, 'type' | 'data'>): void {
    const seq = this.events.length + 1;
    const atMs = Math.round(this.epochMs + atS * 1000);
    const event = { id: `e${seq}`, deviceId: 'd', deviceSeq: seq, seq, atMs, ...body } as StoredEvent;
    this.events.push(event);
    this.going.say(event);
  }
  run(): RunIndex {
    return runIndex(this.going.state());
  }
}
