import type { mailingsContract } from '#contract/mailings.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import { type MailingTopic, planMailing } from '#core/messages/mailing.ts';
import { type MergeValues, merge, unknownFields } from '#core/messages/merge.ts';
import { coming, undelivered } from '#core/messages/states.ts';
import { because, type Reason, sayReason } from '#core/words/reasons.ts';
import type { SignedIn } from '../app/app.ts';
import { record } from '../app/record.ts';
import { emailOf, lastWord, whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { insert, type Queries } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { type FieldProblem, invalid, refused } from '../http/problem.ts';
import { conditionOfSegment } from '../records/asking.ts';
import { idsWhere } from '../records/store.ts';
import { theOrganization } from '../staff/store.ts';
import { type Outgoing, putOut } from './outbox.ts';

interface Wanted {
  ids?: string[] | undefined;
  segmentId?: string | undefined;
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

async function planOf(
  tx: Queries,
  now: string,
  wanted: Wanted,
  staff: SignedIn,
  part: 'reading' | 'writing',
) {
  const problems: FieldProblem[] = [];
  if (!wanted.ids === !wanted.segmentId) problems.push({ path: 'ids', code: 'for-whom' });
  for (const path of ['subject', 'body'] as const)
    for (const field of unknownFields(wanted[path]))
      problems.push({ path, code: 'not-a-field-here', params: { field } });
  if (problems.length) throw invalid(problems);
  const ids =
    wanted.ids ?? (await idsWhere(tx, await conditionOfSegment(tx, wanted.segmentId!, now, staff, part)));
  return planMailing(wanted.topic, await readRecipients(tx, ids, wanted.topic));
}

function textFor(
  wanted: Wanted,
  to: { contactId: string; given: string },
  organization: string,
  preview: boolean,
): { subject: string; body: string } {
  const values: MergeValues = { name: to.given, organization };
  if (`${wanted.subject} ${wanted.body}`.includes('own_link'))
    values.own_link = linkMark('own', to.contactId);
  const text = { subject: merge(wanted.subject, values), body: merge(wanted.body, values) };
  return preview ? { subject: hideLinks(text.subject), body: hideLinks(text.body) } : text;
}

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

export const mailingsHandlers: Handlers<typeof mailingsContract> = {
  'POST /api/mailings/preview': async (c) => {
    const { planned, leftOut } = await planOf(c.tx, c.now, c.body, c.staff, 'reading');
    const { name: organization } = await theOrganization(c.tx);
    const first = planned[0];
    return {
      planned: planned.length,
      leftOut: saidLeftOut(leftOut),
      sample: first ? { name: first.name, ...textFor(c.body, first, organization, true) } : null,
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
    await insert(tx, 'mailings', {
      id,
      name,
      topic,
      subject,
      body: body.body,
      createdBy: staff.id,
      createdAt: now,
    });
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
      at: now,
      whyNot,
      ...(whyNot ? { subject } : textFor(body, recipient, organization, false)),
    });
    await putOut(c, [
      ...planned.map((recipient) => put(recipient, null)),
      ...leftOut.map(({ recipient, why }) => put(recipient, why)),
    ]);
    await record(c, 'mailing written', {
      mailingId: id,
      how: `wrote “${subject}” to ${planned.length}`,
      detail: { topic },
    });
    return { id, planned: planned.length, leftOut: leftOut.length };
  },

  'GET /api/mailings': ({ tx }) =>
    tx.query(
      `select g.id, g.name, g.topic, g.subject, g.created_at as at, s.name as by,
         count(*) filter (where m.state in ${among(coming)})::int as planned, count(*) filter (where m.state = 'sent')::int as sent,
         count(*) filter (where m.state in ${among(undelivered)})::int as failed, count(*) filter (where m.state = 'held back')::int as held_back
       from mailings g left join messages m on m.mailing_id = g.id left join staff s on s.id = g.created_by
       group by g.id, s.name order by g.created_at desc, g.id desc limit 100`,
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
