import type { Stock, StockThing, StockUse } from '@kestfog/core/stock';
import type { NewStockBooking, StockBooking, StockItem, StockView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { GONE_ALREADY, STOCK_THINGS, typed, useOutbox, waitingBodies, waitingToBeMade, waitsToGo } from '../outbox/index.js';
import { api } from './client.js';

const BOOKINGS = '/stock/bookings';
const thingPath = (item: string) => `${STOCK_THINGS}/${encodeURIComponent(item)}`;
const bookingPath = (runId: string) => `${BOOKINGS}/${runId}`;
const KITCHEN_STOCK = '/kitchen#stock';

/** What is in the house, with what was counted or taken off on this device and waits to be sent. */
export function useStock() {
  const entries = useOutbox();
  const withFresh = useCallback(
    (view: StockView): StockView => {
      const fresh = waitingBodies<StockItem>(entries, STOCK_THINGS);
      const named = new Map([...view.items, ...fresh].map((i) => [i.item, i]));
      const booked = waitingToBeMade<NewStockBooking>(entries, BOOKINGS).map(
        (b): StockBooking => ({
          runId: b.runId,
          at: b.at,
          orderName: '',
          lines: b.lines.flatMap((l): StockUse[] => {
            const thing = named.get(l.item);
            return thing ? [{ item: l.item, what: thing.what, unit: thing.unit, amount: Math.min(l.amount, thing.amount) }] : [];
          }),
        }),
      );
      for (const b of booked)
        for (const l of b.lines) {
          const thing = named.get(l.item) as StockItem;
          named.set(l.item, { ...thing, amount: thing.amount - l.amount });
        }
      return {
        items: [...named.values()].filter((i) => !waitsToGo(entries, thingPath(i.item))),
        bookings: [...booked, ...view.bookings].filter((b) => !waitsToGo(entries, bookingPath(b.runId))),
      };
    },
    [entries],
  );
  return useQuery({ queryKey: ['stock'], queryFn: () => api<StockView>('/stock'), select: withFresh });
}

/** Amounts by the names of things. */
export const amountsOf = (stock: StockView | undefined): Stock => Object.fromEntries(stock?.items.map((i) => [i.item, i.amount]) ?? []);

/** Says how much of a thing there is, or that it is not counted any more (null). */
export const useKeepThing = () =>
  useMutation({
    mutationFn: ({ thing, amount, revision }: { readonly thing: StockThing; readonly amount: number | null; readonly revision: number }) =>
      amount === null
        ? typed<unknown>({
            what: msg`no more counting of ${thing.what}`,
            place: KITCHEN_STOCK,
            method: 'DELETE',
            path: thingPath(thing.item),
            name: msg`thing ${thing.item}`,
            soAlready: GONE_ALREADY,
          })
        : typed<unknown>({
            what: msg`how much ${thing.what} there is`,
            place: KITCHEN_STOCK,
            method: 'PUT',
            path: STOCK_THINGS,
            body: { item: thing.item, what: thing.what, unit: thing.unit, usedUp: thing.usedUp, amount, revision },
            name: msg`thing ${thing.item}`,
          }),
  });

/** Takes off what a run used; puts it back. */
export function useBooking(runId: string) {
  const place = KITCHEN_STOCK;
  const book = useMutation({
    mutationFn: (lines: NewStockBooking['lines']) =>
      typed<StockView>({
        what: msg`what a run used`,
        place,
        method: 'POST',
        path: BOOKINGS,
        body: { runId, lines: lines.map(({ item, amount }) => ({ item, amount })) },
      }),
  });
  const putBack = useMutation({
    mutationFn: () =>
      typed<void>({ what: msg`what a run used, put back`, place, method: 'DELETE', path: bookingPath(runId), soAlready: GONE_ALREADY }),
  });
  return { book, putBack };
}
