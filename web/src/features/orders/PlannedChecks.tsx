import type { Plan } from '@kestfog/core/formats';
import type { PlannedCheck } from '@kestfog/core/planning';
import { msg, word } from '@kestfog/core/words';
import { capital } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { checksBeside } from '../../workers/plan-client.js';
import { useBeside } from '../../workers/use-beside.js';
import { CHECK_WORDS } from '../designs/check-words.js';

const FIRST = 4;

interface Props {
  readonly planId: string;
  readonly plan: Plan;
  readonly busy: boolean;
  /** null where nothing may be changed any more */
  readonly onStays: ((stays: PlannedCheck['stays']) => void) | null;
}

/** What may go wrong as it is planned: with the waits, stays, fill and air the plan really has. */
export function PlannedChecks({ planId, plan, busy, onStays }: Props) {
  const checks = useBeside<readonly PlannedCheck[]>(planId, () => checksBeside(plan));
  if (checks.pending) return <p className="text-lg opacity-85">{msg`Looking at what may go wrong …`}</p>;
  if (checks.failure) return <p role="alert">{checks.failure}</p>;
  const all = checks.value ?? [];
  const item = (c: PlannedCheck) => (
    <li key={`${c.designId} ${c.kind} ${c.part}`} className={`border-l-4 pl-3 ${c.word === 'likely' ? 'border-error' : 'border-base-300'}`}>
      {c.change && <p className="text-lg font-medium">{capital(c.change)}.</p>}
      <p className="text-base flex flex-wrap items-center gap-x-3">
        <span>
          {c.name}: {CHECK_WORDS[c.kind]}, {word(c.word)}: {c.text}.
        </span>
        {onStays && c.stays[0] && (
          <button type="button" className="btn btn-sm" disabled={busy} onClick={() => onStays(c.stays)}>
            {msgNodes`${c.stays[0].where === 'dehydrator' ? msg`into the dehydrator` : msg`before the fan`} for ${c.stays[0].minutes} min
              after that round`}
          </button>
        )}
      </p>
    </li>
  );
  return (
    <section aria-label={msg`What may go wrong`}>
      <h2 className="text-2xl font-semibold mb-2">{msg`What may go wrong, as it is planned`}</h2>
      {all.length === 0 ? (
        <p className="text-lg">
          {msg`Nothing stands out: with these waits and stays no craters, bleeding, overflow, dents or short windows are to be expected.`}
        </p>
      ) : (
        <ul className="grid gap-2">{all.slice(0, FIRST).map(item)}</ul>
      )}
      {all.length > FIRST && (
        <details className="mt-2">
          <summary className="cursor-pointer underline underline-offset-4 text-lg">{msgNodes`${all.length - FIRST} more to watch`}</summary>
          <ul className="grid gap-2 mt-2">{all.slice(FIRST).map(item)}</ul>
        </details>
      )}
    </section>
  );
}
