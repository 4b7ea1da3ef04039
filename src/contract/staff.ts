import { z } from 'zod';
import { contract, done, id, instant, roles } from './endpoint.ts';

const password = z.string().min(10, 'At least 10 characters.').max(200);
const email = z.email('This is not an email address.').max(254);
const staffMember = z.object({
  id,
  name: z.string(),
  email: z.string(),
  roles: z.array(z.enum(roles)),
  approves: z.array(z.string()),
  unitId: id.nullable(),
});

export const organization = z.object({
  name: z.string(),
  about: z.string(),
  zone: z.string(),
  currency: z.string(),
  country: z.string(),
  languages: z.array(z.string()),
  ageOfMajority: z.int(),
  minimumNoticeDays: z.int(),
});
export type Organization = z.infer<typeof organization>;

export const me = z.object({
  staff: staffMember,
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
      organization: z.object({
        name: z.string().trim().min(2, 'Give the name of the organization.').max(120),
        zone: z.string(),
        currency: z.string().regex(/^[A-Z]{3}$/u, 'Give a currency code like CAD.'),
        country: z.string().regex(/^[A-Z]{2}$/u, 'Give a country code like CA.'),
        sender: email,
      }),
      coordinator: z.object({ name: z.string().trim().min(2, 'Give your name.').max(120), email, password }),
    }),
    response: done,
  },
  'POST /api/sign-in': {
    summary: 'Sign in; sets the session cookie',
    who: 'public',
    ownTransactions: true,
    body: z.object({ email: z.string().max(254), password: z.string().max(200) }),
    response: done,
  },
  'POST /api/sign-out': { summary: 'End this session', who: 'public', ownTransactions: true, response: done },
  'GET /api/me': { summary: 'Who is signed in, the organization and its clock', who: 'staff', response: me },
  'GET /api/staff': {
    summary: 'The accounts of the staff and open invitations',
    who: ['coordinator'],
    response: z.object({
      staff: z.array(staffMember.extend({ resting: z.boolean() })),
      invitations: z.array(
        z.object({ id, name: z.string(), email: z.string(), roles: z.array(z.string()), expiresAt: instant }),
      ),
    }),
  },
  'POST /api/staff/invitations': {
    summary: 'Invite somebody to the staff; answers the link to hand over and plans the message',
    who: ['coordinator'],
    body: z.object({
      name: z.string().trim().min(2, 'Give a name.').max(120),
      email,
      roles: z.array(z.enum(roles)).min(1, 'Choose at least one role.'),
      approves: z.array(z.string().max(40)).default([]),
      unitId: id.nullable().default(null),
    }),
    response: z.object({ link: z.string() }),
  },
  'GET /api/invitations/:token': {
    summary: 'What an invitation says',
    who: 'public',
    params: z.object({ token: z.string() }),
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
    params: z.object({ token: z.string() }),
    body: z.object({ password }),
    response: done,
  },
});
