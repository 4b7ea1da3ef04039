import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

describe('planning and clearance', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const begin = async (title: string, key?: string) =>
    (
      await (
        await world.as('odalys')
      ).call('POST /api/events', { body: { publicTitle: title } }, key ? { 'idempotency-key': key } : {})
    ).id;
  const save = async (id: string, change: object) => {
    const odalys = await world.as('odalys');
    const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
    return odalys.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
  };

  test('a new event has no date, and a repeated create makes one event', async () => {
    const [a, b] = await Promise.all([begin('Once', 'create-once-1'), begin('Once', 'create-once-1')]);
    expect(a).toBe(b);
    const page = await (await world.as('odalys')).call('GET /api/events/:id', { params: { id: a } });
    expect(page.plan).toMatchObject({ startsLocal: null, endsLocal: null, slug: 'once' });
    expect(page.lacks.filter((l) => l.stops).map((l) => l.text)).toEqual([
      'It has no date.',
      'Nothing can be registered for: it has no offer.',
    ]);
  });

  test('odd addresses, times and prices are refused beside their field, and nothing of the save is kept', async () => {
    const id = await begin('Odd');
    await begin('Taken');
    const path = async (change: object) =>
      (await save(id, change)).problem.fields?.map((f) => f.path.replace('change.', ''));
    expect(await path({ slug: 'taken', summary: 'not kept' })).toEqual(['slug']);
    for (const slug of ['With Spaces', 'CAPITALS', '🎉', '../../etc'])
      expect(await path({ slug })).toEqual(['slug']);
    expect(await path({ startsLocal: '2026-08-08T10:00', endsLocal: '2026-08-08T09:00' })).toEqual([
      'endsLocal',
    ]);
    expect(await path({ startsLocal: '2027-03-14T02:30' })).toEqual(['startsLocal']);
    expect(await path({ startsLocal: '2026-02-31T09:00' })).toEqual(['startsLocal']);
    const offer = { id: crypto.randomUUID(), name: 'Seat', price: -100, quantity: null };
    expect(await path({ offers: [offer] })).toEqual(['offers.0.price']);
    expect(
      await path({
        messages: [
          {
            id: crypto.randomUUID(),
            name: 'x',
            kind: 'reminder',
            moment: 'start',
            offsetDays: 0,
            offsetMinutes: 0,
            audience: 'orders',
            subject: { en: 'Hi {{nobody}}' },
            body: { en: 'x' },
          },
        ],
      }),
    ).toEqual(['messages.0.subject.en']);
    const page = await (await world.as('odalys')).call('GET /api/events/:id', { params: { id } });
    expect(page).toMatchObject({ version: 1, plan: { summary: '', slug: 'odd' } });
  });

  test('two who save the same plan do not overwrite one another', async () => {
    const id = await begin('Both');
    const odalys = await world.as('odalys');
    await odalys.call('PATCH /api/events/:id', {
      params: { id },
      body: { version: 1, change: { summary: 'first' } },
    });
    const second = await odalys.try('PATCH /api/events/:id', {
      params: { id },
      body: { version: 1, change: { summary: 'second' } },
    });
    expect(second.problem.code).toBe('changed-meanwhile');
  });

  test('facts choose the steps; nothing opens before it is cleared; a changed fact reopens only its step', async () => {
    const id = await begin('Boats');
    const odalys = await world.as('odalys');
    await save(id, {
      startsLocal: '2026-08-22T09:00',
      endsLocal: '2026-08-22T12:00',
      flags: ['boats'],
      capacity: 20,
      offers: [{ id: crypto.randomUUID(), name: 'Seat', price: 500, quantity: null }],
    });
    const before = await odalys.call('GET /api/events/:id/clearance', { params: { id } });
    expect(before.steps.map((s) => s.step)).toEqual(['Finance', 'Safety']);
    // Cleared by Saturday 8 August, so Friday 7; five working days before it, with the holiday on 3 August, is 30 July.
    expect(before.deadline).toMatchObject({ date: '2026-07-30', daysLeft: 21 });
    expect(
      (await odalys.try('POST /api/events/:id/state', { params: { id }, body: { to: 'open' } })).problem.code,
    ).toBe('not-cleared');
    expect(
      (await world.anyone.try('GET /api/public/events/:slug', { params: { slug: 'boats' } })).status,
    ).toBe(404);
    const sent = await odalys.call('POST /api/events/:id/clearance', { params: { id } });
    const [finance, safety] = sent.steps;
    const tobias = await world.as('tobias');
    const marit = await world.as('marit');
    expect(
      (
        await tobias.try('POST /api/clearance-steps/:id/decision', {
          params: { id: finance!.id },
          body: { decision: 'clear' },
        })
      ).problem.code,
    ).toBe('not-your-step');
    expect(
      (
        await tobias.try('POST /api/clearance-steps/:id/decision', {
          params: { id: safety!.id },
          body: { decision: 'clear with conditions' },
        })
      ).problem.fields?.[0]?.path,
    ).toBe('words');
    expect((await tobias.call('GET /api/desk')).entries[0]).toMatchObject({
      subject: 'Boats',
      about: 'clearance',
    });
    await tobias.call('POST /api/clearance-steps/:id/decision', {
      params: { id: safety!.id },
      body: { decision: 'clear with conditions', words: 'A second safety boat.' },
    });
    expect(
      (await odalys.try('POST /api/events/:id/state', { params: { id }, body: { to: 'open' } })).problem.code,
    ).toBe('not-cleared');
    await marit.call('POST /api/clearance-steps/:id/decision', {
      params: { id: finance!.id },
      body: { decision: 'clear' },
    });
    expect((await save(id, { flags: ['boats', 'minors'] })).body.reopened).toEqual(['Safety']);
    const after = await odalys.call('GET /api/events/:id/clearance', { params: { id } });
    expect(after.steps.map((s) => s.state)).toEqual(['cleared', 'reopened']);
    expect((await odalys.call('GET /api/events/:id', { params: { id } })).state).toBe('in clearance');
  });

  test('a plan that is sent back becomes a draft again with the words', async () => {
    const id = await begin('Back');
    const odalys = await world.as('odalys');
    await save(id, {
      startsLocal: '2026-08-29T09:00',
      flags: ['tools'],
      offers: [{ id: crypto.randomUUID(), name: 'Seat', price: 0, quantity: null }],
    });
    const { steps } = await odalys.call('POST /api/events/:id/clearance', { params: { id } });
    await (await world.as('tobias')).call('POST /api/clearance-steps/:id/decision', {
      params: { id: steps[0]!.id },
      body: { decision: 'send back', words: 'Who holds the certificates?' },
    });
    const page = await odalys.call('GET /api/events/:id', { params: { id } });
    expect(page.state).toBe('draft');
    expect(page.margin[0]).toMatchObject({ tone: 'stop', text: 'Safety: Who holds the certificates?' });
    expect((await odalys.call('POST /api/events/:id/clearance', { params: { id } })).standing).toBe(
      'under way',
    );
  });

  test('a copy moves with its date and lists what it left behind', async () => {
    const event = await openEvent(world, { title: 'Original', price: 1500 });
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: {
        role: 'Canoe leader',
        startsLocal: '2026-08-08T08:30',
        endsLocal: '2026-08-08T12:30',
        needed: 2,
      },
    });
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Copy', from: event.id, date: '2027-08-07' },
    });
    const page = await odalys.call('GET /api/events/:id', { params: { id } });
    expect(page.plan).toMatchObject({
      startsLocal: '2027-08-07T09:00',
      endsLocal: '2027-08-07T16:30',
      offers: [{ name: 'Guided paddle', price: 1500 }],
    });
    expect(page.copiedFrom!.leftBehind.join(' ')).toContain('registrations');
    expect((await odalys.call('GET /api/events/:id/crew', { params: { id } })).shifts[0]).toMatchObject({
      startsLocal: '2027-08-07T08:30',
      assignments: [],
    });
  });

  test('script in a title, a description and an answer stays text', async () => {
    const nasty = '<script>alert(1)</script>';
    const event = await openEvent(world, {
      title: `Nasty ${nasty}`,
      questions: [
        {
          id: crypto.randomUUID(),
          scope: 'order',
          kind: 'text',
          prompt: { en: 'Why?' },
          required: false,
          choices: [],
          offerId: null,
          atDoor: false,
        },
      ],
    });
    await save(event.id, { description: nasty });
    const shown = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect(shown).toMatchObject({ title: `Nasty ${nasty}`, description: nasty });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: nasty, family: '=cmd' }], {
        email: 'n@nasty.example',
        answers: { [event.questions[0]!.id]: '=SUM(A1)' },
      }),
    });
    const csv = await (await world.as('odalys')).try('GET /api/events/:id/registrations.csv', {
      params: { id: event.id },
    });
    expect(String(csv.body)).toContain("'=SUM(A1)");
    expect(String(csv.body)).toContain("'=cmd");
  });
});

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
      body: { role: 'Welcome', startsLocal: '2026-08-08T08:30', endsLocal: '2026-08-08T12:30', needed: 1 },
    });
    await world.runner.run();
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const saved = await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { startsLocal: '2026-11-01T09:00', endsLocal: '2026-11-01T16:30' } },
    });
    expect(saved.messagesMoved).toBe(3);
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
      "update messages set state = 'due', next_try_at = planned_for, sent_at = null where event_id = $1 and kind = 'confirmation'",
      [event.id],
    );
    await world.runner.run();
    expect(
      await world.app.db.query("select state from messages where event_id = $1 and kind = 'confirmation'", [
        event.id,
      ]),
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
});

describe('crew and doors', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());

  test('a public sign-up fills a shift once; a clash needs a reason; the volunteer sees what holds', async () => {
    const event = await openEvent(world, { title: 'Crewed' });
    const odalys = await world.as('odalys');
    const add = (role: string, from: string, to: string) =>
      odalys.call('POST /api/events/:id/shifts', {
        params: { id: event.id },
        body: { role, startsLocal: `2026-08-08T${from}`, endsLocal: `2026-08-08T${to}`, needed: 1 },
      });
    const morning = await add('Canoe leader', '09:00', '13:00');
    const overlapping = await add('First aid', '12:00', '16:00');
    const sign = (id: string, given: string) =>
      world.anyone.try('POST /api/public/shifts/:id/sign-up', {
        params: { id },
        body: { given, family: 'Oakes', email: `${given}@fenmail.example` },
      });
    const { body } = await sign(morning.id, 'ewan');
    expect((await sign(morning.id, 'vera')).problem.code).toBe('shift-full');
    expect((await sign(overlapping.id, 'ewan')).problem.code).toBe('clash');
    const ewan = (await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } })).shifts[0]!
      .assignments[0]!;
    const refused = await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id: overlapping.id },
      body: { contactId: ewan.contactId },
    });
    expect(refused).toMatchObject({ assigned: false, clashes: [{ kind: 'overlap' }] });
    await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id: overlapping.id },
      body: { contactId: ewan.contactId, overrideReason: 'swaps at noon' },
    });
    const own = await world.anyone.call('GET /api/public/crew/:token', { params: { token: body.token } });
    expect(own.shifts.map((s) => s.role)).toEqual(['Canoe leader', 'First aid']);
    const file = await world.anyone.try('GET /api/public/crew/:token/calendar.ics', {
      params: { token: body.token },
    });
    expect(String(file.body).match(/BEGIN:VEVENT/gu)).toHaveLength(2);
    await world.anyone.call('POST /api/public/crew/:token/drop', {
      params: { token: body.token },
      body: { assignmentId: own.shifts[1]!.assignmentId },
    });
    expect((await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } })).filled).toBe(1);
    await world.moveTo('2026-08-08T20:00:00Z');
    await odalys.call('POST /api/assignments/:id/state', {
      params: { id: ewan.id },
      body: { state: 'served' },
    });
    expect(await odalys.call('GET /api/events/:id/figures', { params: { id: event.id } })).toMatchObject({
      hoursServed: 4,
    });
  });

  test('the door stops what it must, and other devices hear of an arrival', async () => {
    const event = await openEvent(world, {
      title: 'Doors',
      startsLocal: '2026-08-20T09:00',
      endsLocal: '2026-08-20T12:00',
      waiver: 'On the water',
    });
    const other = await openEvent(world, {
      title: 'Elsewhere',
      startsLocal: '2026-08-20T09:00',
      endsLocal: '2026-08-20T12:00',
    });
    const door = await world.as('door');
    const book = async (e: typeof event, family: string) =>
      (
        await world.anyone.call('GET /api/public/orders/:token', {
          params: {
            token: (
              await world.anyone.call('POST /api/public/events/:slug/orders', {
                params: { slug: e.slug },
                body: orderFor(e, [{ given: 'Giles', family }]),
              })
            ).token,
          },
        })
      ).seats[0]!;
    const unsigned = await book(event, 'Unsigned');
    const stranger = await book(other, 'Stranger');
    const scan = (code: string) =>
      door.call('POST /api/events/:id/scan', { params: { id: event.id }, body: { code } });
    expect(await scan(stranger.pass!.code)).toMatchObject({ light: 'stop', headline: 'Another event' });
    expect(await scan('not a code')).toMatchObject({ light: 'stop', headline: 'No pass code' });
    expect(await scan(unsigned.pass!.code)).toMatchObject({ light: 'stop', headline: 'Waiver missing' });
    const mark = (state: 'arrived' | 'expected', despite = '') =>
      door.try('POST /api/registrations/:id/attendance', {
        params: { id: unsigned.id },
        body: { state, despite },
      });
    expect((await mark('arrived')).problem.code).toBe('stop');
    let heard = 0;
    const stop = world.app.announcer.listen(`event ${event.id}`, () => {
      heard += 1;
    });
    expect((await mark('arrived', 'signed on paper')).body).toEqual({ state: 'arrived', changed: true });
    expect((await mark('arrived', 'signed on paper')).body).toEqual({ state: 'arrived', changed: false });
    expect(heard).toBe(1);
    stop();
    expect(await scan(unsigned.pass!.code)).toMatchObject({ headline: 'Already in' });
    await mark('expected');
    expect((await door.call('GET /api/events/:id/doors', { params: { id: event.id } })).arrived).toBe(0);
    const known = await door.call('POST /api/events/:id/walk-ins', {
      params: { id: event.id },
      body: {
        given: 'Giles',
        family: 'Stranger',
        email: 'giles.stranger@harbourpost.example',
        offerId: event.offers[0]!.id,
      },
    });
    expect(known.known).toBe(true);
    expect(
      (
        await door.try('POST /api/events/:id/walk-ins', {
          params: { id: event.id },
          body: {
            given: 'Giles',
            family: 'Stranger',
            email: 'giles.stranger@harbourpost.example',
            offerId: event.offers[0]!.id,
          },
        })
      ).problem.code,
    ).toBe('has-seat');
  });

  test('an anonymous survey keeps nothing that leads to a person, and is answered once', async () => {
    const event = await openEvent(world, {
      title: 'Secret',
      startsLocal: '2026-08-25T09:00',
      endsLocal: '2026-08-25T12:00',
      survey: {
        title: { en: 'How?' },
        anonymous: true,
        questions: [{ id: 'q', kind: 'scale', prompt: 'How?', choices: [], required: true }],
      },
    });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Orla', family: 'Secret' }]),
    });
    const door = await world.as('door');
    const [row] = (await door.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows;
    await door.call('POST /api/registrations/:id/attendance', {
      params: { id: row!.registrationId },
      body: { state: 'arrived' },
    });
    await world.moveTo('2026-08-25T18:00:00Z');
    const [mail] = await world.app.db.query<{ body: string }>(
      "select body from standin_mail where subject = 'How was Secret?'",
    );
    const token = /\/s\/([\w-]+)/u.exec(mail!.body)![1]!;
    await world.anyone.call('POST /api/public/surveys/:token', {
      params: { token },
      body: { answers: { q: 4 } },
    });
    expect(
      (
        await world.anyone.try('POST /api/public/surveys/:token', {
          params: { token },
          body: { answers: { q: 4 } },
        })
      ).problem.code,
    ).toBe('answered');
    const [response] = await world.app.db.query<{ contactId: string | null; id: string }>(
      'select contact_id, id from survey_responses',
    );
    expect(response!.contactId).toBeNull();
    expect(response!.id[14]).toBe('4');
  });
});
