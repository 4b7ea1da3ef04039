import { beforeEach, describe, expect, test } from 'vitest';
import { answered } from '#core/clearance/facts.ts';
import type { Noticed, NoticeTime } from '#core/notices/notices.ts';
import { type Caller, linkTo, type World } from './harness.ts';
import { Scene } from './messageLines.ts';
import { bookFor, type OpenEvent, openEvent, orderFor, signs } from './scenes.ts';

const scene = new Scene();
let world: World;
let odalys: Caller;
let event: OpenEvent;
type Who = 'odalys' | 'marit' | 'piers' | 'imani' | 'tobias' | 'door';
const nobody: readonly Who[] = ['odalys', 'marit', 'piers', 'imani', 'tobias'];

const wish = async (
  who: Who,
  wishes: Partial<Record<Noticed, NoticeTime>>,
  more: { onlyMine?: boolean; leastGift?: number } = {},
) =>
  (await world.as(who)).try('PUT /api/account/notices', {
    body: {
      wishes: Object.entries(wishes).map(([what, when]) => ({ what: what as Noticed, when })),
      onlyMine: false,
      leastGift: 0,
      ...more,
    },
  });
/** What somebody was told since a test began, as subject and text. */
let from = '';
const told = async (who: Who) =>
  (
    await world.app.db.query<{ subject: string; body: string }>(
      `select subject, body from messages where kind = 'notice' and state = 'sent' and address like $1 || '@%' and created_at > $2
       order by sent_at, id`,
      [who, from],
    )
  ).map((m) => [m.subject, m.body] as const);
const subjects = async (who: Who) => (await told(who)).map(([subject]) => subject);
const seatOf = async (given: string) =>
  (
    await world.app.db.query<{ id: string }>(
      'select id from registrations where event_id = $1 and given_name = $2',
      [event.id, given],
    )
  )[0]!.id;
const minutes = (n: number) => world.moveTo(scene.later(n));

beforeEach(async () => {
  ({ world, odalys, event } = scene);
  for (const who of nobody) await wish(who, {});
  await minutes(24 * 60);
  from = world.app.clock.now();
});

describe('what the team is told of by email', () => {
  test('whoever leads the crew hears who applied, for an event and for a season; a unit lead of what is theirs', async () => {
    for (const who of ['imani', 'piers'] as const) await wish(who, { 'application came': 'soon' });
    const imani = await world.as('imani');
    const { id: role } = await imani.call('POST /api/roles', { body: { name: `Wicket ${scene.n}` } });
    const call = (eventId: string | null, en: string) =>
      imani.call('POST /api/calls', {
        body: {
          eventId,
          ...(eventId ? {} : { fromOn: '2030-05-01', untilOn: '2030-06-30' }),
          title: { en },
          words: { en: '' },
          asks: [],
          roles: [role],
          open: true,
        },
      });
    for (const { slug } of [await call(event.id, 'Hands wanted'), await call(null, 'Hands of spring')])
      await world.anyone.call('POST /api/public/calls/:slug', {
        params: { slug },
        body: {
          person: { given: 'Ulf', family: 'Reed', email: 'ulf.reed@fenmail.example' },
          said: { wishes: [{ roleId: role, weight: 1 }] },
        } as never,
      });
    await minutes(6);
    const [[subject, body] = ['', ''], ...more] = await told('imani');
    expect(more).toEqual([]);
    expect(subject).toBe('2 applications to help');
    expect(body).toContain(`Lines ${scene.n}\n– Application to help: Ulf Reed, Hands wanted`);
    expect(body).toContain('Apart from events\n– Application to help: Ulf Reed, Hands of spring');
    // The event is of no unit, and the season of none.
    expect(await told('piers')).toEqual([]);
  });

  test('soon comes as one message with what happened within five minutes, and not twice', async () => {
    await wish('odalys', { registration: 'soon', 'seats given up': 'soon' });
    await bookFor(world, event, ['Jun', 'Juno']);
    await minutes(2);
    const { token } = await bookFor(world, event, ['Ana']);
    await minutes(2);
    expect(await told('odalys')).toEqual([]);
    await minutes(1);
    const [[subject, body] = ['', '']] = await told('odalys');
    expect(subject).toBe('2 registrations');
    expect(body).toContain(
      `Hello Odalys,\n\nLines ${scene.n}\n– Registration: Jun Sedge, 2 seats\n– Registration: Ana Sedge, 1 seat\n\n`,
    );
    expect(body).toContain(`${world.origin}/account`);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: [await seatOf('Ana')] },
    });
    await minutes(10);
    expect(await subjects('odalys')).toEqual(['2 registrations', '1 booking given up']);
    await world.runner.run();
    await minutes(60);
    expect(await subjects('odalys')).toHaveLength(2);
  });

  test('each morning comes when quiet hours end, by the clock of the organization', async () => {
    await wish('odalys', { registration: 'each morning' });
    await bookFor(world, event, ['Jun']);
    await minutes(6 * 60);
    await bookFor(world, event, ['Ana']);
    expect(await told('odalys')).toEqual([]);
    await minutes(24 * 60);
    const rows = await world.app.db.query<{ subject: string; at: string }>(
      "select subject, to_char(sent_at at time zone 'America/Halifax', 'HH24:MI') as at from messages where kind = 'notice' and created_at > $1",
      [from],
    );
    const { morning } = await odalys.call('GET /api/account/notices');
    expect(morning).toBe('08:00');
    expect(rows.reduce((n, r) => n + Number(r.subject.split(' ')[0]), 0)).toBe(2);
    expect(new Set(rows.map((r) => r.at))).toEqual(new Set(['08:00']));
  });

  test('whoever did it is told nothing of it', async () => {
    for (const who of ['odalys', 'piers'] as const) await wish(who, { registration: 'soon' });
    const boats = await openEvent(world, {
      title: 'Boats out',
      unit: 'Small Boats',
      startsLocal: '2028-05-02T09:00',
      endsLocal: '2028-05-02T12:00',
    });
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: boats.id },
      body: orderFor(boats, [{ given: 'Rolf', family: 'Reed' }]),
    });
    await minutes(6);
    expect(await subjects('odalys')).toEqual([]);
    expect(await subjects('piers')).toEqual(['1 registration']);
  });

  test('nobody is told of what is not theirs to see, nor can ask for it', async () => {
    for (const who of ['piers', 'odalys'] as const) await wish(who, { registration: 'soon', gift: 'soon' });
    await bookFor(world, event, ['Jun']);
    // Nothing is even noted for later, when they may see more than now.
    expect(
      await world.app.db.query(
        'select s.name from notices n join staff s on s.id = n.staff_id where n.event_id = $1',
        [event.id],
      ),
    ).toEqual([{ name: 'Odalys Ferrant' }]);
    await minutes(6);
    expect(await subjects('piers')).toEqual([]);
    expect(await subjects('odalys')).toEqual(['1 registration']);
    const asks = await wish('imani', { registration: 'soon' });
    expect(asks.status).toBe(422);
    expect((await wish('door', { 'shift taken': 'soon' })).status).toBe(422);
    const door = await (await world.as('door')).call('GET /api/account/notices');
    expect(door.wishes).toEqual([]);
    expect((await wish('odalys', {}, { leastGift: -1 })).status).toBe(422);
  });

  test('whoever lost their part of it meanwhile is told nothing more', async () => {
    await wish('piers', { registration: 'each morning' });
    const boats = await openEvent(world, {
      title: 'Out',
      unit: 'Small Boats',
      startsLocal: '2028-05-09T09:00',
      endsLocal: '2028-05-09T12:00',
    });
    await bookFor(world, boats, ['Jun']);
    const waits = () =>
      world.app.db.query(
        'select 1 as x from notices n join staff s on s.id = n.staff_id where s.email like $1',
        ['piers%'],
      );
    expect(await waits()).toHaveLength(1);
    const [unit] = await world.app.db.query<{ id: string }>(
      "select unit_id as id from staff where email like 'piers%'",
    );
    await world.app.db.query("update staff set unit_id = null where email like 'piers%'");
    await minutes(24 * 60);
    expect(await waits()).toHaveLength(0);
    expect(await subjects('piers')).toEqual([]);
    await world.app.db.query("update staff set unit_id = $1 where email like 'piers%'", [unit!.id]);
  });

  test('only of events one has a part in, where that is asked', async () => {
    await wish('odalys', { registration: 'soon' }, { onlyMine: true });
    await bookFor(world, event, ['Jun']);
    await minutes(6);
    expect(await subjects('odalys')).toEqual([]);
    await odalys.call('POST /api/events/:id/team', {
      params: { id: event.id },
      body: { name: 'Odalys Ferrant', email: 'odalys@brackenmere.example', part: 'lead' },
    });
    await bookFor(world, event, ['Ana']);
    await minutes(6);
    expect(await subjects('odalys')).toEqual(['1 registration']);
  });

  test('a gift from an amount on, with who gave it, to whoever sees money', async () => {
    for (const who of ['odalys', 'marit'] as const) await wish(who, { gift: 'soon' }, { leastGift: 10_000 });
    await wish('piers', { gift: 'soon' });
    const marit = await world.as('marit');
    const { funds } = await marit.call('GET /api/giving/choices');
    const give = (amount: number) =>
      marit.call('POST /api/gifts', {
        body: {
          contactId: null,
          person: { given: 'Ottoline', family: 'Marsh', email: 'ottoline@fenmail.example' },
          kind: 'money',
          method: 'cheque',
          amount,
          fundId: funds[0]!.id,
          reference: '',
        },
      });
    await give(9_999);
    await give(10_000);
    await minutes(6);
    const [[subject, body] = ['', '']] = await told('odalys');
    expect(subject).toBe('1 gift');
    expect(body).toContain('Apart from events\n– Gift: Ottoline Marsh, $100');
    expect(await subjects('marit')).toEqual([]);
    expect(await subjects('piers')).toEqual([]);
  });

  test('a question, a waiver, a shift taken and given back, a plan sent back', async () => {
    const all = [
      'question',
      'waiver signed',
      'shift taken',
      'shift given back',
      'plan back',
      'request',
    ] as const;
    await wish('odalys', Object.fromEntries(all.map((what) => [what, 'soon'])));
    await odalys.call('PUT /api/events/:id/board', {
      params: { id: event.id },
      body: { on: true, shown: 'at once' },
    });
    await world.anyone.call('POST /api/public/events/:slug/board', {
      params: { slug: event.slug },
      body: { name: 'Nils Sedge', email: 'nils.sedge@fenmail.example', words: 'Is there parking?' },
    });
    await minutes(6);
    expect((await told('odalys'))[0]![1]).toContain(
      '– Question on the board: Nils Sedge. “Is there parking?”',
    );
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: {
        role: 'Tea',
        place: 'Hut',
        startsLocal: `${scene.begins.slice(0, 10)}T09:00`,
        endsLocal: `${scene.begins.slice(0, 10)}T11:00`,
        wished: 2,
        publicSignUp: true,
      },
    });
    const { shifts } = await world.anyone.call('GET /api/public/events/:slug/shifts', {
      params: { slug: event.slug },
    });
    await world.anyone.call('POST /api/public/shifts/:id/sign-up', {
      params: { id: shifts[0]!.id },
      body: { given: 'Wim', family: 'Reed', email: 'wim.reed@fenmail.example' },
    });
    await minutes(6);
    expect((await told('odalys')).at(-1)![1]).toContain('– Shift taken: Wim Reed, Tea');
    const [wim] = await world.app.db.query<{ id: string; contactId: string }>(
      'select a.id, a.contact_id from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1',
      [event.id],
    );
    const crew = /\/crew\/([\w-]+)/u.exec(await linkTo(world.app, 'crew', wim!.contactId))![1]!;
    await world.anyone.call('POST /api/public/crew/:token/drop', {
      params: { token: crew },
      body: { assignmentId: wim!.id },
    });
    const wet = await openEvent(world, {
      title: 'Wet feet',
      waiver: 'On the water',
      startsLocal: '2028-06-02T09:00',
      endsLocal: '2028-06-02T12:00',
    });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: wet.slug },
      body: orderFor(wet, [{ given: 'Tove', family: 'Sedge', birthDate: '1990-04-02' }]),
    });
    const { waivers, seats } = await world.anyone.call('GET /api/public/orders/:token', {
      params: { token },
    });
    await world.anyone.call('POST /api/public/orders/:token/signatures', {
      params: { token },
      body: {
        seats: [{ registrationId: seats[0]!.id, relation: 'self' }],
        ...signs(waivers[0]!, 'Tove Sedge'),
      },
    });
    await minutes(6);
    expect((await told('odalys')).at(-1)).toEqual([
      '1 waiver signed, 1 shift given back',
      expect.stringContaining(
        `Lines ${scene.n}\n– Shift given back: Wim Reed, Tea\n\nWet feet\n– Waiver signed: Tove Sedge\n`,
      ),
    ]);
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Sent back' } });
    const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id },
      body: {
        version,
        change: {
          startsLocal: '2028-07-02T09:00',
          endsLocal: '2028-07-02T12:00',
          facts: {
            ...answered('money'),
            ...Object.fromEntries((await odalys.call('GET /api/clearance/facts')).map((f) => [f.id, false])),
          },
          offers: [
            {
              id: crypto.randomUUID(),
              name: 'Seat',
              price: 500,
              quantity: null,
              mostPerOrder: 4,
              seatsPerUnit: 1,
              about: '',
            },
          ],
        },
      },
    });
    await odalys.call('POST /api/events/:id/clearance', { params: { id }, body: {} });
    const marit = await world.as('marit');
    const { steps } = await marit.call('GET /api/events/:id/clearance', { params: { id } });
    await marit.call('POST /api/clearance-steps/:id/decision', {
      params: { id: steps.find((s) => s.mayDecide)!.id },
      body: { decision: 'send back', words: 'Who holds the cash box?' },
    });
    await minutes(6);
    const [subject, body] = (await told('odalys')).at(-1)!;
    expect(subject).toBe('1 plan sent back');
    expect(body).toMatch(/Sent back\n– Plan sent back: [^“]+“Who holds the cash box\?”/u);
  });

  test('what an erased person did is not told any more', async () => {
    await wish('odalys', { registration: 'each morning' });
    await bookFor(world, event, ['Forgetme']);
    const [row] = await world.app.db.query<{ id: string }>(
      "select id from contacts where given_name = 'Forgetme'",
    );
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: row!.id },
      body: { name: 'Forgetme Sedge' },
    });
    await minutes(24 * 60);
    expect(await subjects('odalys')).toEqual([]);
  });
});
