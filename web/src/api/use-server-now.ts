import type { HealthView } from '@kestfog/core/wire';
import { useQuery } from '@tanstack/react-query';
import { api } from './client.js';

const clockQuery = { queryKey: ['server-clock'], queryFn: () => api<HealthView>('/health'), staleTime: 60_000 };

/** The server's time as of this drawing, which may be a simulated one; null while it is not known. */
export function useServerNowMs(): number | null {
  const { data, dataUpdatedAt } = useQuery(clockQuery);
  return data ? data.nowMs + (Date.now() - dataUpdatedAt) * data.speed : null;
}

/** The time to begin something new with: the server's, or this device's own where the server does not answer; null for a moment before. */
export function useTodayMs(): number | null {
  const nowMs = useServerNowMs();
  const { isError, fetchStatus } = useQuery(clockQuery);
  return nowMs ?? (isError || fetchStatus === 'paused' ? Date.now() : null);
}
