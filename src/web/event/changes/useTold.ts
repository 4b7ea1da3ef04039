import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { ApiProblem } from '#web/api.ts';

/** Milliseconds without a change after which it is worked out again what follows. */
const pause = 350;

/**
 * What something would bring about, as it is put together: asked once nothing changed for a moment; what was known before stays in
 * sight while it is worked out anew.
 */
export function useTold<B extends object, T>(
  /** What it is about. */
  of: readonly string[],
  body: B,
  ask: (body: B) => Promise<T>,
  /** Nothing is asked while it is being saved, or where there is nothing to ask. */
  resting: boolean,
) {
  const wanted = JSON.stringify(body);
  const [asked, setAsked] = useState(resting ? null : wanted);
  useEffect(() => {
    // What was put together while nothing was asked is not asked either.
    if (resting) return setAsked(null);
    const timer = setTimeout(() => setAsked(wanted), pause);
    return () => clearTimeout(timer);
  }, [wanted, resting]);
  const answer = useQuery<T>({
    queryKey: ['what-if', ...of, asked],
    queryFn: () => ask(JSON.parse(asked!) as B),
    placeholderData: keepPreviousData,
    // What is being saved is not tried again on top of itself.
    enabled: !resting && asked !== null,
    gcTime: 0,
    retry: false,
  });
  return {
    told: answer.data ?? null,
    busy: answer.isFetching || asked !== wanted,
    problem: answer.error instanceof ApiProblem ? answer.error : null,
  };
}
