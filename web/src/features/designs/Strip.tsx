import type { Design } from '@kestfog/core/design';
import type { Air } from '@kestfog/core/drying';
import { lookAfterSteps, type SequencedStep } from '@kestfog/core/planning';
import { clockAfter } from '../../text/time.js';
import { Cookie } from '../../ui/Cookie.js';

interface Props {
  readonly design: Design;
  readonly sequence: readonly SequencedStep[];
  readonly air: Air;
  readonly at: number | null;
  readonly onPick: (count: number | null) => void;
}

/** One picture a step, each surface with the finish it has by then. */
export function Strip({ design, sequence, air, at, onPick }: Props) {
  return (
    <ol aria-label="One picture a step" className="flex gap-2 overflow-x-auto pb-3">
      {sequence.map(({ step, endS }, i) => {
        const count = i + 1;
        if (step.kind === 'prepare' || step.kind === 'dam') return null;
        return (
          <li key={step.id} className="shrink-0">
            <button
              type="button"
              className={`w-32 h-36 p-1 rounded-box border text-left ${at === count ? 'border-base-content border-2' : 'border-base-300'}`}
              aria-pressed={at === count}
              onClick={() => onPick(at === count ? null : count)}
            >
              <Cookie
                design={design}
                look={lookAfterSteps(design, sequence, count, air)}
                lit={step.parts}
                className="w-full h-20"
                label={`after ${step.label}`}
              />
              <span className="block text-sm leading-tight truncate">{step.kind === 'pack' ? 'pack' : step.label}</span>
              <span className="block text-sm clock opacity-80">{clockAfter(endS)}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}
