import type { Role } from '#contract/endpoint.ts';
import type { Organization } from '#contract/staff.ts';
import { first, type Queries } from '../db/database.ts';
import type { SignedIn } from '../http/app.ts';

export interface OrganizationRow extends Organization {
  holidays: string[];
  sender: string;
}

const columns =
  'name, about, zone, currency, country, languages, age_of_majority, minimum_notice_days, holidays::text[] as holidays, sender';

/** The organization; null before it is set up. */
export const readOrganization = (tx: Queries): Promise<OrganizationRow | null> =>
  first<OrganizationRow>(tx, `select ${columns} from organization`);

/** The organization where it must exist. */
export async function theOrganization(tx: Queries): Promise<OrganizationRow> {
  const row = await readOrganization(tx);
  if (!row) throw new Error('the organization is not set up');
  return row;
}

export interface StaffRow extends SignedIn {
  passwordHash: string;
  resting: boolean;
}

const staffColumns = 'id, name, email, roles, approves, unit_id, password_hash, resting';

export const staffByEmail = (tx: Queries, emailKey: string): Promise<StaffRow | null> =>
  first<StaffRow>(tx, `select ${staffColumns} from staff where email_key = $1`, [emailKey]);

export const allStaff = (tx: Queries): Promise<StaffRow[]> =>
  tx.query<StaffRow>(`select ${staffColumns} from staff order by name`);

/** Who a session belongs to, while it lasts and the account is in use. */
export const staffBySession = (tx: Queries, tokenHash: string, now: string): Promise<SignedIn | null> =>
  first<SignedIn>(
    tx,
    `select s.id, s.name, s.email, s.roles, s.approves, s.unit_id
     from sessions x join staff s on s.id = x.staff_id
     where x.token_hash = $1 and x.expires_at > $2 and not s.resting`,
    [tokenHash, now],
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
     where accepted_at is null and expires_at > $1 order by created_at desc`,
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
     where token_hash = $1 and accepted_at is null and expires_at > $2`,
    [tokenHash, now],
  );
