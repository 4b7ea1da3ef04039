import type { CustomField, fieldsContract } from '#contract/fields.ts';
import { readFieldValue } from '#core/contacts/fields.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { type FieldProblem, invalid, notFound } from '../http/problem.ts';

const columns = 'f.id, f.name, f.kind, f.choices';

export const readFields = (tx: Queries): Promise<CustomField[]> =>
  tx.query<CustomField>(
    `select ${columns}, (select count(*)::int from custom_values v where v.field_id = f.id) as filled
     from custom_fields f order by f.position, f.name`,
  );

/** Every field with what a contact has in it; null where it is empty. */
export const readValues = (tx: Queries, contactId: string) =>
  tx.query<Omit<CustomField, 'filled'> & { value: string | null }>(
    `select ${columns}, v.value from custom_fields f
     left join custom_values v on v.field_id = f.id and v.contact_id = $1 order by f.position, f.name`,
    [contactId],
  );

/** Sets fields of a contact as they were typed, by field; what is wrong is added to the problems, and nothing is set then. */
export async function setValues(
  tx: Queries,
  contactId: string,
  typed: Readonly<Record<string, string>>,
  problems: FieldProblem[],
): Promise<() => Promise<void>> {
  const known = new Map((await readValues(tx, contactId)).map((f) => [f.id, f]));
  const values: { fieldId: string; value: string | null }[] = [];
  for (const [fieldId, text] of Object.entries(typed)) {
    const field = known.get(fieldId);
    const read = field ? readFieldValue(field, text) : { wrong: because('field gone') };
    // A choice that was taken from the list stays where it was made.
    if (field && text === field.value) continue;
    if ('wrong' in read) problems.push({ path: `fields.${fieldId}`, message: sayReason(read.wrong) });
    else values.push({ fieldId, value: read.value });
  }
  return async () => {
    await tx.query('delete from custom_values where contact_id = $1 and field_id = any($2)', [
      contactId,
      values.map((v) => v.fieldId),
    ]);
    await insert(
      tx,
      'custom_values',
      values.filter((v) => v.value !== null).map((v) => ({ contactId, ...v })),
    );
  };
}

/** Sets a field of a contact to a value as it is kept; null empties it. */
export async function setValue(
  tx: Queries,
  contactId: string,
  fieldId: string,
  value: string | null,
): Promise<void> {
  if (value === null)
    await tx.query('delete from custom_values where contact_id = $1 and field_id = $2', [contactId, fieldId]);
  else
    await tx.query(
      `insert into custom_values (contact_id, field_id, value) values ($1, $2, $3)
       on conflict (contact_id, field_id) do update set value = excluded.value`,
      [contactId, fieldId, value],
    );
}

async function needFree(tx: Queries, name: string, but: string | null): Promise<void> {
  const taken = await first(
    tx,
    'select 1 as x from custom_fields where lower(name) = lower($1) and ($2::uuid is null or id <> $2)',
    [name, but],
  );
  if (taken) throw invalid([{ path: 'name', code: 'field-exists' }]);
}

const distinct = (list: readonly string[]): string[] => [
  ...new Map(list.map((c) => [c.toLowerCase(), c])).values(),
];

export const fieldsHandlers: Handlers<typeof fieldsContract> = {
  'GET /api/fields': ({ tx }) => readFields(tx),

  'POST /api/fields': async (c) => {
    const { tx, app, body, now } = c;
    await needFree(tx, body.name, null);
    const choices = body.kind === 'one of' ? distinct(body.choices) : [];
    if (body.kind === 'one of' && choices.length < 2)
      throw invalid([{ path: 'choices', code: 'two-choices-by-line' }]);
    const id = app.ids.id();
    const last = await first<{ n: number }>(
      tx,
      'select coalesce(max(position), -1) + 1 as n from custom_fields',
    );
    await insert(tx, 'custom_fields', {
      id,
      name: body.name,
      kind: body.kind,
      choices,
      position: last!.n,
      createdAt: now,
    });
    await record(c, 'field changed', { fieldId: id, how: `added the field “${body.name}” to contacts` });
    return { id };
  },

  'PATCH /api/fields/:id': async (c) => {
    const { tx, body, params } = c;
    const field = (await readFields(tx)).find((f) => f.id === params.id);
    if (!field) throw notFound('This field');
    if (body.name) await needFree(tx, body.name, field.id);
    const choices = body.choices && distinct(body.choices);
    if (choices && field.kind === 'one of' && choices.length < 2)
      throw invalid([{ path: 'choices', code: 'two-choices-by-line' }]);
    await update(tx, 'custom_fields', field.id, {
      ...(body.name ? { name: body.name } : {}),
      ...(choices && field.kind === 'one of' ? { choices } : {}),
    });
    await record(c, 'field changed', {
      fieldId: field.id,
      how: `changed the field “${body.name ?? field.name}”`,
    });
    return { done: true };
  },

  'DELETE /api/fields/:id': async (c) => {
    const field = (await readFields(c.tx)).find((f) => f.id === c.params.id);
    if (!field) throw notFound('This field');
    if (field.filled && c.body.name.trim() !== field.name)
      throw invalid([{ path: 'name', code: 'name-as-it-stands', params: { name: field.name } }]);
    await c.tx.query('delete from custom_fields where id = $1', [field.id]);
    await record(c, 'field changed', {
      fieldId: field.id,
      how: `took the field “${field.name}” away`,
      detail: { filled: field.filled },
    });
    return { done: true };
  },
};
