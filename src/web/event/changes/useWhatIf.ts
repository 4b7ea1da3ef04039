import type { WhatIf } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import { follows } from '#core/events/consequences.ts';
import { call } from '#web/api.ts';
import { changeOf, type Doing, type Settled, settleOf } from './settling.ts';
import { useTold } from './useTold.ts';

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
    change: changeOf(doing, settled, page.plan),
    settle: settleOf(settled),
  };
  return useTold(
    [page.id],
    body,
    (asked) => call('POST /api/events/:id/what-if', { params: { id: page.id }, body: asked }),
    resting,
  );
}

/** True where nothing follows that anybody has to see first. */
export const isQuiet = (told: WhatIf): boolean =>
  !follows(told.followed) &&
  !told.letters.some((l) => l.told && l.count > 0) &&
  !told.over &&
  [told.atTwoThings, told.ages, told.passed, told.odds].every((of) => of.length === 0);
