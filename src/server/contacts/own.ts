import type { OwnDetailsOf, OwnedLink, OwnPage, ownContract } from '#contract/own.ts';
import { textsOf } from '#core/contacts/attributes.ts';
import { consentChannels, consentTopics } from '#core/contacts/consent.ts';
import { fullName } from '#core/contacts/names.ts';
import {
  type MembershipWish,
  type OutsideField,
  type OwnDetails,
  type ProposableField,
  proposable,
  sortWishes,
} from '#core/contacts/proposing.ts';
import { readReach, writableEmail } from '#core/contacts/reach.ts';
import { sayMembership } from '#core/imports/rows.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { sayAttribute } from '#core/words/attributes.ts';
import { followLink, renewLink, stopLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { type FieldProblem, invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { columnKey } from './columns.ts';
import { setValue } from './fields.ts';
import { refreshFound } from './keys.ts';
import { setGuardian } from './linking.ts';
import { keepEmail, keepPhone, mostOwn } from './proposals.ts';
import { contactFor } from './seeing.ts';
import * as store from './store.ts';

async function personOf(tx: Queries, token: string): Promise<string> {
  const opened = await followLink(tx, 'own', token);
  const id = opened && (await store.resolveContact(tx, opened));
  if (!id) throw notFound('This page');
  return id;
}

const childrenOf = (tx: Queries, guardianId: string) =>
  tx.query<{ id: string }>(
    `select c.id from relationships r join contacts c on c.id = r.to_contact
     where r.kind = 'guardian' and r.from_contact = $1 and c.erased_at is null order by c.birth_date nulls last, c.id`,
    [guardianId],
  );

async function detailsOf(tx: Queries, id: string): Promise<OwnDetailsOf> {
  const c = (await store.readContact(tx, id))!;
  const waiting = await tx.query<{ field: string }>(
    "select field from proposals where contact_id = $1 and state = 'open' order by field",
    [id],
  );
  return {
    id,
    given: c.givenName,
    family: c.familyName,
    birthDate: c.birthDate,
    street: c.movedOn ? null : c.street,
    postalCode: c.movedOn ? null : c.postalCode,
    language: c.language,
    ...textsOf((key) => c[key]),
    waiting: waiting.map((w) => w.field),
  };
}

async function membershipsOf(tx: Queries, contactId: string): Promise<OwnPage['memberships']> {
  const waiting = await tx.query<{ membershipId: string; field: MembershipWish }>(
    "select membership_id, field from proposals where contact_id = $1 and state = 'open' and membership_id is not null order by field",
    [contactId],
  );
  return (await store.readMemberships(tx, contactId)).map((m) => ({
    id: m.id,
    words: sayMembership(m),
    level: m.level,
    from: m.from,
    until: m.until,
    waiting: waiting.filter((w) => w.membershipId === m.id).map((w) => w.field),
  }));
}

const levelsOf = async (tx: Queries): Promise<string[]> =>
  (
    await tx.query<{ level: string }>(
      'select distinct level from memberships where level is not null order by level',
    )
  ).map((l) => l.level);

interface ProposalRow {
  id: string;
  contactId: string;
  givenName: string;
  familyName: string;
  field: ProposableField | MembershipWish | OutsideField;
  /** Of a field of one's own: which, and what it is called. */
  fieldId: string | null;
  fieldName: string | null;
  otherContactId: string | null;
  said: string;
  membershipId: string | null;
  before: string;
  after: string | null;
  at: string;
  state: string;
}
const wishWords: Record<ProposableField | MembershipWish | OutsideField, string> = {
  ...(Object.fromEntries(proposable.map((field) => [field, sayAttribute(field)])) as Record<
    ProposableField,
    string
  >),
  email: 'email',
  phone: 'telephone',
  guardian: 'guardian',
  language: sayAttribute('language'),
  ...textsOf(sayAttribute),
  custom: 'answer',
  level: 'level of membership',
  endsOn: 'end of the membership',
};
const proposalSql = `select p.id, p.contact_id, c.given_name, c.family_name, p.field, p.field_id, f.name as field_name, p.membership_id, p.other_contact_id, p.said, p.before, p.after, p.at, p.state
  from proposals p join contacts c on c.id = p.contact_id left join custom_fields f on f.id = p.field_id`;

/** Takes a change over, or leaves the record as it is. */
async function decideProposal(w: Work, row: ProposalRow, accept: boolean): Promise<void> {
  if (row.state !== 'open') throw refused('decided');
  await update(w.tx, 'proposals', row.id, {
    state: accept ? 'taken' : 'left',
    decidedBy: w.actor.staffId,
    decidedAt: w.now,
  });
  if (accept) {
    if (row.field === 'guardian') await setGuardian(w, row.otherContactId!, row.contactId);
    else if (row.field === 'email') await keepEmail(w.tx, w.app.ids.id(), row.contactId, row.after!);
    else if (row.field === 'phone') await keepPhone(w.tx, w.app.ids.id(), row.contactId, row.after!);
    else if (row.field === 'custom') await setValue(w.tx, row.contactId, row.fieldId!, row.after);
    else if (row.field === 'level' || row.field === 'endsOn')
      await update(w.tx, 'memberships', row.membershipId!, { [row.field]: row.after });
    else
      await update(w.tx, 'contacts', row.contactId, {
        [columnKey(row.field)]:
          row.field === 'given' || row.field === 'family' ? (row.after ?? '') : row.after,
        updatedAt: w.now,
      });
    await refreshFound(w.tx, [row.contactId]);
  }
  await record(w, 'contact changed', {
    contactId: row.contactId,
    how: accept
      ? `took over the ${wishWords[row.field]} they asked for`
      : `left the ${wishWords[row.field]} as it was`,
  });
}

/** Takes over every change of a field that waits, as staff who looked through them. Answers how many. */
export async function takeAllOver(w: Work, field: ProposalRow['field']): Promise<number> {
  const rows = await w.tx.query<ProposalRow>(`${proposalSql} where p.state = 'open' and p.field = $1`, [
    field,
  ]);
  for (const row of rows) await decideProposal(w, row, true);
  return rows.length;
}

/** The links of a contact, also of those merged into it. */
const linksOf = (tx: Queries, contactId: string) =>
  tx.query<OwnedLink>(
    `with them as (select id from contacts where id = $1 or merged_into = $1)
     select l.kind, l.subject_id, l.created_at as made_at, l.revoked_at as stopped_at,
       case l.kind when 'own' then 'Their own page' when 'crew' then 'Their shifts' when 'feed' then 'Their calendar'
         when 'manage' then 'Booking for ' || (select e.public_title from orders o join events e on e.id = o.event_id where o.id = l.subject_id)
         when 'application' then 'Their application: ' || (select k.title ->> 'en' from applications p join calls k on k.id = p.call_id where p.id = l.subject_id)
         when 'seat' then 'Their seat at ' || (select e.public_title from registrations r join events e on e.id = r.event_id where r.id = l.subject_id)
         else 'Survey of ' || (select e.public_title from survey_asks k join surveys v on v.id = k.survey_id join events e on e.id = v.event_id
           where k.id = l.subject_id) end as about
     from links l
     where (l.kind in ('own', 'crew', 'feed') and l.subject_id in (select id from them))
       or (l.kind = 'manage' and l.subject_id in (select id from orders where buyer_contact_id in (select id from them)))
       or (l.kind = 'seat' and l.subject_id in (select id from registrations where contact_id in (select id from them)))
       or (l.kind = 'application' and l.subject_id in (select id from applications where contact_id in (select id from them)))
       or (l.kind = 'survey' and l.subject_id in (select id from survey_asks where contact_id in (select id from them)))
     order by l.created_at desc, l.kind, l.subject_id`,
    [contactId],
  );

export const ownHandlers: Handlers<typeof ownContract> = {
  'GET /api/contacts/:id/links': async ({ tx, params }) => {
    const id = await store.resolveContact(tx, params.id);
    if (!id) throw notFound('This contact');
    return linksOf(tx, id);
  },

  'POST /api/contacts/:id/links': async (c) => {
    const { tx, params, body } = c;
    const id = await store.resolveContact(tx, params.id);
    if (!id) throw notFound('This contact');
    const link = (await linksOf(tx, id)).find((l) => l.kind === body.kind && l.subjectId === body.subjectId);
    if (!link) throw notFound('This link');
    await (body.renew ? renewLink : stopLink)(c, link.kind, link.subjectId);
    await record(c, 'contact changed', {
      contactId: id,
      how: body.renew ? 'renewed a link' : 'stopped a link',
      detail: { link: link.about },
    });
    return { done: true };
  },

  'POST /api/contacts/:id/own-link': async (c) => {
    const { contactId } = await contactFor(c, c.params.id, 'reach');
    const contact = await store.readContact(c.tx, contactId);
    if (!contact) throw notFound('This contact');
    const address = writableEmail(contact);
    if (!address) throw refused('no-email');
    await record(c, 'own link asked', { contactId: contact.id, by: c.staff.name });
    return { sentTo: address };
  },

  'GET /api/public/own/:token': async ({ tx, params, now }) => {
    const id = await personOf(tx, params.token);
    const contact = (await store.readContact(tx, id))!;
    const said = await store.readConsents(tx, id);
    const children: OwnDetailsOf[] = [];
    for (const child of await childrenOf(tx, id)) children.push(await detailsOf(tx, child.id));
    return {
      organization: (await theOrganization(tx)).name,
      person: await detailsOf(tx, id),
      emails: contact.emails.filter((e) => !e.endedOn).map((e) => e.email),
      phones: contact.phones.filter((p) => !p.endedOn).map((p) => p.phone),
      memberships: await membershipsOf(tx, id),
      levels: await levelsOf(tx),
      today: dateOf(now, (await theOrganization(tx)).zone),
      consents: consentTopics.flatMap((topic) =>
        consentChannels.map((channel) => ({
          topic,
          channel,
          granted: said.find((s) => s.topic === topic && s.channel === channel)?.granted ?? null,
        })),
      ),
      children,
    };
  },

  'POST /api/public/own/:token/details': async (c) => {
    const { tx, app, now, body } = c;
    const own = await personOf(tx, c.params.token);
    const { contactId, addEmail, addPhone, ...wished } = body;
    const mine = contactId === own || (await childrenOf(tx, own)).some((child) => child.id === contactId);
    if (!mine) throw notFound('This person');
    const { country, zone } = await theOrganization(tx);
    const problems: FieldProblem[] = [];
    if (wished.birthDate && wished.birthDate > dateOf(now, zone))
      problems.push({ path: 'birthDate', code: 'in-the-future' });
    const reach = readReach({ email: addEmail ?? null, phone: addPhone ?? null }, country);
    problems.push(
      ...reach.problems.map((p) => ({ ...p, path: p.path === 'email' ? 'addEmail' : 'addPhone' })),
    );
    const { waiting: _, id: __, ...current } = await detailsOf(tx, contactId);
    if ((wished.given ?? current.given) === '' && (wished.family ?? current.family) === '')
      problems.push({ path: 'given', code: 'name-needed' });
    const person = (await store.readContact(tx, contactId))!;
    for (const [path, have] of [
      ['addEmail', reach.email ? person.emails.length : 0],
      ['addPhone', reach.phone ? person.phones.length : 0],
    ] as const)
      if (have >= mostOwn)
        problems.push({
          path,
          code: 'most-addresses',
          params: { most: mostOwn },
        });
    if (problems.length) throw invalid(problems);
    const moved = person.movedOn !== null;
    const { direct, proposed } = sortWishes(current, wished as Partial<OwnDetails>);
    await update(tx, 'contacts', contactId, {
      ...Object.fromEntries(Object.entries(direct).map(([k, v]) => [columnKey(k as keyof OwnDetails), v])),
      // They say where they live now; nothing of a former address stays with it.
      ...(moved && (direct.street || direct.postalCode)
        ? { movedOn: null, street: direct.street ?? null, postalCode: direct.postalCode ?? null }
        : {}),
      updatedAt: now,
    });
    // Asked again, the newest wish counts.
    await tx.query(
      "update proposals set state = 'replaced' where contact_id = $1 and state = 'open' and field = any($2)",
      [contactId, proposed.map((p) => p.field)],
    );
    await insert(
      tx,
      'proposals',
      proposed.map((p) => ({ id: app.ids.id(), contactId, ...p, at: now, state: 'open' })),
    );
    let added = 0;
    if (reach.email) added += await keepEmail(tx, app.ids.id(), contactId, reach.email);
    if (reach.phone) added += await keepPhone(tx, app.ids.id(), contactId, reach.phone);
    await refreshFound(tx, [contactId]);
    const changed = Object.keys(direct).length + added;
    if (changed || proposed.length)
      await record(
        { ...c, actor: { ...c.actor, name: 'the person, by their own link' } },
        'contact changed',
        {
          contactId,
          how: 'changed by their own link',
          detail: { fields: Object.keys(direct), asked: proposed.map((p) => p.field) },
        },
      );
    return { changed, waiting: proposed.length };
  },

  'POST /api/public/own/:token/memberships/:id': async (c) => {
    const { tx, app, now, params, body } = c;
    const contactId = await personOf(tx, params.token);
    const membership = (await membershipsOf(tx, contactId)).find((m) => m.id === params.id);
    if (!membership) throw notFound('This membership');
    const { zone } = await theOrganization(tx);
    const problems: FieldProblem[] = [];
    if (body.level && !(await levelsOf(tx)).includes(body.level))
      problems.push({ path: 'level', code: 'level-of-the-list' });
    if (body.endsOn && body.endsOn < dateOf(now, zone)) problems.push({ path: 'endsOn', code: 'day-passed' });
    if (body.endsOn && membership.until && body.endsOn > membership.until)
      problems.push({ path: 'endsOn', code: 'ends-before' });
    if (problems.length) throw invalid(problems);
    const wishes = [
      { field: 'level', before: membership.level, after: body.level },
      { field: 'endsOn', before: membership.until, after: body.endsOn },
    ].filter((w) => w.after && w.after !== w.before);
    for (const wish of wishes) {
      await tx.query(
        "update proposals set state = 'replaced' where membership_id = $1 and field = $2 and state = 'open'",
        [membership.id, wish.field],
      );
      await insert(tx, 'proposals', {
        id: app.ids.id(),
        contactId,
        membershipId: membership.id,
        ...wish,
        before: wish.before ?? '',
        at: now,
        state: 'open',
      });
    }
    return { waiting: wishes.length };
  },

  'POST /api/public/own/:token/consents': async (c) => {
    const contactId = await personOf(c.tx, c.params.token);
    await insert(c.tx, 'consents', {
      id: c.app.ids.id(),
      contactId,
      ...c.body,
      source: 'said on their own page',
      at: c.now,
    });
    return { done: true };
  },

  'GET /api/proposals': async ({ tx }) => {
    const rows = await tx.query<ProposalRow>(
      `${proposalSql} where p.state = 'open' and c.erased_at is null order by p.at, p.id`,
    );
    return rows.map(({ givenName, familyName, state: _, membershipId: __, fieldId: ___, ...row }) => ({
      ...row,
      name: fullName({ given: givenName, family: familyName }),
    }));
  },

  'POST /api/proposals/:id/decide': async (c) => {
    const row = await first<ProposalRow>(c.tx, `${proposalSql} where p.id = $1`, [c.params.id]);
    if (!row) throw notFound('This change');
    await decideProposal(c, row, c.body.accept);
    return { done: true };
  },
};
