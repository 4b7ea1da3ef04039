import type { Channel } from '#core/messages/channels.ts';
import type { Doc } from '#core/text/types.ts';
import type { Reason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { insert } from '../db/database.ts';

/** A message as it is put out: by a line of a plan, as the answer to something, or to many. */
export interface Outgoing {
  eventId: string | null;
  lineId?: string | null;
  channel?: Channel;
  mailingId?: string | null;
  /** What it is about: the same key is put out once. */
  recipientKey: string;
  kind: string;
  contactId: string | null;
  name: string;
  address: string | null;
  language: 'en' | 'fr';
  /** Why it is there. */
  reason: string;
  /** When it goes out. */
  at: string;
  /** Why nothing is sent; it is kept all the same, so that everybody sees why. */
  whyNot?: Reason | null;
  /** The text where it is known already; a line's is filled in as it leaves. */
  subject?: string | null;
  body?: string | null;
  preview?: string;
  /** The same formatted; null where it is plain. */
  formatted?: Doc | null;
  /** A calendar file that goes with it. */
  calendar?: string | null;
  /** Whether the calendar file of its change goes with it. */
  brings?: boolean;
}

/** Puts messages out: rows that the runner sends when they are due. What was put out under its key before stays as it is. */
export async function putOut(
  w: Pick<Work, 'tx' | 'app' | 'now' | 'change'>,
  messages: readonly Outgoing[],
): Promise<void> {
  await insert(
    w.tx,
    'messages',
    messages.map(({ at: wanted, whyNot = null, ...message }) => {
      // What a change brings about waits with its letters, as long as the change can be taken back.
      const waits = w.change && !message.lineId && wanted <= w.change.lettersAt ? w.change : null;
      const at = waits?.lettersAt ?? wanted;
      return {
        id: w.app.ids.id(),
        ...message,
        changeId: waits?.id ?? null,
        calendar: message.calendar ?? null,
        brings: message.brings ?? false,
        lineId: message.lineId ?? null,
        channel: message.channel ?? 'email',
        mailingId: message.mailingId ?? null,
        state: whyNot ? 'held back' : 'planned',
        whyNot,
        plannedFor: at,
        nextTryAt: whyNot ? null : at,
        subject: message.subject ?? null,
        body: message.body ?? null,
        preview: message.preview ?? '',
        formatted: message.formatted ?? null,
        attempts: 0,
        createdAt: w.now,
      };
    }),
    'on conflict do nothing',
  );
}
