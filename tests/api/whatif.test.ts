import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import type { Settling } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import { graceMinutes } from '#core/changes/aspects.ts';
import { answered } from '#core/clearance/facts.ts';
import { countOf, noConsequences } from '#core/events/consequences.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';
import { everything, remembers } from './tables.ts';

let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());
const params = () => ({ id: event.id });
const page = () => odalys.call('GET /api/events/:id', { params: params() });
const order = (given: string, more: object = {}, people = 1) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(
      event,
      Array.from({ length: people }, (_, n) => ({ given: n ? `${given}${n}` : given, family: 'Sedge' })),
      more,
    ),
  });
type Settle = Partial<Settling>;
const tryIt = async (change: Partial<EventPlan>, settle?: Settle) =>
  odalys.call('POST /api/events/:id/what-if', {
    params: params(),
    body: { version: (await page()).version, change, ...(settle && { settle }) },
  });
const save = async (change: Partial<EventPlan>, settle?: Settle) =>
  odalys.try('PATCH /api/events/:id', {
    params: params(),
    body: { version: (await page()).version, change, ...(settle && { settle }) },
  });
const callOff = (settle?: Settle, words = 'storm warning') =>
  odalys.call('POST /api/events/:id/state', {
    params: params(),
    body: { move: 'call off', words, ...(settle && { settle }) },
  });
const letters = (changeId: string) =>
  world.app.db.query<{
    kind: string;
    name: string;
    address: string | null;
    state: string;
    subject: string;
    body: string;
    plannedFor: string;
    calendar: string | null;
  }>(
    `select kind, name, address, state, subject, body, planned_for, coalesce(calendar, case when brings then (select f.calendar from change_files f
       where f.change_id = messages.change_id and f.language = messages.language) end) as calendar from messages where change_id = $1 order by kind, name`,
    [changeId],
  );
const changes = () => odalys.call('GET /api/events/:id/changes', { params: params() });
const back = (changeId: string) =>
  odalys.try('POST /api/events/:id/changes/:change/back', {
    params: { ...params(), change: changeId },
    body: {},
  });
const now = () => world.app.clock.now();

const moved = { startsLocal: '2026-08-15T09:00', endsLocal: '2026-08-15T16:30' };

/** An open event of two seats, both taken, with somebody waiting, two shifts and two more reminders. */
async function busyEvent(title: string, scene: Parameters<typeof openEvent>[1] = {}): Promise<void> {
  event = await openEvent(world, { title, capacity: 2, ...scene });
  const { plan, version } = await page();
  const step = {
    moment: 'start' as const,
    offsetMinutes: 0,
    audience: 'orders' as const,
    subject: { en: 'Soon' },
    body: { en: 'See you there.' },
  };
  await odalys.call('PATCH /api/events/:id', {
    params: params(),
    body: {
      version,
      change: {
        messages: [
          ...plan.messages,
          { ...step, id: crypto.randomUUID(), name: 'A week before', offsetDays: -7 },
          { ...step, id: crypto.randomUUID(), name: 'The day before', offsetDays: -1 },
        ] as never,
      },
    },
  });
  for (const role of ['Landing', 'Sweep'])
    await odalys.call('POST /api/events/:id/shifts', {
      params: params(),
      body: { role, startsLocal: '2026-08-08T08:00', endsLocal: '2026-08-08T12:00', wished: 2 },
    });
  await order('Ida');
  await order('Ole', { language: 'fr' });
  await order('Una', { waitlist: true });
}

/** Somebody new signs up for the first shift of the event. */
async function helper(given: string): Promise<void> {
  const { shifts } = await odalys.call('GET /api/events/:id/crew', { params: params() });
  await world.anyone.call('POST /api/public/shifts/:id/sign-up', {
    params: { id: shifts[0]!.id },
    body: { given, family: 'Reed', email: `${given.toLowerCase()}@harbourpost.example`, phone: '' },
  });
}

describe('what a change would bring about', () => {
  test('is told, nothing of it is done, and then it is exactly that', async () => {
    await busyEvent('Moved, or not');
    const tried = [
      moved,
      { capacity: 3 },
      { facts: answered('boats') },
      { zone: 'America/St_Johns' },
      { messages: [] },
    ];
    const told = [];
    for (const change of tried) {
      const before = await everything(world);
      const { followed } = await tryIt(change);
      expect(await everything(world)).toEqual(before);
      expect((await save(change)).body.followed).toEqual(followed);
      told.push(followed);
    }
    const [date, room, boats, zone, silent] = told;
    expect(date!.shifts).toHaveLength(2);
    expect(date!.shifts[0]).toMatchObject({
      from: { startsLocal: '2026-08-08T08:00' },
      to: { startsLocal: '2026-08-15T08:00' },
    });
    expect(countOf(date!, 'moved')).toBeGreaterThanOrEqual(4);
    expect(date!.messages.find((m) => m.line === 'The day before')).toMatchObject({
      fate: 'moved',
      count: 2,
      from: '2026-08-07T12:00:00.000Z',
      to: '2026-08-14T12:00:00.000Z',
    });
    expect(room).toMatchObject({ ...noConsequences, offered: [expect.stringContaining('Una')] });
    expect(boats).toMatchObject({ ...noConsequences, reopened: ['Safety'] });
    expect(zone!.shifts).toHaveLength(2);
    expect(countOf(silent!, 'held back')).toBeGreaterThanOrEqual(4);
  });

  test('is told of calling off as well; what cannot be done is refused beforehand as it would be then', async () => {
    await busyEvent('Called off, or not');
    const before = await everything(world);
    const whatIf = (move: 'call off' | 'wrap up') =>
      odalys.try('POST /api/events/:id/what-if', { params: params(), body: { move } });
    const told = (await whatIf('call off')).body;
    expect(told.followed.letGo).toEqual([{ name: 'Una Sedge', seats: 1 }]);
    expect(countOf(told.followed, 'held back')).toBeGreaterThanOrEqual(4);
    expect(told.letters.map((l) => [l.to, l.count, l.told])).toEqual([
      ['registrants', 2, true],
      ['waitlist', 1, true],
    ]);
    expect((await whatIf('wrap up')).problem.code).toBe('not-over');
    expect(await everything(world)).toEqual(before);
    expect((await callOff()).followed).toEqual(told.followed);
  });

  test('says which reminders fall away because their moment has passed', async () => {
    await busyEvent('Nearer');
    await world.moveTo('2026-07-20T12:00:00.000Z');
    const soon = { startsLocal: '2026-07-25T09:00', endsLocal: '2026-07-25T16:30' };
    const { followed } = await tryIt(soon);
    expect(followed.messages.find((m) => m.line === 'A week before')).toMatchObject({
      fate: 'held back',
      count: 2,
      why: 'its moment has passed since the date moved',
    });
    expect((await save(soon)).body.followed).toEqual(followed);
  });

  test('nobody is sent to the past, and two who change the date at once do not undo each other', async () => {
    await busyEvent('Yesterday');
    const past = { startsLocal: '2026-05-02T09:00', endsLocal: '2026-05-02T12:00' };
    expect((await save(past)).problem.fields).toMatchObject([
      { path: 'startsLocal', message: expect.stringContaining('in the past') },
    ]);
    const { version } = await page();
    const both = await Promise.all(
      ['2026-08-15', '2026-08-22'].map((day) =>
        odalys.try('PATCH /api/events/:id', {
          params: params(),
          body: { version, change: { startsLocal: `${day}T09:00`, endsLocal: `${day}T16:30` } },
        }),
      ),
    );
    expect(both.map((b) => b.status).sort()).toEqual([200, 409]);
    expect((await changes()).filter((c) => !c.undoneAt)).toHaveLength(1);
  });
});

describe('everybody is told', () => {
  test('with old and new, in their language, with a calendar file that moves the entry, once it stands', async () => {
    await busyEvent('Told of');
    await helper('Pia');
    const { changeId } = (await save(moved, { words: 'The tide is kinder a week later.' })).body;
    const out = await letters(changeId!);
    expect(out.map((m) => [m.name, m.state])).toEqual([
      ['Ida Sedge', 'planned'],
      ['Ole Sedge', 'planned'],
      ['Pia Reed', 'planned'],
      ['Una Sedge', 'planned'],
    ]);
    for (const { plannedFor } of out) expect(plannedFor).toBe(plusMinutes(now(), graceMinutes));
    const [ida, ole, pia, una] = out;
    expect(ida!.subject).toBe('Changed: Told of');
    expect(ida!.body).toContain('When: Saturday 15 August 2026, 09:00–16:30');
    expect(ida!.body).toContain('\n  instead of Saturday 8 August 2026, 09:00–16:30');
    expect(ida!.body).toContain('The tide is kinder a week later.');
    expect(ole!.subject).toBe('Changement : Told of');
    expect(ole!.body).toContain('au lieu de samedi 8 août 2026');
    expect(pia!.body).toMatch(
      /Your shift: Landing, Sat 15 Aug 08:00.*\n {2}instead of Landing, Sat 8 Aug 08:00/u,
    );
    expect(ida!.calendar).toContain(`UID:${event.id}@acolyte`);
    expect(ida!.calendar).toContain('DTSTART;TZID=America/Halifax:20260815T090000');
    expect(pia!.calendar).toContain('DTSTART;TZID=America/Halifax:20260815T080000');
    expect(una!.calendar).toBeNull();
    await world.moveTo(plusMinutes(now(), graceMinutes + 1));
    expect((await letters(changeId!)).map((m) => m.state)).toEqual(['sent', 'sent', 'sent', 'sent']);
    const [mail] = await world.app.db.query<{ calendar: string | null }>(
      "select calendar from standin_mail where subject = 'Changed: Told of' and address like 'ida%'",
    );
    expect(mail!.calendar).toContain('20260815T090000');
  });

  test('of a place, but not of a price; unless somebody says no, in words that are kept', async () => {
    await busyEvent('Of some things');
    const { plan } = await page();
    const dearer = { offers: plan.offers.map((o) => ({ ...o, price: 900 })) };
    expect((await tryIt(dearer)).letters.map((l) => l.told)).toEqual([false, false]);
    const elsewhere = {
      venueId: null,
      online: { link: 'https://meet.harbourpost.example/x', instructions: { en: '' } },
    };
    const untold = {
      letters: [{ to: 'waitlist' as const, told: false, why: 'We write to them ourselves.' }],
    };
    const told = await tryIt(elsewhere, untold);
    expect(told.letters.map((l) => [l.to, l.told, l.calendar])).toEqual([
      ['registrants', true, 'moves'],
      ['waitlist', false, null],
    ]);
    const { changeId } = (await save(elsewhere, untold)).body;
    expect((await letters(changeId!)).map((m) => m.name)).toEqual(['Ida Sedge', 'Ole Sedge']);
    expect((await changes())[0]).toMatchObject({
      untold: [{ to: 'waitlist', why: 'We write to them ourselves.' }],
      letters: 2,
    });
    const refused = await save(moved, { letters: [{ to: 'waitlist', told: false, why: '' }] });
    expect(refused.problem.fields).toMatchObject([{ path: 'settle.letters.0.why' }]);
  });

  test('in the words of the coordinator; a field that stands for nothing is said', async () => {
    await busyEvent('In our words');
    const words = {
      to: 'registrants' as const,
      told: true,
      why: '',
      subject: { en: 'A new day for {{event}}' },
      body: { en: 'Dear {{name}},\n\n{{changes}}\n\n{{words}}' },
    };
    const wrong = await save(moved, { letters: [{ ...words, body: { en: 'Dear {{nmae}}' } }] });
    expect(wrong.problem.fields).toMatchObject([
      { path: 'settle.letters.0.body', message: '“nmae” is not a merge field.' },
    ]);
    const told = await tryIt(moved, { letters: [words] });
    expect(told.letters[0]!.sample).toMatchObject({
      subject: 'A new day for In our words',
      body: expect.stringMatching(/^Dear Ida,\n\nWhen: Saturday 15 August[^\n]+\n {2}instead of [^\n]+$/u),
    });
    const { changeId } = (await save(moved, { letters: [words] })).body;
    // Nobody wrote it in French: what was written says more than a draft that says something else.
    expect((await letters(changeId!))[1]).toMatchObject({
      name: 'Ole Sedge',
      subject: 'A new day for In our words',
    });
  });
});

describe('taking it back', () => {
  const standing = async () => {
    const { version: _, ...rest } = (
      await world.app.db.query<Record<string, unknown>>('select * from events where id = $1', [event.id])
    )[0]! as { version: number };
    return { ...rest, updatedAt: null, tables: await everything(world, remembers) };
  };

  beforeEach(() => busyEvent('There and back'));

  test.each([
    ['a moved date', () => save(moved)],
    ['another place and less room', () => save({ venueId: null, capacity: 1 })],
    ['more room, with seats offered', () => save({ capacity: 3 })],
    ['what reopens a step', () => save({ ...moved, facts: answered('boats') })],
    ['a calling off', () => callOff({ money: 'return' }).then((body) => ({ body }))],
  ])('%s is taken back with all that followed', async (_, change) => {
    await helper('Pia');
    const before = await standing();
    const { changeId } = (await change()).body;
    expect(await standing()).not.toEqual(before);
    expect((await changes())[0]).toMatchObject({ stands: null, settlesAt: expect.any(String) });
    expect((await back(changeId!)).status).toBe(201);
    expect(await standing()).toEqual(before);
    expect((await changes())[0]).toMatchObject({ undoneBy: expect.stringContaining('Odalys') });
    // Nothing of it goes out later, and it is taken back once.
    await world.moveTo(plusMinutes(now(), graceMinutes + 5));
    expect(await letters(changeId!)).toEqual([]);
    expect((await back(changeId!)).problem.code).toBe('change-undone');
  });

  test('is refused once letters have gone out, and says so before', async () => {
    const { changeId } = (await save(moved)).body;
    const gone = await odalys.call('POST /api/events/:id/changes/:change/now', {
      params: { ...params(), change: changeId! },
      body: {},
    });
    expect(gone.letters).toBe(3);
    await world.moveTo(plusMinutes(now(), 1));
    expect((await changes())[0]).toMatchObject({ settlesAt: null });
    expect((await back(changeId!)).problem.code).toBe('change-settled');
    expect((await page()).plan.startsLocal).toBe(moved.startsLocal);
  });

  test('is refused where somebody went on from it, with what', async () => {
    const first = (await save(moved)).body.changeId!;
    const second = (await save({ startsLocal: '2026-08-22T09:00', endsLocal: '2026-08-22T16:30' })).body;
    expect((await back(first)).problem.code).toBe('change-plan-changed');
    expect((await changes())[1]!.stands).toContain('changed again since');
    // The other way about, both can be.
    expect((await back(second.changeId!)).status).toBe(201);
    expect((await back(first)).status).toBe(201);
    expect((await page()).plan.startsLocal).toBe('2026-08-08T09:00');
    const offered = (await save({ capacity: 3 })).body.changeId!;
    const [una] = await world.app.db.query<{ id: string }>(
      "select id from orders where event_id = $1 and buyer_given = 'Una'",
      [event.id],
    );
    await odalys.call('POST /api/registrations/:id/withdraw', {
      params: {
        id: (
          await world.app.db.query<{ id: string }>('select id from registrations where order_id = $1', [
            una!.id,
          ])
        )[0]!.id,
      },
      body: { reason: 'asked to' },
    });
    expect((await back(offered)).problem.code).toBe('change-seats-changed');
  });

  test('leaves what came meanwhile, at the time that holds again', async () => {
    await save({ capacity: 5 });
    const { changeId } = (await save(moved)).body;
    await order('Kit');
    expect((await back(changeId!)).status).toBe(201);
    const planned = await world.app.db.query<{ plannedFor: string }>(
      "select m.planned_for from messages m join message_lines s on s.id = m.line_id where m.event_id = $1 and s.name = 'The day before' and m.name like 'Kit%'",
      [event.id],
    );
    expect(planned).toEqual([{ plannedFor: '2026-08-07T12:00:00.000Z' }]);
  });
});
