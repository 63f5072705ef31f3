import { margins } from '@kestfog/core/drying';
import { cookiesMade, type OrderTray } from '@kestfog/core/formats';
import type { Kitchen, OrderView } from '@kestfog/core/wire';
import { msg, plural, word } from '@kestfog/core/words';
import { ApiFailure } from '../../api/client.js';
import { changeOf, type OrderChange } from '../../api/order-input.js';
import { useKitchen } from '../../api/queries.js';
import { Notice } from '../../ui/Notice.js';

interface Props {
  readonly order: OrderView;
  readonly failure: Error;
  readonly busy: boolean;
  /** keeps the order so, and plans it */
  readonly onTake: (change: OrderChange) => void;
}

/** Why an order cannot be planned at all, with the touch that helps. */
export function NoPlan({ order, failure, busy, onTake }: Props) {
  const kitchen = useKitchen().data;
  const code = failure instanceof ApiFailure ? failure.code : '';
  if (code === 'stopped') return <Notice title={msg`Stopped`}>{failure.message}</Notice>;
  const cures = curesOf(code, order, kitchen);
  return (
    <Notice title={msg`No plan`} tone="closing">
      {failure.message}
      <span className="flex flex-wrap gap-3 mt-3 empty:hidden">
        {cures.map((c) => (
          <button key={c.text} type="button" className="btn btn-lg" disabled={busy} onClick={() => onTake(c.change)}>
            {c.text}
          </button>
        ))}
      </span>
    </Notice>
  );
}

interface Cure {
  readonly text: string;
  readonly change: OrderChange;
}

/** What can be done about a refusal with one touch. */
export function curesOf(code: string, order: OrderView, kitchen: Pick<Kitchen, 'dehydrator'> | undefined): Cure[] {
  const now = changeOf(order);
  if (code === 'never-dries' && !order.dehydrator && kitchen)
    return [{ text: msg`Dry each tray in the dehydrator`, change: { ...now, dehydrator: { places: 1, ...kitchen.dehydrator } } }];
  if (code === 'too-many-bags') return [{ text: msg`Let as many bags lie open as it takes`, change: { ...now, openBags: null } }];
  if (code === 'window-too-short') {
    const bolder = margins[margins.indexOf(order.margin) - 1];
    return bolder ? [{ text: msg`Plan with the ${word(bolder)} margin`, change: { ...now, margin: bolder } }] : [];
  }
  if (code === 'trays-full') {
    const last = order.trays.at(-1);
    const cookies = order.designs.reduce((s, d) => s + cookiesMade(d), 0);
    const places = order.trays.reduce((s, t) => s + (t.places ?? 0), 0);
    if (!last?.places || cookies <= places) return [];
    const more = Math.ceil((cookies - places) / last.places);
    return [
      {
        text: msg`Add ${more} ${plural(more, 'tray', 'trays')} of ${last.places}`,
        change: { ...now, trays: withMore(order.trays, last, more) },
      },
    ];
  }
  return [];
}

function withMore(trays: readonly OrderTray[], like: OrderTray, more: number): OrderTray[] {
  const out = [...trays];
  const names = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ', ...Array.from({ length: 60 }, (_, i) => `${i + 1}`)];
  for (let k = 0; k < more; k++) {
    const id = names.find((n) => !out.some((t) => t.id === n));
    if (id) out.push({ ...like, id });
  }
  return out;
}
