import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { linkTo, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, signs } from './scenes.ts';

describe('what staff do for somebody at the counter or on the telephone', () => {
  let world: World;
  let event: OpenEvent;
  beforeAll(async () => {
    world = await makeWorld();
    event = await openEvent(world, { title: 'Plant Swap', price: 2000, capacity: 6, so: ['money'] });
  });
  afterAll(() => world.close());
  const odalys = () => world.as('odalys');
  const place = async (
    e: OpenEvent,
    people: { given: string; family: string }[],
    more: Parameters<typeof orderFor>[2] = {},
  ) => {
    const placed = await (await odalys()).call('POST /api/events/:id/orders', {
      params: { id: e.id },
      body: orderFor(e, people, more),
    });
    return { ...placed, link: await linkTo(world.app, 'manage', placed.orderId) };
  };
  const rowsOf = async (e: OpenEvent) =>
    (await (await odalys()).call('GET /api/events/:id/registrations', { params: { id: e.id } })).rows;
  const tokenOf = (link: string) => link.split('/m/')[1]!;
  const look = (link: string) =>
    world.anyone.call('GET /api/public/orders/:token', { params: { token: tokenOf(link) } });

  test('a seat is booked to be paid later: confirmed, owed, and theirs to look at by a link', async () => {
    const { standing, link } = await place(event, [{ given: 'Ines', family: 'Counter' }]);
    expect(standing).toBe('confirmed');
    const order = await look(link);
    expect(order).toMatchObject({ due: 2000, received: 0, balance: 2000, standing: 'confirmed' });
    // What is owed is no reason to keep the pass back: somebody of the staff said yes.
    expect(order.seats[0]!.pass?.code).toMatch(/\w{4,}/u);
  });

  test('cash comes in parts; the rest is waived with a reason only; too much is refused', async () => {
    const marit = await world.as('marit');
    const { orderId, link } = await place(event, [{ given: 'Pascal', family: 'Counter' }]);
    const pay = (body: object) =>
      marit.try('POST /api/orders/:id/payments', { params: { id: orderId }, body: body as never });
    expect((await pay({ method: 'cash', amount: 1500 })).body).toEqual({ balance: 500 });
    expect((await pay({ method: 'waived', amount: 500 })).problem.fields).toMatchObject([
      { path: 'reason', message: 'Say why it is waived.' },
    ]);
    expect((await pay({ method: 'cash', amount: 0 })).problem.fields![0]!.path).toBe('amount');
    // A nought too many is caught at the counter.
    expect((await pay({ method: 'cash', amount: 5000 })).problem.fields).toMatchObject([
      { path: 'amount', message: 'Only $5 is due.' },
    ]);
    expect((await pay({ method: 'waived', amount: 501, reason: 'x' })).status).toBe(422);
    expect((await look(link)).balance).toBe(500);
    expect((await pay({ method: 'waived', amount: 500, reason: 'helps at the gate' })).body).toEqual({
      balance: 0,
    });
    expect((await pay({ method: 'cash', amount: 1 })).problem.fields![0]!.message).toBe(
      'Nothing is due on this order.',
    );
    const csv = await marit.call('GET /api/ledger.csv', { query: { eventId: event.id } });
    const lines = String(csv).trim().split('\r\n');
    expect(lines[0]).toBe('Date,Name,Event,Order,Kind,Method,Fund,Amount,Currency,Reason');
    expect(lines.filter((l) => l.includes('Pascal Counter')).map((l) => l.split(',').slice(4, 9))).toEqual(
      expect.arrayContaining([
        ['seats', 'cash', '', '15.00', 'CAD'],
        ['let off', 'waived', '', '5.00', 'CAD'],
      ]),
    );
    // The file holds what the list was narrowed to.
    const waived = await marit.call('GET /api/ledger.csv', {
      query: { eventId: event.id, kind: 'waived' },
    });
    expect(
      String(waived)
        .trim()
        .split('\r\n')
        .slice(1)
        .map((l) => l.split(',')[4]),
    ).toEqual(['let off']);
  });

  test('what was received goes back at most once, and the ledger says why', async () => {
    const marit = await world.as('marit');
    const { orderId } = await place(event, [{ given: 'Mei', family: 'Counter' }]);
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: orderId },
      body: { method: 'cash', amount: 2000 },
    });
    const refund = (amount: number, reason: string) =>
      marit.try('POST /api/orders/:id/refunds', { params: { id: orderId }, body: { amount, reason } });
    expect((await refund(2000, 'x')).problem.fields![0]!.message).toBe('Say why.');
    expect((await refund(2000, 'fell ill')).status).toBe(201);
    expect((await refund(1, 'again')).status).toBeGreaterThanOrEqual(400);
    const { rows, totals } = await marit.call('GET /api/ledger', { query: { eventId: event.id } });
    expect(rows.find((r) => r.amount === -2000)).toMatchObject({ reason: 'fell ill', name: 'Mei Counter' });
    expect(totals).toHaveLength(1);
    expect(totals[0]!.seats + totals[0]!.donations - totals[0]!.refunds).toBe(totals[0]!.net);
  });

  test('seats are withdrawn for somebody, and the party that waits is offered them', async () => {
    const small = await openEvent(world, { title: 'Small Swap', capacity: 1 });
    await place(small, [{ given: 'Farouk', family: 'First' }]);
    const waiting = await place(small, [{ given: 'Leopold', family: 'Second' }]);
    expect(waiting.standing).toBe('waitlisted');
    const seat = (await rowsOf(small)).find((r) => r.family === 'First')!;
    const { offered } = await (await odalys()).call('POST /api/registrations/:id/withdraw', {
      params: { id: seat.id },
      body: { reason: 'telephoned' },
    });
    expect(offered).toHaveLength(1);
    expect((await look(waiting.link)).standing).toBe('offered');
    // Said twice it frees nothing more, and nobody else is offered anything.
    const again = await (await odalys()).call('POST /api/registrations/:id/withdraw', {
      params: { id: seat.id },
      body: {} as never,
    });
    expect(again.offered).toEqual([]);
    expect((await rowsOf(small)).filter((r) => r.state === 'withdrawn')).toHaveLength(1);
  });

  test('seats are offered out of turn where they fit, and not where they do not', async () => {
    const person = await odalys();
    const e = await openEvent(world, { title: 'Out of Turn', capacity: 2 });
    const first = await place(e, [{ given: 'Ada', family: 'Turn' }]);
    const two = await place(e, [
      { given: 'Bea', family: 'Turn' },
      { given: 'Cy', family: 'Turn' },
    ]);
    const one = await place(e, [{ given: 'Dot', family: 'Turn' }]);
    const offer = (orderId: string) =>
      person.try('POST /api/orders/:id/offer', {
        params: { id: orderId },
        body: { reason: 'asked by telephone' },
      });
    expect((await offer(two.orderId)).problem).toMatchObject({ code: 'does-not-fit' });
    expect((await offer(first.orderId)).problem).toMatchObject({ code: 'not-waiting' });
    const standings = async () => [(await look(two.link)).standing, (await look(one.link)).standing];
    expect(await standings()).toEqual(['waitlisted', 'confirmed']);
  });

  test('a guest is named later, becomes a contact, and is fixed once a waiver is signed', async () => {
    const e = await openEvent(world, { title: 'Guests', capacity: 5, waiver: 'On the water' });
    const { link } = await place(e, [
      { given: 'Odo', family: 'Host' },
      { given: '', family: '' },
    ]);
    const token = tokenOf(link);
    const guest = (await look(link)).seats.find((s) => !s.given)!;
    const name = (given: string, family: string, birthDate: string | null = '1988-05-06') =>
      world.anyone.try('PATCH /api/public/orders/:token/seats/:seat', {
        params: { token, seat: guest.id },
        body: { given, family, birthDate },
      });
    expect((await name(' ', '')).problem.fields![0]!.path).toBe('given');
    expect((await name('WILLA', 'guest')).status).toBe(200);
    expect((await rowsOf(e)).find((r) => r.id === guest.id)).toMatchObject({
      given: 'Willa',
      family: 'Guest',
    });
    expect((await rowsOf(e)).find((r) => r.id === guest.id)!.contactId).not.toBeNull();
    const { waivers } = await look(link);
    await world.anyone.call('POST /api/public/orders/:token/signatures', {
      params: { token },
      body: {
        seats: [{ registrationId: guest.id, relation: 'self' }],
        ...signs(waivers[0]!, 'Willa Guest'),
      },
    });
    expect((await name('Nora', 'Guest')).problem).toMatchObject({ code: 'name-signed' });
    const [kept] = await (await odalys()).call('GET /api/registrations/:id/signatures', {
      params: { id: guest.id },
    });
    expect(kept).toMatchObject({ matches: true, typedName: 'Willa Guest', relation: 'self' });
    expect(kept!.text).toContain('Participant: Willa Guest');
    // A seat of another order cannot be named by this link.
    const stranger = await place(e, [{ given: 'Otto', family: 'Other' }]);
    const wrong = await world.anyone.try('PATCH /api/public/orders/:token/seats/:seat', {
      params: { token: tokenOf(stranger.link), seat: guest.id },
      body: { given: 'X', family: 'Y' },
    });
    expect(wrong.status).toBe(404);
  });

  test('the calendar file of an order carries the event and the link, and nothing else’s', async () => {
    const { link } = await place(event, [{ given: 'Cal', family: 'Endar' }]);
    const own = String(
      await world.anyone.call('GET /api/public/orders/:token/calendar.ics', {
        params: { token: tokenOf(link) },
      }),
    ).replaceAll('\r\n ', '');
    expect(own).toContain('SUMMARY:Plant Swap');
    expect(own).toContain('DTSTART;TZID=America/Halifax:20260808T090000');
    expect(own).toContain(link);
    const open = String(
      await world.anyone.call('GET /api/public/events/:slug/calendar.ics', { params: { slug: event.slug } }),
    ).replaceAll('\r\n ', '');
    expect(open).toContain('SUMMARY:Plant Swap');
    expect(open).not.toContain('/m/');
  });

  test('who may not is told so, whatever the body', async () => {
    const imani = await world.as('imani');
    const reply = await imani.try('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'No', family: 'Body' }]),
    });
    expect(reply.status).toBe(403);
  });
});
