import type { EventPage } from '#contract/events.ts';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { phrase } from '../../words/phrase.ts';

/** How the lines of a date stand to those of its series, and how one is put back to what the series says; of no series, nothing. */
export function useSeriesLines(page: EventPage) {
  const params = { id: page.id };
  const { data } = useAsk('GET /api/events/:id/series', { params, enabled: page.seriesId !== null });
  const back = useAction('POST /api/events/:id/series/back', () => say(phrase('messages.asTheSeries')));
  const rows = data?.differs.find((d) => d.field === 'messages')?.rows;
  return {
    own: new Set(rows?.own),
    changed: new Set(rows?.changed),
    missing: rows?.missing ?? [],
    /** Takes a line as the series has it, by its id here, or in the series where it is missing here. */
    takeBack: (id: string) => back.mutate({ params, body: { fields: ['messages'], rows: [id] } }),
    busy: back.isPending,
    problem: back.problem,
  };
}
