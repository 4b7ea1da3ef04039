import type { ConsentTopic } from '#core/contacts/consent.ts';
import type { MailingTopic } from '#core/messages/mailing.ts';
import { followLink, type Work } from '../app/app.ts';
import { writeConsent } from '../contacts/commands.ts';
import { lastWord } from '../contacts/quiet.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';
import { type Followed, followedOf, leave, standingOf } from './followers.ts';

/** What the way out of a message leads out of: a topic, or the reminders of an event, of a series those of all its dates. */
export type WayOut = { contactId: string; name: string; language: 'en' | 'fr' } & (
  | { of: 'topic'; topic: ConsentTopic }
  | { of: 'event'; eventId: string; followed: Followed }
);

interface Sent {
  contactId: string | null;
  eventId: string | null;
  seriesId: string | null;
  name: string;
  language: 'en' | 'fr';
  topic: MailingTopic | null;
}

/** The way out of a message; null where it has none. */
async function wayOutOf(tx: Queries, messageId: string): Promise<WayOut | null> {
  const sent = await first<Sent>(
    tx,
    `select m.contact_id, m.event_id, m.name, m.language, coalesce(g.topic, l.topic) as topic, e.series_id from messages m
       left join mailings g on g.id = m.mailing_id left join message_lines l on l.id = m.line_id left join events e on e.id = m.event_id where m.id = $1`,
    [messageId],
  );
  if (!sent?.contactId) return null;
  const { contactId, topic, eventId, seriesId, name, language } = sent;
  const who = { contactId, name, language };
  if (topic) return topic === 'notice' ? null : { ...who, of: 'topic', topic };
  if (!eventId) return null;
  return { ...who, of: 'event', eventId, followed: followedOf({ id: eventId, seriesId }, 'series') };
}

/** The way out that a link opens; throws 404. */
export async function wayOutBy(tx: Queries, token: string): Promise<WayOut> {
  const id = await followLink(tx, 'out', token);
  const out = id && (await wayOutOf(tx, id));
  if (!out) throw notFound('This link');
  return out;
}

/** Whether somebody went out by it already. */
export async function isOut(tx: Queries, out: WayOut): Promise<boolean> {
  if (out.of === 'event') return (await standingOf(tx, out.followed, out.contactId)) === 'out';
  const last = await first<{ granted: boolean | null }>(tx, `select ${lastWord('$1', '$2')} as granted`, [
    out.contactId,
    out.topic,
  ]);
  return last?.granted === false;
}

/** Takes somebody out of it, or back in; asked again, it stays as it is. `how`: where they said so. */
export async function goOut(w: Work, out: WayOut, back: boolean, how: string): Promise<void> {
  if (out.of === 'event') return leave(w, out.followed, out, back);
  if ((await isOut(w.tx, out)) !== back) return;
  await writeConsent(w, out.contactId, { topic: out.topic, channel: 'email', granted: back }, how);
}

/** The same for a message of which it was said elsewhere that they want no more. */
export async function goOutOf(w: Work, messageId: string, how: string): Promise<void> {
  const out = await wayOutOf(w.tx, messageId);
  if (out) await goOut(w, out, false, how);
}
