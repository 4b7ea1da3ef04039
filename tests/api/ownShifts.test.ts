import { beforeAll, expect, test } from 'vitest';
import { Caller } from './caller.ts';
import { lineOn, Scene } from './messageLines.ts';

const scene = new Scene();
let imani: Caller;
beforeAll(async () => {
  imani = await scene.world.as('imani');
});
const shiftAt = async (from: string, to: string, role = 'Landing') =>
  (
    await imani.call('POST /api/events/:id/shifts', {
      params: { id: scene.event.id },
      body: {
        role,
        startsLocal: `${scene.begins.slice(0, 10)}T${from}`,
        endsLocal: `${scene.begins.slice(0, 10)}T${to}`,
        wished: 5,
        publicSignUp: true,
      },
    })
  ).id;
const person = async (given: string) =>
  (
    await scene.odalys.call('POST /api/contacts', {
      body: { given, family: 'Onward', email: `${given.toLowerCase()}@own.example` },
    })
  ).id;
const put = (id: string, contactId: string) =>
  imani.call('POST /api/shifts/:id/assignments', { params: { id }, body: { contactId } });
const on = async (id: string) =>
  (await imani.call('GET /api/events/:id/crew', { params: { id: scene.event.id } })).shifts.find(
    (s) => s.id === id,
  )!.assignments;

test('of two who are one and both on a shift, one stays: whoever only asked gives way, and all of it comes apart again', async () => {
  const { world, odalys } = scene;
  await imani.try('POST /api/roles', { body: { name: 'Ferry', anybody: false } });
  for (const asking of ['kept', 'merged'] as const) {
    const shift = await shiftAt('09:00', '12:00', 'Ferry');
    const kept = await person(`Kept${asking}`);
    const merged = await person(`Merged${asking}`);
    const asks = asking === 'kept' ? `Kept${asking}` : `Merged${asking}`;
    await put(shift, asking === 'kept' ? merged : kept);
    await world.anyone.call('POST /api/public/shifts/:id/sign-up', {
      params: { id: shift },
      body: { given: asks, family: 'Onward', email: `${asks.toLowerCase()}@own.example` },
    });
    const before = (await on(shift)).map((a) => [a.contactId, a.state]).sort();
    expect(before.map(([, state]) => state).sort()).toEqual(['agreed', 'proposed']);
    const { mergeId } = await odalys.call('POST /api/contacts/:id/merge', {
      params: { id: kept },
      body: { other: merged },
    });
    expect((await on(shift)).map((a) => [a.contactId, a.state])).toEqual([[kept, 'agreed']]);
    await odalys.call('POST /api/merges/:id/undo', { params: { id: mergeId } });
    expect((await on(shift)).map((a) => [a.contactId, a.state]).sort()).toEqual(before);
  }
});

test('a shift is the same entry in both of somebody’s calendars, its number rises when the event moves, and what was only asked for is in neither', async () => {
  const { world, odalys, event, begins } = scene;
  const certain = await shiftAt('09:00', '12:00');
  await imani.try('POST /api/roles', { body: { name: 'Ferry', anybody: false } });
  const asked = await shiftAt('13:00', '15:00', 'Ferry');
  const contactId = await person('Calder');
  await put(certain, contactId);
  await world.anyone.call('POST /api/public/shifts/:id/sign-up', {
    params: { id: asked },
    body: { given: 'Calder', family: 'Onward', email: 'calder@own.example' },
  });
  expect((await on(asked)).map((a) => a.state)).toEqual(['proposed']);
  await world.runner.run();
  const [mail] = await world.app.db.query<{ body: string }>(
    "select body from standin_mail where address = 'calder@own.example' order by accepted_at desc limit 1",
  );
  const crewToken = /\/crew\/([\w-]+)/u.exec(mail!.body)![1]!;
  const visitor = new Caller(world.origin);
  const { ticket } = await visitor.call('POST /api/public/sign-in', {
    body: { email: 'calder@own.example' },
  });
  await world.runner.run();
  const [code] = await world.app.db.query<{ body: string }>(
    "select body from standin_mail where address = 'calder@own.example' and body like '%code is%'",
  );
  await visitor.call('POST /api/public/sign-in/code', {
    body: { ticket, code: /(\d{3} \d{3})/u.exec(code!.body)![1]! },
  });
  const { feedToken } = (await visitor.call('GET /api/public/mine'))!;
  const entries = async () =>
    Promise.all(
      [
        await world.anyone.call('GET /api/public/crew/:token/calendar.ics', { params: { token: crewToken } }),
        await world.anyone.call('GET /api/public/mine/:token/calendar.ics', { params: { token: feedToken } }),
      ].map((file) => {
        const text = String(file);
        return {
          uids: [...text.matchAll(/^UID:(\S+)/gmu)].map((m) => m[1]),
          sequences: [...text.matchAll(/^SEQUENCE:(\d+)/gmu)].map((m) => Number(m[1])),
        };
      }),
    );
  const [first, same] = await entries();
  expect(first!.uids).toHaveLength(1);
  expect(same).toEqual(first);
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  const day = begins.slice(0, 8);
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change: { startsLocal: `${day}21T09:00`, endsLocal: `${day}21T16:00` } },
  });
  const [moved, also] = await entries();
  expect(moved!.uids).toEqual(first!.uids);
  expect(moved!.sequences[0]).toBeGreaterThan(first!.sequences[0]!);
  expect(also).toEqual(moved);
});

test('thanks after the event go to whoever served, marked by then or not, and not to whoever never came', async () => {
  const { world, event, begins } = scene;
  await scene.plan(event, [lineOn('end', { name: 'Thanks', offsetMinutes: 120, audience: 'crew' })]);
  const shift = await shiftAt('09:00', '12:00');
  for (const given of ['Served', 'Missed', 'Unmarked']) await put(shift, await person(given));
  await world.moveTo(new Date(Date.parse(begins) + 4 * 3_600_000).toISOString());
  const crew = await on(shift);
  const mark = (n: number, state: 'served' | 'missed') =>
    imani.call('POST /api/assignments/:id/state', { params: { id: crew[n]!.id }, body: { state } });
  await mark(0, 'served');
  await mark(1, 'missed');
  await world.moveTo(new Date(Date.parse(begins) + 12 * 3_600_000).toISOString());
  const thanked = await world.app.db.query<{ name: string }>(
    `select m.name from messages m join message_lines l on l.id = m.line_id
     where m.event_id = $1 and l.name = 'Thanks' and m.state = 'sent' order by m.name`,
    [event.id],
  );
  expect(thanked.map((m) => m.name)).toEqual(['Served Onward', 'Unmarked Onward']);
});

test('their page has the briefing, and who leads; the number of the lead on the day only, and only of a shift that is theirs', async () => {
  const { world, odalys, begins } = scene;
  const lead = (
    await odalys.call('POST /api/contacts', {
      body: { given: 'Lena', family: 'Leads', phone: '902 555 0177' },
    })
  ).id;
  const shift = await shiftAt('09:00', '12:00');
  const { shifts } = await imani.call('GET /api/events/:id/crew', { params: { id: scene.event.id } });
  const { version, ...now } = shifts.find((s) => s.id === shift)!;
  await imani.call('PUT /api/shifts/:id', {
    params: { id: shift },
    body: { ...now, version, leadId: lead, briefing: 'Bring gloves.' } as never,
  });
  await put(shift, await person('Onda'));
  await world.runner.run();
  const [mail] = await world.app.db.query<{ body: string }>(
    "select body from standin_mail where address = 'onda@own.example' order by accepted_at desc limit 1",
  );
  const params = { token: /\/crew\/([\w-]+)/u.exec(mail!.body)![1]! };
  const own = async () => (await world.anyone.call('GET /api/public/crew/:token', { params })).shifts[0]!;
  expect(await own()).toMatchObject({ briefing: 'Bring gloves.', lead: 'Lena Leads', leadPhone: null });
  await world.moveTo(new Date(Date.parse(begins) - 2 * 3_600_000).toISOString());
  expect((await own()).leadPhone).toBe('(902) 555-0177');
  // Whoever only asks for a shift may be anybody.
  const into = (state: string) =>
    world.app.db.query('update assignments set state = $2 where shift_id = $1', [shift, state]);
  await into('proposed');
  expect(await own()).toMatchObject({ state: 'proposed', briefing: '', lead: null, leadPhone: null });
  await into('agreed');
  await world.moveTo(new Date(Date.parse(begins) + 24 * 3_600_000).toISOString());
  expect((await own()).leadPhone).toBeNull();
});
