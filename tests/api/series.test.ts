import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import type { SeriesChange } from '#contract/series.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const page = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
const series = (id: string) => odalys.call('GET /api/series/:id', { params: { id } });
async function save(id: string, change: Partial<EventPlan>) {
  const { version } = await page(id);
  return odalys.call('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}

/** A monthly series from 5 August 2026, three months ahead. */
async function monthly(title: string, more: object = {}, unit?: string) {
  const event = await openEvent(world, {
    title,
    unit,
    startsLocal: '2026-08-05T09:30',
    endsLocal: '2026-08-05T12:30',
  });
  const body = {
    eventId: event.id,
    rule: 'FREQ=MONTHLY;BYDAY=1WE',
    startsLocal: '2026-08-05T09:30',
    extra: [],
    skipped: [],
    horizon: 3,
    opens: false,
    ...more,
  };
  const made = await odalys.call('POST /api/series', { body });
  return { event, id: made.id, made: made.made };
}
const change = async (id: string, of: Partial<SeriesChange>, who = odalys) => {
  const { version, rule, startsLocal, extra, skipped, horizon, opens } = await series(id);
  return who.try('PATCH /api/series/:id', {
    params: { id },
    body: { version, rule, startsLocal, extra, skipped, horizon, opens, from: null, decisions: [], ...of },
  });
};
const slots = async (id: string) => (await series(id)).dates.map((d) => d.slot.slice(0, 10));
const book = (slug: string, event: Parameters<typeof orderFor>[0], given: string) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug },
    body: orderFor(event, [{ given, family: 'Of-Series' }]),
  });

describe('a series', () => {
  test('makes its dates ahead, each an event of its own', async () => {
    const { event, id, made } = await monthly('Reed cut');
    expect(made).toBe(2);
    expect(await slots(id)).toEqual(['2026-08-05', '2026-09-02', '2026-10-07']);
    const { dates, said } = await series(id);
    expect(said).toBe('first Wednesday of every month');
    const second = await page(dates[1]!.id);
    expect(second).toMatchObject({ state: 'draft', startsAt: '2026-09-02T12:30:00.000Z' });
    expect(second.plan).toMatchObject({ publicTitle: 'Reed cut', endsLocal: '2026-09-02T12:30' });
    expect(second.plan.offers.map((o) => o.name)).toEqual(
      (await page(event.id)).plan.offers.map((o) => o.name),
    );
    // The pattern is nowhere among events or templates.
    const listed = await odalys.call('GET /api/events');
    expect(listed.filter((e) => e.title === 'Reed cut' && e.isTemplate)).toEqual([]);
  });

  test('is shown before it is made: twelve dates, holidays, what else is there then', async () => {
    const event = await openEvent(world, {
      title: 'Shown',
      startsLocal: '2026-09-01T19:00',
      endsLocal: '2026-09-01T21:00',
    });
    const other = await openEvent(world, {
      title: 'In the way',
      startsLocal: '2026-09-15T18:30',
      endsLocal: '2026-09-15T20:00',
    });
    const { venueId } = (await page(other.id)).plan;
    await save(event.id, { venueId });
    const ask = (rule: string) =>
      odalys.try('POST /api/series/preview', {
        body: {
          of: { kind: 'event', id: event.id },
          rule,
          startsLocal: '2026-09-01T19:00',
          extra: [],
          skipped: ['2026-09-08T19:00'],
        },
      });
    const { body } = await ask('FREQ=WEEKLY');
    expect(body.said).toBe('every Tuesday');
    expect(body.next).toHaveLength(12);
    expect(body.next.slice(0, 2).map((d) => [d.startsLocal, d.clashes])).toEqual([
      ['2026-09-01T19:00', []],
      ['2026-09-15T19:00', venueId ? ['In the way'] : []],
    ]);
    expect((await ask('FREQ=MONTHLY;BYMONTHDAY=31;BYMONTH=2')).problem.fields).toMatchObject([
      { path: 'rule', code: 'rule-without-dates' },
    ]);
    expect((await ask('FREQ=DAILY;COUNT=0')).problem.fields).toMatchObject([
      { path: 'rule', code: 'rule-part', params: { part: 'COUNT' } },
    ]);
    expect((await ask('FREQ=DAILY;UNTIL=20260101')).problem.fields).toMatchObject([
      { code: 'rule-without-dates' },
    ]);
  });

  test('what was planned again by hand before becomes part of it, with what it says otherwise', async () => {
    const first = await openEvent(world, {
      title: 'Path day',
      startsLocal: '2026-08-17T09:30',
      endsLocal: '2026-08-17T12:30',
    });
    const { id: again } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Path day by hand', from: first.id, date: '2026-09-21' },
    });
    // One that was called off is not made anew.
    const off = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Path day', from: first.id, date: '2026-10-19' },
    });
    await odalys.call('POST /api/events/:id/state', {
      params: { id: off.id },
      body: { move: 'call off', words: 'The path is closed.' },
    });
    const { id } = await odalys.call('POST /api/series', {
      body: {
        eventId: first.id,
        rule: 'FREQ=MONTHLY;BYDAY=3MO',
        startsLocal: '2026-08-17T09:30',
        extra: [],
        skipped: [],
        horizon: 4,
        opens: false,
      },
    });
    const { dates } = await series(id);
    expect(dates.map((d) => [d.slot.slice(0, 10), d.id === again])).toEqual([
      ['2026-08-17', false],
      ['2026-09-21', true],
      ['2026-10-19', false],
    ]);
    expect(dates[1]!.own).toEqual(['publicTitle']);
    expect(dates[2]).toMatchObject({ id: off.id, state: 'called off' });
    expect(
      (
        await odalys.try('POST /api/series', {
          body: {
            eventId: again,
            rule: 'FREQ=DAILY',
            startsLocal: '2026-09-21T09:30',
            extra: [],
            skipped: [],
            horizon: 1,
            opens: false,
          },
        })
      ).problem.code,
    ).toBe('in-a-series');
  });

  test('a date that is deleted, or taken out, is not made again', async () => {
    const { id } = await monthly('Once gone');
    const [, second, third] = (await series(id)).dates;
    await odalys.call('DELETE /api/events/:id', { params: { id: second!.id } });
    await odalys.call('POST /api/events/:id/series/leave', { params: { id: third!.id } });
    expect(await slots(id)).toEqual(['2026-08-05']);
    expect((await change(id, {})).status).toBe(200);
    expect(await slots(id)).toEqual(['2026-08-05']);
    expect((await page(third!.id)).plan.publicTitle).toBe('Once gone');
  });

  test('what its dates are made from is no template of anybody, and is not deleted', async () => {
    const { id } = await monthly('Pattern');
    const [row] = await world.app.db.query<{ patternId: string }>(
      'select pattern_id from series where id = $1',
      [id],
    );
    expect(
      (await odalys.try('DELETE /api/events/:id', { params: { id: row!.patternId } })).problem.code,
    ).toBe('not-deletable');
    const { templates } = await odalys.call('GET /api/choices');
    expect(templates.map((t) => t.title)).not.toContain('Pattern');
  });

  test('dates open by themselves only where nobody has to clear them', async () => {
    const { id } = await monthly('Open by itself', { opens: true });
    expect((await series(id)).dates.map((d) => d.state)).toEqual(['open', 'open', 'open']);
  });
});

describe('what one date says otherwise', () => {
  test('is its own; taken over into the series it holds for later dates and those not made yet, but for what is theirs', async () => {
    const { id } = await monthly('Carried');
    const [first, second, third] = (await series(id)).dates;
    await save(second!.id, { summary: 'With soup.', capacity: 12, endsLocal: '2026-09-02T13:00' });
    await save(third!.id, { capacity: 40 });
    const of = (date: string) => odalys.call('GET /api/events/:id/series', { params: { id: date } });
    expect((await of(second!.id))!.differs.map((d) => d.field).sort()).toEqual([
      'capacity',
      'endsLocal',
      'summary',
    ]);
    const fields = ['summary', 'capacity', 'endsLocal'] as const;
    const told = await odalys.call('POST /api/events/:id/series/carry/what-if', {
      params: { id: second!.id },
      body: { fields: [...fields], scope: 'later', also: [] },
    });
    expect(told.dates).toMatchObject([
      { id: third!.id, people: 0, changes: ['summary', 'endsLocal'], keeps: ['capacity'] },
    ]);
    expect((await page(third!.id)).plan.summary).toBe('');
    const done = await odalys.call('POST /api/events/:id/series/carry', {
      params: { id: second!.id },
      body: { fields: [...fields], scope: 'later', also: [] },
    });
    // What is announced is what happens.
    expect({ ...done, changeId: '' }).toEqual({ ...told, changeId: '' });
    expect((await page(third!.id)).plan).toMatchObject({
      summary: 'With soup.',
      capacity: 40,
      endsLocal: '2026-10-07T13:00',
    });
    expect((await page(first!.id)).plan.summary).toBe('');
    expect((await of(second!.id))!.differs).toEqual([]);
    expect((await change(id, { horizon: 5 })).body.made).toHaveLength(2);
    const fourth = (await series(id)).dates[3]!;
    expect((await page(fourth.id)).plan).toMatchObject({
      summary: 'With soup.',
      capacity: 12,
      endsLocal: '2026-11-04T13:00',
    });
    // Then for all, with the date that kept its own.
    await odalys.call('POST /api/events/:id/series/carry', {
      params: { id: second!.id },
      body: { fields: ['summary', 'capacity'], scope: 'all', also: [third!.id] },
    });
    expect((await page(first!.id)).plan.summary).toBe('With soup.');
    expect((await page(third!.id)).plan.capacity).toBe(12);
    expect((await series(id)).dates.map((d) => d.own)).toEqual([[], [], [], [], []]);
  });

  test('tickets keep the seats they were given for; put back, it says what the series says', async () => {
    const { id, event } = await monthly('Tickets');
    const [first, second] = (await series(id)).dates;
    await book(event.slug, event, 'Ann');
    const { offers } = (await page(second!.id)).plan;
    await save(second!.id, {
      offers: offers.map((o) => ({ ...o, name: 'Helper with boots', about: 'Ours' })),
    });
    await odalys.call('POST /api/events/:id/series/carry', {
      params: { id: second!.id },
      body: { fields: ['offers'], scope: 'all', also: [] },
    });
    const there = (await page(first!.id)).plan.offers;
    expect(there.map((o) => o.name)).toEqual(offers.map(() => 'Helper with boots'));
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: first!.id } });
    expect(rows.map((r) => r.offer)).toEqual(['Helper with boots']);
    await save(second!.id, {
      publicTitle: 'Another title',
      startsLocal: '2026-09-03T10:00',
      endsLocal: '2026-09-03T13:00',
    });
    // The end moved along with the start: it is not its own. One half an hour later is.
    expect((await series(id)).dates[1]!.own).toEqual(['endsLocal', 'publicTitle', 'startsLocal']);
    await save(second!.id, { endsLocal: '2026-09-03T12:30' });
    expect((await series(id)).dates[1]!.own).toEqual(['publicTitle', 'startsLocal']);
    expect(
      (
        await odalys.try('POST /api/events/:id/series/carry', {
          params: { id: second!.id },
          body: { fields: ['startsLocal'], scope: 'all' },
        })
      ).problem.fields,
    ).toMatchObject([{ code: 'series-start' }]);
    await odalys.call('POST /api/events/:id/series/back', {
      params: { id: second!.id },
      body: { fields: ['publicTitle', 'startsLocal'] },
    });
    expect((await page(second!.id)).plan).toMatchObject({
      publicTitle: 'Tickets',
      startsLocal: '2026-09-02T09:30',
    });
    expect((await series(id)).dates[1]!.own).toEqual([]);
  });

  test('its messages are seen to differ line by line, and one is put back without the others', async () => {
    const { id } = await monthly('Lines of a series');
    const second = (await series(id)).dates[1]!;
    const standing = async () =>
      (await odalys.call('GET /api/events/:id/series', { params: { id: second.id } }))!.differs.find(
        (d) => d.field === 'messages',
      )?.rows;
    expect(await standing()).toBeUndefined();
    const before = (await page(second.id)).plan.messages;
    const [confirmation, ...rest] = before;
    const day = rest.find((l) => l.name === 'Reminder, a day before')!;
    await save(second.id, {
      messages: [
        { ...day, offsetDays: -3 },
        { ...rest.find((l) => l.id !== day.id)!, id: crypto.randomUUID(), name: 'Boats' },
        ...rest.filter((l) => l.id !== day.id),
      ],
    });
    const rows = (await standing())!;
    expect(rows).toMatchObject({ changed: [day.id], missing: [{ name: confirmation!.name }] });
    expect(rows.own).toHaveLength(1);
    const back = (row: string) =>
      odalys.call('POST /api/events/:id/series/back', {
        params: { id: second.id },
        body: { fields: ['messages'], rows: [row] },
      });
    await back(day.id);
    expect(await standing()).toMatchObject({ changed: [], missing: [{ name: confirmation!.name }] });
    await back(rows.missing[0]!.id);
    const { messages } = (await page(second.id)).plan;
    expect(messages.find((l) => l.id === day.id)!.offsetDays).toBe(day.offsetDays);
    expect(messages.map((l) => l.name)).toEqual(
      expect.arrayContaining(['Boats', ...before.map((l) => l.name)]),
    );
    expect(await standing()).toMatchObject({ own: rows.own, changed: [], missing: [] });
  });
});

describe('when a series takes place, changed', () => {
  test('dates without people move along; one with people waits for a decision that says how many', async () => {
    const { id, event } = await monthly('To Thursday');
    const [first] = (await series(id)).dates;
    await book(event.slug, event, 'Bea');
    await book(event.slug, event, 'Ben');
    const rule = 'FREQ=MONTHLY;BYDAY=1TH';
    const refused = await change(id, { rule });
    expect(refused.problem.fields).toMatchObject([
      { path: `decisions.${first!.id}`, code: 'series-people', params: { count: 2 } },
    ]);
    expect(await slots(id)).toEqual(['2026-08-05', '2026-09-02', '2026-10-07']);
    const { version, startsLocal, extra, skipped, horizon, opens } = await series(id);
    const told = await odalys.call('POST /api/series/:id/what-if', {
      params: { id },
      body: { version, rule, startsLocal, extra, skipped, horizon, opens, from: null, decisions: [] },
    });
    expect(told.fates.map((f) => [f.startsLocal, f.become, f.to, f.people, f.open])).toEqual([
      ['2026-08-05T09:30', 'move', '2026-08-06T09:30', 2, true],
      ['2026-09-02T09:30', 'move', '2026-09-03T09:30', 0, false],
      ['2026-10-07T09:30', 'move', '2026-10-01T09:30', 0, false],
    ]);
    const kept = await change(id, { rule, decisions: [{ id: first!.id, become: 'keep' }] });
    expect(kept.status).toBe(200);
    expect(await slots(id)).toEqual(['2026-08-05', '2026-08-06', '2026-09-03', '2026-10-01']);
    expect((await page(first!.id)).plan.startsLocal).toBe('2026-08-05T09:30');
    // Two at once: the second wrote on what is not there any more.
    expect(
      (
        await odalys.try('PATCH /api/series/:id', {
          params: { id },
          body: { version, rule, startsLocal, extra, skipped, horizon, opens, from: null, decisions: [] },
        })
      ).problem.code,
    ).toBe('series-changed');
  });

  test('from one date on: those before stay, and stay when it is changed again', async () => {
    const { id } = await monthly('From September', { horizon: 4 });
    expect(
      (
        await change(id, {
          rule: 'FREQ=MONTHLY;BYDAY=1WE',
          startsLocal: '2026-09-02T18:00',
          from: '2026-09-02T09:30',
        })
      ).status,
    ).toBe(200);
    const at = async () => (await series(id)).dates.map((d) => d.startsLocal);
    const moved = ['2026-08-05T09:30', '2026-09-02T18:00', '2026-10-07T18:00', '2026-11-04T18:00'];
    expect(await at()).toEqual(moved);
    const evening = (await series(id)).dates[1]!;
    expect((await page(evening.id)).plan).toMatchObject({ endsLocal: '2026-09-02T21:00' });
    expect((await change(id, {})).status).toBe(200);
    expect(await at()).toEqual(moved);
  });

  test('moved by hand a date stays where it was put; times of its own keep their distance', async () => {
    const { id } = await monthly('By hand');
    const [, second, third] = (await series(id)).dates;
    await save(second!.id, { startsLocal: '2026-09-05T09:30', endsLocal: '2026-09-05T12:30' });
    await save(third!.id, { endsLocal: '2026-10-07T15:00' });
    await change(id, { startsLocal: '2026-08-05T10:30', decisions: [] });
    expect((await page(second!.id)).plan.startsLocal).toBe('2026-09-05T09:30');
    expect((await page(third!.id)).plan).toMatchObject({
      startsLocal: '2026-10-07T10:30',
      endsLocal: '2026-10-07T16:00',
    });
  });

  test('extra dates and skipped ones; all called off tells those who are registered', async () => {
    const { id, event } = await monthly('Off');
    await change(id, {
      extra: [{ startsLocal: '2026-08-22T14:00', endsLocal: '2026-08-22T15:00' }],
      skipped: ['2026-09-02T09:30'],
    });
    expect(await slots(id)).toEqual(['2026-08-05', '2026-08-22', '2026-10-07']);
    const extra = (await series(id)).dates[1]!;
    expect((await page(extra.id)).plan.endsLocal).toBe('2026-08-22T15:00');
    await book(event.slug, event, 'Cy');
    const off = await odalys.try('POST /api/series/:id/call-off', {
      params: { id },
      body: { from: null, words: '' },
    });
    expect(off.status).toBe(422);
    expect(
      await odalys.call('POST /api/series/:id/call-off', {
        params: { id },
        body: { from: null, words: 'The path is under water.' },
      }),
    ).toMatchObject({ calledOff: 1, dropped: 2 });
    expect((await series(id)).dates.map((d) => d.state)).toEqual(['called off']);
    // And no more are made.
    expect((await series(id)).nextAt).toBeNull();
    expect(await slots(id)).toEqual(['2026-08-05']);
  });

  test('who works on one date alone, or leads another unit, changes no series', async () => {
    const { id } = await monthly('Not theirs');
    const piers = await world.as('piers');
    expect((await piers.try('GET /api/series/:id', { params: { id } })).status).toBe(403);
    const [, second] = (await series(id)).dates;
    expect(
      (
        await piers.try('POST /api/events/:id/series/carry', {
          params: { id: second!.id },
          body: { fields: ['summary'], scope: 'all' },
        })
      ).status,
    ).toBe(403);
  });
});

test('a date given to another unit is not changed by whoever leads the others, only by somebody who leads both', async () => {
  const { id } = await monthly('Two units', {}, 'Small Boats');
  const [first, second, third] = (await series(id)).dates;
  const { units } = await odalys.call('GET /api/choices');
  await save(second!.id, { unitId: units.find((u) => u.name === 'Mudlarks')!.id });
  await save(first!.id, { summary: 'Bring a towel.' });

  const piers = await world.as('piers');
  const carry = (who: Caller) =>
    who.call('POST /api/events/:id/series/carry', {
      params: { id: first!.id },
      body: { fields: ['summary'], scope: 'all' },
    });
  expect((await carry(piers)).dates.map((d) => d.id)).toEqual([third!.id]);
  expect((await page(second!.id)).plan.summary).not.toBe('Bring a towel.');

  const moved = await change(
    id,
    {
      rule: 'FREQ=MONTHLY;BYDAY=1TH',
      decisions: [{ id: second!.id, become: 'call off' }],
      words: 'Not theirs to say.',
    },
    piers,
  );
  expect(moved.body.fates.map((f) => [f.id, f.become, f.ofOthers])).toEqual([
    [first!.id, 'move', false],
    [second!.id, 'keep', true],
    [third!.id, 'move', false],
  ]);
  const state = async () => (await series(id)).dates.find((d) => d.id === second!.id);
  expect(await state()).toMatchObject({ startsLocal: '2026-09-02T09:30', state: 'draft' });
  await piers.call('POST /api/series/:id/call-off', {
    params: { id },
    body: { from: null, words: 'The boats are away.' },
  });
  expect((await series(id)).dates.map((d) => [d.id, d.state])).toEqual([
    [first!.id, 'called off'],
    [second!.id, 'draft'],
  ]);
  await odalys.call('POST /api/series/:id/call-off', {
    params: { id },
    body: { from: null, words: 'All of it.' },
  });
  expect((await series(id)).dates.map((d) => d.id)).toEqual([first!.id]);
});

describe('registering for a series', () => {
  const shown = (slug: string) => world.anyone.call('GET /api/public/events/:slug', { params: { slug } });
  const order = (slug: string, body: object) =>
    world.anyone.try('POST /api/public/events/:slug/orders', { params: { slug }, body: body as never });

  test('for several dates at once: all of them or none, each a booking of its own', async () => {
    const { event } = await monthly('Several', { opens: true });
    const page = await shown(event.slug);
    expect(page.series!.said).toEqual({
      en: 'first Wednesday of every month',
      fr: 'le premier mercredi de chaque mois',
    });
    const dates = page.series!.dates.map((d) => d.slug);
    expect(dates).toHaveLength(2);
    const body = orderFor(event, [{ given: 'Dot', family: 'Of-Series' }]);
    const placed = await order(event.slug, { ...body, also: [dates[1], dates[0]] });
    expect(placed.body).toMatchObject({
      standing: 'confirmed',
      also: [
        { slug: dates[1], standing: 'confirmed' },
        { slug: dates[0], standing: 'confirmed' },
      ],
    });
    const tokens = [placed.body.token, ...placed.body.also.map((a: { token: string }) => a.token)];
    const starts = await Promise.all(
      tokens.map(async (token) => {
        const { event } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
        return event.startsLocal?.slice(0, 10);
      }),
    );
    expect(starts).toEqual(['2026-08-05', '2026-10-07', '2026-09-02']);
  });

  test('a date of another series, one that is not there, and one without the ticket are refused, and nothing is booked', async () => {
    const { event, id } = await monthly('Or none', { opens: true });
    const other = await monthly('Other series', { opens: true });
    const body = orderFor(event, [{ given: 'Eve', family: 'Of-None' }]);
    expect((await order(event.slug, { ...body, also: [other.event.slug] })).problem.fields).toMatchObject([
      { path: 'also.0', code: 'series-not-a-date' },
    ]);
    expect((await order(event.slug, { ...body, also: ['nothing-here'] })).status).toBe(404);
    const third = (await series(id)).dates[2]!;
    const before = (await page(third.id)).plan.slug!;
    await save(third.id, { slug: 'or-none-renamed' });
    expect(
      (await order(event.slug, { ...body, also: ['or-none-renamed', before] })).problem.fields,
    ).toMatchObject([{ path: 'also.1', code: 'series-not-a-date' }]);
    const second = (await series(id)).dates[1]!;
    const { offers, slug } = (await page(second.id)).plan;
    await save(second.id, { offers: offers.map((o) => ({ ...o, name: 'Only here' })) });
    expect((await order(event.slug, { ...body, also: [slug!] })).problem.fields).toMatchObject([
      { path: 'also.0', code: 'offer-not-there' },
    ]);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    expect(rows).toEqual([]);
  });
});

test('the horizon rolls forward by itself, and after a month without a server', async () => {
  const { id } = await monthly('Rolls');
  const { nextAt } = await series(id);
  expect(nextAt).toBe('2026-08-04T12:30:00.000Z');
  await world.runner.moveTo('2026-08-04T12:29:00.000Z');
  expect(await slots(id)).toHaveLength(3);
  await world.runner.moveTo('2026-10-05T12:00:00.000Z');
  expect(await slots(id)).toEqual(['2026-08-05', '2026-09-02', '2026-10-07', '2026-11-04', '2026-12-02']);
});
