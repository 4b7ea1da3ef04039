import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { lineOn } from './messageLines.ts';
import { bookFor, openEvent, saying } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const linesOf = async (id: string) => odalys.call('GET /api/events/:id/messages', { params: { id } });

test('a line on a moment that never comes plans nothing, and says why', async () => {
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Some Day' } });
  const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
  const messages = [
    lineOn('start', { name: 'Day', offsetDays: -1 }),
    lineOn('doors', { name: 'Doors', offsetMinutes: -30 }),
    lineOn('registration closes', { name: 'Closes', offsetDays: -2 }),
  ];
  await odalys.call('PATCH /api/events/:id', { params: { id }, body: { version, change: { messages } } });
  const whenever = { planned: 0, sent: 0, failed: 0, firstAt: null };
  expect(await linesOf(id)).toMatchObject([whenever, whenever, whenever]);
  // Of an event that has a date, doors that nobody set are no moment either.
  const event = await openEvent(world, { title: 'No Doors' });
  await bookFor(world, event, ['Ida']);
  const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version: page.version, change: { messages: [lineOn('doors', { name: 'Doors', late: 'now' })] } },
  });
  const [doors] = await linesOf(event.id);
  expect(doors!.leftOut.map((l) => [l.name, l.whyNot])).toEqual([
    ['Ida Sedge', 'the event has no such time'],
  ]);
});

test('an address of an international domain is written to as mail servers know it', async () => {
  const { id } = await odalys.call('POST /api/contacts', {
    body: { given: 'Zoë', family: 'Fjord', email: 'Zoë.Fjord@Bücher.example' },
  });
  await odalys.call('POST /api/mailings', {
    body: { name: 'N', topic: 'notice', ids: [id], expect: 1, ...saying('Hej', 'Hello {{name}}') },
  });
  await world.runner.run();
  const [mail] = await world.app.db.query<{ address: string }>(
    "select address from standin_mail where subject = 'Hej'",
  );
  expect(mail!.address).toMatch(/@(?:xn--bcher-kva|bücher)\.example$/iu);
});

test('a series of two hundred dates with three lines each, and a clock that jumps two years over them', async () => {
  const event = await openEvent(world, {
    title: 'Every Day',
    startsLocal: '2026-07-10T09:00',
    endsLocal: '2026-07-10T10:00',
  });
  const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  const messages = [
    lineOn('registration made', { name: 'Confirmation' }),
    lineOn('start', { name: 'Hour', offsetMinutes: -60 }),
    lineOn('start', { name: 'Soon', offsetMinutes: -10 }),
  ];
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version: page.version, change: { messages } },
  });
  const series = await odalys.call('POST /api/series', {
    body: {
      eventId: event.id,
      rule: 'FREQ=DAILY;COUNT=200',
      startsLocal: '2026-07-10T09:00',
      extra: [],
      skipped: [],
      horizon: 12,
      opens: true,
    },
  });
  const made = async () => {
    const [{ dates, lines }] = (await world.app.db.query<{ dates: number; lines: number }>(
      `select count(distinct e.id)::int as dates, count(l.id)::int as lines from events e
         left join message_lines l on l.event_id = e.id and l.removed_at is null where e.series_id = $1`,
      [series.id],
    )) as [{ dates: number; lines: number }];
    return { dates, lines };
  };
  // As many as are made ahead; the rest follow as they come near.
  expect(await made()).toEqual({ dates: 120, lines: 360 });
  await bookFor(world, event, ['Jun']);
  await world.moveTo('2028-07-10T12:00:00.000Z');
  const mails = await world.app.db.query<{ subject: string }>(
    "select subject from standin_mail where address = 'jun.sedge@harbourpost.example' order by accepted_at, key",
  );
  expect(mails.map((m) => m.subject)).toHaveLength(3);
  expect(await made()).toEqual({ dates: 200, lines: 600 });
  const waiting = await odalys.call('GET /api/tray', { query: { state: 'coming' } });
  expect(waiting.counts.coming).toBe(0);
});
