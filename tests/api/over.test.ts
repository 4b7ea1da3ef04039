import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { graceMinutes } from '#core/changes/aspects.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { linkTo, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, signs, surveyOf } from './scenes.ts';

/** Events that are called off, shelved or over: what goes on and what does not. */
describe('an event that no longer lives', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const odalys = () => world.as('odalys');
  const place = async (event: OpenEvent, given: string) =>
    (
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given, family: 'Over', birthDate: '1980-01-01' }]),
      })
    ).token;
  const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  const pay = (token: string) =>
    world.anyone.try('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0001', expiry: '08/29' },
    });
  const become = async (
    event: { id: string },
    move: 'call off' | 'shelve' | 'bring back' | 'close' | 'wrap up',
    words = '',
  ) =>
    (await odalys()).try('POST /api/events/:id/state', { params: { id: event.id }, body: { move, words } });
  /** What is to go out still, beside the word that it is called off. */
  const coming = async (eventId: string) =>
    (await (await odalys()).call('GET /api/tray', { query: { state: 'coming', eventId } })).rows.filter(
      (m) => m.kind !== 'called off',
    );
  const later = (minutes: number) =>
    world.moveTo(new Date(Date.parse(world.app.clock.now()) + minutes * 60_000).toISOString());

  test('called off: nothing is sent, offered, paid, signed, shown as a pass or let in any more', async () => {
    const event = await openEvent(world, {
      title: 'Called Off',
      price: 1000,
      capacity: 2,
      so: ['money'],
      waiver: 'On the water',
      startsLocal: '2026-07-20T09:00',
      endsLocal: '2026-07-20T12:00',
    });
    const staff = await odalys();
    const shift = await staff.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role: 'Tea', startsLocal: '2026-07-20T09:00', endsLocal: '2026-07-20T12:00', wished: 3 },
    });
    const paid = await place(event, 'Paid');
    await pay(paid);
    const held = await place(event, 'Held');
    const waits = await place(event, 'Waits');
    expect([(await look(paid)).standing, (await look(held)).standing, (await look(waits)).standing]).toEqual([
      'confirmed',
      'held',
      'waitlisted',
    ]);
    const code = (await look(paid)).seats[0]!.pass!.code;
    const [waiver] = (await look(paid)).waivers;
    await world.runner.run();
    expect((await coming(event.id)).length).toBeGreaterThan(0);
    expect((await become(event, 'call off')).problem.fields?.[0]?.path).toBe('words');
    expect((await become(event, 'call off', 'storm')).status).toBe(201);

    expect(await coming(event.id)).toEqual([]);
    const sent = async () =>
      (await world.app.db.query<{ n: number }>('select count(*)::int as n from standin_mail'))[0]!.n;
    // Everybody is told once that it is off; after that it is silent.
    const before = await sent();
    await later(graceMinutes + 1);
    const told = await sent();
    expect(told).toBeGreaterThan(before);
    await later(60 * 24 * 13);
    expect(await sent()).toBe(told);
    // Held and waiting seats are let go, also when a seat comes free.
    expect([(await look(held)).standing, (await look(waits)).standing]).toEqual(['ended', 'ended']);
    expect((await pay(held)).problem.code).toBe('event-not-running');
    expect(
      (await world.anyone.try('POST /api/public/orders/:token/take', { params: { token: waits } })).status,
    ).toBe(409);
    const after = await look(paid);
    expect(after.seats[0]!.pass).toBeNull();
    expect(after.event.state).toBe('called off');
    expect(
      (await world.anyone.try('GET /api/public/orders/:token/passes.pdf', { params: { token: paid } }))
        .problem.code,
    ).toBe('event-not-running');
    expect(
      (
        await world.anyone.try('POST /api/public/orders/:token/signatures', {
          params: { token: paid },
          body: {
            seats: [{ registrationId: after.seats[0]!.id, relation: 'self' }],
            ...signs(waiver!, 'Paid Over'),
          },
        })
      ).problem.code,
    ).toBe('event-not-running');
    expect(
      (
        await world.anyone.try('POST /api/public/events/:slug/orders', {
          params: { slug: event.slug },
          body: orderFor(event, [{ given: 'Late', family: 'Over', birthDate: '1980-01-01' }]),
        })
      ).problem.code,
    ).toBe('registration-closed');
    expect(
      (
        await world.anyone.try('POST /api/public/shifts/:id/sign-up', {
          params: { id: shift.id },
          body: { given: 'Late', family: 'Over', email: 'late@fenmail.example' },
        })
      ).problem.code,
    ).toBe('shift-closed');
    const scan = await staff.call('POST /api/events/:id/scan', { params: { id: event.id }, body: { code } });
    expect(scan).toMatchObject({ light: 'stop', headline: 'This event is called off' });
    const arrive = await staff.try('POST /api/registrations/:id/attendance', {
      params: { id: after.seats[0]!.id },
      body: { eventId: event.id, state: 'arrived', despite: 'insists' },
    });
    expect(arrive.problem.code).toBe('event-is');
    expect((await become(event, 'wrap up')).status).toBe(409);
  });

  test('called off while somebody pays: the answer still counts, and all of the money goes back', async () => {
    const event = await openEvent(world, {
      title: 'Paying',
      price: 1000,
      so: ['money'],
      startsLocal: '2026-09-20T09:00',
      endsLocal: '2026-09-20T12:00',
    });
    const token = await place(event, 'Slow');
    await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0003', expiry: '08/29' },
    });
    await become(event, 'call off', 'storm');
    await later(5);
    expect(await look(token)).toMatchObject({ received: 0, balance: 0 });
    expect((await look(token)).seats.map((s) => s.state)).toEqual(['lapsed']);
    const figures = await (await odalys()).call('GET /api/events/:id/figures', { params: { id: event.id } });
    expect(figures.checks.filter((c) => !c.holds)).toEqual([]);
  });

  test('no seat is offered at an event that is not open, in turn or out of it', async () => {
    const event = await openEvent(world, {
      title: 'No Offers',
      capacity: 1,
      startsLocal: '2026-09-21T09:00',
      endsLocal: '2026-09-21T12:00',
    });
    const first = await place(event, 'First');
    await place(event, 'Second');
    const { rows } = await (await odalys()).call('GET /api/events/:id/registrations', {
      params: { id: event.id },
    });
    const orderId = rows.find((r) => r.state === 'waitlisted')!.orderId;
    const url = await linkTo(world.app, 'manage', orderId);
    const waiting = url.split('/').at(-1)!;
    await become(event, 'call off', 'storm');
    await world.anyone.try('POST /api/public/orders/:token/withdraw', {
      params: { token: first },
      body: { seats: [(await look(first)).seats[0]!.id] },
    });
    expect((await look(waiting)).standing).toBe('ended');
    const offer = await (await odalys()).try('POST /api/orders/:id/offer', {
      params: { id: orderId },
      body: { reason: 'asked by telephone' },
    });
    expect(offer.problem.code).toBe('no-seats-offered');
  });

  test('a freed seat is offered out of turn by hand, and in turn by itself', async () => {
    const event = await openEvent(world, {
      title: 'Turns',
      capacity: 2,
      startsLocal: '2026-09-22T09:00',
      endsLocal: '2026-09-22T12:00',
    });
    const staff = await odalys();
    const book = async (given: string, people: number) => {
      const guests = Array.from({ length: people }, (_, n) => ({
        given: `${given}${n || ''}`,
        family: 'Turns',
      }));
      const { orderId } = await staff.call('POST /api/events/:id/orders', {
        params: { id: event.id },
        body: orderFor(event, guests),
      });
      return { orderId, token: (await linkTo(world.app, 'manage', orderId)).split('/').at(-1)! };
    };
    const ada = await book('Ada', 1);
    const bea = await book('Bea', 1);
    const two = await book('Two', 2);
    const one = await book('One', 1);
    const standings = async () => [(await look(two.token)).standing, (await look(one.token)).standing];
    expect(await standings()).toEqual(['waitlisted', 'waitlisted']);
    // One seat comes free: the pair does not fit, and the single one behind it is offered it by itself.
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token: ada.token },
      body: { seats: [(await look(ada.token)).seats[0]!.id] },
    });
    expect(await standings()).toEqual(['waitlisted', 'offered']);
    // By hand what does not fit is refused, and what is not waiting too.
    const offer = (orderId: string) =>
      staff.try('POST /api/orders/:id/offer', {
        params: { id: orderId },
        body: { reason: 'asked by telephone' },
      });
    expect((await offer(two.orderId)).problem.code).toBe('does-not-fit');
    expect((await offer(one.orderId)).problem.code).toBe('not-waiting');
    // More room is made: the pair is offered seats by hand, until a deadline, and told.
    const page = await staff.call('GET /api/events/:id', { params: { id: event.id } });
    await world.app.db.query('update events set capacity = 4 where id = $1', [event.id]);
    expect(page.plan.capacity).toBe(2);
    const { body } = await offer(two.orderId);
    expect(Date.parse(body.until)).toBeGreaterThan(Date.parse(world.app.clock.now()));
    expect(await standings()).toEqual(['offered', 'offered']);
    await world.runner.run();
    const mail = await world.app.db.query<{ subject: string }>(
      "select subject from standin_mail where address = 'two.turns@harbourpost.example' and subject = 'Seats for you: Turns'",
    );
    expect(mail).toHaveLength(1);
    expect((await look(bea.token)).standing).toBe('confirmed');
  });

  test('after the start nobody withdraws by the link; wrapped up only once it is over', async () => {
    const event = await openEvent(world, {
      title: 'Begun',
      startsLocal: '2026-08-30T09:00',
      endsLocal: '2026-08-30T12:00',
      surveys: [surveyOf([{ id: 'q', kind: 'scale', required: true }])],
    });
    const token = await place(event, 'Begun');
    const seat = (await look(token)).seats[0]!.id;
    expect((await become(event, 'close')).status).toBe(201);
    expect((await become(event, 'wrap up')).problem.code).toBe('not-over');
    await world.moveTo('2026-08-30T12:30:00Z');
    const withdraw = await world.anyone.try('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: [seat] },
    });
    expect(withdraw.problem.code).toBe('begun');
    expect((await look(token)).mayWithdraw).toBe(false);
    await (await odalys()).call('POST /api/registrations/:id/attendance', {
      params: { id: seat },
      body: { eventId: event.id, state: 'arrived' },
    });
    await world.moveTo('2026-08-30T20:00:00Z');
    expect((await become(event, 'wrap up')).status).toBe(201);
    // The plan of a wrapped event is kept as it was.
    const staff = await odalys();
    const page = await staff.call('GET /api/events/:id', { params: { id: event.id } });
    const change = await staff.try('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version: page.version, change: { capacity: 5 } },
    });
    expect(change.problem.code).toBe('event-over');
    // The survey is answered after the end all the same.
    await world.runner.run();
    const [mail] = await world.app.db.query<{ body: string }>(
      "select body from standin_mail where subject = 'How was Begun?'",
    );
    const survey = /\/s\/([\w-]+)/u.exec(mail!.body)![1]!;
    await world.anyone.call('POST /api/public/surveys/:token', {
      params: { token: survey },
      body: { answers: { q: 4 } },
    });
    // What people answered is not taken away, nor made anonymous after the fact.
    await world.app.db.query("update events set state = 'closed' where id = $1", [event.id]);
    const changed = async (surveys: typeof page.plan.surveys) =>
      (
        await staff.try('PATCH /api/events/:id', {
          params: { id: event.id },
          body: { version: page.version, change: { surveys } },
        })
      ).problem;
    expect((await changed([])).code).toBe('survey-in-use');
    expect((await changed(page.plan.surveys.map((s) => ({ ...s, anonymous: true })))).fields).toMatchObject([
      { path: 'surveys.0.anonymous', code: 'survey-in-use' },
    ]);
  });

  test('shelved: gone from sight, kept, found under its heading, and brought back as what it was', async () => {
    const staff = await odalys();
    const { id } = await staff.call('POST /api/events', { body: { publicTitle: 'Shelved Draft' } });
    expect((await become({ id }, 'shelve')).status).toBe(201);
    const season = async (of: string) =>
      (await staff.call('GET /api/events')).find((e) => e.id === of)?.state;
    expect(await season(id)).toBe('shelved');
    const desk = await staff.call('GET /api/desk');
    expect(JSON.stringify([desk.ribbon, desk.openNow, desk.entries])).not.toContain('Shelved Draft');
    expect((await become({ id }, 'bring back')).body).toMatchObject({ state: 'draft' });

    const event = await openEvent(world, {
      title: 'Shelved Over',
      startsLocal: '2026-10-02T09:00',
      endsLocal: '2026-10-02T12:00',
    });
    await place(event, 'Kept');
    await become(event, 'call off', 'storm');
    expect((await become(event, 'shelve')).status).toBe(201);
    expect(
      (await world.anyone.try('GET /api/public/events/:slug', { params: { slug: event.slug } })).status,
    ).toBe(404);
    expect(await coming(event.id)).toEqual([]);
    // It does not become a draft that could be opened again without a word: it is called off still.
    expect((await become(event, 'bring back')).body).toMatchObject({ state: 'called off' });
    expect(
      (await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } })).state,
    ).toBe('called off');
  });

  test('a message that is due after all finds the event called off as it would leave', async () => {
    const event = await openEvent(world, {
      title: 'Last Word',
      startsLocal: '2027-03-10T09:00',
      endsLocal: '2027-03-10T12:00',
    });
    await place(event, 'Silent');
    await world.runner.run();
    // Behind the back of planning, as a process killed in between would leave it.
    await world.app.db.query("update events set state = 'called off' where id = $1", [event.id]);
    await world.moveTo('2027-03-10T20:00:00Z');
    const rows = await world.app.db.query<{ state: string; whyNot: Reason }>(
      "select m.state, m.why_not from messages m join message_lines s on s.id = m.line_id where m.event_id = $1 and s.moment = 'start'",
      [event.id],
    );
    expect(rows.length).toBeGreaterThan(0);
    for (const row of rows)
      expect(row).toEqual({ state: 'held back', whyNot: because('event ended', { state: 'called off' }) });
  });

  test('a pass of a seat that was given up is still known, and says so', async () => {
    const event = await openEvent(world, {
      title: 'Given Up',
      startsLocal: '2027-06-10T09:00',
      endsLocal: '2027-06-10T12:00',
    });
    const token = await place(event, 'Gone');
    const code = (await look(token)).seats[0]!.pass!.code;
    const { seats } = await look(token);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: seats.map((seat) => seat.id) },
    });
    const scan = await (await odalys()).call('POST /api/events/:id/scan', {
      params: { id: event.id },
      body: { code },
    });
    expect(scan).toMatchObject({ light: 'stop', headline: 'Withdrawn' });
  });

  test('over: what was not signed is no longer missing', async () => {
    const startsLocal = world.app.clock.now().slice(0, 10);
    const event = await openEvent(world, {
      title: 'Unsigned',
      waiver: 'On the water',
      startsLocal: `${startsLocal}T20:00`,
      endsLocal: `${startsLocal}T21:00`,
    });
    await place(event, 'Unsigned');
    const remarks = async () =>
      (await (await odalys()).call('GET /api/events/:id', { params: { id: event.id } })).margin.map(
        (note) => `${note.headline} ${note.text}`,
      );
    expect((await remarks()).some((text) => /waiver/iu.test(text))).toBe(true);
    await later(3 * 24 * 60);
    expect((await remarks()).filter((text) => /waiver/iu.test(text))).toEqual([]);
  });
});
