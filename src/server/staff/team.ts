import type { staffContract } from '#contract/staff.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { problemWithAccountChange } from '#core/staff/accounts.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, update } from '../db/database.ts';
import { linkToken, sha256 } from '../db/ids.ts';
import { reasonSql } from '../db/reasons.ts';
import type { Call, Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { lookAgain } from '../staff/sessions.ts';
import { endSessions } from './sessions.ts';
import * as store from './store.ts';

type TeamKeys =
  | 'GET /api/staff'
  | 'POST /api/staff/invitations'
  | 'PATCH /api/staff/:id'
  | 'DELETE /api/staff/:id/second-step'
  | 'DELETE /api/staff/:id/sessions'
  | 'DELETE /api/staff/invitations/:id'
  | 'POST /api/staff/invitations/:id/renew'
  | 'PUT /api/staff/second-step'
  | 'GET /api/trail';

const invitationDays = 14;
const pageOfTrail = 100;

/** Makes an invitation and plans its message. Answers it, with the link to be handed over. */
export async function invite(
  c: Work & Pick<Call, 'staff'>,
  of: { name: string; email: string; roles: string[]; approves: string[]; unitId: string | null },
): Promise<{ id: string; link: string }> {
  const { tx, app, now, staff } = c;
  const id = app.ids.id();
  const token = linkToken(app.secret, 'invitation', id);
  await insert(tx, 'staff_invitations', {
    id,
    tokenHash: sha256(token),
    ...of,
    invitedBy: staff.id,
    createdAt: now,
    expiresAt: new Date(Date.parse(now) + invitationDays * 86_400_000).toISOString(),
  });
  await record(c, 'invited', {
    invitationId: id,
    name: of.name,
    email: of.email,
    roles: of.roles,
    by: staff.name,
  });
  return { id, link: `${app.origin}/invitation/${token}` };
}

/** An invitation that can still be accepted, taken back. */
export async function takeBack(c: Work, id: string) {
  const open = await first<{
    name: string;
    email: string;
    roles: string[];
    approves: string[];
    unitId: string | null;
  }>(
    c.tx,
    `update staff_invitations set revoked_at = $2 where id = $1 and accepted_at is null and revoked_at is null
     returning name, email, roles, approves, unit_id`,
    [id, c.now],
  );
  if (!open) throw notFound('This invitation');
  // What was not sent yet is not sent any more.
  await c.tx.query(
    `update messages set state = 'held back', why_not = ${reasonSql('invitation withdrawn')}, next_try_at = null
     where recipient_key = $1 and state in ('planned', 'failed')`,
    [`invitation:${id}`],
  );
  return open;
}

export const teamHandlers: Pick<Handlers<typeof staffContract>, TeamKeys> = {
  'GET /api/staff': async ({ tx, now }) => {
    const sessions = await tx.query<{ staffId: string; n: number; seenAt: string }>(
      'select staff_id, count(*)::int as n, max(seen_at) as seen_at from sessions group by staff_id',
    );
    const of = new Map(sessions.map((s) => [s.staffId, s]));
    return {
      secondStepRequired: (await store.theOrganization(tx)).secondStepRequired,
      staff: (await store.allStaff(tx)).map(
        ({ id, name, email, roles, approves, unitId, resting, totpSecret }) => ({
          id,
          name,
          email,
          roles,
          approves,
          unitId,
          resting,
          secondStep: totpSecret !== null,
          sessions: of.get(id)?.n ?? 0,
          seenAt: of.get(id)?.seenAt ?? null,
        }),
      ),
      invitations: (await store.openInvitations(tx, now)).map(({ id, name, email, roles, expiresAt }) => ({
        id,
        name,
        email,
        roles,
        expiresAt,
      })),
    };
  },

  'POST /api/staff/invitations': async (c) => {
    if (await store.staffByEmail(c.tx, emailKey(c.body.email)))
      throw invalid([{ path: 'email', code: 'email-on-staff' }]);
    if (c.body.roles.includes('unit lead') && !c.body.unitId)
      throw invalid([{ path: 'unitId', code: 'unit-they-lead' }]);
    const { link } = await invite(c, c.body);
    return { link };
  },

  'DELETE /api/staff/invitations/:id': async (c) => {
    const { name } = await takeBack(c, c.params.id);
    await record(c, 'account changed', {
      staffId: c.params.id,
      how: 'took an invitation back',
      detail: { name },
    });
    return { done: true };
  },

  'POST /api/staff/invitations/:id/renew': async (c) => {
    const { id, link } = await invite(c, await takeBack(c, c.params.id));
    // What somebody was invited to do at events goes over to the new invitation.
    await c.tx.query('update event_team set invitation_id = $2 where invitation_id = $1', [c.params.id, id]);
    return { link };
  },

  'PATCH /api/staff/:id': async (c) => {
    const before = await store.theStaff(c.tx, c.params.id);
    const { roles, approves, unitId, resting } = c.body;
    const problem = problemWithAccountChange(
      { roles, resting },
      before,
      c.staff.id,
      await store.allStaff(c.tx),
    );
    if (problem) throw refused(problem);
    if (unitId && !(await first(c.tx, 'select 1 as x from units where id = $1', [unitId])))
      throw invalid([{ path: 'unitId', code: 'unit-gone' }]);
    const unit = unitId === undefined ? before.unitId : unitId;
    if ((roles ?? before.roles).includes('unit lead') && !unit)
      throw invalid([{ path: 'unitId', code: 'unit-they-lead' }]);
    await update(c.tx, 'staff', before.id, {
      ...(roles ? { roles } : {}),
      ...(approves ? { approves } : {}),
      ...(unitId === undefined ? {} : { unitId }),
      ...(resting === undefined ? {} : { resting }),
    });
    // At rest, nothing is left open; other rights are read anew with every request, and open pages look again.
    if (resting) await endSessions(c, before.id);
    else lookAgain(c);
    const action = resting
      ? 'put to rest'
      : resting === false
        ? 'brought back from rest'
        : 'changed the rights of';
    await record(c, 'account changed', {
      staffId: before.id,
      how: `${action} ${before.name}`,
      detail: {
        before: { roles: before.roles, approves: before.approves, unitId: before.unitId },
        after: c.body,
      },
    });
    return { done: true };
  },

  'DELETE /api/staff/:id/second-step': async (c) => {
    const row = await store.theStaff(c.tx, c.params.id);
    if (row.id === c.staff.id) throw refused('own-account');
    if (!row.totpSecret) throw refused('no-second-step');
    await update(c.tx, 'staff', row.id, {
      totpSecret: null,
      totpPending: null,
      totpLast: null,
      recoveryHashes: [],
    });
    await endSessions(c, row.id);
    await record(c, 'account changed', { staffId: row.id, how: `turned the second step of ${row.name} off` });
    return { done: true };
  },

  'DELETE /api/staff/:id/sessions': async (c) => {
    const row = await store.theStaff(c.tx, c.params.id);
    const ended = await endSessions(c, row.id);
    await record(c, 'account changed', { staffId: row.id, how: `ended the sessions of ${row.name}` });
    return { ended };
  },

  'PUT /api/staff/second-step': async (c) => {
    await c.tx.query('update organization set second_step_required = $1', [c.body.required]);
    await record(c, 'organization changed', {
      how: c.body.required ? 'asks for a second step' : 'no longer asks for a second step',
    });
    return { done: true };
  },

  'GET /api/trail': async ({ tx, query }) => {
    const rows = await tx.query<{
      id: string;
      at: string;
      actor: string;
      action: string;
      about: string;
      contactId: string | null;
    }>(
      `select * from (
         select a.id, a.at, a.actor, a.action, coalesce(
             case a.subject_kind when 'event' then (select public_title from events where id = a.subject_id)
               when 'contact' then (select trim(given_name || ' ' || family_name) from contacts where id = a.subject_id)
               when 'order' then (select 'order ' || number from orders where id = a.subject_id)
               when 'staff' then coalesce((select name from staff where id = a.subject_id), a.detail->>'name', '') end, '') as about,
           case when a.subject_kind = 'contact' then a.subject_id end as contact_id
         from audit a where $1 = 'everything' or ($1 = 'accounts' and a.subject_kind in ('staff', 'organization'))
         union all
         select r.id, r.at, r.actor, 'read about health, ' || r.place,
           coalesce(trim(c.given_name || ' ' || c.family_name), ''), r.contact_id
         from care_reads r left join contacts c on c.id = r.contact_id where $1 <> 'accounts') t
       order by at desc, id desc limit ${pageOfTrail + 1} offset $2`,
      [query.of, query.offset],
    );
    return { rows: rows.slice(0, pageOfTrail), more: rows.length > pageOfTrail };
  },
};
