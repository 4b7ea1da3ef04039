import { emailKey, isEmail } from '#core/contacts/reach.ts';
import { undelivered } from '#core/messages/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { changeContact } from '../contacts/commands.ts';
import { readContact } from '../contacts/store.ts';
import { first } from '../db/database.ts';
import { invalid, notFound, refused } from '../http/problem.ts';

/**
 * Tries a message once more, now: one that failed, or one that came back, which goes to another address. That one is whoever it is of
 * has from then on, before those they had.
 */
export async function retry(w: Work, id: string, email: string | null): Promise<void> {
  const message = await first<{
    state: (typeof undelivered)[number];
    contactId: string | null;
    address: string | null;
    channel: string;
  }>(w.tx, 'select state, contact_id, address, channel from messages where id = $1 for update', [id]);
  if (!message) throw notFound('This message');
  const { state, contactId, address, channel } = message;
  if (!undelivered.includes(state)) throw refused('not-failed', { state });
  if (email !== null && (channel !== 'email' || !isEmail(email)))
    throw invalid([{ path: 'email', code: 'not-an-email' }]);
  const other = email !== null && emailKey(email) !== emailKey(address ?? '');
  if (state === 'bounced' && !other) throw invalid([{ path: 'email', code: 'bounced-there' }]);
  if (other && contactId) {
    const contact = await readContact(w.tx, contactId);
    const before = (contact?.emails ?? []).filter((e) => emailKey(e.email) !== emailKey(email));
    await changeContact(w, contactId, {
      emails: [
        { email, kind: '', endedOn: null },
        ...before.map((e) => ({ email: e.email, kind: e.kind, endedOn: e.endedOn })),
      ],
    });
  }
  await w.tx.query(
    `update messages set state = 'failed', next_try_at = $2, why_not = null, address = coalesce($3, address),
       readdressed = readdressed + $4 where id = $1`,
    [id, w.now, other ? email : null, other ? 1 : 0],
  );
  await record(w, 'message tried again', { messageId: id });
  if (!other || !contactId) return;
  // What was held back because nothing reached them goes out after all.
  const events = await w.tx.query<{ id: string }>(
    `select distinct event_id as id from messages where contact_id = $1 and line_id is not null and event_id is not null
       and (state = 'planned' or state = 'held back' and planned_for > $2) order by 1`,
    [contactId, w.now],
  );
  for (const event of events) await record(w, 'recipients changed', { eventId: event.id });
}
