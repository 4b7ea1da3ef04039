import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plainOffer } from '#core/offers/offer.ts';
import { Caller } from './caller.ts';
import { makeWorld, takeWritesBack, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

/** Numbers between 0 and 1, the same every time. */
function seeded(seed: number): () => number {
  let at = seed;
  return () => {
    at = (at * 1_664_525 + 1_013_904_223) % 4_294_967_296;
    return at / 4_294_967_296;
  };
}

const letters = (n: number): string => [...String(n)].map((d) => 'bcdfghklmn'[Number(d)]).join('a');

describe('three hundred for the last twenty seats', () => {
  test('in parties and at tables, with clients that give up and come again, and writes that are cut off: every seat once', async () => {
    const event = await openEvent(world, { title: 'Last Twenty', capacity: 20 });
    const single = { ...plainOffer, id: crypto.randomUUID(), name: 'Seat', mostPerOrder: 6 };
    const table = { ...plainOffer, id: crypto.randomUUID(), name: 'Table', seatsPerUnit: 4, quantity: 2 };
    const session = crypto.randomUUID();
    const saved = await saveIt(odalys, event.id, {
      offers: [single, table],
      sessions: [
        {
          id: session,
          kind: 'session',
          title: { en: 'Night walk' },
          about: { en: '' },
          day: 1,
          begins: '10:00',
          ends: '11:00',
          trackId: null,
          roomId: null,
          signUp: true,
          capacity: 5,
          speakerIds: [],
        },
      ],
    });
    expect(saved.status).toBe(200);
    const random = seeded(20);
    // Every seventh write is cut off before it is kept, as by a kill.
    const real = world.app.db;
    let writes = 0;
    world.app.db = {
      ...real,
      query: (sql, params) => real.query(sql, params),
      transaction: (work) =>
        real.transaction(async (tx) => {
          const result = await work(tx);
          writes += 1;
          if (writes % 7 === 0) throw new Error('cut off');
          return result;
        }),
    };
    const placed = new Map<number, { token: string; standing: string }>();
    const client = async (n: number): Promise<void> => {
      const caller = new Caller(world.origin);
      const key = crypto.randomUUID();
      const tables = random() < 0.15;
      const units = tables ? 1 : 1 + Math.floor(random() * 3);
      const party = orderFor(event, [{ given: 'Una', family: `Of${letters(n)}` }]);
      const body = { ...party, lines: [{ offerId: tables ? table.id : single.id, units }] };
      for (;;) {
        const impatient = random() < 0.1;
        const url = `${world.origin}/api/public/events/${event.slug}/orders`;
        const stop = new AbortController();
        if (impatient) setTimeout(() => stop.abort(), random() * 30);
        const answer = await fetch(url, {
          method: 'POST',
          headers: { origin: caller.origin, 'content-type': 'application/json', 'idempotency-key': key },
          body: JSON.stringify(body),
          signal: stop.signal,
        }).catch(() => null);
        // Whoever was cut off, or had no patience, asks once more under the same key.
        if (!answer || answer.status >= 500) continue;
        if (answer.status === 429) continue;
        expect(answer.status).toBe(201);
        placed.set(n, (await answer.json()) as { token: string; standing: string });
        return;
      }
    };
    try {
      const all = Array.from({ length: 300 }, (_, n) => n);
      let next = 0;
      await Promise.all(
        Array.from({ length: 40 }, async () => {
          while (next < all.length) {
            next += 1;
            await client(all[next - 1]!);
          }
        }),
      );
    } finally {
      world.app.db = real;
    }
    expect(new Set([...placed.values()].map((p) => p.token)).size).toBe(300);
    const { rows, waiting } = await odalys.call('GET /api/events/:id/registrations', {
      params: { id: event.id },
    });
    const taken = rows.filter((r) => ['confirmed', 'held', 'offered'].includes(r.state));
    expect(taken).toHaveLength(20);
    expect(new Set(rows.map((r) => r.orderId)).size).toBe(300);
    // A party has all of its seats or none.
    for (const of of new Set(rows.map((r) => r.orderId)))
      expect(new Set(rows.filter((r) => r.orderId === of).map((r) => r.state)).size).toBe(1);
    expect(taken.filter((r) => r.offer === 'Table').length).toBeLessThanOrEqual(8);
    expect(waiting.length).toBe(300 - new Set(taken.map((r) => r.orderId)).size);

    const places = rows.filter((r) => r.state === 'waitlisted').map((r) => r.queuePlace!);
    expect(Math.min(...places)).toBe(1);
    expect(new Set(places).size).toBe(Math.max(...places));

    // The same of a session with five seats that all of them want.
    const seats = [...placed.values()].filter((p) => p.standing === 'confirmed').map((p) => p.token);
    await Promise.all(
      seats.map(async (token) => {
        const order = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
        for (const seat of order.seats.filter((s) => s.state === 'confirmed'))
          await world.anyone.try('PUT /api/public/orders/:token/seats/:seat/sessions', {
            params: { token, seat: seat.id },
            body: { sessions: [session] },
          });
      }),
    );
    const [held] = await world.app.db.query<{ n: number }>(
      'select count(*)::int as n from session_seats where session_id = $1',
      [session],
    );
    expect(held!.n).toBe(5);
  }, 120_000);
});

describe('large and odd orders', () => {
  test('two hundred people in one order', async () => {
    // As many as the place holds come: it has to be a large one.
    await world.app.db.query("update venues set capacity = 400 where name = 'Sluice Landing'");
    const event = await openEvent(world, {
      title: 'Two Hundred',
      capacity: null,
      seatsPerUnit: 10,
      mostPerOrder: 20,
    });
    const people = Array.from({ length: 200 }, (_, n) => ({
      given: 'Una',
      family: `Of${letters(n)}`,
      birthDate: `${1940 + (n % 60)}-0${1 + (n % 9)}-1${n % 10}`,
    }));
    const placed = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: { ...orderFor(event, people), lines: [{ offerId: event.offers[0]!.id, units: 20 }] },
    });
    expect(placed.standing).toBe('confirmed');
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const twice = rows.filter((r, at) => rows.findIndex((o) => o.contactId === r.contactId) !== at);
    expect(twice.map((r) => [r.given, r.family, r.contactId, r.linkReasons.join(';')])).toEqual([]);
    const all = { seatIds: rows.map((r) => r.id) };
    const gone = await odalys.call('POST /api/events/:id/seats/withdraw', {
      params: { id: event.id },
      body: all,
    });
    expect(gone).toMatchObject({ seats: 200, orders: 1 });
  });

  test('two children of one name and one address are two people, each with a seat and a birth date of their own', async () => {
    const event = await openEvent(world, { title: 'Two Of One Name' });
    const twins = [
      { given: 'Kit', family: 'Sallow', birthDate: '2015-03-02' },
      { given: 'Kit', family: 'Sallow', birthDate: '2018-11-20' },
    ];
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor(event, twins),
        buyer: { given: 'Robin', family: 'Sallow', email: 'robin.sallow@harbourpost.example' },
      },
    });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    expect(rows.map((r) => r.state)).toEqual(['confirmed', 'confirmed']);
    expect(new Set(rows.map((r) => r.contactId)).size).toBe(2);
    const dates = await Promise.all(
      rows.map(
        async (r) => (await odalys.call('GET /api/contacts/:id', { params: { id: r.contactId! } })).birthDate,
      ),
    );
    expect(dates.sort()).toEqual(['2015-03-02', '2018-11-20']);
  });

  test('two seats of one booking are two people, however alike their names; the same name twice is one', async () => {
    const event = await openEvent(world, { title: 'Much Alike' });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [
        { given: 'Ann', family: 'Osier' },
        { given: 'Anne', family: 'Osier' },
        { given: 'Ann', family: 'Osier' },
      ]),
    });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const [ann, anne, again] = rows.map((r) => r.contactId);
    expect(anne).not.toBe(ann);
    expect(again).toBe(ann);
  });

  test('a seat handed to somebody who comes already is theirs too, and tells nobody that they come', async () => {
    const event = await openEvent(world, { title: 'Comes Already' });
    const book = (given: string) =>
      world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given, family: 'Sallow', birthDate: '1980-05-05' }]),
      });
    await book('Vera');
    const { token } = await book('Odd');
    const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    const [seat] = (await look()).seats;
    const pass = seat!.pass!.code;
    const named = await world.anyone.try('PATCH /api/public/orders/:token/seats/:seat', {
      params: { token, seat: seat!.id },
      body: { given: 'Vera', family: 'Sallow', birthDate: '1980-05-05' },
    });
    expect([named.status, named.body]).toEqual([200, { done: true }]);
    // Whoever had it is at the door with a pass that opens nothing.
    expect((await look()).seats[0]!.pass!.code).not.toBe(pass);
    const letters = await world.app.db.query<{ kind: string; name: string }>(
      "select kind, name from messages where event_id = $1 and kind in ('handed on', 'no longer yours')",
      [event.id],
    );
    expect(letters).toEqual([{ kind: 'handed on', name: 'Odd Sallow' }]);
  });

  test('the link of a booking, once whoever booked was erased, leads on to the seats and to nobody’s name', async () => {
    const event = await openEvent(world, { title: 'Erased' });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Tuva', family: 'Sallow' }]),
    });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: rows[0]!.contactId! },
      body: { name: 'Tuva Sallow' },
    });
    const reply = await world.anyone.try('GET /api/public/orders/:token', { params: { token } });
    expect(JSON.stringify(reply.body)).not.toContain('Tuva');
    expect(reply.status).toBeLessThan(500);
    for (const key of ['passes.pdf', 'calendar.ics', 'confirmation.pdf'] as const)
      expect(
        (await world.anyone.try(`GET /api/public/orders/:token/${key}`, { params: { token } })).status,
      ).toBeLessThan(500);
  });

  test('a change that is cut off changes nothing: neither seats nor money nor letters', async () => {
    const event = await openEvent(world, { title: 'Cut Off', price: 1000 });
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const dearer = { ...page.plan.offers[0]!, id: crypto.randomUUID(), name: 'Dearer', price: 1800 };
    await saveIt(odalys, event.id, { offers: [...page.plan.offers, dearer] });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Odd', family: 'Sallow' }]),
    });
    await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0001', expiry: '12/30' },
    });
    const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    const before = await look();
    const { db } = world.app;
    takeWritesBack(world);
    const body = { seats: [before.seats[0]!.id], offerId: dearer.id };
    const cut = await world.anyone.try('POST /api/public/orders/:token/ticket', { params: { token }, body });
    world.app.db = db;
    expect(cut.status).toBe(418);
    expect(await look()).toEqual(before);
    expect(
      (await world.anyone.call('POST /api/public/orders/:token/ticket', { params: { token }, body })).more,
    ).toBe(800);
  });
});
