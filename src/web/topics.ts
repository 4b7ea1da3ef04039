import type { QueryClient } from '@tanstack/react-query';
import { changesOf, readsOf, type Topic } from '#contract/topics.ts';
import type { Key } from './api.ts';

/**
 * Asks anew what is about the topics. A query that says nothing of itself is always asked. What is being asked already is asked once
 * more: it may have been answered before the change.
 */
export const askAnew = (client: QueryClient, changed: readonly Topic[]): Promise<void> =>
  changed.length === 0
    ? Promise.resolve()
    : client.invalidateQueries({
        predicate: ({ meta }) => {
          const key = meta?.key as Key | undefined;
          return !key || readsOf(key).some((topic) => changed.includes(topic));
        },
      });

/**
 * What to do on every sign that something about the topics changed: it is asked anew, one round after the other. Signs that come while
 * a round is asked make one more.
 */
export function makeAsking(client: QueryClient, topics: readonly Topic[]): () => void {
  let asking = false;
  let more = false;
  const rounds = async () => {
    asking = true;
    while (more) {
      more = false;
      await askAnew(client, topics);
    }
    asking = false;
  };
  return () => {
    more = true;
    if (!asking) void rounds();
  };
}

/** The same for what a request changed. */
export const askAnewAfter = (client: QueryClient, key: Key): Promise<void> => askAnew(client, changesOf(key));
