import type { QuietReason } from '#core/contacts/quiet.ts';
import { emailKey, isEmail } from '#core/contacts/reach.ts';
import type { MergeValues } from '#core/messages/merge.ts';
import { fillSaid, saidIn } from '#core/messages/said.ts';
import type { DirectKind } from '#core/messages/texts.ts';
import { sayLongDate, sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { because } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { emailOf, whyQuiet } from '../contacts/quiet.ts';
import { first } from '../db/database.ts';
import { textOfLetter } from './letterTexts.ts';
import { putOut } from './outbox.ts';

export interface DirectMessage {
  kind: DirectKind;
  /** What it answers; the same key is planned once. */
  key: string;
  to: { name: string; email: string | null; contactId: string | null; language: 'en' | 'fr' };
  eventId: string | null;
  reason: string;
  values: MergeValues;
  /** Fields of this message alone. */
  own?: Readonly<Record<string, string>>;
  until?: { at: string; zone: string } | undefined;
  /** When it goes, where it can wait. */
  at?: string;
}

/** Plans a message that answers something that just happened; it is due at once where nothing else is said. Who asked not to be contacted gets none. */
export async function planDirect(
  w: Pick<Work, 'tx' | 'app' | 'now' | 'change'>,
  message: DirectMessage,
): Promise<void> {
  const { to, values, until } = message;
  const text = saidIn(await textOfLetter(w.tx, message.kind), to.language);
  const quiet = to.contactId
    ? await first<{ why: QuietReason | null; gone: boolean; email: string | null }>(
        w.tx,
        `select ${whyQuiet('c')} as why, ${emailOf('c.id')} as email, exists (select 1 from contact_emails
           where contact_id = c.id and email_key = $2 and (bounced_at is not null or ended_on is not null)) as gone
         from contacts c where id = $1`,
        [to.contactId, emailKey(to.email ?? '')],
      )
    : null;
  // An address that is no longer theirs gives way to the one that is.
  const address = quiet?.gone ? quiet.email : to.email;
  const whyNot = quiet?.why ? because(quiet.why) : address && isEmail(address) ? null : because('no address');
  const wall = until ? wallOf(until.at, until.zone) : null;
  const filled = {
    ...values,
    ...(wall ? { until: `${sayLongDate(wall, to.language)}, ${sayTime(wall, to.language)}` } : {}),
  };
  await putOut(w, [
    {
      eventId: message.eventId,
      recipientKey: message.key,
      kind: message.kind,
      contactId: to.contactId,
      name: to.name,
      address,
      language: to.language,
      reason: message.reason,
      at: message.at ?? w.now,
      whyNot,
      ...fillSaid(text, filled, { own: message.own }),
    },
  ]);
}
