import { beforeEach, describe, expect, test } from 'vitest';
import type { MessageLinePlan } from '#contract/plan.ts';
import { firstTexts } from '#core/messages/firstTexts.ts';
import type { Caller, World } from './harness.ts';
import { lineOn, Scene } from './messageLines.ts';
import type { OpenEvent } from './scenes.ts';

const scene = new Scene();
const { plan, planned, book, ahead, later } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
let begins = '';
let n = 0;
beforeEach(() => {
  ({ world, odalys, event, begins, n } = scene);
});

describe('whoever comes late', () => {
  test('gets nothing, or at once; of several only what a later line does not say', async () => {
    await plan(event, [
      lineOn('start', { name: 'Week', offsetDays: -7, late: 'last' }),
      lineOn('start', { name: 'Day', offsetDays: -1, late: 'last' }),
      lineOn('start', { name: 'Quiet', offsetDays: -2 }),
    ]);
    await book(event, 'Early');
    await world.moveTo(ahead(12 * 60));
    await book(event, 'Late');
    await world.runner.run();
    const now = world.app.clock.now();
    expect((await planned(event, 'Week')).goes).toEqual([['Early Lind', 'sent', ahead(7 * 24 * 60)]]);
    expect((await planned(event, 'Week')).not).toEqual([['Late Lind', '“Day” says it, and was due as well']]);
    expect((await planned(event, 'Day')).goes).toEqual([
      ['Early Lind', 'sent', ahead(24 * 60)],
      ['Late Lind', 'sent', now],
    ]);
    expect((await planned(event, 'Quiet')).not).toEqual([
      ['Late Lind', 'registered after the moment had passed'],
    ]);
  });

  test('everybody is late for a line that is added after its time', async () => {
    await book(event, 'There');
    await world.moveTo(ahead(60));
    await plan(event, [
      lineOn('start', { name: 'Skipped', offsetDays: -1 }),
      lineOn('start', { name: 'Sent', offsetDays: -1, late: 'now' }),
      lineOn('registration made', { name: 'Once more' }),
    ]);
    await world.runner.run();
    const why = 'this line was added after its moment had passed';
    expect((await planned(event, 'Skipped')).not).toEqual([['There Lind', why]]);
    expect((await planned(event, 'Once more')).not).toEqual([['There Lind', why]]);
    expect((await planned(event, 'Sent')).goes).toEqual([['There Lind', 'sent', world.app.clock.now()]]);
  });
});

test('a line that is switched off holds its messages back, and they come back with it', async () => {
  const line = lineOn('start', { name: 'Day', offsetDays: -1 });
  await plan(event, [line]);
  await book(event, 'Rune');
  expect((await planned(event, 'Day')).goes).toEqual([['Rune Lind', 'planned', ahead(24 * 60)]]);
  await plan(event, [{ ...line, off: true }]);
  expect(await planned(event, 'Day')).toMatchObject({
    off: true,
    goes: [],
    not: [['Rune Lind', 'this line is switched off']],
  });
  await plan(event, [line]);
  expect((await planned(event, 'Day')).goes).toEqual([['Rune Lind', 'planned', ahead(24 * 60)]]);
});

describe('sent by hand', () => {
  test('says to whom it goes, is refused where that changed, goes at once; others get it at its time', async () => {
    const line = lineOn('start', { name: 'Day', offsetDays: -1 });
    await plan(event, [line]);
    await book(event, 'Ane');
    const params = { id: event.id, lineId: line.id };
    expect(await odalys.call('GET /api/events/:id/lines/:lineId/now', { params })).toEqual({
      count: 1,
      names: ['Ane Lind'],
    });
    await book(event, 'Bo');
    const refused = await odalys.try('POST /api/events/:id/lines/:lineId/send', {
      params,
      body: { expect: 1 },
    });
    expect(refused.problem.title).toBe('It would go to 2 people by now, not to 1. Look again, then send it.');
    expect((await planned(event, 'Day')).sent).toBe(0);
    expect(
      await odalys.call('POST /api/events/:id/lines/:lineId/send', { params, body: { expect: 2 } }),
    ).toEqual({ sent: 2 });
    await world.runner.run();
    const now = world.app.clock.now();
    await world.moveTo(later(1));
    await book(event, 'Cato');
    expect((await planned(event, 'Day')).goes).toEqual([
      ['Ane Lind', 'sent', now],
      ['Bo Lind', 'sent', now],
      ['Cato Lind', 'planned', ahead(24 * 60)],
    ]);
    expect((await odalys.call('GET /api/events/:id/lines/:lineId/now', { params })).names).toEqual([
      'Cato Lind',
    ]);
    // Nobody has it twice when its time comes.
    await world.moveTo(ahead(23 * 60));
    expect((await planned(event, 'Day')).sent).toBe(3);
    const mails = await world.app.db.query<{ n: number }>(
      'select count(*)::int as n from standin_mail where subject = $1',
      [firstTexts.start.subject.en.replace('{{event}}', `Lines ${n}`)],
    );
    expect(mails[0]!.n).toBe(3);
  });

  test('also to those whose time had passed when the date moved', async () => {
    const line = lineOn('start', { name: 'Week', offsetDays: -7 });
    await plan(event, [line]);
    await book(event, 'Dag');
    await world.moveTo(ahead(9 * 24 * 60));
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const earlier = `${page.plan.startsLocal!.slice(0, 8)}15`;
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: {
        version: page.version,
        change: { startsLocal: `${earlier}T09:00`, endsLocal: `${earlier}T16:00` },
      },
    });
    expect((await planned(event, 'Week')).not).toEqual([
      ['Dag Lind', 'its moment has passed since the date moved'],
    ]);
    const params = { id: event.id, lineId: line.id };
    await odalys.call('POST /api/events/:id/lines/:lineId/send', { params, body: { expect: 1 } });
    await world.runner.run();
    expect((await planned(event, 'Week')).goes).toEqual([['Dag Lind', 'sent', world.app.clock.now()]]);
  });

  test('not where it is switched off, nor of an event that is called off', async () => {
    const line = lineOn('start', { name: 'Day', offsetDays: -1, off: true });
    await plan(event, [line]);
    const params = { id: event.id, lineId: line.id };
    expect((await odalys.try('GET /api/events/:id/lines/:lineId/now', { params })).problem.code).toBe(
      'line-off',
    );
    await plan(event, [{ ...line, off: false }]);
    await odalys.call('POST /api/events/:id/state', {
      params: { id: event.id },
      body: { move: 'call off', words: 'Storm.' },
    });
    expect((await odalys.try('GET /api/events/:id/lines/:lineId/now', { params })).problem.code).toBe(
      'event-silent',
    );
  });
});

describe('quiet hours', () => {
  const quiet = (hours: { from: string; until: string } | null) =>
    odalys.try('PUT /api/organization/quiet-hours', { body: { quietHours: hours } });
  test('move what is planned and can wait; what answers goes at once; by text it waits', async () => {
    await plan(event, [
      lineOn('end', { name: 'Thanks', offsetMinutes: 6 * 60 }),
      lineOn('start', { name: 'Early', offsetMinutes: -120 }),
      lineOn('registration made', { name: 'Confirmation' }),
      lineOn('registration made', {
        name: 'By text',
        channel: 'text message',
        body: firstTexts['registration made'].short,
      }),
    ]);
    await book(event, 'Nadia', '902 555 0116');
    const end = Date.parse(begins) + 7 * 3_600_000;
    const at = (ms: number) => new Date(ms).toISOString();
    expect((await planned(event, 'Thanks')).firstAt).toBe(at(end + 6 * 3_600_000));
    expect((await quiet({ from: '21:00', until: '21:00' })).problem.fields).toMatchObject([
      { path: 'quietHours.until' },
    ]);
    expect((await quiet({ from: '25:00', until: '8' })).status).toBe(422);
    await quiet({ from: '21:00', until: '09:30' });
    // 22:00 becomes half past nine of the next morning; two hours before nine comes too late by then.
    expect((await planned(event, 'Thanks')).firstAt).toBe(at(end + 17.5 * 3_600_000));
    expect((await planned(event, 'Early')).not).toEqual([
      ['Nadia Lind', 'the quiet hours push it past its use'],
    ]);
    const night = Date.parse(begins) - 9 * 3_600_000;
    await world.moveTo(at(night));
    await book(event, 'Owl', '902 555 0117');
    await world.runner.run();
    expect((await planned(event, 'Confirmation')).goes).toContainEqual(['Owl Lind', 'sent', at(night)]);
    expect((await planned(event, 'By text')).goes).toContainEqual([
      'Owl Lind',
      'planned',
      at(Date.parse(begins) + 30 * 60_000),
    ]);
    await quiet(null);
    expect((await planned(event, 'Thanks')).firstAt).toBe(at(end + 6 * 3_600_000));
  });
});

test('quiet hours are those of where somebody lives: as is known of them, else where they booked', async () => {
  await plan(event, [lineOn('end', { name: 'Thanks', offsetMinutes: 6 * 60 })]);
  await book(event, 'Here', undefined, { zone: 'Nowhere/At_All' });
  await book(event, 'West', undefined, { zone: 'America/Vancouver' });
  await book(event, 'East', undefined, { zone: 'America/Vancouver' });
  const [east] = await world.app.db.query<{ id: string }>(
    "select id from contacts where given_name = 'East'",
  );
  const change = (zone: string | null) =>
    odalys.try('PATCH /api/contacts/:id', { params: { id: east!.id }, body: { zone } });
  expect((await change('Mars/Base')).problem.fields).toMatchObject([{ path: 'zone', code: 'no-zone' }]);
  expect((await change('Europe/Paris')).status).toBe(200);
  expect((await odalys.call('GET /api/contacts/:id', { params: { id: east!.id } })).zone).toBe(
    'Europe/Paris',
  );
  await odalys.call('PUT /api/organization/quiet-hours', {
    body: { quietHours: { from: '21:00', until: '08:00' } },
  });
  // It ends at 16:00 in Halifax; six hours later it is 22:00 there, 18:00 in Vancouver and 3:00 in Paris.
  const at = async () =>
    Object.fromEntries(
      (await planned(event, 'Thanks')).goes.map(([name, , when]) => [
        String(name).split(' ')[0],
        (Date.parse(String(when)) - Date.parse(begins)) / 3_600_000 - 7,
      ]),
    );
  expect(await at()).toEqual({ Here: 16, West: 6, East: 11 });
  await change(null);
  await plan(event, [lineOn('end', { name: 'Thanks', offsetMinutes: 6 * 60 })]);
  expect(await at()).toEqual({ Here: 16, West: 6, East: 6 });
  await odalys.call('PUT /api/organization/quiet-hours', { body: { quietHours: null } });
});

test('what was planned by other hours goes by those that hold when it is due', async () => {
  await plan(event, [lineOn('end', { name: 'Thanks', offsetMinutes: 8 * 60 })]);
  await book(event, 'Nocturne');
  const end = Date.parse(begins) + 7 * 3_600_000;
  // It is closed by then, and not planned anew any more.
  await world.moveTo(new Date(end + 3_600_000).toISOString());
  // Behind the back of planning, as with a backup that was put back.
  await world.app.db.query(`update organization set quiet_hours = '{"from":"21:00","until":"09:30"}'`);
  await world.moveTo(new Date(end + 9 * 3_600_000).toISOString());
  const morning = new Date(end + 17.5 * 3_600_000).toISOString();
  expect((await planned(event, 'Thanks')).goes).toEqual([['Nocturne Lind', 'planned', morning]]);
  await world.moveTo(morning);
  expect((await planned(event, 'Thanks')).goes).toEqual([['Nocturne Lind', 'sent', morning]]);
  await world.app.db.query('update organization set quiet_hours = null');
});

test('what could not be sent in time is not sent too late', async () => {
  await plan(event, [lineOn('start', { name: 'Hour', offsetMinutes: -60 })]);
  await book(event, 'Tardy');
  await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'fails', remaining: null } });
  await world.moveTo(later(1));
  // Behind the second try, whose minute is not the same each time; the third is after the beginning.
  await world.moveTo(ahead(10));
  expect((await planned(event, 'Hour')).failed).toBe(1);
  await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'works', remaining: null } });
  await world.moveTo(ahead(-30 * 60));
  expect(await planned(event, 'Hour')).toMatchObject({
    goes: [],
    not: [['Tardy Lind', 'it would come too late to be of use']],
  });
});

test.each<[string, Partial<MessageLinePlan>, string, string]>([
  ['400 days', { offsetDays: -400 }, 'offsetDays', 'offset-too-far'],
  ['three days by the hour', { offsetMinutes: 3 * 24 * 60 }, 'offsetMinutes', 'offset-too-far'],
  ['before and after at once', { offsetDays: -1, offsetMinutes: 30 }, 'offsetMinutes', 'offset-both-ways'],
  [
    'nobody who has such a moment',
    { audience: 'crew', moment: 'balance due' },
    'audience',
    'audience-elsewhere',
  ],
  ['no name', { name: '' }, 'name', 'line-unnamed'],
  ['an unknown field', { body: { en: 'Hi {{nmae}}' } }, 'body.en', 'not-a-merge-field'],
  ['no text', { body: { en: ' ' } }, 'body.en', 'nothing-written'],
  ['no subject', { subject: { en: '' } }, 'subject.en', 'nothing-written'],
])('a line with %s is refused beside its field, and nothing is changed', async (_, part, path, code) => {
  const { status, problem } = await plan(event, [lineOn('start', { offsetDays: -1, ...part })]);
  expect(status).toBe(422);
  expect(problem.fields).toContainEqual(
    expect.objectContaining({
      path: expect.stringMatching(new RegExp(`messages\\.0\\.${path.replace('.', '\\.')}$`, 'u')),
      code,
    }),
  );
  expect(
    (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan.messages.length,
  ).toBeGreaterThan(5);
});

test('a copy of an event has its lines, as they were', async () => {
  const line = lineOn('doors', {
    name: 'Doors',
    offsetMinutes: -30,
    channel: 'text message',
    audience: 'crew',
    late: 'last',
    usefulMinutes: 20,
    workingDays: true,
    off: true,
  });
  await plan(event, [line]);
  const { id } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Copied', from: event.id },
  });
  const { plan: copied } = await odalys.call('GET /api/events/:id', { params: { id } });
  expect(copied.messages).toEqual([{ ...line, id: expect.not.stringMatching(line.id) }]);
});
