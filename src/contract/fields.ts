import { z } from 'zod';
import { contract, done, id, idParams } from './endpoint.ts';

const fieldKinds = ['text', 'number', 'date', 'yes or no', 'one of'] as const;
export type FieldKind = (typeof fieldKinds)[number];

const choices = z.array(z.string().trim().min(1, 'choice-empty').max(80)).max(40, 'most-choices');
const name = z.string().trim().min(1, 'field-unnamed').max(60);

/** A field the organization added to its contacts, with how many have it filled in. */
export const customField = z.object({
  id,
  name: z.string(),
  kind: z.enum(fieldKinds),
  choices: z.array(z.string()),
  filled: z.int(),
});
export type CustomField = z.infer<typeof customField>;

const who = ['coordinator'] as const;
export const fieldsContract = contract({
  'GET /api/fields': {
    summary: 'Fields of contacts that the organization added',
    who: 'staff',
    response: z.array(customField),
  },
  'POST /api/fields': {
    summary: 'Add a field to contacts',
    who,
    body: z.object({ name, kind: z.enum(fieldKinds), choices: choices.default([]) }),
    response: z.object({ id }),
  },
  'PATCH /api/fields/:id': {
    summary: 'Name a field anew, or change its choices; what is filled in stays',
    who,
    params: idParams,
    body: z.object({ name: name.optional(), choices: choices.optional() }),
    response: done,
  },
  'DELETE /api/fields/:id': {
    summary: 'Take a field away with everything filled in; only when its name is given',
    who,
    params: idParams,
    body: z.object({ name: z.string().max(100) }),
    response: done,
  },
});
