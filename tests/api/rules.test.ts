import { afterAll, beforeAll, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

// Rules that nothing else holds: each of these fails when its rule is broken.
let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());

test('what every attendee has to answer is asked of each who is named', async () => {
  const question = {
    id: crypto.randomUUID(),
    scope: 'attendee' as const,
    kind: 'text' as const,
    prompt: { en: 'Boot size' },
    choices: [] as string[],
    required: true,
    offerId: null,
  };
  const event = await openEvent(world, { title: 'Boots', questions: [question] });
  const body = orderFor(event, [
    { given: 'Corin', family: 'Blythe' },
    { given: 'Ulrika', family: 'Blythe' },
  ]);
  const [first, second] = body.attendees!;
  const sent = (answers: [object, object]) => ({
    params: { slug: event.slug },
    body: {
      ...body,
      attendees: [
        { ...first!, answers: answers[0] },
        { ...second!, answers: answers[1] },
      ],
    } as never,
  });
  const without = await world.anyone.try(
    'POST /api/public/events/:slug/orders',
    sent([{ [question.id]: '42' }, {}]),
  );
  expect([without.status, without.problem.fields?.map((f) => f.path)]).toEqual([
    422,
    [`attendees.1.answers.${question.id}`],
  ]);
  const blank = await world.anyone.try(
    'POST /api/public/events/:slug/orders',
    sent([{ [question.id]: '42' }, { [question.id]: '  ' }]),
  );
  expect(blank.status).toBe(422);
  expect(
    (
      await world.anyone.try(
        'POST /api/public/events/:slug/orders',
        sent([{ [question.id]: '42' }, { [question.id]: '39' }]),
      )
    ).status,
  ).toBe(201);
});

test('an offer that seats hang on stays; its quantity does not go below what is taken', async () => {
  const event = await openEvent(world, { title: 'Sold', quantity: 5 });
  const odalys = await world.as('odalys');
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [
      { given: 'Corin', family: 'Blythe' },
      { given: 'Ulrika', family: 'Blythe' },
    ]),
  });
  const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  const change = (offers: unknown[]) =>
    odalys.try('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version: page.version, change: { offers: offers as never } },
    });
  const [offer] = page.plan.offers;
  expect((await change([])).problem.fields?.map((f) => f.path)).toEqual(['offers']);
  expect((await change([{ ...offer, quantity: 1 }])).problem.fields?.map((f) => f.path)).toEqual([
    'offers.0.quantity',
  ]);
  const other = { ...offer, id: crypto.randomUUID(), name: 'Another' };
  expect((await change([{ ...offer, quantity: 2 }, other])).status).toBe(200);
  // The other one hangs on nothing, and goes.
  const later = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  expect(
    (
      await odalys.try('PATCH /api/events/:id', {
        params: { id: event.id },
        body: { version: later.version, change: { offers: [{ ...offer!, quantity: 2 }] } },
      })
    ).status,
  ).toBe(200);
});

test('the price a listing begins with is the lowest of what can be had', async () => {
  const event = await openEvent(world, { title: 'From', price: 2500, so: ['money'] });
  const odalys = await world.as('odalys');
  const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  const [offer] = page.plan.offers;
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: {
      version: page.version,
      change: {
        listed: true,
        offers: [
          offer!,
          { ...offer!, id: crypto.randomUUID(), name: 'Student', price: 1200 },
          { ...offer!, id: crypto.randomUUID(), name: 'Patron', price: 9000 },
        ],
      },
    },
  });
  const { events } = await world.anyone.call('GET /api/public/events');
  expect(events.find((e) => e.slug === event.slug)).toMatchObject({ lowest: 1200, highest: 9000 });
});

test('whoever has a seat of their own at that time is put on a shift only with a reason', async () => {
  const event = await openEvent(world, { title: 'Both' });
  const odalys = await world.as('odalys');
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Perrin', family: 'Askew' }]),
  });
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  const shiftAt = async (startsLocal: string, endsLocal: string) =>
    (
      await odalys.call('POST /api/events/:id/shifts', {
        params: { id: event.id },
        body: { role: 'Landing', place: '', startsLocal, endsLocal, wished: 2 },
      })
    ).id;
  const put = (id: string, overrideReason = '') =>
    odalys.call('POST /api/shifts/:id/assignments', {
      params: { id },
      body: { contactId: rows[0]!.contactId!, overrideReason },
    });
  // Before the event begins nothing speaks against it; during it their seat does.
  expect(await put(await shiftAt('2026-08-08T06:00', '2026-08-08T09:00'))).toEqual({
    assigned: true,
    clashes: [],
  });
  const during = await shiftAt('2026-08-08T10:00', '2026-08-08T12:00');
  const clash = await put(during);
  expect(clash.assigned).toBe(false);
  expect(clash.clashes.map((c) => c.kind)).toEqual(['own seat']);
  expect((await put(during, 'They leave early.')).assigned).toBe(true);
});

test('the ledger of one event has its rows and its sums, and no others', async () => {
  const odalys = await world.as('odalys');
  const paid = async (title: string, price: number) => {
    const event = await openEvent(world, { title, price, so: ['money'] });
    const { orderId } = await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'Perrin', family: title }]),
    });
    await odalys.call('POST /api/orders/:id/payments', {
      params: { id: orderId },
      body: { method: 'cash', amount: price },
    });
    return event;
  };
  const one = await paid('Ledgerone', 1700);
  const two = await paid('Ledgertwo', 2300);
  const marit = await world.as('marit');
  const ofOne = await marit.call('GET /api/ledger', { query: { eventId: one.id } });
  expect(ofOne.rows.map((r) => r.amount)).toEqual([1700]);
  expect(ofOne.totals).toMatchObject([{ currency: 'CAD', seats: 1700, net: 1700 }]);
  const all = await marit.call('GET /api/ledger');
  expect(all.totals[0]!.net).toBeGreaterThanOrEqual(4000);
  const csv = (await marit.call('GET /api/ledger.csv', { query: { eventId: two.id } })) as unknown as string;
  expect(csv.trim().split(/\r?\n/u)).toHaveLength(2);
  expect(csv).toContain('23.00');
  const refunds = await marit.call('GET /api/ledger', { query: { kind: 'refund' } });
  expect(refunds.rows).toEqual([]);
});

test('what is owed back is below nothing on every page that says it', async () => {
  const event = await openEvent(world, { title: 'Back', price: 2500, so: ['money'] });
  const odalys = await world.as('odalys');
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [
      { given: 'Corin', family: 'Blythe' },
      { given: 'Ulrika', family: 'Blythe' },
    ]),
  });
  await world.anyone.call('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000000000000001', expiry: '08/29' },
  });
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  await odalys.call('POST /api/registrations/:id/withdraw', {
    params: { id: rows[1]!.id },
    body: { reason: 'ill' },
  });
  const after = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  expect(after.rows.find((r) => r.state === 'confirmed')).toMatchObject({
    received: 5000,
    due: 2500,
    balance: -2500,
  });
  const seen = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  expect(seen).toMatchObject({ balance: -2500 });
  // It is not more than that which is paid back.
  const marit = await world.as('marit');
  expect(
    await marit.call('POST /api/orders/:id/refunds', {
      params: { id: rows[0]!.orderId },
      body: { amount: 2500, reason: 'seat given up' },
    }),
  ).toEqual({ refunded: 2500, balance: 0 });
});

test('an event wraps up only once it is over; called off it has no hours, and served shifts count what was said', async () => {
  const odalys = await world.as('odalys');
  const event = await openEvent(world, {
    title: 'Hours',
    startsLocal: '2026-07-20T09:00',
    endsLocal: '2026-07-20T12:00',
  });
  const to = (id: string, move: 'wrap up' | 'call off') =>
    odalys.try('POST /api/events/:id/state', { params: { id }, body: { move, words: 'storm' } });
  const shift = await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: {
      role: 'Landing',
      place: '',
      startsLocal: '2026-07-20T08:00',
      endsLocal: '2026-07-20T12:30',
      wished: 3,
    },
  });
  const people: string[] = [];
  for (const given of ['Asa', 'Bo', 'Cai']) {
    const { id } = await odalys.call('POST /api/contacts', { body: { given, family: 'Hourly' } });
    await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id: shift.id },
      body: { contactId: id },
    });
    people.push(id);
  }
  const crew = await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } });
  const assignment = (at: number) => crew.shifts[0]!.assignments.find((a) => a.contactId === people[at])!.id;
  const say = (at: number, body: { state: 'served' | 'missed'; hours?: number }) =>
    odalys.try('POST /api/assignments/:id/state', { params: { id: assignment(at) }, body });
  expect((await to(event.id, 'wrap up')).problem.code).toBe('not-over');
  expect((await say(0, { state: 'served' })).problem.code).toBe('not-yet');
  await world.moveTo('2026-07-20T18:00:00Z');
  expect((await say(0, { state: 'served' })).status).toBeLessThan(300);
  expect((await say(1, { state: 'served', hours: 2 })).status).toBeLessThan(300);
  expect((await say(2, { state: 'missed' })).status).toBeLessThan(300);
  const hours = async (id: string) =>
    (await odalys.call('GET /api/contacts/:id', { params: { id } })).totals.hours;
  expect([await hours(people[0]!), await hours(people[1]!), await hours(people[2]!)]).toEqual([4.5, 2, 0]);
  expect((await to(event.id, 'wrap up')).status).toBeLessThan(300);
  expect((await to(event.id, 'call off')).status).toBe(409);
});

test('a note is changed and taken away by who wrote it, or a coordinator; each change has a trace', async () => {
  const odalys = await world.as('odalys');
  const { id } = await odalys.call('POST /api/contacts', { body: { given: 'Noted', family: 'Person' } });
  const imani = await world.as('imani');
  const theirs = await odalys.call('POST /api/contacts/:id/notes', {
    params: { id },
    body: { text: 'By the coordinator.' },
  });
  const own = await imani.call('POST /api/contacts/:id/notes', {
    params: { id },
    body: { text: 'By the crew lead.' },
  });
  const change = (caller: typeof imani, note: string, text: string) =>
    caller.try('PATCH /api/notes/:id', { params: { id: note }, body: { text } });
  expect((await change(imani, theirs.id, 'Other words.')).status).toBe(403);
  expect((await imani.try('DELETE /api/notes/:id', { params: { id: theirs.id } })).status).toBe(403);
  expect((await change(imani, own.id, 'Better words.')).status).toBe(200);
  expect((await change(odalys, own.id, 'The coordinator’s words.')).status).toBe(200);
  const trail = await world.app.db.query<{ actor: string; before: string }>(
    "select actor, detail->>'before' as before from audit where action = 'changed a note' and subject_id = $1 order by id",
    [id],
  );
  expect(trail).toEqual([
    { actor: 'Imani Okarro', before: 'By the crew lead.' },
    { actor: 'Odalys Ferrant', before: 'Better words.' },
  ]);
});

test('the door and unit leads take cash; transfers and what is let off are for the treasurer', async () => {
  const event = await openEvent(world, {
    title: 'Till',
    unit: 'Small Boats',
    price: 2000,
    so: ['money'],
    startsLocal: '2026-07-21T09:00',
    endsLocal: '2026-07-21T12:00',
  });
  const odalys = await world.as('odalys');
  const { orderId } = await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [{ given: 'Perrin', family: 'Till' }]),
  });
  const pay = async (who: 'door' | 'piers' | 'marit', method: 'cash' | 'transfer' | 'waived') =>
    (
      await (
        await world.as(who)
      ).try('POST /api/orders/:id/payments', {
        params: { id: orderId },
        body: { method, amount: 500, reason: 'agreed on the telephone' },
      })
    ).problem?.code ?? 'taken';
  expect([await pay('door', 'transfer'), await pay('door', 'waived'), await pay('door', 'cash')]).toEqual([
    'not-your-money',
    'not-your-money',
    'taken',
  ]);
  expect([await pay('piers', 'transfer'), await pay('piers', 'waived'), await pay('piers', 'cash')]).toEqual([
    'not-your-money',
    'not-your-money',
    'taken',
  ]);
  expect([await pay('marit', 'transfer'), await pay('marit', 'waived')]).toEqual(['taken', 'taken']);
});

test('where age decides, the public gives a birth date of everybody who is named; staff may leave it open', async () => {
  const event = await openEvent(world, { title: 'Ages', waiver: 'On the water' });
  const body = orderFor(event, [{ given: 'Asa', family: 'Ageless' }]);
  const refused = await world.anyone.try('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body,
  });
  expect([refused.status, refused.problem.fields?.map((f) => f.path)]).toEqual([
    422,
    ['attendees.0.birthDate'],
  ]);
  const odalys = await world.as('odalys');
  expect((await odalys.try('POST /api/events/:id/orders', { params: { id: event.id }, body })).status).toBe(
    201,
  );
});

test('whoever has arrived does not give their seat up', async () => {
  const event = await openEvent(world, {
    title: 'Inside',
    startsLocal: '2026-07-21T14:00',
    endsLocal: '2026-07-21T18:00',
  });
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Asa', family: 'Inside' }]),
  });
  const odalys = await world.as('odalys');
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  const id = rows[0]!.id;
  await odalys.call('POST /api/registrations/:id/attendance', {
    params: { id },
    body: { eventId: event.id, state: 'arrived', despite: 'early' },
  });
  const own = await world.anyone.try('POST /api/public/orders/:token/withdraw', {
    params: { token },
    body: { seats: [id] },
  });
  expect([own.status, own.problem.code]).toEqual([409, 'already-in']);
  expect(
    (await odalys.try('POST /api/registrations/:id/withdraw', { params: { id }, body: {} })).problem.code,
  ).toBe('already-in');
});

test('each reading of what is to be known about somebody’s health at the door is written down, with who read it', async () => {
  const event = await openEvent(world, {
    title: 'Care',
    startsLocal: '2026-07-21T19:00',
    endsLocal: '2026-07-21T21:00',
  });
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Asa', family: 'Careful' }]),
  });
  const odalys = await world.as('odalys');
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  await odalys.call('PATCH /api/contacts/:id', {
    params: { id: rows[0]!.contactId! },
    body: { dietary: 'wasp stings' },
  });
  const door = await world.as('door');
  const reads = () =>
    world.app.db.query<{ actor: string }>(
      "select actor from care_reads where place = 'doors' and registration_id = $1",
      [rows[0]!.id],
    );
  await door.call('GET /api/events/:id/doors', { params: { id: event.id } });
  expect(await reads()).toEqual([]);
  const { notes } = await door.call('GET /api/registrations/:id/care', { params: { id: rows[0]!.id } });
  expect(notes.join(' ')).toContain('wasp stings');
  expect(await reads()).toEqual([{ actor: 'Wilhelmina Nguyen' }]);
});

test('a gift to a fund that is not there is refused beside its field, and nothing is placed', async () => {
  const event = await openEvent(world, { title: 'Fund' });
  const reply = await world.anyone.try('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Una', family: 'Funded' }], {
      donation: { amount: 500, fundId: crypto.randomUUID() },
    }),
  });
  expect([reply.status, reply.problem.fields?.map((f) => f.path)]).toEqual([422, ['donation.fundId']]);
  const orders = await world.app.db.query('select 1 as x from orders where event_id = $1', [event.id]);
  expect(orders).toEqual([]);
});

test('a message that went out says in words where its personal link stood', async () => {
  const event = await openEvent(world, { title: 'Linked' });
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Lin', family: 'Kept' }]),
  });
  await world.runner.run();
  const odalys = await world.as('odalys');
  const [sent] = await world.app.db.query<{ id: string; body: string }>(
    "select id, body from messages where event_id = $1 and state = 'sent' and body like '%manage%' limit 1",
    [event.id],
  );
  const shown = await odalys.call('GET /api/messages/:id', { params: { id: sent!.id } });
  expect(shown.body).toContain('[link to their booking]');
  expect(shown.body).not.toContain(sent!.body);
});

test('whoever marks an arrival says at which door they stand, and has to be let to it', async () => {
  const tomorrow = {
    startsLocal: `${world.app.clock.now().slice(0, 10)}T22:00`,
    endsLocal: `${world.app.clock.now().slice(0, 10)}T23:30`,
  };
  const here = await openEvent(world, { title: 'Here', ...tomorrow });
  const far = await openEvent(world, {
    title: 'Far',
    startsLocal: '2026-11-20T09:00',
    endsLocal: '2026-11-20T12:00',
  });
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: here.slug },
    body: orderFor(here, [{ given: 'Dora', family: 'Doors' }]),
  });
  const odalys = await world.as('odalys');
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: here.id } });
  const door = await world.as('door');
  const mark = (eventId: string) =>
    door.try('POST /api/registrations/:id/attendance', {
      params: { id: rows[0]!.id },
      body: { eventId, state: 'arrived', despite: 'stands at the wrong door' },
    });
  expect((await mark(far.id)).status).toBe(403);
  expect((await mark(here.id)).status).toBe(201);
});

test('a form for minors is not asked of adults, nor are they reminded of it', async () => {
  const event = await openEvent(world, {
    title: 'Minors’ form',
    startsLocal: '2026-11-14T09:00',
    endsLocal: '2026-11-14T12:00',
    waiver: 'Children in our care',
  });
  const place = (family: string, birthDate: string) =>
    world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor(event, [{ given: 'Ada', family }], { email: `${family.toLowerCase()}@forms.example` }),
        attendees: [{ given: 'Ada', family, birthDate, email: '', answers: {} }],
      } as never,
    });
  await place('Grownup', '1980-05-01');
  await place('Younger', '2015-05-01');
  const messages = await world.app.db.query<{ name: string }>(
    "select name from messages where event_id = $1 and kind = 'waiver missing' and state = 'planned'",
    [event.id],
  );
  expect(messages).toEqual([{ name: 'Ada Younger' }]);
  const odalys = await world.as('odalys');
  const steps = await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
  expect(steps.flatMap((s) => s.leftOut).map((l) => `${l.name}: ${l.whyNot}`)).toContain(
    'Ada Grownup: nothing is left to sign',
  );
});

test('what the page says of the room for a party is what the server does with it', async () => {
  const event = await openEvent(world, { title: 'Room', capacity: 5, seatsPerUnit: 2, quantity: 3 });
  const left = async () => {
    const shown = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    return [shown.seatsLeft, shown.offers[0]!.left];
  };
  expect(await left()).toEqual([5, 2]);
  const guests = (n: number) => Array.from({ length: n }, (_, at) => ({ given: `G${at}`, family: 'Room' }));
  const order = (units: number) =>
    world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor(event, guests(units * 2), { email: `room${units}@forms.example` }),
        lines: [{ offerId: event.offers[0]!.id, units }],
        waitlist: true,
      } as never,
    });
  expect((await order(2)).standing).toBe('confirmed');
  expect(await left()).toEqual([1, 0]);
  expect((await order(1)).standing).toBe('waitlisted');
});
