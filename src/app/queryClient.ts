import { QueryClient } from '@tanstack/react-query';

/** Everything is read from this browser's own database: no retries, no refetching by focus. */
export const queryClient = new QueryClient({
  defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false, staleTime: Number.POSITIVE_INFINITY, networkMode: 'always' }, mutations: { networkMode: 'always' } },
});
