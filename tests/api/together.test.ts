import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import type { SettledTogether } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import type { SeriesChange } from '#contract/series.ts';
import { graceMinutes, quietHours } from '#core/changes/aspects.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { clearAndOpen, type OpenEvent, openEvent, orderFor } from './scenes.ts';
import { everything, remembers } from './tables.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());
const wait = (minutes: number) => world.moveTo(plusMinutes(world.app.clock.now(), minutes));

const page = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
const series = (id: string) => odalys.call('GET /api/series/:id', { params: { id } });
const settle = (of: Partial<SettledTogether> = {}): SettledTogether => ({
  words: '',
  letters: [],
  money: 'by hand',
  fundId: null,
  ...of,
});
const untold = (to: 'registrants' | 'waitlist', why: string) => ({ to, told: false, why });
const registrantsTold = (letters: { to: string; told: boolean; count: number }[]) =>
  letters.filter((l) => l.to === 'registrants').map((l) => [l.told, l.count]);
const letters = (kind: string) =>
  world.app.db.query<{ name: string; body: string; state: string; eventId: string }>(
    'select name, body, state, event_id from messages where change_id is not null and kind = $1 order by name, event_id',
    [kind],
  );
const book = (slug: string, event: Parameters<typeof orderFor>[0], given: string) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug },
    body: orderFor(event, [{ given, family: 'Of-Series' }]),
  });
const pay = (token: string) =>
  world.anyone.call('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000 0000 0000 0001', expiry: '12/30' },
  });

/** A monthly series whose first and second dates are open with somebody on each; the third is a draft. */
interface Scene {
  id: string;
  patternId: string;
  event: OpenEvent;
  dates: string[];
  tokens: string[];
}
async function scene(title: string, price = 0): Promise<Scene> {
  const event = await openEvent(world, {
    title,
    price,
    startsLocal: '2026-08-05T09:30',
    endsLocal: '2026-08-05T12:30',
  });
  const { id } = await odalys.call('POST /api/series', {
    body: {
      eventId: event.id,
      rule: 'FREQ=MONTHLY;BYDAY=1WE',
      startsLocal: '2026-08-05T09:30',
      extra: [],
      skipped: [],
      horizon: 3,
      opens: false,
    },
  });
  const { dates, patternId } = await series(id);
  const second = dates[1]!.id;
  await clearAndOpen(world, second);
  const tokens = [(await book(event.slug, event, 'Ana')).token];
  const { plan } = await page(second);
  const { slug } = plan;
  const own: OpenEvent = { ...event, id: second, slug: slug!, offers: plan.offers };
  tokens.push((await book(slug!, own, 'Bo')).token);
  if (price) for (const token of tokens) await pay(token);
  // What is due of it is done before anything is compared, however slow the machine is.
  await world.runner.run();
  return { id, patternId, event, dates: dates.map((d) => d.id), tokens };
}
const settings = async (id: string) => {
  const { version, rule, startsLocal, extra, skipped, horizon, opens } = await series(id);
  return { version, rule, startsLocal, extra, skipped, horizon, opens, from: null, decisions: [] };
};
const changesOf = (patternId: string) =>
  odalys.call('GET /api/events/:id/changes', { params: { id: patternId } });
const takeBack = (eventId: string, change: string) =>
  odalys.try('POST /api/events/:id/changes/:change/back', { params: { id: eventId, change }, body: {} });

/** What was remembered of it is no state of anything. */
const but = [...remembers, 'clearances', 'clearance_steps'];

describe('a date taken over into its series', () => {
  let of: Scene;
  beforeEach(async () => {
    of = await scene(`Carried ${world.app.ids.id().slice(-6)}`);
    const { version } = await page(of.dates[0]!);
    await odalys.call('PATCH /api/events/:id', {
      params: { id: of.dates[0]! },
      body: { version, change: { endsLocal: '2026-08-05T14:00', capacity: 30 } satisfies Partial<EventPlan> },
    });
    await wait(graceMinutes + 1);
  });
  const body = (settled?: SettledTogether) => ({
    fields: ['endsLocal' as const],
    scope: 'later' as const,
    also: [],
    ...(settled && { settle: settled }),
  });
  const carry = (settled?: SettledTogether) =>
    odalys.try('POST /api/events/:id/series/carry', { params: { id: of.dates[0]! }, body: body(settled) });

  test('says whom it tells before it is done, in letters that can be written or left out with why', async () => {
    const before = await everything(world);
    const told = await odalys.call('POST /api/events/:id/series/carry/what-if', {
      params: { id: of.dates[0]! },
      body: body(settle({ words: 'There is soup afterwards.' })),
    });
    expect(registrantsTold(told.letters)).toEqual([[true, 1]]);
    expect(told.letters[0]!.sample).toMatchObject({ name: 'Bo Of-Series' });
    expect(told.letters[0]!.sample!.body).toContain('There is soup afterwards.');
    expect(await everything(world)).toEqual(before);

    const why = await carry(settle({ letters: [untold('registrants', '')] }));
    expect(why.problem.fields).toMatchObject([{ path: 'settle.letters.0.why', code: 'why-untold' }]);
    expect((await carry(settle({ letters: [untold('registrants', 'We ring them.')] }))).status).toBe(201);
    expect((await letters('changed')).filter((m) => m.eventId === of.dates[1])).toEqual([]);
    const [made] = await odalys.call('GET /api/events/:id/changes', { params: { id: of.dates[1]! } });
    expect(made!.untold).toEqual([{ to: 'registrants', why: 'We ring them.' }]);
  });

  test('is taken back as one, while nothing has gone out; a date of it is not taken back alone', async () => {
    const before = await everything(world, but);
    expect((await carry(settle({ words: 'Soup.' }))).status).toBe(201);
    expect((await page(of.dates[1]!)).plan.endsLocal).toBe('2026-09-02T14:00');
    expect((await page(of.dates[2]!)).plan.endsLocal).toBe('2026-10-07T14:00');
    expect((await letters('changed')).filter((m) => m.eventId === of.dates[1])).toMatchObject([
      { name: 'Bo Of-Series', state: 'planned' },
    ]);
    const [one] = await odalys.call('GET /api/events/:id/changes', { params: { id: of.dates[1]! } });
    expect((await takeBack(of.dates[1]!, one!.id)).problem.code).toBe('change-of-series');
    expect((await series(of.id)).settling).toBe(true);
    const [all] = await changesOf(of.patternId);
    expect(all).toMatchObject({ letters: 1, stands: null, fields: ['endsLocal'] });
    expect((await takeBack(of.patternId, all!.id)).status).toBe(201);
    expect((await series(of.id)).settling).toBe(false);
    expect(await everything(world, [...but, 'series'])).toEqual(
      Object.fromEntries(Object.entries(before).filter(([name]) => name !== 'series')),
    );
    expect((await page(of.dates[1]!)).plan.endsLocal).toBe('2026-09-02T12:30');
    expect((await page(of.dates[2]!)).plan.endsLocal).toBe('2026-10-07T12:30');
    // What is made from now on begins with what the series said before.
    expect((await page(of.patternId)).plan.endsLocal).toBeNull();
    await wait(graceMinutes + 1);
    expect((await letters('changed')).filter((m) => m.eventId === of.dates[1])).toEqual([]);
  });

  test('keeps nobody’s name who asks to be forgotten meanwhile', async () => {
    const { id: contactId } = await odalys.call('POST /api/contacts', {
      body: { given: 'Ferelith', family: 'Quayle' },
    });
    const speaks = async (speakers: EventPlan['speakers']) => {
      const { version } = await page(of.dates[0]!);
      await odalys.call('PATCH /api/events/:id', {
        params: { id: of.dates[0]! },
        body: { version, change: { speakers } },
      });
      await odalys.call('POST /api/events/:id/series/carry', {
        params: { id: of.dates[0]! },
        body: { fields: ['speakers'], scope: 'all', also: [] },
      });
    };
    const kept = async () =>
      (await world.app.db.query("select 1 as x from change_rows where before ->> 'name' like 'Ferelith%'"))
        .length;
    await speaks([
      { id: world.app.ids.id(), contactId, name: 'Ferelith Quayle', line: { en: '' }, pictureId: null },
    ]);
    await speaks([]);
    expect(await kept()).toBeGreaterThan(0);
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: contactId },
      body: { name: 'Ferelith Quayle' },
    });
    expect(await kept()).toBe(0);
  });

  test('stands once a letter has gone out, or somebody went on from it', async () => {
    await carry();
    await wait(graceMinutes + 1);
    const [all] = await changesOf(of.patternId);
    expect(all!.settlesAt).toBeNull();
    expect((await takeBack(of.patternId, all!.id)).problem.code).toBe('change-settled');
    expect((await letters('changed')).filter((m) => m.eventId === of.dates[1])).toMatchObject([
      { state: 'sent' },
    ]);
  });

  test('a letter that is let go now goes for every date, and then it stands', async () => {
    await carry();
    const [all] = await changesOf(of.patternId);
    expect(
      await odalys.call('POST /api/events/:id/changes/:change/now', {
        params: { id: of.patternId, change: all!.id },
        body: {},
      }),
    ).toEqual({ letters: 1 });
    await wait(1);
    expect((await takeBack(of.patternId, all!.id)).problem.code).toBe('change-settled');
  });

  test('somebody who changed a date since keeps what they wrote: it stands', async () => {
    await carry(settle({ letters: [untold('registrants', 'We ring them.')] }));
    const { version } = await page(of.dates[2]!);
    await odalys.call('PATCH /api/events/:id', {
      params: { id: of.dates[2]! },
      body: { version, change: { endsLocal: '2026-10-07T15:00' } },
    });
    const [all] = await changesOf(of.patternId);
    expect((await takeBack(of.patternId, all!.id)).problem.code).toBe('change-plan-changed');
  });
});

describe('when a series takes place, changed', () => {
  test('dates that move tell those on them; taken back, the rule, every date and those that went are there again', async () => {
    const of = await scene('Thursdays');
    const [first, second, third] = of.dates as [string, string, string];
    const before = await everything(world, [...but, 'series']);
    const slots = (await series(of.id)).dates.map((d) => d.slot);
    const body: SeriesChange = {
      ...(await settings(of.id)),
      // The October draft has no place in it any more, and one in December is made.
      rule: 'FREQ=MONTHLY;BYDAY=1TH;BYMONTH=8,9',
      extra: [{ startsLocal: '2026-08-29T14:00', endsLocal: null }],
      words: '',
      decisions: [
        { id: first, become: 'move' },
        { id: second, become: 'call off' },
      ],
      settle: settle({ words: 'The hall is ours on Thursdays.' }),
    };
    const refused = await odalys.try('PATCH /api/series/:id', { params: { id: of.id }, body });
    expect(refused.problem.fields).toMatchObject([{ path: 'words', code: 'why-for-the-event' }]);
    const told = await odalys.call('POST /api/series/:id/what-if', { params: { id: of.id }, body });
    expect(registrantsTold(told.letters)).toEqual([[true, 2]]);
    expect(await everything(world, [...but, 'series'])).toEqual(before);
    const done = await odalys.call('PATCH /api/series/:id', {
      params: { id: of.id },
      body: { ...body, words: 'Too few of us.' },
    });
    expect(registrantsTold(done.letters)).toEqual([[true, 2]]);
    expect((await page(first)).plan.startsLocal).toBe('2026-08-06T09:30');
    expect((await page(second)).state).toBe('called off');
    expect((await page(third)).state).toBe('shelved');
    expect((await series(of.id)).dates.map((d) => d.id)).not.toContain(third);
    const [all] = await changesOf(of.patternId);
    expect(all).toMatchObject({ letters: 2, stands: null });
    expect((await takeBack(of.patternId, all!.id)).status).toBe(201);
    expect((await series(of.id)).dates.map((d) => d.slot)).toEqual(slots);
    expect((await page(third)).state).toBe('draft');
    expect((await page(second)).state).toBe('open');
    expect(await everything(world, [...but, 'series'])).toEqual(before);
    // Whoever had the settings open sees those from before first.
    expect(
      (
        await odalys.try('PATCH /api/series/:id', {
          params: { id: of.id },
          body: { ...body, version: done.version, words: 'Again.' },
        })
      ).problem.code,
    ).toBe('series-changed');
  });

  test('a draft that goes is deleted once nothing can be taken back, but not one that somebody brought back', async () => {
    const of = await scene('Gone Drafts');
    const third = of.dates[2]!;
    const body = { ...(await settings(of.id)), rule: 'FREQ=MONTHLY;BYDAY=1WE;BYMONTH=8,9' };
    await odalys.call('PATCH /api/series/:id', { params: { id: of.id }, body });
    expect((await page(third)).state).toBe('shelved');
    await wait(quietHours * 60 + 1);
    expect((await odalys.try('GET /api/events/:id', { params: { id: third } })).status).toBe(404);
    expect((await changesOf(of.patternId))[0]!.settlesAt).toBeNull();

    const other = await scene('Kept Drafts');
    await odalys.call('PATCH /api/series/:id', {
      params: { id: other.id },
      body: { ...(await settings(other.id)), rule: 'FREQ=MONTHLY;BYDAY=1WE;BYMONTH=8,9' },
    });
    await odalys.call('POST /api/events/:id/state', {
      params: { id: other.dates[2]! },
      body: { move: 'bring back', words: '' },
    });
    await wait(quietHours * 60 + 1);
    expect((await page(other.dates[2]!)).state).toBe('draft');
  });

  test('somebody registered for a date that was made with it: it stands', async () => {
    const of = await scene('Made Dates');
    await odalys.call('PATCH /api/series/:id', {
      params: { id: of.id },
      body: {
        ...(await settings(of.id)),
        opens: true,
        extra: [{ startsLocal: '2026-08-22T09:30', endsLocal: null }],
      },
    });
    const made = (await series(of.id)).dates.find((d) => d.slot.startsWith('2026-08-22'))!;
    const { plan } = await page(made.id);
    const { slug } = plan;
    expect((await page(made.id)).state).toBe('open');
    await book(slug!, { ...of.event, id: made.id, slug: slug!, offers: plan.offers }, 'Cy');
    const changes = await changesOf(of.patternId);
    const open = changes.filter((c) => c.settlesAt !== null);
    expect(open).toHaveLength(1);
    expect((await takeBack(of.patternId, open[0]!.id)).problem.code).toBe('change-seats-changed');
    // Of those nobody is on, nothing is left.
    const other = await scene('Made In Vain');
    const before = await everything(world, [...but, 'series']);
    await odalys.call('PATCH /api/series/:id', {
      params: { id: other.id },
      body: {
        ...(await settings(other.id)),
        opens: true,
        extra: [{ startsLocal: '2026-08-22T09:30', endsLocal: null }],
      },
    });
    const [all] = await changesOf(other.patternId);
    expect((await takeBack(other.patternId, all!.id)).status).toBe(201);
    expect(await everything(world, [...but, 'series'])).toEqual(before);
  });
});

describe('a series called off', () => {
  test('says what goes back, asks each what becomes of it, and is taken back with the money', async () => {
    const of = await scene('Paid', 1500);
    const before = await everything(world, [...but, 'series']);
    const told = await odalys.call('POST /api/series/:id/call-off/what-if', {
      params: { id: of.id },
      body: { from: null, settle: settle({ money: 'ask' }) },
    });
    expect(told).toMatchObject({
      calledOff: 2,
      dropped: 1,
      money: { orders: 2, sums: [{ amount: 3000, currency: 'CAD' }] },
    });
    expect(registrantsTold(told.letters)).toEqual([[true, 2]]);
    expect(await everything(world, [...but, 'series'])).toEqual(before);
    const body = { from: null, words: 'The boat is holed.', settle: settle({ money: 'ask' }) };
    await odalys.call('POST /api/series/:id/call-off', { params: { id: of.id }, body });
    const bodies = (await letters('called off')).filter((m) => of.dates.includes(m.eventId));
    expect(bodies.map((m) => [m.name, m.body.includes('The boat is holed.')])).toEqual([
      ['Ana Of-Series', true],
      ['Bo Of-Series', true],
    ]);
    const money = (token: string) =>
      world.anyone.call('GET /api/public/orders/:token/money', { params: { token } });
    expect(await money(of.tokens[1]!)).toMatchObject({ amount: 1500 });
    const [all] = await changesOf(of.patternId);
    expect(all).toMatchObject({
      kind: 'called off',
      letters: told.letters.reduce((n, l) => n + l.count, 0),
      words: 'The boat is holed.',
    });
    expect((await takeBack(of.patternId, all!.id)).status).toBe(201);
    expect(await money(of.tokens[1]!)).toBeNull();
    expect((await series(of.id)).dates.map((d) => d.state)).toEqual(['open', 'open', 'draft']);
    expect(await everything(world, [...but, 'series'])).toEqual(before);
  });

  test('who may not write to people decides nothing about letters', async () => {
    const of = await scene('Whose Letters');
    const imani = await world.as('imani');
    expect(
      (
        await imani.try('POST /api/series/:id/call-off', {
          params: { id: of.id },
          body: {
            from: null,
            words: 'no reason',
            settle: settle({ letters: [untold('registrants', 'why')] }),
          },
        })
      ).status,
    ).toBe(403);
  });
});
