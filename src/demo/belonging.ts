import { splitName } from '#core/contacts/names.ts';
import { shiftDate } from '#core/time/dates.ts';
import { derived, ensureKeys } from '#server/contacts/keys.ts';
import { insert, type Queries } from '#server/db/database.ts';
import type { Founded } from './organization.ts';
import type { Person } from './people.ts';
import { makeRandom } from './random.ts';

interface Ids {
  id(): string;
}

const organizations: readonly [name: string, email: string, roles: readonly string[]][] = [
  ['Ansley College', 'events@ansleycollege.example', ['teacher', 'grounds', 'student union']],
  ['Port Ansley Hardware', 'counter@pahardware.example', ['owner', 'counter']],
  ['Causeway Veterinary', '', ['veterinarian']],
  ['Town of Port Ansley', 'parks@portansley.example', ['parks', 'council']],
  ['Tidewater Credit Union', '', ['branch manager', 'teller']],
];

const offices = ['lead', 'treasurer', 'keeps the minutes', 'committee'];

/** The staff are contacts too. */
async function storeStaff(tx: Queries, ids: Ids, at: string): Promise<void> {
  const staff = await tx.query<{ id: string; name: string; email: string }>(
    "select id, name, email from staff where name like '% %' order by id",
  );
  for (const { id, name, email } of staff) {
    const person = splitName(name);
    const known = await tx.query<{ id: string }>(
      'select id from contacts where given_name = $1 and family_name = $2 order by id limit 1',
      [person.given, person.family],
    );
    const contactId = known[0]?.id ?? ids.id();
    if (!known.length) {
      await insert(tx, 'contacts', {
        id: contactId,
        givenName: person.given,
        familyName: person.family,
        language: 'en',
        ...derived({ ...person, emails: [email], phones: [] }),
        source: 'joined the team',
        createdAt: at,
        updatedAt: at,
      });
      await insert(tx, 'contact_emails', { id: ids.id(), contactId, email, emailKey: email, position: 0 });
    }
    await tx.query('update staff set contact_id = $2 where id = $1', [id, contactId]);
  }
  await ensureKeys(tx);
}

/**
 * Stores what people belong to beside their families: roles in units, the organizations they are with, fields of the
 * Trust's own, other languages, and some who moved or changed their email.
 */
export async function storeBelonging(
  tx: Queries,
  people: readonly Person[],
  founded: Founded,
  ids: Ids,
  today: string,
): Promise<void> {
  const random = makeRandom(1860);
  const adults = people.filter((p) => !p.child);
  await storeStaff(tx, ids, `${people[0]?.since ?? today}T14:00:00.000Z`);
  const at = `${today}T14:00:00.000Z`;
  await tx.query("update memberships set starts_on = (since || '-01-01')::date where since ~ '^\\d{4}$'");
  // Yearly members pay for a year at a time; some did not pay again.
  await tx.query(
    `update memberships m set ends_on = greatest(starts_on, case when number::int % 9 = 0 then date '2025-12-31' else date '2026-12-31' end)
     where coalesce(level, '') not ilike 'life%'`,
  );

  const unitPeople: object[] = [];
  for (const [unit, unitId] of Object.entries(founded.units))
    for (const person of random.some(adults, unit === 'Small Boats' ? 5 : 4)) {
      const role = offices[unitPeople.length % offices.length]!;
      const since = shiftDate(today, -random.whole(200, 1100));
      unitPeople.push({
        id: ids.id(),
        unitId,
        contactId: person.id,
        role,
        since,
        until: random.chance(0.2) ? shiftDate(since, 150) : null,
        createdAt: at,
      });
    }
  const [piers] = await tx.query<{ contactId: string }>(
    "select contact_id from staff where name = 'Piers Lachance' and contact_id is not null",
  );
  if (piers)
    unitPeople.push({
      id: ids.id(),
      unitId: founded.units['Small Boats'],
      contactId: piers.contactId,
      role: 'lead',
      since: '2024-03-01',
      until: null,
      createdAt: at,
    });
  await insert(tx, 'unit_people', unitPeople, 'on conflict do nothing');

  for (const [name, email, roles] of organizations) {
    const id = ids.id();
    const emails = email ? [email] : [];
    await insert(tx, 'contacts', {
      id,
      kind: 'organization',
      givenName: '',
      familyName: name,
      language: 'en',
      ...derived({ given: '', family: name, emails, phones: [] }),
      source: 'named by its people',
      createdAt: at,
      updatedAt: at,
    });
    await insert(
      tx,
      'contact_emails',
      emails.map((e) => ({ id: ids.id(), contactId: id, email: e, emailKey: e, position: 0, kind: 'work' })),
    );
    await insert(
      tx,
      'affiliations',
      random.some(adults, random.whole(2, 9)).map((p) => ({
        id: ids.id(),
        contactId: p.id,
        organizationId: id,
        role: random.pick(roles),
        since: random.chance(0.6) ? `${random.whole(2012, 2024)}-09-01` : null,
        until: random.chance(0.15) ? '2025-08-31' : null,
        createdAt: at,
      })),
      'on conflict do nothing',
    );
  }

  const fields = [
    { name: 'First aid until', kind: 'date', choices: [] },
    { name: 'Boot size', kind: 'number', choices: [] },
    { name: 'Has a key to', kind: 'one of', choices: ['Reedhouse', 'Tool shed'] },
    { name: 'Own canoe', kind: 'yes or no', choices: [] },
  ].map((f, position) => ({ id: ids.id(), ...f, position, createdAt: at }));
  await insert(tx, 'custom_fields', fields);
  const [aid, boots, key, canoe] = fields.map((f) => f.id);
  await insert(
    tx,
    'custom_values',
    adults.flatMap((p) => [
      ...(random.chance(0.06)
        ? [{ contactId: p.id, fieldId: aid, value: shiftDate(today, random.whole(-200, 700)) }]
        : []),
      ...(random.chance(0.15)
        ? [{ contactId: p.id, fieldId: boots, value: String(random.whole(36, 47)) }]
        : []),
      ...(random.chance(0.02)
        ? [{ contactId: p.id, fieldId: key, value: random.pick(['Reedhouse', 'Tool shed']) }]
        : []),
      ...(random.chance(0.1)
        ? [{ contactId: p.id, fieldId: canoe, value: random.chance(0.4) ? 'yes' : 'no' }]
        : []),
    ]),
  );

  const some = (share: number) => random.some(adults, Math.round(adults.length * share)).map((p) => p.id);
  await tx.query("update contacts set languages = '{mi}' where id = any($1)", [some(0.02)]);
  await tx.query("update contacts set languages = '{de}' where id = any($1)", [some(0.02)]);
  await tx.query('update contacts set moved_on = $2 where id = any($1)', [
    some(0.012),
    shiftDate(today, -90),
  ]);
  await tx.query('update contact_emails set ended_on = $2 where contact_id = any($1)', [
    some(0.01),
    shiftDate(today, -200),
  ]);
}
