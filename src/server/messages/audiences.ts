import { wallTimesOf } from '#core/agenda/session.ts';
import { becauseQuiet } from '#core/contacts/quiet.ts';
import { shiftMeets } from '#core/crew/narrowing.ts';
import { aboutOf, audiences, type EventAudience, keyOf } from '#core/messages/audiences.ts';
import { type EventMoment, momentRule, nothingKnown, surveyOf } from '#core/messages/moments.ts';
import { narrowed } from '#core/seats/narrowing.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';
import { because } from '#core/words/reasons.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow, LineRow } from '../events/store.ts';
import { seatsToNarrow } from '../registration/seatTable.ts';
import { theOrganization } from '../staff/store.ts';
import { stillToSign, waiverNeeds } from '../waivers/store.ts';
import { type Following, followersOf } from './followers.ts';
import {
  askedInSurvey,
  attendeeRecipients,
  crewRecipients,
  guardianRecipients,
  type Occasion,
  occasionRecipients,
  orderRecipients,
  partyRecipients,
  type Reached,
  type RecipientRow,
  sessionRecipients,
} from './store.ts';

/** Who is there to write to, of an event or of one order in it; read once however many lines ask. */
export interface People {
  event: EventRow;
  /** Only what concerns one order; null for everybody. */
  orderId: string | null;
  attendees(): ReturnType<typeof attendeeRecipients>;
  /** Everybody of an audience, with what is looked up for a moment. */
  of(audience: EventAudience, moment?: EventMoment): Promise<RecipientRow[]>;
  /** The keys of those whom a line is narrowed to. */
  among(line: Pick<LineRow, 'audience' | 'moment' | 'narrowed'>): Promise<ReadonlySet<string>>;
}

/** Reads something the first time it is asked for. */
function lazily<T>(read: () => Promise<T>): () => Promise<T> {
  let reading: Promise<T> | undefined;
  return () => {
    reading ??= read();
    return reading;
  };
}

export function peopleOf(
  tx: Queries,
  event: EventRow,
  orderId: string | null,
  followerId: string | null = null,
): People {
  const attendees = lazily(() => attendeeRecipients(tx, event.id, orderId));
  const crew = lazily(() => crewRecipients(tx, event.id));
  /** Whether anything is signed there at all, and the orders for whose seats somebody still has to. */
  const signing = lazily(async () => {
    const { ageOfMajority } = await theOrganization(tx);
    const needs = await waiverNeeds(tx, event, ageOfMajority, event.createdAt.slice(0, 10), orderId);
    return {
      asked: needs.length > 0,
      unsigned: new Set(needs.filter(stillToSign).map((need) => need.orderId)),
    };
  });
  const readers: Record<EventAudience, () => Promise<RecipientRow[]>> = {
    orders: async () => (await orderRecipients(tx, event.id, orderId)).map(asOrder),
    attendees: async () => asAttendees(await attendees()),
    guardians: async () =>
      (await guardianRecipients(tx, event.id, { orderId, contactId: null })).map(asGuardian),
    sessions: async () =>
      (await sessionRecipients(tx, event.id, { orderId })).map((r) => asSession(r, event)),
    // An order says nothing of the crew.
    crew: async () => (orderId ? [] : (await crew()).map(asVolunteer)),
    waiting: async () => (await partyRecipients(tx, event.id, orderId)).map(asParty),
    accepted: () => ofOccasion('accepted'),
    offered: () => ofOccasion('offered'),
    'given up': () => ofOccasion('given up'),
    following: async () => (await followersOf(tx, event, { orderId, followerId })).map(asFollower),
  };
  const ofOccasion = async (occasion: Occasion) =>
    (await occasionRecipients(tx, occasion, event.id, orderId)).map(asOccasion);
  const read = new Map<string, Promise<RecipientRow[]>>();
  const of = (audience: EventAudience, moment?: EventMoment): Promise<RecipientRow[]> => {
    const looks = moment && momentRule(moment).looks;
    const survey = looks === 'survey' ? surveyOf(moment!, audience) : null;
    const name = `${audience} ${looks} ${survey?.audience} ${survey?.wave}`;
    const known = read.get(name);
    if (known) return known;
    const reading =
      looks === 'waivers'
        ? of(audience).then(withWaivers)
        : survey
          ? of(audience).then((rows) => withAnswered(rows, survey))
          : readers[audience]();
    read.set(name, reading);
    return reading;
  };
  const withAnswered = async (rows: RecipientRow[], survey: NonNullable<ReturnType<typeof surveyOf>>) => {
    const asked = new Map(
      (await askedInSurvey(tx, event.id, survey)).map(({ contactId, answered }) => [contactId, answered]),
    );
    return rows.map((r) => ({
      ...r,
      standing: { ...r.standing, answered: (r.contactId ? asked.get(r.contactId) : null) ?? null },
    }));
  };
  const withWaivers = async (rows: RecipientRow[]): Promise<RecipientRow[]> => {
    const { asked, unsigned } = await signing();
    return rows.map((r) => ({
      ...r,
      standing: { ...r.standing, waiver: { asked, missing: unsigned.has(r.key) } },
    }));
  };
  const seats = lazily(() => seatsToNarrow(tx, event, orderId));
  const among: People['among'] = async ({ audience, moment, narrowed: conditions }) => {
    const { narrowedBy } = audiences[audience];
    if (narrowedBy === 'shifts')
      return new Set((await crew()).filter((r) => shiftMeets(r, conditions)).map((r) => asVolunteer(r).key));
    const dayOf = (at: string) => dateOf(at, event.zone);
    const theirs = (await seats()).filter((s) => narrowedBy === 'all seats' || s.state === 'confirmed');
    const chosen = narrowed(theirs, { q: '', conditions: [...conditions] }, dayOf);
    const ids = new Set(chosen.map((s) => s.id));
    const orders = new Set(chosen.map((s) => s.orderId));
    const rows = await of(audience);
    return new Set(
      rows.flatMap(({ key, coveredBy }) => {
        const about = aboutOf(audience, key);
        if (
          !(about.of === 'seat' || about.of === 'guardian' || about.of === 'session' ? ids : orders).has(
            about.id,
          )
        )
          return [];
        // The copy for somebody without an address goes to whoever booked, meant or not.
        return coveredBy && !momentRule(moment).alone ? [key, coveredBy.key] : [key];
      }),
    );
  };
  return { event, orderId, attendees, of, among };
}

type Row<Reader extends (...args: never[]) => Promise<unknown[]>> = Awaited<ReturnType<Reader>>[number];

/** What every recipient has, as the database says it. */
const common = (r: Reached) => ({
  contactId: r.contactId,
  name: r.name,
  reach: { email: r.email, 'text message': r.mobile },
  bounced: r.bounced,
  left: r.leftIt,
  language: r.language,
  quiet: becauseQuiet(r.quiet),
  standing: nothingKnown,
  household: r.household,
  coveredBy: null,
  forOthers: false,
  zone: r.zone,
});

const asOrder = (r: Row<typeof orderRecipients>): RecipientRow => ({
  ...common(r),
  key: keyOf({ of: 'order', id: r.orderId }),
  anchor: r.confirmedAt,
  since: r.confirmedAt,
  standing: { ...nothingKnown, owes: r.owed > 0, unnamed: r.unnamed },
});

const asParty = (r: Row<typeof partyRecipients>): RecipientRow => ({
  ...common(r),
  key: keyOf({ of: 'order', id: r.orderId }),
  anchor: r.waitlistedAt,
  since: r.waitlistedAt,
});

/** Of a series, everybody once: who follows both it and one of its dates has one address. */
const asFollower = (r: Following): RecipientRow => ({
  ...common(r),
  key: keyOf({ of: 'follower', id: r.followerId }),
  anchor: r.since,
  since: r.since,
  quiet: becauseQuiet(r.quiet) ?? r.hidden ?? (r.hasSeat ? because('has a seat') : null),
});

const asOccasion = (r: Row<typeof occasionRecipients>): RecipientRow => ({
  ...common(r),
  key: keyOf({ of: 'occasion', id: r.orderId, at: r.at }),
  anchor: r.at,
  since: r.at,
});

const asGuardian = (r: Row<typeof guardianRecipients>): RecipientRow => ({
  ...common(r),
  key: keyOf({ of: 'guardian', id: r.registrationId, contactId: r.contactId! }),
  anchor: r.confirmedAt,
  since: r.confirmedAt,
});

const asSession = (r: Row<typeof sessionRecipients>, event: EventRow): RecipientRow => ({
  ...common(r),
  key: keyOf({ of: 'session', id: r.registrationId, sessionId: r.sessionId }),
  anchor: event.startsLocal
    ? instantOf(wallTimesOf(r, event.startsLocal.slice(0, 10)).startsLocal, event.zone)
    : null,
  since: r.chosenAt,
});

const asVolunteer = (r: Row<typeof crewRecipients>): RecipientRow => ({
  ...common(r),
  key: keyOf({ of: 'shift', id: r.assignmentId }),
  anchor: r.startsAt,
  since: r.madeAt,
});

/** Those who come; and the buyer, who gets the copy for everybody without an address, also when they do not come themselves. */
function asAttendees(rows: Row<typeof attendeeRecipients>[]): RecipientRow[] {
  const seatOfBuyer = new Map(rows.filter((r) => r.isBuyer).map((r) => [r.orderId, r.registrationId]));
  /** Under which key the buyer of an order gets the copy: as somebody who comes, or as the buyer alone. */
  const copyOf = (orderId: string) => {
    const seat = seatOfBuyer.get(orderId);
    return keyOf(seat ? { of: 'seat', id: seat } : { of: 'buyer', id: orderId });
  };
  const seen = new Set<string>();
  return rows.flatMap((r): RecipientRow[] => {
    const own = r.isBuyer || (r.contactId && r.email);
    const since = { anchor: r.confirmedAt, since: r.confirmedAt };
    const forOthers: RecipientRow[] = [];
    if (!own) {
      if (!seatOfBuyer.has(r.orderId) && !seen.has(r.orderId))
        forOthers.push({
          ...common({
            contactId: r.buyerContactId,
            household: null,
            zone: r.ownZone,
            ownZone: r.ownZone,
            name: r.buyerName,
            email: r.buyerEmail,
            mobile: r.buyerMobile,
            bounced: false,
            leftIt: false,
            language: r.language,
            quiet: r.buyerQuiet,
          }),
          ...since,
          key: keyOf({ of: 'buyer', id: r.orderId }),
          forOthers: true,
        });
      seen.add(r.orderId);
    }
    return [
      ...forOthers,
      {
        ...common(r),
        ...since,
        key: keyOf({ of: 'seat', id: r.registrationId }),
        name: r.name || 'a guest not named yet',
        reach: {
          email: r.isBuyer ? (r.buyerEmail ?? r.email) : r.email,
          'text message': r.isBuyer ? (r.buyerMobile ?? r.mobile) : r.mobile,
        },
        coveredBy: own ? null : { key: copyOf(r.orderId), name: r.buyerName },
        standing: { ...nothingKnown, attendance: r.attendance, counted: r.counted },
      },
    ];
  });
}
