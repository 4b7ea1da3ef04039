import type { Role } from '#contract/endpoint.ts';
import type { Organization, OrganizationDetails } from '#contract/staff.ts';
import type { Duty } from '#core/access/duties.ts';
import type { AgainstKind } from '#core/crew/againstKinds.ts';
import type { Rounding } from '#core/crew/serving.ts';
import type { QuietHours } from '#core/messages/hours.ts';
import type { Answering } from '#core/questions/answering.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { SignedIn } from '../app/app.ts';
import { first, once, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export interface OrganizationRow extends Organization {
  holidays: string[];
  sender: string;
  /** The hours in which nothing is sent that can wait. */
  quietHours: QuietHours | null;
  /** Hours of rest volunteers have once in 24 hours, and what nobody is put on a shift in spite of. */
  restHours: number;
  /** Minutes from one place of an event to another. */
  placeMinutes: number;
  /** People are asked to step in as soon as somebody gives a shift back. */
  asksToStepIn: boolean;
  lateMinutes: number;
  roundedTo: Rounding['roundedTo'];
  rounded: Rounding['rounded'];
  /** What an hour of volunteers is worth, in minor units. */
  hourValue: number | null;
  neverOverridden: AgainstKind[];
  /** So many days after an event what is kept of who came stands as it is. */
  attendanceDays: number;
}

const columns =
  'name, about, zone, currency, country, languages, age_of_majority, minimum_notice_days, second_step_required, clock, holidays::text[] as holidays, sender, quiet_hours, rest_hours, place_minutes, never_overridden, asks_to_step_in, late_minutes, rounded_to, rounded, hour_value, attendance_days';

/** The organization; null before it is set up. */
export const readOrganization = (tx: Queries): Promise<OrganizationRow | null> =>
  first<OrganizationRow>(tx, `select ${columns} from organization`);

/** The organization, while it is changed. */
export async function organizationForUpdate(tx: Queries): Promise<OrganizationRow> {
  const row = await first<OrganizationRow>(tx, `select ${columns} from organization for update`);
  if (!row) throw new Error('the organization is not set up');
  return row;
}

/** Whether anything has a price or moved in the organization's own currency: it cannot be another one then. */
export const currencyUsed = async (tx: Queries): Promise<boolean> =>
  (await first<{ used: boolean }>(
    tx,
    `select exists (select 1 from offers) or exists (select 1 from orders) or exists (select 1 from postings)
         or exists (select 1 from giving_pages) or exists (select 1 from event_budget) or exists (select 1 from receipts) as used`,
  ))!.used;

export const setDetails = (tx: Queries, d: OrganizationDetails): Promise<unknown> =>
  tx.query('update organization set name = $1, zone = $2, currency = $3, country = $4, sender = $5', [
    d.name,
    d.zone,
    d.currency,
    d.country,
    d.sender,
  ]);

/** Announced when the organization says times of day by another clock. */
export const faceChanged = 'clock of the organization';

export const setClock = (tx: Queries, clock: 12 | 24): Promise<unknown> =>
  tx.query('update organization set clock = $1', [clock]);

export const setAttendanceDays = (tx: Queries, days: number): Promise<unknown> =>
  tx.query('update organization set attendance_days = $1', [days]);

export const setQuietHours = (tx: Queries, hours: QuietHours | null): Promise<unknown> =>
  tx.query('update organization set quiet_hours = $1', [hours]);

export const setCrewRules = (
  tx: Queries,
  r: Pick<
    OrganizationRow,
    | 'restHours'
    | 'placeMinutes'
    | 'neverOverridden'
    | 'asksToStepIn'
    | 'lateMinutes'
    | 'roundedTo'
    | 'rounded'
    | 'hourValue'
  >,
): Promise<unknown> =>
  tx.query(
    'update organization set rest_hours = $1, never_overridden = $2, asks_to_step_in = $3, late_minutes = $4, rounded_to = $5, rounded = $6, hour_value = $7, place_minutes = $8',
    [
      r.restHours,
      r.neverOverridden,
      r.asksToStepIn,
      r.lateMinutes,
      r.roundedTo,
      r.rounded,
      r.hourValue,
      r.placeMinutes,
    ],
  );

/** The organization where it must exist; read once in a transaction. */
export const theOrganization = (tx: Queries): Promise<OrganizationRow> =>
  once(tx, 'the organization', ['organization'], async () => {
    const row = await readOrganization(tx);
    if (!row) throw new Error('the organization is not set up');
    return row;
  });

/** Where and when something is answered: in the organization's country, on the day it has there. */
export async function answeringAt(tx: Queries, now: string): Promise<Answering> {
  const { country, zone } = await theOrganization(tx);
  return { country, today: dateOf(now, zone) };
}

export interface StaffRow extends Omit<SignedIn, 'sessionId' | 'enrolling' | 'duties' | 'standsFor'> {
  passwordHash: string;
  resting: boolean;
  totpSecret: string | null;
  totpPending: string | null;
  recoveryLeft: number;
}

const staffColumns =
  'id, name, email, roles, approves, unit_id, clock, password_hash, resting, totp_secret, totp_pending, cardinality(recovery_hashes) as recovery_left';

export const staffByEmail = (tx: Queries, emailKey: string): Promise<StaffRow | null> =>
  first<StaffRow>(tx, `select ${staffColumns} from staff where email_key = $1`, [emailKey]);

export const allStaff = (tx: Queries): Promise<StaffRow[]> =>
  tx.query<StaffRow>(`select ${staffColumns} from staff order by name`);

export async function theStaff(tx: Queries, id: string): Promise<StaffRow> {
  const row = await first<StaffRow>(tx, `select ${staffColumns} from staff where id = $1`, [id]);
  if (!row) throw notFound('This account');
  return row;
}

/** A duty with what decides how long it lasts. */
export interface DutyRow extends Duty {
  startsAt: string | null;
  endsAt: string | null;
}

/** What somebody is at single events, as JSON; `staff` is the column with their id. */
export const dutiesSql = (staff: string): string =>
  `coalesce((select jsonb_agg(jsonb_build_object('eventId', t.event_id, 'part', t.part, 'stage', t.stage, 'startsAt', e.starts_at, 'endsAt', e.ends_at))
     from event_team t join events e on e.id = t.event_id where t.staff_id = ${staff}), '[]')`;

export const readDuties = async (tx: Queries, staffId: string): Promise<DutyRow[]> =>
  (await first<{ duties: DutyRow[] }>(
    tx,
    `select ${dutiesSql('s.id')} as duties from staff s where s.id = $1`,
    [staffId],
  ))!.duties;

/** What somebody was invited to do at events is theirs once they have an account. */
export const takeUpDuties = (tx: Queries, invitationId: string, staffId: string): Promise<unknown> =>
  tx.query('update event_team set staff_id = $2, invitation_id = null where invitation_id = $1', [
    invitationId,
    staffId,
  ]);

export const setOwnClock = (tx: Queries, staffId: string, clock: 12 | 24 | null): Promise<unknown> =>
  tx.query('update staff set clock = $2 where id = $1', [staffId, clock]);

/** Who a session belongs to, with how long it has lasted. */
export interface SessionStaff extends Omit<SignedIn, 'enrolling' | 'duties' | 'standsFor'> {
  duties: DutyRow[];
  /** Whom they stand in for, and on which days. */
  absences: { id: string; approves: string[]; from: string; until: string }[];
  zone: string | null;
  createdAt: string;
  seenAt: string;
  secondStep: boolean;
  /** Whether the organization asks for a second step. */
  required: boolean;
}

/** Who a session belongs to, while the account is in use. */
export const staffBySession = (tx: Queries, tokenHash: string): Promise<SessionStaff | null> =>
  first<SessionStaff>(
    tx,
    `select s.id, s.name, s.email, s.roles, s.approves, s.unit_id, s.clock, ${dutiesSql('s.id')} as duties,
       coalesce((select jsonb_agg(jsonb_build_object('id', o.id, 'approves', o.approves, 'from', a.from_on, 'until', a.until_on))
         from staff_absences a join staff o on o.id = a.staff_id where a.deputy_id = s.id and not o.resting), '[]') as absences,
       (select zone from organization) as zone, x.id as session_id, x.created_at, x.seen_at,
       s.totp_secret is not null as second_step, coalesce((select second_step_required from organization), false) as required
     from sessions x join staff s on s.id = x.staff_id
     where x.token_hash = $1 and not s.resting`,
    [tokenHash],
  );

export interface InvitationRow {
  id: string;
  name: string;
  email: string;
  roles: Role[];
  approves: string[];
  unitId: string | null;
  expiresAt: string;
}

export const openInvitations = (tx: Queries, now: string): Promise<InvitationRow[]> =>
  tx.query<InvitationRow>(
    `select id, name, email, roles, approves, unit_id, expires_at from staff_invitations
     where accepted_at is null and revoked_at is null and expires_at > $1 order by created_at desc`,
    [now],
  );

export const invitationByToken = (
  tx: Queries,
  tokenHash: string,
  now: string,
): Promise<InvitationRow | null> =>
  first<InvitationRow>(
    tx,
    `select id, name, email, roles, approves, unit_id, expires_at from staff_invitations
     where token_hash = $1 and accepted_at is null and revoked_at is null and expires_at > $2`,
    [tokenHash, now],
  );
