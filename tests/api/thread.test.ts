import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { bringIn, openEvent, orderFor, signs, surveyOf } from './scenes.ts';

describe('one event from registration to lifeline', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());

  test('a paid family booking runs through payment, waiver, doors, survey and figures', async () => {
    const q = crypto.randomUUID();
    const event = await openEvent(world, {
      price: 2500,
      so: ['boats', 'minors'],
      waiver: 'On the water',
      questions: [
        {
          id: q,
          scope: 'attendee',
          kind: 'text',
          prompt: { en: 'Anything we should know?' },
          required: false,
          choices: [],
          offerId: null,
          seenBy: 'door',
          sensitive: true,
        },
      ],
      surveys: [surveyOf([{ id: 'liked', kind: 'scale', prompt: 'How did you like it?', required: true }])],
    });
    const { anyone } = world;
    const choices = await (await world.as('odalys')).call('GET /api/choices');
    const body = orderFor(
      event,
      [
        { given: 'Mai', family: 'Delacroix-Nguyen', birthDate: '1986-02-11' },
        { given: 'Théo', family: 'Delacroix-Nguyen', birthDate: '2015-05-02' },
        { given: 'Linh', family: 'Delacroix-Nguyen', birthDate: '2017-09-30' },
      ],
      { donation: { amount: 1000, fundId: choices.funds.find((f) => f.name === 'Hide Appeal')!.id } },
    );
    body.attendees[1]!.answers = { [q]: 'no nuts' };
    const placed = await anyone.call(
      'POST /api/public/events/:slug/orders',
      { params: { slug: event.slug }, body },
      { 'idempotency-key': 'first-order-0001' },
    );
    expect(placed).toMatchObject({ standing: 'held', total: 8500 });
    const again = await anyone.call(
      'POST /api/public/events/:slug/orders',
      { params: { slug: event.slug }, body },
      { 'idempotency-key': 'first-order-0001' },
    );
    expect(again.token).toBe(placed.token);

    const token = placed.token;
    const paid = await anyone.call('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0001', expiry: '08/29' },
    });
    expect(paid.outcome).toBe('succeeded');
    let order = await anyone.call('GET /api/public/orders/:token', { params: { token } });
    expect(order).toMatchObject({ standing: 'confirmed', balance: 0, payment: 'paid' });
    expect(order.seats.map((s) => s.waiver)).toEqual(['self', 'guardian', 'guardian']);

    const waiver = order.waivers[0]!;
    for (const seat of order.seats)
      await anyone.call('POST /api/public/orders/:token/signatures', {
        params: { token },
        body: {
          seats: [{ registrationId: seat.id, relation: seat.waiver === 'guardian' ? 'guardian' : 'self' }],
          ...signs(waiver, 'Mai Delacroix-Nguyen'),
        },
      });
    order = await anyone.call('GET /api/public/orders/:token', { params: { token } });
    expect(order.seats.every((s) => s.waiver === 'signed')).toBe(true);

    const pdf = await anyone.try('GET /api/public/orders/:token/passes.pdf', { params: { token } });
    expect(pdf.status).toBe(200);
    expect((pdf.body as unknown as Buffer).subarray(0, 5).toString()).toBe('%PDF-');

    const odalys = await world.as('odalys');
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    expect(new Set(rows.map((r) => r.contactId)).size).toBe(3);
    const child = await odalys.call('GET /api/contacts/:id', {
      params: { id: rows.find((r) => r.given === 'Théo')!.contactId! },
    });
    expect(child.related).toContainEqual(
      expect.objectContaining({ relation: 'guardian', name: 'Mai Delacroix-Nguyen' }),
    );
    expect(child.emails).toEqual([]);

    const messages = await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
    const dayBefore = messages.find((m) => m.name === 'Reminder, a day before')!;
    expect(dayBefore.rows.map((r) => [r.name, r.plannedFor])).toEqual([
      ['Mai Delacroix-Nguyen', '2026-08-07T12:00:00.000Z'],
    ]);
    expect(dayBefore.leftOut.map((r) => r.whyNot)).toEqual([
      'covered by the copy to Mai Delacroix-Nguyen',
      'covered by the copy to Mai Delacroix-Nguyen',
    ]);

    await world.moveTo('2026-08-08T12:00:00Z');
    const door = await world.as('door');
    const code = order.seats[0]!.pass!.code;
    const scan = await door.call('POST /api/events/:id/scan', { params: { id: event.id }, body: { code } });
    expect(scan).toMatchObject({ light: 'go', row: { given: 'Mai' } });
    await door.call('POST /api/registrations/:id/attendance', {
      params: { id: order.seats[0]!.id },
      body: { eventId: event.id, state: 'arrived' },
    });
    await door.call('POST /api/registrations/:id/attendance', {
      params: { id: order.seats[1]!.id },
      body: { eventId: event.id, state: 'arrived' },
    });
    const walkIn = await door.call('POST /api/events/:id/walk-ins', {
      params: { id: event.id },
      body: { given: 'Jun', family: 'Baptiste', offerId: event.offers[0]!.id, despite: 'signs on paper' },
    });
    expect(walkIn).toMatchObject({ known: false, arrived: true, row: { balance: 2500 } });

    await world.moveTo('2026-08-09T12:00:00Z');
    const figures = await odalys.call('GET /api/events/:id/figures', { params: { id: event.id } });
    expect(figures).toMatchObject({
      arrived: 3,
      missed: 1,
      expected: 0,
      walkIns: 1,
      money: { seats: 7500, donations: 1000, refunds: 0, net: 8500 },
    });
    expect(figures.checks.every((c) => c.holds)).toBe(true);

    const mail = await world.app.db.query<{ subject: string; body: string }>(
      'select subject, body from standin_mail order by accepted_at, key',
    );
    expect(mail.map((m) => m.subject)).toEqual(
      expect.arrayContaining([
        'You are registered: Open Water Day',
        'Tomorrow: Open Water Day',
        'In an hour: Open Water Day',
        'How was Open Water Day?',
      ]),
    );
    const surveyToken = /\/s\/([\w-]+)/u.exec(mail.find((m) => m.subject.startsWith('How was'))!.body)![1]!;
    await anyone.call('POST /api/public/surveys/:token', {
      params: { token: surveyToken },
      body: { answers: { liked: 5 } },
    });
    const [survey] = await odalys.call('GET /api/events/:id/surveys', { params: { id: event.id } });
    expect(survey).toMatchObject({ asked: 1, answered: 1 });
    const { results } = await odalys.call('GET /api/events/:id/surveys/:survey', {
      params: { id: event.id, survey: survey!.id },
      query: {},
    });
    expect(results).toMatchObject([{ answered: 1, mean: { value: 5 } }]);

    const mai = rows.find((r) => r.given === 'Mai')!.contactId!;
    const lifeline = await odalys.call('GET /api/contacts/:id/lifeline', { params: { id: mai } });
    expect(lifeline.entries.map((e) => e.kind)).toEqual(
      expect.arrayContaining([
        'registration',
        'attendance',
        'money',
        'waiver',
        'message',
        'survey',
        'record',
      ]),
    );
    const record = await odalys.call('GET /api/contacts/:id', { params: { id: mai } });
    expect(record.totals).toMatchObject({
      attended: 1,
      missed: 0,
      givenEver: [{ amount: 1000, currency: 'CAD' }],
    });
    const desk = await odalys.call('GET /api/desk');
    expect(desk.entries.map((e) => e.subject)).toContain('Open Water Day');
    const csv = await odalys.try('GET /api/events/:id/registrations.csv', { params: { id: event.id } });
    expect(String(csv.body).trim().split('\r\n')).toHaveLength(5);
  });

  test('the membership list comes in, is known the second time, and is undone', async () => {
    const odalys = await world.as('odalys');
    const content = readFileSync('tests/data/members.csv');
    const imported = await bringIn(world, content, 'members.csv');
    const { counts } = imported;
    expect(counts.new + counts.changes + counts.same + counts.look + counts.rejected).toBe(383);
    const applied = await odalys.call('POST /api/imports/:id/apply', { params: { id: imported.id } });
    expect(applied.state).toBe('applied');
    const second = await bringIn(world, content, 'members.csv');
    expect(second.counts).toMatchObject({ new: 0, changes: 0 });
    expect(second.appliedBefore?.id).toBe(imported.id);
    const undone = await odalys.call('POST /api/imports/:id/undo', { params: { id: imported.id } });
    expect(undone.removed).toBe(counts.new + counts.look);
  });
});
