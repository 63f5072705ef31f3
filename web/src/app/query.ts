import { QueryClient } from '@tanstack/react-query';
import { ApiFailure } from '../api/client.js';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      // What the server refused will be refused again; only a lost connection is worth another try.
      retry: (count, error) => !(error instanceof ApiFailure && error.status > 0) && count < 3,
      staleTime: 5_000,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
});
