import { z } from 'zod';
import { contract, currency, date, done, id, idParams, instant, roles, token } from './endpoint.ts';

const password = z.string().min(1, 'password-needed').max(1000);
const current = z.string().min(1, 'own-password-needed').max(1000);
const code = z.string().trim().max(40);
const email = z.email({ error: (issue) => (issue.input === '' ? 'email-needed' : 'not-an-email') }).max(254);
/** How times of day are said. */
const clock = z.union([z.literal(12), z.literal(24)]);
const staffMember = z.object({
  id,
  name: z.string(),
  email: z.string(),
  roles: z.array(z.enum(roles)),
  approves: z.array(z.string()),
  unitId: id.nullable(),
});

/** What an organization says of itself when it is set up, and can say otherwise later. */
const details = z.object({
  name: z.string().trim().min(2, 'name-of-organization').max(120),
  zone: z.string(),
  currency,
  country: z.string().regex(/^[A-Z]{2}$/u, 'no-country'),
  /** The address that messages come from. */
  sender: email,
});
export type OrganizationDetails = z.infer<typeof details>;

const hourOfDay = z.string().regex(/^(?:[01]\d|2[0-3]):[0-5]\d$/u, 'not-a-time');
const quietHours = z
  .object({ from: hourOfDay, until: hourOfDay })
  .refine(({ from, until }) => from !== until, { path: ['until'], error: 'hours-same' });

const organization = z.object({
  name: z.string(),
  about: z.string(),
  zone: z.string(),
  currency: z.string(),
  country: z.string(),
  languages: z.array(z.string()),
  ageOfMajority: z.int(),
  minimumNoticeDays: z.int(),
  /** Whether coordinators and treasurers need a second step at sign-in. */
  secondStepRequired: z.boolean(),
  clock,
});
export type Organization = z.infer<typeof organization>;

const me = z.object({
  staff: staffMember.extend({
    enrolling: z.boolean(),
    /** How they read times of day; null as the organization does. */
    clock: clock.nullable(),
  }),
  organization,
  clock: z.object({ now: instant, movable: z.boolean() }),
});
export type Me = z.infer<typeof me>;

export const staffContract = contract({
  'GET /api/setup': {
    summary: 'Whether the organization still has to be set up, and the sign-ins of a demonstration',
    who: 'public',
    response: z.object({
      needed: z.boolean(),
      organizationName: z.string().nullable(),
      signIns: z.array(
        z.object({ name: z.string(), email: z.string(), does: z.string(), password: z.string() }),
      ),
    }),
  },
  'POST /api/setup': {
    summary: 'Set up the organization and its first coordinator; works once',
    who: 'public',
    body: z.object({
      organization: details,
      coordinator: z.object({ name: z.string().trim().min(2, 'own-name-needed').max(120), email, password }),
    }),
    response: done,
  },
  'POST /api/sign-in': {
    summary: 'Sign in; sets the session cookie',
    who: 'public',
    ownTransactions: true,
    body: z.object({
      email: z.string().max(254),
      password: z.string().max(1000),
      /** Of the second step: from the authenticator, or a recovery code. */
      code: code.default(''),
    }),
    /** Signed in; or asked for the code of the second step; or signed in, and the second step has to be set up. */
    response: z.object({ next: z.enum(['in', 'code', 'enroll']) }),
  },
  'POST /api/password-resets': {
    summary: 'Ask for a new password by mail; the answer is the same for addresses nobody has',
    who: 'public',
    body: z.object({ email: z.string().trim().max(254) }),
    response: done,
  },
  'GET /api/password-resets/:token': {
    summary: 'Whether a link to a new password still works',
    who: 'public',
    params: token,
    response: z.object({ name: z.string() }),
  },
  'POST /api/password-resets/:token': {
    summary: 'Choose a new password by the link, once; every session ends',
    who: 'public',
    params: token,
    body: z.object({ password }),
    response: done,
  },
  'GET /api/account': {
    summary: 'One’s own account: second step and sessions',
    who: 'staff',
    enrolling: true,
    response: z.object({
      name: z.string(),
      email: z.string(),
      secondStep: z.object({ on: z.boolean(), required: z.boolean(), recoveryLeft: z.int() }),
      sessions: z.array(
        z.object({
          id,
          current: z.boolean(),
          device: z.string(),
          address: z.string(),
          createdAt: instant,
          seenAt: instant,
        }),
      ),
    }),
  },
  'POST /api/account/password': {
    summary: 'Change one’s own password; other sessions end',
    who: 'staff',
    enrolling: true,
    body: z.object({ current, password }),
    response: done,
  },
  'DELETE /api/account/sessions': {
    summary: 'End every other session of one’s own',
    who: 'staff',
    enrolling: true,
    response: z.object({ ended: z.int() }),
  },
  'DELETE /api/account/sessions/:id': {
    summary: 'End one session of one’s own',
    who: 'staff',
    enrolling: true,
    params: idParams,
    response: z.object({ ended: z.int() }),
  },
  'POST /api/account/second-step': {
    summary:
      'Begin to set up the second step: the secret for an authenticator, which counts once a code of it was given',
    who: 'staff',
    enrolling: true,
    body: z.object({ current }),
    response: z.object({ secret: z.string(), uri: z.string(), svg: z.string() }),
  },
  'PUT /api/account/second-step': {
    summary: 'Turn the second step on with a first code; answers recovery codes, once',
    who: 'staff',
    enrolling: true,
    body: z.object({ code }),
    response: z.object({ recovery: z.array(z.string()) }),
  },
  'DELETE /api/account/second-step': {
    summary: 'Turn the second step off',
    who: 'staff',
    body: z.object({ current }),
    response: done,
  },
  'POST /api/account/recovery': {
    summary: 'New recovery codes; those before no longer work',
    who: 'staff',
    body: z.object({ current }),
    response: z.object({ recovery: z.array(z.string()) }),
  },
  'GET /api/account/absence': {
    summary: 'When one is away next, who stands in, and who could',
    who: ['approver'],
    response: z.object({
      absence: z.object({ from: date, until: date, deputyId: id.nullable() }).nullable(),
      deputies: z.array(z.object({ id, name: z.string() })),
    }),
  },
  'PUT /api/account/absence': {
    summary: 'Say when one is away and who decides meanwhile; or that one is not',
    who: ['approver'],
    body: z.object({
      absence: z
        .object({ from: date, until: date, deputyId: id.nullable() })
        .refine((a) => a.from <= a.until, { path: ['until'], message: 'ends-before-it-begins' })
        .nullable(),
    }),
    response: done,
  },
  'PUT /api/account/clock': {
    summary: 'Read times of day by the 12- or the 24-hour clock, or as the organization does',
    who: 'staff',
    body: z.object({ clock: clock.nullable() }),
    response: done,
  },
  'GET /api/organization': {
    summary: 'What the organization says of itself, and whether its currency can still be another',
    who: ['coordinator'],
    response: details.extend({
      currencyUsed: z.boolean(),
      quietHours: quietHours.nullable(),
      attendanceDays: z.int(),
    }),
  },
  'PUT /api/organization': {
    summary:
      'Its name, zone, country and sender; its currency while nothing was booked, given or spent in it',
    who: ['coordinator'],
    body: details,
    response: done,
  },
  'PUT /api/organization/quiet-hours': {
    summary: 'The hours of the day in which nothing is sent that can wait; null for none',
    who: ['coordinator'],
    body: z.object({ quietHours: quietHours.nullable() }),
    response: done,
  },
  'PUT /api/organization/attendance-days': {
    summary: 'For how many days after an event what is kept of who came can be corrected and disputed',
    who: ['coordinator'],
    body: z.object({ attendanceDays: z.int('not-whole').min(1, 'at-least-one').max(3650) }),
    response: done,
  },
  'PUT /api/organization/clock': {
    summary: 'Say times of day by the 12- or the 24-hour clock',
    who: ['coordinator'],
    body: z.object({ clock }),
    response: done,
  },
  'POST /api/sign-out': { summary: 'End this session', who: 'public', ownTransactions: true, response: done },
  'GET /api/me': {
    summary: 'Who is signed in, the organization and its clock',
    who: 'staff',
    enrolling: true,
    response: me,
  },
  'GET /api/staff': {
    summary: 'The accounts of the staff and open invitations',
    who: ['coordinator'],
    response: z.object({
      staff: z.array(
        staffMember.extend({
          resting: z.boolean(),
          secondStep: z.boolean(),
          sessions: z.int(),
          /** When they were last seen; null when no session lasts. */
          seenAt: instant.nullable(),
        }),
      ),
      secondStepRequired: z.boolean(),
      invitations: z.array(
        z.object({ id, name: z.string(), email: z.string(), roles: z.array(z.string()), expiresAt: instant }),
      ),
    }),
  },
  'POST /api/staff/invitations': {
    summary: 'Invite somebody to the staff; answers the link to hand over and plans the message',
    who: ['coordinator'],
    body: z.object({
      name: z.string().trim().min(2, 'name-needed').max(120),
      email,
      roles: z.array(z.enum(roles)).min(1, 'role-needed'),
      approves: z.array(z.string().trim().min(1).max(40)).max(20).default([]),
      unitId: id.nullable().default(null),
    }),
    response: z.object({ link: z.string() }),
  },
  'PATCH /api/staff/:id': {
    summary: 'Change roles and unit of somebody, put them to rest or back; counts at once everywhere',
    who: ['coordinator'],
    params: idParams,
    body: z.object({
      roles: z.array(z.enum(roles)).min(1, 'role-needed').optional(),
      approves: z.array(z.string().trim().min(1).max(40)).max(20).optional(),
      unitId: id.nullable().optional(),
      resting: z.boolean().optional(),
    }),
    response: done,
  },
  'DELETE /api/staff/:id/second-step': {
    summary: 'Turn the second step of somebody off who lost it; their sessions end',
    who: ['coordinator'],
    params: idParams,
    response: done,
  },
  'DELETE /api/staff/:id/sessions': {
    summary: 'End every session of somebody',
    who: ['coordinator'],
    params: idParams,
    response: z.object({ ended: z.int() }),
  },
  'DELETE /api/staff/invitations/:id': {
    summary: 'Take an invitation back: its link leads nowhere',
    who: ['coordinator'],
    params: idParams,
    response: done,
  },
  'POST /api/staff/invitations/:id/renew': {
    summary: 'Put another invitation in the place of one; the old link leads nowhere',
    who: ['coordinator'],
    params: idParams,
    response: z.object({ link: z.string() }),
  },
  'PUT /api/staff/second-step': {
    summary: 'Ask coordinators and treasurers for a second step at sign-in, or no longer',
    who: ['coordinator'],
    body: z.object({ required: z.boolean() }),
    response: done,
  },
  'GET /api/trail': {
    summary: 'Who signed in, changed rights, read facts about health or did what, newest first',
    who: ['coordinator'],
    query: z.object({
      of: z.enum(['everything', 'accounts', 'health']).default('everything'),
      offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
    }),
    response: z.object({
      rows: z.array(
        z.object({
          id,
          at: instant,
          actor: z.string(),
          action: z.string(),
          about: z.string(),
          contactId: id.nullable(),
        }),
      ),
      more: z.boolean(),
    }),
  },
  'GET /api/invitations/:token': {
    summary: 'What an invitation says',
    who: 'public',
    params: token,
    response: z.object({
      name: z.string(),
      email: z.string(),
      organization: z.string(),
      roles: z.array(z.string()),
    }),
  },
  'POST /api/invitations/:token': {
    summary: 'Accept an invitation by choosing a password; signs in',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: z.object({ password }),
    response: done,
  },
});
