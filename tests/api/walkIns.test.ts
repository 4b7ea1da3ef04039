import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { asksAll, type OpenEvent, openEvent, signs } from './scenes.ts';

let world: World;
let odalys: Caller;
let door: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  door = await world.as('door');
});
afterAll(() => world.close());

const today = { startsLocal: '2026-07-09T08:00', endsLocal: '2026-07-09T23:00' };
const letIn = (event: OpenEvent, body: object, as = door) =>
  as.try('POST /api/events/:id/walk-ins', {
    params: { id: event.id },
    body: { offerId: event.offers[0]!.id, given: 'Runa', family: 'Fell', ...body } as never,
  });
const rows = async (event: OpenEvent) =>
  (await door.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows;

/** Somebody on record, with a child they look after. */
async function family(given: string): Promise<{ parent: string; child: string }> {
  const parent = await odalys.call('POST /api/contacts', {
    body: { given, family: 'Fell', birthDate: '1985-02-03' },
  });
  const child = await odalys.call('POST /api/contacts', {
    body: { given: `${given}ling`, family: 'Fell', birthDate: '2018-02-03' },
  });
  await world.app.db.query(
    "insert into relationships (id, kind, from_contact, to_contact, created_at) values (gen_random_uuid(), 'guardian', $1, $2, now())",
    [parent.id, child.id],
  );
  return { parent: parent.id, child: child.id };
}

test('a family walks in at once: one order, paid in cash, everybody in', async () => {
  const event = await openEvent(world, { ...today, title: 'Walked In', price: 1200 });
  const unpaid = await letIn(event, { given: 'Vigo', family: 'Alone' });
  expect(unpaid.body).toMatchObject({ arrived: false, row: { light: 'settle', balance: 1200 } });
  const { body } = await letIn(event, {
    others: [
      { given: 'Siv', family: 'Fell' },
      { given: 'Tor', family: 'Fell', birthDate: '2015-03-04' },
    ],
    paid: true,
  });
  expect(body).toMatchObject({ arrived: true, row: { attendance: 'arrived', balance: 0 } });
  expect(body.others.map((r) => [r.given, r.attendance, r.orderId === body.row.orderId])).toEqual([
    ['Siv', 'arrived', true],
    ['Tor', 'arrived', true],
  ]);
  // Who leads the crew takes no money.
  expect((await letIn(event, { given: 'Imre', paid: true }, await world.as('imani'))).status).toBe(403);
  const payments = await world.app.db.query<{ amount: number; method: string }>(
    'select amount, method from payments where order_id = $1',
    [body.row.orderId],
  );
  expect(payments).toEqual([{ amount: 3600, method: 'cash' }]);
});

test('of somebody who is known, those around them are offered by name, come with their record, and only they', async () => {
  const event = await openEvent(world, { ...today, title: 'Known Around' });
  const { parent, child } = await family('Osk');
  const around = (as = door) =>
    as.try('GET /api/events/:id/known/:contact', { params: { id: event.id, contact: parent } });
  expect((await around()).body).toEqual([{ contactId: child, given: 'Oskling', family: 'Fell' }]);
  const stranger = await family('Zed');
  const along = (contactId: string) =>
    letIn(event, { given: 'Osk', contactId: parent, others: [{ given: 'X', family: 'Y', contactId }] });
  expect((await along(stranger.child)).problem.fields).toMatchObject([
    { path: 'others.0.given', code: 'person-not-theirs' },
  ]);
  expect(await rows(event)).toEqual([]);
  expect((await along(child)).body.others).toMatchObject([{ given: 'Oskling', family: 'Fell' }]);
  const [kept] = await world.app.db.query<{ contactId: string; birthDate: string }>(
    "select contact_id, birth_date::text as birth_date from registrations where event_id = $1 and given_name = 'Oskling'",
    [event.id],
  );
  expect(kept).toEqual({ contactId: child, birthDate: '2018-02-03' });
  // Who has a seat is not offered again.
  expect((await around()).body).toEqual([]);
});

test('a family signs once at the door: for the children together, each with a signature of their own, all or none', async () => {
  const event = await openEvent(world, {
    ...today,
    title: 'Signed Together',
    so: ['minors'],
    waiver: 'Children in our care',
  });
  const { body } = await letIn(event, {
    birthDate: '1985-01-01',
    others: [
      { given: 'Siv', family: 'Fell', birthDate: '2015-03-04' },
      { given: 'Tor', family: 'Fell', birthDate: '2017-03-04' },
    ],
  });
  const [siv, tor] = body.others as [(typeof body.others)[0], (typeof body.others)[0]];
  expect([siv.missing, tor.missing]).toEqual([['guardian'], ['guardian']]);
  const [waiver] = (await door.call('GET /api/events/:id/doors', { params: { id: event.id } })).waivers;
  const sign = (others: string[]) =>
    door.try('POST /api/registrations/:id/signatures', {
      params: { id: siv.registrationId },
      body: {
        relation: 'guardian',
        ...signs(waiver!, 'Runa Fell'),
        others: others.map((registrationId) => ({
          registrationId,
          relation: 'guardian' as const,
          answers: {},
        })),
      },
    });
  const elsewhere = (await letIn(event, { given: 'Other', birthDate: '1985-01-01' })).body.registrationId;
  expect((await sign([elsewhere])).status).toBe(404);
  expect((await rows(event)).filter((r) => r.missing.length)).toHaveLength(2);
  // For one alone it is signed with nobody beside.
  const alone = (await letIn(event, { given: 'Una', birthDate: '2016-01-01' })).body.registrationId;
  const one = await door.try('POST /api/registrations/:id/signatures', {
    params: { id: alone },
    body: { relation: 'guardian', ...signs(waiver!, 'Runa Fell'), others: [] },
  });
  expect(one.body).toMatchObject({ row: { missing: [] }, others: [] });
  const done = await sign([tor.registrationId]);
  expect([done.body.row.light, done.body.others[0]!.light]).toEqual(['go', 'go']);
  const kept = await world.app.db.query<{ act: string }>(
    'select act from signatures where registration_id = any($1)',
    [[siv.registrationId, tor.registrationId]],
  );
  expect([kept.length, new Set(kept.map((k) => k.act)).size]).toEqual([2, 1]);
});

test('told later and twice, somebody walks in once, at the time they came by a clock that may stand wrong', async () => {
  const event = await openEvent(world, { ...today, title: 'Told Later' });
  const now = Date.parse(world.app.clock.now());
  const device = now - 5 * 3_600_000;
  const send = (sentAt: number) =>
    door.try(
      'POST /api/events/:id/walk-ins',
      {
        params: { id: event.id },
        query: { sentAt: new Date(sentAt).toISOString() },
        body: {
          offerId: event.offers[0]!.id,
          given: 'Late',
          family: 'Fell',
          at: new Date(device).toISOString(),
          device: 'Back gate',
        },
      },
      { 'idempotency-key': 'kept-on-the-device-1' },
    );
  // Forty minutes went by on the device until there was a network.
  const first = await send(device + 40 * 60_000);
  const again = await send(device + 50 * 60_000);
  expect(again.body.registrationId).toBe(first.body.registrationId);
  const [row, ...more] = await rows(event);
  expect(more).toEqual([]);
  expect(row!.arrivedAt).toBe(new Date(now - 40 * 60_000).toISOString());
  const live = await door.call('GET /api/events/:id/doors/live', { params: { id: event.id } });
  expect(live.doors.map((d) => d.name)).toEqual(['Back gate']);
});

test('who of the crew has not signed is seen at the doors, and signs there', async () => {
  const event = await openEvent(world, { ...today, title: 'Crew At The Door' });
  const waiver = (await odalys.call('GET /api/choices')).waivers.find((w) => w.title === 'On the water')!;
  await saveIt(odalys, event.id, {
    waivers: [{ ...asksAll(waiver.id), seats: false, crew: true, roles: ['Landing'] }],
  });
  const on = async (role: string, given: string) => {
    const shift = await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role, place: '', startsLocal: '2026-07-09T09:00', endsLocal: '2026-07-09T12:00', wished: 1 },
    });
    const { id } = await odalys.call('POST /api/contacts', {
      body: { given, family: 'Crewe', birthDate: '1990-01-01' },
    });
    await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id: shift.id },
      body: { contactId: id, overrideReason: 'asked them' },
    });
  };
  await on('Landing', 'Lev');
  await on('Tea', 'Tia');
  const crew = () => door.call('GET /api/events/:id/doors/crew', { params: { id: event.id } });
  const { rows: before, waivers } = await crew();
  expect(before.map((r) => [r.name, r.toSign, r.relation])).toEqual([
    ['Lev Crewe', [waiver.id], 'self'],
    ['Tia Crewe', [], 'self'],
  ]);
  const sign = (assignmentId: string) =>
    door.try('POST /api/assignments/:id/signatures', {
      params: { id: assignmentId },
      body: { relation: 'self', ...signs(waivers[0]!, 'Lev Crewe') },
    });
  expect((await sign(before[1]!.assignmentId)).problem.code).toBe('waiver-not-asked');
  expect((await sign(before[0]!.assignmentId)).body).toEqual({ done: true });
  expect((await crew()).rows.flatMap((r) => r.toSign)).toEqual([]);
});

test('of a seat that was given up the door says so, and offers nothing to sign', async () => {
  const event = await openEvent(world, {
    ...today,
    title: 'Given Up',
    so: ['minors'],
    waiver: 'Children in our care',
  });
  const { registrationId } = (await letIn(event, { birthDate: '2015-01-01' })).body;
  const [seat] = await world.app.db.query<{ code: string }>(
    'select pass_code as code from registrations where id = $1',
    [registrationId],
  );
  const scan = () =>
    door.call('POST /api/events/:id/scan', { params: { id: event.id }, body: { code: seat!.code } });
  expect((await scan()).row).toMatchObject({ headline: 'Waiver missing', missing: ['guardian'] });
  await odalys.call('POST /api/registrations/:id/withdraw', { params: { id: registrationId }, body: {} });
  expect((await scan()).row).toMatchObject({ headline: 'Withdrawn', missing: [], toSign: [] });
});
