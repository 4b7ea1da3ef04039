import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { countOf } from '#core/events/consequences.ts';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

describe('messages and the clock', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());

  test('moving an event moves what has not gone out, and its shifts', async () => {
    const event = await openEvent(world, { title: 'Moving' });
    const odalys = await world.as('odalys');
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Mai', family: 'Wren' }]),
    });
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role: 'Welcome', startsLocal: '2026-08-08T08:30', endsLocal: '2026-08-08T12:30', wished: 1 },
    });
    await world.runner.run();
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const saved = await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { startsLocal: '2026-11-01T09:00', endsLocal: '2026-11-01T16:30' } },
    });
    expect(countOf(saved.followed, 'moved')).toBe(3);
    const steps = await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
    // 1 November is the day the clocks go back: a day before 09:00 is 09:00 of the day before, in summer time.
    expect(steps.find((s) => s.name === 'Reminder, a day before')!.firstAt).toBe('2026-10-31T12:00:00.000Z');
    expect(steps.find((s) => s.name === 'Confirmation')!.sent).toBe(1);
    expect(
      (await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } })).shifts[0]!.startsLocal,
    ).toBe('2026-11-01T08:30');
  });

  test('a failed message is tried again later and never sent twice, also when the answer is lost', async () => {
    const event = await openEvent(world, { title: 'Failing' });
    const odalys = await world.as('odalys');
    const book = (family: string) =>
      world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given: 'Noor', family }]),
      });
    const failed = async () =>
      (await odalys.call('GET /api/tray', { query: { state: 'failed', eventId: event.id } })).rows;
    const mails = () =>
      world.app.db.query("select 1 from standin_mail where subject = 'You are registered: Failing'");
    await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'fails', remaining: 1 } });
    await book('Refused');
    await world.runner.run();
    expect(await failed()).toMatchObject([
      { state: 'failed', attempts: 1, whyNot: expect.stringContaining('tried again later') },
    ]);
    expect(await mails()).toHaveLength(0);
    await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 6 * 60_000).toISOString());
    expect(await failed()).toEqual([]);
    expect(await mails()).toHaveLength(1);

    await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'answer lost', remaining: 1 } });
    await book('Lost');
    await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 10 * 60_000).toISOString());
    expect(await failed()).toEqual([]);
    expect(await mails()).toHaveLength(2);
  });

  test('a claimed message that a crash left behind goes out once', async () => {
    const event = await openEvent(world, { title: 'Crashing' });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Ilse', family: 'Pryor' }]),
    });
    await world.runner.run();
    // As if the process had died after the gateway took it and before that was noted.
    await world.app.db.query(
      "update messages set state = 'due', next_try_at = planned_for, sent_at = null where event_id = $1 and kind = 'registration made'",
      [event.id],
    );
    await world.runner.run();
    expect(
      await world.app.db.query(
        "select state from messages where event_id = $1 and kind = 'registration made'",
        [event.id],
      ),
    ).toEqual([{ state: 'sent' }]);
    expect(
      await world.app.db.query("select 1 from standin_mail where subject = 'You are registered: Crashing'"),
    ).toHaveLength(1);
  });

  test('who asked not to be contacted gets no reminder, and it is said why', async () => {
    const event = await openEvent(world, { title: 'Quiet' });
    const odalys = await world.as('odalys');
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Una', family: 'Teal' }]),
    });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: rows[0]!.contactId! },
      body: { doNotContact: true },
    });
    await world.moveTo('2026-08-08T11:30:00Z');
    const steps = await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
    const reminder = steps.find((s) => s.name === 'Reminder, a day before')!;
    expect(reminder.sent).toBe(0);
    expect(reminder.leftOut.map((r) => r.whyNot)).toEqual(['asked not to be contacted']);
  });

  test('the clock does not go back, and goes on where a move was cut short', async () => {
    const odalys = await world.as('odalys');
    const now = world.app.clock.now();
    expect(
      (await odalys.try('POST /api/clock', { body: { to: '2026-01-01T00:00:00Z' } })).problem.fields?.[0]
        ?.path,
    ).toBe('to');
    const later = new Date(Date.parse(now) + 3_600_000).toISOString();
    await world.app.db.query('update demo_clock set moving_to = $1', [later]);
    await world.runner.resume();
    expect(world.app.clock.now()).toBe(later);
    expect(await world.app.db.query('select moving_to from demo_clock')).toEqual([{ movingTo: null }]);
  });

  test('two steps of one name are two, each with its own messages', async () => {
    const event = await openEvent(world, {
      title: 'Namesakes',
      startsLocal: '2027-05-08T09:00',
      endsLocal: '2027-05-08T12:00',
    });
    const odalys = await world.as('odalys');
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const reminder = page.plan.messages.find((m) => m.moment === 'start')!;
    const twin = { ...reminder, id: crypto.randomUUID(), offsetDays: -2 };
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version: page.version, change: { messages: [...page.plan.messages, twin] } },
    });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Nan', family: 'Sake' }]),
    });
    const steps = await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
    expect(steps.filter((s) => s.name === reminder.name).map((s) => s.planned)).toEqual([1, 1]);
  });
});
