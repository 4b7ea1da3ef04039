import { randomBytes } from 'node:crypto';
import type { Answered } from '#contract/endpoint.ts';
import type { mailingsContract } from '#contract/mailings.ts';
import { addressesOf, docLedElsewhere, ledElsewhere } from '#core/messages/addresses.ts';
import { followingDays } from '#core/messages/mailing.ts';
import type { Said, SaidTexts } from '#core/messages/said.ts';
import { coming, undelivered } from '#core/messages/states.ts';
import { docOf, safeAddress } from '#core/text/doc.ts';
import type { Reason } from '#core/words/reasons.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { reasonSql } from '../db/reasons.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { type Mailed, pageOf, planOf, saidLeftOut, saidTo, sampleOf, type Wanted } from './mailed.ts';
import { type Outgoing, putOut } from './outbox.ts';

/** What is counted of a mailing's links: each leads by an address of ours, the same in every copy. */
async function countedLinks(
  w: Work,
  mailingId: string,
  said: SaidTexts,
  /** The page of the event it is about. */
  page: string | null,
): Promise<(url: string) => string> {
  const tokens = new Map<string, string>();
  const saysPage = page !== null && JSON.stringify(said).includes('event_link');
  for (const url of [...addressesOf(said), ...(saysPage ? [page] : [])]) {
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

/** Writes to many. Refused where others would get it than were seen, or nobody. */
export async function writeMailing(
  w: Work,
  wanted: Wanted & { name: string; at?: string | undefined; expect: number },
  staff: SignedIn,
): Promise<{ id: string; planned: number; leftOut: number }> {
  const { tx, app, now } = w;
  const plan = await planOf(tx, now, wanted, staff, 'writing');
  const { planned, leftOut } = plan;
  if (planned.length !== wanted.expect)
    throw refused('mailing-changed', { count: planned.length, expected: wanted.expect });
  if (!planned.length) throw refused('mailing-nobody');
  const id = app.ids.id();
  const { name, topic, said } = wanted;
  // A time that has passed is now.
  const at = wanted.at && wanted.at > now ? wanted.at : now;
  await insert(tx, 'mailings', { id, name, topic, said, createdBy: staff.id, createdAt: now, goesAt: at });
  const counted = await countedLinks(w, id, said, plan.event && pageOf(app, plan.event));
  const put = (recipient: Mailed, whyNot: Reason | null): Outgoing => ({
    eventId: null,
    mailingId: id,
    recipientKey: `mailing:${id}:${recipient.contactId}`,
    kind: 'mailing',
    contactId: recipient.contactId,
    name: recipient.name,
    address: recipient.email,
    language: recipient.language,
    reason: name,
    at,
    whyNot,
    ...(whyNot ? { subject: said.subject.en } : ledTo(saidTo(app, wanted, plan, recipient))),
  });
  const ledTo = (text: Said): Said => ({
    ...text,
    body: ledElsewhere(text.body, counted),
    // What is read stays what was written.
    formatted: docLedElsewhere(text.formatted ?? docOf(text.body), counted),
  });
  await putOut(w, [
    ...planned.map((recipient) => put(recipient, null)),
    ...leftOut.map(({ recipient, why }) => put(recipient, why)),
  ]);
  await record(w, 'mailing written', {
    mailingId: id,
    how: `wrote “${said.subject.en}” to ${planned.length}${at > now ? ', for later' : ''}`,
    detail: { topic },
  });
  return { id, planned: planned.length, leftOut: leftOut.length };
}

export const mailingsHandlers: Handlers<typeof mailingsContract> = {
  'POST /api/mailings/preview': async ({ tx, now, app, body, staff }) => {
    const plan = await planOf(tx, now, body, staff, 'reading');
    return {
      planned: plan.planned.length,
      leftOut: saidLeftOut(plan.leftOut),
      sample: await sampleOf(tx, app, body, plan),
    };
  },

  'POST /api/mailings': (c) => writeMailing(c, c.body, c.staff),

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
      `select g.id, g.name, g.topic, g.said, coalesce(g.goes_at, g.created_at) as goes_at, g.stopped_at,
         count(*) filter (where m.state in ${among(coming)})::int as planned, count(*) filter (where m.state = 'sent')::int as sent,
         count(*) filter (where m.state = 'sent' and exists (select 1 from orders o where o.buyer_contact_id = m.contact_id
           and ${within('o.placed_at')}))::int as booked,
         count(*) filter (where exists (select 1 from incoming i where i.message_id = m.id and not i.automatic))::int as wrote_back,
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
      `select g.id, g.name, g.topic, g.said->'subject'->>'en' as subject, g.created_at as at, coalesce(g.goes_at, g.created_at) as goes_at, g.stopped_at, s.name as by,
         count(*) filter (where m.state in ${among(coming)})::int as planned, count(*) filter (where m.state = 'sent')::int as sent,
         count(*) filter (where m.state in ${among(undelivered)})::int as failed, count(*) filter (where m.state = 'held back')::int as held_back
       from (select * from mailings order by created_at desc, id desc limit 100) g
         left join messages m on m.mailing_id = g.id left join staff s on s.id = g.created_by
       group by g.id, g.name, g.topic, g.said, g.created_at, g.goes_at, g.stopped_at, s.name order by g.created_at desc, g.id desc`,
    ),
};
