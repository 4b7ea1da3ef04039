import { emailKey } from '#core/contacts/reach.ts';
import { because } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, update } from '../db/database.ts';
import { goOutOf } from './wayOut.ts';

/** What a mail service tells of a mail it took: nobody has the address, or whoever got it complained. */
export type CameBack = 'bounced' | 'complained';

/**
 * A mail came back. An address that nobody has is noted with whoever it was of, so that nothing more is sent there and what was planned
 * goes to another of theirs, or says why not; who complained is out of what it was one of. Told twice, it counts once.
 */
export async function cameBack(w: Work, messageId: string, how: CameBack, words: string): Promise<void> {
  const message = await first<{
    state: string;
    contactId: string | null;
    address: string | null;
    eventId: string | null;
  }>(w.tx, 'select state, contact_id, address, event_id from messages where id = $1 for update', [messageId]);
  if (!message) return;
  if (how === 'complained') {
    await goOutOf(w, messageId, 'complained to their mail service');
    await record(w, 'mail complained of', {
      messageId,
      contactId: message.contactId,
      eventId: message.eventId,
    });
    return;
  }
  if (message.state === 'bounced') return;
  await update(w.tx, 'messages', messageId, {
    state: 'bounced',
    nextTryAt: null,
    whyNot: because('bounced', { words: words.slice(0, 300) }),
  });
  const key = emailKey(message.address ?? '');
  // Nobody has it: nor do those who share it.
  if (key)
    await w.tx.query('update contact_emails set bounced_at = coalesce(bounced_at, $2) where email_key = $1', [
      key,
      w.now,
    ]);
  await record(w, 'mail bounced', {
    messageId,
    contactId: message.contactId,
    eventId: message.eventId,
    address: message.address ?? '',
  });
  const events = await w.tx.query<{ id: string }>(
    `select distinct event_id as id from messages where state = 'planned' and line_id is not null and event_id is not null
       and contact_id in (select contact_id from contact_emails where email_key = $1) order by 1`,
    [key],
  );
  for (const { id } of events) await record(w, 'recipients changed', { eventId: id });
}
