import type { Tie, TieKind, tiesContract } from '#contract/ties.ts';
import { type ContactPart, partsOf, partsOfAll } from '#core/access/contacts.ts';
import { fold } from '#core/contacts/names.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { derived } from './keys.ts';
import { contactFor, demandParts } from './seeing.ts';

/** Membership is a part of its own: it has dues. */
const partOfTie = (kind: TieKind): ContactPart => (kind === 'membership' ? 'membership' : 'ties');

const tables: Record<TieKind, { table: string; from: string; until: string; words: string }> = {
  membership: { table: 'memberships', from: 'startsOn', until: 'endsOn', words: 'membership' },
  unit: { table: 'unit_people', from: 'since', until: 'until', words: 'role in a unit' },
  organization: { table: 'affiliations', from: 'since', until: 'until', words: 'tie to an organization' },
};

const tieSql: Record<TieKind, string> = {
  membership: `select 'membership' as kind, id, level, number, since, starts_on as "from", ends_on as until, contact_id from memberships`,
  unit: `select 'unit' as kind, p.id, p.unit_id, u.name, p.role, p.since as "from", p.until, p.contact_id
    from unit_people p join units u on u.id = p.unit_id`,
  organization: `select 'organization' as kind, a.id, a.organization_id, o.family_name as name, a.role, a.since as "from", a.until, a.contact_id
    from affiliations a join contacts o on o.id = a.organization_id`,
};
const alias: Record<TieKind, string> = { membership: '', unit: 'p.', organization: 'a.' };

/** Everything that ties somebody to the organization, its units and other organizations, the newest first. */
export async function readTies(tx: Queries, contactId: string): Promise<Tie[]> {
  const all: Tie[] = [];
  for (const kind of Object.keys(tables) as TieKind[])
    all.push(
      ...(
        await tx.query<Tie & { contactId: string }>(
          `${tieSql[kind]} where ${alias[kind]}contact_id = $1 order by until desc nulls first, "from" desc nulls last, ${alias[kind]}id`,
          [contactId],
        )
      ).map(({ contactId: _, ...tie }) => tie),
    );
  return all;
}

/** Who is, or was, with an organization. */
export const readPeopleOf = (tx: Queries, organizationId: string) =>
  tx.query<{ contactId: string; name: string; role: string; from: string | null; until: string | null }>(
    `select a.contact_id, concat_ws(' ', nullif(c.given_name, ''), nullif(c.family_name, '')) as name, a.role,
       a.since as "from", a.until from affiliations a join contacts c on c.id = a.contact_id
     where a.organization_id = $1 and c.erased_at is null order by a.until desc nulls first, c.family_name, c.given_name, a.id`,
    [organizationId],
  );

const readTie = (tx: Queries, kind: TieKind, id: string) =>
  first<Tie & { contactId: string }>(tx, `${tieSql[kind]} where ${alias[kind]}id = $1`, [id]);

function checkSpan(span: { from?: string | null | undefined; until?: string | null | undefined }): void {
  if (span.from && span.until && span.from > span.until)
    throw invalid([{ path: 'until', code: 'last-before-first' }]);
}

/** The organization of a name, made when none is known by it. */
export async function organizationNamed(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  name: string,
  source: string,
): Promise<{ id: string; existed: boolean }> {
  const key = fold(name);
  const known = await first<{ id: string }>(
    w.tx,
    "select id from contacts where kind = 'organization' and name_key = $1 and merged_into is null and erased_at is null order by id limit 1",
    [key],
  );
  if (known) return { id: known.id, existed: true };
  const id = w.app.ids.id();
  // It gets no keys to be compared by: an organization is never taken for a person.
  await insert(w.tx, 'contacts', {
    id,
    kind: 'organization',
    givenName: '',
    familyName: name.trim(),
    ...derived({ given: '', family: name, emails: [], phones: [] }),
    language: 'en',
    languages: [],
    doNotContact: false,
    source,
    createdAt: w.now,
    updatedAt: w.now,
  });
  return { id, existed: false };
}

export const tiesHandlers: Handlers<typeof tiesContract> = {
  'POST /api/contacts/:id/ties': async (c) => {
    const { tx, app, body, now } = c;
    const { contactId } = await contactFor(c, c.params.id, partOfTie(body.kind));
    checkSpan(body);
    const id = app.ids.id();
    const row: Record<string, unknown> = { id, contactId, createdAt: now };
    if (body.kind === 'membership') Object.assign(row, { level: body.level, number: body.number });
    else if (body.kind === 'unit') {
      if (!(await first(tx, 'select 1 as x from units where id = $1', [body.unitId])))
        throw invalid([{ path: 'unitId', code: 'unit-needed' }]);
      Object.assign(row, { unitId: body.unitId, role: body.role });
    } else {
      const organization = await organizationNamed(c, body.name, `named with a contact by ${c.staff.name}`);
      if (organization.id === contactId) throw invalid([{ path: 'name', code: 'tied-to-itself' }]);
      Object.assign(row, { organizationId: organization.id, role: body.role });
    }
    const { table, from, until, words } = tables[body.kind];
    await onceAtATime(tx, body.kind, row, body.until);
    await insert(tx, table, { ...row, [from]: body.from, [until]: body.until });
    await record(c, 'contact changed', { contactId, how: `got a ${words}`, detail: { id } });
    return { id };
  },

  'PATCH /api/ties/:kind/:id': async (c) => {
    const { kind, id } = c.params;
    const before = await readTie(c.tx, kind, id);
    if (!before) throw notFound('This');
    demandParts(partsOfAll(c.staff), [partOfTie(kind)]);
    const { from, until, ...rest } = c.body;
    checkSpan({
      from: from === undefined ? before.from : from,
      until: until === undefined ? before.until : until,
    });
    if (kind === 'unit' && rest.role === '') throw invalid([{ path: 'role', code: 'role-there-needed' }]);
    const allowed = kind === 'membership' ? ['level', 'number'] : ['role'];
    const names = tables[kind];
    await update(c.tx, names.table, id, {
      ...Object.fromEntries(Object.entries(rest).filter(([k]) => allowed.includes(k))),
      ...(from === undefined ? {} : { [names.from]: from }),
      ...(until === undefined ? {} : { [names.until]: until }),
    });
    await record(c, 'contact changed', {
      contactId: before.contactId,
      how: `changed a ${names.words}`,
      detail: { id },
    });
    return { done: true };
  },

  'DELETE /api/ties/:kind/:id': async (c) => {
    const { kind, id } = c.params;
    const before = await readTie(c.tx, kind, id);
    if (!before) throw notFound('This');
    demandParts(partsOfAll(c.staff), [partOfTie(kind)]);
    await c.tx.query(`delete from ${tables[kind].table} where id = $1`, [id]);
    await record(c, 'contact changed', {
      contactId: before.contactId,
      how: `lost a ${tables[kind].words}`,
      detail: { id },
    });
    const { contactId: _, ...tie } = before;
    return tie;
  },

  'GET /api/units/:id/people': async ({ tx, params, staff }) => {
    demandParts(partsOf(staff, staff.unitId === params.id), ['name', 'ties']);
    const unit = await first<{ name: string; about: string }>(
      tx,
      'select name, about from units where id = $1',
      [params.id],
    );
    if (!unit) throw notFound('This unit');
    const people = await tx.query<{
      contactId: string;
      name: string;
      role: string;
      from: string | null;
      until: string | null;
    }>(
      `select p.contact_id, concat_ws(' ', nullif(c.given_name, ''), nullif(c.family_name, '')) as name, p.role,
         p.since as "from", p.until from unit_people p join contacts c on c.id = p.contact_id
       where p.unit_id = $1 and c.erased_at is null order by p.until desc nulls first, lower(p.role), c.family_name, c.given_name, p.id`,
      [params.id],
    );
    return { ...unit, people };
  },
};

/** The same role twice at once says nothing new. */
async function onceAtATime(
  tx: Queries,
  kind: TieKind,
  row: Record<string, unknown>,
  until: string | null,
): Promise<void> {
  if (kind === 'membership' || until) return;
  const at = kind === 'unit' ? 'unit_id' : 'organization_id';
  const same = await first(
    tx,
    `select 1 as x from ${tables[kind].table} where contact_id = $1 and ${at} = $2 and lower(role) = lower($3) and until is null`,
    [row.contactId, row.unitId ?? row.organizationId, row.role],
  );
  if (same) throw refused('tie-there');
}
