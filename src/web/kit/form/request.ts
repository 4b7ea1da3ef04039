import type { z } from 'zod';
import type { Endpoint } from '#contract/endpoint.ts';
import { changesOf, type Topic } from '#contract/topics.ts';
import { type FieldProblem, fieldProblems } from '#contract/wrong.ts';
import { type Answer, call, type Key } from '#web/api.ts';

type Sent<K extends Key> = Parameters<typeof call<K>>[1];

/** A request made ready: what its contract says of it, and how it is sent. */
export interface Prepared<A> {
  /** Its contents; the same contents are one request, however often they are sent. */
  contents: string;
  /** What it changes. */
  changes: readonly Topic[];
  problems(): FieldProblem[];
  send(idempotencyKey: string): Promise<A>;
}

/** Makes a request to an endpoint ready, by the contract its word has. */
export function prepare<C extends Record<string, Endpoint>, K extends keyof C & Key>(
  contract: C,
  key: K,
  sent: Sent<K>,
): Prepared<Answer<K>> {
  const { body } = (sent ?? {}) as { body?: unknown };
  const schema = contract[key]!.body as z.ZodType | undefined;
  return {
    contents: `${key} ${JSON.stringify(sent)}`,
    changes: changesOf(key),
    problems: () => {
      const read = schema?.safeParse(body);
      return !read || read.success ? [] : fieldProblems(read.error.issues);
    },
    send: (idempotencyKey) => call(key, sent, key.startsWith('POST') ? idempotencyKey : undefined),
  };
}
