import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, signs } from './scenes.ts';

describe('children', () => {
  let world: World;
  let event: OpenEvent;
  beforeAll(async () => {
    world = await makeWorld();
    event = await openEvent(world, {
      title: 'Mudlarks Overnight',
      so: ['minors'],
      waiver: 'On the water',
      capacity: null,
    });
  });
  afterAll(() => world.close());
  const seatsOf = async (token: string) =>
    (await world.anyone.call('GET /api/public/orders/:token', { params: { token } })).seats;
  const rows = async () =>
    (await (await world.as('odalys')).call('GET /api/events/:id/registrations', { params: { id: event.id } }))
      .rows;
  const book = async (family: string) =>
    (
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [
          { given: 'Astrid', family, birthDate: '1985-06-01' },
          { given: 'Tova', family, birthDate: '2016-03-02' },
        ]),
      })
    ).token;
  const rename = (token: string, seat: string, given: string, family: string, birthDate?: string) =>
    world.anyone.try('PATCH /api/public/orders/:token/seats/:seat', {
      params: { token, seat },
      body: { given, family, birthDate: birthDate ?? null },
    });
  const contacts = async () =>
    (await world.app.db.query<{ n: number }>('select count(*)::int as n from contacts'))[0]!.n;

  test('a corrected spelling is the same child: birth date, guardian, signature and record stay', async () => {
    const token = await book('Lindqvist');
    const child = (await seatsOf(token))[1]!;
    const { waivers } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    await world.anyone.call('POST /api/public/orders/:token/signatures', {
      params: { token },
      body: {
        seats: [{ registrationId: child.id, relation: 'guardian' }],
        ...signs(waivers[0]!, 'Astrid Lindqvist'),
      },
    });
    const before = (await rows()).find((r) => r.id === child.id)!;
    const people = await contacts();
    expect((await rename(token, child.id, 'Tove', 'Lindqvist')).status).toBe(200);
    const after = (await rows()).find((r) => r.id === child.id)!;
    expect(after).toMatchObject({ given: 'Tove', contactId: before.contactId, waiver: 'signed' });
    expect(await contacts()).toBe(people);
    const record = await (await world.as('odalys')).call('GET /api/contacts/:id', {
      params: { id: after.contactId! },
    });
    expect(record).toMatchObject({ given: 'Tove', birthDate: '2016-03-02' });
    expect(record.related).toMatchObject([{ relation: 'guardian', name: 'Astrid Lindqvist' }]);
    // Another child is not slipped in under the signature.
    expect((await rename(token, child.id, 'Nils', 'Lindqvist', '2014-01-01')).problem.code).toBe(
      'name-signed',
    );
  });

  test('another child in the seat is another person, whose age has to be said', async () => {
    const token = await book('Berglund');
    const child = (await seatsOf(token))[1]!;
    const before = (await rows()).find((r) => r.id === child.id)!;
    expect((await rename(token, child.id, 'Nils', 'Berglund')).problem.fields).toEqual([
      { path: 'birthDate', message: 'Give the birth date: age decides here.', code: 'birth-date-needed' },
    ]);
    expect((await rename(token, child.id, 'Nils', 'Berglund', '2014-01-01')).status).toBe(200);
    const after = (await rows()).find((r) => r.id === child.id)!;
    expect(after.contactId).not.toBe(before.contactId);
    // Who is expected at the door is whoever sits there by now.
    const [expected] = await world.app.db.query<{ contactId: string }>(
      'select contact_id from attendance where registration_id = $1',
      [child.id],
    );
    expect(expected?.contactId).toBe(after.contactId);
    expect((await seatsOf(token))[1]!.waiver).toBe('guardian');
  });

  test('a child we knew before keeps its record when a stranger spells it otherwise', async () => {
    const odalys = await world.as('odalys');
    const { id } = await odalys.call('POST /api/contacts', {
      body: { given: 'Tova', family: 'Sundqvist', birthDate: '2016-03-02' },
    });
    const token = await book('Sundqvist');
    const child = (await seatsOf(token))[1]!;
    expect((await rows()).find((r) => r.id === child.id)!.contactId).toBe(id);
    await rename(token, child.id, 'Tove', 'Sundqvist');
    expect(await odalys.call('GET /api/contacts/:id', { params: { id } })).toMatchObject({ given: 'Tova' });
    const asked = (await odalys.call('GET /api/proposals')).filter((p) => p.contactId === id);
    expect(asked.map((p) => [p.field, p.after]).sort()).toEqual([
      ['given', 'Tove'],
      ['guardian', 'Astrid Sundqvist'],
    ]);
  });

  test('an unknown age needs a guardian until it is known', async () => {
    const odalys = await world.as('odalys');
    const { orderId } = await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'Ageless', family: 'Unknown' }]),
    });
    const row = async () => (await rows()).find((r) => r.orderId === orderId)!;
    expect((await row()).waiver).toBe('guardian');
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    expect(page.margin.some((n) => n.headline === 'The age of 1 person is not known.')).toBe(true);
  });

  test('whoever books for themselves is one person, also without a birth date on record', async () => {
    const before = await contacts();
    const token = await book('Dahl');
    expect((await contacts()) - before).toBe(2);
    const [own, child] = await seatsOf(token);
    const byId = new Map((await rows()).map((r) => [r.id, r]));
    expect(byId.get(own!.id)!.linkReasons).toEqual(['booked for themselves']);
    expect(byId.get(own!.id)!.contactId).not.toBe(byId.get(child!.id)!.contactId);
  });
});
