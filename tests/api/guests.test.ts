import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { plainQuestion } from '#core/questions/question.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, type Scene, signs } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const ask = (prompt: string, of: Partial<EventPlan['questions'][number]> = {}) => ({
  ...plainQuestion,
  id: crypto.randomUUID(),
  choices: [] as string[],
  prompt: { en: prompt },
  ...of,
});
const rowsOf = async (event: OpenEvent) =>
  (await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })).rows;
/** A table booked by one person, with seats to be named. */
async function booked(title: string, seats: number, scene: Scene = {}, own: Record<string, string> = {}) {
  const event = await openEvent(world, { title, mostPerOrder: 20, ...scene });
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(event, [{ given: 'Berit', family: 'Host' }], { email: `berit.${event.slug}@host.example` }),
      attendees: [{ given: 'Berit', family: 'Host', birthDate: '1980-01-01', answers: own }],
      lines: [{ offerId: event.offers[0]!.id, units: seats }],
    },
  });
  const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  const invite = async (at: number, email: string) => {
    const seat = (await look()).seats[at]!.id;
    return world.anyone.try('POST /api/public/orders/:token/seats/:seat/guest', {
      params: { token, seat },
      body: { email },
    });
  };
  const name = async (at: number, given: string, family: string, more: object = {}) => {
    const seat = (await look()).seats[at]!.id;
    return world.anyone.try('PATCH /api/public/orders/:token/seats/:seat', {
      params: { token, seat },
      body: { given, family, ...more },
    });
  };
  return { event, token, look, invite, name };
}
/** The links that went to an address, newest first. */
async function linksTo(address: string): Promise<string[]> {
  await world.runner.run();
  const mails = await world.app.db.query<{ body: string }>(
    'select body from standin_mail where address = $1 order by accepted_at desc, key desc',
    [address],
  );
  return mails.flatMap((m) => /\/g\/([\w-]+)/u.exec(m.body)?.[1] ?? []);
}
const page = (token: string) => world.anyone.try('GET /api/public/guests/:token', { params: { token } });
const fill = (token: string, body: object) =>
  world.anyone.try('PUT /api/public/guests/:token', { params: { token }, body: body as never });

describe('guests who fill in their own seat', () => {
  test('by a link of their own they name themselves, answer and sign, and are who they are; whoever booked reads none of their answers', async () => {
    const diet = ask('What do you eat?', { required: true });
    const table = ask('Table', { scope: 'order' });
    const { event, token, look, invite } = await booked(
      'Supper for Three',
      3,
      { questions: [diet, table], so: ['boats', 'minors'], waiver: 'On the water' },
      { [diet.id]: 'everything' },
    );
    expect((await invite(1, 'no address')).problem.fields).toMatchObject([{ code: 'not-an-email' }]);
    expect((await invite(1, 'vigdis@guest.example')).status).toBe(201);
    const [link] = await linksTo('vigdis@guest.example');
    const seen = (await page(link!)).body;
    expect(seen).toMatchObject({ by: 'Berit', given: '', filled: false, pass: null, waiver: 'guardian' });
    expect(seen.questions.map((q) => q.id)).toEqual([diet.id]);
    expect(JSON.stringify(seen)).not.toMatch(/host\.example|Host/u);
    const vigdis = { given: 'Vigdis', family: 'Guest', birthDate: '1991-04-04' };
    expect((await fill(link!, vigdis)).problem.fields).toMatchObject([
      { path: `answers.${diet.id}`, code: 'answer-needed' },
    ]);
    expect(
      (await fill(link!, { ...vigdis, birthDate: null, answers: { [diet.id]: 'fish' } })).problem.fields,
    ).toMatchObject([{ path: 'birthDate', code: 'birth-date-needed' }]);
    expect((await fill(link!, { ...vigdis, answers: { [diet.id]: 'fish' } })).status).toBe(200);
    const after = (await page(link!)).body;
    expect(after).toMatchObject({
      given: 'Vigdis',
      filled: true,
      waiver: 'self',
      answers: { [diet.id]: 'fish' },
    });
    expect(after.pass!.code).toMatch(/\w/u);
    const signed = await world.anyone.try('POST /api/public/guests/:token/signature', {
      params: { token: link! },
      body: { relation: 'self', ...signs(after.waivers[0]!, 'Vigdis Guest') },
    });
    expect(signed.status).toBe(201);
    const seats = (await look()).seats;
    expect(seats.map((s) => [s.given, s.answers, s.guest])).toEqual([
      ['Berit', { [diet.id]: 'everything' }, null],
      ['Vigdis', {}, { email: 'vigdis@guest.example', filled: true }],
      ['', {}, null],
    ]);
    expect(seats[1]!.waiver).toBe('signed');
    const row = (await rowsOf(event)).find((r) => r.given === 'Vigdis')!;
    expect(row.answers).toEqual({ [diet.id]: { value: 'fish', file: null } });
    const contact = await odalys.call('GET /api/contacts/:id', { params: { id: row.contactId! } });
    expect(contact).toMatchObject({ given: 'Vigdis', birthDate: '1991-04-04' });
    expect(contact.emails.map((e) => e.email)).toEqual(['vigdis@guest.example']);
    expect((await page(token)).status).toBe(404);
  });

  test('a letter that has not left when another address is given does not hand the link on', async () => {
    const { invite } = await booked('Not Left Yet', 2);
    await world.runner.run();
    const { wake } = world.app;
    world.app.wake = () => {};
    try {
      await invite(1, 'early@guest.example');
      await invite(1, 'later@guest.example');
    } finally {
      world.app.wake = wake;
    }
    expect(await linksTo('early@guest.example')).toEqual([]);
    const [link] = await linksTo('later@guest.example');
    expect((await page(link!)).status).toBe(200);
    const kept = await world.app.db.query<{ state: string; whyNot: { code: string } }>(
      "select state, why_not from messages where address = 'early@guest.example'",
    );
    expect(kept).toEqual([{ state: 'held back', whyNot: { code: 'to another address' } }]);
  });

  test('another address takes the link from the one before; another person on the seat ends it; nobody is written to without end', async () => {
    const { look, invite, name } = await booked('Links', 2);
    await invite(1, 'first@guest.example');
    const [first] = await linksTo('first@guest.example');
    await invite(1, 'second@guest.example');
    const [second] = await linksTo('second@guest.example');
    expect([(await page(first!)).status, (await page(second!)).status]).toEqual([404, 200]);
    expect((await fill(second!, { given: 'Sif', family: 'Second' })).status).toBe(200);
    // Spelled right, it is hers still.
    expect((await name(1, 'Siv', 'Second')).status).toBe(200);
    expect((await page(second!)).status).toBe(200);
    expect((await name(1, 'Grim', 'Third')).status).toBe(200);
    expect((await page(second!)).status).toBe(404);
    expect((await look()).seats[1]).toMatchObject({ given: 'Grim', guest: null });
    for (const at of [1, 2, 3, 4])
      expect([at, (await invite(1, 'grim@guest.example')).status]).toEqual([at, 201]);
    expect((await invite(1, 'grim@guest.example')).problem.code).toBe('guest-asked-often');
  });

  test('a seat that was given up, a time that is over, and somebody who was erased', async () => {
    const { event, token, look, invite, name } = await booked('Over', 3);
    await invite(1, 'late@guest.example');
    await invite(2, 'gone@guest.example');
    const [late] = await linksTo('late@guest.example');
    const [gone] = await linksTo('gone@guest.example');
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: [(await look()).seats[2]!.id] },
    });
    expect((await page(gone!)).body).toMatchObject({ state: 'withdrawn', until: null });
    expect((await fill(gone!, { given: 'Ghost', family: 'Guest' })).problem.code).toBe('seat-gone');
    expect((await fill(late!, { given: 'Latif', family: 'Guest' })).status).toBe(200);
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { namesDays: 60 } },
    });
    expect((await page(late!)).body.until).toBeNull();
    expect((await fill(late!, { given: 'Latifa', family: 'Guest' })).problem.code).toBe('names-closed');
    expect((await name(1, 'Latifa', 'Guest')).problem.code).toBe('names-closed');
    // The staff still can.
    const seat = (await look()).seats[1]!.id;
    await odalys.call('PATCH /api/registrations/:id', {
      params: { id: seat },
      body: { given: 'Latifa', family: 'Guest' },
    });
    expect((await look()).seats[1]!.given).toBe('Latifa');
    const { contactId } = (await rowsOf(event)).find((r) => r.given === 'Latifa')!;
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: contactId! },
      body: { name: 'Latifa Guest' } as never,
    });
    expect((await page(late!)).status).toBe(404);
  });

  test('are asked what their booking leads to, and what their own answers may', async () => {
    for (const [title, answer] of [
      ['By Bus', true],
      ['On Foot', false],
    ] as const) {
      const bus = ask('By the bus?', { scope: 'order', kind: 'yes or no' });
      const stop = ask('Which stop?', { shownIf: { questionId: bus.id, is: ['yes'] } });
      const swims = ask('Do you swim?', { kind: 'yes or no' });
      const badge = ask('Which badge?', { shownIf: { questionId: swims.id, is: ['yes'] } });
      const asked = answer ? [stop, swims, badge] : [swims, badge];
      const event = await openEvent(world, { title, mostPerOrder: 4, questions: [bus, stop, swims, badge] });
      const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: {
          ...orderFor(event, [{ given: 'Sol', family: 'Host' }]),
          lines: [{ offerId: event.offers[0]!.id, units: 2 }],
          answers: { [bus.id]: answer },
        },
      });
      const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
      const email = `${event.slug}@guest.example`;
      await world.anyone.call('POST /api/public/orders/:token/seats/:seat/guest', {
        params: { token, seat: seats[1]!.id },
        body: { email },
      });
      const { questions } = (await page((await linksTo(email))[0]!)).body;
      expect(questions.map((q) => q.prompt)).toEqual(asked.map((q) => q.prompt));
      // What their own answer decides comes and goes in front of them; what the booking decided is settled.
      expect(questions.map((q) => q.shownIf?.questionId ?? null)).toEqual(
        asked.map((q) => (q === badge ? swims.id : null)),
      );
    }
  });

  test('answers of a booking are changed by the link: of each seat, and of the booking itself', async () => {
    const boots = ask('Boot size', { kind: 'number' });
    const car = ask('By car?', { scope: 'order', kind: 'yes or no', required: true });
    const free = ask('Free seats', {
      scope: 'order',
      kind: 'number',
      shownIf: { questionId: car.id, is: ['yes'] },
    });
    const event = await openEvent(world, { title: 'Changed', questions: [boots, car, free] });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor(event, [{ given: 'Tor', family: 'Host' }]),
        answers: { [car.id]: true, [free.id]: '2' },
      },
    });
    const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    const { seats, form } = await look();
    expect(form.answers).toEqual({ [car.id]: true, [free.id]: '2' });
    const change = (answers: object) =>
      world.anyone.try('PUT /api/public/orders/:token/answers', {
        params: { token },
        body: { answers } as never,
      });
    expect((await change({})).problem.fields).toMatchObject([
      { path: `answers.${car.id}`, code: 'answer-needed' },
    ]);
    expect((await change({ [car.id]: false, [free.id]: '3' })).status).toBe(200);
    expect((await look()).form.answers).toEqual({ [car.id]: false });
    const seat = (answers: object | undefined) =>
      world.anyone.try('PATCH /api/public/orders/:token/seats/:seat', {
        params: { token, seat: seats[0]!.id },
        body: { given: 'Tor', family: 'Host', answers } as never,
      });
    expect((await seat({ [boots.id]: 'large' })).problem.fields).toMatchObject([{ code: 'answer-number' }]);
    expect((await seat({ [boots.id]: '43' })).status).toBe(200);
    expect((await seat(undefined)).status).toBe(200);
    expect((await look()).seats[0]!.answers).toEqual({ [boots.id]: '43' });
  });
});

describe('seats without names', () => {
  test('are asked for once, three days before the last moment, of bookings that have some', async () => {
    const { event } = await booked('Chased', 3, {
      startsLocal: '2026-07-30T12:00',
      endsLocal: '2026-07-30T15:00',
    });
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { namesDays: 7 } },
    });
    const named = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Nanna', family: 'Named' }]),
    });
    expect(named.standing).toBe('confirmed');
    const asked = async () => {
      await world.runner.run();
      return (
        await world.app.db.query<{ address: string; body: string }>(
          `select address, body from standin_mail where subject like 'Who comes with you?%' and subject like '%Chased%'`,
        )
      ).map((m) => [m.address, /to be named: \d+|until [^,]+, \d+ July[^,]*/gu.exec(m.body)?.[0]]);
    };
    await world.moveTo('2026-07-20T14:59:00.000Z');
    expect(await asked()).toEqual([]);
    await world.moveTo('2026-07-20T15:01:00.000Z');
    expect(await asked()).toEqual([[`berit.${event.slug}@host.example`, 'to be named: 2']]);
    await world.moveTo('2026-07-25T15:01:00.000Z');
    expect(await asked()).toHaveLength(1);
  });

  test('are asked for a day later where they were booked late; not where all are named, or the line is off', async () => {
    const late = { startsLocal: '2026-08-09T12:00', endsLocal: '2026-08-09T15:00' };
    const { event, name } = await booked('Late Ones', 2, late);
    const lineOf = async () =>
      (await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } })).find(
        (l) => l.name === 'Guests still to name',
      )!;
    const placed = async () => {
      const [o] = await world.app.db.query<{ placedAt: string }>(
        'select placed_at from orders o where event_id = $1',
        [event.id],
      );
      return Date.parse(o!.placedAt);
    };
    const { plan, version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const save = (change: object, v: number) =>
      odalys.call('PATCH /api/events/:id', { params: { id: event.id }, body: { version: v, change } });
    // Named until a day before the booking was made, as it were: the day after is as good.
    const days = Math.ceil((Date.parse('2026-08-09T15:00:00Z') - (await placed())) / 86_400_000);
    await save({ namesDays: days }, version);
    expect(Date.parse((await lineOf()).rows[0]!.plannedFor!) - (await placed())).toBe(86_400_000);
    const lines = plan.messages.map((m) => (m.moment === 'guests unnamed' ? { ...m, off: true } : m));
    const { version: v } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await save({ messages: lines }, v);
    expect(await lineOf()).toMatchObject({ off: true, planned: 0 });
    const { version: w } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await save({ messages: plan.messages, namesDays: 0 }, w);
    expect(await lineOf()).toMatchObject({ planned: 1 });
    await name(1, 'Gert', 'Guest');
    const [out] = (await lineOf()).leftOut;
    expect(out!.whyNot).toBe('everybody has a name');
  });
});
