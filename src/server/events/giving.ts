import type { Texts } from '#core/messages/texts.ts';
import type { Queries } from '../db/database.ts';

/** Pages of an event where one can give without coming, as far as gifts are taken there on a day. */
export const givingOf = (tx: Queries, eventId: string, today: string) =>
  tx.query<{ slug: string; title: Texts; goal: number | null; currency: string; given: number }>(
    `select p.slug, p.title, p.goal, p.currency, (select coalesce(sum(g.received), 0)::bigint from gifts g where g.page_id = p.id) as given
     from giving_pages p where p.event_id = $1 and p.open and (p.until_on is null or p.until_on >= $2) order by p.created_at`,
    [eventId, today],
  );
