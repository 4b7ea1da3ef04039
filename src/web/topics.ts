import type { QueryClient } from '@tanstack/react-query';
import { changesOf, readsOf, type Topic } from '#contract/topics.ts';
import type { Key } from './api.ts';

/**
 * Asks anew what is about the topics. A query that says nothing of itself is always asked. What is being asked already is
 * not asked twice, unless it may have been answered before the change.
 */
export const askAnew = (client: QueryClient, changed: readonly Topic[], again = true): Promise<void> =>
  changed.length === 0
    ? Promise.resolve()
    : client.invalidateQueries(
        {
          predicate: ({ meta }) => {
            const key = meta?.key as Key | undefined;
            return !key || readsOf(key).some((topic) => changed.includes(topic));
          },
        },
        { cancelRefetch: again },
      );

/** The same for what a request changed. */
export const askAnewAfter = (client: QueryClient, key: Key): Promise<void> => askAnew(client, changesOf(key));
