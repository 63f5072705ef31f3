import type { RunListItem } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import { allOrders, useOrders, useTrashedRuns } from '../api/queries.js';
import { useListWish } from '../app/use-list-wish.js';
import { OrderList } from '../features/orders/OrderList.js';
import { dayClock } from '../text/time.js';
import { Pages, SearchBox } from '../ui/ListTools.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { saveFile } from '../ui/save-file.js';
import { TrashList } from '../ui/Trash.js';
import { useTitle } from '../ui/use-title.js';

const STATES = ['open', 'packed', 'trash'] as const;
const STATE_WORDS = { open: msg`To do`, packed: msg`Packed`, trash: msg`Trash` } as const;

/** What is due, soonest first; what is packed lies apart, and everything can be looked for. */
export function OrdersPage() {
  useTitle(msg`Orders`);
  const list = useListWish();
  const { wish } = list;
  const state = STATES.find((s) => s === list.state) ?? 'open';
  const orders = useOrders(state, wish);
  const runs = useTrashedRuns(state === 'trash').data ?? [];
  const isEmpty = orders.data?.total === 0;
  return (
    <>
      <div className="flex flex-wrap items-center gap-6 pt-6 pb-6">
        <h1 className="text-5xl font-semibold">{msg`Orders`}</h1>
        <Link to="/orders/new" className="btn btn-lg">
          {msg`New order`}
        </Link>
        <nav className="join" aria-label={msg`which orders`}>
          {STATES.map((s) => (
            <Link
              key={s}
              to={list.addressOf(s === 'open' ? '' : s)}
              replace
              className={`btn btn-lg join-item ${state === s ? 'btn-neutral' : ''}`}
              aria-current={state === s ? 'page' : undefined}
            >
              {STATE_WORDS[s]}
            </Link>
          ))}
        </nav>
        <SearchBox label={msg`look for an order or design`} first={wish.q} onSearch={list.search} />
      </div>
      <NotKeptHere place="/orders" />
      {orders.isPending && <Loading what={msg`looking up what is due`} />}
      {orders.isError && (
        <Notice title={msg`The orders could not be read`} tone="closing">
          {orders.error.message}{' '}
          <button type="button" className="link" onClick={() => void orders.refetch()}>
            {msg`Try again`}
          </button>
        </Notice>
      )}
      {isEmpty && wish.q !== '' && (
        <Notice title={msg`Nothing with "${wish.q}" in it`}>{msg`Look for a part of the order's name, or of a design's.`}</Notice>
      )}
      {isEmpty && wish.q === '' && state === 'packed' && (
        <Notice title={msg`Nothing is packed yet`}>{msg`An order comes here once the last cookie of its run is packed.`}</Notice>
      )}
      {isEmpty && wish.q === '' && state === 'trash' && runs.length === 0 && (
        <Notice title={msg`The trash is empty`}>{msg`What is deleted lies here for 30 days.`}</Notice>
      )}
      {isEmpty && wish.q === '' && state === 'open' && (
        <Notice title={msg`Nothing is due`}>
          {msg`Bring a drawing and say how many and by when: `}
          <Link to="/orders/new" className="link">
            {msg`make the first order`}
          </Link>
          .
        </Notice>
      )}
      {orders.data && !isEmpty && (
        <>
          {state === 'trash' ? <TrashList kind="orders" items={orders.data.items} /> : <OrderList orders={orders.data.items} />}
          <Pages page={orders.data.page} pages={orders.data.pages} onPage={list.toPage} />
          {state !== 'trash' && <TableOfAll state={state} />}
        </>
      )}
      {state === 'trash' && runs.length > 0 && <TrashedRuns runs={runs} />}
    </>
  );
}

/** Every order of the list as a table, also those on other pages. */
function TableOfAll({ state }: { readonly state: 'open' | 'packed' }) {
  const save = useMutation({
    // Paper is fetched with the wish for it: the first page of all stays light.
    mutationFn: async () => (await import('@kestfog/core/paper')).ordersTable(await allOrders(state)),
    onSuccess: (table) => saveFile(state === 'open' ? 'orders.csv' : msg`orders packed.csv`, 'text/csv', table),
  });
  return (
    <div className="flex flex-wrap items-center gap-3 mt-8 -ml-4">
      <button type="button" className="btn btn-ghost" disabled={save.isPending} onClick={() => save.mutate()}>
        {save.isPending ? msg`Reading them all …` : msg`Table of these orders`}
      </button>
      {save.isError && (
        <span role="alert" className="text-error font-medium">
          {msgNodes`The orders could not be read: ${save.error.message}`}
        </span>
      )}
    </div>
  );
}

function TrashedRuns({ runs }: { readonly runs: readonly RunListItem[] }) {
  const items = runs.map((r) => ({
    id: r.id,
    name: msg`The run of ${r.orderName}, ${dayClock(Date.parse(r.startedAt))}, ${r.done} of ${r.total} steps done`,
  }));
  return (
    <section aria-label={msg`Runs`} className="mt-8">
      <h2 className="text-2xl font-semibold mb-2">{msg`Runs`}</h2>
      <TrashList kind="runs" items={items} />
    </section>
  );
}
