import { type Been, suiting } from '#core/events/suiting.ts';
import type { MergeValues } from '#core/messages/merge.ts';
import type { Work } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { sayWhen } from '../events/saying.ts';
import { openToAll } from '../registration/listing.ts';

/** What somebody came to or had a seat for until now. */
const readBeen = (tx: Queries, contactId: string, now: string): Promise<Been[]> =>
  tx.query<Been>(
    `select e.first_of, e.category, e.unit_id, e.starts_local, p.attended as came
     from participation p join events e on e.id = p.event_id
     where p.contact_id = $1 and e.starts_at <= $2 order by e.starts_at desc limit 200`,
    [contactId, now],
  );

/** The events to come that somebody has a seat at already. */
const seatsAhead = async (tx: Queries, contactId: string, now: string): Promise<ReadonlySet<string>> =>
  new Set(
    (
      await tx.query<{ eventId: string }>(
        `select r.event_id from registrations r join events e on e.id = r.event_id
         where r.contact_id = $1 and e.starts_at > $2 and r.state not in ('withdrawn', 'declined', 'lapsed')`,
        [contactId, now],
      )
    ).map((r) => r.eventId),
  );

/** The next date that suits somebody by their history, among those everybody can register for and where they have no seat; nothing where none does. */
export async function suitingEvent(
  { tx, app, now }: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  language: 'en' | 'fr',
): Promise<Pick<MergeValues, 'next_event' | 'next_event_link'>> {
  const has = await seatsAhead(tx, contactId, now);
  const open = (await openToAll(tx, now)).filter((e) => !has.has(e.id));
  const next = suiting(open, await readBeen(tx, contactId, now), now);
  const event = next && open.find((e) => e.id === next.id);
  if (!event) return {};
  const title = (language === 'fr' && event.french?.title) || event.title;
  return {
    next_event: `${title}, ${sayWhen(event, language)}`,
    next_event_link: `${app.origin}/e/${event.slug}`,
  };
}
