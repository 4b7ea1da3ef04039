import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent } from './scenes.ts';

describe('the crew of an event', () => {
  let world: World;
  let event: OpenEvent;
  beforeAll(async () => {
    world = await makeWorld();
    event = await openEvent(world, { title: 'Reed Cut' });
  });
  afterAll(() => world.close());
  const imani = () => world.as('imani');
  const shift = (more: object = {}) => ({
    role: 'Raking',
    place: 'East bank',
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T12:00',
    wished: 2,
    ...more,
  });
  const add = async (more: object = {}) =>
    (await imani()).try('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: shift(more) as never,
    });
  const shown = async () => (await imani()).call('GET /api/events/:id/crew', { params: { id: event.id } });
  const signUp = (id: string, given: string, more: object = {}) =>
    world.anyone.try('POST /api/public/shifts/:id/sign-up', {
      params: { id },
      body: { given, family: 'Crew', email: `${given.toLowerCase()}@crew.example`, ...more },
    });

  test('a shift has a role, people and an end after its start, and is counted at once', async () => {
    expect((await add({ role: ' ' })).problem.fields![0]).toMatchObject({ path: 'role' });
    expect((await add({ wished: 0 })).problem.fields![0]!.message).toBe('At least 1.');
    const backwards = await add({ endsLocal: '2026-08-08T08:00' });
    expect(backwards.status).toBe(422);
    expect((await add()).status).toBe(201);
    expect(await shown()).toMatchObject({ wished: 2, filled: 0 });
  });

  test('open shifts are for anybody until they are full; those of the staff are not shown', async () => {
    const open = (await shown()).shifts[0]!;
    await add({
      role: 'Chainsaw',
      publicSignUp: false,
      startsLocal: '2026-08-08T13:00',
      endsLocal: '2026-08-08T15:00',
    });
    const listed = async () =>
      (await world.anyone.call('GET /api/public/events/:slug/shifts', { params: { slug: event.slug } }))
        .shifts;
    expect((await listed()).map((s) => [s.role, s.filled, s.wished])).toEqual([['Raking', 0, 2]]);
    expect((await signUp(open.id, 'Ansel')).status).toBe(201);
    expect((await signUp(open.id, 'Brigid', { email: 'not an email' })).problem.fields![0]!.path).toBe(
      'email',
    );
    expect((await signUp(open.id, 'Brigid')).status).toBe(201);
    const full = await signUp(open.id, 'Cyrus');
    expect(full.status).toBe(409);
    // Only open places are listed; the staff see everybody by name.
    expect((await listed()).filter((s) => s.filled < s.wished)).toEqual([]);
    expect((await shown()).shifts[0]!.assignments.map((a) => [a.name, a.source, a.state])).toEqual([
      ['Ansel Crew', 'public', 'agreed'],
      ['Brigid Crew', 'public', 'agreed'],
    ]);
    // Of every event in the listing at once, and of none that stands in it for nobody.
    const everywhere = async () =>
      (await world.anyone.call('GET /api/public/shifts')).shifts.filter((s) => s.event.slug === event.slug);
    expect((await everywhere()).map((s) => [s.role, s.event.title])).toEqual([['Raking', 'Reed Cut']]);
    const odalys = await world.as('odalys');
    const set = async (change: object) => {
      const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
      await odalys.call('PATCH /api/events/:id', { params: { id: event.id }, body: { version, change } });
    };
    await set({ listed: false });
    expect(await everywhere()).toEqual([]);
    await set({ listed: true, visibility: 'members' });
    expect(await everywhere()).toEqual([]);
    await set({ visibility: 'everyone' });
    expect(await everywhere()).toHaveLength(1);
    const closed = (await shown()).shifts.find((s) => s.role === 'Chainsaw')!;
    expect((await signUp(closed.id, 'Dora')).status).toBeGreaterThanOrEqual(400);
  });

  test('a volunteer sees their own shifts, takes them along as a calendar, and gives one back', async () => {
    const { body } = await signUp((await add({ role: 'Tea', wished: 3 })).body.id, 'Edda');
    // The link goes by mail; who asked learns nothing.
    expect(body).toEqual({ done: true });
    await world.runner.run();
    const [mail] = await world.app.db.query<{ body: string }>(
      "select body from standin_mail where body like '%Edda%' order by accepted_at desc limit 1",
    );
    const token = /\/crew\/([\w-]+)/u.exec(mail!.body)![1]!;
    const own = await world.anyone.call('GET /api/public/crew/:token', { params: { token } });
    expect(own).toMatchObject({ name: 'Edda', hoursServed: 0 });
    expect(own.shifts.map((s) => [s.role, s.event, s.state, s.past])).toEqual([
      ['Tea', 'Reed Cut', 'agreed', false],
    ]);
    const calendar = String(
      await world.anyone.call('GET /api/public/crew/:token/calendar.ics', { params: { token } }),
    );
    expect(calendar).toContain('SUMMARY:Tea');
    await world.anyone.call('POST /api/public/crew/:token/drop', {
      params: { token },
      body: { assignmentId: own.shifts[0]!.assignmentId },
    });
    const tea = (await shown()).shifts.find((s) => s.role === 'Tea')!;
    expect(tea.filled).toBe(0);
    // A link of somebody else drops nothing of theirs.
    const raking = (await shown()).shifts.find((s) => s.role === 'Raking')!;
    const stranger = await world.anyone.try('POST /api/public/crew/:token/drop', {
      params: { token },
      body: { assignmentId: raking.assignments[0]!.id },
    });
    expect(stranger.status).toBe(404);
    expect((await shown()).shifts.find((s) => s.role === 'Raking')!.filled).toBe(2);
  });

  test('a shift that somebody is on stays; an empty one goes', async () => {
    const person = await imani();
    const { shifts } = await shown();
    const remove = (role: string) =>
      person.try('DELETE /api/shifts/:id', { params: { id: shifts.find((s) => s.role === role)!.id } });
    expect((await remove('Raking')).status).toBe(409);
    expect((await remove('Chainsaw')).status).toBe(200);
    expect((await shown()).shifts.map((s) => s.role)).not.toContain('Chainsaw');
    expect((await person.try('DELETE /api/shifts/:id', { params: { id: crypto.randomUUID() } })).status).toBe(
      404,
    );
  });

  test('a shift that somebody was dropped from goes from the plan, and who was on it stays written', async () => {
    const person = await imani();
    const { id } = await person.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role: 'Gate', startsLocal: '2026-08-08T08:00', endsLocal: '2026-08-08T09:00', wished: 1 },
    });
    const { contacts } = await (await world.as('odalys')).call('GET /api/contacts', { query: {} as never });
    await person.call('POST /api/shifts/:id/assignments', {
      params: { id },
      body: { contactId: contacts[0]!.id, overrideReason: 'knows the gate' },
    });
    const gate = (await shown()).shifts.find((s) => s.id === id)!;
    await person.call('POST /api/assignments/:id/state', {
      params: { id: gate.assignments[0]!.id },
      body: { state: 'dropped' },
    });
    await person.call('DELETE /api/shifts/:id', { params: { id } });
    expect((await shown()).shifts.map((s) => s.id)).not.toContain(id);
    expect((await person.try('DELETE /api/shifts/:id', { params: { id } })).status).toBe(404);
    const [kept] = await world.app.db.query<{ state: string; role: string }>(
      'select a.state, s.role from assignments a join shifts s on s.id = a.shift_id where a.id = $1',
      [gate.assignments[0]!.id],
    );
    expect(kept).toEqual({ state: 'dropped', role: 'Gate' });
  });

  test('hours count once served, whoever says so', async () => {
    const person = await imani();
    const { assignments } = (await shown()).shifts.find((s) => s.role === 'Raking')!;
    const say = (n: number, state: string, hours?: number) =>
      person.try('POST /api/assignments/:id/state', {
        params: { id: assignments[n]!.id },
        body: { state, ...(hours === undefined ? {} : { hours }) } as never,
      });
    await world.moveTo('2026-08-08T16:00:00.000Z');
    expect((await say(0, 'served')).status).toBe(201);
    expect((await say(1, 'missed')).status).toBe(201);
    const after = await shown();
    expect(after.shifts.find((s) => s.role === 'Raking')!.assignments.map((a) => [a.state, a.hours])).toEqual(
      [
        ['served', 3],
        ['missed', null],
      ],
    );
    const { contactId } = assignments[0]!;
    const record = await (await world.as('odalys')).call('GET /api/contacts/:id', {
      params: { id: contactId },
    });
    expect(record.totals.hours).toBe(3);
  });
});
