import type { BenchView, RunEvent } from '@kestfog/core/bench';
import { reasonOf } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { dayClock, span } from '../../text/time.js';
import { capital } from '../../text/words.js';
import { Sheet } from '../../ui/Sheet.js';
import { knock } from './knock.js';
import type { Run } from './use-run.js';

interface Props {
  readonly bench: Run;
  readonly view: BenchView;
  readonly step: Pick<RunEvent, 'type' | 'data'>;
  /** when it is time for it */
  readonly untilMs: number;
  readonly onClose: () => void;
}

/** Something is begun long before its time: asked once, and a stray press leaves everything as it is. */
export function EarlySheet({ bench, view, step, untilMs, onClose }: Props) {
  const { nowMs } = bench;
  const isRun = step.type === 'runStarted';
  const leftS = Math.max(0, (untilMs - nowMs) / 1000);
  const why =
    view.waitingFor === null ? null : view.waitingFor === 'found-wet' ? msg`it was found not to be there yet` : reasonOf(view.waitingFor);
  return (
    <Sheet title={isRun ? msg`It is planned for ${dayClock(untilMs, nowMs)}` : msg`It is not time yet`} onClose={onClose}>
      <p className="text-2xl">
        {isRun
          ? msg`That is ${span(leftS)} from now. Begun now, every time of the plan moves with it.`
          : msg`There are ${span(leftS)} to go, until ${dayClock(untilMs, nowMs)}${why ? `: ${why}` : ''}.`}
      </p>
      <div className="grid sm:grid-cols-2 gap-3 mt-5">
        {/* First, so that a press too many of the space bar or the pedal closes this and nothing more. */}
        <button type="button" className="btn btn-primary min-h-24 h-auto text-3xl" onClick={onClose}>
          {msg`Wait`}
        </button>
        <button
          type="button"
          className="btn min-h-24 h-auto text-2xl"
          onClick={() => {
            bench.send(step);
            knock();
            onClose();
          }}
        >
          {capital(isRun ? msg`begin now all the same` : msg`begin it all the same`)}
        </button>
      </div>
    </Sheet>
  );
}
