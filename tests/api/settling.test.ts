import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Settling } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import { sessionsAlong, unplaced } from '#core/agenda/session.ts';
import { graceMinutes } from '#core/changes/aspects.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

type Person = { given: string; family: string; birthDate?: string };
const order = async (event: OpenEvent, people: Person[], more: object = {}) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, people, more),
  });
const sedge = (...given: string[]): Person[] => given.map((g) => ({ given: g, family: 'Sedge' }));
const pay = (token: string) =>
  world.anyone.try('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000 0000 0000 0001', expiry: '12/30' },
  });
const version = async (id: string) => (await odalys.call('GET /api/events/:id', { params: { id } })).version;
type Settle = Partial<Settling>;
const tryIt = async (id: string, change: Partial<EventPlan>, settle: Settle = {}, who = odalys) =>
  who.call('POST /api/events/:id/what-if', {
    params: { id },
    body: { version: await version(id), change, settle },
  });
const save = async (id: string, change: Partial<EventPlan>, settle: Settle = {}) =>
  odalys.try('PATCH /api/events/:id', {
    params: { id },
    body: { version: await version(id), change, settle },
  });
const callOff = (id: string, settle: Settle) =>
  odalys.call('POST /api/events/:id/state', {
    params: { id },
    body: { move: 'call off', words: 'storm warning', settle },
  });
const mail = (name: string) =>
  world.app.db.query<{ kind: string; subject: string; body: string }>(
    'select kind, subject, body from messages where name = $1 and change_id is not null order by created_at, kind',
    [name],
  );
const moneyOf = (token: string) =>
  world.anyone.call('GET /api/public/orders/:token/money', { params: { token } });
const wait = (minutes: number) => world.moveTo(plusMinutes(world.app.clock.now(), minutes));
const day = (date: string) => ({ startsLocal: `${date}T09:00`, endsLocal: `${date}T16:30` });

describe('less room than was given away', () => {
  test('whose seats no longer fit is said, last confirmed first, as whole parties; they wait first in line, and know', async () => {
    const event = await openEvent(world, { title: 'Smaller', capacity: 6 });
    await order(event, sedge('Ada'));
    await wait(1);
    await order(event, sedge('Bea', 'Ben'));
    await wait(1);
    await order(event, sedge('Cleo', 'Cy', 'Cora'));
    await order(event, sedge('Walt'), { waitlist: true });
    await order(event, sedge('Vera', 'Val'), { waitlist: true });
    await wait(5);
    const told = await tryIt(event.id, { capacity: 4 });
    expect(told.over).toMatchObject({ seats: 2, losing: [{ name: 'Cleo Sedge', seats: 3 }] });
    // Nobody has to lose anything: then they come, beyond the capacity.
    const toWaitlist = told.over!.losing.map((p) => p.orderId);
    const settled = await tryIt(event.id, { capacity: 4 }, { toWaitlist });
    expect(settled.over).toBeNull();
    expect(settled.letters.map((l) => [l.to, l.count, l.told])).toEqual([
      ['registrants', 2, false],
      ['losing', 1, true],
      ['waitlist', 2, false],
    ]);
    expect((await save(event.id, { capacity: 4 }, { toWaitlist })).body.followed).toEqual(settled.followed);
    expect((await mail('Cleo Sedge')).at(-1)!.subject).toBe('Back on the waitlist: Smaller');
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const state = (given: string) => rows.find((r) => r.given.startsWith(given))!.state;
    expect([state('Ada'), state('Bea'), state('Cleo'), state('Walt')]).toEqual([
      'confirmed',
      'confirmed',
      'waitlisted',
      // One seat is left over, in which a party of three does not fit.
      'offered',
    ]);
    expect(settled.followed.offered).toEqual(['Walt Sedge']);
    // Before everybody who only ever waited, also those who fit as well.
    const { body } = await save(event.id, { capacity: 7 });
    expect(body.followed.offered).toEqual(['Cleo Sedge']);
  });

  test('an order of another event is not one of them', async () => {
    const event = await openEvent(world, { title: 'Mine' });
    const other = await openEvent(world, { title: 'Theirs' });
    await order(other, sedge('Dot'));
    const [row] = await world.app.db.query<{ id: string }>('select id from orders where event_id = $1', [
      other.id,
    ]);
    const refused = await save(event.id, { capacity: 3 }, { toWaitlist: [row!.id] });
    expect(refused.problem.fields).toMatchObject([{ path: 'settle.toWaitlist.0' }]);
    const nobody = await save(event.id, { capacity: 3 }, { takeOff: [row!.id] });
    expect(nobody.problem.fields).toMatchObject([{ path: 'settle.takeOff.0', code: 'not-on-shift' }]);
  });
});

describe('who is at two things at once', () => {
  test('is said where it is new, and can be taken off the shift with it', async () => {
    const event = await openEvent(world, { title: 'Canoe Day', ...day('2026-08-08') });
    const other = await openEvent(world, { title: 'Heron Count', ...day('2026-08-15') });
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role: 'Landing', startsLocal: '2026-08-08T08:00', endsLocal: '2026-08-08T12:00', wished: 2 },
    });
    const { shifts } = await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } });
    for (const given of ['Pia', 'Rae'])
      await world.anyone.call('POST /api/public/shifts/:id/sign-up', {
        params: { id: shifts[0]!.id },
        body: { given, family: 'Reed', email: `${given.toLowerCase()}.reed@harbourpost.example`, phone: '' },
      });
    await order(other, [{ given: 'Pia', family: 'Reed' }], { email: 'pia.reed@harbourpost.example' });
    await order(event, sedge('Finn'));
    await order(other, sedge('Finn'));
    const change = day('2026-08-15');
    const { atTwoThings } = await tryIt(event.id, change);
    expect(atTwoThings.map((p) => [p.name, p.here, p.there.title]).sort()).toEqual([
      ['Finn Sedge', 'seat', 'Heron Count'],
      ['Pia Reed', 'shift', 'Heron Count'],
    ]);
    const takeOff = atTwoThings.flatMap((p) => p.assignmentId ?? []);
    const settled = await tryIt(event.id, change, { takeOff });
    expect(settled.atTwoThings.map((p) => p.name)).toEqual(['Finn Sedge']);
    await save(event.id, change, { takeOff });
    const crew = await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } });
    expect(crew.shifts[0]!.assignments.map((a) => a.name)).toEqual(['Rae Reed']);
    expect((await mail('Pia Reed'))[0]!.body).toContain('Your shift falls away: Landing');
    // By an hour that changes nothing about it, it is not said again.
    expect((await tryIt(event.id, { startsLocal: '2026-08-15T09:30' })).atTwoThings).toEqual([]);
  });
});

describe('what else a date brings about', () => {
  test('whose age on the day is another, and whose signature no longer counts', async () => {
    const event = await openEvent(world, {
      title: 'Of Age',
      waiver: 'On the water',
      ...day('2026-08-08'),
    });
    const { token } = await order(event, [
      { given: 'Nell', family: 'Sedge', birthDate: '2007-08-12' },
      { given: 'Olga', family: 'Sedge', birthDate: '1980-01-01' },
    ]);
    const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    const nell = async () => (await look()).seats.find((s) => s.given === 'Nell')!;
    expect((await nell()).waiver).toBe('guardian');
    const told = await tryIt(event.id, day('2026-08-15'));
    expect(told.ages).toMatchObject([{ name: 'Nell Sedge', becomes: 'adult', signed: false }]);
    await save(event.id, day('2026-08-15'));
    expect((await nell()).waiver).toBe('self');
    expect((await tryIt(event.id, day('2026-08-22'))).ages).toEqual([]);
  });

  test('that registration has closed by then, and that the plan can no longer be cleared in time', async () => {
    const event = await openEvent(world, { title: 'Too late', ...day('2026-10-10'), so: ['boats'] });
    await save(event.id, { registrationClosesLocal: '2026-10-01T12:00' });
    const soon = new Date(Date.parse(world.app.clock.now()) + 3 * 86_400_000).toISOString().slice(0, 10);
    const told = await tryIt(event.id, {
      ...day(soon),
      registrationClosesLocal: '2026-07-01T12:00',
      capacity: 90,
    });
    expect(told.passed.map((p) => p.what)).toContain('closes');
    const { passed } = await tryIt(event.id, {
      ...day(soon),
      registrationClosesLocal: `${soon}T08:00`,
    });
    expect(passed.map((p) => p.what)).not.toContain('closes');
  });

  test('who leads two things then gives one up there, and somebody else leads it; taken back, they lead it again', async () => {
    const event = await openEvent(world, { title: 'Two Hands', ...day('2026-10-17') });
    const other = await openEvent(world, { title: 'Other Hands', ...day('2026-11-21') });
    for (const { id } of [event, other])
      await odalys.call('POST /api/events/:id/team', {
        params: { id },
        body: { name: 'Piers Hollin', email: 'piers@brackenmere.example', part: 'lead' },
      });
    const clash = day('2026-11-21');
    const odd = (await tryIt(event.id, clash)).odds.find((o) => o.of === 'lead')!;
    expect(odd).toMatchObject({ what: 'Other Hands', leads: [{ memberId: expect.any(String) }] });
    const offTeam = [odd.leads[0]!.memberId];
    expect((await tryIt(event.id, clash, { offTeam })).odds.map((o) => o.of)).not.toContain('lead');
    const nobody = await save(event.id, clash, { offTeam, leadEmail: 'nobody@brackenmere.example' });
    expect(nobody.problem.fields).toMatchObject([
      { path: 'settle.leadEmail', code: 'no-account-with-address' },
    ]);
    const gone = await save(event.id, clash, { offTeam: [other.id] });
    expect(gone.problem.fields).toMatchObject([{ path: 'settle.offTeam.0', code: 'not-on-team' }]);
    const team = async () =>
      (await odalys.call('GET /api/events/:id/team', { params: { id: event.id } })).members.map((m) => [
        m.email,
        m.part,
      ]);
    // Whoever only helps with the plan puts nobody off the team, and nobody in the lead.
    await odalys.call('POST /api/events/:id/team', {
      params: { id: event.id },
      body: { name: 'Imani Okarro', email: 'imani@brackenmere.example', part: 'helper', stage: 'plan' },
    });
    const imani = await world.as('imani');
    for (const settle of [{ offTeam }, { leadEmail: 'imani@brackenmere.example' }])
      expect(
        (
          await imani.try('POST /api/events/:id/what-if', {
            params: { id: event.id },
            body: { version: await version(event.id), change: clash, settle },
          })
        ).status,
      ).toBe(403);
    await odalys.call('POST /api/events/:id/team', {
      params: { id: event.id },
      body: { name: 'Tobias', email: 'tobias@brackenmere.example', part: 'co-organizer' },
    });
    const before = await team();
    const made = await save(event.id, clash, { offTeam, leadEmail: 'Tobias@brackenmere.example' });
    expect(await team()).toEqual([
      ['tobias@brackenmere.example', 'lead'],
      ['imani@brackenmere.example', 'helper'],
    ]);
    await odalys.call('POST /api/events/:id/changes/:change/back', {
      params: { id: event.id, change: made.body.changeId! },
      body: {},
    });
    expect(await team()).toEqual(before);
    // Also somebody who was not on the team before.
    await save(event.id, clash, { leadEmail: 'marit@brackenmere.example' });
    expect((await team())[0]).toEqual(['marit@brackenmere.example', 'lead']);
  });

  test('a session that no longer fits is said by itself, and goes with the change', async () => {
    const event = await openEvent(world, { title: 'Sessions', ...day('2026-10-24') });
    const { plan, version: seen } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const session = {
      ...unplaced(world.app.ids.id(), { en: 'Herons' }),
      day: 1,
      begins: '09:30',
      ends: '10:15',
    };
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version: seen, change: { sessions: [...plan.sessions, session] } },
    });
    const afternoon = { startsLocal: '2026-10-24T13:00', endsLocal: '2026-10-24T18:00' };
    const [odd] = (await tryIt(event.id, afternoon)).odds;
    expect(odd).toMatchObject({ of: 'session', sessionId: session.id });
    const along = { ...afternoon, sessions: sessionsAlong([session], 240) };
    expect(along.sessions[0]).toMatchObject({ begins: '13:30', ends: '14:15' });
    expect((await tryIt(event.id, along)).odds).toEqual([]);
    expect((await save(event.id, along)).status).toBe(200);
  });

  test('what it is then at odds with, and not what it was at odds with before', async () => {
    const event = await openEvent(world, { title: 'Odd One', unit: 'Small Boats', ...day('2026-11-07') });
    await openEvent(world, { title: 'Odd Other', unit: 'Small Boats', ...day('2026-11-14') });
    const { odds } = await tryIt(event.id, day('2026-11-14'));
    expect(odds).toEqual([
      { of: 'audience', what: 'Odd Other', eventId: expect.any(String), sessionId: null, leads: [] },
    ]);
    await save(event.id, day('2026-11-14'));
    expect((await tryIt(event.id, { startsLocal: '2026-11-14T10:00' })).odds).toEqual([]);
  });
});

describe('what becomes of money when an event is called off', () => {
  const paid = async (title: string, given: string) => {
    const event = await openEvent(world, { title, price: 2500 });
    const { token } = await order(event, sedge(given));
    await pay(token);
    return { event, token };
  };
  const balances = async (id: string) =>
    (
      await world.app.db.query<{ received: number; balance: number; state: string }>(
        'select received, balance, state from orders where event_id = $1',
        [id],
      )
    )[0]!;

  test('settled by hand, it is owed back from then on', async () => {
    const { event } = await paid('By hand', 'Gus');
    await callOff(event.id, {});
    expect(await balances(event.id)).toEqual({ received: 2500, balance: -2500, state: 'paid' });
    await wait(graceMinutes + 1);
    expect(await balances(event.id)).toMatchObject({ received: 2500 });
  });

  test('it goes back by itself, once the letters are out and not before', async () => {
    const { event, token } = await paid('Goes back', 'Hal');
    const whatIf = await odalys.call('POST /api/events/:id/what-if', {
      params: { id: event.id },
      body: { move: 'call off', settle: { money: 'return' } },
    });
    expect(whatIf.money).toEqual({ orders: 1, sums: [{ amount: 2500, currency: 'CAD' }] });
    expect(whatIf.letters[0]!.sample!.body).toContain('You paid $25. All of it goes back');
    await callOff(event.id, { money: 'return' });
    expect(await balances(event.id)).toMatchObject({ received: 2500 });
    expect((await moneyOf(token))!.ways).toEqual(['return']);
    await wait(graceMinutes + 1);
    expect(await balances(event.id)).toEqual({ received: 0, balance: 0, state: 'refunded' });
    expect(await moneyOf(token)).toBeNull();
  });

  test('whoever is asked leaves it as a gift, or has it back; who says nothing has it back', async () => {
    const { event, token } = await paid('Asked', 'Jan');
    const { token: second } = await order(event, sedge('Kay'));
    await pay(second);
    const { token: third } = await order(event, sedge('Lou'));
    await pay(third);
    await callOff(event.id, { money: 'ask' });
    expect(await moneyOf(token)).toMatchObject({ amount: 2500, ways: ['return', 'gift'] });
    expect((await mail('Jan Sedge'))[0]!.body).toContain('leave it to us as a gift');
    const choose = (become: 'return' | 'gift', of = token) =>
      world.anyone.try('POST /api/public/orders/:token/money', { params: { token: of }, body: { become } });
    expect((await choose('gift')).status).toBe(201);
    // Said twice, it is one gift.
    expect((await choose('gift')).problem.code).toBe('nothing-to-choose');
    expect((await choose('return', second)).status).toBe(201);
    const gifts = await world.app.db.query<{ amount: number }>(
      'select amount from donations where event_id = $1',
      [event.id],
    );
    expect(gifts).toEqual([{ amount: 2500 }]);
    await wait(15 * 1440);
    const rows = await world.app.db.query<{ given: string; received: number; balance: number }>(
      'select buyer_given as given, received, balance from orders where event_id = $1 order by placed_at, buyer_given',
      [event.id],
    );
    expect(rows).toEqual([
      { given: 'Jan', received: 2500, balance: 0 },
      { given: 'Kay', received: 0, balance: 0 },
      { given: 'Lou', received: 0, balance: 0 },
    ]);
  });

  test('seats move to another date with what was paid; the rest goes back, and a full one takes nobody', async () => {
    const { event, token } = await paid('Moves on', 'Max');
    const { token: second } = await order(event, sedge('Nan', 'Ned'));
    await pay(second);
    const to = await openEvent(world, { title: 'Moves here', price: 2000, capacity: 2 });
    // Who moves does so into the offer of the same name.
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: to.id } });
    const named = (name: string) => save(to.id, { offers: plan.offers.map((o) => ({ ...o, name })) });
    await named('Something else');
    const off = (settle: Settle) =>
      odalys.try('POST /api/events/:id/state', {
        params: { id: event.id },
        body: { move: 'call off', words: 'storm warning', settle },
      });
    expect((await off({ money: 'ask', toEventId: to.id })).problem.fields).toMatchObject([
      { path: 'settle.toEventId', code: 'offer-not-there' },
    ]);
    await named(plan.offers[0]!.name);
    await callOff(event.id, { money: 'ask', toEventId: to.id });
    expect((await moneyOf(token))!.ways).toEqual(['return', 'gift', 'move']);
    expect((await mail('Max Sedge'))[0]!.body).toContain('move your seats to Moves here');
    const move = (of: string) =>
      world.anyone.try('POST /api/public/orders/:token/money', {
        params: { token: of },
        body: { become: 'move' },
      });
    expect((await move(token)).status).toBe(201);
    expect((await move(token)).problem.code).toBe('nothing-to-choose');
    // Two more do not fit; nothing of theirs is done, and they can choose something else.
    expect((await move(second)).problem.code).toBe('full');
    expect((await moneyOf(second))!.amount).toBe(5000);
    const rows = await world.app.db.query<{
      given: string;
      event: string;
      received: number;
      balance: number;
    }>(
      `select o.buyer_given as given, e.public_title as event, o.received, o.balance from orders o join events e on e.id = o.event_id
       where e.id = any($1) and o.buyer_given = 'Max' order by e.public_title`,
      [[event.id, to.id]],
    );
    expect(rows).toEqual([
      { given: 'Max', event: 'Moves here', received: 2000, balance: 0 },
      { given: 'Max', event: 'Moves on', received: 0, balance: 0 },
    ]);
    const { rows: seats } = await odalys.call('GET /api/events/:id/registrations', {
      params: { id: to.id },
    });
    expect(seats.map((s) => [s.given, s.state])).toEqual([['Max', 'confirmed']]);
    // An event that takes nobody any more is no choice.
    await odalys.call('POST /api/events/:id/state', { params: { id: to.id }, body: { move: 'close' } });
    expect((await moneyOf(second))!.ways).toEqual(['return', 'gift']);
  });

  test('while fifty people pay: whoever is charged by then has all of it back, and no seat', async () => {
    const event = await openEvent(world, { title: 'In the middle', price: 1000, capacity: 60 });
    const tokens: string[] = [];
    for (let n = 0; n < 50; n += 1) tokens.push((await order(event, sedge(`Mo${n}`))).token);
    const paying = tokens.map(pay);
    const calling = callOff(event.id, { money: 'return' });
    const outcomes = await Promise.all(paying);
    await calling;
    for (const { status } of outcomes) expect([200, 201, 409]).toContain(status);
    await wait(graceMinutes + 5);
    const rows = await world.app.db.query<{ received: number; balance: number }>(
      'select received, balance from orders where event_id = $1 and (received <> 0 or balance <> 0)',
      [event.id],
    );
    expect(rows).toEqual([]);
    const [charged] = await world.app.db.query<{ n: number; net: number }>(
      'select count(*) filter (where amount > 0)::int as n, coalesce(sum(amount), 0)::int as net from payments where event_id = $1',
      [event.id],
    );
    expect(charged!.net).toBe(0);
    const [seats] = await world.app.db.query<{ n: number }>(
      "select count(*)::int as n from registrations r where event_id = $1 and state in ('held', 'offered')",
      [event.id],
    );
    expect(seats!.n).toBe(0);
  });

  test('an answer of the card processor that comes after: no seat, and all of it back', async () => {
    const event = await openEvent(world, { title: 'Late answer', price: 1000 });
    const { token } = await order(event, sedge('Pat'));
    // A card whose answer comes a few minutes later.
    const slow = await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0003', expiry: '12/30' },
    });
    expect(slow.outcome).toBe('unknown');
    await callOff(event.id, { money: 'return' });
    await wait(30);
    expect(await balances(event.id)).toMatchObject({ received: 0, balance: 0 });
    const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    expect(seats.map((s) => s.state)).toEqual(['lapsed']);
  });
});

describe('who may see and do it', () => {
  test('who only plans one event is told how many, and no names; who does not lead it takes nothing back', async () => {
    const event = await openEvent(world, { title: 'Of few names', capacity: 2 });
    await order(event, sedge('Quin', 'Rob'));
    await order(event, sedge('Sky'), { waitlist: true });
    const { link } = await odalys.call('POST /api/events/:id/team', {
      params: { id: event.id },
      body: {
        name: 'Tam Rush',
        email: 'tam.rush@harbourpost.example',
        part: 'helper',
        stage: 'plan',
      } as never,
    });
    const tam = new Caller(world.origin);
    await tam.call('POST /api/invitations/:token', {
      params: { token: link!.split('/').at(-1)! },
      body: { password: 'a lantern in the reeds 9' },
    });
    const told = await tam.call('POST /api/events/:id/what-if', {
      params: { id: event.id },
      body: { version: await version(event.id), change: { capacity: 1 }, settle: {} },
    });
    expect(told.over).toEqual({ seats: 1, losing: [] });
    expect(told.letters.map((l) => [l.to, l.count, l.sample])).toEqual([
      ['registrants', 1, null],
      ['waitlist', 1, null],
    ]);
    expect(JSON.stringify(told)).not.toMatch(/Quin|Rob|Sky/u);
    const more = await tam.call('POST /api/events/:id/what-if', {
      params: { id: event.id },
      body: { version: await version(event.id), change: { capacity: 9 }, settle: {} },
    });
    expect(more.followed.offered).toEqual(['']);
    // What reaches other stages is for who may change those.
    const [row] = await world.app.db.query<{ id: string }>(
      "select id from orders where event_id = $1 and buyer_given = 'Quin'",
      [event.id],
    );
    for (const settle of [
      { toWaitlist: [row!.id] },
      { takeOff: [row!.id] },
      { letters: [{ to: 'registrants' as const, body: { en: 'Come early, {{name}}.' } }] },
    ]) {
      const tried = await tam.try('PATCH /api/events/:id', {
        params: { id: event.id },
        body: { version: await version(event.id), change: { capacity: 1 }, settle },
      });
      expect([tried.status, tried.problem.code]).toEqual([403, 'not-your-stage']);
    }
    const { changeId } = (await save(event.id, day('2026-08-15'))).body;
    const refused = await tam.try('POST /api/events/:id/changes/:change/back', {
      params: { id: event.id, change: changeId! },
      body: {},
    });
    expect(refused.status).toBe(403);
    // Only with the event it is of.
    const other = await openEvent(world, { title: 'Another' });
    const elsewhere = await odalys.try('POST /api/events/:id/changes/:change/back', {
      params: { id: other.id, change: changeId! },
      body: {},
    });
    expect(elsewhere.status).toBe(404);
  });
});
