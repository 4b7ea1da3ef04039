import { afterAll, beforeAll, expect, test } from 'vitest';
import { hideLinks } from '#core/messages/links.ts';
import { firstThanks } from '#core/messages/thanksTexts.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { bookFor, type OpenEvent, openEvent, pay } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const said = {
  subject: { ...firstThanks.subject },
  preview: { en: '' },
  body: { ...firstThanks.body },
  formatted: { en: null },
  frenchFits: false,
};
const setUp = async () => {
  const marit = await world.as('marit');
  const { version } = await marit.call('GET /api/receipts/settings');
  await marit.call('PUT /api/receipts/settings', {
    body: {
      legalName: 'Brackenmere Wetland Trust',
      addressLines: '4 Sluice Lane\nPort Ansley NS',
      registration: '12345 6789 RR0001',
      place: 'Port Ansley',
      signer: 'Marit Solvang',
      signerRole: 'Treasurer',
      thanks: { en: '' },
      indexed: [],
      version,
    },
  });
};

/** A supper of today: Asta came and gave, Bror came, Cilla missed it and gave, Dag has no address to send to. */
async function supper(): Promise<OpenEvent> {
  const event = await openEvent(world, {
    title: 'Supper of thanks',
    startsLocal: '2026-07-10T10:00',
    endsLocal: '2026-07-10T12:00',
  });
  const fundId = (await odalys.call('GET /api/choices')).funds[0]!.id;
  const order = async (given: string, gift = 0) => {
    const made = await bookFor(world, event, [given], {
      email: `${given.toLowerCase()}@sedge.example`,
      ...(gift ? { donation: { amount: gift, fundId, anonymous: false } } : {}),
    } as never);
    if (gift) await pay(world, made.token);
    return made;
  };
  await order('Asta', 5000);
  await order('Bror');
  await order('Cilla', 2000);
  await order('Dag');
  const shift = await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: {
      role: 'Kitchen',
      place: '',
      startsLocal: '2026-07-10T08:00',
      endsLocal: '2026-07-10T11:00',
      wished: 2,
    },
  });
  await world.runner.run();
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  const of = (given: string) => rows.find((r) => r.given === given)!;
  await world.app.db.query(
    "update contacts set street = '12 Reed Row', postal_code = 'B0J 1A0' where id = any($1)",
    [[of('Asta').contactId, of('Cilla').contactId]],
  );
  await world.app.db.query(
    `insert into assignments (id, shift_id, contact_id, state, source, hours, made_at)
     values (gen_random_uuid(), $1, $2, 'served', 'staff', 3, '2026-07-09T12:00:00Z')`,
    [shift.id, of('Bror').contactId],
  );
  await world.moveTo('2026-07-10T13:30:00.000Z');
  for (const given of ['Asta', 'Bror', 'Dag'])
    await odalys.call('POST /api/registrations/:id/attendance', {
      params: { id: of(given).id },
      body: { eventId: event.id, state: 'arrived' },
    });
  await world.app.db.query('delete from contact_emails where contact_id = $1', [of('Dag').contactId]);
  await world.moveTo('2026-07-11T12:00:00.000Z');
  return event;
}

let event: OpenEvent;
const preview = (more: object = {}) =>
  odalys.try('POST /api/events/:id/thanks/preview', {
    params: { id: event.id },
    body: { to: ['came', 'helped', 'gave'], receipts: true, said, ...more },
  });
const send = (expect: { mails: number; receipts: number }, more: object = {}) =>
  odalys.try('POST /api/events/:id/thanks', {
    params: { id: event.id },
    body: { to: ['came', 'helped', 'gave'], receipts: true, said, expect, ...more },
  });
const counts = async () =>
  (
    await world.app.db.query<{ receipts: number; mails: number }>(
      "select (select count(*)::int from receipts) as receipts, (select count(*)::int from messages where kind = 'mailing') as mails",
    )
  )[0]!;

test('what would go out is exactly what goes out: each mail, each receipt, who gets none and why', async () => {
  event = await supper();
  // The organization has not said yet what a receipt has to say of it.
  expect((await preview()).problem.code).toBe('receipts-not-set-up');
  expect((await preview({ receipts: false })).status).toBe(200);
  await setUp();
  const before = await counts();
  const { people, leftOut, noReceipt, thankedBefore } = (await preview()).body;
  expect(await counts()).toEqual(before);
  expect(people.map((p) => [p.name, p.as, p.receipt?.eligible ?? null])).toEqual([
    ['Asta Sedge', ['came', 'gave'], 5000],
    ['Bror Sedge', ['came', 'helped'], null],
    ['Cilla Sedge', ['gave'], 2000],
  ]);
  expect(leftOut).toMatchObject([{ people: 1, names: ['Dag Sedge'] }]);
  expect([noReceipt, thankedBefore]).toEqual([[], 0]);
  const [asta, bror] = people;
  expect(asta!.body).toContain('thank you for your gift of $50.');
  expect(asta!.body).toContain('Your receipt for $50: [link to their receipt]');
  expect(bror!.body).toContain('Without you it would not have gone: Kitchen, 3 h.');
  expect(bror!.body).not.toMatch(/receipt|gift/u);
  // Another number than was seen sends nothing, and writes no receipt.
  expect((await send({ mails: 3, receipts: 1 })).problem.code).toBe('thanks-changed');
  expect((await send({ mails: 2, receipts: 2 })).problem.code).toBe('mailing-changed');
  expect(await counts()).toEqual(before);
  expect((await send({ mails: 3, receipts: 2 })).body).toEqual({ mails: 3, receipts: 2 });
  await world.runner.run();
  const sent = await world.app.db.query<{ name: string; subject: string; body: string; state: string }>(
    "select m.name, m.subject, m.body, m.state from messages m join mailings g on g.id = m.mailing_id where g.thanks_of = $1 and m.state <> 'held back' order by m.name",
    [event.id],
  );
  expect(sent.map((m) => [m.name, m.subject, m.state])).toEqual(
    people.map((p) => [p.name, p.subject, 'sent']),
  );
  const receipts = await world.app.db.query<{ number: string; eligible: number }>(
    'select number, eligible from receipts order by number',
  );
  expect(receipts.map((r) => r.number).sort()).toEqual(people.flatMap((p) => p.receipt?.number ?? []).sort());
  // What was read before is what is read: but for the link, which was said in words.
  for (const [at, { body }] of sent.entries()) expect(hideLinks(body)).toBe(people[at]!.body);
});

test('receipts are written once; who is thanked twice is said before', async () => {
  const again = (await preview()).body;
  expect(again.thankedBefore).toBe(3);
  expect(again.people.map((p) => p.receipt)).toEqual([null, null, null]);
  expect(again.people[0]!.body).not.toContain('receipt');
  const only = (await preview({ to: ['helped'] })).body;
  expect(only.people.map((p) => p.name)).toEqual(['Bror Sedge']);
});

test('what cannot be said is refused beside its field; nobody is thanked for what is not theirs to close', async () => {
  const wrong = await preview({ said: { ...said, body: { en: '{{survey_link}}' } } });
  expect(wrong.problem.fields).toMatchObject([{ path: 'said.body.en', code: 'field-elsewhere' }]);
  expect((await preview({ to: [] })).problem.fields).toMatchObject([{ path: 'to', code: 'for-whom' }]);
  const empty = await openEvent(world, { title: 'Nobody there' });
  const nobody = await odalys.try('POST /api/events/:id/thanks/preview', {
    params: { id: empty.id },
    body: { to: ['came'], receipts: true, said },
  });
  expect(nobody.problem.code).toBe('mailing-nobody');
  // Said of somebody without a gap: a field that is empty for some is left out by a condition, or refused.
  const gap = await preview({ said: { ...said, body: { en: 'You helped: {{helped}}' } } });
  expect(gap.problem.code).toBe('field-empty');
});
