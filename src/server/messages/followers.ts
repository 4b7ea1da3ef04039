import { maySee } from '#core/access/visitor.ts';
import { splitName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { titleFor } from '#core/events/french.ts';
import { shownToPublic } from '#core/events/states.ts';
import { linkMark } from '#core/messages/links.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { asVisitors } from '../contacts/visitor.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { planDirect } from './direct.ts';
import { followerRecipients } from './store.ts';

/** Somebody who was asked whether they want to hear of an event or a series, who does, or who wants no more of it. */
export interface FollowerRow {
  id: string;
  eventId: string | null;
  seriesId: string | null;
  contactId: string | null;
  name: string;
  email: string;
  language: 'en' | 'fr';
  state: 'asked' | 'follows' | 'out';
  since: string | null;
}
const columns = 'id, event_id, series_id, contact_id, name, email, language, state, since';

/** What is followed: one event, or every date of a series. */
export type Followed = Pick<FollowerRow, 'eventId' | 'seriesId'>;

/** An event, or the series it is a date of. */
export const followedOf = (
  event: { id: string; seriesId: string | null },
  of: 'event' | 'series',
): Followed =>
  of === 'series' && event.seriesId
    ? { eventId: null, seriesId: event.seriesId }
    : { eventId: event.id, seriesId: null };

export const readFollower = (tx: Queries, id: string, lock = false): Promise<FollowerRow | null> =>
  first<FollowerRow>(tx, `select ${columns} from followers where id = $1 ${lock ? 'for update' : ''}`, [id]);

/** The one row of somebody, by their record or by an address that nobody is known to have; made where there is none. */
async function rowOf(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  of: Followed,
  who: Pick<FollowerRow, 'contactId' | 'name' | 'email' | 'language'> & { zone?: string | null },
): Promise<FollowerRow> {
  const find = () =>
    first<FollowerRow>(
      w.tx,
      `select ${columns} from followers where coalesce(event_id, series_id) = $1
         and (contact_id = $2 or $2::uuid is null and lower(trim(email)) = $3)
       order by contact_id is null, id limit 1 for update`,
      [of.eventId ?? of.seriesId, who.contactId, emailKey(who.email)],
    );
  const known = await find();
  if (known) return known;
  const { eventId, seriesId } = of;
  const { contactId, name, email, language, zone = null } = who;
  // Asked twice at once, both find the same one.
  await insert(
    w.tx,
    'followers',
    {
      id: w.app.ids.id(),
      eventId,
      seriesId,
      contactId,
      name,
      email,
      language,
      zone,
      state: 'asked',
      askedAt: w.now,
      since: null,
      endedAt: null,
    },
    'on conflict do nothing',
  );
  return (await find())!;
}

/**
 * Asks an address whether it wants to hear of an event, or of its series. The same is done whether or not it follows already: who asks
 * learns nothing of it. Once a day to an address.
 */
export async function askToFollow(
  w: Work,
  event: EventRow,
  of: 'event' | 'series',
  who: Pick<FollowerRow, 'name' | 'email' | 'language'> & { zone?: string | null },
): Promise<void> {
  const { name, email, language, zone = null } = who;
  const { id } = await rowOf(w, followedOf(event, of), { name, email, language, zone, contactId: null });
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: 'follow',
    key: `follow:${id}:${w.now.slice(0, 10)}`,
    to: { name, email, contactId: null, language },
    eventId: null,
    reason: 'asked to hear of an event',
    values: { name: splitName(name).given || name, event: titleFor(event, language), organization },
    own: { follow_link: linkMark('follow', id) },
  });
}

/** Somebody who is asked by a link in a message: whether they want to hear of an event, or of its series. Answers their row. */
export const askedByLink = async (
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  event: EventRow,
  to: { contactId: string; name: string; language: 'en' | 'fr' },
): Promise<string> => (await rowOf(w, followedOf(event, 'series'), { ...to, email: '' })).id;

/** The event that stands for what is followed: itself, or the next date of the series that is shown, the last where none is to come. */
export async function shownFor(tx: Queries, of: Followed, now: string): Promise<EventRow> {
  if (of.eventId) return readEvent(tx, of.eventId);
  const date = await first<{ id: string }>(
    tx,
    `select id from events where series_id = $1 and state in ${among(shownToPublic)}
     order by (starts_at >= $2) is true desc, case when starts_at >= $2 then starts_at end, starts_at desc limit 1`,
    [of.seriesId, now],
  );
  if (!date) throw notFound('This series');
  return readEvent(tx, date.id);
}

/** Lines that go to those who follow are worked out anew: of the event, or of every date to come. */
async function changed(w: Work, of: Followed): Promise<void> {
  const events = of.eventId
    ? [{ id: of.eventId }]
    : await w.tx.query<{ id: string }>(
        'select id from events where series_id = $1 and (starts_at is null or starts_at >= $2) order by starts_at, id',
        [of.seriesId, w.now],
      );
  for (const { id } of events) await record(w, 'recipients changed', { eventId: id });
}

/** Sets how somebody stands to what they follow, from now on. */
export async function setStanding(w: Work, row: FollowerRow, state: 'follows' | 'out'): Promise<void> {
  if (row.state === state) return;
  await update(w.tx, 'followers', row.id, {
    state,
    ...(state === 'follows' ? { since: w.now, endedAt: null } : { endedAt: w.now }),
  });
  await changed(w, row);
}

/** Whoever follows by an address turned out to be somebody on record: their own row is the one from then on. */
export async function followAs(w: Work, row: FollowerRow, contactId: string): Promise<void> {
  // Two addresses of theirs, opened at once, wait for one another.
  await w.tx.query('select 1 from contacts where id = $1 for update', [contactId]);
  const theirs = await first<FollowerRow>(
    w.tx,
    `select ${columns} from followers where coalesce(event_id, series_id) = $1 and contact_id = $2 for update`,
    [row.eventId ?? row.seriesId, contactId],
  );
  if (!theirs) await update(w.tx, 'followers', row.id, { contactId });
  await setStanding(w, theirs ?? { ...row, contactId }, 'follows');
}

/** How somebody on record stands to what they could follow; null where nobody asked. */
export const standingOf = async (
  tx: Queries,
  of: Followed,
  contactId: string,
): Promise<FollowerRow['state'] | null> =>
  (
    await first<{ state: FollowerRow['state'] }>(
      tx,
      'select state from followers where coalesce(event_id, series_id) = $1 and contact_id = $2',
      [of.eventId ?? of.seriesId, contactId],
    )
  )?.state ?? null;

/** Somebody wants no more reminders of an event or a series, whether or not they follow it; or wants them again. */
export async function leave(
  w: Work,
  of: Followed,
  who: { contactId: string; name: string; language: 'en' | 'fr' },
  back: boolean,
): Promise<void> {
  if (back && (await standingOf(w.tx, of, who.contactId)) !== 'out') return;
  const row = await rowOf(w, of, { ...who, email: '' });
  if (!back) return setStanding(w, row, 'out');
  if (row.since) return setStanding(w, row, 'follows');
  // Who came as a registrant follows nothing by coming back: they are written to again as one.
  await w.tx.query('delete from followers where id = $1', [row.id]);
  await changed(w, of);
}

/** Somebody who follows an event, with what keeps it from them. */
export type Following = Awaited<ReturnType<typeof followerRecipients>>[number] & {
  /** The event is not shown to them. */
  hidden: Reason | null;
};

/**
 * Those who follow an event or its series. Nobody hears of a date that is not open yet, nor of one that is for others: members are those
 * whose membership holds on its day.
 */
export async function followersOf(
  tx: Queries,
  event: EventRow,
  only: { orderId: string | null; followerId: string | null } = { orderId: null, followerId: null },
): Promise<Following[]> {
  const rows = await followerRecipients(tx, event.id, only);
  if (!shownToPublic.includes(event.state))
    return rows.map((row) => ({ ...row, hidden: because('not open yet') }));
  const visitors = await asVisitors(
    tx,
    event.visibility === 'everyone' || event.visibility === 'link' ? [] : rows.map((r) => r.contactId!),
  );
  const day = event.startsLocal?.slice(0, 10) ?? dateOf(event.createdAt, event.zone);
  return rows.map((row) => ({
    ...row,
    hidden: maySee(event, visitors.get(row.contactId!) ?? null, day) ? null : because('not shown to them'),
  }));
}
