import type { Design, DesignEdit } from '@kestfog/core/design';
import type { School } from '@kestfog/core/steps';
import type {
  BagRecord,
  BenchTouchView,
  ClimateReading,
  ClimateScenario,
  ColourMix,
  DesignSummary,
  DesignView,
  DrawingRef,
  HostChoice,
  Kitchen,
  KitchenView,
  LeftoverKept,
  LeftoverUse,
  LeftoverView,
  NewDesign,
  NewLeftover,
  NewThinningStep,
  NewTouch,
  OrderFileView,
  OrderInput,
  OrderSummary,
  OrderView,
  PacesView,
  Page,
  PlanView,
  RunListItem,
  RunView,
  SchoolView,
  ThinningStepView,
  TouchView,
} from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import {
  keepPreviousData,
  type QueryClient,
  type UseQueryResult,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useCallback, useRef } from 'react';
import { v4 as uuid } from 'uuid';
import {
  GONE_ALREADY,
  type Kept,
  outbox,
  typed,
  useOutbox,
  waitingBodies,
  waitingBody,
  waitingToBeMade,
  waitsToGo,
} from '../outbox/index.js';
import { api } from './client.js';
import { bagName, KITCHEN, KITCHEN_WORDS, type KitchenChange } from './kitchen-change.js';
import { changeOf, inputOfView, type OrderChange, orderName } from './order-input.js';

/** What of a list is asked for: a page, and what is in its names. */
export interface ListWish {
  readonly q: string;
  readonly page: number;
}
const wishText = ({ q, page }: ListWish) => new URLSearchParams({ q, page: String(page) });

/** Leaves out of a list what was deleted on this device and is not deleted on the server yet. */
function useWithoutGone<T extends { readonly id: string }>(kind: Trashed): (list: Page<T>) => Page<T> {
  const entries = useOutbox();
  return useCallback((list) => ({ ...list, items: list.items.filter((x) => !waitsToGo(entries, `/${kind}/${x.id}`)) }), [entries, kind]);
}

/** A page of orders still to be packed, or of those that are; the page before stays until the next has come. */
export const useOrders = (state: 'open' | 'packed' | 'trash', wish: ListWish) =>
  useQuery({
    queryKey: ['orders', 'list', state, wish],
    queryFn: () => api<Page<OrderSummary>>(`/orders?state=${state}&${wishText(wish)}`),
    placeholderData: keepPreviousData,
    select: useWithoutGone<OrderSummary>('orders'),
  });
/** All orders of a list, page after page. */
export async function allOrders(state: 'open' | 'packed'): Promise<OrderSummary[]> {
  const out: OrderSummary[] = [];
  for (let page = 0, pages = 1; page < pages; page++) {
    const next = await api<Page<OrderSummary>>(`/orders?state=${state}&${wishText({ q: '', page })}`);
    out.push(...next.items);
    pages = next.pages;
  }
  return out;
}
/** Orders whose bench an order could share; null for an order that is not kept yet. */
export const useHosts = (forId: string | null, wanted = true) =>
  useQuery({
    queryKey: ['orders', 'hosts', forId],
    queryFn: () => api<HostChoice[]>(`/orders/hosts${forId ? `?for=${forId}` : ''}`),
    enabled: wanted,
  });
/** An order, its bags as they were counted on this device. */
export function useOrder(id: string, wanted = true) {
  const entries = useOutbox();
  const withFresh = useCallback(
    (order: OrderView): OrderView => {
      const fresh = waitingBodies<BagRecord>(entries, `/orders/${id}/bags`);
      const named = new Map([...order.bags, ...fresh].map((b) => [bagName(id, b), b]));
      return fresh.length === 0 ? order : { ...order, bags: [...named.values()] };
    },
    [entries, id],
  );
  return useQuery({ queryKey: ['orders', id], queryFn: () => api<OrderView>(`/orders/${id}`), enabled: wanted, select: withFresh });
}
export const usePlan = (orderId: string) =>
  useQuery({ queryKey: ['plan', orderId], queryFn: () => api<PlanView>(`/orders/${orderId}/plan`) });
export const useDesigns = (state: 'there' | 'trash', wish: ListWish) =>
  useQuery({
    queryKey: ['designs', 'list', state, wish],
    queryFn: () => api<Page<DesignSummary>>(`/designs?state=${state}&${wishText(wish)}`),
    staleTime: 60_000,
    placeholderData: keepPreviousData,
    select: useWithoutGone<DesignSummary>('designs'),
  });
/** All designs without their drawings, to choose from. */
export const useDesignChoices = () =>
  useQuery({ queryKey: ['designs', 'choices'], queryFn: () => api<DesignSummary[]>('/designs/choices'), staleTime: 60_000 });

export const refOf = (d: DesignSummary): DrawingRef => ({ designId: d.id, version: d.version, edits: d.edits });
/** A drawing never changes under its reference: once here, it is not asked for again. */
const drawingQuery = ({ designId, version, edits }: DrawingRef) => ({
  queryKey: ['drawing', designId, version, edits],
  queryFn: () => api<Design>(`/designs/${designId}/versions/${version}/drawing/${edits}`),
  staleTime: Number.POSITIVE_INFINITY,
});
export const useDrawing = (ref: DrawingRef) => useQuery(drawingQuery(ref));
/** Drawings in the order of their references; undefined while one is on its way. */
export const useDrawings = (refs: readonly DrawingRef[]): (Design | undefined)[] =>
  useQueries({ queries: refs.map(drawingQuery), combine: dataOf });
const dataOf = (results: UseQueryResult<Design>[]) => results.map((r) => r.data);

/** The order as the planner takes it, for what is planned beside the page; another order is another question. */
export const useOrderFile = (order: OrderView, wanted: boolean) =>
  useQuery({
    queryKey: [
      'order-file',
      order.id,
      JSON.stringify([inputOfView(order), order.bags, order.designs.map((d) => [d.designId, d.count, d.spares, d.version])]),
    ],
    queryFn: () => api<OrderFileView>(`/orders/${order.id}/file`),
    enabled: wanted,
    staleTime: 30_000,
    gcTime: 60_000,
  });
export const fetchDesign = (id: string) => api<DesignView>(`/designs/${id}`);

/** Keeps a new order under the name this page gives it, which is answered with what became of it. */
export const useMakeOrder = () =>
  useMutation({
    mutationFn: async (input: OrderInput) => {
      const id = uuid();
      return {
        id,
        ...(await typed<OrderView>({
          what: msg`the new order ${input.name}`,
          place: '/orders',
          method: 'POST',
          path: '/orders',
          body: { ...input, id },
        })),
      };
    },
  });

async function saveOrder(client: QueryClient, id: string, change: OrderChange): Promise<Kept<OrderView>> {
  const kept = await typed<OrderView>({
    what: msg`changes of the order ${change.name}`,
    place: `/orders/${id}`,
    method: 'PUT',
    path: `/orders/${id}`,
    body: change,
    name: orderName(id),
  });
  if (kept.answer) client.setQueryData(['orders', id], kept.answer);
  return kept;
}
/** Keeps changes of an order. They go one after the other, and each goes on from this page's own before it. */
export function useSaveOrder(id: string) {
  const client = useQueryClient();
  return useMutation({ scope: { id: `order ${id}` }, mutationFn: (change: OrderChange) => saveOrder(client, id, change) });
}
/** The same change in several orders, one after the other. */
export function useChangeOrders() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({
      orders,
      change,
    }: {
      readonly orders: readonly OrderView[];
      readonly change: (order: OrderView) => Partial<OrderInput>;
    }) => {
      for (const o of orders) await saveOrder(client, o.id, { ...changeOf(o), ...change(o) });
    },
  });
}
/** Every order that is planned on a bench of its own and not begun: what a change of the kitchen could still reach. */
export async function fetchOrdersAhead(): Promise<OrderView[]> {
  const found: OrderView[] = [];
  for (let page = 0, pages = 1; page < pages; page++) {
    const list = await api<Page<OrderSummary>>(`/orders?state=open&page=${page}`);
    pages = list.pages;
    for (const o of list.items) if (!o.run && !o.hostId) found.push(await api<OrderView>(`/orders/${o.id}`));
  }
  return found;
}

export const useRemoveOrder = () =>
  useMutation({
    mutationFn: ({ id, name }: Named) =>
      typed<void>({
        what: msg`the deleting of the order ${name}`,
        place: '/orders',
        method: 'DELETE',
        path: `/orders/${id}`,
        soAlready: GONE_ALREADY,
      }),
  });

/** Has the server plan an order; `stop` ends the wait, and the planning with it. */
export function useMakePlan(orderId: string) {
  const client = useQueryClient();
  const stopper = useRef<AbortController | null>(null);
  const make = useMutation({
    mutationFn: () => {
      stopper.current = new AbortController();
      return api<PlanView>(`/orders/${orderId}/plan`, { method: 'POST', signal: stopper.current.signal });
    },
    onSuccess: (plan) => {
      client.setQueryData(['plan', orderId], plan);
      void client.invalidateQueries({ queryKey: ['orders'] });
    },
  });
  return { ...make, stop: () => stopper.current?.abort() };
}

/** Keeps a new design under the name this page gives it, which is answered with what became of it. */
export const useAddDesign = () =>
  useMutation({
    mutationFn: async (d: NewDesign) => {
      const id = uuid();
      return {
        id,
        ...(await typed<DesignView>({
          what: msg`the drawing ${d.name}`,
          place: '/designs',
          method: 'POST',
          path: '/designs',
          body: { ...d, id },
        })),
      };
    },
  });

export function useBeginRun(orderId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api<RunView>(`/orders/${orderId}/run`, { method: 'POST' }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
}

export function useKeepBag(orderId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (bag: BagRecord) => {
      const kept = await typed<OrderView>({
        what: msg`the bag of ${bag.word ?? msg`${bag.seconds} s`}`,
        place: `/orders/${orderId}/icing`,
        method: 'PUT',
        path: `/orders/${orderId}/bags`,
        body: bag,
        name: bagName(orderId, bag),
      });
      if (kept.answer) client.setQueryData(['orders', orderId], kept.answer);
      return kept;
    },
  });
}

/** The kitchen, with what was changed on this device and waits to be sent. */
export function useKitchen() {
  const entries = useOutbox();
  const withFresh = useCallback(
    (kitchen: KitchenView): KitchenView => ({ ...kitchen, ...waitingBody<KitchenChange>(entries, KITCHEN), revision: kitchen.revision }),
    [entries],
  );
  return useQuery({ queryKey: ['kitchen'], queryFn: () => api<KitchenView>('/kitchen'), staleTime: 60_000, select: withFresh });
}
/** Changes fields of the kitchen; fields that were changed elsewhere meanwhile are not overwritten. */
export function useKeepKitchen() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (more: Partial<Kitchen>) => {
      const waiting = waitingBody<KitchenChange>(outbox.all(), KITCHEN);
      const known = client.getQueryData<KitchenView>(['kitchen']);
      const revision = waiting?.revision ?? known?.revision;
      const body: KitchenChange = { ...waiting, ...more, ...(revision === undefined ? {} : { revision }) };
      const fields = (Object.keys(body) as (keyof KitchenChange)[]).flatMap((f) => (f === 'revision' ? [] : [KITCHEN_WORDS[f]]));
      const kept = await typed<KitchenView>({
        what: msg`the kitchen: ${fields.join(', ')}`,
        place: '/kitchen',
        method: 'PUT',
        path: '/kitchen',
        body,
        name: KITCHEN,
      });
      if (kept.answer) client.setQueryData(['kitchen'], kept.answer);
      return kept;
    },
  });
}

/** A list the server keeps, with adding and taking away; what waits on this device is in it, or not in it any more, already. */
function useKept<New extends object, View extends { readonly id: string; readonly at: string }>(
  path: string,
  what: string,
  asView: (made: New & { readonly id: string; readonly at: string }) => View,
) {
  const entries = useOutbox();
  const withFresh = useCallback(
    (list: View[]): View[] => {
      const there = list.filter((x) => !waitsToGo(entries, `/${path}/${x.id}`));
      const fresh = waitingToBeMade<New & { readonly id: string }>(entries, `/${path}`).filter((x) => !there.some((t) => t.id === x.id));
      return [...there, ...fresh.map(asView)];
    },
    [entries, path, asView],
  );
  return {
    list: useQuery({ queryKey: [path], queryFn: () => api<View[]>(`/${path}`), select: withFresh }),
    add: useMutation({
      mutationFn: (x: New) => typed<View>({ what, place: PLACE_OF_ICING, method: 'POST', path: `/${path}`, body: { ...x, id: uuid() } }),
    }),
    remove: useMutation({
      mutationFn: (id: string) =>
        typed<void>({
          what: msg`the taking away of ${what}`,
          place: PLACE_OF_ICING,
          method: 'DELETE',
          path: `/${path}/${id}`,
          soAlready: GONE_ALREADY,
        }),
    }),
    restore: useMutation({
      mutationFn: (id: string) =>
        typed<void>({ what: msg`the putting back of ${what}`, place: PLACE_OF_ICING, method: 'POST', path: `/${path}/${id}/restore` }),
    }),
  };
}
/** Icing is a page of each order, and these belong to none. */
const PLACE_OF_ICING = '/orders';
const asItIs = <T>(x: T): T => x;
const unused = (x: NewLeftover & { readonly id: string; readonly at: string }): LeftoverView => ({
  ...x,
  uses: [],
  frozen: false,
  kneadedAt: null,
});
export const useThinningSteps = () => useKept<NewThinningStep, ThinningStepView>('thinning-steps', msg`a weighed thinning step`, asItIs);
/** What fingers found at the bench of finished runs. */
export const useBenchTouches = () => useQuery({ queryKey: ['bench-touches'], queryFn: () => api<BenchTouchView[]>('/bench-touches') });
export const usePaces = () => useQuery({ queryKey: ['paces'], queryFn: () => api<PacesView>('/paces') });
export const useLeaveOut = () =>
  useMutation({
    mutationFn: ({ runId, leftOut }: Pick<BenchTouchView, 'runId' | 'leftOut'>) =>
      typed<void>({
        what: leftOut ? msg`a run left out of the learning` : msg`a run counted again`,
        place: PLACE_OF_ICING,
        method: 'PUT',
        path: `/bench-touches/${runId}`,
        body: { leftOut },
        name: msg`left out ${runId}`,
      }),
  });
export const useTouches = () => useKept<NewTouch, TouchView>('touches', msg`what a finger found`, asItIs);
export function useLeftovers() {
  const kept = useKept<NewLeftover, LeftoverView>('leftovers', msg`icing left over`, unused);
  const use = useMutation({
    mutationFn: ({ id, use }: { readonly id: string; readonly use: LeftoverUse }) =>
      typed<LeftoverView>({
        what: msg`icing left over, put to use`,
        place: `/orders/${use.orderId}/icing`,
        method: 'PUT',
        path: `/leftovers/${id}/uses`,
        body: use,
        name: msg`use of ${id} ${use.orderId} ${use.colour} ${use.seconds}`,
      }),
  });
  const keep = useMutation({
    mutationFn: ({ id, ...how }: LeftoverKept & { readonly id: string }) =>
      typed<LeftoverView>({
        what: msg`how icing left over is kept`,
        place: '/kitchen',
        method: 'PUT',
        path: `/leftovers/${id}/kept`,
        body: how,
        name: msg`keeping of ${id}`,
      }),
  });
  return { ...kept, use, keep };
}

export const useColourMixes = () => useQuery({ queryKey: ['colour-mixes'], queryFn: () => api<ColourMix[]>('/colour-mixes') });
export const useKeepColourMix = () =>
  useMutation({
    mutationFn: (mix: ColourMix) =>
      typed<ColourMix>({
        what: msg`how a colour is mixed`,
        place: PLACE_OF_ICING,
        method: 'PUT',
        path: '/colour-mixes',
        body: mix,
        name: msg`mix ${mix.recipe} ${mix.colour}`,
      }),
  });

export const usePlayClimate = () =>
  useMutation({ mutationFn: (scenario: ClimateScenario) => api<ClimateReading>('/climate', { method: 'POST', body: { scenario } }) });

/** Edits that a plan is made with at once; what is edited by hand goes through the outbox. */
export const keepDesign = (id: string, edits: readonly DesignEdit[]) =>
  api<DesignView>(`/designs/${id}`, { method: 'PUT', body: { edits } });
export const useDesign = (id: string) =>
  useQuery({ queryKey: ['design', id], queryFn: () => api<DesignView>(`/designs/${id}`), staleTime: 0 });
/** What can be put into the trash, and taken out of it. */
export type Trashed = 'orders' | 'designs' | 'schools' | 'runs';
export interface Named {
  readonly id: string;
  readonly name: string;
}
export const useRestore = (kind: Trashed) =>
  useMutation({
    mutationFn: ({ id, name }: Named) =>
      typed<void>({
        what: msg`the putting back of ${name}`,
        place: `/${PLACE_OF[kind]}`,
        method: 'POST',
        path: `/${kind}/${id}/restore`,
        soAlready: GONE_ALREADY,
      }),
  });
export const useRemoveForGood = (kind: Trashed) =>
  useMutation({
    mutationFn: ({ id, name }: Named) =>
      typed<void>({
        what: msg`the end of ${name}`,
        place: `/${PLACE_OF[kind]}`,
        method: 'DELETE',
        path: `/${kind}/${id}/for-good`,
        soAlready: GONE_ALREADY,
      }),
  });
const PLACE_OF = { orders: 'orders', runs: 'orders', designs: 'designs', schools: 'designs' } as const;
export const useTrashedRuns = (wanted: boolean) =>
  useQuery({ queryKey: ['runs', 'trash'], queryFn: () => api<RunListItem[]>('/runs?state=trash'), enabled: wanted });
/** Runs that were begun and are not finished, also those begun on another device. */
export const useGoingRuns = (wanted: boolean) =>
  useQuery({
    enabled: wanted,
    queryKey: ['runs', 'going'],
    queryFn: () => api<RunListItem[]>('/runs?state=going'),
    refetchInterval: 30_000,
    refetchIntervalInBackground: true,
  });
export const useRemoveRun = () =>
  useMutation({
    mutationFn: ({ id, name }: Named) =>
      typed<void>({
        what: msg`the deleting of the run of ${name}`,
        place: '/orders',
        method: 'DELETE',
        path: `/runs/${id}`,
        soAlready: GONE_ALREADY,
      }),
  });

export const useCopyDesign = () =>
  useMutation({
    mutationFn: async ({ id: of, name }: Named) => {
      const id = uuid();
      return {
        id,
        ...(await typed<DesignView>({
          what: msg`the copy ${name}`,
          place: '/designs',
          method: 'POST',
          path: `/designs/${of}/copy`,
          body: { name, id },
        })),
      };
    },
  });
export const useRemoveDesign = () =>
  useMutation({
    mutationFn: ({ id, name }: Named) =>
      typed<void>({
        what: msg`the deleting of ${name}`,
        place: '/designs',
        method: 'DELETE',
        path: `/designs/${id}`,
        soAlready: GONE_ALREADY,
      }),
  });

export const useSchools = () => useQuery({ queryKey: ['schools'], queryFn: () => api<SchoolView[]>('/schools') });
export const useTrashedSchools = (wanted: boolean) =>
  useQuery({ queryKey: ['schools', 'trash'], queryFn: () => api<SchoolView[]>('/schools?state=trash'), enabled: wanted });
/** A preset is copied under a name of its own, one's own is changed; answered with what became of it. */
export const useKeepSchool = () =>
  useMutation({
    mutationFn: async ({ preset, revision, ...school }: SchoolView) => {
      const what = msg`the school ${school.label}`;
      const id = preset ? uuid() : school.id;
      const kept = preset
        ? await typed<SchoolView>({
            what,
            place: '/designs',
            method: 'POST',
            path: '/schools',
            body: { school: school satisfies School, id },
          })
        : await typed<SchoolView>({
            what,
            place: '/designs',
            method: 'PUT',
            path: `/schools/${id}`,
            body: { school, basedOn: revision },
            name: msg`school ${id}`,
          });
      return { id, ...kept };
    },
  });
export const useRemoveSchool = () =>
  useMutation({
    mutationFn: ({ id, name }: Named) =>
      typed<void>({
        what: msg`the deleting of the school ${name}`,
        place: '/designs',
        method: 'DELETE',
        path: `/schools/${id}`,
        soAlready: GONE_ALREADY,
      }),
  });
