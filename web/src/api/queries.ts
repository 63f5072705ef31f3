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
  LeftoverUse,
  LeftoverView,
  NewDesign,
  NewLeftover,
  NewThinningStep,
  NewTouch,
  OrderFileView,
  OrderSummary,
  OrderView,
  PacesView,
  Page,
  PlanView,
  RunView,
  SchoolView,
  ThinningStepView,
  TouchView,
} from '@kestfog/core/wire';
import { keepPreviousData, type UseQueryResult, useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { api } from './client.js';
import { inputOfView, type OrderChange } from './order-input.js';

/** What of a list is asked for: a page, and what is in its names. */
export interface ListWish {
  readonly q: string;
  readonly page: number;
}
const wishText = ({ q, page }: ListWish) => new URLSearchParams({ q, page: String(page) });

/** A page of orders still to be packed, or of those that are; the page before stays until the next has come. */
export const useOrders = (state: 'open' | 'packed' | 'trash', wish: ListWish) =>
  useQuery({
    queryKey: ['orders', 'list', state, wish],
    queryFn: () => api<Page<OrderSummary>>(`/orders?state=${state}&${wishText(wish)}`),
    placeholderData: keepPreviousData,
  });
/** Orders whose bench an order could share; null for an order that is not kept yet. */
export const useHosts = (forId: string | null, wanted = true) =>
  useQuery({ queryKey: ['orders', 'hosts', forId], queryFn: () => api<HostChoice[]>(`/orders/hosts${forId ? `?for=${forId}` : ''}`), enabled: wanted });
export const useOrder = (id: string, wanted = true) => useQuery({ queryKey: ['orders', id], queryFn: () => api<OrderView>(`/orders/${id}`), enabled: wanted });
export const usePlan = (orderId: string) => useQuery({ queryKey: ['plan', orderId], queryFn: () => api<PlanView>(`/orders/${orderId}/plan`) });
export const useDesigns = (state: 'there' | 'trash', wish: ListWish) =>
  useQuery({
    queryKey: ['designs', 'list', state, wish],
    queryFn: () => api<Page<DesignSummary>>(`/designs?state=${state}&${wishText(wish)}`),
    staleTime: 60_000,
    placeholderData: keepPreviousData,
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
export const useDrawings = (refs: readonly DrawingRef[]): (Design | undefined)[] => useQueries({ queries: refs.map(drawingQuery), combine: dataOf });
const dataOf = (results: UseQueryResult<Design>[]) => results.map((r) => r.data);

/** The order as the planner takes it, for what is planned beside the page; another order is another question. */
export const useOrderFile = (order: OrderView, wanted: boolean) =>
  useQuery({
    queryKey: ['order-file', order.id, JSON.stringify([inputOfView(order), order.bags, order.designs.map((d) => [d.designId, d.count, d.spares, d.version])])],
    queryFn: () => api<OrderFileView>(`/orders/${order.id}/file`),
    enabled: wanted,
    staleTime: 30_000,
    gcTime: 60_000,
  });
export const fetchDesign = (id: string) => api<DesignView>(`/designs/${id}`);

/** Revisions of orders that this page made itself. */
const ownRevision = new Map<string, number>();

/** Keeps an order, new or changed. Changes of one order go one after the other, and each goes on from this page's own before it. */
export function useSaveOrder(id?: string) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `order ${id ?? 'new'}` },
    mutationFn: async ({ basedOn, ...input }: OrderChange): Promise<OrderView> => {
      if (!id) return api<OrderView>('/orders', { method: 'POST', body: input });
      const from = basedOn === undefined ? {} : { basedOn: Math.max(basedOn, ownRevision.get(id) ?? 0) };
      const view = await api<OrderView>(`/orders/${id}`, { method: 'PUT', body: { ...input, ...from } });
      ownRevision.set(id, view.revision);
      return view;
    },
    onSuccess: (view) => {
      client.setQueryData(['orders', view.id], view);
      void client.invalidateQueries({ queryKey: ['orders'] });
    },
  });
}

export function useRemoveOrder() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<void>(`/orders/${id}`, { method: 'DELETE' }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
}

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

export function useAddDesign() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (d: NewDesign) => api<DesignView>('/designs', { method: 'POST', body: d }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['designs'] }),
  });
}

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
    mutationFn: (bag: BagRecord) => api<OrderView>(`/orders/${orderId}/bags`, { method: 'PUT', body: bag }),
    onSuccess: (order) => {
      client.setQueryData(['orders', orderId], order);
      void client.invalidateQueries({ queryKey: ['orders'] });
    },
  });
}

export const useKitchen = () => useQuery({ queryKey: ['kitchen'], queryFn: () => api<Kitchen>('/kitchen'), staleTime: 60_000 });
export function useKeepKitchen() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (kitchen: Kitchen) => api<Kitchen>('/kitchen', { method: 'PUT', body: kitchen }),
    onSuccess: (kitchen) => client.setQueryData(['kitchen'], kitchen),
  });
}

/** A list the server keeps, with adding and taking away; adding may change what plans are made of. */
function useKept<New, View extends { readonly id: string }>(path: string) {
  const client = useQueryClient();
  const refresh = () => {
    void client.invalidateQueries({ queryKey: [path] });
    void client.invalidateQueries({ queryKey: ['orders'] });
  };
  return {
    list: useQuery({ queryKey: [path], queryFn: () => api<View[]>(`/${path}`) }),
    add: useMutation({ mutationFn: (x: New) => api<View>(`/${path}`, { method: 'POST', body: x }), onSuccess: refresh }),
    remove: useMutation({ mutationFn: (id: string) => api<void>(`/${path}/${id}`, { method: 'DELETE' }), onSuccess: refresh }),
  };
}
export const useThinningSteps = () => useKept<NewThinningStep, ThinningStepView>('thinning-steps');
/** What fingers found at the bench of finished runs. */
export const useBenchTouches = () => useQuery({ queryKey: ['bench-touches'], queryFn: () => api<BenchTouchView[]>('/bench-touches') });
export const usePaces = () => useQuery({ queryKey: ['paces'], queryFn: () => api<PacesView>('/paces') });
export function useLeaveOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ runId, leftOut }: Pick<BenchTouchView, 'runId' | 'leftOut'>) => api<void>(`/bench-touches/${runId}`, { method: 'PUT', body: { leftOut } }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['bench-touches'] });
      void client.invalidateQueries({ queryKey: ['paces'] });
      void client.invalidateQueries({ queryKey: ['orders'] });
    },
  });
}
export const useTouches = () => useKept<NewTouch, TouchView>('touches');
export function useLeftovers() {
  const client = useQueryClient();
  const kept = useKept<NewLeftover, LeftoverView>('leftovers');
  const use = useMutation({
    mutationFn: ({ id, use }: { readonly id: string; readonly use: LeftoverUse }) => api<LeftoverView>(`/leftovers/${id}/uses`, { method: 'PUT', body: use }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['leftovers'] }),
  });
  return { ...kept, use };
}

export const useColourMixes = () => useQuery({ queryKey: ['colour-mixes'], queryFn: () => api<ColourMix[]>('/colour-mixes') });
export function useKeepColourMix() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (mix: ColourMix) => api<ColourMix>('/colour-mixes', { method: 'PUT', body: mix }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['colour-mixes'] }),
  });
}

export const usePlayClimate = () =>
  useMutation({ mutationFn: (scenario: ClimateScenario) => api<ClimateReading>('/climate', { method: 'POST', body: { scenario } }) });

export const useDesign = (id: string) => useQuery({ queryKey: ['design', id], queryFn: () => api<DesignView>(`/designs/${id}`), staleTime: 0 });
export const keepDesign = (id: string, edits: readonly DesignEdit[]) => api<DesignView>(`/designs/${id}`, { method: 'PUT', body: { edits } });
/** What can be put into the trash, and taken out of it. */
export type Trashed = 'orders' | 'designs';
function useTrash(call: (kind: Trashed, id: string) => Promise<unknown>, kind: Trashed) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => call(kind, id),
    // An order brings its designs back with it.
    onSuccess: () => Promise.all([client.invalidateQueries({ queryKey: ['orders'] }), client.invalidateQueries({ queryKey: ['designs'] })]),
  });
}
export const useRestore = (kind: Trashed) => useTrash((k, id) => api(`/${k}/${id}/restore`, { method: 'POST' }), kind);
export const useRemoveForGood = (kind: Trashed) => useTrash((k, id) => api(`/${k}/${id}/for-good`, { method: 'DELETE' }), kind);

export function useCopyDesign() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, name }: { id: string; name: string }) => api<DesignView>(`/designs/${id}/copy`, { method: 'POST', body: { name } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['designs'] }),
  });
}
export function useRemoveDesign() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<void>(`/designs/${id}`, { method: 'DELETE' }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['designs'] }),
  });
}

export const useSchools = () => useQuery({ queryKey: ['schools'], queryFn: () => api<SchoolView[]>('/schools') });
export function useKeepSchool() {
  const client = useQueryClient();
  return useMutation({
    /** a preset is copied, one's own is changed */
    mutationFn: ({ preset, ...school }: SchoolView) =>
      api<SchoolView>(preset ? '/schools' : `/schools/${school.id}`, { method: preset ? 'POST' : 'PUT', body: { school: school satisfies School } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['schools'] }),
  });
}
export function useRemoveSchool() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<void>(`/schools/${id}`, { method: 'DELETE' }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['schools'] }),
  });
}
