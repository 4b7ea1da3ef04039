import type { DoorRow } from '#contract/doors.ts';
import type { AttendanceState } from '#core/doors/attendance.ts';
import { presenceOn } from '#core/doors/days.ts';
import { lastDigits } from '#core/doors/finding.ts';
import { marksOfEvent, marksOfSession, presenceOf } from '#core/doors/marks.ts';
import { passHashLength } from '#core/doors/passCode.ts';
import { type DoorFacts, eventDayOf, judge } from '#core/doors/verdict.ts';
import { isOver } from '#core/events/end.ts';
import { lives } from '#core/events/states.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import { sayTime } from '#core/time/say.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { sayVerdict } from '#core/words/verdicts.ts';
import type { Work } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { hasCareSql } from '../registration/care.ts';
import { readSeat } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { refusalsAt, signingAt } from '../waivers/store.ts';
import { doorDaysOf, doorSessions } from './days.ts';
import { handoverHash, isHandedOver } from './handover.ts';
import { collectorsAt, firstTimeSql, hasTags, marksAt, phonesSql, signedUpAt } from './store.ts';

interface RawRow {
  registrationId: string;
  orderId: string;
  given: string;
  family: string;
  buyer: string;
  party: number;
  offer: string;
  seatState: RegistrationState;
  attendance: AttendanceState | null;
  arrivedAt: string | null;
  balance: number;
  passCode: string | null;
  died: boolean;
  care: boolean;
  phones: string[];
  firstTime: boolean;
  birthDate: string | null;
  saidMinor: boolean;
  tagged: boolean;
}

/** Which rows are asked for, and at which door. */
interface AskedAt {
  now: string;
  /** Only this one. */
  registrationId?: string | null;
  /** At the door of this session. */
  sessionId?: string | null;
}

/** The rows of a door list: of the event, or of one of its sessions; at that everybody is on it, and it is said whose session it is. */
export async function doorRows(
  { tx, app }: Pick<Work, 'tx' | 'app'>,
  event: EventRow,
  { now, registrationId = null, sessionId = null }: AskedAt,
): Promise<DoorRow[]> {
  const { ageOfMajority, zone } = await theOrganization(tx);
  // Of one seat no more is read than of its booking.
  const orderId = registrationId && (await readSeat(tx, registrationId)).orderId;
  const signing = await signingAt(tx, event, ageOfMajority, dateOf(now, zone), orderId);
  const rows = await tx.query<RawRow>(
    `select r.id as registration_id, r.order_id, r.given_name as given, r.family_name as family, o.buyer_given || ' ' || o.buyer_family as buyer,
       o.seats as party, f.name as offer, r.state as seat_state, a.state as attendance, a.arrived_at, r.pass_code, r.birth_date::text as birth_date, r.said_minor,
       r.tag_printed_at is not null as tagged, greatest(0, o.balance) as balance,
       exists (select 1 from contacts k where k.id = r.contact_id and k.deceased_on is not null) as died, ${hasCareSql('r', 'o')} as care,
       ${phonesSql('r', 'o')} as phones, ${firstTimeSql('r')} as first_time
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id
       left join attendance a on a.registration_id = r.id
     where r.event_id = $1 and (r.id = $2 or ($2::uuid is null and r.state = 'confirmed'))
     order by (r.family_name = '' and r.given_name = ''), r.family_name, r.given_name, r.id`,
    [event.id, registrationId],
  );
  const presence = await presenceFor(tx, event, { now, registrationId, sessionId });
  const refusals = signing.waivers.length
    ? await refusalsAt(tx, event.id, registrationId, dateOf(now, zone))
    : new Map<string, string[]>();
  const collectors = event.doors.handover ? await collectorsAt(tx, event.id, registrationId) : new Map();
  const tags = rows.some((r) => r.tagged) || (registrationId !== null && (await hasTags(tx, event.id)));
  const closedSince =
    event.absencesAt && !isOver(event, now) ? sayTime(wallOf(event.absencesAt, event.zone)) : null;
  const day = eventDayOf(event, dateOf(now, event.zone));
  return rows.map((r) => {
    const { standing: need, toSign } = signing.need(r.registrationId);
    const here = presence.of(r);
    const confirmed = r.seatState === 'confirmed';
    const verdict = judge({
      seatState: r.seatState,
      attendance: here.state,
      waiverMissing: need === 'self' || need === 'guardian' ? need : null,
      balance: r.balance,
      sameEvent: true,
      day,
      closedDoor: lives(event.state) ? null : event.state,
      firstTime: r.firstTime,
      saidNo: refusals.get(r.registrationId) ?? [],
      session: here.session,
      cameBefore: here.cameBefore,
      closedSince,
      tag: tags ? (r.tagged ? 'ready' : 'to make') : null,
    });
    const handed = isHandedOver(event, r, now, ageOfMajority);
    return {
      registrationId: r.registrationId,
      orderId: r.orderId,
      given: r.given,
      family: r.family,
      party: r.party > 1 ? sayReason(because('party of', { count: r.party, buyer: r.buyer })) : '',
      offer: r.offer,
      attendance: here.state,
      arrivedAt: here.arrivedAt,
      undo: here.undo,
      pass: r.passCode && sha256(r.passCode).slice(0, passHashLength),
      digits: lastDigits(r.phones),
      light: verdict.light,
      headline: sayVerdict(verdict.headline),
      // The family is spared the question at the door.
      details: [
        ...(r.died ? [sayReason(because('died, not asked for'))] : []),
        ...verdict.details.map(sayVerdict),
      ],
      toKnow: verdict.toKnow.map(sayVerdict),
      // Nobody signs or pays at the door for a seat that is none.
      missing: confirmed
        ? [
            ...(need === 'guardian'
              ? (['guardian'] as const)
              : need === 'self'
                ? (['signature'] as const)
                : []),
            ...(r.balance > 0 ? (['money'] as const) : []),
          ]
        : [],
      toSign: confirmed ? toSign : [],
      balance: r.balance,
      here: here.session?.theirs ?? true,
      handover: handed
        ? {
            hash: handoverHash(app, { id: r.registrationId, orderId: r.orderId }),
            // Whoever booked, where that is not the child.
            collect: [
              ...new Set([
                ...(r.buyer.trim() === `${r.given} ${r.family}`.trim() ? [] : [r.buyer.trim()]),
                ...(collectors.get(r.registrationId) ?? []),
              ]),
            ],
          }
        : null,
      tagged: tags ? r.tagged : null,
      care: r.care,
    };
  });
}

/** Where somebody is at a door, and at that of a session whose it is. */
interface Here {
  state: AttendanceState;
  arrivedAt: string | null;
  undo: string[];
  cameBefore: boolean;
  session: DoorFacts['session'];
}

/**
 * Where people are at a door. Of an event of one day it is what is kept; on one of several, and at the door of a session, it follows from the
 * marks of the day.
 */
async function presenceFor(
  tx: Queries,
  event: EventRow,
  { now, registrationId = null, sessionId = null }: AskedAt,
): Promise<{ of: (row: Pick<RawRow, 'registrationId' | 'attendance' | 'arrivedAt'>) => Here }> {
  const days = await doorDaysOf(tx, event);
  // Once it is over, it is the whole event that is looked at.
  if (!sessionId && (days.length < 2 || isOver(event, now))) {
    const marks = await marksAt(tx, event.id, 'inside', registrationId);
    return {
      of: (r) => ({
        state: r.attendance ?? 'expected',
        arrivedAt: r.arrivedAt,
        undo: presenceOf(marksOfEvent(marks.get(r.registrationId) ?? [])).undo,
        cameBefore: false,
        session: null,
      }),
    };
  }
  const marks = await marksAt(tx, event.id, 'everybody', registrationId);
  const sessions = sessionId ? await doorSessions(tx, event) : [];
  const session = sessions.find((s) => s.id === sessionId);
  if (sessionId && !session) throw refused('session-elsewhere');
  const signedUp = session ? await signedUpAt(tx, event.id, registrationId) : new Map<string, string[]>();
  return {
    of: (r) => {
      const of = marks.get(r.registrationId) ?? [];
      const inEvent = presenceOn(marksOfEvent(of), days, now);
      if (!session)
        return {
          ...inEvent,
          // Whoever did not come on this day either is missed only once the event is over.
          state: r.attendance === 'missed' && inEvent.state === 'expected' ? 'missed' : inEvent.state,
          session: null,
        };
      const chosen = new Set(signedUp.get(r.registrationId) ?? []);
      const instead = sessions.find(
        (s) => chosen.has(s.id) && s.id !== session.id && s.from < session.until && session.from < s.until,
      );
      const at = presenceOn(marksOfSession(of, session.id), days, now);
      return {
        ...at,
        session: {
          theirs: !session.signUp || chosen.has(session.id),
          instead: instead ? [instead.title, instead.room].filter(Boolean).join(', ') : null,
          inEvent: inEvent.state === 'arrived',
        },
      };
    },
  };
}
