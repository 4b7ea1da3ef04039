import { onShift } from '#core/crew/states.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import { asksCrew, asksSeat, type WaiverRule } from '#core/waivers/asking.ts';
import {
  countsFrom,
  shownIn,
  type WaiverShown,
  type WaiverText,
  type WaiverVersion,
} from '#core/waivers/form.ts';
import type { Holds } from '#core/waivers/holding.ts';
import {
  ageStanding,
  nothingToSign,
  type Signed,
  type Signing,
  signingOf,
  type WaiverAudience,
  type WaiverStanding,
} from '#core/waivers/needs.ts';
import type { Language } from '#core/words/language.ts';
import { emailOf, whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { byOwner, first, type Queries } from '../db/database.ts';
import { instantSql as instant } from '../db/instants.ts';

/** A waiver as it is asked at an event, by the rules of the event's plan, in its newest version. */
interface AskedAt {
  eventId: string;
  id: string;
  title: string;
  audience: WaiverAudience;
  guardians: number;
  holds: Holds;
  forgetDays: number;
  closedAt: string | null;
  versionId: string;
  version: number;
  versions: WaiverVersion[];
  startsAt: string | null;
  rules: WaiverRule[];
}
/** The same with what it says. */
export interface WaiverAt extends AskedAt {
  text: WaiverText;
}

/** Waivers of the events $1, as the plan of each has them in order. */
const askedAtSql = (withText: boolean): string =>
  `select e.id as event_id, w.id, w.title, w.audience, w.guardians, w.holds, w.forget_days, w.closed_at, v.id as version_id, v.version, e.starts_at, asked.rules,
     (select jsonb_agg(jsonb_build_object('version', o.version, 'madeAt', ${instant('o.made_at')}, 'material', o.material))
        from waiver_versions o where o.waiver_id = w.id) as versions${withText ? ', v.text' : ''}
   from events e
     join lateral (select (r ->> 'waiverId')::uuid as waiver_id, jsonb_agg(r order by at) as rules, min(at) as at
       from jsonb_array_elements(e.waivers) with ordinality as x (r, at) group by 1) asked on true
     join waivers w on w.id = asked.waiver_id
     join lateral (select * from waiver_versions n where n.waiver_id = w.id order by n.version desc limit 1) v on true
   where e.id = any($1) and e.waivers <> '[]' order by asked.at`;

/** The waivers that are signed at an event, in the order of its plan. */
export const waiversAt = (tx: Queries, eventId: string): Promise<WaiverAt[]> =>
  tx.query<WaiverAt>(askedAtSql(true), [[eventId]]);

/** A waiver as it is read and signed in a language. */
export const asRead = (
  { id, version, holds, text }: { id: string; version: number; holds: Holds; text: WaiverText },
  language: string,
): WaiverShown & { id: string; version: number; holdsFor: Holds['for'] } => ({
  id,
  version,
  holdsFor: holds.for,
  ...shownIn(text, language),
});

/** A seat as far as signing for whoever sits there asks. */
export interface Signer {
  id: string;
  orderId: string;
  eventId: string;
  contactId: string | null;
  givenName: string;
  familyName: string;
}

export const readSigner = (tx: Queries, registrationId: string): Promise<Signer | null> =>
  first<Signer>(
    tx,
    'select id, order_id, event_id, contact_id, given_name, family_name from registrations where id = $1',
    [registrationId],
  );

/** Whoever booked, as far as signing on the link of the booking asks. */
export const readBuyer = async (tx: Queries, orderId: string) =>
  (await first<{
    contactId: string | null;
    birthDate: string | null;
    name: string;
    email: string | null;
    language: Language;
  }>(
    tx,
    `select o.buyer_contact_id as contact_id, c.birth_date::text as birth_date, trim(o.buyer_given || ' ' || o.buyer_family) as name, o.buyer_email as email,
       o.language from orders o left join contacts c on c.id = o.buyer_contact_id where o.id = $1`,
    [orderId],
  ))!;

/** What is asked of one seat. */
export interface SeatNeed extends Signing {
  id: string;
  orderId: string;
  state: RegistrationState;
  /** Whether it is known who sits there. */
  named: boolean;
  age: ReturnType<typeof ageStanding>;
}

interface Asking {
  id: string;
  startsLocal: string | null;
}
/** What was signed of one waiver for somebody: at all, and for this very seat. */
interface SignedRead extends Signed {
  waiverId: string;
  ownVersion: number | null;
  ownSigners: number;
}
type SeatRead = Omit<SeatNeed, 'age' | keyof Signing> & {
  eventId: string;
  contactId: string | null;
  birthDate: string | null;
  saidMinor: boolean;
  offerId: string;
  sessionIds: string[];
  answers: Record<string, string[]>;
  signed: SignedRead[];
};

/** What of seats the rules of some events look at. */
interface Looks {
  sessions: boolean;
  questionIds: string[];
}
const looksOf = (asked: readonly AskedAt[]): Looks => {
  const rules = asked.flatMap((w) => w.rules);
  return {
    sessions: rules.some((r) => r.sessionIds.length > 0),
    questionIds: [...new Set(rules.flatMap((r) => r.answered?.questionId ?? []))],
  };
};

/**
 * What tells seats apart as far as signing goes; $3 is whether sessions are looked at, $4 which answers. An answer is named as conditions
 * name it: yes and no, or what was chosen.
 */
const tellsApart = `r.given_name || r.family_name <> '' as named, r.birth_date, r.said_minor, r.offer_id,
  case when $3 then array(select t.session_id from session_seats t where t.registration_id = r.id order by 1) else '{}' end as session_ids,
  case when cardinality($4::uuid[]) > 0 then coalesce((select jsonb_object_agg(x.question_id, case jsonb_typeof(x.value)
      when 'boolean' then jsonb_build_array(case when x.value = 'true' then 'yes' else 'no' end) when 'array' then x.value else jsonb_build_array(x.value) end)
    from answers x where x.question_id = any($4) and (x.registration_id = r.id or (x.registration_id is null and x.order_id = r.order_id))), '{}')
    else '{}' end as answers,
  coalesce(g.signed, '[]') as signed`;

/**
 * Seats of the events $1, or of the orders $5 there, with what is signed for each: for the seat itself; for whoever sits there, in a time
 * the event lies in; and for them as one of its crew. What may be somebody else's hand counts for its own seat alone.
 */
const seatsFrom = (ofOrders = false): string => {
  const which = (of: string) => `${of}.event_id = any($1)${ofOrders ? ` and ${of}.order_id = any($5)` : ''}`;
  return `registrations r
    left join (select a.registration_id, jsonb_agg(jsonb_build_object('waiverId', a.waiver_id, 'relation', a.relation, 'version', a.version,
        'signers', a.signers, 'ownVersion', a.own_version, 'ownSigners', a.own_signers) order by a.waiver_id, a.relation) as signed
      from (select s.seat as registration_id, g.waiver_id, g.relation, max(v.version) as version, count(distinct lower(g.typed_name))::int as signers,
          max(v.version) filter (where g.registration_id = s.seat) as own_version,
          (count(distinct lower(g.typed_name)) filter (where g.registration_id = s.seat))::int as own_signers
        from (select q.id as seat, g.id as signature from registrations q join signatures g on g.registration_id = q.id where ${which('q')} and g.state = 'valid'
          union select q.id, g.id from registrations q join events e on e.id = q.event_id join signatures g on g.contact_id = q.contact_id
            where ${which('q')} and g.state = 'valid' and g.known_at is not null and g.holds_until is not null
              and coalesce(e.starts_local::date, $2::date) between g.holds_from and g.holds_until
          union select q.id, g.id from registrations q join signatures g on g.event_id = q.event_id and g.contact_id = q.contact_id
            where ${which('q')} and g.state = 'valid' and g.known_at is not null and g.registration_id is null) s
          join signatures g on g.id = s.signature join waiver_versions v on v.id = g.version_id
        group by 1, 2, 3) a group by 1) g on g.registration_id = r.id
    where ${which('r')}`;
};

const seatParams = (eventIds: readonly string[], today: string, looks: Looks): unknown[] => [
  eventIds,
  today,
  looks.sessions,
  looks.questionIds,
];

const readSeatNeeds = (
  tx: Queries,
  asked: readonly AskedAt[],
  today: string,
  orderIds: readonly string[] | null,
): Promise<SeatRead[]> =>
  tx.query<SeatRead>(
    `select r.event_id, r.id, r.order_id, r.state, r.contact_id, ${tellsApart} from ${seatsFrom(orderIds !== null)}`,
    [
      ...seatParams([...new Set(asked.map((w) => w.eventId))], today, looksOf(asked)),
      ...(orderIds ? [orderIds] : []),
    ],
  );

/** The waivers of each of some events, and those of the events that have any. */
async function whatIsAsked(tx: Queries, events: readonly Asking[]) {
  const ids = events.map((e) => e.id);
  const rows = ids.length ? await tx.query<AskedAt>(askedAtSql(false), [ids]) : [];
  const asked = byOwner(ids, rows, (w) => w.eventId);
  return { rows, asked, asking: events.filter((e) => asked.get(e.id)!.length > 0) };
}

/** What the waivers of some events ask of each of their seats; nothing where none is asked. */
export async function waiverNeedsOf(
  tx: Queries,
  events: readonly Asking[],
  ageOfMajority: number,
  today: string,
  /** Only the seats of these bookings; all of them where none are named. */
  orderIds: readonly string[] | null = null,
  /** Of whom it may be told that they signed elsewhere. */
  mayKnow: MayKnow = () => true,
): Promise<ReadonlyMap<string, SeatNeed[]>> {
  const needs = new Map<string, SeatNeed[]>(events.map((e) => [e.id, []]));
  const { rows, asked, asking } = await whatIsAsked(tx, events);
  if (!asking.length) return needs;
  const seats = byOwner(
    asking.map((e) => e.id),
    await readSeatNeeds(tx, rows, today, orderIds),
    (row) => row.eventId,
  );
  for (const event of asking)
    needs.set(
      event.id,
      needsFrom(seats.get(event.id)!, event, asked.get(event.id)!, ageOfMajority, today, mayKnow),
    );
  return needs;
}

/** What the waivers of an event ask of each of its seats, or of those of one order; nothing where none is asked there. */
export const waiverNeeds = async (
  tx: Queries,
  event: Asking,
  ageOfMajority: number,
  today: string,
  orderId: string | null = null,
): Promise<SeatNeed[]> =>
  (await waiverNeedsOf(tx, [event], ageOfMajority, today, orderId ? [orderId] : null)).get(event.id)!;

const needsFrom = (
  rows: readonly SeatRead[],
  event: Asking,
  waivers: readonly AskedAt[],
  ageOfMajority: number,
  today: string,
  mayKnow: MayKnow,
): SeatNeed[] =>
  rows.map((row) => ({
    id: row.id,
    orderId: row.orderId,
    state: row.state,
    named: row.named,
    ...needFrom(row, event, waivers, ageOfMajority, today, !mayKnow(row.contactId)),
  }));

const dayOf = (event: Asking, today: string): string => event.startsLocal?.slice(0, 10) ?? today;

/** The oldest version of a waiver that counts at an event; at one without a date, by now. */
export const countedFrom = (w: AskedAt): number => countsFrom(w.versions, w.startsAt ?? '9999');

function needFrom(
  row: Pick<SeatRead, 'signed' | 'offerId' | 'sessionIds' | 'answers' | 'birthDate' | 'saidMinor'>,
  event: Asking,
  waivers: readonly AskedAt[],
  ageOfMajority: number,
  today: string,
  /** Only what was signed for this very seat. */
  ownOnly = false,
): Signing & Pick<SeatNeed, 'age'> {
  const date = dayOf(event, today);
  const signed = (id: string): Signed[] =>
    row.signed.flatMap((s) =>
      s.waiverId !== id
        ? []
        : !ownOnly
          ? [s]
          : s.ownVersion === null
            ? []
            : [{ relation: s.relation, version: s.ownVersion, signers: s.ownSigners }],
    );
  return {
    age: ageStanding(row, date, ageOfMajority),
    ...signingOf(
      waivers
        .filter((w) => w.rules.some((rule) => asksSeat(rule, row, row.birthDate, date)))
        .map((w) => ({
          id: w.id,
          audience: w.audience,
          from: countedFrom(w),
          guardians: w.guardians,
          signed: signed(w.id),
        })),
      row,
      date,
      ageOfMajority,
    ),
  };
}

const isOpen = ({ standing }: Signing): boolean => standing === 'self' || standing === 'guardian';

/** True where a seat is confirmed and somebody still has to sign for it. */
export const stillToSign = (need: SeatNeed): boolean => need.state === 'confirmed' && isOpen(need);

/** How many confirmed seats that somebody still has to sign for are alike. */
export interface Unsigned extends Pick<SeatNeed, 'named' | 'age'> {
  seats: number;
}

/**
 * What is still to be signed for the confirmed seats of some events. They are counted where they are, as far as they are alike: a
 * season has tens of thousands.
 */
export async function unsignedAt(
  tx: Queries,
  events: readonly Asking[],
  ageOfMajority: number,
  today: string,
): Promise<ReadonlyMap<string, Unsigned[]>> {
  const { rows: waivers, asked, asking } = await whatIsAsked(tx, events);
  if (!asking.length) return new Map();
  const ids = asking.map((e) => e.id);
  const rows = await tx.query<Omit<SeatRead, 'id' | 'orderId' | 'state' | 'contactId'> & { seats: number }>(
    `select r.event_id, ${tellsApart}, count(*)::int as seats from ${seatsFrom()} and r.state = 'confirmed' group by 1, 2, 3, 4, 5, 6, 7, 8`,
    seatParams(ids, today, looksOf(waivers)),
  );
  const byEvent = byOwner(ids, rows, (row) => row.eventId);
  return new Map(
    asking.map((event) => [
      event.id,
      byEvent.get(event.id)!.flatMap((row) => {
        const need = needFrom(row, event, asked.get(event.id)!, ageOfMajority, today);
        return isOpen(need) ? [{ named: row.named, age: need.age, seats: row.seats }] : [];
      }),
    ]),
  );
}

/** What is signed at an event, and how it stands with each of its seats, or with those of one order. */
export interface SigningAt {
  waivers: readonly WaiverAt[];
  /** Of a seat, whatever its state. */
  need(registrationId: string): Signing;
  /** Of a seat as it is told: who has none for certain has nothing to sign yet. */
  of(seat: { id: string; state: RegistrationState }): {
    waiver: WaiverStanding;
    toSign: string[];
    partly: string[];
  };
  /** Some of the waivers as they are read in a language. */
  texts(ids: readonly string[], language: string): ReturnType<typeof asRead>[];
}

/** Who of those who sit somewhere may be told what they signed elsewhere. */
export type MayKnow = (contactId: string | null) => boolean;

/**
 * `mayKnow`: of whom it may be told that they signed elsewhere; of everybody where it is for the team. Of anybody else only what was
 * signed for the very seat is told: whoever books in somebody's name does not learn what they signed.
 */
export async function signingAt(
  tx: Queries,
  event: Asking,
  ageOfMajority: number,
  today: string,
  orderId: string | null = null,
  mayKnow: MayKnow = () => true,
): Promise<SigningAt> {
  const waivers = await waiversAt(tx, event.id);
  const rows = waivers.length ? await readSeatNeeds(tx, waivers, today, orderId ? [orderId] : null) : [];
  const needs = new Map(
    rows.map((row) => [row.id, needFrom(row, event, waivers, ageOfMajority, today, !mayKnow(row.contactId))]),
  );
  const need = (id: string): Signing => needs.get(id) ?? nothingToSign;
  return {
    waivers,
    need,
    of({ id, state }) {
      const { standing, toSign, partly } = state === 'confirmed' ? need(id) : nothingToSign;
      return { waiver: standing, toSign, partly };
    },
    texts: (ids, language) => waivers.filter((w) => ids.includes(w.id)).map((w) => asRead(w, language)),
  };
}

/**
 * What was said no to where a waiver lets one choose, by seat of an event or of one seat: the headings of those clauses. Of each hand the last
 * word counts; where one guardian says no and the other yes it is a no.
 */
export async function refusalsAt(
  tx: Queries,
  eventId: string,
  registrationId: string | null,
  today: string,
): Promise<ReadonlyMap<string, string[]>> {
  const rows = await tx.query<{ registrationId: string; what: string[] }>(
    `with here as (select r.id, r.contact_id, r.event_id, coalesce(e.starts_local::date, $3::date) as day from registrations r join events e on e.id = r.event_id
         where r.event_id = $1 and ($2::uuid is null or r.id = $2)),
       hands as (
         select distinct on (s.seat, g.waiver_id, lower(g.typed_name)) s.seat, g.chosen, g.version_id from (
           select h.id as seat, g.id as signature from here h join signatures g on g.registration_id = h.id where g.state = 'valid'
           union select h.id, g.id from here h join signatures g on g.contact_id = h.contact_id
             where g.state = 'valid' and g.known_at is not null and g.holds_until is not null and h.day between g.holds_from and g.holds_until) s
         join signatures g on g.id = s.signature order by s.seat, g.waiver_id, lower(g.typed_name), g.at desc, g.id desc)
     select h.seat as registration_id, array_agg(distinct coalesce(nullif(c -> 'heading' ->> 'en', ''), left(c -> 'text' ->> 'en', 100))) as what
       from hands h join waiver_versions v on v.id = h.version_id, jsonb_array_elements(v.text -> 'clauses') c
       where h.chosen ->> (c ->> 'id') = 'false' group by 1`,
    [eventId, registrationId, today],
  );
  return new Map(rows.map((r) => [r.registrationId, r.what]));
}

/** The confirmed seats of an event, with whether whoever booked can be written to. */
export const seatsToChase = (tx: Queries, eventId: string) =>
  tx.query<{
    id: string;
    orderId: string;
    contactId: string | null;
    givenName: string;
    familyName: string;
    reachable: boolean;
  }>(
    `select r.id, r.order_id, r.contact_id, r.given_name, r.family_name,
       coalesce(o.buyer_email, '') <> '' and (c.id is null or ${whyQuiet('c')} is null) as reachable
     from registrations r join orders o on o.id = r.order_id left join contacts c on c.id = o.buyer_contact_id
     where r.event_id = $1 and r.state = 'confirmed' order by r.id`,
    [eventId],
  );

/** When whoever booked, or one of the crew, was last asked to sign at an event: by booking, and by contact. */
export async function askedBefore(tx: Queries, eventId: string): Promise<ReadonlyMap<string, string>> {
  const rows = await tx.query<{ of: string; at: string }>(
    `select split_part(m.recipient_key, ':', 2) as of, max(m.sent_at) as at from messages m where m.event_id = $1 and m.kind = 'sign please'
       and m.sent_at is not null group by 1
     union all select regexp_replace(m.recipient_key, '^order ', ''), max(m.sent_at) from messages m join message_lines l on l.id = m.line_id
       where m.event_id = $1 and l.moment = 'waiver missing' and m.sent_at is not null group by 1`,
    [eventId],
  );
  const last = new Map<string, string>();
  for (const { of, at } of rows) if (at > (last.get(of) ?? '')) last.set(of, at);
  return last;
}

/** Somebody of the crew who is asked to sign, with how it stands. */
export interface CrewNeed extends Signing {
  contactId: string;
  name: string;
  birthDate: string | null;
  /** Whether they can be written to. */
  reachable: boolean;
}

/** What the waivers of an event ask of its crew: of everybody on a shift, or of one of them. */
export async function crewNeeds(
  tx: Queries,
  event: Asking,
  ageOfMajority: number,
  today: string,
  contactId: string | null = null,
): Promise<CrewNeed[]> {
  const waivers = (await whatIsAsked(tx, [event])).rows.filter((w) => w.rules.some((r) => r.crew));
  if (!waivers.length) return [];
  const date = dayOf(event, today);
  const rows = await tx.query<{
    contactId: string;
    name: string;
    birthDate: string | null;
    reachable: boolean;
    roles: string[];
    signed: (Signed & { waiverId: string })[];
  }>(
    `select c.id as contact_id, trim(c.given_name || ' ' || c.family_name) as name, c.birth_date::text as birth_date,
       ${emailOf('c.id')} is not null and ${whyQuiet('c')} is null as reachable, crew.roles,
       coalesce((select jsonb_agg(jsonb_build_object('waiverId', s.waiver_id, 'relation', s.relation, 'version', s.version, 'signers', s.signers))
         from (select g.waiver_id, g.relation, max(v.version) as version, count(distinct lower(g.typed_name))::int as signers
           from signatures g join waiver_versions v on v.id = g.version_id
           where g.contact_id = c.id and g.state = 'valid' and g.known_at is not null
             and (g.event_id = $1 or (g.holds_until is not null and $2::date between g.holds_from and g.holds_until)) group by 1, 2) s), '[]') as signed
     from (select a.contact_id, array_agg(distinct s.role) as roles from assignments a join shifts s on s.id = a.shift_id
         where s.event_id = $1 and s.removed_at is null and a.state in ${among(onShift)} and ($3::uuid is null or a.contact_id = $3) group by 1) crew
       join contacts c on c.id = crew.contact_id order by name, c.id`,
    [event.id, date, contactId],
  );
  return rows.flatMap(({ roles, signed, ...person }) => {
    const asked = waivers.filter((w) =>
      w.rules.some((rule) => asksCrew(rule, roles, person.birthDate, date)),
    );
    if (!asked.length) return [];
    // Whose age nobody knows is taken at their word among the crew: they were accepted as somebody who helps.
    const age = { birthDate: person.birthDate ?? '1900-01-01', saidMinor: false };
    return [
      {
        ...person,
        ...signingOf(
          asked.map((w) => ({
            id: w.id,
            audience: w.audience,
            from: countedFrom(w),
            guardians: w.guardians,
            signed: signed.filter((s) => s.waiverId === w.id),
          })),
          age,
          date,
          ageOfMajority,
        ),
      },
    ];
  });
}
