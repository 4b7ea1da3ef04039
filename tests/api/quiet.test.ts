import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Caller, World } from './harness.ts';
import { linkTo, makeWorld } from './harness.ts';
import { bringIn, openEvent, orderFor, saying } from './scenes.ts';

/** Every place that sends to people, or lists them to be reached, and what it does with those it must leave alone. */
describe('who asked not to be contacted, died or moved', () => {
  let world: World;
  let odalys: Caller;
  const people = ['heard', 'quiet', 'gone', 'away'] as const;
  type Who = (typeof people)[number];
  const ids = {} as Record<Who, string>;
  const email = (who: Who) => `${who}@fenmail.example`;
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
    for (const who of people)
      ids[who] = (
        await odalys.call('POST /api/contacts', {
          body: {
            given: who[0]!.toUpperCase() + who.slice(1),
            family: 'Tansy',
            email: email(who),
            street: '4 Chapel Hill',
            postalCode: 'B2X 1A1',
          },
        })
      ).id;
    await patch('quiet', { doNotContact: true });
    await patch('gone', { deceasedOn: '2026-07-01' });
    // Moved away, and the old address bounces: there is another by now.
    await patch('away', {
      movedOn: '2026-06-30',
      emails: [{ email: email('away'), endedOn: '2026-06-30' }, { email: 'new.away@fenmail.example' }],
    });
  });
  afterAll(() => world.close());
  const patch = (who: Who, body: object) =>
    odalys.call('PATCH /api/contacts/:id', { params: { id: ids[who] }, body: body as never });
  const mailTo = async (address: string) =>
    (await world.app.db.query('select 1 from standin_mail where address = $1', [address])).length;
  test('orders: confirmations, reminders and whatever else an event sends', async () => {
    const event = await openEvent(world, { title: 'Tansy Walk' });
    for (const who of people)
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given: who[0]!.toUpperCase() + who.slice(1), family: 'Tansy' }], {
          email: email(who),
        }),
      });
    await world.runner.run();
    expect(await mailTo(email('heard'))).toBe(1);
    for (const who of ['quiet', 'gone'] as const) expect(await mailTo(email(who))).toBe(0);
    // The order was placed with an address that is not theirs any more.
    expect(await mailTo(email('away'))).toBe(0);
    expect(await mailTo('new.away@fenmail.example')).toBe(1);
    await world.moveTo('2026-08-10T12:00:00Z');
    expect(await mailTo(email('heard'))).toBeGreaterThan(1);
    expect(await mailTo('new.away@fenmail.example')).toBeGreaterThan(1);
    for (const who of ['quiet', 'gone'] as const) expect(await mailTo(email(who))).toBe(0);
    // For each of them the plan says why not.
    const plan = await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
    const whyNot = (who: Who) =>
      new Set(plan.flatMap((s) => s.leftOut.filter((m) => m.contactId === ids[who]).map((m) => m.whyNot)));
    expect(whyNot('quiet')).toEqual(new Set(['asked not to be contacted']));
    expect(whyNot('gone')).toEqual(new Set(['died']));
    // Nobody asks for them at the door.
    const door = await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } });
    expect(door.rows.find((r) => r.given === 'Gone')!.details).toContain(
      'Died. Nobody is to be asked for them.',
    );
  });

  test('shifts: the dead are not put on any, the quiet only when that was decided, and neither is written to', async () => {
    const event = await openEvent(world, {
      title: 'Tansy Cut',
      startsLocal: '2026-09-05T09:00',
      endsLocal: '2026-09-05T12:00',
    });
    const { id: shift } = await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role: 'Raking', startsLocal: '2026-09-05T09:00', endsLocal: '2026-09-05T12:00', wished: 4 },
    });
    const assign = (who: Who, overrideReason = '') =>
      odalys.try('POST /api/shifts/:id/assignments', {
        params: { id: shift },
        body: { contactId: ids[who], overrideReason },
      });
    expect((await assign('gone', 'nobody told me')).problem.fields![0]!.message).toContain('died');
    expect((await assign('quiet')).body).toEqual({
      assigned: false,
      clashes: [{ kind: 'quiet', text: 'asked not to be contacted', absolute: false }],
    });
    const before = await mailTo(email('quiet'));
    expect((await assign('quiet', 'she offered it herself')).body).toMatchObject({ assigned: true });
    await world.runner.run();
    expect(await mailTo(email('quiet'))).toBe(before);
    const crew = await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } });
    expect(crew.shifts[0]!.assignments[0]).toMatchObject({ quiet: 'asked' });
  });

  test('freed seats: offered to the first who can be told, to others only by hand', async () => {
    const event = await openEvent(world, {
      title: 'Tansy Paddle',
      capacity: 1,
      startsLocal: '2026-09-12T09:00',
      endsLocal: '2026-09-12T12:00',
    });
    const place = (given: string, address: string) =>
      world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given, family: 'Tansy' }], { email: address }),
      });
    const seat = await place('Seat', 'seat@fenmail.example');
    await place('Quiet', email('quiet'));
    await place('Heard', email('heard'));
    const order = await world.anyone.call('GET /api/public/orders/:token', {
      params: { token: seat.token },
    });
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token: seat.token },
      body: { seats: order.seats.map((s) => s.id) },
    });
    const { rows, waiting } = await odalys.call('GET /api/events/:id/registrations', {
      params: { id: event.id },
    });
    expect(rows.find((r) => r.state === 'offered')).toMatchObject({ given: 'Heard' });
    expect(waiting).toMatchObject([{ name: 'Quiet Tansy', fits: 'asked not to be contacted' }]);
  });

  test('their own link, and messages written to many', async () => {
    for (const who of ['quiet', 'gone'] as const)
      await odalys.call('POST /api/contacts/:id/own-link', {
        params: { id: ids[who] },
      });
    const preview = await odalys.call('POST /api/mailings/preview', {
      body: { ids: people.map((w) => ids[w]), topic: 'notice', ...saying('x', 'y') },
    });
    expect(preview.planned).toBe(2);
    expect(preview.leftOut.map((l) => l.why).sort()).toEqual(['asked not to be contacted', 'died']);
    const away = await mailTo('new.away@fenmail.example');
    await odalys.call('POST /api/mailings', {
      body: {
        ids: people.map((w) => ids[w]),
        name: 'n',
        topic: 'notice',
        ...saying('x', 'y'),
        expect: 2,
      },
    });
    await world.runner.run();
    expect(await mailTo('new.away@fenmail.example')).toBe(away + 1);
    for (const who of ['quiet', 'gone'] as const) expect(await mailTo(email(who))).toBe(0);
    expect(await mailTo(email('away'))).toBe(0);
  });

  test('lists on screen say it beside the name; a former address is not shown as one', async () => {
    const expected = {
      Heard: { quiet: null, moved: false, email: email('heard'), postalCode: 'B2X 1A1' },
      Quiet: {
        quiet: 'asked',
        moved: false,
        email: email('quiet'),
        postalCode: 'B2X 1A1',
      },
      Gone: { quiet: 'died', moved: false, email: email('gone'), postalCode: 'B2X 1A1' },
      Away: { quiet: null, moved: true, email: 'new.away@fenmail.example', postalCode: null },
    };
    const { id: segment } = await odalys.call('POST /api/segments', {
      body: { name: 'Tansies', ids: people.map((w) => ids[w]) },
    });
    const lists = {
      table: (await odalys.call('GET /api/contacts', { query: { q: 'tansy' } })).contacts,
      search: (await odalys.call('GET /api/search', { query: { q: 'tansy' } })).contacts,
      segment: (await odalys.call('GET /api/segments/:id/contacts', { params: { id: segment } })).contacts,
    };
    for (const [name, list] of Object.entries(lists))
      for (const [given, what] of Object.entries(expected))
        expect([name, list.find((c) => c.given === given)]).toEqual([name, expect.objectContaining(what)]);
  });

  test('files for reaching people leave them out; the file of all contacts says what is so', async () => {
    const all = people.map((w) => ids[w]);
    const { id } = await odalys.call('POST /api/segments', { body: { name: 'All four', ids: all } });
    const files = {
      csv: await odalys.try('POST /api/contacts/chosen.csv', { body: { ids: all } }),
      vcf: await odalys.try('POST /api/contacts/chosen.vcf', { body: { ids: all } }),
      'segment csv': await odalys.try('GET /api/segments/:id/contacts.csv', { params: { id } }),
      'segment vcf': await odalys.try('GET /api/segments/:id/contacts.vcf', { params: { id } }),
    };
    for (const [name, file] of Object.entries(files)) {
      const text = String(file.body);
      const has = (word: string) => [name, word, text.includes(word)];
      expect(has('heard@')).toEqual([name, 'heard@', true]);
      expect(has('new.away@')).toEqual([name, 'new.away@', true]);
      for (const word of ['quiet@', 'gone@', ';away@', ',away@', ':away@'])
        expect(has(word)).toEqual([name, word, false]);
    }
    // Only who still lives there has the address.
    expect(String(files.csv.body).match(/Chapel Hill/gu)).toHaveLength(1);
    expect(String(files.vcf.body).match(/Chapel Hill/gu)).toHaveLength(1);

    const whole = String((await odalys.try('GET /api/contacts.csv')).body);
    expect(whole).toMatch(/Gone,Tansy.*2026-07-01/u);
    expect(whole).toMatch(/Quiet,Tansy.*,yes,/u);
    // Brought in elsewhere, they are left alone there too.
    const elsewhere = await makeWorld();
    try {
      const list = await bringIn(elsewhere, whole, 'contacts.csv');
      const there = await elsewhere.as('odalys');
      await there.call('POST /api/imports/:id/apply', { params: { id: list.id } });
      const found = (await there.call('GET /api/search', { query: { q: 'tansy' } })).contacts;
      expect(found.map((c) => [c.given, c.quiet]).sort()).toEqual([
        ['Away', null],
        ['Gone', 'died'],
        ['Heard', null],
        ['Quiet', 'asked'],
        ['Seat', null],
      ]);
    } finally {
      await elsewhere.close();
    }
  });

  test('whoever moved gets no old address back, and a new one at once where they say it', async () => {
    const record = () => odalys.call('GET /api/contacts/:id', { params: { id: ids.away } });
    const stale = await bringIn(
      world,
      'Name,Email,Street,Postal code\nAway Tansy,new.away@fenmail.example,4 Chapel Hill,B2X 1A1\n',
      'stale.csv',
    );
    expect(stale.counts).toMatchObject({ same: 1 });
    await odalys.call('DELETE /api/imports/:id', { params: { id: stale.id } });
    const list = await bringIn(
      world,
      'Name,Email,Street\nAway Tansy,new.away@fenmail.example,9 Harbour St\n',
      'fresh.csv',
    );
    await odalys.call('POST /api/imports/:id/apply', { params: { id: list.id } });
    expect(await record()).toMatchObject({ street: '9 Harbour St', movedOn: null });
    await odalys.call('POST /api/imports/:id/undo', { params: { id: list.id } });
    expect(await record()).toMatchObject({ street: '4 Chapel Hill', movedOn: '2026-06-30' });

    const url = await linkTo(world.app, 'own', ids.away);
    const token = url.split('/').at(-1)!;
    const own = await world.anyone.call('GET /api/public/own/:token', { params: { token } });
    expect(own.person).toMatchObject({ street: null, postalCode: null });
    const said = await world.anyone.call('POST /api/public/own/:token/details', {
      params: { token },
      body: { contactId: ids.away, street: '12 Sluice Lane' },
    });
    expect(said).toEqual({ changed: 1, waiting: 0 });
    expect(await record()).toMatchObject({ street: '12 Sluice Lane', postalCode: null, movedOn: null });
    await patch('away', { movedOn: '2026-07-01' });
    await patch('away', { street: '1 Reedcutters Row', movedOn: '2026-07-01' });
    expect(await record()).toMatchObject({ street: '1 Reedcutters Row', movedOn: null });
    await patch('away', { movedOn: '2026-07-02' });
  });

  test('segments can ask for it, and “has an email” means one that reaches them', async () => {
    const asked = async (who: Who, segment: object) =>
      (
        await odalys.call('POST /api/segments/why', {
          body: { segment: { ...segment }, contactId: ids[who] },
        })
      ).holds;
    expect(await asked('away', { ask: 'moved away' })).toBe(true);
    expect(await asked('heard', { ask: 'moved away' })).toBe(false);
    expect(await asked('away', { ask: 'reach', by: 'address' })).toBe(false);
    expect(await asked('away', { ask: 'reach', by: 'email' })).toBe(true);
    await patch('away', { emails: [{ email: email('away'), endedOn: '2026-06-30' }] });
    expect(await asked('away', { ask: 'reach', by: 'email' })).toBe(false);
  });
});
