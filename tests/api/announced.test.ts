import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Settling } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import { answered } from '#core/clearance/facts.ts';
import { hideLinks } from '#core/messages/links.ts';
import { shiftWall } from '#core/time/wallTime.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';
import { everything, remembers } from './tables.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const names = ['Ada', 'Bea', 'Cleo', 'Dov', 'Eli', 'Fay', 'Gil', 'Hana'];

interface Scene {
  capacity: number;
  price: number;
  /** How many seats each party asks for; the letter says who. */
  parties: number[];
  helpers: number;
  boats: boolean;
}
const scene: fc.Arbitrary<Scene> = fc.record({
  capacity: fc.integer({ min: 2, max: 8 }),
  price: fc.constantFrom(0, 1500),
  parties: fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 5 }),
  helpers: fc.integer({ min: 0, max: 3 }),
  boats: fc.boolean(),
});

/** Something that is changed, from what the plan says. */
type Change = (plan: EventPlan) => Partial<EventPlan>;
const byDays = (plan: EventPlan, days: number, hours = 0): Partial<EventPlan> => {
  const moved = (wall: string) => shiftWall(shiftWall(wall, { days }), { hours });
  return { startsLocal: moved(plan.startsLocal!), endsLocal: moved(plan.endsLocal!) };
};
const change: fc.Arbitrary<{ said: string; of: Change | null }> = fc.oneof(
  fc
    .record({ days: fc.integer({ min: -28, max: 40 }), hours: fc.integer({ min: -3, max: 3 }) })
    .map(({ days, hours }) => ({
      said: `${days} days, ${hours} hours`,
      of: (plan: EventPlan) => byDays(plan, days, hours),
    })),
  fc
    .integer({ min: 1, max: 12 })
    .map((capacity) => ({ said: `capacity ${capacity}`, of: () => ({ capacity }) })),
  fc.constant({ said: 'zone', of: () => ({ zone: 'America/Vancouver' }) }),
  fc.constant({ said: 'no place', of: () => ({ venueId: null, visibility: 'link' as const }) }),
  fc.constant({
    said: 'all at once',
    of: (plan: EventPlan) => ({
      ...byDays(plan, 14),
      capacity: 2,
      facts: answered('boats', 'food'),
      offers: plan.offers.map((o) => ({ ...o, price: o.price + 500 })),
    }),
  }),
  fc.constant({ said: 'called off', of: null }),
);

interface Row {
  id: string;
  line: string | null;
  key: string;
  state: string;
  plannedFor: string | null;
  changeId: string | null;
  name: string;
  body: string | null;
}
const messagesOf = (eventId: string) =>
  world.app.db.query<Row>(
    `select m.id, s.name as line, m.recipient_key as key, m.state, m.planned_for, m.change_id, m.name, m.body
     from messages m left join message_lines s on s.id = m.line_id
     where m.event_id = $1 or m.change_id in (select id from changes where event_id = $1) order by m.id`,
    [eventId],
  );
const shiftsOf = (eventId: string) =>
  world.app.db.query<{ id: string; startsAt: string }>(
    'select id, starts_at from shifts where event_id = $1 and removed_at is null order by id',
    [eventId],
  );
const partiesOf = (eventId: string) =>
  world.app.db.query<{ id: string; name: string; states: string[] }>(
    `select o.id, trim(o.buyer_given || ' ' || o.buyer_family) as name, array_agg(r.state order by r.seat_number) as states
     from orders o join registrations r on r.order_id = o.id where o.event_id = $1 group by o.id order by o.id`,
    [eventId],
  );
const stepsOf = (eventId: string) =>
  world.app.db.query<{ step: string; state: string }>(
    'select s.step, s.state from clearance_steps s join clearances c on c.id = s.clearance_id where c.event_id = $1 and c.current',
    [eventId],
  );

test('what is announced is exactly what happens, and taken back it is as if it had not', async () => {
  let n = 0;
  await fc.assert(
    fc.asyncProperty(scene, change, fc.boolean(), fc.boolean(), async (has, { of }, settles, untells) => {
      n += 1;
      const event = await openEvent(world, {
        title: `Announced ${n}`,
        capacity: has.capacity,
        price: has.price,
        mostPerOrder: 4,
        so: has.boats ? ['boats'] : [],
      });
      const params = { id: event.id };
      const page = () => odalys.call('GET /api/events/:id', { params });
      for (const role of ['Landing', 'Sweep'])
        await odalys.call('POST /api/events/:id/shifts', {
          params,
          body: { role, startsLocal: '2026-08-08T08:00', endsLocal: '2026-08-08T12:00', wished: 3 },
        });
      const { shifts } = await odalys.call('GET /api/events/:id/crew', { params });
      for (const given of names.slice(0, has.helpers))
        await world.anyone.call('POST /api/public/shifts/:id/sign-up', {
          params: { id: shifts[0]!.id },
          body: { given, family: 'Crew', email: `${given}.crew@harbourpost.example`, phone: '' },
        });
      for (const [at, seats] of has.parties.entries()) {
        const people = Array.from({ length: seats }, (_, k) => ({
          given: `${names[at]}${k}`,
          family: 'Rush',
        }));
        const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
          params: { slug: event.slug },
          body: orderFor(event, people, { waitlist: true }),
        });
        // Every other party that has seats pays.
        if (has.price && at % 2 === 0)
          await world.anyone.try('POST /api/public/orders/:token/pay', {
            params: { token },
            body: { card: '9000 0000 0000 0001', expiry: '12/30' },
          });
      }
      const { plan, version } = await page();
      const ask = (settle: Partial<Settling>) =>
        odalys.try('POST /api/events/:id/what-if', {
          params,
          body: of ? { version, change: of(plan), settle } : { move: 'call off', settle },
        });
      const first = await ask({});
      // What cannot be done is refused beforehand, with the same words.
      const does = (settle: Partial<Settling>) =>
        of
          ? odalys.try('PATCH /api/events/:id', { params, body: { version, change: of(plan), settle } })
          : odalys.try('POST /api/events/:id/state', {
              params,
              body: { move: 'call off', words: 'a storm', settle },
            });
      if (first.status >= 300) {
        expect((await does({})).problem).toMatchObject({ code: first.problem.code });
        return;
      }
      const settle: Partial<Settling> = {
        words: 'In our words.',
        money: 'return',
        ...(settles && {
          toWaitlist: first.body.over?.losing.slice(0, 1).map((p) => p.orderId) ?? [],
          takeOff: first.body.atTwoThings.flatMap((p) => p.assignmentId ?? []),
        }),
        ...(untells && { letters: [{ to: 'registrants', told: false, why: 'Told by telephone.' }] }),
      };
      const before = { messages: await messagesOf(event.id), shifts: await shiftsOf(event.id) };
      const parties = await partiesOf(event.id);
      const steps = await stepsOf(event.id);
      const whole = await everything(world, remembers);
      const untouched = await everything(world);
      const told = (await ask(settle)).body;
      expect(await everything(world)).toEqual(untouched);
      const done = await does(settle);
      expect(done.status).toBeLessThan(300);
      expect(done.body.followed).toEqual(told.followed);
      const after = await messagesOf(event.id);

      // Letters: as many as were said, to each of those who were said, and the first as it was shown.
      const letters = after.filter((m) => m.changeId !== null && m.key.startsWith('change:'));
      for (const letter of told.letters) {
        const those = letters.filter((m) => m.key.split(':')[2] === letter.to);
        expect(those.filter((m) => m.state === 'planned').length).toBe(letter.told ? letter.count : 0);
        expect(those.filter((m) => m.state === 'held back').length).toBe(
          letter.told ? letter.leftOut.length : 0,
        );
        if (letter.told && letter.sample)
          expect(those.map((m) => hideLinks(m.body!))).toContain(letter.sample.body);
      }
      expect(letters.length).toBe(
        told.letters.reduce((sum, l) => sum + (l.told ? l.count + l.leftOut.length : 0), 0),
      );
      // Planned messages: moved and held back, step by step.
      const was = new Map(before.messages.map((m) => [m.id, m]));
      const changed = after.filter((m) => m.line && was.has(m.id));
      const count = (line: string, fate: (now: Row, before: Row) => boolean) =>
        changed.filter((m) => m.line === line && fate(m, was.get(m.id)!)).length;
      for (const line of new Set(changed.map((m) => m.line!))) {
        const said = (fate: string) =>
          told.followed.messages
            .filter((m) => m.line === line && m.fate === fate)
            .reduce((sum, m) => sum + m.count, 0);
        expect(said('moved')).toBe(
          count(line, (m, b) => m.state === 'planned' && m.plannedFor !== b.plannedFor),
        );
        expect(said('held back')).toBe(
          count(line, (m, b) => m.state === 'held back' && b.state === 'planned'),
        );
      }
      // Shifts, seats, steps.
      const shiftsNow = await shiftsOf(event.id);
      const movedShifts = shiftsNow.filter((s, at) => s.startsAt !== before.shifts[at]!.startsAt);
      if (told.followed.shifts.length) expect(movedShifts.length).toBe(told.followed.shifts.length);
      else expect(movedShifts).toEqual([]);
      const partiesNow = await partiesOf(event.id);
      const became = (from: readonly string[], to: string) =>
        partiesNow
          .filter((p, at) => p.states.includes(to) && parties[at]!.states.some((s) => from.includes(s)))
          .map((p) => p.name);
      expect(became(['waitlisted'], 'offered').sort()).toEqual([...told.followed.offered].sort());
      expect(became(['held', 'offered', 'waitlisted'], 'lapsed').sort()).toEqual(
        told.followed.letGo.map((p) => p.name).sort(),
      );
      expect(became(['confirmed'], 'waitlisted').length).toBe(settle.toWaitlist?.length ?? 0);
      const open = (list: typeof steps) =>
        list.filter((s) => ['with approver', 'waiting', 'reopened'].includes(s.state)).map((s) => s.step);
      expect(
        open(await stepsOf(event.id))
          .filter((s) => !open(steps).includes(s))
          .sort(),
      ).toEqual([...told.followed.reopened].sort());

      // And back again.
      if (!done.body.changeId) return;
      const back = await odalys.try('POST /api/events/:id/changes/:change/back', {
        params: { ...params, change: done.body.changeId },
        body: {},
      });
      expect(back.status).toBe(201);
      expect(await everything(world, remembers)).toEqual(whole);
    }),
    { numRuns: 14, seed: 20_260_709, endOnFailure: true },
  );
}, 240_000);
