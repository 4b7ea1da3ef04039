import type { Answer } from '#web/api.ts';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

/** What an event changed, as it is shown. */
export type Shown = Answer<'GET /api/events/:id/outcomes'>;

/** Counts tallies, or sets them aside. */
export const useDeciding = () =>
  useAction('POST /api/events/:id/tallies/decided', ({ changed }, sent) =>
    say(phrase(sent?.body?.state === 'set aside' ? 'outcomes.asideNow' : 'outcomes.counted', { n: changed })),
  );
