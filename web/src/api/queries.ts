import type { BagRecord, DesignSummary, NewDesign, OrderInput, OrderView, PlanView, RunView } from '@kestfog/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from './client.js';

export const useOrders = () => useQuery({ queryKey: ['orders'], queryFn: () => api<OrderView[]>('/orders') });
export const useOrder = (id: string) => useQuery({ queryKey: ['orders', id], queryFn: () => api<OrderView>(`/orders/${id}`) });
export const usePlan = (orderId: string) => useQuery({ queryKey: ['plan', orderId], queryFn: () => api<PlanView>(`/orders/${orderId}/plan`) });
export const useDesigns = () => useQuery({ queryKey: ['designs'], queryFn: () => api<DesignSummary[]>('/designs'), staleTime: 60_000 });

export function useSaveOrder(id?: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (input: OrderInput) => api<OrderView>(id ? `/orders/${id}` : '/orders', { method: id ? 'PUT' : 'POST', body: input }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
}

export function useRemoveOrder() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<void>(`/orders/${id}`, { method: 'DELETE' }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
}

export function useMakePlan(orderId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api<PlanView>(`/orders/${orderId}/plan`, { method: 'POST' }),
    onSuccess: (plan) => {
      client.setQueryData(['plan', orderId], plan);
      void client.invalidateQueries({ queryKey: ['orders'] });
    },
  });
}

export function useAddDesign() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (d: NewDesign) => api<DesignSummary>('/designs', { method: 'POST', body: d }),
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
