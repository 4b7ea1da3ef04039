import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BodyOf } from '#contract/endpoint.ts';
import type { Everything } from '#contract/index.ts';
import { ApiProblem, call, type Key } from '#web/api.ts';
import { askAnewAfter } from '#web/topics.ts';

/** Does something on somebody's own page of shifts, and asks anew what it changed, also where it was refused. */
export function useOwnAct<K extends Extract<Key, `POST /api/public/crew/:token/${string}`>>(
  key: K,
  token: string,
) {
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: (body: BodyOf<Everything[K]>) => call(key, { params: { token }, body } as never),
    onSettled: () => askAnewAfter(client, key),
  });
  return { ...act, problem: act.error instanceof ApiProblem ? act.error : null };
}
