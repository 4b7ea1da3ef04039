import type { MessageLinePlan } from '#contract/plan.ts';
import { sayCode } from '#core/contacts/codes.ts';
import { titleFor } from '#core/events/french.ts';
import { asScheduling, methodOf } from '#core/exchange/itip.ts';
import { closingOf, type Why } from '#core/messages/closing.ts';
import { replyAddress } from '#core/messages/incoming.ts';
import { fillMarks, hideLinks, linkMark, linkPaths, marksIn } from '#core/messages/links.ts';
import { mailHtml, mailText } from '#core/messages/mailHtml.ts';
import { momentRule } from '#core/messages/moments.ts';
import type { Doc } from '#core/text/types.ts';
import { oneLine } from '#core/words/text.ts';
import { type Letter, openLink, openMailedLink, type Work } from '../app/app.ts';
import { first, once, type Queries } from '../db/database.ts';
import { codeFor, linkToken, replyToken } from '../db/ids.ts';
import type { EventRow } from '../events/store.ts';

/** A mail as it is kept, its links as marks. */
export interface KeptMail {
  id: string;
  name: string;
  address: string;
  language: 'en' | 'fr';
  subject: string;
  preview: string;
  body: string;
  formatted: Doc | null;
  closing: string;
  headers: Readonly<Record<string, string>>;
  calendar: string | null;
}

/** Who sends: the organization, by its name and address. */
async function senderOf(
  tx: Queries,
): Promise<{ name: string; address: string; host: string; place: string }> {
  const { name, sender, address } = await once(
    tx,
    'the sender',
    ['organization', 'receipt_settings'],
    async () =>
      (await first<{ name: string; sender: string; address: string | null }>(
        tx,
        'select o.name, o.sender, r.address from organization o left join receipt_settings r on true',
      ))!,
  );
  return {
    name,
    address: sender || 'nobody@localhost',
    host: sender.split('@')[1] || 'localhost',
    place: (address ?? '')
      .split('\n')
      .map((l) => l.trim())
      .filter(Boolean)
      .join(', '),
  };
}

/** The identity a message has as a mail (RFC 5322 section 3.6.4). */
const mailIdentity = (messageId: string, host: string): string => `<${messageId}@${host}>`;

/** What the end and the headers of a mail are made from. */
interface About {
  id: string;
  eventId: string | null;
  contactId: string | null;
  language: 'en' | 'fr';
  /** Why it is sent, where that is said; null for the answer to something they did. */
  why: Why | null;
  /** Whether one can have no more of these. */
  hasWayOut: boolean;
  /** Replies come back to the message, and not to the address of the organization. */
  replies?: boolean;
}

/**
 * The small print and the headers of a mail. Reminders and mailings carry their way out, in the text and for the button that mail
 * readers make of it (RFC 2369, RFC 8058). What is about an event answers the first mail about it, so that they lie together.
 */
export async function endingOf(
  tx: Queries,
  about: About,
  /** Under what the gateway knows it. */
  key: string = about.id,
): Promise<{ closing: string; headers: Record<string, string> }> {
  const { name: organization, host, place } = await senderOf(tx);
  const { id, why, hasWayOut, eventId, contactId, replies } = about;
  const before =
    eventId &&
    contactId &&
    (await first<{ id: string }>(
      tx,
      "select id from messages where event_id = $1 and contact_id = $2 and state = 'sent' and channel = 'email' order by sent_at, id limit 1",
      [eventId, contactId],
    ));
  const headers: Record<string, string> = { 'Message-ID': mailIdentity(key, host) };
  if (before) {
    headers['In-Reply-To'] = mailIdentity(before.id, host);
    headers.References = mailIdentity(before.id, host);
  }
  if (replies) headers['Reply-To'] = replyAddress(linkMark('reply', id), host);
  // Answering machines leave alone what a machine sent (RFC 3834 section 5).
  headers['Auto-Submitted'] = why?.of === 'mailing' ? 'no' : 'auto-generated';
  if (hasWayOut) {
    headers['List-Unsubscribe'] = `<${linkMark('out', id)}>`;
    headers['List-Unsubscribe-Post'] = 'List-Unsubscribe=One-Click';
  }
  return {
    closing: why
      ? closingOf(why, { organization, address: place }, hasWayOut ? id : null, about.language)
      : '',
    headers,
  };
}

/** Why a line goes to somebody, and whether one can have no more of its kind. */
export const endingOfLine = (
  event: EventRow,
  line: Pick<MessageLinePlan, 'moment' | 'audience'>,
  to: Pick<About, 'id' | 'contactId' | 'language'>,
): About => ({
  id: to.id,
  eventId: event.id,
  contactId: to.contactId,
  language: to.language,
  why: { of: 'line', audience: line.audience, event: titleFor(event, to.language) },
  hasWayOut: momentRule(line.moment).optional === true && to.contactId !== null,
});

/** A mail as the team sees it: links are said, and lead nowhere. */
export function shown(
  mail: Pick<KeptMail, 'subject' | 'preview' | 'body' | 'formatted' | 'closing' | 'language'>,
  organization: string,
): { text: string; html: string } {
  return {
    text: hideLinks(mailText(mail)),
    html: fillMarks(mailHtml({ ...mail, organization }), () => '#'),
  };
}

/** Finds the address of every link a mail asks for, made as it leaves: nothing that is kept holds them. */
async function linksOf(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  texts: readonly string[],
): Promise<(text: string) => string> {
  const tokens = new Map<string, string>();
  for (const { kind, subjectId } of texts.flatMap(marksIn)) {
    const key = `${kind} ${subjectId}`;
    if (tokens.has(key)) continue;
    tokens.set(
      key,
      kind === 'code'
        ? sayCode(codeFor(w.app.secret, subjectId))
        : kind === 'reply'
          ? replyToken(w.app.secret, subjectId)
          : kind === 'invitation' || kind === 'reset' || kind === 'sign in'
            ? linkToken(w.app.secret, kind, subjectId)
            : kind === 'manage'
              ? await openMailedLink(w, kind, subjectId)
              : await openLink(w, kind, subjectId),
    );
  }
  return (text) =>
    fillMarks(text, (kind, subjectId) => {
      const token = tokens.get(`${kind} ${subjectId}`);
      // A code is typed, and an address is not one of the web.
      return kind === 'code' || kind === 'reply' ? token! : `${w.app.origin}${linkPaths[kind].path}${token}`;
    });
}

/** The way out that a mail reader takes by itself: what answers it is not the page that people see. */
const oneClick = (header: string): string => header.replace(`${linkPaths.out.path}`, '/api/public/out/');

/** A text message as it leaves. */
export async function textOf(w: Pick<Work, 'tx' | 'app' | 'now'>, body: string): Promise<string> {
  return (await linksOf(w, [body]))(body);
}

/** A mail as it leaves, with its personal links. */
export async function letterOf(w: Pick<Work, 'tx' | 'app' | 'now'>, kept: KeptMail): Promise<Letter> {
  const from = await senderOf(w.tx);
  const html = mailHtml({ ...kept, organization: from.name });
  const text = mailText(kept);
  const open = await linksOf(w, [text, html, ...Object.values(kept.headers)]);
  const to = { name: oneLine(kept.name), address: kept.address };
  return {
    key: kept.id,
    from: { name: oneLine(from.name), address: from.address },
    to,
    // A name with a line end in it must not begin another header.
    subject: oneLine(kept.subject),
    text: open(text),
    html: open(html),
    headers: Object.fromEntries(
      Object.entries(kept.headers).map(([name, value]) => [
        name,
        name === 'List-Unsubscribe' ? oneClick(open(value)) : oneLine(open(value)),
      ]),
    ),
    calendar: kept.calendar
      ? { method: methodOf(kept.calendar), text: asScheduling(kept.calendar, from, to) }
      : null,
  };
}
