import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { ensureKeysOfVersion } from '#server/contacts/keys.ts';
import { KnownContacts } from '#server/contacts/known.ts';
import { keepFloors, missingRows } from '#server/db/floors.ts';
import { migrate, shippedMigrations } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { vacuumTables } from '#server/db/upkeep.ts';
import type { Caller, World } from './harness.ts';
import { makeWorld } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

describe('what the database keeps by itself', () => {
  let world: World;
  let odalys: Caller;
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
  });
  afterAll(() => world.close());

  test('tables that changed a lot are measured and cleaned, the others left alone', async () => {
    const { db } = world.app;
    await vacuumTables(db);
    expect(await vacuumTables(db)).toEqual([]);
    await db.query(
      "insert into households (id, name, created_at) select gen_random_uuid(), 'h', now() from generate_series(1, 500)",
    );
    expect(await vacuumTables(db)).toEqual(['households']);
    const measured = async () =>
      (
        await db.query<{ n: number }>(
          "select reltuples::int as n from pg_class where oid = 'households'::regclass",
        )
      )[0]!.n;
    expect(await measured()).toBeGreaterThanOrEqual(500);
    await db.query("delete from households where name = 'h'");
    expect(await vacuumTables(db)).toEqual(['households']);
    expect(await measured()).toBeLessThan(500);
  });

  test('who was folded by an older version is found by the name as it is folded now', async () => {
    const { id } = await odalys.call('POST /api/contacts', { body: { given: 'Chloé', family: 'Sacrécœur' } });
    await world.app.db.query(
      "update contacts set name_key = 'chloe sacrecœur', search_text = '' where id = $1",
      [id],
    );
    const { db } = world.app;
    const key = async () => (await db.query('select name_key from contacts where id = $1', [id]))[0];
    // Whoever made the keys by this version need not look through everybody at every start.
    await db.query('update matching_model set keys_version = 0');
    await ensureKeysOfVersion(db);
    expect(await key()).toEqual({ nameKey: 'chloe sacrecoeur' });
    await db.query("update contacts set name_key = 'chloe sacrecœur' where id = $1", [id]);
    await ensureKeysOfVersion(db);
    expect(await key()).toEqual({ nameKey: 'chloe sacrecœur' });
    await db.query('update matching_model set keys_version = 0');
    await ensureKeysOfVersion(db);
    const { contacts } = await odalys.call('GET /api/contacts', { query: { q: 'sacrecoeur' } });
    expect(contacts.map((c) => c.id)).toEqual([id]);
  });

  test('totals follow seats, arrivals and absences, also when a seat changes hands', async () => {
    const event = await openEvent(world, { title: 'Totals' });
    const place = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [
        { given: 'Tilda', family: 'Total' },
        { given: 'Theo', family: 'Total' },
      ]),
    });
    const order = await world.anyone.call('GET /api/public/orders/:token', {
      params: { token: place.token },
    });
    const agree = async () => {
      const totals = await world.app.db.query(
        'select contact_id, registered, attended, missed from contact_totals order by contact_id',
      );
      const counted = await world.app.db.query(
        `select r.contact_id, count(distinct r.event_id) filter (where r.state = 'confirmed')::int as registered,
           count(distinct r.event_id) filter (where a.state in ('arrived', 'left'))::int as attended,
           count(distinct r.event_id) filter (where a.state = 'missed')::int as missed
         from registrations r left join attendance a on a.registration_id = r.id where r.contact_id is not null
         group by r.contact_id having bool_or(r.state = 'confirmed') or bool_or(a.state <> 'expected') order by r.contact_id`,
      );
      expect(totals).toEqual(counted);
      return totals.length;
    };
    expect(await agree()).toBe(2);
    await world.moveTo('2026-08-08T12:00:00Z');
    await odalys.call('POST /api/registrations/:id/attendance', {
      params: { id: order.seats[0]!.id },
      body: { eventId: event.id, state: 'arrived' },
    });
    await agree();
    // The other seat turns out to be somebody else's.
    const { id } = await odalys.call('POST /api/contacts', { body: { given: 'Nina', family: 'Novak' } });
    await world.app.db.query('update registrations set contact_id = $1 where id = $2', [
      id,
      order.seats[1]!.id,
    ]);
    await world.app.db.query('update attendance set contact_id = $1 where registration_id = $2', [
      id,
      order.seats[1]!.id,
    ]);
    await agree();
    await world.moveTo('2026-08-09T12:00:00Z');
    await agree();
    await odalys.call('POST /api/contacts/:id/merge', {
      params: { id },
      body: {
        other: (await odalys.call('GET /api/search', { query: { q: 'tilda total' } })).contacts[0]!.id,
      },
    });
    await agree();
    const why = await odalys.call('POST /api/segments/why', {
      body: {
        contactId: id,
        segment: { ask: 'attended', times: { is: 'exactly', n: 1 }, of: {}, within: { when: 'ever' } },
      },
    });
    expect(why.holds).toBe(true);
  });

  test('contacts kept while many are looked up are read anew once one changed', async () => {
    const known = new KnownContacts();
    const keys = ['e vesna@fenmail.example'];
    await known.fetch(world.app.db, keys);
    expect(known.sharing(keys)).toEqual([]);
    const { id } = await odalys.call('POST /api/contacts', {
      body: { given: 'Vesna', family: 'Quill', email: 'vesna@fenmail.example' },
    });
    await known.fetch(world.app.db, keys);
    expect(known.sharing(keys).map((c) => [c.of.id, c.given])).toEqual([[id, 'vesna']]);
    await odalys.call('PATCH /api/contacts/:id', { params: { id }, body: { given: 'Wanda' } });
    await known.fetch(world.app.db, keys);
    expect(known.sharing(keys).map((c) => c.given)).toEqual(['wanda']);
    expect(known.sharing(['e nobody@fenmail.example'])).toEqual([]);
  });

  test('rows are counted in a database of any version, also of one that has no books yet', async () => {
    const db = await openPglite({});
    const all = shippedMigrations();
    await migrate(
      db,
      all.filter((m) => m.name < '0048'),
    );
    expect(await missingRows(db)).toEqual([]);
    await keepFloors(db, '2026-07-09T12:00:00.000Z');
    await migrate(db);
    await keepFloors(db, '2026-07-09T12:00:00.000Z');
    expect(await missingRows(db)).toEqual([]);
    await db.query("update row_floors set at_least = 2 where name = 'postings'");
    expect(await missingRows(db)).toEqual(['postings: 0 of at least 2']);
    await db.close();
  });

  test('a database of the version before is brought up to date with what it holds', async () => {
    const db = await openPglite({});
    const all = shippedMigrations();
    const before10 = all.findIndex((m) => m.name.startsWith('0010'));
    await migrate(db, all.slice(0, 2));
    await db.script(`
      insert into contacts (id, given_name, family_name, source, created_at, updated_at)
        values ('00000000-0000-7000-8000-000000000001', 'Una', 'Quill', 's', now(), now()),
               ('00000000-0000-7000-8000-000000000002', 'Una', 'Quill', 's', now(), now());
      insert into memberships (id, contact_id, since, created_at) select gen_random_uuid(), id, s, now()
        from contacts, (values ('2012'), ('2012-02-31'), ('2014-05-06'), ('spring')) v (s) where id::text like '%1';
      insert into events (id, public_title, zone, state, created_at, updated_at, copied_from)
        values ('00000000-0000-7000-8000-0000000000a1', 'First', 'UTC', 'wrapped', now(), now(), null),
               ('00000000-0000-7000-8000-0000000000a2', 'Second', 'UTC', 'wrapped', now(), now(), '00000000-0000-7000-8000-0000000000a1'),
               ('00000000-0000-7000-8000-0000000000a3', 'Third', 'UTC', 'draft', now(), now(), '00000000-0000-7000-8000-0000000000a2');
      insert into offers (id, event_id, position, name, price) select gen_random_uuid(), id, 0, 'Seat', 0 from events;
      insert into orders (id, event_id, buyer_given, buyer_family, due, lines, seats, state, placed_at)
        select gen_random_uuid(), id, 'x', 'y', 0, '[]', 1, 'paid', now() from events where public_title = 'First';
      insert into registrations (id, order_id, event_id, offer_id, unit_number, seat_number, contact_id, state, created_at)
        select gen_random_uuid(), o.id, o.event_id, f.id, 1, 1, '00000000-0000-7000-8000-000000000001', 'confirmed', now()
        from orders o join offers f on f.event_id = o.event_id;
      insert into segments (id, name, segment, created_at, updated_at) values (gen_random_uuid(), 'Old',
        '{"all": [{"ask": "newsletter", "said": "yes"}, {"not": {"ask": "member", "level": "Life"}}]}', now(), now());
      insert into merges (id, kept, merged, at, actor, before, after, moved) values (gen_random_uuid(), '00000000-0000-7000-8000-000000000001',
        '00000000-0000-7000-8000-000000000002', now(), 'x', '{}', '{}', '{"rows": {}, "tags": ["bees"], "shifts": []}');
    `);
    await migrate(db, all.slice(0, before10));
    await db.script(`
      update registrations set link_reasons = '["same email, una@fenmail.example", "same family name"]';
      insert into messages (id, recipient_key, kind, name, language, state, reason, why_not, planned_for, attempts, created_at)
        values (gen_random_uuid(), 'a', 'reminder', 'Una', 'en', 'held back', 'r', 'the person died', now(), 0, now()),
               (gen_random_uuid(), 'b', 'reminder', 'Una', 'en', 'planned', 'r', null, now(), 0, now());
      insert into pairs (id, contact_a, contact_b, probability, outcome, held, findings, found_by, found_at)
        select gen_random_uuid(), min(id::text)::uuid, max(id::text)::uuid, 0.5, 'look', 'the birth dates differ',
          '[{"field": "given", "words": "same given name, Una", "bits": 4}]', 'test', now() from contacts;
      insert into imports (id, file_name, file_hash, state, encoding, delimiter, heading_line, headings, mapping, counts, created_at)
        values ('00000000-0000-7000-8000-0000000000b1', 'f', 'h', 'checked', 'utf-8', ',', 1, '[]', '{}', '{}', now());
      insert into import_rows (import_id, line, cells, verdict, reasons, changes)
        values ('00000000-0000-7000-8000-0000000000b1', 2, '[]', 'changes', '["known by the email alone"]',
          '[{"field": "phone", "why": null}, {"field": "name", "why": "ours is kept"}]');
    `);
    expect(await migrate(db)).toBe(all.length - before10);
    const written = (words: string) => ({ code: 'as written', params: { words } });
    expect(await db.query('select link_reasons from registrations')).toEqual([
      { linkReasons: [written('same email, una@fenmail.example'), written('same family name')] },
    ]);
    expect(await db.query('select why_not from messages order by recipient_key')).toEqual([
      { whyNot: written('the person died') },
      { whyNot: null },
    ]);
    expect(await db.query('select held, findings from pairs')).toEqual([
      {
        held: written('the birth dates differ'),
        findings: [{ field: 'given', reason: written('same given name, Una'), bits: 4 }],
      },
    ]);
    expect(await db.query('select reasons, changes from import_rows')).toEqual([
      {
        reasons: [written('known by the email alone')],
        changes: [
          { field: 'phone', why: null },
          { field: 'name', why: written('ours is kept') },
        ],
      },
    ]);
    expect((await db.query('select since, starts_on from memberships order by since')).map((m) => m)).toEqual(
      [
        { since: '2012', startsOn: '2012-01-01' },
        { since: '2012-02-31', startsOn: null },
        { since: '2014-05-06', startsOn: '2014-05-06' },
        { since: 'spring', startsOn: null },
      ],
    );
    const firsts = await db.query<{ firstOf: string }>('select first_of from events');
    expect(new Set(firsts.map((f) => f.firstOf))).toEqual(new Set(['00000000-0000-7000-8000-0000000000a1']));
    expect(await db.query('select registered, attended, missed from contact_totals')).toEqual([
      { registered: 1, attended: 0, missed: 0 },
    ]);
    expect((await db.query('select segment from segments'))[0]).toEqual({
      segment: {
        all: [
          { ask: 'consent', topic: 'newsletter', channel: 'email', said: 'yes' },
          { not: { ask: 'member', on: 'today', level: 'Life' } },
        ],
      },
    });
    expect((await db.query('select moved from merges'))[0]).toEqual({
      moved: { rows: {}, copied: { contact_tags: ['bees'] }, shifts: [] },
    });
    await db.close();
  });
});
