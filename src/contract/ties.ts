import { z } from 'zod';
import { contract, date, done, id, idParams } from './endpoint.ts';

const role = z.string().trim().max(80);
/** From a day to a day, both included; open where a side is null. */
const span = { from: date.nullable().default(null), until: date.nullable().default(null) };

/** Somebody who does something somewhere, from a day to a day. */
export const inRole = z.object({
  contactId: id,
  name: z.string(),
  role: z.string(),
  from: date.nullable(),
  until: date.nullable(),
});

/** Something that ties somebody to the organization, to one of its units, or to an organization that is a contact. */
export const tie = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('membership'),
    id,
    level: z.string().nullable(),
    number: z.string().nullable(),
    /** As it was read; “2012” is a year. */
    since: z.string().nullable(),
    from: date.nullable(),
    until: date.nullable(),
  }),
  z.object({
    kind: z.literal('unit'),
    id,
    unitId: id,
    name: z.string(),
    role: z.string(),
    from: date.nullable(),
    until: date.nullable(),
  }),
  z.object({
    kind: z.literal('organization'),
    id,
    organizationId: id,
    name: z.string(),
    role: z.string(),
    from: date.nullable(),
    until: date.nullable(),
  }),
]);
export type Tie = z.infer<typeof tie>;
export type TieKind = Tie['kind'];
const tieKinds = ['membership', 'unit', 'organization'] as const satisfies readonly TieKind[];

const newTie = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('membership'),
    level: role.nullable().default(null),
    number: z.string().trim().max(40).nullable().default(null),
    ...span,
  }),
  z.object({
    kind: z.literal('unit'),
    unitId: z.uuid('unit-needed'),
    role: role.min(1, 'role-there-needed'),
    ...span,
  }),
  z.object({
    kind: z.literal('organization'),
    /** Its name; an organization that is known already by this name is taken. */
    name: z.string().trim().min(1, 'organization-unnamed').max(100),
    role: role.default(''),
    ...span,
  }),
]);
export type NewTie = z.input<typeof newTie>;

const who = ['coordinator', 'crew lead'] as const;
const tieParams = z.object({ kind: z.enum(tieKinds), id });
export const tiesContract = contract({
  'POST /api/contacts/:id/ties': {
    summary: 'Make somebody a member, give them a role in a unit, or say where they work',
    who,
    params: idParams,
    body: newTie,
    response: z.object({ id }),
  },
  'PATCH /api/ties/:kind/:id': {
    summary: 'Change from when to when a tie holds, or what it says',
    who,
    params: tieParams,
    body: z.object({
      from: date.nullable().optional(),
      until: date.nullable().optional(),
      role: role.optional(),
      level: role.nullable().optional(),
      number: z.string().trim().max(40).nullable().optional(),
    }),
    response: done,
  },
  'DELETE /api/ties/:kind/:id': {
    summary: 'Take a tie away as if it had never been; to end one, give it a last day',
    who,
    params: tieParams,
    response: tie,
  },
  'GET /api/units/:id/people': {
    summary: 'Who does what in a unit, by now and before',
    who: 'staff',
    params: idParams,
    response: z.object({
      name: z.string(),
      about: z.string(),
      people: z.array(inRole),
    }),
  },
});
