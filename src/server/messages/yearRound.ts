import type { YearLinePlan } from '#contract/yearRound.ts';
import { becauseQuiet, type QuietReason } from '#core/contacts/quiet.ts';
import type { YearAudience } from '#core/messages/audiences.ts';
import type { Why } from '#core/messages/closing.ts';
import { linkMark } from '#core/messages/links.ts';
import { type MailingTopic, whyNotAbout } from '#core/messages/mailing.ts';
import type { MergeValues } from '#core/messages/merge.ts';
import { nothingKnown } from '#core/messages/moments.ts';
import { type Plan, planLine } from '#core/messages/planning.ts';
import { fillSaid, type Said, saidIn } from '#core/messages/said.ts';
import {
  audienceOn,
  momentOn,
  noEvent,
  rememberedDays,
  type YearHad,
  type YearLine,
  yearKeyOf,
  yearValues,
} from '#core/messages/yearRound.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { bouncedOf, emailOf, givenEmail, lastWord, mobileOf, whyQuiet } from '../contacts/quiet.ts';
import { first, insert, once, type Queries, update } from '../db/database.ts';
import { reasonSql } from '../db/reasons.ts';
import { theOrganization } from '../staff/store.ts';
import { planningRules, stepsTo, take } from './planning.ts';
import { unnamed } from './rendering.ts';
import { type PlannedRow, plannedColumns, type RecipientRow } from './store.ts';

/** A line of the organization as it is kept. */
export interface YearLineRow extends YearLinePlan {
  audience: YearAudience;
  version: number;
  addedAt: string | null;
}

export const readYearLines = (tx: Queries): Promise<readonly YearLineRow[]> =>
  once(tx, 'lines of the organization', ['message_lines'], () =>
    tx.query<YearLineRow>(
      `select ${lineColumns}, audience, version, added_at from message_lines where event_id is null and removed_at is null order by position, id`,
    ),
  );

const lineColumns = `id, name, moment, offset_days, offset_minutes, channel, late, useful_minutes, working_days, household, off, topic,
  subject, preview, body, formatted, french_of`;

/** A line with its version, also one that was removed, held until the end of the transaction; null of none. */
export async function lockYearLine(
  tx: Queries,
  id: string,
): Promise<{ line: YearLinePlan; version: number } | null> {
  // Two who add the same line at once: the second waits, and finds it there.
  await tx.query('select 1 from organization for update');
  const row = await first<YearLinePlan & { version: number }>(
    tx,
    `select ${lineColumns}, version from message_lines where id = $1 and event_id is null`,
    [id],
  );
  if (!row) return null;
  const { version, ...line } = row;
  return { line, version };
}

/** Keeps a line as it is now; one that was removed is back. */
export async function keepYearLine(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  { id, ...line }: YearLinePlan,
  version: number,
  isThere: boolean,
): Promise<void> {
  const row = { ...line, audience: audienceOn(line.moment), version };
  if (isThere) {
    await update(tx, 'message_lines', id, { ...row, removedAt: null });
    return;
  }
  const last = await first<{ n: number }>(
    tx,
    'select coalesce(max(position), 0)::int as n from message_lines where event_id is null',
  );
  await insert(tx, 'message_lines', { id, ...row, position: last!.n + 1, narrowed: [], addedAt: now });
}

export const removeYearLine = (tx: Queries, id: string, now: string, version: number): Promise<unknown> =>
  update(tx, 'message_lines', id, { removedAt: now, version });

/** As core plans it. */
const asLine = ({
  offsetDays: days,
  offsetMinutes: minutes,
  moment,
  ...line
}: YearLinePlan & { addedAt: string | null }): YearLine => ({
  ...line,
  moment,
  audience: audienceOn(moment),
  offset: { days, minutes },
  narrowed: [],
  sentByHandAt: null,
});

/** Somebody a line of the organization could go to, with what it says of what they have. */
export interface YearRecipient extends RecipientRow {
  given: string;
  had: YearHad;
}

interface Row {
  contactId: string;
  name: string;
  given: string;
  email: string | null;
  mobile: string | null;
  bounced: boolean;
  language: 'en' | 'fr';
  household: string | null;
  zone: string | null;
  quiet: QuietReason | null;
  said: boolean | null;
  id: string;
  since: string;
}

/** What is read of a contact `c` of whom it is asked about the topic $1, and where they are written to. */
const person = (
  email = emailOf('c.id'),
) => `c.id as contact_id, trim(c.given_name || ' ' || c.family_name) as name, coalesce(nullif(c.given_name, ''), c.family_name) as given,
  ${email} as email, ${mobileOf('c.id')} as mobile, ${email} is null and ${bouncedOf('c.id')} as bounced, c.language,
  c.household_id as household, c.zone, ${whyQuiet('c')} as quiet, ${lastWord('c.id', '$1')} as said`;

const readMembers = (tx: Queries, topic: MailingTopic, contactIds: readonly string[] | null, from: string) =>
  tx.query<Row & { level: string; ends: string; renewed: boolean }>(
    `select ${person()}, m.id, m.created_at as since, coalesce(m.level, '') as level, m.ends_on as ends,
       exists (select 1 from memberships n where n.contact_id = m.contact_id and n.id <> m.id and (n.ends_on is null or n.ends_on > m.ends_on)) as renewed
     from memberships m join contacts c on c.id = m.contact_id
     where m.ends_on >= $3::date and ($2::uuid[] is null or m.contact_id = any($2)) order by m.ends_on, c.family_name, c.given_name, m.id`,
    [topic, contactIds, from],
  );

const readGivers = (tx: Queries, topic: MailingTopic, contactIds: readonly string[] | null, from: string) =>
  tx.query<Row & { amount: number; currency: string; at: string; purpose: string; wentBack: boolean }>(
    `select ${person()}, d.id, d.at as since, d.at, d.amount, d.currency, f.name as purpose,
       (select sum(b.amount) from donations b where b.contact_id = d.contact_id
          and (b.gift_id = d.gift_id or d.gift_id is null and b.gift_id is null and b.order_id = d.order_id)) <= 0 as went_back
     from donations d join contacts c on c.id = d.contact_id join funds f on f.id = d.fund_id left join gifts g on g.id = d.gift_id
     where d.amount > 0 and d.at >= $3::date and ($2::uuid[] is null or d.contact_id = any($2))
       and (g.pledge_id is null or not exists (select 1 from gifts before join donations of on of.gift_id = before.id
         where before.pledge_id = g.pledge_id and of.at < d.at))
     order by d.at, d.id`,
    [topic, contactIds, from],
  );

/** Whoever has the link to a monthly gift can change it: it goes to the address that was given with it. */
const readPledgers = (tx: Queries, topic: MailingTopic, contactIds: readonly string[] | null, from: string) =>
  tx.query<Row & { amount: number; currency: string; at: string; purpose: string; missing: boolean }>(
    `select ${person(givenEmail('p.contact_id', 'p.email'))}, p.id, p.missed_at as since, p.missed_at as at, p.amount, p.currency, f.name as purpose, p.state = 'missed' as missing
     from pledges p join contacts c on c.id = p.contact_id join funds f on f.id = p.fund_id
     where p.missed_at >= $3::date and ($2::uuid[] is null or p.contact_id = any($2)) order by p.missed_at, p.id`,
    [topic, contactIds, from],
  );

const readCertified = (
  tx: Queries,
  topic: MailingTopic,
  contactIds: readonly string[] | null,
  from: string,
) =>
  tx.query<Row & { certificate: string; until: string }>(
    `select ${person()}, k.id, h.said_at as since, k.name as certificate, h.until
     from held_skills h join skills k on k.id = h.skill_id join contacts c on c.id = h.contact_id
     where h.until >= $3::date and k.retired_at is null and ($2::uuid[] is null or h.contact_id = any($2)) order by h.until, c.family_name, c.given_name, c.id`,
    [topic, contactIds, from],
  );

/** Who there is for an audience: everybody, or some contacts. What they have and want is read as it stands. */
async function recipientsOf(
  tx: Queries,
  audience: YearAudience,
  topic: MailingTopic,
  contactIds: readonly string[] | null,
  now: string,
): Promise<YearRecipient[]> {
  const { zone } = await theOrganization(tx);
  const from = dateOf(plusMinutes(now, -rememberedDays * 24 * 60), zone);
  const common = (r: Row) => ({
    contactId: r.contactId,
    name: r.name,
    given: r.given,
    reach: { email: r.email, 'text message': r.mobile },
    bounced: r.bounced,
    language: r.language,
    left: false,
    quiet: becauseQuiet(r.quiet) ?? whyNotAbout(topic, r.said),
    household: r.household,
    zone: r.zone ?? zone,
    coveredBy: null,
    forOthers: false,
    since: r.since,
  });
  if (audience === 'members')
    return (await readMembers(tx, topic, contactIds, from)).map((r) => ({
      ...common(r),
      key: yearKeyOf({ of: 'membership', id: r.id, ends: r.ends }),
      anchor: momentOn(r.ends, zone),
      standing: { ...nothingKnown, renewed: r.renewed },
      had: { of: 'membership', level: r.level, ends: r.ends },
    }));
  if (audience === 'certified')
    return (await readCertified(tx, topic, contactIds, from)).map((r) => ({
      ...common(r),
      key: yearKeyOf({ of: 'certificate', skillId: r.id, contactId: r.contactId, until: r.until }),
      anchor: momentOn(r.until, zone),
      standing: nothingKnown,
      had: { of: 'certificate', name: r.certificate, until: r.until },
    }));
  if (audience === 'pledgers')
    return (await readPledgers(tx, topic, contactIds, from)).map((r) => ({
      ...common(r),
      key: yearKeyOf({ of: 'pledge', id: r.id, missedAt: r.at }),
      anchor: r.at,
      standing: { ...nothingKnown, cardMissing: r.missing },
      had: { of: 'pledge', id: r.id, amount: r.amount, currency: r.currency, purpose: r.purpose },
    }));
  return (await readGivers(tx, topic, contactIds, from)).map((r) => ({
    ...common(r),
    key: yearKeyOf({ of: 'gift', id: r.id }),
    anchor: r.at,
    standing: { ...nothingKnown, wentBack: r.wentBack },
    had: { of: 'gift', amount: r.amount, currency: r.currency, on: dateOf(r.at, zone), purpose: r.purpose },
  }));
}

export type YearPlan = Plan<YearRecipient>;
const nobody: YearPlan = { planned: [], leftOut: [] };

/** Works lines of the organization out: who gets each when, and who does not and why. */
export async function planYear(
  tx: Queries,
  lines: readonly (YearLinePlan & { addedAt: string | null })[],
  contactIds: readonly string[] | null,
  now: string,
): Promise<(lineId: string) => YearPlan> {
  const { zone } = await theOrganization(tx);
  const rules = await planningRules(tx);
  const plans = new Map<string, YearPlan>();
  for (const line of lines) {
    const of = asLine(line);
    const recipients = await recipientsOf(tx, of.audience, of.topic, contactIds, now);
    plans.set(line.id, planLine(of, noEvent(zone), recipients, rules));
  }
  return (lineId) => plans.get(lineId) ?? nobody;
}

/** Messages already planned or gone by some of these lines, of everybody or of some contacts. */
export const readYearPlanned = (
  tx: Queries,
  lineIds: readonly string[],
  contactIds: readonly string[] | null,
): Promise<PlannedRow[]> =>
  tx.query<PlannedRow>(
    `select ${plannedColumns} from messages where event_id is null and line_id = any($1) and ($2::uuid[] is null or contact_id = any($2))`,
    [lineIds, contactIds],
  );

/** Some contacts with their households: where one copy serves a household, who gets it hangs on all of them. */
const withHouseholds = async (tx: Queries, contactIds: readonly string[]): Promise<string[]> =>
  (
    await tx.query<{ id: string }>(
      `select id from contacts where id = any($1)
         union select o.id from contacts c join contacts o on o.household_id = c.household_id where c.id = any($1)`,
      [contactIds],
    )
  ).map((c) => c.id);

/** Brings what these lines planned, for everybody or for some contacts, to what they plan now. What was sent stays. */
export async function replanYear(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  concerned: readonly string[] | null,
): Promise<void> {
  const lines = await readYearLines(w.tx);
  const contactIds = concerned && (await withHouseholds(w.tx, concerned));
  const planOf = await planYear(w.tx, lines, contactIds, w.now);
  const rows = await readYearPlanned(
    w.tx,
    lines.map((l) => l.id),
    contactIds,
  );
  const compared = lines.map((line) => ({ ...line, sentByHandAt: null }));
  await take(w, stepsTo(compared, rows, planOf, { eventId: null, now: w.now, whyGone: null }));
}

/** Of a message `m`, as SQL: a line of the organization planned it, and it never went out. It is nothing somebody had. */
export const onlyPlannedSql = (m: string): string =>
  `${m}.event_id is null and ${m}.line_id is not null and ${m}.sent_at is null and ${m}.attempts = 0`;

/** Holds back what a line planned that was removed. */
export const holdBackYear = (tx: Queries, lineId: string): Promise<unknown> =>
  tx.query(
    `update messages set state = 'held back', why_not = ${reasonSql('step removed')}, next_try_at = null
     where event_id is null and line_id = $1 and (state = 'planned' or (state = 'failed' and next_try_at is not null))`,
    [lineId],
  );

/** How many people are planned anew in one transaction. */
const atOnce = 500;

/** Whose messages are to be planned anew, at once. */
export const nextYearSql =
  "select '2000-01-01T00:00:00Z'::timestamptz as at, contact_id as id from year_round_stale order by contact_id limit 1";

/** Plans the messages anew of those whose memberships or gifts changed, by whatever way that was. One whose cannot be holds up nobody. */
export async function planStale(app: App): Promise<void> {
  const stale = await app.db.query<{ id: string }>(
    `select contact_id as id from year_round_stale order by contact_id limit ${atOnce}`,
  );
  const ids = stale.map((s) => s.id);
  try {
    await planAnew(app, ids);
  } catch {
    for (const id of ids)
      try {
        await planAnew(app, [id]);
      } catch (error) {
        app.log.error({ contact: id, error: String(error) }, 'messages of somebody could not be planned');
        await app.db.query('delete from year_round_stale where contact_id = $1', [id]);
      }
  }
}

const planAnew = (app: App, ids: readonly string[]): Promise<void> =>
  inTransaction(app, systemActor, async (w) => {
    await w.tx.query('delete from year_round_stale where contact_id = any($1)', [ids]);
    await replanYear(w, ids);
    await record(w, 'year-round lines planned', {});
  });

/** What a line of the organization says to somebody. Throws as `merge` does. */
export function sayYear(
  line: YearLinePlan,
  to: Pick<YearRecipient, 'contactId' | 'given' | 'language' | 'had'>,
  organization: string,
): Said {
  const { language } = to;
  const values: MergeValues = {
    name: to.given || unnamed[language],
    organization,
    own_link: to.contactId ? linkMark('own', to.contactId) : '',
    ...yearValues(to.had, language),
  };
  return fillSaid(saidIn(line, language), values, { strict: true });
}

/** Why a line goes to somebody, and whether one can have no more of its topic. */
export const yearWhy = ({
  topic,
  moment,
}: Pick<YearLinePlan, 'topic' | 'moment'>): { why: Why; hasWayOut: boolean } =>
  topic === 'notice'
    ? { why: { of: 'year', audience: audienceOn(moment) }, hasWayOut: false }
    : { why: { of: 'mailing', topic }, hasWayOut: true };

/** Whether somebody still gets it by now: the line, the plan for them and theirs. */
export async function yearOf(tx: Queries, lineId: string, contactId: string, now: string) {
  const line = (await readYearLines(tx)).find((l) => l.id === lineId);
  if (!line) return null;
  const people = await withHouseholds(tx, [contactId]);
  return { line, plan: (await planYear(tx, [line], people, now))(line.id) };
}
