import type { SessionPlan, Speaker, Sponsor } from '#contract/agenda.ts';
import type { SeasonEvent, VenueChoice } from '#contract/events.ts';
import type { Code, EventPlan, Extra, French, MessageLinePlan, Offer, QuestionPlan } from '#contract/plan.ts';
import type { SurveyPlan } from '#contract/surveyPlan.ts';
import type { NeededShift } from '#core/clearance/night.ts';
import { searchWords } from '#core/contacts/search.ts';
import type { Importance } from '#core/crew/importance.ts';
import { onShift } from '#core/crew/states.ts';
import type { Waiting } from '#core/events/copy.ts';
import type { KindMark } from '#core/events/kinds.ts';
import { type PlainField, type PlanField, plainFields } from '#core/events/parts.ts';
import type { EventState } from '#core/events/states.ts';
import { liveStates, shownToPublic } from '#core/events/states.ts';
import type { Reworded } from '#core/surveys/checking.ts';
import type { SurveyQuestion } from '#core/surveys/survey.ts';
import type { Reason } from '#core/words/reasons.ts';
import { among } from '../db/among.ts';
import { first, once, type Queries, snake } from '../db/database.ts';
import { notFound } from '../http/problem.ts';
import { endSql } from './end.ts';

/** What of a shift is copied with its event. */
export interface CopiedShift {
  name: string;
  role: string;
  place: string;
  startsLocal: string;
  endsLocal: string;
  least: number;
  wished: number;
  importance: Importance;
  briefing: string;
  publicSignUp: boolean;
}

/** The values a plan has in the event's own row. */
export type PlainPlan = Pick<EventPlan, PlainField>;
export const plainPlan = (event: PlainPlan): PlainPlan =>
  Object.fromEntries(plainFields.map((field) => [field, event[field]])) as unknown as PlainPlan;

export interface EventRow extends PlainPlan {
  id: string;
  /** What it is paid in: its currency, or else that of the organization. */
  paidIn: string;
  unitName: string | null;
  state: EventState;
  isTemplate: boolean;
  startsAt: string | null;
  endsAt: string | null;
  doorsAt: string | null;
  registrationClosesAt: string | null;
  /** When the first of its tickets go on sale; null where some are from the beginning. */
  salesOpenLocal: string | null;
  /** When its doors were closed, and whoever was expected still was missed. */
  absencesAt: string | null;
  /** Until when what is kept of who came can be changed once more. */
  attendanceOpenUntil: string | null;
  venueName: string | null;
  venueAddress: string | null;
  venueCapacity: number | null;
  /** Whether its place is the organization's own; null where nobody said. */
  venueOurs: boolean | null;
  /** How many speak there. */
  speaking: number;
  plannedShifts: NeededShift[];
  /** Whether several events may be at the place at once. */
  venueShared: boolean | null;
  /** Whether it has its place, where one is to be had. */
  booked: boolean;
  /** How many work on it beyond their roles. */
  team: number;
  /** Who proposed it from outside, and whether that waits for an answer; null where nobody did. */
  proposal: { name: string; state: 'new' | 'taken' | 'declined' } | null;
  /** Whether a change of it can be taken back still. */
  settling: boolean;
  /** Whether some answer belongs on the records of who answers. */
  asksForRecord: boolean;
  /** How its kind looks, where it is one of the register. */
  kind: (KindMark & { pictureId: string | null }) | null;
  /** French names of its kind and its draws, by their names. */
  inFrench: Record<string, string>;
  venueAccess: string | null;
  venuePictureId: string | null;
  latitude: number | null;
  longitude: number | null;
  copiedFromTitle: string | null;
  /** The first event this goes back to by copying. */
  firstOf: string | null;
  leftBehind: Reason[];
  /** What hangs on a date and waits for one. */
  waits: Waiting<CopiedShift> | null;
  /** The series it is a date of, the slot it has there, and what of it was changed by hand. */
  seriesId: string | null;
  slot: string | null;
  own: PlanField[];
  /** A digest of the English that each French text was written beside. */
  frenchOf: Partial<Record<keyof French, string>>;
  version: number;
  createdAt: string;
}

/** What an event is paid in. */
const paidInSql = 'coalesce(e.currency, (select g.currency from organization g))';
/** A place with its room, as people read it. */
const placeName = "v.name || coalesce(', ' || rm.name, '')";
/** How many a place holds: as the room is set up, the room, or the place. */
const holds = `coalesce((select (l->>'capacity')::int from jsonb_array_elements(rm.layouts) l where l->>'name' = e.layout limit 1), rm.capacity, v.capacity)`;
const columns = `e.id, ${plainFields.map((field) => `e.${snake(field)}`).join(', ')}, ${paidInSql} as paid_in, u.name as unit_name, e.state, e.is_template,
  e.starts_at, e.ends_at, e.doors_at, e.registration_closes_at, e.absences_at, e.attendance_open_until,
  (select case when bool_and(o.opens_local is not null) then min(o.opens_local) end
     from offers o where o.event_id = e.id and o.removed_at is null and not o.hidden) as sales_open_local, ${placeName} as venue_name, v.address as venue_address,
  ${holds} as venue_capacity, v.shared as venue_shared, v.ours as venue_ours,
  (select count(*)::int from speakers sp where sp.event_id = e.id and sp.removed_at is null) as speaking,
  coalesce((select jsonb_agg(jsonb_build_object('startsLocal', to_char(sh.starts_local, 'YYYY-MM-DD"T"HH24:MI'), 'endsLocal',
     to_char(sh.ends_local, 'YYYY-MM-DD"T"HH24:MI'), 'needed', sh.least) order by sh.starts_at, sh.id)
     from shifts sh where sh.event_id = e.id and sh.removed_at is null), '[]') as planned_shifts, exists (select 1 from bookings b where b.event_id = e.id) as booked,
  (select count(*)::int from event_team t where t.event_id = e.id) as team,
  (select jsonb_build_object('name', p.name, 'state', p.state) from event_proposals p where p.event_id = e.id) as proposal,
  exists (select 1 from changes ch where ch.event_id = e.id and ch.settles_at is not null) as settling,
  exists (select 1 from questions q where q.event_id = e.id and q.keeps is not null) as asks_for_record,
  (select jsonb_build_object('shape', k.shape, 'colour', k.colour, 'pictureId', k.picture_id) from kinds k
     where k.sort = 'category' and lower(k.name) = lower(e.category)) as kind,
  coalesce((select jsonb_object_agg(k.name, k.french) from kinds k where k.french <> ''
     and (k.name = any(e.draws) or lower(k.name) = lower(e.category))), '{}') as in_french, v.access_notes as venue_access, v.picture_id as venue_picture_id, v.latitude, v.longitude, e.copied_from_title, e.first_of, e.left_behind,
  e.waits, e.series_id, e.slot, e.own, e.french_of, e.version, e.created_at`;
const from =
  'from events e left join units u on u.id = e.unit_id left join venues v on v.id = e.venue_id left join rooms rm on rm.id = e.room_id';

/** What an event is read from. */
const readFrom = [
  'events',
  'organization',
  'units',
  'venues',
  'rooms',
  'speakers',
  'shifts',
  'bookings',
  'event_team',
  'event_proposals',
  'changes',
  'questions',
  'kinds',
  'offers',
];

/** One event, read once in a transaction; throws 404. With `lock`, other transactions wait until this one is through. */
export async function readEvent(tx: Queries, id: string, lock = false): Promise<EventRow> {
  const row = await once(
    tx,
    `event ${id}`,
    readFrom,
    () =>
      first<EventRow>(tx, `select ${columns} ${from} where e.id = $1 ${lock ? 'for update of e' : ''}`, [id]),
    // Who waited for the lock may find another event than before.
    lock,
  );
  if (!row) throw notFound('This event');
  return { ...row };
}

export const readEventBySlug = (tx: Queries, slug: string): Promise<EventRow | null> =>
  first<EventRow>(tx, `select ${columns} ${from} where e.slug = $1`, [slug]);

/** An event in the public's calendar, with what its seats are counted from. */
export interface ListedRow
  extends Pick<
    EventRow,
    | 'id'
    | 'slug'
    | 'summary'
    | 'french'
    | 'category'
    | 'draws'
    | 'state'
    | 'startsLocal'
    | 'endsLocal'
    | 'startsAt'
    | 'endsAt'
    | 'allDay'
    | 'showEnd'
    | 'zone'
    | 'registrationClosesAt'
    | 'capacity'
    | 'onlineCapacity'
    | 'venueCapacity'
    | 'version'
    | 'visibility'
    | 'unitId'
    | 'partnerIds'
  > {
  title: string;
  unit: string | null;
  place: string | null;
  venue: string | null;
  venueAddress: string | null;
  online: { link: string } | null;
  lowest: number | null;
  highest: number | null;
  /** What it is paid in. */
  paidIn: string;
  /** Its own banner; without one it has the picture of its kind. */
  bannerId: string | null;
}

/** Events that are listed for somebody, from an instant on by their end; with `calledOff` those too. Who may see which is core's. */
export const readListed = (tx: Queries, since: string, calledOff = false): Promise<ListedRow[]> =>
  tx.query<ListedRow>(
    `select e.id, e.slug, e.public_title as title, e.summary, e.french - 'description' as french, e.category, e.draws, e.state, u.name as unit,
       ${placeName} as place, v.name as venue, v.address as venue_address, e.online, e.starts_local, e.ends_local, e.starts_at, e.ends_at, e.all_day,
       e.show_end, e.zone, e.registration_closes_at, e.capacity, e.online_capacity, ${holds} as venue_capacity, e.version, e.visibility, e.unit_id, e.partner_ids,
       o.lowest, o.highest, ${paidInSql} as paid_in, e.banner_id
     ${from}
       left join (select event_id, min(price)::int as lowest, max(price)::int as highest from offers where removed_at is null group by event_id) o
         on o.event_id = e.id
     where e.state in ${among(calledOff ? shownToPublic : shownToPublic.filter((s) => s !== 'called off'))} and e.listed and e.visibility <> 'link' and not e.is_template
       and e.slug is not null and ${endSql('e')} > $1::timestamptz order by e.starts_at`,
    [since],
  );

/** Events that are planned, run or were over lately, soonest first; those without a date come last. */
export const readLive = (tx: Queries, now: string, lingerDays: number): Promise<EventRow[]> =>
  tx.query<EventRow>(
    `select ${columns} ${from} where not e.is_template and e.state in ${among(liveStates)}
       and (e.starts_at is null or ${endSql('e')} > $1::timestamptz - make_interval(days => $2))
     order by e.starts_at nulls last, e.id`,
    [now, lingerDays],
  );

/** Dates of a series that the public may come to and that are to come, soonest first. */
export const readSeriesDates = (tx: Queries, seriesId: string, now: string): Promise<EventRow[]> =>
  tx.query<EventRow>(
    `select ${columns} ${from} where e.series_id = $1 and e.state = 'open' and e.slug is not null and e.starts_local is not null
       and ${endSql('e')} > $2 order by e.starts_at limit 60`,
    [seriesId, now],
  );

const offerColumns = `id, name, about, pricing, price, least, deposit, prices, taxed, value_received, quantity, seats_per_unit, least_per_order,
  most_per_order, most_per_person, opens_local, closes_local, hidden, from_age, to_age, online, french`;

export const readOffers = (tx: Queries, eventId: string): Promise<Offer[]> =>
  tx.query<Offer>(
    `select ${offerColumns} from offers where event_id = $1 and removed_at is null order by position`,
    [eventId],
  );

/** The offers of each of some events. */
export async function readOffersOf(
  tx: Queries,
  eventIds: readonly string[],
): Promise<ReadonlyMap<string, Offer[]>> {
  const rows = await tx.query<Offer & { eventId: string }>(
    `select event_id, ${offerColumns} from offers where event_id = any($1) and removed_at is null order by position`,
    [eventIds],
  );
  const of = new Map<string, Offer[]>(eventIds.map((id) => [id, []]));
  for (const row of rows) of.get(row.eventId)!.push(row);
  return of;
}

/** What an event sells. */
export interface Sold {
  offers: Offer[];
  extras: Extra[];
  codes: Code[];
}

/** What an event sells, read at once. */
export async function readSold(tx: Queries, eventId: string): Promise<Sold> {
  const row = await first<Sold>(
    tx,
    `select
       coalesce((select jsonb_agg(jsonb_build_object('id', o.id, 'name', o.name, 'about', o.about, 'pricing', o.pricing, 'price', o.price, 'least', o.least,
         'deposit', o.deposit, 'prices', o.prices, 'taxed', o.taxed, 'valueReceived', o.value_received, 'quantity', o.quantity,
         'seatsPerUnit', o.seats_per_unit, 'leastPerOrder', o.least_per_order, 'mostPerOrder', o.most_per_order, 'mostPerPerson', o.most_per_person,
         'opensLocal', o.opens_local, 'closesLocal', o.closes_local, 'hidden', o.hidden, 'fromAge', o.from_age, 'toAge', o.to_age, 'online', o.online,
         'french', o.french) order by o.position) from offers o where o.event_id = $1 and o.removed_at is null), '[]') as offers,
       coalesce((select jsonb_agg(jsonb_build_object('id', e.id, 'name', e.name, 'about', e.about, 'french', e.french, 'price', e.price, 'taxed', e.taxed,
         'valueReceived', e.value_received, 'chance', e.chance, 'quantity', e.quantity, 'mostPerOrder', e.most_per_order, 'options', e.options) order by e.position)
         from extras e where e.event_id = $1 and e.removed_at is null), '[]') as extras,
       coalesce((select jsonb_agg(jsonb_build_object('id', c.id, 'code', c.code, 'note', c.note, 'offerIds', c.offer_ids, 'opens', c.opens, 'off', c.off,
         'fromLocal', c.from_local, 'untilLocal', c.until_local, 'most', c.most, 'mostPerPerson', c.most_per_person) order by c.position)
         from codes c where c.event_id = $1 and c.removed_at is null), '[]') as codes`,
    [eventId],
  );
  return row!;
}

/** Who speaks at an event, who pays for it, and what happens when. */
export interface Programme {
  speakers: Speaker[];
  sponsors: Sponsor[];
  sessions: SessionPlan[];
}

/** The programme of an event, read at once. A speaker who was taken off the event is off its sessions. */
export async function readProgramme(tx: Queries, eventId: string): Promise<Programme> {
  const row = await first<Programme>(
    tx,
    `select
       coalesce((select jsonb_agg(jsonb_build_object('id', s.id, 'contactId', s.contact_id, 'name', s.name, 'line', s.line, 'pictureId', s.picture_id)
         order by s.position) from speakers s where s.event_id = $1 and s.removed_at is null), '[]') as speakers,
       coalesce((select jsonb_agg(jsonb_build_object('id', s.id, 'contactId', s.contact_id, 'name', s.name, 'level', s.level, 'address', s.address,
         'pictureId', s.picture_id) order by s.position) from sponsors s where s.event_id = $1 and s.removed_at is null), '[]') as sponsors,
       coalesce((select jsonb_agg(jsonb_build_object('id', s.id, 'kind', s.kind, 'title', s.title, 'about', s.about, 'day', s.day, 'begins', s.begins,
         'ends', s.ends, 'trackId', s.track_id, 'roomId', s.room_id, 'capacity', s.capacity, 'signUp', s.sign_up,
         'speakerIds', array(select sp.id from unnest(s.speaker_ids) with ordinality as of (id, at)
           join speakers sp on sp.id = of.id and sp.removed_at is null order by of.at)) order by s.position)
         from agenda_sessions s where s.event_id = $1 and s.removed_at is null), '[]') as sessions`,
    [eventId],
  );
  return row!;
}

/** The rooms of a place that can be chosen. */
export const roomsOf = (
  tx: Queries,
  venueId: string | null,
): Promise<{ id: string; name: string; capacity: number | null }[]> =>
  tx.query<{ id: string; name: string; capacity: number | null }>(
    'select id, name, capacity from rooms where venue_id = $1 and retired_at is null order by position',
    [venueId],
  );

export const readQuestions = (tx: Queries, eventId: string): Promise<QuestionPlan[]> =>
  tx.query<QuestionPlan>(
    'select id, offer_id, scope, kind, prompt, help, required, choices, shown_if, least, most, keeps, seen_by, sensitive from questions where event_id = $1 and removed_at is null order by position',
    [eventId],
  );

/** A line of the message plan, with what is not the plan's: when it came in, and when it was sent by hand. */
export interface LineRow extends MessageLinePlan {
  addedAt: string | null;
  sentByHandAt: string | null;
}

export const readMessageLines = (tx: Queries, eventId: string): Promise<readonly LineRow[]> =>
  once(tx, `lines of ${eventId}`, ['message_lines'], () =>
    tx.query<LineRow>(
      `select id, name, moment, offset_days, offset_minutes, channel, audience, late, useful_minutes, working_days, household, narrowed, off, subject, preview, body, formatted, french_of,
         added_at, sent_by_hand_at
       from message_lines where event_id = $1 and removed_at is null order by position`,
      [eventId],
    ),
  );

/** A survey of an event, with what it does not ask any more. */
export type SurveyRow = SurveyPlan & {
  /** Questions that were answered and are not asked any more. */
  retired: SurveyQuestion[];
  reworded: Reworded[];
};

export const surveyColumns =
  'id, audience, wave, title, intro, anonymous, group_by, closes_days, pages, retired, reworded';

export const readSurveys = (tx: Queries, eventId: string): Promise<readonly SurveyRow[]> =>
  once(tx, `surveys of ${eventId}`, ['surveys'], () =>
    tx.query<SurveyRow>(
      `select ${surveyColumns} from surveys where event_id = $1 and removed_at is null order by position, audience, wave`,
      [eventId],
    ),
  );

export interface StateRow {
  state: EventState;
  at: string;
  words: string;
  actor: string;
}

export const readStates = (tx: Queries, eventId: string): Promise<StateRow[]> =>
  tx.query<StateRow>('select state, at, words, actor from event_states where event_id = $1 order by at, id', [
    eventId,
  ]);

/** An event in a list, with what decides who may open it. */
export type SeasonRow = Omit<SeasonEvent, 'see' | 'missing' | 'mark'> &
  Pick<EventRow, 'unitId' | 'partnerIds' | 'endsAt' | 'doorsAt'> & {
    /** Its category as kinds are found by. */
    kind: string;
    placed: boolean;
    onOffer: boolean;
    unfilled: number;
  };

/** How kinds of events look, by the names events find them by. */
export async function readMarks(tx: Queries): Promise<ReadonlyMap<string, KindMark>> {
  const kinds = await tx.query<{ name: string } & KindMark>(
    "select lower(name) as name, shape, colour from kinds where sort = 'category'",
  );
  return new Map(kinds.map(({ name, ...mark }) => [name, mark]));
}

/** Every event with its counts of seats and arrivals. */
export const readSeason = (
  tx: Queries,
  where = 'true',
  params: readonly unknown[] = [],
): Promise<SeasonRow[]> =>
  tx.query<SeasonRow>(
    `select e.id, coalesce(nullif(e.public_title, ''), nullif(e.team_title, ''), 'Untitled') as title, u.name as unit, e.state, e.is_template,
       coalesce(e.first_of, e.id) as first_of, e.series_id, e.starts_local, e.ends_local, e.starts_at, e.ends_at, e.doors_at, e.unit_id, e.partner_ids, e.zone, ${placeName} as venue, e.capacity,
       lower(e.category) as kind, e.category, coalesce(lead.names, '{}') as leads, case when v.shared then null else coalesce(e.room_id, e.venue_id)::text end as space,
       (e.venue_id is not null or e.online is not null) as placed,
       (e.register_at is not null or exists (select 1 from offers o where o.event_id = e.id and o.removed_at is null)) as on_offer,
       coalesce(crew.unfilled, 0)::int as unfilled,
       coalesce(c.confirmed, 0) as confirmed, coalesce(c.held, 0) as held, coalesce(c.waitlisted, 0) as waitlisted, coalesce(c.arrived, 0) as arrived
     ${from}
     left join event_counts c on c.event_id = e.id
     left join (select t.event_id, array_agg(coalesce(s.name, i.name) order by t.part desc, t.added_at) as names from event_team t
         left join staff s on s.id = t.staff_id left join staff_invitations i on i.id = t.invitation_id
       where t.part in ('lead', 'co-organizer') group by t.event_id) lead on lead.event_id = e.id
     left join (select s.event_id, sum(greatest(0, s.wished - (select count(*) from assignments x where x.shift_id = s.id
         and x.state in ${among(onShift)}))) as unfilled from shifts s where s.removed_at is null group by s.event_id) crew on crew.event_id = e.id
     where not exists (select 1 from series s where s.pattern_id = e.id) and ${where} order by e.starts_at nulls last, e.created_at`,
    params,
  );

/** Events whose titles hold every word. */
export const searchEvents = (tx: Queries, search: string, limit: number) => {
  const words = searchWords(search);
  return tx.query<
    { id: string; title: string; state: string } & Pick<
      EventRow,
      'startsLocal' | 'unitId' | 'partnerIds' | 'startsAt' | 'endsAt' | 'doorsAt'
    >
  >(
    `select id, public_title as title, starts_local, state, unit_id, partner_ids, starts_at, ends_at, doors_at from events
     where not is_template ${words.map((_, at) => `and lower(public_title || ' ' || team_title) like $${at + 1}`).join(' ')}
     order by abs(extract(epoch from (starts_at - (select max(created_at) from events)))) nulls last limit ${limit}`,
    words.map((w) => `%${w.replace(/[\\%_]/gu, '\\$&')}%`),
  );
};

export const readChoices = async (tx: Queries) => ({
  units: await tx.query<{ id: string; name: string }>('select id, name from units order by name'),
  venues: await tx.query<VenueChoice>(
    `select v.id, v.name, v.address, v.capacity, v.ours, coalesce((select jsonb_agg(jsonb_build_object('id', rm.id, 'name', rm.name, 'capacity', rm.capacity,
         'layouts', rm.layouts) order by rm.position) from rooms rm where rm.venue_id = v.id and rm.retired_at is null), '[]') as rooms
     from venues v where v.retired_at is null order by v.name`,
  ),
  waivers: await tx.query<{
    id: string;
    title: string;
    version: number;
    audience: string;
    closed: boolean;
    holds: string;
  }>(
    `select w.id, w.title, (select max(v.version) from waiver_versions v where v.waiver_id = w.id) as version, w.audience, w.closed_at is not null as closed,
       w.holds ->> 'for' as holds from waivers w order by w.title`,
  ),
  templates: await tx.query<{ id: string; title: string }>(
    'select id, public_title as title from events e where is_template and not exists (select 1 from series s where s.pattern_id = e.id) order by public_title',
  ),
  funds: await tx.query<{ id: string; name: string }>('select id, name from funds order by name'),
  initiatives: await tx.query<{ id: string; name: string }>('select id, name from initiatives order by name'),
  holidays:
    (await first<{ holidays: string[] }>(tx, 'select holidays::text[] as holidays from organization'))
      ?.holidays ?? [],
});

/** What plans choose from. */
export type Register = 'units' | 'funds' | 'initiatives';

/** Whether a register has a row of this name, other than the one given. */
export const isRegistered = async (
  tx: Queries,
  register: Register,
  name: string,
  but: string | null = null,
): Promise<boolean> =>
  (await first(
    tx,
    `select 1 as x from ${register} where lower(name) = lower($1) and id is distinct from $2::uuid`,
    [name, but],
  )) !== null;

export async function nameInRegister(tx: Queries, register: Register, id: string): Promise<string> {
  const row = await first<{ name: string }>(tx, `select name from ${register} where id = $1 for update`, [
    id,
  ]);
  if (!row) throw notFound('This entry');
  return row.name;
}

/** Shifts that waited for a date, taken once: whoever asks puts them where they belong. */
export async function takeWaiting(tx: Queries, id: string): Promise<Waiting<CopiedShift> | null> {
  const event = await readEvent(tx, id, true);
  if (event.waits) await tx.query('update events set waits = null where id = $1', [id]);
  return event.waits;
}

/** How many help at one stage of an event. */
export async function countHelpers(tx: Queries, id: string): Promise<number> {
  const row = await first<{ n: number }>(
    tx,
    "select count(*)::int as n from event_team where event_id = $1 and part = 'helper'",
    [id],
  );
  return row!.n;
}

/** How many shifts an event has. */
export async function countShifts(tx: Queries, id: string): Promise<number> {
  const row = await first<{ n: number }>(
    tx,
    'select count(*)::int as n from shifts where event_id = $1 and removed_at is null',
    [id],
  );
  return row?.n ?? 0;
}
