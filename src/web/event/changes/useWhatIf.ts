import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { WhatIf } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import { follows } from '#core/events/consequences.ts';
import { type Answer, ApiProblem, call } from '#web/api.ts';
import { changeOf, type Doing, type Settled, settleOf } from './settling.ts';

/** Milliseconds without a change after which it is worked out again what follows. */
const pause = 350;

/** What a change brings about, as things are settled now; what was known before stays in sight while it is worked out anew. */
export function useWhatIf(
  page: EventPage,
  doing: Doing,
  settled: Settled,
  /** Nothing is asked while it is being saved, or where there is nothing to ask. */
  resting: boolean,
) {
  const body = {
    ...('move' in doing ? { move: doing.move } : { version: doing.version }),
    change: changeOf(doing, settled),
    settle: settleOf(settled),
  };
  const wanted = JSON.stringify(body);
  const [asked, setAsked] = useState(wanted);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(wanted), pause);
    return () => clearTimeout(timer);
  }, [wanted]);
  const answer = useQuery<Answer<'POST /api/events/:id/what-if'>>({
    queryKey: ['what-if', page.id, asked],
    queryFn: () =>
      call('POST /api/events/:id/what-if', {
        params: { id: page.id },
        body: JSON.parse(asked) as typeof body,
      }),
    placeholderData: keepPreviousData,
    // What is being saved is not tried again on top of itself.
    enabled: !resting,
    gcTime: 0,
    retry: false,
  });
  return {
    told: answer.data ?? null,
    busy: answer.isFetching || asked !== wanted,
    problem: answer.error instanceof ApiProblem ? answer.error : null,
  };
}

/** True where nothing follows that anybody has to see first. */
export const isQuiet = (told: WhatIf): boolean =>
  !follows(told.followed) &&
  !told.letters.some((l) => l.told && l.count > 0) &&
  !told.over &&
  [told.atTwoThings, told.ages, told.passed, told.odds].every((of) => of.length === 0);
