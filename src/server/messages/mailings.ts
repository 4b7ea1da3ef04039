import { randomBytes } from 'node:crypto';
import type { Answered } from '#contract/endpoint.ts';
import type { mailingsContract } from '#contract/mailings.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import { came } from '#core/doors/attendance.ts';
import { addressesIn, docLedElsewhere, ledElsewhere } from '#core/messages/addresses.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import { followingDays, type MailedOfEvent, type MailingTopic, planMailing } from '#core/messages/mailing.ts';
import { type MergeValues, merge, problemsInText, wrongIn } from '#core/messages/merge.ts';
import { coming, undelivered } from '#core/messages/states.ts';
import { safeAddress } from '#core/text/doc.ts';
import { because, type Reason, sayReason } from '#core/words/reasons.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { emailOf, lastWord, whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { reasonSql } from '../db/reasons.ts';
import type { Handlers } from '../http/handle.ts';
import { type FieldProblem, invalid, notFound, refused } from '../http/problem.ts';
import { conditionOfSegment } from '../records/asking.ts';
import { idsWhere } from '../records/store.ts';
import { theOrganization } from '../staff/store.ts';
import { endingOf, shown } from './letter.ts';
import { type Outgoing, putOut } from './outbox.ts';

interface Wanted {
  ids?: string[] | undefined;
  segmentId?: string | undefined;
  ofEvent?: { eventId: string; who: MailedOfEvent } | undefined;
  without: string[];
  preview: string;
  topic: MailingTopic;
  subject: string;
  body: string;
}

const readRecipients = (tx: Queries, ids: readonly string[], topic: MailingTopic) =>
  tx.query<{
    contactId: string;
    name: string;
    given: string;
    email: string | null;
    language: 'en' | 'fr';
    quiet: QuietReason | null;
    said: boolean | null;
  }>(
    `select c.id as contact_id, trim(c.given_name || ' ' || c.family_name) as name, coalesce(nullif(c.given_name, ''), c.family_name) as given,
       ${emailOf('c.id')} as email, c.language, ${whyQuiet('c')} as quiet,
       ${lastWord('c.id', '$2')} as said
     from contacts c where c.id = any($1) and c.merged_into is null order by c.family_name, c.given_name, c.id`,
    [ids, topic],
  );

/** Contacts of an event, by how they stand to it; the event is `$1`. */
const ofEvent: Readonly<Record<MailedOfEvent, string>> = {
  booked:
    "select buyer_contact_id from orders o where event_id = $1 and exists (select 1 from registrations r where r.order_id = o.id and r.state = 'confirmed')",
  attendees: "select contact_id from registrations where event_id = $1 and state = 'confirmed'",
  waiting:
    "select buyer_contact_id from orders o where event_id = $1 and exists (select 1 from registrations r where r.order_id = o.id and r.state = 'waitlisted')",
  crew: "select a.contact_id from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1 and a.state in ('proposed', 'agreed', 'served')",
  came: `select contact_id from attendance where event_id = $1 and state in ${among(came)}`,
  missed: "select contact_id from attendance where event_id = $1 and state = 'missed'",
  following:
    "select contact_id from followers f where state = 'follows' and (event_id = $1 or series_id = (select series_id from events where id = $1))",
};

/** Whom it is for, before it is looked at who of them gets none. */
async function idsOf(
  tx: Queries,
  now: string,
  wanted: Wanted,
  staff: SignedIn,
  part: 'reading' | 'writing',
): Promise<string[]> {
  const { ids, segmentId, ofEvent: event, without } = wanted;
  const inSegment = async (id: string) => idsWhere(tx, await conditionOfSegment(tx, id, now, staff, part));
  const all = ids
    ? ids
    : segmentId
      ? await inSegment(segmentId)
      : (
          await tx.query<{ id: string }>(
            `select distinct contact_id as id from (${ofEvent[event!.who]}) x (contact_id) where contact_id is not null order by 1`,
            [event!.eventId],
          )
        ).map((r) => r.id);
  if (!without.length) return all;
  const out = new Set((await Promise.all(without.map(inSegment))).flat());
  return all.filter((id) => !out.has(id));
}

async function planOf(
  tx: Queries,
  now: string,
  wanted: Wanted,
  staff: SignedIn,
  part: 'reading' | 'writing',
) {
  const problems: FieldProblem[] = [];
  if ([wanted.ids, wanted.segmentId, wanted.ofEvent].filter(Boolean).length !== 1)
    problems.push({ path: 'ids', code: 'for-whom' });
  for (const path of ['subject', 'preview', 'body'] as const)
    problems.push(...wrongIn(path, problemsInText(wanted[path])));
  if (problems.length) throw invalid(problems);
  const ids = await idsOf(tx, now, wanted, staff, part);
  return planMailing(wanted.topic, await readRecipients(tx, ids, wanted.topic));
}

function textFor(
  wanted: Wanted,
  to: { contactId: string; given: string; language: string },
  organization: string,
): { subject: string; preview: string; body: string } {
  const values: MergeValues = { name: to.given, organization };
  if (`${wanted.subject} ${wanted.body}`.includes('own_link'))
    values.own_link = linkMark('own', to.contactId);
  const said = (text: string) => merge(text, values);
  return { subject: said(wanted.subject), preview: said(wanted.preview), body: said(wanted.body) };
}

/** What is counted of a mailing's links: each leads by an address of ours, the same in every copy. */
async function countedLinks(w: Work, mailingId: string, body: string): Promise<(url: string) => string> {
  const tokens = new Map<string, string>();
  for (const url of addressesIn(body)) {
    if (safeAddress(url) === null) continue;
    const token = randomBytes(9).toString('base64url');
    tokens.set(url, token);
    await insert(w.tx, 'mailing_links', { token, mailingId, url, followed: 0 });
  }
  return (url) => (tokens.has(url) ? `${w.app.origin}/l/${tokens.get(url)}` : url);
}

/** Where a counted link of a mailing leads; null of none. */
export const followCounted = async (tx: Queries, token: string): Promise<string | null> =>
  (
    await tx.query<{ url: string }>(
      'update mailing_links set followed = followed + 1 where token = $1 returning url',
      [token],
    )
  )[0]?.url ?? null;

/** Who gets no copy, by reason, the most frequent first, with some of the names. */
export function saidLeftOut(
  leftOut: readonly { recipient: { name: string }; why: Reason }[],
): { why: string; people: number; names: string[] }[] {
  const reasons = new Map<string, string[]>();
  for (const { recipient, why } of leftOut) {
    const known = sayReason(why.code === 'same address' ? because('same address, another') : why);
    reasons.set(known, [...(reasons.get(known) ?? []), recipient.name]);
  }
  return [...reasons]
    .sort((a, b) => b[1].length - a[1].length)
    .map(([why, names]) => ({ why, people: names.length, names: names.slice(0, 5) }));
}

/** The first copy, as it would be drawn. */
async function asDrawn(
  c: { tx: Queries; body: Wanted },
  first: { contactId: string; given: string; language: 'en' | 'fr' },
  organization: string,
) {
  const { subject, preview, body } = textFor(c.body, first, organization);
  const about = {
    id: first.contactId,
    eventId: null,
    contactId: first.contactId,
    language: first.language,
    why: { of: 'mailing' as const, topic: c.body.topic },
    hasWayOut: c.body.topic !== 'notice',
  };
  const { closing } = await endingOf(c.tx, about);
  const { html } = shown(
    { subject, preview, body, formatted: null, closing, language: first.language },
    organization,
  );
  return { subject: hideLinks(subject), body: hideLinks(body), html };
}

export const mailingsHandlers: Handlers<typeof mailingsContract> = {
  'POST /api/mailings/preview': async (c) => {
    const { planned, leftOut } = await planOf(c.tx, c.now, c.body, c.staff, 'reading');
    const { name: organization } = await theOrganization(c.tx);
    const first = planned[0];
    return {
      planned: planned.length,
      leftOut: saidLeftOut(leftOut),
      sample: first ? { name: first.name, ...(await asDrawn(c, first, organization)) } : null,
    };
  },

  'POST /api/mailings': async (c) => {
    const { tx, app, now, body, staff } = c;
    const problems: FieldProblem[] = [];
    if (!body.subject) problems.push({ path: 'subject', code: 'subject-needed' });
    if (!body.body) problems.push({ path: 'body', code: 'nothing-written' });
    if (problems.length) throw invalid(problems);
    const { planned, leftOut } = await planOf(tx, now, body, staff, 'writing');
    if (planned.length !== body.expect)
      throw refused('mailing-changed', { count: planned.length, expected: body.expect });
    if (!planned.length) throw refused('mailing-nobody');
    const { name: organization } = await theOrganization(tx);
    const id = app.ids.id();
    const { name, topic, subject } = body;
    // A time that has passed is now.
    const at = body.at && body.at > now ? body.at : now;
    await insert(tx, 'mailings', {
      id,
      name,
      topic,
      subject,
      preview: body.preview,
      body: body.body,
      createdBy: staff.id,
      createdAt: now,
      goesAt: at,
    });
    const counted = await countedLinks(c, id, body.body);
    const put = (recipient: (typeof planned)[number], whyNot: Reason | null): Outgoing => ({
      eventId: null,
      mailingId: id,
      recipientKey: `mailing:${id}:${recipient.contactId}`,
      kind: 'mailing',
      contactId: recipient.contactId,
      name: recipient.name,
      address: recipient.email,
      language: recipient.language === 'fr' ? 'fr' : 'en',
      reason: name,
      at,
      whyNot,
      ...(whyNot ? { subject } : ledTo(textFor(body, recipient, organization))),
    });
    const ledTo = (text: ReturnType<typeof textFor>) => ({
      ...text,
      body: ledElsewhere(text.body, counted),
      // What is read stays what was written.
      formatted: docLedElsewhere(text.body, counted),
    });
    await putOut(c, [
      ...planned.map((recipient) => put(recipient, null)),
      ...leftOut.map(({ recipient, why }) => put(recipient, why)),
    ]);
    await record(c, 'mailing written', {
      mailingId: id,
      how: `wrote “${subject}” to ${planned.length}${at > now ? ', for later' : ''}`,
      detail: { topic },
    });
    return { id, planned: planned.length, leftOut: leftOut.length };
  },

  'POST /api/mailings/:id/stop': async (c) => {
    const { tx, now, params } = c;
    const [mailing] = await tx.query<{ name: string; stoppedAt: string | null }>(
      'select name, stopped_at from mailings where id = $1 for update',
      [params.id],
    );
    if (!mailing) throw notFound('This mailing');
    if (mailing.stoppedAt) return { done: true };
    const held = await tx.query(
      `update messages set state = 'held back', next_try_at = null, why_not = ${reasonSql('mailing stopped')}
       where mailing_id = $1 and (state = 'planned' or state = 'failed' and next_try_at is not null) returning id`,
      [params.id],
    );
    if (!held.length) throw refused('mailing-gone');
    await update(tx, 'mailings', params.id, { stoppedAt: now });
    await record(c, 'mailing written', {
      mailingId: params.id,
      how: `stopped “${mailing.name}”, ${held.length} not sent`,
      detail: {},
    });
    return { done: true };
  },

  'GET /api/mailings/:id': async ({ tx, params }) => {
    const within = (at: string) =>
      `${at} > m.sent_at and ${at} < m.sent_at + interval '${followingDays} days'`;
    const [mailing] = await tx.query<
      Omit<Answered<(typeof mailingsContract)['GET /api/mailings/:id']>, 'leftOut'>
    >(
      `select g.id, g.name, g.topic, g.subject, g.body, coalesce(g.goes_at, g.created_at) as goes_at, g.stopped_at,
         count(*) filter (where m.state in ${among(coming)})::int as planned, count(*) filter (where m.state = 'sent')::int as sent,
         count(*) filter (where m.state = 'sent' and exists (select 1 from orders o where o.buyer_contact_id = m.contact_id
           and ${within('o.placed_at')}))::int as booked,
         count(*) filter (where m.state = 'sent' and exists (select 1 from gifts f where f.contact_id = m.contact_id
           and ${within('f.given_at')}))::int as gave,
         count(*) filter (where m.state = 'sent' and exists (select 1 from consents no where no.contact_id = m.contact_id and no.topic = g.topic
           and no.channel = 'email' and not no.granted and no.at > m.sent_at))::int as "left",
         (select coalesce(jsonb_agg(jsonb_build_object('url', l.url, 'followed', l.followed) order by l.followed desc, l.url), '[]'::jsonb)
           from mailing_links l where l.mailing_id = g.id) as links
       from mailings g left join messages m on m.mailing_id = g.id where g.id = $1 group by g.id`,
      [params.id],
    );
    if (!mailing) throw notFound('This mailing');
    const none = await tx.query<{ name: string; why: Reason }>(
      "select name, why_not as why from messages where mailing_id = $1 and state in ('held back', 'bounced') and why_not is not null order by name, id",
      [params.id],
    );
    return { ...mailing, leftOut: saidLeftOut(none.map(({ name, why }) => ({ recipient: { name }, why }))) };
  },

  'GET /api/mailings': ({ tx }) =>
    tx.query(
      `select g.id, g.name, g.topic, g.subject, g.created_at as at, coalesce(g.goes_at, g.created_at) as goes_at, g.stopped_at, s.name as by,
         count(*) filter (where m.state in ${among(coming)})::int as planned, count(*) filter (where m.state = 'sent')::int as sent,
         count(*) filter (where m.state in ${among(undelivered)})::int as failed, count(*) filter (where m.state = 'held back')::int as held_back
       from (select * from mailings order by created_at desc, id desc limit 100) g
         left join messages m on m.mailing_id = g.id left join staff s on s.id = g.created_by
       group by g.id, g.name, g.topic, g.subject, g.created_at, g.goes_at, g.stopped_at, s.name order by g.created_at desc, g.id desc`,
    ),
};

/** True when somebody said no to a mailing's topic since it was planned. */
export async function saidNoSince(tx: Queries, mailingId: string, contactId: string): Promise<boolean> {
  const [last] = await tx.query<{ granted: boolean | null }>(
    `select ${lastWord('$2', 'g.topic')} as granted from mailings g where g.id = $1`,
    [mailingId, contactId],
  );
  return last?.granted === false;
}
