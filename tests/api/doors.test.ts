import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { linkTo, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor, surveyOf } from './scenes.ts';

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
        body: { role, startsLocal: `2026-08-08T${from}`, endsLocal: `2026-08-08T${to}`, wished: 1 },
      });
    const morning = await add('Rope handler', '09:00', '13:00');
    const overlapping = await add('Tea tent', '12:00', '16:00');
    const sign = (id: string, given: string) =>
      world.anyone.try('POST /api/public/shifts/:id/sign-up', {
        params: { id },
        body: { given, family: 'Oakes', email: `${given}@fenmail.example` },
      });
    expect((await sign(morning.id, 'ewan')).body).toEqual({ done: true });
    expect((await sign(morning.id, 'vera')).problem.code).toBe('shift-full');
    // The answer is the same; that Ewan has another shift then is told to Ewan, by mail.
    expect((await sign(overlapping.id, 'ewan')).body).toEqual({ done: true });
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
    const token = (await linkTo(world.app, 'crew', ewan.contactId)).split('/').at(-1)!;
    const own = await world.anyone.call('GET /api/public/crew/:token', { params: { token } });
    expect(own.shifts.map((s) => s.role)).toEqual(['Rope handler', 'Tea tent']);
    const file = await world.anyone.try('GET /api/public/crew/:token/calendar.ics', {
      params: { token },
    });
    expect(String(file.body).match(/BEGIN:VEVENT/gu)).toHaveLength(2);
    await world.anyone.call('POST /api/public/crew/:token/drop', {
      params: { token },
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
                body: orderFor(e, [{ given: 'Giles', family, birthDate: '1980-01-01' }]),
              })
            ).token,
          },
        })
      ).seats[0]!;
    const unsigned = await book(event, 'Unsigned');
    const stranger = await book(other, 'Stranger');
    // The door team has its list around the event, and not weeks before.
    const early = await door.try('GET /api/events/:id/doors', { params: { id: event.id } });
    expect(early.problem.code).toBe('not-your-event');
    await world.moveTo('2026-08-20T11:30:00Z');
    const scan = (code: string) =>
      door.call('POST /api/events/:id/scan', { params: { id: event.id }, body: { code } });
    expect(await scan(stranger.pass!.code)).toMatchObject({ light: 'stop', headline: 'Another event' });
    expect(await scan('not a code')).toMatchObject({ light: 'stop', headline: 'No pass code' });
    expect(await scan(unsigned.pass!.code)).toMatchObject({ light: 'stop', headline: 'Waiver missing' });
    const mark = (state: 'arrived' | 'expected', despite = '') =>
      door.try('POST /api/registrations/:id/attendance', {
        params: { id: unsigned.id },
        body: { eventId: event.id, state, despite },
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
      surveys: [surveyOf([{ id: 'q', kind: 'scale', required: true }], { anonymous: true })],
    });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Orla', family: 'Secret' }]),
    });
    await world.moveTo('2026-08-25T11:30:00Z');
    const door = await world.as('door');
    const [row] = (await door.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows;
    await door.call('POST /api/registrations/:id/attendance', {
      params: { id: row!.registrationId },
      body: { eventId: event.id, state: 'arrived' },
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
    ).toBe('survey-answered');
    expect(await world.app.db.query('select 1 from survey_responses')).toEqual([]);
    const [slip] = await world.app.db.query<{ id: string }>(
      'select id, question, value, shown from survey_slips',
    );
    // Its id holds no time.
    expect(slip!.id[14]).toBe('4');
    expect(slip).toMatchObject({ question: 'q', value: 4, shown: false });
  });
});
