import type { DoorRow } from '#contract/doors.ts';
import type { AttendanceState } from '#core/doors/attendance.ts';
import { lastDigits } from '#core/doors/finding.ts';
import { passHashLength } from '#core/doors/passCode.ts';
import { eventDayOf, judge } from '#core/doors/verdict.ts';
import { lives } from '#core/events/states.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { sayVerdict } from '#core/words/verdicts.ts';
import type { Queries } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import type { EventRow } from '../events/store.ts';
import { hasCareSql } from '../registration/care.ts';
import { readSeat } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { refusalsAt, signingAt } from '../waivers/store.ts';
import { firstTimeSql, phonesSql, undoOf } from './store.ts';

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
}

/** The rows of the door list; with `registrationId` only that one. */
export async function doorRows(
  tx: Queries,
  event: EventRow,
  now: string,
  registrationId: string | null = null,
): Promise<DoorRow[]> {
  const { ageOfMajority, zone } = await theOrganization(tx);
  // Of one seat no more is read than of its booking.
  const orderId = registrationId && (await readSeat(tx, registrationId)).orderId;
  const signing = await signingAt(tx, event, ageOfMajority, dateOf(now, zone), orderId);
  const rows = await tx.query<RawRow>(
    `select r.id as registration_id, r.order_id, r.given_name as given, r.family_name as family, o.buyer_given || ' ' || o.buyer_family as buyer,
       o.seats as party, f.name as offer, r.state as seat_state, a.state as attendance, a.arrived_at, r.pass_code,
       greatest(0, o.balance) as balance,
       exists (select 1 from contacts k where k.id = r.contact_id and k.deceased_on is not null) as died, ${hasCareSql('r', 'o')} as care,
       ${phonesSql('r', 'o')} as phones, ${firstTimeSql('r')} as first_time
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id
       left join attendance a on a.registration_id = r.id
     where r.event_id = $1 and (r.id = $2 or ($2::uuid is null and r.state = 'confirmed'))
     order by (r.family_name = '' and r.given_name = ''), r.family_name, r.given_name, r.id`,
    [event.id, registrationId],
  );
  const undo = await undoOf(tx, event.id, registrationId);
  const refusals = signing.waivers.length
    ? await refusalsAt(tx, event.id, registrationId, dateOf(now, zone))
    : new Map<string, string[]>();
  return rows.map((r) => {
    const { standing: need, toSign } = signing.need(r.registrationId);
    const verdict = judge({
      seatState: r.seatState,
      attendance: r.attendance ?? 'expected',
      waiverMissing: need === 'self' || need === 'guardian' ? need : null,
      balance: r.balance,
      sameEvent: true,
      day: eventDayOf(event, dateOf(now, event.zone)),
      closedDoor: lives(event.state) ? null : event.state,
      firstTime: r.firstTime,
      saidNo: refusals.get(r.registrationId) ?? [],
    });
    return {
      registrationId: r.registrationId,
      orderId: r.orderId,
      given: r.given,
      family: r.family,
      party: r.party > 1 ? sayReason(because('party of', { count: r.party, buyer: r.buyer })) : '',
      offer: r.offer,
      attendance: r.attendance ?? 'expected',
      arrivedAt: r.arrivedAt,
      undo: undo.get(r.registrationId) ?? [],
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
      missing: [
        ...(need === 'guardian' ? (['guardian'] as const) : need === 'self' ? (['signature'] as const) : []),
        ...(r.balance > 0 ? (['money'] as const) : []),
      ],
      toSign,
      balance: r.balance,
      care: r.care,
    };
  });
}
