import { useQuery } from '@tanstack/react-query';
import { about } from '#web/about.ts';
import { type Answer, addressOf, call, type Key } from '#web/api.ts';

/** What the server put into the page, by address; used once, so that a page shows something before it asks. */
const initial: Record<string, unknown> = JSON.parse(document.getElementById('initial')?.textContent ?? '{}');

/** Asks an endpoint and keeps the answer fresh while the page is open. */
export function useAsk<K extends Key>(
  key: K,
  params: Record<string, string> = {},
  options: { everyMs?: number; query?: Record<string, unknown> } = {},
) {
  const { query } = options;
  const address = addressOf(key, params, query);
  return useQuery<Answer<K>>({
    queryKey: [address],
    queryFn: () => call(key, { params, query } as never),
    // While something else is asked for, what was there stays.
    placeholderData: (before) => (query ? before : undefined),
    meta: about(key),
    initialData: initial[`GET ${address}`] as Answer<K> | undefined,
    initialDataUpdatedAt: Date.now() - 4_000,
    refetchInterval: options.everyMs ?? false,
    refetchOnMount: 'always',
  });
}

/** The organization and its clock. */
export const useFrame = () => useAsk('GET /api/public/frame');
