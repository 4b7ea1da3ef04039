import { z } from 'zod';
import { markable } from '#core/crew/againstKinds.ts';
import { contract, date, done, id, idParams } from './endpoint.ts';
import { countingRules } from './serving.ts';

const name = z.string().trim().min(1, 'name-needed').max(80);
const skillBody = z.object({
  name,
  /** It has a number and runs out. */
  certificate: z.boolean().default(false),
});
const skill = skillBody.extend({
  id,
  /** People who have it, and of them those whose runs out within sixty days. */
  held: z.int(),
  ending: z.int(),
});
export type Skill = z.output<typeof skill>;
const roleBody = z.object({
  name,
  brief: z.string().trim().max(600).default(''),
  fromAge: z.int().min(1, 'no-age').max(99, 'no-age').nullable().default(null),
  /** Where it asks nothing: whether anybody may take a shift of it at once; else the crew lead is asked. */
  anybody: z.boolean().default(true),
  needs: z.array(id).max(20).default([]),
  /** Where it is usually served; the first is meant where a shift of it says none. */
  places: z.array(z.string().trim().min(1).max(80)).max(12).default([]),
});
const role = roleBody.extend({
  id,
  /** It is offered no longer; shifts that have it keep it. */
  retired: z.boolean(),
  /** Shifts to come. */
  shifts: z.int(),
});
export type CrewRole = z.output<typeof role>;
const heldBody = z.object({
  number: z.string().trim().max(60).default(''),
  until: date.nullable().default(null),
  /** Somebody of the team has seen it; only said else. */
  seen: z.boolean().default(false),
});
const held = heldBody.extend({
  skillId: id,
  name: z.string(),
  certificate: z.boolean(),
  seenBy: z.string().nullable(),
});
export type HeldSkill = z.output<typeof held>;
const ofContact = z.object({ id, skill: id });

const rules = z.object({
  /** Hours of rest once in 24 hours. */
  restHours: z.int().min(0).max(16),
  /** Minutes from one place of an event to another. */
  placeMinutes: z.int().min(0).max(120).default(10),
  /** What nobody is put on a shift in spite of, whatever is said for it. */
  neverOverridden: z.array(z.enum(markable)),
  /** People are asked to step in as soon as somebody gives a shift back. */
  asksToStepIn: z.boolean(),
  ...countingRules.shape,
});
export type CrewRules = z.output<typeof rules>;

export const rolesContract = contract({
  'GET /api/roles': {
    summary: 'Roles volunteers have, what each asks, the skills there are, and rules of rest',
    who: ['unit lead', 'crew lead'],
    response: z.object({ roles: z.array(role), skills: z.array(skill), rules }),
  },
  'PUT /api/crew-rules': {
    summary: 'Say how much rest volunteers have, and what is never overridden',
    who: ['coordinator'],
    body: rules,
    response: done,
  },
  'POST /api/roles': {
    summary: 'Add a role',
    who: ['crew lead'],
    body: roleBody,
    response: z.object({ id }),
  },
  'PATCH /api/roles/:id': {
    summary: 'Change a role; its shifts are called by the new name at once',
    who: ['crew lead'],
    params: idParams,
    body: roleBody,
    response: done,
  },
  'DELETE /api/roles/:id': {
    summary: 'Offer a role no longer; shifts that have it keep it',
    who: ['crew lead'],
    params: idParams,
    response: done,
  },
  'POST /api/skills': {
    summary: 'Add a skill or a certificate',
    who: ['crew lead'],
    body: skillBody,
    response: z.object({ id }),
  },
  'PATCH /api/skills/:id': {
    summary: 'Change a skill',
    who: ['crew lead'],
    params: idParams,
    body: skillBody,
    response: done,
  },
  'DELETE /api/skills/:id': {
    summary: 'Ask for a skill no longer; who has it keeps it on record',
    who: ['crew lead'],
    params: idParams,
    response: done,
  },
  'GET /api/contacts/:id/skills': {
    summary: 'What somebody can do, and which certificates they have',
    who: ['crew lead', 'unit lead'],
    params: idParams,
    response: z.array(held),
  },
  'PUT /api/contacts/:id/skills/:skill': {
    summary: 'Say that somebody has a skill, or until when a certificate holds',
    who: ['crew lead', 'unit lead'],
    params: ofContact,
    body: heldBody,
    response: done,
  },
  'DELETE /api/contacts/:id/skills/:skill': {
    summary: 'Say that somebody does not have a skill',
    who: ['crew lead', 'unit lead'],
    params: ofContact,
    response: done,
  },
});
