import type { EventPage } from '#contract/events.ts';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { phrase } from '../../words/phrase.ts';

const words = {
  series: {
    own: phrase('messages.onlyThisDate'),
    changed: phrase('messages.notAsSeries'),
    take: phrase('messages.asSeries'),
    missing: phrase('messages.notOnThisDate'),
  },
  template: {
    own: phrase('messages.onlyThisEvent'),
    changed: phrase('messages.notAsTemplate'),
    take: phrase('messages.asTemplate'),
    missing: phrase('messages.notInThisEvent'),
  },
};

/**
 * How the lines of an event stand to those they came from: of a date to its series, else to the template it was made from; and how one
 * is put back to what that says. Of neither, nothing.
 */
export function useInherited(page: EventPage) {
  const params = { id: page.id };
  const isDate = page.seriesId !== null;
  const series = useAsk('GET /api/events/:id/series', { params, enabled: isDate });
  const template = useAsk('GET /api/events/:id/messages/template', { params, enabled: !isDate });
  const toSeries = useAction('POST /api/events/:id/series/back', () => say(phrase('messages.asTheSeries')));
  const toTemplate = useAction('POST /api/events/:id/messages/template', () =>
    say(phrase('messages.asTheTemplate')),
  );
  const rows = isDate
    ? series.data?.differs.find((d) => d.field === 'messages')?.rows
    : (template.data ?? undefined);
  return {
    words: isDate ? words.series : words.template,
    own: new Set(rows?.own),
    changed: new Set(rows?.changed),
    missing: rows?.missing ?? [],
    /** Takes a line as it is where it came from, by its id here, or there where it is missing here. */
    takeBack: (id: string) =>
      isDate
        ? toSeries.mutate({ params, body: { fields: ['messages'], rows: [id] } })
        : toTemplate.mutate({ params, body: { rows: [id] } }),
    busy: toSeries.isPending || toTemplate.isPending,
    problem: toSeries.problem ?? toTemplate.problem,
  };
}
