import type { DesignEdit } from '@kestfog/core/design';
import type { DesignCheck, DesignSuggestion, DesignTotals } from '@kestfog/core/planning';
import { msg, plural, word } from '@kestfog/core/words';
import { useUnits } from '../../app/units.js';
import { grams } from '../../text/amounts.js';
import { span } from '../../text/time.js';
import { capital } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import type { Computed } from '../../workers/use-beside.js';
import { CHECK_WORDS } from './check-words.js';

interface Props {
  readonly totals: DesignTotals;
  readonly checks: readonly DesignCheck[];
  readonly suggestions: Computed<readonly DesignSuggestion[]>;
  readonly cautions: readonly { readonly id: string; readonly text: string }[];
  /** the air it was checked in */
  readonly air: string;
  /** the check that is shown on the cookie */
  readonly shown: DesignCheck | null;
  readonly onShow: (check: DesignCheck) => void;
  readonly onTake: (edits: readonly DesignEdit[]) => void;
}

/** What it takes, what may go wrong, and what would save a round of drying. */
export function ChecksPanel({ totals, checks, suggestions, cautions, air, shown, onShow, onTake }: Props) {
  const [units] = useUnits();
  const facts: [string, string][] = [
    [msg`rounds of drying`, String(totals.rounds)],
    [msg`hands-on, a cookie`, span(totals.handsOnS)],
    [msg`first touch to dry`, totals.throughS === null ? msg`never in this air` : span(totals.throughS)],
    [
      msg`icing, a cookie`,
      grams(
        totals.bags.reduce((s, b) => s + b.g, 0),
        units,
      ),
    ],
  ];
  return (
    <section aria-label={msg`Checks`} className="grid gap-5">
      <dl className="grid grid-cols-2 gap-x-6 gap-y-2">
        {facts.map(([what, value]) => (
          <div key={what}>
            <dt className="text-base opacity-80">{what}</dt>
            <dd className="text-2xl clock">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="text-base opacity-85">{msgNodes`Reckoned in ${air}, with what this kitchen’s touch tests taught.`}</p>
      {checks.length === 0 ? (
        <p className="text-lg">{msg`Nothing stands out: no craters, bleeding, overflow or short windows to expect.`}</p>
      ) : (
        <ul className="grid gap-2">
          {checks.map((c) => (
            <li key={c.kind + c.part} className={`border-l-4 pl-3 ${c.word === 'likely' ? 'border-error' : 'border-base-300'}`}>
              {c.change && <p className="text-lg font-medium">{capital(c.change)}.</p>}
              <p className="text-base">
                <button
                  type="button"
                  className="link"
                  aria-pressed={shown?.kind === c.kind && shown.part === c.part}
                  onClick={() => onShow(c)}
                >
                  {CHECK_WORDS[c.kind]}
                </button>{' '}
                {word(c.word)}: {c.text}.
              </p>
            </li>
          ))}
        </ul>
      )}
      {suggestions.pending && <p className="text-base opacity-85">{msg`Looking for what would save a round of drying …`}</p>}
      {suggestions.failure && <p role="alert">{suggestions.failure}</p>}
      {suggestions.value && suggestions.value.length > 0 && (
        <div>
          <h3 className="text-xl font-semibold">{msg`Would save a round`}</h3>
          <ul className="mt-1 grid gap-2">
            {suggestions.value.map((s) => (
              <li key={s.text} className="text-base flex flex-wrap gap-x-3 items-center">
                <span>
                  {msgNodes`${capital(s.text)}: ${s.savesRounds} ${plural(s.savesRounds, 'round', 'rounds')} fewer${
                    s.savesS > 0 &&
                    msg`,
                    ${span(s.savesS)} sooner`
                  }.`}
                </span>
                <button type="button" className="btn btn-sm" onClick={() => onTake(s.edits)}>
                  {msg`do it`}
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
      <details>
        <summary className="cursor-pointer underline underline-offset-4 text-lg">{msgNodes`cautions where they arise
          (${cautions.length})`}</summary>
        <ul className="list-disc pl-5 text-base">
          {cautions.map((c) => (
            <li key={c.id}>{c.text}</li>
          ))}
        </ul>
        <p className="text-base opacity-85">{msg`They advise; local food codes and licensed practice decide.`}</p>
      </details>
    </section>
  );
}
