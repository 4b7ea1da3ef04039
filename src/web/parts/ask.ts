import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { about } from '#web/about.ts';
import { type Answer, ApiProblem, addressOf, call, type Key } from '#web/api.ts';
import { askAnewAfter } from '#web/topics.ts';

interface Asking<A> {
  params?: Record<string, string>;
  query?: Record<string, unknown>;
  enabled?: boolean;
  /** How often it is asked anew by itself; by what was answered, as long as work is under way. */
  everyMs?: number | undefined | ((answer: A | undefined) => number | undefined);
}

/** At the doors it goes on without a network. */
const isAtDoors = (): boolean => location.pathname.startsWith('/doors');

async function askFor<K extends Key>(
  key: K,
  sent: { params?: Record<string, string> | undefined; query?: Record<string, unknown> | undefined },
): Promise<Answer<K>> {
  if (isAtDoors()) {
    const { askOrTaken, isTakenAlong } = await import('../door/taken.ts');
    if (isTakenAlong(key)) return askOrTaken(key, sent);
  }
  return call(key, sent as never);
}

/** Asks an endpoint and keeps the answer; it is asked again when something it is about was changed. */
export function useAsk<K extends Key>(
  key: K,
  { params, query, enabled = true, everyMs }: Asking<Answer<K>> = {},
) {
  return useQuery<Answer<K>>({
    queryKey: [addressOf(key, params, query)],
    queryFn: () => askFor(key, { params, query }),
    meta: about(key),
    enabled,
    // Without a network, what was taken along is asked.
    ...(isAtDoors() && { networkMode: 'always' as const }),
    refetchInterval: ({ state: { data } }) =>
      (typeof everyMs === 'function' ? everyMs(data) : everyMs) ?? false,
    placeholderData: (before) => before,
  });
}

/** Asks ahead, as when somebody points at where they may go next; what was just asked is not asked again. */
export function useAhead() {
  const client = useQueryClient();
  return <K extends Key>(key: K, { params, query }: Pick<Asking<never>, 'params' | 'query'> = {}): void => {
    void client.prefetchQuery({
      queryKey: [addressOf(key, params, query)],
      queryFn: () => call(key, { params, query } as never),
      meta: about(key),
      staleTime: 5_000,
    });
  };
}

type Sent<K extends Key> = Parameters<typeof call<K>>[1];

/** Does a write; what it changed is asked again afterwards. Creates carry a key, so that a repeat is done once. */
export function useAction<K extends Key>(key: K, after?: (answer: Answer<K>, sent: Sent<K>) => void) {
  const client = useQueryClient();
  const mutation = useMutation<Answer<K>, Error, Sent<K>>({
    // Without a network it is said at once that there is none, rather than waiting for one.
    networkMode: 'always',
    mutationFn: (sent) =>
      call(key, sent, (key as string).startsWith('POST') ? crypto.randomUUID() : undefined),
    onSuccess: async (answer, sent) => {
      await askAnewAfter(client, key);
      after?.(answer, sent);
    },
  });
  return { ...mutation, problem: mutation.error instanceof ApiProblem ? mutation.error : null };
}

export const useMe = () => useAsk('GET /api/me');

/** True for those who may change contacts. */
export const useMayChangeContacts = (): boolean =>
  useMe().data?.staff.roles.some((r) => r === 'coordinator' || r === 'crew lead') ?? false;
