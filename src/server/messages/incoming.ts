import { timingSafeEqual } from 'node:crypto';
import type { Incoming, incomingContract } from '#contract/incoming.ts';
import { type MessageReach, messagesSeen } from '#core/access/messages.ts';
import { splitName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import {
  isAutomatic,
  type MailHeaders,
  mostOfReply,
  ownWords,
  replyAddress,
  replyTokenIn,
} from '#core/messages/incoming.ts';
import { withoutMarks } from '#core/messages/links.ts';
import { oneLine } from '#core/words/text.ts';
import type { Asker, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { replyToken } from '../db/ids.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { planDirect } from './direct.ts';
import { reachParams, reachSql } from './tray.ts';

/** A mail as a mail service hands it on. */
export interface InMail {
  /** Where it was sent. */
  to: string;
  from: string;
  subject: string;
  text: string;
  headers: MailHeaders;
}

/** Replies to one message that are kept: what comes after them is a machine, or somebody who should call. */
const mostReplies = 50;

/** The message an address for replies is of; null where it was made up or altered. */
function messageOf(w: Work, to: string): string | null {
  const token = replyTokenIn(to);
  if (!token) return null;
  const hex = token.slice(0, 32);
  const id = `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
  return timingSafeEqual(Buffer.from(replyToken(w.app.secret, id)), Buffer.from(token)) ? id : null;
}

/** Takes in a mail that came for an address for replies, once. Nothing is ever sent back by itself. Answers whether it was taken. */
export async function takeReply(w: Work, mail: InMail): Promise<boolean> {
  const messageId = messageOf(w, mail.to);
  const identity = mail.headers['message-id']?.slice(0, 300) ?? null;
  const message =
    messageId &&
    (await first<{
      id: string;
      eventId: string | null;
      contactId: string | null;
      name: string;
      language: 'en' | 'fr';
      replies: number;
      known: boolean;
    }>(
      w.tx,
      `select id, event_id, contact_id, name, language, (select count(*)::int from incoming where message_id = m.id) as replies,
         exists (select 1 from incoming where message_id = m.id and identity = $2) as known
       from messages m where id = $1 and state in ('sent', 'bounced') and address is not null for update`,
      [messageId, identity],
    ));
  if (!message) return false;
  if (message.known) return true;
  if (message.replies >= mostReplies) return false;
  const automatic = isAutomatic(mail.headers);
  const words = withoutMarks(ownWords(mail.text));
  await insert(w.tx, 'incoming', {
    id: w.app.ids.id(),
    messageId: message.id,
    eventId: message.eventId,
    contactId: message.contactId,
    name: message.name,
    address: oneLine(mail.from).slice(0, 254),
    language: message.language,
    subject: oneLine(mail.subject).slice(0, 300),
    words,
    automatic,
    identity,
    cameAt: w.now,
    // Nobody answers a machine.
    settledAt: automatic ? w.now : null,
  });
  await record(w, 'something came in', { eventId: message.eventId, name: message.name, words, automatic });
  return true;
}

/** Keeps a question from the page of an event, so that whoever may answer sees that it waits. */
export const keepQuestion = (
  w: Work,
  eventId: string,
  asked: { name: string; email: string; words: string },
): Promise<unknown> =>
  insert(w.tx, 'incoming', {
    id: w.app.ids.id(),
    eventId,
    name: asked.name,
    address: asked.email,
    words: asked.words.slice(0, mostOfReply),
    cameAt: w.now,
  });

const from = `from incoming i left join messages m on m.id = i.message_id left join message_lines s on s.id = m.line_id
  left join events e on e.id = i.event_id`;

type Row = Incoming & { language: 'en' | 'fr'; sentTo: string | null };
const columns = `i.id, case when i.message_id is null then 'question' else 'reply' end as what, i.message_id, i.event_id, e.public_title as event,
  i.contact_id, i.name, i.address, i.message_id is not null and lower(trim(m.address)) is distinct from lower(trim(i.address)) as elsewhere,
  i.subject, i.words, i.automatic, i.came_at, i.settled_at, i.settled_by, i.answer, i.language, m.address as sent_to`;

const shown = 100;

/** What came in that somebody reaches, by its id. */
async function reached(c: Asker & { tx: Queries }, id: string): Promise<Row> {
  const row = await first<Row>(
    c.tx,
    `select ${columns} ${from} where i.id = $1 and ${reachSql(2)} for update of i`,
    [id, ...reachParams(messagesSeen(c.staff))],
  );
  if (!row) throw notFound('This');
  return row;
}

/** What waits for an answer: on the board of an event; or, of no event, what people wrote back. */
export interface Unanswered {
  eventId: string | null;
  title: string;
  n: number;
  /** Since when the first of them waits. */
  since: string | null;
  /** Who answers, where that was said. */
  by: string | null;
}

/** How many replies and questions wait for an answer that somebody reaches, and since when. */
export const openIncomingSql = (n: number): string =>
  `select null::uuid as event_id, '' as title, count(*)::int as n, min(i.came_at) as since, null as by ${from} where i.settled_at is null and ${reachSql(n)}`;

export const incomingHandlers: Handlers<typeof incomingContract> = {
  'GET /api/incoming': async ({ tx, query, staff }) => {
    const reach: MessageReach = messagesSeen(staff);
    const rows = await tx.query<Row>(
      `select ${columns} ${from} where ${reachSql(1)}
       order by (i.settled_at is null) desc, case when i.settled_at is null then i.came_at end, i.came_at desc, i.id limit ${shown + 1} offset $5`,
      [...reachParams(reach), query.offset],
    );
    const open = await first<Unanswered>(tx, openIncomingSql(1), reachParams(reach));
    return {
      rows: rows.slice(0, shown).map(({ language: _, sentTo: __, ...row }) => row),
      open: open!.n,
      more: rows.length > shown,
    };
  },

  'POST /api/incoming/:id/answer': async (c) => {
    const one = await reached(c, c.params.id);
    if (one.answer !== c.body.seen) throw refused('answered-meanwhile', { by: one.settledBy });
    const { name: organization } = await theOrganization(c.tx);
    await planDirect(c, {
      kind: 'our answer',
      key: `our answer:${one.id}:${c.app.ids.id()}`,
      // Where it says it is from anybody can write: the answer goes where we had written.
      to: {
        name: one.name,
        email: one.sentTo ?? one.address,
        contactId: one.contactId,
        language: one.language,
      },
      eventId: one.eventId,
      reason: `answered by ${c.staff.name}`,
      values: { name: splitName(one.name).given || one.name, organization },
      own: {
        words: c.body.words,
        by: c.staff.name,
        quoted: one.words
          .split('\n')
          .slice(0, 40)
          .map((l) => `> ${l}`)
          .join('\n'),
        about: (one.subject || one.event || organization).replace(/^(?:re|tr)\s*:\s*/iu, ''),
      },
    });
    await update(c.tx, 'incoming', one.id, {
      answer: c.body.words,
      settledAt: c.now,
      settledBy: c.staff.name,
    });
    await record(c, 'incoming settled', { eventId: one.eventId, how: 'answered what somebody wrote' });
    return { done: true };
  },

  'PUT /api/incoming/:id': async (c) => {
    const one = await reached(c, c.params.id);
    const { settled } = c.body;
    await update(c.tx, 'incoming', one.id, {
      settledAt: settled ? (one.settledAt ?? c.now) : null,
      settledBy: settled ? one.settledBy || c.staff.name : '',
    });
    await record(c, 'incoming settled', {
      eventId: one.eventId,
      how: settled ? 'said that it needs no answer' : 'said that it needs an answer',
    });
    return { done: true };
  },

  'POST /api/messages/:id/reply': async (c) => {
    if (!c.app.takesReplies) throw refused('no-standin');
    const message = await first<{
      address: string | null;
      subject: string | null;
      headers: MailHeaders | null;
    }>(
      c.tx,
      "select address, subject, headers from messages where id = $1 and state = 'sent' and channel = 'email'",
      [c.params.id],
    );
    if (!message?.headers?.['Reply-To']) throw refused('no-reply-to');
    await takeReply(c, {
      to: replyAddress(replyToken(c.app.secret, c.params.id), 'localhost'),
      from: emailKey(message.address ?? ''),
      subject: `Re: ${message.subject ?? ''}`,
      text: c.body.words,
      headers: {
        'message-id': `<${c.app.ids.unordered()}@standin>`,
        ...(c.body.automatic && { 'auto-submitted': 'auto-replied' }),
      },
    });
    return { done: true };
  },
};
