import { beforeEach, describe, expect, test } from 'vitest';
import type { Caller, World } from './harness.ts';
import { lineOn, Scene } from './messageLines.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

const scene = new Scene();
const { plan, planned, book, ahead } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
let begins = '';
beforeEach(() => {
  ({ world, odalys, event, begins } = scene);
});

describe('guardians of the children who come', () => {
  const letter = {
    audience: 'guardians' as const,
    subject: { en: '{{event}}' },
    body: { en: 'Dear {{name}}, {{children}} can bring a raincoat.' },
  };
  const child = (given: string) => ({ given, family: 'Alder', birthDate: '2018-05-01' });
  const order = (people: { given: string; family: string; birthDate?: string }[]) =>
    world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, people),
    });
  const contactOf = async (given: string) =>
    (await world.app.db.query<{ id: string }>('select id from contacts where given_name = $1', [given]))[0]!
      .id;

  test('are who is known to look after them, else whoever booked; once, and nothing of the booking', async () => {
    await plan(event, [lineOn('start', { name: 'Raincoat', offsetDays: -1, ...letter })]);
    await order([{ given: 'Rowan', family: 'Alder' }, child('Pip'), child('Wren')]);
    await order([{ given: 'Aunt', family: 'Alder' }, child('Finch')]);
    // Nobody is known to look after that one: whoever booked is asked.
    await world.app.db.query('delete from relationships where to_contact = $1', [await contactOf('Finch')]);
    await order([{ given: 'Grown', family: 'Alder', birthDate: '1990-01-01' }]);
    expect((await planned(event, 'Raincoat')).goes).toEqual([
      ['Rowan Alder', 'planned', ahead(24 * 60)],
      ['Aunt Alder', 'planned', ahead(24 * 60)],
    ]);
    expect((await planned(event, 'Raincoat')).not).toEqual([
      ['Rowan Alder', 'one copy to this address is enough; it goes to Rowan Alder'],
    ]);
    // Somebody else looks after the third child, as it turns out.
    const { id } = await odalys.call('POST /api/contacts', {
      body: { given: 'Sorrel', family: 'Alder', email: 'sorrel.alder@harbourpost.example' },
    });
    await world.app.db.query(
      "insert into relationships (id, kind, from_contact, to_contact, created_at) values ($1, 'guardian', $2, $3, now())",
      [crypto.randomUUID(), id, await contactOf('Finch')],
    );
    await plan(event, [lineOn('start', { name: 'Raincoat', offsetDays: -1, ...letter, late: 'now' })]);
    await world.moveTo(ahead(24 * 60));
    expect((await planned(event, 'Raincoat')).goes).toEqual([
      ['Rowan Alder', 'sent', ahead(24 * 60)],
      ['Sorrel Alder', 'sent', ahead(24 * 60)],
    ]);
    const mails = await world.app.db.query<{ address: string; body: string }>(
      "select address, split_part(body, E'\\n', 1) as body from standin_mail where body like '%raincoat%' order by address",
    );
    expect(mails).toEqual([
      { address: 'rowan.alder@harbourpost.example', body: 'Dear Rowan, Pip, Wren can bring a raincoat.' },
      { address: 'sorrel.alder@harbourpost.example', body: 'Dear Sorrel, Finch can bring a raincoat.' },
    ]);
    const [row] = (await planned(event, 'Raincoat')).rows;
    const seen = await odalys.call('GET /api/events/:id/lines/:lineId/preview', {
      params: { id: event.id, lineId: (await planned(event, 'Raincoat')).lineId },
      query: { key: row!.key },
    });
    expect(seen).toMatchObject({ name: 'Rowan Alder', body: 'Dear Rowan, Pip, Wren can bring a raincoat.' });
    const refused = await plan(event, [lineOn('start', { ...letter, body: { en: '{{manage_link}}' } })]);
    expect(refused.problem.fields).toMatchObject([{ code: 'field-elsewhere' }]);
  });

  test('leave with the booking, and only those of chosen seats are written to where that is asked', async () => {
    const narrowed = [{ column: 'name', is: 'holds' as const, values: ['Teal'] }];
    await plan(event, [
      lineOn('start', { name: 'All', offsetDays: -1, ...letter }),
      lineOn('start', { name: 'Of Teal', offsetDays: -1, ...letter, narrowed }),
    ]);
    const { token } = await order([{ given: 'Myrtle', family: 'Alder' }, child('Teal')]);
    await order([{ given: 'Briar', family: 'Alder' }, child('Smew')]);
    expect((await planned(event, 'All')).goes.map(([name]) => name)).toEqual(['Myrtle Alder', 'Briar Alder']);
    expect((await planned(event, 'Of Teal')).goes.map(([name]) => name)).toEqual(['Myrtle Alder']);
    const seats = await world.app.db.query<{ id: string }>(
      "select id from registrations where event_id = $1 and given_name in ('Myrtle', 'Teal')",
      [event.id],
    );
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: seats.map((s) => s.id) },
    });
    expect((await planned(event, 'All')).goes.map(([name]) => name)).toEqual(['Briar Alder']);
    expect((await planned(event, 'Of Teal')).goes).toEqual([]);
  });
});

test('whoever chose a session is reminded of it, moved with it, and no more once they chose another', async () => {
  const session = (title: string, begins: string, ends: string) => ({
    id: crypto.randomUUID(),
    kind: 'session' as const,
    title: { en: title },
    about: { en: '' },
    day: 1,
    begins,
    ends,
    trackId: null,
    roomId: null,
    capacity: null,
    signUp: true,
    speakerIds: [],
  });
  const [otters, reeds] = [session('Otters', '10:00', '11:00'), session('Reeds', '13:00', '14:00')];
  const put = async (change: object) => {
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    return odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: change as never },
    });
  };
  await put({
    sessions: [otters, reeds],
    messages: [
      lineOn('session start', {
        name: 'Session',
        offsetMinutes: -60,
        subject: { en: 'Soon' },
        body: { en: 'Dear {{name}}: {{session}}.' },
      }),
    ],
  });
  const { token } = await book(event, 'Ivo');
  const { seats } = await world.anyone.call('GET /api/public/orders/:token/sessions', { params: { token } });
  const choose = (sessions: string[]) =>
    world.anyone.call('PUT /api/public/orders/:token/seats/:seat/sessions', {
      params: { token, seat: seats[0]!.id },
      body: { sessions },
    });
  const at = (hour: number) => new Date(Date.parse(begins) + (hour - 9) * 3_600_000).toISOString();
  await choose([otters.id, reeds.id]);
  expect((await planned(event, 'Session')).goes).toEqual([
    ['Ivo Lind', 'planned', at(9)],
    ['Ivo Lind', 'planned', at(12)],
  ]);
  await choose([reeds.id]);
  expect((await planned(event, 'Session')).goes).toEqual([['Ivo Lind', 'planned', at(12)]]);
  await put({ sessions: [otters, { ...reeds, begins: '14:00', ends: '15:00' }] });
  expect((await planned(event, 'Session')).goes).toEqual([['Ivo Lind', 'planned', at(13)]]);
  const [row] = (await planned(event, 'Session')).rows;
  const { lineId } = await planned(event, 'Session');
  const seen = await odalys.call('GET /api/events/:id/lines/:lineId/preview', {
    params: { id: event.id, lineId },
    query: { key: row!.key },
  });
  expect(seen.body).toMatch(/^Dear Ivo: Reeds, \w{3} 20 \w{3} 14:00–15:00\.$/u);
  await world.moveTo(at(13));
  expect((await planned(event, 'Session')).goes).toEqual([['Ivo Lind', 'sent', at(13)]]);
});

test('a household gets one copy where one is enough, a role of the crew what is for it', async () => {
  await plan(event, [
    lineOn('start', { name: 'Each', offsetDays: -1, audience: 'orders' }),
    lineOn('start', { name: 'Once', offsetDays: -1, audience: 'orders', household: true }),
    lineOn('start', {
      name: 'Boats',
      offsetDays: -1,
      audience: 'crew',
      narrowed: [{ column: 'role', is: 'any of', values: ['Rope boat'] }],
    }),
  ]);
  await book(event, 'Ash');
  await book(event, 'Elm');
  const household = crypto.randomUUID();
  await world.app.db.query("insert into households (id, name, created_at) values ($1, 'Lind', now())", [
    household,
  ]);
  await world.app.db.query("update contacts set household_id = $1 where given_name in ('Ash', 'Elm')", [
    household,
  ]);
  const day = begins.slice(0, 10);
  for (const [given, role] of [
    ['Oar', 'Rope boat'],
    ['Mug', 'Tea tent'],
  ] as const) {
    const shift = await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role, startsLocal: `${day}T08:00`, endsLocal: `${day}T12:00`, wished: 1 },
    });
    const { id: contactId } = await odalys.call('POST /api/contacts', {
      body: { given, family: 'Lind', email: `${given.toLowerCase()}@fenmail.example` },
    });
    await odalys.call('POST /api/shifts/:id/assignments', { params: { id: shift.id }, body: { contactId } });
  }
  await world.moveTo(ahead(24 * 60));
  const names = async (line: string) =>
    (await planned(event, line)).goes.map(([name, state]) => [name, state]);
  expect(await names('Each')).toEqual([
    ['Ash Lind', 'sent'],
    ['Elm Lind', 'sent'],
  ]);
  expect(await names('Once')).toEqual([['Ash Lind', 'sent']]);
  expect((await planned(event, 'Once')).not).toEqual([
    ['Elm Lind', 'one copy is enough for the household; it goes to Ash Lind'],
  ]);
  expect(await names('Boats')).toEqual([['Oar Lind', 'sent']]);
  expect((await planned(event, 'Boats')).not).toEqual([['Mug Lind', expect.stringContaining('not among')]]);
});

describe('narrowed to some', () => {
  const boots = {
    id: '7b7d1e3c-1b1c-4d53-8d5a-0d9b5c3ea001',
    offerId: null,
    scope: 'attendee' as const,
    kind: 'one of' as const,
    prompt: { en: 'Boots?' },
    required: false,
    choices: ['Yes', 'No'],
  };
  test('by what they answered: seats for themselves, who booked by any of theirs; the copy covers nobody who is not meant', async () => {
    const day = await openEvent(world, {
      title: 'Boots',
      startsLocal: '2029-05-20T09:00',
      endsLocal: '2029-05-20T12:00',
      questions: [{ ...boots, id: crypto.randomUUID() }],
    });
    const question = day.questions[0]!.id;
    const only = [{ column: question, is: 'any of' as const, values: ['Yes'] }];
    await plan(day, [
      lineOn('start', { name: 'Seats', offsetDays: -1, narrowed: only }),
      lineOn('start', { name: 'Orders', offsetDays: -1, audience: 'orders', narrowed: only }),
      lineOn('start', {
        name: 'Offer',
        offsetDays: -1,
        narrowed: [{ column: 'offer', is: 'none of', values: ['Guided paddle'] }],
      }),
    ]);
    const two = async (given: string, answers: string[]) => {
      const body = orderFor(day, [
        { given, family: 'Lind' },
        { given: `${given}s child`, family: 'Lind' },
      ]);
      return world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: day.slug },
        body: {
          ...body,
          attendees: body.attendees.map((a, n) => ({ ...a, answers: { [question]: answers[n]! } })),
        },
      });
    };
    await two('Both', ['Yes', 'Yes']);
    await two('Child', ['No', 'Yes']);
    const { token } = await two('None', ['No', 'No']);
    const why = 'not among those it is for';
    expect((await planned(day, 'Orders')).goes.map(([who]) => who)).toEqual(['Both Lind', 'Child Lind']);
    expect((await planned(day, 'Orders')).not).toEqual([['None Lind', why]]);
    const seats = await planned(day, 'Seats');
    expect(seats.goes.map(([who]) => who)).toEqual(['Both Lind', 'Child Lind']);
    expect(Object.fromEntries(seats.not)).toEqual({
      'Boths child Lind': 'covered by the copy to Both Lind',
      'Childs child Lind': 'covered by the copy to Child Lind',
      'None Lind': why,
      'Nones child Lind': why,
    });
    expect((await planned(day, 'Offer')).goes).toEqual([]);
    // A seat that was given up speaks for nobody.
    const child = await two('Gone', ['No', 'Yes']);
    const [given] = await world.app.db.query<{ id: string }>(
      "select r.id from registrations r where r.event_id = $1 and r.given_name = 'Gones child'",
      [day.id],
    );
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token: child.token },
      body: { seats: [given!.id] },
    });
    expect((await planned(day, 'Orders')).not).toContainEqual(['Gone Lind', why]);
    // Another answer plans anew what concerns it.
    const [seat] = await world.app.db.query<{ id: string }>(
      "select r.id from registrations r join contacts c on c.id = r.contact_id where r.event_id = $1 and c.given_name = 'None'",
      [day.id],
    );
    await world.anyone.call('PATCH /api/public/orders/:token/seats/:seat', {
      params: { token, seat: seat!.id },
      body: { given: 'None', family: 'Lind', answers: { [question]: 'Yes' } },
    });
    expect((await planned(day, 'Orders')).goes.map(([who]) => who)).toEqual([
      'Both Lind',
      'Child Lind',
      'None Lind',
    ]);
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Boots again', from: day.id },
    });
    const copied = (await odalys.call('GET /api/events/:id', { params: { id } })).plan;
    expect(copied.messages[0]!.narrowed[0]!.column).toBe(copied.questions[0]!.id);
    expect(copied.questions[0]!.id).not.toBe(question);
  });

  test('what they answer for the booking, and whether they came, is followed as it changes', async () => {
    const month = begins.slice(0, 8);
    const day = await openEvent(world, {
      title: 'Followed',
      startsLocal: `${month}24T09:00`,
      endsLocal: `${month}24T12:00`,
      questions: [{ ...boots, id: crypto.randomUUID(), scope: 'order' }],
    });
    const question = day.questions[0]!.id;
    const at = (column: string, value: string) => [{ column, is: 'any of' as const, values: [value] }];
    await plan(day, [
      lineOn('start', { name: 'Boots', offsetDays: -1, audience: 'orders', narrowed: at(question, 'Yes') }),
      lineOn('end', { name: 'Came', offsetMinutes: 60, narrowed: at('attendance', 'arrived') }),
      lineOn('end', { name: 'Missed', offsetMinutes: 60, narrowed: at('attendance', 'missed') }),
    ]);
    const { token } = await book(day, 'Changes', undefined, { answers: { [question]: 'No' } });
    await book(day, 'Stays', undefined, { answers: { [question]: 'No' } });
    const who = async (name: string) => (await planned(day, name)).goes.map(([given]) => given);
    expect(await who('Boots')).toEqual([]);
    await world.anyone.call('PUT /api/public/orders/:token/answers', {
      params: { token },
      body: { answers: { [question]: 'Yes' } },
    });
    expect(await who('Boots')).toEqual(['Changes Lind']);
    expect(await who('Came')).toEqual([]);
    await world.moveTo(`${month}24T13:00:00Z`);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: day.id } });
    const mark = (state: 'arrived' | 'expected') =>
      odalys.call('POST /api/registrations/:id/attendance', {
        params: { id: rows.find((r) => r.given === 'Changes')!.id },
        body: { eventId: day.id, state },
      });
    await mark('arrived');
    expect(await who('Came')).toEqual(['Changes Lind']);
    await mark('expected');
    expect(await who('Came')).toEqual([]);
    await mark('arrived');
    await world.moveTo(`${month}24T18:00:00Z`);
    expect(await who('Missed')).toEqual(['Stays Lind']);
    expect(await who('Came')).toEqual(['Changes Lind']);
  });

  test('the crew stands on shifts and not on seats, those who follow on neither', async () => {
    const { problem } = await plan(event, [
      lineOn('shift start', { narrowed: [{ column: 'offer', is: 'any of', values: ['x'] }] }),
    ]);
    expect(problem.fields).toMatchObject([{ path: 'change.messages.0.narrowed', code: 'not-narrowed' }]);
    const follows = await plan(event, [
      lineOn('start', { audience: 'following', narrowed: [{ column: 'role', is: 'given', values: [] }] }),
    ]);
    expect(follows.problem.fields).toMatchObject([{ code: 'not-narrowed' }]);
  });
});
