// Copied into the tests of an earlier version, and run there: plays a small organization through that version's own interface and
// writes down every row. What that version cannot do yet is left out.
import { writeFileSync } from 'node:fs';
import { test } from 'vitest';
import { makeWorld } from './harness.ts';
import { bringIn, openEvent, orderFor } from './scenes.ts';

test('a small organization', async () => {
  const world = await makeWorld();
  const odalys = await world.as('odalys');
  const left = [];
  const step = async (what, does) => {
    try {
      return await does();
    } catch (error) {
      left.push(`${what}: ${String(error).slice(0, 300)}`);
      return null;
    }
  };
  const call = (key, sent = {}, who = odalys) => who.call(key, sent);

  const lagoon = await openEvent(world, {
    title: 'Lagoon Day',
    price: 2500,
    capacity: 6,
    waiver: 'On the water',
    startsLocal: '2026-07-18T09:00',
    endsLocal: '2026-07-18T16:00',
  });
  const orders = [];
  const book = async (people, more = {}) => {
    const placed = await step(`booking of ${people[0].given}`, () =>
      call('POST /api/events/:id/orders', {
        params: { id: lagoon.id },
        body: orderFor(lagoon, people, more),
      }),
    );
    if (placed) orders.push(placed.orderId);
    return placed?.orderId;
  };
  const first = await book([
    { given: 'Sunniva', family: 'Aldous', birthDate: '1988-02-03' },
    { given: 'Petra', family: 'Aldous', birthDate: '2015-05-05' },
  ]);
  const second = await book([{ given: 'Corin', family: 'Blythe', birthDate: '1979-11-30' }]);
  const third = await book([
    { given: 'Imre', family: 'Szabo', birthDate: '1990-01-01' },
    { given: 'Zsofia', family: 'Szabo', birthDate: '1991-01-01' },
  ]);
  await step('a booking of the public', async () => {
    const { token } = await call(
      'POST /api/public/events/:slug/orders',
      {
        params: { slug: lagoon.slug },
        body: orderFor(lagoon, [{ given: 'Public', family: 'Person', birthDate: '1970-07-07' }]),
      },
      world.anyone,
    );
    const params = { token };
    await call(
      'POST /api/public/orders/:token/pay',
      { params, body: { card: '9000 0000 0000 0001', expiry: '08/29' } },
      world.anyone,
    );
    const order = await call('GET /api/public/orders/:token', { params }, world.anyone);
    const asked = order.waiver ?? order.waivers[0];
    await call(
      'POST /api/public/orders/:token/signatures',
      {
        params,
        body: {
          // What one version takes, another lets go.
          registrationId: order.seats[0].id,
          seats: [{ registrationId: order.seats[0].id, relation: 'self', answers: {} }],
          waiverId: asked.id,
          version: asked.version,
          relation: 'self',
          typedName: 'Public Person',
          ticked: asked.clauses.map((c) => c.id),
        },
      },
      world.anyone,
    );
  });
  await book([{ given: 'Noor', family: 'Waiting', birthDate: '1995-05-05' }]);
  for (const [id, amount] of [
    [first, 5000],
    [second, 2500],
    [third, 1000],
  ])
    await step(`money of ${amount}`, () =>
      call('POST /api/orders/:id/payments', { params: { id }, body: { method: 'cash', amount } }),
    );
  await step('some of it back', () =>
    call('POST /api/orders/:id/refunds', {
      params: { id: second },
      body: { amount: 700, kind: 'seats', method: 'cash', reason: 'Rain' },
    }),
  );
  const seats = await call('GET /api/events/:id/registrations', { params: { id: lagoon.id } });
  const seatOf = (given) => seats.rows.find((r) => r.name?.includes(given) || r.given === given);
  await step('a signature', async () => {
    const { waivers, waiver } = await call('GET /api/events/:id/doors', { params: { id: lagoon.id } });
    const asked = waivers?.[0] ?? waiver;
    await call('POST /api/registrations/:id/signatures', {
      params: { id: seatOf('Sunniva').id },
      body: {
        waiverId: asked.id,
        version: asked.version,
        relation: 'self',
        typedName: 'Sunniva Aldous',
        ticked: asked.clauses.map((c) => c.id),
      },
    });
  });
  await step('a seat given up', () =>
    call('POST /api/registrations/:id/withdraw', { params: { id: seatOf('Zsofia').id }, body: {} }),
  );
  const shift = await step('a shift', () =>
    call('POST /api/events/:id/shifts', {
      params: { id: lagoon.id },
      body: {
        role: 'Landing',
        place: 'Jetty',
        startsLocal: '2026-07-18T08:00',
        endsLocal: '2026-07-18T12:00',
        needed: 2,
        least: 2,
        wished: 2,
      },
    }),
  );
  const helper = await step('a helper', () =>
    call('POST /api/contacts', {
      body: { given: 'Torben', family: 'Tansley', email: 'torben.tansley@fenmail.example' },
    }),
  );
  await step('somebody on the shift', () =>
    call('POST /api/shifts/:id/assignments', { params: { id: shift.id }, body: { contactId: helper.id } }),
  );
  const ticket = await step('a certificate', () =>
    call('POST /api/skills', { body: { name: 'Brushcutter ticket', certificate: true } }),
  );
  await step('somebody with a certificate', () =>
    call('PUT /api/contacts/:id/skills/:skill', {
      params: { id: helper.id, skill: ticket.id },
      body: { number: '4711', until: '2026-12-31', seen: true },
    }),
  );
  const contact = { id: seatOf('Sunniva').contactId };
  await step('details', () =>
    call('PATCH /api/contacts/:id', {
      params: contact,
      body: { street: '9 Sluice Lane', postalCode: 'B0K 1A0', dietary: 'no wheat' },
    }),
  );
  await step('a note', () =>
    call('POST /api/contacts/:id/notes', { params: contact, body: { text: 'Brings a flask.' } }),
  );
  await step('a tag', () => call('POST /api/tags', { body: { tag: 'paddler', ids: [contact.id] } }));
  await step('a consent', () =>
    call('POST /api/contacts/:id/consents', {
      params: contact,
      body: { topic: 'newsletter', channel: 'email', granted: false },
    }),
  );
  await step('a list brought in', async () => {
    const { id } = await bringIn(
      world,
      'First name,Last name,Email\nHanne,Quayle,hanne.quayle@fenmail.example\nTorben,Tansley,torben.tansley@fenmail.example\n',
    );
    await call('POST /api/imports/:id/apply', { params: { id }, body: {} });
  });
  await step('two who are one', async () => {
    const a = await call('POST /api/contacts', { body: { given: 'Maren', family: 'Holt' } });
    const b = await call('POST /api/contacts', {
      body: { given: 'Maren', family: 'Holt', email: 'maren@fenmail.example' },
    });
    await call('POST /api/contacts/:id/merge', { params: { id: b.id }, body: { other: a.id } });
  });
  await step('a segment', () =>
    call('POST /api/segments', {
      body: { name: 'Who can be written to', segment: { all: [{ ask: 'reach', by: 'email' }] } },
    }),
  );
  // Another event, moved with people on it; a draft; one called off.
  await step('an event that is moved', async () => {
    const walk = await openEvent(world, {
      title: 'Shore Walk',
      startsLocal: '2026-09-05T09:00',
      endsLocal: '2026-09-05T12:00',
    });
    await call('POST /api/events/:id/orders', {
      params: { id: walk.id },
      body: orderFor(walk, [{ given: 'Sunniva', family: 'Aldous', birthDate: '1988-02-03' }]),
    });
    const { version } = await call('GET /api/events/:id', { params: { id: walk.id } });
    await call('PATCH /api/events/:id', {
      params: { id: walk.id },
      body: { version, change: { startsLocal: '2026-09-06T09:00', endsLocal: '2026-09-06T12:00' } },
    });
  });
  await step('an event that is called off', async () => {
    const talk = await openEvent(world, {
      title: 'Otter Talk',
      startsLocal: '2026-08-20T19:00',
      endsLocal: '2026-08-20T21:00',
    });
    const params = { id: talk.id };
    await call('POST /api/events/:id/orders', {
      params,
      body: orderFor(talk, [{ given: 'Corin', family: 'Blythe' }]),
    });
    await call('POST /api/events/:id/state', {
      params,
      body: { to: 'called off', move: 'call off', words: 'Storm' },
    });
  });
  await step('a plan for clearance', async () => {
    const { id } = await call('POST /api/events', { body: { publicTitle: 'Night Watch' } });
    const { version } = await call('GET /api/events/:id', { params: { id } });
    const params = { id };
    await call('PATCH /api/events/:id', {
      params,
      body: {
        version,
        change: { startsLocal: '2026-10-03T20:00', endsLocal: '2026-10-04T01:00', capacity: 12 },
      },
    });
  });
  await step('a series', async () => {
    const cut = await openEvent(world, {
      title: 'Reed Cut',
      startsLocal: '2026-08-05T09:30',
      endsLocal: '2026-08-05T12:30',
    });
    await call('POST /api/series', {
      body: {
        eventId: cut.id,
        rule: 'FREQ=MONTHLY;BYDAY=1WE',
        startsLocal: '2026-08-05T09:30',
        extra: [],
        skipped: [],
        horizon: 3,
        opens: true,
      },
    });
  });
  await step('a gift', async () => {
    const { funds } = await call('GET /api/choices');
    await call('POST /api/gifts', {
      body: {
        contactId: contact.id,
        person: null,
        kind: 'money',
        method: 'cheque',
        amount: 4000,
        reference: 'No. 7',
        fundId: funds[0].id,
      },
    });
  });
  await world.runner.run();
  await step('the day itself', () => world.moveTo('2026-07-18T12:30:00.000Z'));
  await step('an arrival', () =>
    call('POST /api/registrations/:id/attendance', {
      params: { id: seatOf('Sunniva').id },
      body: { eventId: lagoon.id, state: 'arrived', despite: 'Known to us' },
    }),
  );
  await step('the day after', () => world.moveTo('2026-07-20T12:00:00.000Z'));

  const { db } = world.app;
  const tables = await db.query(
    `select c.table_name as name, array_agg(c.column_name::text order by c.ordinal_position) as columns
     from information_schema.columns c join information_schema.tables t using (table_schema, table_name)
     where c.table_schema = 'public' and t.table_type = 'BASE TABLE' and c.is_generated = 'NEVER' and c.table_name <> 'migrations'
     group by 1 order by 1`,
  );
  const rows = {};
  for (const { name } of tables) {
    // As text: numbers past 2^53 and times keep what they are.
    const [{ all }] = await db.query(
      `select coalesce(jsonb_agg(to_jsonb(t)), '[]')::text as all from ${name} t`,
    );
    rows[name] = JSON.parse(all);
  }
  const sequences = await db.query(
    "select sequencename as name, coalesce(last_value, 0)::int as last from pg_sequences where schemaname = 'public' order by 1",
  );
  const migrations = await db.query('select name, checksum from migrations order by name');
  writeFileSync(
    process.env.ACOLYTE_BEFORE,
    JSON.stringify({
      migrations,
      sequences,
      columns: Object.fromEntries(tables.map((t) => [t.name, t.columns])),
      rows,
    }),
  );
  writeFileSync(`${process.env.ACOLYTE_BEFORE}.left`, left.join('\n'));
  await world.close();
}, 300_000);
