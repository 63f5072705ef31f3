import type { BagChange } from '@kestfog/core/planning';
import { type Bag, bagKey } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import { useColourName } from '../app/colour-names.js';
import { bagText } from '../text/words.js';

/** What is done to the bags before a visit, where only so many may lie open; nothing where nothing is. */
export function BagChanges({ change, className }: { readonly change: BagChange | null; readonly className?: string }) {
  const nameOf = useColourName();
  if (!change) return null;
  const line = (what: string, bags: readonly Bag[]) =>
    bags.length > 0 && (
      <li className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <b className="font-semibold">{what}</b>
        {bags.map((b) => (
          <span key={bagKey(b)} className="flex items-center gap-2">
            <span className="inline-block w-6 h-6 shrink-0 rounded-full border border-base-content/60" style={{ background: b.colour }} />
            {bagText(b, nameOf)}
          </span>
        ))}
      </li>
    );
  return (
    <ul aria-label={msg`bags to put away and to open`} className={className}>
      {line(msg`Put away`, change.putsAway)}
      {line(msg`Open again`, change.opens)}
    </ul>
  );
}
