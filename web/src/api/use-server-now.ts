import type { HealthView } from '@kestfog/core/wire';
import { useQuery } from '@tanstack/react-query';
import { api } from './client.js';

/** The server's time as of this drawing, which may be a simulated one; null while it is not known. */
export function useServerNowMs(): number | null {
  const { data, dataUpdatedAt } = useQuery({ queryKey: ['server-clock'], queryFn: () => api<HealthView>('/health'), staleTime: 60_000 });
  return data ? data.nowMs + (Date.now() - dataUpdatedAt) * data.speed : null;
}
