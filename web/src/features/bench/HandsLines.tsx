import type { HandsWords, TechniqueId } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import { capital } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';

interface Props {
  readonly words: readonly HandsWords[];
  readonly known: readonly TechniqueId[];
  readonly onKnown: (technique: TechniqueId, known: boolean) => void;
}

/** What the hands do, in their order; each technique is hidden by a touch once it is known, and can be read again. */
export function HandsLines({ words, known, onKnown }: Props) {
  if (words.length === 0) return null;
  const open = words.filter((w) => !known.includes(w.technique));
  const hidden = words.filter((w) => known.includes(w.technique));
  return (
    <section aria-label={msg`For the hands`} className="mt-4 grid gap-3">
      {open.map((w) => (
        <div key={w.technique} className="border-l-4 border-base-content/40 pl-4">
          <div className="flex items-center justify-between gap-3">
            <h2 className="text-2xl font-semibold">{capital(w.label)}</h2>
            <button type="button" className="btn min-h-16 text-xl" onClick={() => onKnown(w.technique, true)}>
              {msg`I know this`}
            </button>
          </div>
          <ul className="list-disc pl-6">
            {w.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <p>{msgNodes`Mind: ${w.mind}.`}</p>
        </div>
      ))}
      {hidden.length > 0 && (
        <p className="flex flex-wrap gap-2">
          {hidden.map((w) => (
            <button key={w.technique} type="button" className="btn btn-ghost min-h-16 text-xl" onClick={() => onKnown(w.technique, false)}>
              {msgNodes`how is it done: ${w.label}?`}
            </button>
          ))}
        </p>
      )}
    </section>
  );
}
