import { beforeEach, describe, expect, test } from 'vitest';
import { firstTexts } from '#core/messages/firstTexts.ts';
import type { Caller, World } from './harness.ts';
import { lineOn, Scene } from './messageLines.ts';
import { saveIt } from './plans.ts';
import { type OpenEvent, openEvent, orderFor, surveyOf } from './scenes.ts';

const scene = new Scene();
const { plan, planned, book, ahead } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
let begins = '';
let n = 0;
beforeEach(() => {
  ({ world, odalys, event, begins, n } = scene);
});

describe('text messages', () => {
  const texts = () =>
    world.app.db.query<{ number: string; body: string }>(
      'select number, body from standin_texts order by accepted_at, key',
    );
  test('go to mobile numbers, with a live link, once; a refusal is tried again', async () => {
    await plan(event, [
      lineOn('start', {
        name: 'Hour',
        offsetMinutes: -60,
        channel: 'text message',
        subject: { en: '' },
        body: { en: `${firstTexts.start.short.en} Don’t\u00a0be late…` },
      }),
    ]);
    await book(event, 'Mobile', '902 555 0114');
    await book(event, 'Landline', '902 555 0115');
    await book(event, 'Neither');
    await world.app.db.query(
      "update contact_phones set kind = 'home' where contact_id = (select id from contacts where given_name = 'Landline')",
    );
    await odalys.call('PUT /api/standins', { body: { service: 'texts', mode: 'answer lost', remaining: 1 } });
    await world.moveTo(ahead(60));
    expect((await planned(event, 'Hour')).goes).toMatchObject([['Mobile Lind', 'failed', ahead(60)]]);
    await world.moveTo(ahead(50));
    const [[name, state, at]] = (await planned(event, 'Hour')).goes as [[string, string, string]];
    expect([name, state]).toEqual(['Mobile Lind', 'sent']);
    // Five minutes later, or a fifth more.
    expect([ahead(55), ahead(54)]).toContain(at);
    expect((await planned(event, 'Hour')).not).toEqual([
      ['Landline Lind', 'no mobile number'],
      ['Neither Lind', 'no mobile number'],
    ]);
    const sent = await texts();
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ number: '+19025550114' });
    expect(sent[0]!.body).toMatch(/^Lines \d+: .* Your pass: http:\/\/\S+\/m\/\S{20,} Don't be late\.\.\.$/u);
    // They go with whoever they were for.
    const [who] = await world.app.db.query<{ id: string }>(
      "select id from contacts where given_name = 'Mobile'",
    );
    await world.moveTo(ahead(-24 * 60));
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: who!.id },
      body: { name: 'Mobile Lind' },
    });
    expect(await texts()).toEqual([]);
  });
});

test('what goes to the crew is seen by whoever leads it, whatever it hangs on; what goes to others is not', async () => {
  await plan(event, [
    lineOn('start', { name: 'To the crew', offsetDays: -1, audience: 'crew' }),
    lineOn('start', { name: 'To guests', offsetDays: -1 }),
  ]);
  await book(event, 'Guest');
  const day = begins.slice(0, 10);
  const shift = await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: { role: 'Landing', startsLocal: `${day}T08:00`, endsLocal: `${day}T12:00`, wished: 1 },
  });
  const { id: contactId } = await odalys.call('POST /api/contacts', {
    body: { given: 'Helper', family: 'Lind', email: 'helper@fenmail.example' },
  });
  await odalys.call('POST /api/shifts/:id/assignments', { params: { id: shift.id }, body: { contactId } });
  const seen = async (who: 'odalys' | 'imani') =>
    (
      await (await world.as(who)).call('GET /api/tray', { query: { state: 'coming', eventId: event.id } })
    ).rows.flatMap((r) => r.line ?? []);
  expect((await seen('odalys')).sort()).toEqual(['To guests', 'To the crew']);
  expect(await seen('imani')).toEqual(['To the crew']);
});

test('a line is seen as anybody would get it, also who gets none, and sent to oneself without a live link', async () => {
  const line = lineOn('start', { name: 'Day', offsetDays: -1 });
  await plan(event, [line]);
  const other = await openEvent(world, {
    title: 'Another',
    startsLocal: '2029-01-20T09:00',
    endsLocal: '2029-01-20T12:00',
  });
  await book(event, 'Ulrik', undefined, { language: 'fr' });
  await book(other, 'Stranger');
  const [row] = (await planned(event, 'Day')).rows;
  const params = { id: event.id, lineId: line.id };
  const seen = await odalys.call('GET /api/events/:id/lines/:lineId/preview', {
    params,
    query: { key: row!.key },
  });
  expect(seen).toMatchObject({
    name: 'Ulrik Lind',
    address: 'ulrik.lind@harbourpost.example',
    language: 'fr',
    subject: `Bientôt : Lines ${n}`,
  });
  expect(seen.body).toContain('[link to their booking]');
  expect(seen.body).not.toContain('http');
  const [elsewhere] = (await planned(other, 'Reminder, a day before')).rows;
  for (const key of [elsewhere!.key, crypto.randomUUID(), `order ${crypto.randomUUID()}`])
    expect(
      (await odalys.try('GET /api/events/:id/lines/:lineId/preview', { params, query: { key } })).status,
    ).toBe(404);
  await odalys.call('POST /api/events/:id/lines/:lineId/test', { params, body: { key: row!.key } });
  await world.runner.run();
  const [mail] = await world.app.db.query<{ subject: string; body: string }>(
    "select subject, body from standin_mail where address = 'odalys@brackenmere.example' order by accepted_at desc, key desc limit 1",
  );
  expect(mail!.subject).toBe(`Test: Bientôt : Lines ${n}`);
  expect(mail!.body).toBe(seen.body);
});

describe('moments of parties without a seat', () => {
  test('on the waitlist, offered, given up', async () => {
    const full = await openEvent(world, {
      title: 'Full',
      capacity: 1,
      startsLocal: '2029-03-20T09:00',
      endsLocal: '2029-03-20T12:00',
    });
    await plan(full, [
      lineOn('waitlisted', { name: 'Still waiting', offsetDays: 2 }),
      lineOn('seats offered', { name: 'Offered', offsetMinutes: 60 }),
      lineOn('seats given up', { name: 'Sorry', offsetMinutes: 10 }),
      lineOn('start', { name: 'No luck', offsetDays: -1, audience: 'waiting' }),
    ]);
    const { token } = await book(full, 'Has');
    await book(full, 'Waits');
    const now = world.app.clock.now();
    const plus = (minutes: number) => new Date(Date.parse(now) + minutes * 60_000).toISOString();
    expect((await planned(full, 'Still waiting')).goes).toEqual([
      ['Waits Lind', 'planned', plus(2 * 24 * 60)],
    ]);
    expect((await planned(full, 'No luck')).planned).toBe(1);
    expect((await planned(full, 'Offered')).goes).toEqual([]);
    const [seat] = await world.app.db.query<{ id: string }>(
      "select id from registrations where event_id = $1 and state = 'confirmed'",
      [full.id],
    );
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: [seat!.id] },
    });
    await world.runner.run();
    expect((await planned(full, 'Sorry')).goes).toEqual([['Has Lind', 'planned', plus(10)]]);
    expect((await planned(full, 'Offered')).goes).toEqual([['Waits Lind', 'planned', plus(60)]]);
    // Whoever was offered a seat waits no longer.
    expect((await planned(full, 'Still waiting')).not).toEqual([['Waits Lind', 'no longer taking part']]);
    expect((await planned(full, 'No luck')).not).toEqual([['Waits Lind', 'no longer taking part']]);
    await world.moveTo(plus(15));
    expect((await planned(full, 'Sorry')).goes).toEqual([['Has Lind', 'sent', plus(10)]]);
  });
});

describe('after the event', () => {
  test('who did not come is missed; who came and has not answered is asked again', async () => {
    await plan(event, [
      lineOn('absent', { name: 'Missed you', offsetMinutes: 180 }),
      lineOn('survey', { name: 'Survey', offsetMinutes: 120 }),
      lineOn('survey unanswered', { name: 'Again', offsetDays: 3 }),
    ]);
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: {
        version: (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).version,
        change: {
          surveys: [surveyOf([{ id: 'q', kind: 'text' }])] as never,
        },
      },
    });
    for (const given of ['Came', 'Answers', 'Absent']) await book(event, given);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    await world.moveTo(begins);
    for (const { id, given } of rows)
      if (given !== 'Absent')
        await odalys.call('POST /api/registrations/:id/attendance', {
          params: { id },
          body: { eventId: event.id, state: 'arrived' },
        });
    const end = Date.parse(begins) + 7 * 3_600_000;
    await world.moveTo(new Date(end + 2.5 * 3_600_000).toISOString());
    const [mail] = await world.app.db.query<{ body: string }>(
      "select body from standin_mail where address = 'answers.lind@harbourpost.example' and subject like 'How was%' order by accepted_at desc limit 1",
    );
    const token = /\/s\/(\S+)/u.exec(mail!.body)![1]!;
    await world.anyone.call('POST /api/public/surveys/:token', {
      params: { token },
      body: { answers: { q: 'Fine.' } },
    });
    await world.moveTo(new Date(end + 5 * 24 * 3_600_000).toISOString());
    const state = async (name: string) => {
      const line = await planned(event, name);
      return Object.fromEntries([
        ...line.goes.map(([who, state]) => [who, state]),
        ...line.not.map(([who, why]) => [who, why]),
      ]);
    };
    expect(await state('Missed you')).toEqual({
      'Absent Lind': 'sent',
      'Answers Lind': 'came',
      'Came Lind': 'came',
    });
    expect(await state('Again')).toEqual({
      'Absent Lind': 'did not come',
      'Answers Lind': 'has answered',
      'Came Lind': 'sent',
    });
  });
});

test('who did not come is told of the next date that suits them, where there is one they have no seat at', async () => {
  await plan(event, [lineOn('absent', { name: 'Missed you', offsetMinutes: 180 })]);
  await saveIt(odalys, event.id, { category: 'Workday' });
  const later = async (title: string, startsLocal: string, more: object = {}) => {
    const of = await openEvent(world, {
      title,
      startsLocal,
      endsLocal: `${startsLocal.slice(0, 11)}23:00`,
      ...more,
    });
    await saveIt(odalys, of.id, { category: 'Workday' });
    return of;
  };
  await book(event, 'Absent');
  await book(event, 'Came');
  await book(event, 'Booked');
  const begin = Date.parse(begins);
  const day = (n: number) => new Date(begin + n * 86_400_000).toISOString().slice(0, 10);
  const full = await later('Full Next', `${day(3)}T18:00`, { capacity: 1 });
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: full.slug },
    body: orderFor(full, [{ given: 'Quick', family: 'Lind' }]),
  });
  const next = await later('Suits Next', `${day(7)}T18:00`);
  await later('Suits Later', `${day(35)}T18:00`);
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: next.slug },
    body: orderFor(next, [{ given: 'Booked', family: 'Lind' }], { email: 'booked.lind@harbourpost.example' }),
  });
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  await world.moveTo(begins);
  await odalys.call('POST /api/registrations/:id/attendance', {
    params: { id: rows.find((r) => r.given === 'Came')!.id },
    body: { eventId: event.id, state: 'arrived' },
  });
  await world.moveTo(new Date(begin + 11 * 3_600_000).toISOString());
  const mails = await world.app.db.query<{ address: string; body: string }>(
    "select address, body from standin_mail where subject like 'We missed you%' order by accepted_at desc",
  );
  const of = (who: string) => mails.find((m) => m.address.startsWith(who))?.body;
  expect(of('absent')).toContain('Perhaps this suits you: Suits Next, ');
  expect(of('absent')).toContain(`See it: ${world.app.origin}/e/${next.slug}`);
  // Who has a seat there already is told of the one after.
  expect(of('booked')).toContain('Perhaps this suits you: Suits Later, ');
  expect(mails.some((m) => m.address.startsWith('came'))).toBe(false);
});

test('where nobody noted who came, nobody is missed, and everybody is asked how it was', async () => {
  await plan(event, [
    lineOn('absent', { name: 'Missed you', offsetMinutes: 180 }),
    lineOn('survey', { name: 'Survey', offsetMinutes: 120, body: { en: 'How was it?' } }),
  ]);
  await book(event, 'Guest');
  await world.moveTo(ahead(-24 * 60));
  expect((await planned(event, 'Missed you')).not).toEqual([['Guest Lind', 'nobody noted who came']]);
  expect((await planned(event, 'Survey')).goes).toMatchObject([['Guest Lind', 'sent', expect.anything()]]);
});

describe('where people are reached', () => {
  test('a line goes by another way as soon as it says so, and to the address they have by then', async () => {
    const line = lineOn('start', { name: 'Day', offsetDays: -1, body: { en: 'Hello {{name}}.' } });
    await plan(event, [line]);
    await book(event, 'Texted', '902 555 0121');
    await book(event, 'Mailed');
    const where = async () =>
      (await planned(event, 'Day')).rows.map((r) => [r.name, r.channel, r.address]).sort();
    await plan(event, [{ ...line, channel: 'text message' }]);
    expect(await where()).toEqual([['Texted Lind', 'text message', '+19025550121']]);
    await plan(event, [line]);
    expect(await where()).toEqual([
      ['Mailed Lind', 'email', 'mailed.lind@harbourpost.example'],
      ['Texted Lind', 'email', 'texted.lind@harbourpost.example'],
    ]);
    // One address ends, another way of being reached comes: nothing is planned anew for that.
    await world.app.db.query(
      "update contact_emails set bounced_at = now() where email_key = 'mailed.lind@harbourpost.example'",
    );
    await world.app.db.query(
      `insert into contact_emails (id, contact_id, email, email_key, position) select gen_random_uuid(), id, 'new@fenmail.example', 'new@fenmail.example', 1
       from contacts where given_name = 'Mailed'`,
    );
    await world.moveTo(ahead(23 * 60));
    expect(await where()).toEqual([
      ['Mailed Lind', 'email', 'new@fenmail.example'],
      ['Texted Lind', 'email', 'texted.lind@harbourpost.example'],
    ]);
    expect(
      await world.app.db.query(
        "select address from standin_mail where body like 'Hello Mailed.%' order by address",
      ),
    ).toEqual([{ address: 'new@fenmail.example' }]);
  });
});

describe('who gets what', () => {
  test('of many all are counted, and the first shown', async () => {
    await plan(event, [lineOn('start', { name: 'Day', offsetDays: -1 })]);
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: {
        version: (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).version,
        change: { capacity: 200 },
      },
    });
    for (let party = 0; party < 12; party += 1) {
      const people = Array.from({ length: 10 }, (_, seat) => ({
        given: `P${party}s${seat}`,
        family: 'Many',
      }));
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, people),
      });
    }
    const day = await planned(event, 'Day');
    expect(day).toMatchObject({ planned: 12, getNone: 108 });
    expect(day.rows).toHaveLength(12);
    expect(day.leftOut).toHaveLength(100);
    const people = (q: string) =>
      odalys.call('GET /api/events/:id/messages/people', { params: { id: event.id }, query: { q } });
    expect(await people('')).toHaveLength(12);
    expect((await people('p11s9 MANY')).map((p) => p.name)).toEqual(['P11s9 Many']);
    expect((await people('p3s0.many@')).map((p) => p.name)).toEqual(['P3s0 Many']);
    expect(await people('nobody at all')).toEqual([]);
  });

  test('somebody with a seat and a shift is one person, with everything they get', async () => {
    await plan(event, [
      lineOn('start', { name: 'Guests', offsetDays: -1 }),
      lineOn('start', { name: 'Crew', offsetDays: -1, audience: 'crew' }),
      lineOn('waitlisted', { name: 'Waiting' }),
    ]);
    await book(event, 'Double');
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const day = begins.slice(0, 10);
    const shift = await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role: 'Landing', startsLocal: `${day}T17:00`, endsLocal: `${day}T18:00`, wished: 1 },
    });
    const contactId = rows[0]!.contactId!;
    await odalys.call('POST /api/shifts/:id/assignments', { params: { id: shift.id }, body: { contactId } });
    const [one, ...others] = await odalys.call('GET /api/events/:id/messages/people', {
      params: { id: event.id },
      query: { q: 'double' },
    });
    expect(others).toEqual([]);
    expect(one).toMatchObject({ id: contactId, name: 'Double Lind' });
    expect(one!.entries.map((e) => [e.message.line, e.message.state])).toEqual([
      ['Guests', 'planned'],
      ['Crew', 'planned'],
    ]);
  });
});
