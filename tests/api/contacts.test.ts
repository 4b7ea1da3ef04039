import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { bringIn, openEvent, orderFor } from './scenes.ts';

describe('contacts', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
    const members = await bringIn(world, readFileSync('tests/data/members.csv'), 'members.csv');
    await (await world.as('odalys')).call('POST /api/imports/:id/apply', { params: { id: members.id } });
  });
  afterAll(() => world.close());
  const odalys = () => world.as('odalys');
  const find = async (q: string) =>
    (await (await odalys()).call('GET /api/search', { query: { q } })).contacts;

  test('all of them go out as a table and as an address book, and come in again without a change', async () => {
    const caller = await odalys();
    const [amara] = await find('nettle ama');
    await caller.call('POST /api/contacts/:id/notes', {
      params: { id: amara!.id },
      body: { text: '=SUM(A1:A9) is what she wrote; "odd, but true"' },
    });
    await caller.call('POST /api/contacts/:id/notes', {
      params: { id: amara!.id },
      body: { text: 'keeps bees' },
    });
    await caller.call('POST /api/tags', { body: { tag: 'Bees', ids: [amara!.id] } });
    const people = (await caller.call('GET /api/contacts', { query: { limit: 1 } })).total;
    for (const [key, name] of [
      ['GET /api/contacts.csv', 'contacts.csv'],
      ['GET /api/contacts.vcf', 'contacts.vcf'],
    ] as const) {
      const file = await caller.try(key);
      const again = await bringIn(world, String(file.body), name);
      expect(again.allRows).toBe(people);
      expect(again.counts).toEqual({ new: 0, changes: 0, same: people, look: 0, rejected: 0 });
      await caller.call('DELETE /api/imports/:id', { params: { id: again.id } });
    }
    const one = await caller.try('POST /api/contacts/chosen.vcf', { body: { ids: [amara!.id] } });
    expect(String(one.body)).toContain('N:Nettle;Amara;;;');
    expect(String(one.body).split('BEGIN:VCARD')).toHaveLength(2);
  });

  test('people are found by parts, without accents, by digits, with a slip in typing, and the last seen first', async () => {
    const caller = await odalys();
    const names = async (q: string) => (await find(q)).map((c) => `${c.given} ${c.family}`);
    expect((await names('nettle ama'))[0]).toBe('Amara Nettle');
    expect((await names('lefevre')).length).toBeGreaterThan(0);
    expect((await find('555-0161'))[0]).toMatchObject({ phone: '+19025550161' });
    expect((await names('nettle665'))[0]).toBe('Amara Nettle');
    // One letter too many, one too few, two swapped.
    for (const slip of ['amara nettlle', 'amara netle', 'amara nettel', 'amraa nettle'])
      expect((await names(slip))[0], slip).toBe('Amara Nettle');
    expect(await names('qqqqzzzz')).toEqual([]);
    for (const given of ['Ida', 'Ivo'])
      await caller.call('POST /api/contacts', {
        body: { given, family: 'Samesort', email: `${given}@fenmail.example` },
      });
    expect(await names('samesort')).toEqual(['Ida Samesort', 'Ivo Samesort']);
    const event = await openEvent(world, { title: 'Seen Lately' });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Ivo', family: 'Samesort' }], { email: 'ivo@fenmail.example' }),
    });
    await world.app.db.query(
      "update attendance set state = 'arrived', arrived_at = '2026-07-01T12:00:00Z' where contact_id = (select id from contacts where given_name = 'Ivo')",
    );
    expect(await names('samesort')).toEqual(['Ivo Samesort', 'Ida Samesort']);
    // Patterns and expressions are only text here.
    for (const odd of ['%', '_', '(a+)+$'.repeat(20), '\\', "'; --", 'a'.repeat(200)])
      expect((await caller.try('GET /api/search', { query: { q: odd } })).status).toBe(200);
  });

  test('tags are added to many at once, and taken off again from just those', async () => {
    const caller = await odalys();
    const { contacts } = await caller.call('GET /api/contacts', { query: { limit: 5 } });
    const ids = contacts.map((c) => c.id);
    await caller.call('POST /api/tags', { body: { tag: 'stall', ids: ids.slice(0, 2) } });
    const { changed } = await caller.call('POST /api/tags', { body: { tag: ' STALL ', ids } });
    expect(changed.sort()).toEqual(ids.slice(2).sort());
    expect((await caller.call('GET /api/contacts', { query: { tag: 'stall' } })).total).toBe(5);
    await caller.call('POST /api/tags', { body: { tag: 'stall', ids: changed, remove: true } });
    const left = await caller.call('GET /api/contacts', { query: { tag: 'stall' } });
    expect(left.contacts.map((c) => c.id).sort()).toEqual(ids.slice(0, 2).sort());
    expect(await caller.call('GET /api/tags', {})).toContainEqual({ tag: 'stall', contacts: 2 });
    const empty = await caller.try('POST /api/tags', { body: { tag: ' ', ids } });
    expect(empty.problem.fields![0]!.path).toBe('tag');
  });

  test('a note with a day is a task: it reaches the Desk, and is ticked off', async () => {
    const caller = await odalys();
    const [ines] = await find('ines eriksen');
    const note = await caller.call('POST /api/contacts/:id/notes', {
      params: { id: ines!.id },
      body: { text: 'ring about the canoe', dueOn: '2026-07-08' },
    });
    const entries = async () =>
      (await caller.call('GET /api/desk')).entries.filter((e) => e.about === 'task');
    expect(await entries()).toMatchObject([
      { subject: 'Ines Eriksen', text: 'ring about the canoe', tone: 'stop', when: 'since 8 Jul' },
    ]);
    await caller.call('PATCH /api/notes/:id', { params: { id: note.id }, body: { dueOn: '2026-07-12' } });
    expect(await entries()).toEqual([]);
    await caller.call('PATCH /api/notes/:id', { params: { id: note.id }, body: { dueOn: '2026-07-09' } });
    expect(await entries()).toMatchObject([{ when: 'today', tone: 'need' }]);
    const done = await caller.call('PATCH /api/notes/:id', { params: { id: note.id }, body: { done: true } });
    expect(done.doneAt).not.toBeNull();
    expect(await entries()).toEqual([]);
    const lifeline = await caller.call('GET /api/contacts/:id/lifeline', {
      params: { id: ines!.id },
      query: { kind: 'note' },
    });
    expect(lifeline.entries[0]).toMatchObject({
      text: 'ring about the canoe',
      detail: 'Odalys Ferrant, due 9 Jul 2026, done',
    });
    await caller.call('DELETE /api/notes/:id', { params: { id: note.id } });
    expect(
      (await caller.try('PATCH /api/notes/:id', { params: { id: note.id }, body: { done: false } })).status,
    ).toBe(404);
    const wrong = await caller.try('POST /api/contacts/:id/notes', {
      params: { id: ines!.id },
      body: { text: '  ' },
    });
    expect(wrong.problem.fields![0]!.message).toBe('Write something.');
  });

  test('emails and telephones are a list with kinds: changed, ordered, taken away', async () => {
    const caller = await odalys();
    const { id } = await caller.call('POST /api/contacts', {
      body: { given: 'Orla', family: 'Pryor', email: 'orla@fenmail.example', phone: '902 555 0181' },
    });
    const change = (body: object) => caller.try('PATCH /api/contacts/:id', { params: { id }, body });
    const changed = await change({
      emails: [
        { email: 'pryor@work.example', kind: 'work' },
        { email: 'Orla@fenmail.example', kind: 'home' },
        { email: ' ' },
      ],
      phones: [],
    });
    expect(changed.body).toMatchObject({
      emails: [
        { email: 'pryor@work.example', kind: 'work', bounced: false },
        { email: 'Orla@fenmail.example', kind: 'home' },
      ],
      phones: [],
    });
    expect((await find('pryor@work'))[0]).toMatchObject({ id, email: 'pryor@work.example', phone: null });
    const wrong = await change({
      emails: [{ email: 'fine@fenmail.example' }, { email: 'not one' }],
      phones: [{ phone: '12' }],
    });
    expect(wrong.problem.fields!.map((f) => f.path)).toEqual(['emails.1.email', 'phones.0.phone']);
    expect((await change({ deceasedOn: '2027-01-01' })).problem.fields![0]!.path).toBe('deceasedOn');
    // A registrant with the new address is known by it.
    const again = await caller.call('POST /api/contacts', {
      body: { given: 'Orla', family: 'Pryor', email: 'PRYOR@work.example' },
    });
    expect(again).toMatchObject({ id, existed: true });
  });

  test('somebody who asked not to be contacted, or died, gets none of the messages an event has planned', async () => {
    const caller = await odalys();
    const event = await openEvent(world, { title: 'Quiet Paddle' });
    const emails = ['quiet@fenmail.example', 'gone@fenmail.example', 'heard@fenmail.example'];
    for (const [at, given] of ['Vera', 'Wyn', 'Yara'].entries())
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given, family: 'Quiet' }], { email: emails[at]! }),
      });
    const sent = async () =>
      Promise.all(
        emails.map(
          async (email) =>
            (await world.app.db.query('select 1 from standin_mail where address = $1', [email])).length,
        ),
      );
    await world.runner.run();
    const before = await sent();
    const patch = async (email: string, change: object) =>
      caller.call('PATCH /api/contacts/:id', { params: { id: (await find(email))[0]!.id }, body: change });
    await patch(emails[0]!, { doNotContact: true });
    await patch(emails[1]!, { deceasedOn: '2026-07-01' });
    await world.moveTo('2026-08-20T12:00:00Z');
    const after = await sent();
    expect(after.slice(0, 2)).toEqual(before.slice(0, 2));
    expect(after[2]).toBeGreaterThan(before[2]!);
    const held = await caller.call('GET /api/tray', { query: { state: 'held back', eventId: event.id } });
    const quiet = held.rows.filter((r) => emails.slice(0, 2).includes(r.address ?? ''));
    expect(quiet.length).toBeGreaterThan(1);
    expect(new Set(quiet.map((r) => r.whyNot))).toEqual(new Set(['asked not to be contacted', 'died']));
  });

  test('consent is kept by topic and channel, with who wrote it down and when', async () => {
    const caller = await odalys();
    const { id } = await caller.call('POST /api/contacts', { body: { given: 'Nils', family: 'Novak' } });
    const say = (channel: 'email' | 'text message', granted: boolean) =>
      caller.call('POST /api/contacts/:id/consents', {
        params: { id },
        body: { topic: 'newsletter', channel, granted },
      });
    await say('email', true);
    await say('text message', false);
    await say('email', false);
    const { consents } = await caller.call('GET /api/contacts/:id', { params: { id } });
    expect(consents.map((c) => [c.topic, c.channel, c.granted, c.source])).toEqual([
      ['newsletter', 'email', false, 'said to Odalys Ferrant'],
      ['newsletter', 'text message', false, 'said to Odalys Ferrant'],
    ]);
  });

  test('everything held can be taken along; erased, the money stays without the person', async () => {
    const caller = await odalys();
    const list = await bringIn(
      world,
      'Name,Email,Phone,Level,Emergency contact\nZebulon Quagg,zeb.quagg@fenmail.example,902 555 0188,Life,Una Quill\n',
    );
    await caller.call('POST /api/imports/:id/apply', { params: { id: list.id } });
    const [member] = await find('quagg zebulon');
    const id = member!.id;
    const fund = (await world.app.db.query<{ id: string }>('select id from funds limit 1'))[0]!.id;
    await world.app.db.query(
      "insert into donations (id, contact_id, fund_id, amount, currency, at) values ($1, $2, $3, 2500, 'CAD', '2026-05-01T12:00:00Z')",
      [crypto.randomUUID(), id, fund],
    );
    await caller.call('POST /api/contacts/:id/notes', { params: { id }, body: { text: 'Zebulon sings' } });
    const given = async () =>
      (await world.app.db.query<{ n: number }>('select sum(amount)::int as n from donations'))[0]!.n;
    const before = await given();

    const json = await caller.try('GET /api/contacts/:id/everything.json', { params: { id } });
    const all = json.body as unknown as Record<string, unknown[]>;
    expect(Object.keys(all)).toEqual(
      expect.arrayContaining(['person', 'contact_emails', 'memberships', 'donations', 'contact_notes']),
    );
    expect(JSON.stringify(all)).toContain('Zebulon sings');
    const csv = await caller.try('GET /api/contacts/:id/everything.csv', { params: { id } });
    expect(String(csv.body)).toContain('became a contact');

    const what = await caller.call('GET /api/contacts/:id/erasure', { params: { id } });
    expect(what.kept).toEqual(['1 donation: kept without the person, because accounts have to be kept']);
    const wrong = await caller.try('POST /api/contacts/:id/erase', {
      params: { id },
      body: { name: 'Zebulon' },
    });
    expect(wrong.problem.fields![0]!.message).toContain('Zebulon Quagg');
    await caller.call('POST /api/contacts/:id/erase', { params: { id }, body: { name: 'zebulon quagg' } });

    // Nothing of him is left anywhere in the database but the money.
    const tables = await world.app.db.query<{ t: string }>(
      "select table_name as t from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'",
    );
    for (const { t } of tables) {
      const rows = await world.app.db.query(
        `select 1 from ${t} x where to_jsonb(x)::text ~* 'zebulon|quagg|9025550188'`,
      );
      expect([t, rows.length]).toEqual([t, 0]);
    }
    expect(await given()).toBe(before);
    expect(await find('quagg')).toEqual([]);
    const shell = await caller.call('GET /api/contacts/:id', { params: { id } });
    expect(shell).toMatchObject({
      given: 'Erased',
      family: 'person',
      emails: [],
      notes: [],
      totals: { givenEver: [{ amount: 2500, currency: 'CAD' }] },
    });
    const again = await caller.try('POST /api/contacts/:id/erase', {
      params: { id },
      body: { name: 'Erased person' },
    });
    expect(again.problem.fields![0]!.message).toContain('already');
  });
});
