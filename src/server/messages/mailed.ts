import type { QuietReason } from '#core/contacts/quiet.ts';
import { takingPart } from '#core/crew/states.ts';
import { came } from '#core/doors/attendance.ts';
import { titleFor } from '#core/events/french.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import {
  type MailedOfEvent,
  type MailingPlan,
  type MailingTopic,
  planMailing,
  problemsInMailing,
  problemsInThanks,
} from '#core/messages/mailing.ts';
import type { MergeValues } from '#core/messages/merge.ts';
import { fillSaid, type Said, type SaidTexts, saidIn, wrongInSaid } from '#core/messages/said.ts';
import { EmptyField } from '#core/messages/template.ts';
import { standing } from '#core/registration/states.ts';
import { because, type Reason, sayReason } from '#core/words/reasons.ts';
import type { App, SignedIn } from '../app/app.ts';
import { emailOf, lastWord, whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { type FieldProblem, invalid, refused } from '../http/problem.ts';
import { conditionOfSegment } from '../records/asking.ts';
import { idsWhere } from '../records/store.ts';
import { theOrganization } from '../staff/store.ts';
import { endingOf, shown } from './letter.ts';
import { placeLater, unnamed } from './rendering.ts';

/** A mailing as it is being written. */
export interface Wanted {
  ids?: string[] | undefined;
  segmentId?: string | undefined;
  ofEvent?: { eventId: string; who: MailedOfEvent } | undefined;
  withoutSeatOf?: string | undefined;
  /** Thanks after an event: the event, and what can be said to each of those it goes to beside what everybody reads. */
  thanks?: { eventId: string; to: ReadonlyMap<string, MergeValues> } | undefined;
  without: string[];
  topic: MailingTopic;
  said: SaidTexts;
}

/** Somebody a mailing could go to. */
export interface Mailed {
  contactId: string;
  name: string;
  given: string;
  email: string | null;
  language: 'en' | 'fr';
  quiet: QuietReason | null;
  said: boolean | null;
}

/** What has to be known of a contact `c` to write to them about a topic, as SQL. */
export const mailedColumns = (topic: string): string =>
  `c.id as contact_id, trim(c.given_name || ' ' || c.family_name) as name, coalesce(nullif(c.given_name, ''), c.family_name) as given,
   ${emailOf('c.id')} as email, c.language, ${whyQuiet('c')} as quiet, ${lastWord('c.id', topic)} as said`;

const readRecipients = (tx: Queries, ids: readonly string[], topic: MailingTopic) =>
  tx.query<Mailed>(
    `select ${mailedColumns('$2')} from contacts c where c.id = any($1) and c.merged_into is null order by c.family_name, c.given_name, c.id`,
    [ids, topic],
  );

/** Contacts of an event, by how they stand to it; the event is `$1`. */
const ofEvent: Readonly<Record<MailedOfEvent, string>> = {
  booked:
    "select buyer_contact_id from orders o where event_id = $1 and exists (select 1 from registrations r where r.order_id = o.id and r.state = 'confirmed')",
  attendees: "select contact_id from registrations where event_id = $1 and state = 'confirmed'",
  waiting:
    "select buyer_contact_id from orders o where event_id = $1 and exists (select 1 from registrations r where r.order_id = o.id and r.state = 'waitlisted')",
  crew: `select a.contact_id from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1 and a.state in ${among(takingPart)}`,
  came: `select contact_id from attendance where event_id = $1 and state in ${among(came)}`,
  missed: "select contact_id from attendance where event_id = $1 and state = 'missed'",
  following:
    "select contact_id from followers f where state = 'follows' and (event_id = $1 or series_id = (select series_id from events where id = $1))",
};

/** Who has a seat at an event, or asks for one. */
const seatedAt = (tx: Queries, eventId: string): Promise<{ id: string }[]> =>
  tx.query<{ id: string }>(
    `select contact_id as id from registrations where event_id = $1 and contact_id is not null and state in ${among(standing)}
     union select o.buyer_contact_id from orders o join registrations r on r.order_id = o.id
       where r.event_id = $1 and o.buyer_contact_id is not null and r.state in ${among(standing)}`,
    [eventId],
  );

/** Whom it is for, before it is looked at who of them gets none. */
async function idsOf(
  tx: Queries,
  now: string,
  wanted: Wanted,
  staff: SignedIn,
  part: 'reading' | 'writing',
): Promise<string[]> {
  const { ids, segmentId, ofEvent: event, without, withoutSeatOf } = wanted;
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
  const out = new Set((await Promise.all(without.map(inSegment))).flat());
  if (withoutSeatOf) for (const { id } of await seatedAt(tx, withoutSeatOf)) out.add(id);
  return out.size ? all.filter((id) => !out.has(id)) : all;
}

/** A mailing with all that is needed to say it to somebody. */
export interface Planned extends MailingPlan<Mailed> {
  /** The event it is about; null where it is about none. */
  event: EventRow | null;
  organization: string;
}

/** Works out who gets a mailing, and who does not and why. Refused where it is for nobody, for two at once, or says what cannot be filled in. */
export async function planOf(
  tx: Queries,
  now: string,
  wanted: Wanted,
  staff: SignedIn,
  part: 'reading' | 'writing',
): Promise<Planned> {
  const problems: FieldProblem[] = [];
  if ([wanted.ids, wanted.segmentId, wanted.ofEvent].filter(Boolean).length !== 1)
    problems.push({ path: 'ids', code: 'for-whom' });
  const about = wanted.ofEvent?.eventId ?? wanted.thanks?.eventId ?? wanted.withoutSeatOf;
  const problemsOf = (text: string) =>
    wanted.thanks ? problemsInThanks(text) : problemsInMailing(text, Boolean(about));
  problems.push(
    ...wrongInSaid(wanted.said, 'said.', true, problemsOf).filter(
      // While it is being written, nothing is missing yet.
      ({ code }) => part === 'writing' || code !== 'nothing-written',
    ),
  );
  if (problems.length) throw invalid(problems);
  const event = about ? await readEvent(tx, about) : null;
  const ids = await idsOf(tx, now, wanted, staff, part);
  const { name: organization } = await theOrganization(tx);
  return {
    ...planMailing(wanted.topic, await readRecipients(tx, ids, wanted.topic)),
    event,
    organization,
  };
}

/** Where everybody can read of an event; null as long as it is a draft. */
export const pageOf = (app: Pick<App, 'origin'>, { slug }: EventRow): string | null =>
  slug ? `${app.origin}/e/${slug}` : null;

/** What a mailing says to somebody. Refused where it would say something that is not there. */
export function saidTo(
  app: Pick<App, 'origin'>,
  { said, thanks }: Wanted,
  { event, organization }: Planned,
  to: Mailed,
): Said {
  const { language } = to;
  const values: MergeValues = {
    name: to.given || unnamed[language],
    organization,
    own_link: linkMark('own', to.contactId),
    ...(event && {
      event: titleFor(event, language),
      when: sayWhen(event, language),
      place: sayPlace(event, language) || placeLater[language],
      event_link: pageOf(app, event) ?? '',
    }),
    ...thanks?.to.get(to.contactId),
  };
  try {
    return fillSaid(saidIn(said, language), values, { strict: true });
  } catch (error) {
    if (error instanceof EmptyField) throw refused('field-empty', { field: `{{${error.field}}}` });
    throw error;
  }
}

/** How the first of them gets it, as it would be drawn. */
export async function sampleOf(
  tx: Queries,
  app: Pick<App, 'origin'>,
  wanted: Wanted,
  plan: Planned,
): Promise<{ name: string; subject: string; body: string; html: string } | null> {
  const to = plan.planned[0];
  if (!to) return null;
  const said = saidTo(app, wanted, plan, to);
  const about = {
    id: to.contactId,
    eventId: null,
    contactId: to.contactId,
    language: to.language,
    why: { of: 'mailing' as const, topic: wanted.topic },
    hasWayOut: wanted.topic !== 'notice',
  };
  const { closing } = await endingOf(tx, about);
  const { html } = shown({ ...said, closing, language: to.language }, plan.organization);
  return { name: to.name, subject: hideLinks(said.subject), body: hideLinks(said.body), html };
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

/** True when somebody said no to a mailing's topic since it was planned. */
export async function saidNoSince(tx: Queries, mailingId: string, contactId: string): Promise<boolean> {
  const [last] = await tx.query<{ granted: boolean | null }>(
    `select ${lastWord('$2', 'g.topic')} as granted from mailings g where g.id = $1`,
    [mailingId, contactId],
  );
  return last?.granted === false;
}
