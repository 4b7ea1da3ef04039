import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { linkTo, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor, signs } from './scenes.ts';

/** What anybody with a name and an email may find out or change: nothing of a person we know. */
describe('a stranger with somebody’s name and email', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const odalys = () => world.as('odalys');
  const add = async (person: object) =>
    (await (await odalys()).call('POST /api/contacts', { body: person as never })).id;
  const record = async (id: string) => (await odalys()).call('GET /api/contacts/:id', { params: { id } });
  const proposals = async (contactId: string) =>
    (await (await odalys()).call('GET /api/proposals')).filter((p) => p.contactId === contactId);

  test('learns nothing from signing up for a shift: known or not, twice or at the time of another', async () => {
    const event = await openEvent(world, { title: 'Reed Cut' });
    const staff = await odalys();
    const shift = async (role: string, from: string, to: string) =>
      (
        await staff.call('POST /api/events/:id/shifts', {
          params: { id: event.id },
          body: {
            role,
            startsLocal: `2026-08-08T${from}`,
            endsLocal: `2026-08-08T${to}`,
            wished: 5,
          },
        })
      ).id;
    const [raking, tea] = [await shift('Raking', '09:00', '12:00'), await shift('Tea', '11:00', '13:00')];
    const known = await add({ given: 'Vera', family: 'Volunteer', email: 'vera@fenmail.example' });
    await staff.call('POST /api/shifts/:id/assignments', {
      params: { id: raking },
      body: { contactId: known },
    });
    const signUp = (id: string, given: string, family: string, email: string) =>
      world.anyone.try('POST /api/public/shifts/:id/sign-up', {
        params: { id },
        body: { given, family, email, phone: '902 555 0144' },
      });
    const answers = [
      await signUp(tea, 'Vera', 'Volunteer', 'vera@fenmail.example'),
      await signUp(raking, 'Vera', 'Volunteer', 'vera@fenmail.example'),
      await signUp(tea, 'Nobody', 'Known', 'nobody.known@fenmail.example'),
    ];
    for (const { status, body } of answers) {
      expect(status).toBe(201);
      expect(body).toEqual({ done: true });
    }
    // Vera herself is told, at the address on record, and nothing was changed for her.
    await world.runner.run();
    const mail = await world.app.db.query<{ subject: string; body: string }>(
      "select subject, body from standin_mail where address = 'vera@fenmail.example' order by accepted_at, key",
    );
    expect(mail.some((m) => m.subject.startsWith('Your shift was not added'))).toBe(true);
    const { shifts } = await staff.call('GET /api/events/:id/crew', { params: { id: event.id } });
    expect(shifts.find((s) => s.role === 'Tea')!.assignments.map((a) => a.name)).toEqual(['Nobody Known']);
    // The telephone that was given for her waits for a decision.
    expect((await record(known)).phones).toEqual([]);
    expect(await proposals(known)).toMatchObject([{ field: 'phone', after: '+19025550144' }]);
  });

  test('adds no telephone to a record by an order in its name', async () => {
    const known = await add({ given: 'Kay', family: 'Known', email: 'kay@fenmail.example' });
    const event = await openEvent(world, { title: 'Plant Swap' });
    const order = () =>
      world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: {
          ...orderFor(event, [{ given: 'Kay', family: 'Known' }]),
          buyer: { given: 'Kay', family: 'Known', email: 'kay@fenmail.example', phone: '902 555 0190' },
        },
      });
    await order();
    await order();
    expect((await record(known)).phones).toEqual([]);
    const [asked, ...more] = await proposals(known);
    expect(more).toEqual([]);
    expect(asked).toMatchObject({ field: 'phone', after: '+19025550190', said: 'registered for Plant Swap' });
    await (await odalys()).call('POST /api/proposals/:id/decide', {
      params: { id: asked!.id },
      body: { accept: true },
    });
    expect((await record(known)).phones.map((p) => p.phone)).toEqual(['+19025550190']);
  });

  test('does not become the guardian of a child they name, and reads nothing of it', async () => {
    const staff = await odalys();
    const child = await add({
      given: 'Tansy',
      family: 'Marsh',
      birthDate: '2016-04-05',
      street: '3 Chapel Hill',
      postalCode: 'B2X 1A1',
    });
    const event = await openEvent(world, { title: 'Mudlarks', so: ['minors'], waiver: 'On the water' });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [
        { given: 'Sly', family: 'Stranger', birthDate: '1980-01-01' },
        { given: 'Tansy', family: 'Marsh', birthDate: '2016-04-05' },
      ]),
    });
    const seats = (await staff.call('GET /api/events/:id/registrations', { params: { id: event.id } })).rows;
    const stranger = seats.find((s) => s.given === 'Sly')!.contactId!;
    // The seat is known to be Tansy's, or the pair is put up; either way nobody became a guardian of the record.
    expect((await record(child)).related).toEqual([]);
    const own = await world.anyone.call('GET /api/public/own/:token', {
      params: { token: (await linkTo(world.app, 'own', stranger)).split('/').at(-1)! },
    });
    expect(own.children).toEqual([]);
    expect(JSON.stringify(own)).not.toMatch(/2016-04-05|B2X 1A1|Chapel/u);
    const order = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    expect(JSON.stringify(order)).not.toMatch(/B2X 1A1|Chapel/u);
    const asked = await proposals(child);
    expect(asked).toMatchObject([{ field: 'guardian', after: 'Sly Stranger', otherContactId: stranger }]);
    await staff.call('POST /api/proposals/:id/decide', {
      params: { id: asked[0]!.id },
      body: { accept: false },
    });
    expect((await record(child)).related).toEqual([]);
    // What was decided is not asked again.
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [
        { given: 'Sly', family: 'Stranger', birthDate: '1980-01-01' },
        { given: 'Tansy', family: 'Marsh', birthDate: '2016-04-05' },
      ]),
    });
    expect(await proposals(child)).toEqual([]);
  });

  test('cannot tell from an order whether a child they name is known to be under age', async () => {
    await add({ given: 'Bram', family: 'Marsh', birthDate: '2015-02-03' });
    const event = await openEvent(world, { title: 'Canoes', waiver: 'On the water' });
    const place = (birthDate: string | null) =>
      world.anyone.try('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: {
          ...orderFor(event, [{ given: 'Bram', family: 'Marsh' }]),
          attendees: [{ given: 'Bram', family: 'Marsh', birthDate }],
        },
      });
    // Where age decides, it has to be said.
    expect((await place(null)).problem.fields).toEqual([
      {
        path: 'attendees.0.birthDate',
        message: 'Give the birth date: age decides here.',
        code: 'birth-date-needed',
      },
    ]);
    const { body } = await place('1990-01-01');
    const order = await world.anyone.call('GET /api/public/orders/:token', { params: { token: body.token } });
    // It follows from what was said here, not from the record.
    expect(order.seats[0]!.waiver).toBe('self');
  });

  test('signs for nobody but whoever sits in their own order', async () => {
    const event = await openEvent(world, { title: 'Signed by Another', waiver: 'On the water' });
    const book = async (given: string) =>
      (
        await world.anyone.call('POST /api/public/events/:slug/orders', {
          params: { slug: event.slug },
          body: orderFor(event, [{ given, family: 'Signer', birthDate: '1980-01-01' }]),
        })
      ).token;
    const [mine, theirs] = [await book('Ada'), await book('Bea')];
    const theirOrder = await world.anyone.call('GET /api/public/orders/:token', {
      params: { token: theirs },
    });
    const { waivers } = await (await odalys()).call('GET /api/events/:id/doors', {
      params: { id: event.id },
    });
    const sign = (token: string) =>
      world.anyone.try('POST /api/public/orders/:token/signatures', {
        params: { token },
        body: {
          seats: [{ registrationId: theirOrder.seats[0]!.id, relation: 'self' }],
          ...signs(waivers[0]!, 'Bea Signer'),
        },
      });
    expect((await sign(mine)).status).toBe(404);
    expect(await world.app.db.query('select 1 from signatures where event_id = $1', [event.id])).toEqual([]);
    expect((await sign(theirs)).status).toBe(201);
  });
});
