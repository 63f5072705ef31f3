import type { OrderInput, OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { changedFields } from '../../api/order-input.js';
import { Notice } from '../../ui/Notice.js';

/** An order was changed elsewhere while it was changed here: what differs, and whose is kept. */
export function Conflict({
  mine,
  theirs,
  busy,
  onMine,
  onTheirs,
}: {
  readonly mine: OrderInput;
  readonly theirs: OrderView;
  readonly busy: boolean;
  readonly onMine: () => void;
  readonly onTheirs: () => void;
}) {
  const fields = changedFields(mine, theirs);
  return (
    <Notice title={msg`This order was changed elsewhere meanwhile`} tone="closing">
      {fields.length === 0
        ? msg`What you typed and what is there now are the same.`
        : msg`What you typed differs in: ${fields.map((f) => f.what).join(', ')}.`}
      {msg` Nothing is lost until you choose.`}
      <span className="flex flex-wrap gap-3 mt-3">
        <button type="button" className="btn btn-lg" disabled={busy} onClick={onMine}>
          {msg`Keep what I typed`}
        </button>
        <button type="button" className="btn btn-lg" disabled={busy} onClick={onTheirs}>
          {msg`Keep what is there now`}
        </button>
      </span>
    </Notice>
  );
}
