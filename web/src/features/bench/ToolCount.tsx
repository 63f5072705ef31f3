import { missingTools, type RunIndex, toolsAsked } from '@kestfog/core/bench';
import { msg, plural } from '@kestfog/core/words';
import { useState } from 'react';
import type { Run } from './use-run.js';

interface Props {
  readonly bench: Run;
  readonly index: RunIndex;
  readonly dayOver: boolean;
}

/** Sharp tools and the ends cut off bags, counted out once a day and in once: what is missing is looked for before anything is packed. */
export function ToolCount({ bench, index, dayOver }: Props) {
  const asked = toolsAsked(index, bench.nowMs, dayOver);
  const missing = missingTools(index, bench.nowMs);
  const [sharps, setSharps] = useState<number | null>(null);
  const [offcuts, setOffcuts] = useState<number | null>(null);
  if (!asked) return null;
  const sharpsNow = sharps ?? asked.sharpsOut ?? 0;
  const offcutsNow = offcuts ?? asked.bagsCut;
  return (
    <section aria-label={msg`Sharp tools`} className="border-l-8 border-base-content/60 pl-4 grid gap-2">
      {missing && (
        <p role="alert" className="text-error text-2xl">
          {[
            missing.sharps > 0 && msg`${missing.sharps} sharp ${plural(missing.sharps, 'tool', 'tools')}`,
            missing.offcuts > 0 && msg`${missing.offcuts} bag ${plural(missing.offcuts, 'end', 'ends')}`,
          ]
            .filter(Boolean)
            .join(msg` and `)}
          {msg` missing: look on the trays and under them before anything is packed.`}
        </p>
      )}
      <h2 className="text-2xl font-semibold">{asked.ask === 'out' ? msg`Count the sharp tools out` : msg`Count them back in`}</h2>
      <p>
        {asked.ask === 'out'
          ? msg`Scribes, needles, blades, tips.`
          : msg`${
              asked.sharpsOut === null
                ? msg`Nobody counted the sharp tools out`
                : msg`${asked.sharpsOut} sharp
            ${plural(asked.sharpsOut, 'tool', 'tools')} went out`
            }, and ${asked.bagsCut} ${plural(asked.bagsCut, 'bag was', 'bags were')}
              cut.`}
      </p>
      <Counter label={msg`sharp tools`} value={sharpsNow} onValue={setSharps} />
      {asked.ask === 'in' && <Counter label={msg`bag ends`} value={offcutsNow} onValue={setOffcuts} />}
      <button
        type="button"
        className="btn min-h-16 text-xl"
        onClick={() => {
          bench.send({
            type: 'toolsCounted',
            data: { out: asked.ask === 'out', sharps: sharpsNow, offcuts: asked.ask === 'in' ? offcutsNow : 0 },
          });
          setSharps(null);
          setOffcuts(null);
        }}
      >
        {asked.ask === 'out' ? msg`counted out` : msg`counted in`}
      </button>
    </section>
  );
}

/** A number set with a knuckle. */
function Counter({ label, value, onValue }: { readonly label: string; readonly value: number; readonly onValue: (n: number) => void }) {
  return (
    <div className="flex items-center gap-3">
      <button
        type="button"
        className="btn min-h-16 min-w-16 text-2xl"
        aria-label={msg`one ${label.replace(/s$/, '')} less`}
        disabled={value === 0}
        onClick={() => onValue(value - 1)}
      >
        −
      </button>
      <output className="clock text-3xl min-w-10 text-center" aria-label={label}>
        {value}
      </output>
      <button
        type="button"
        className="btn min-h-16 min-w-16 text-2xl"
        aria-label={msg`one ${label.replace(/s$/, '')} more`}
        onClick={() => onValue(value + 1)}
      >
        +
      </button>
      <span>{label}</span>
    </div>
  );
}
