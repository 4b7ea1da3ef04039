import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { answered } from '#core/clearance/facts.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { decideIt, plan, putRules, ruleLike, rulesOf, saveIt, type Who } from './plans.ts';

describe('who decides', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  /** What was written to somebody of the team, by what it is about. */
  const written = async (email: string) =>
    (
      await world.app.db.query<{ kind: string; body: string }>(
        "select kind, body from messages where address = $1 and kind in ('to decide', 'still to decide', 'nobody decides', 'asked late', 'plan back', 'named in words') order by planned_for, id",
        [`${email}@brackenmere.example`],
      )
    ).map((m) => m.kind);
  const away = async (who: Who, absence: object | null) =>
    (await world.as(who)).try('PUT /api/account/absence', { body: { absence } as never });
  const deputyOf = async (who: Who, name: string) =>
    (await (await world.as(who)).call('GET /api/account/absence')).deputies.find((d) => d.name === name)!.id;
  const waiting = async (who: Who) =>
    (await (await world.as(who)).call('GET /api/clearance/waiting')).map((s) => [
      s.title,
      s.step,
      s.standsFor,
    ]);

  test('hears of it, is reminded on the day it is due, and coordinators two working days later', async () => {
    const p = await plan(world, 'Reminded');
    await p.send();
    expect(await written('tobias')).toEqual(['to decide']);
    expect(await written('marit')).toEqual(['to decide']);
    expect(await waiting('tobias')).toEqual([['Reminded', 'Safety', null]]);
    // Sent on Thursday 9 July: Finance is due on the 14th, Safety on the 16th.
    await world.moveTo('2026-07-14T13:00:00.000Z');
    expect(await written('marit')).toEqual(['to decide', 'still to decide']);
    expect(await written('tobias')).toEqual(['to decide']);
    await world.moveTo('2026-07-16T13:00:00.000Z');
    expect(await written('marit')).toEqual(['to decide', 'still to decide', 'still to decide']);
    expect(await written('odalys')).toEqual(['nobody decides']);
    expect(await written('tobias')).toEqual(['to decide', 'still to decide']);
    await p.decide('tobias', 'Safety', { decision: 'clear' });
    await p.decide('marit', 'Finance', { decision: 'send back', questions: ['Who counts the cash?'] });
    expect(await written('odalys')).toEqual(['nobody decides', 'plan back']);
    // What is decided, and what is with its unit again, reminds nobody.
    await world.moveTo('2026-07-30T13:00:00.000Z');
    expect(await written('tobias')).toEqual(['to decide', 'still to decide']);
    expect(await written('marit')).toHaveLength(3);
    expect(await waiting('marit')).toEqual([]);
  });

  test('of a plan that was called off nobody is reminded', async () => {
    const p = await plan(world, 'Off', { startsLocal: '2026-09-26T10:00', endsLocal: '2026-09-26T12:00' });
    await p.send();
    const before = await written('tobias');
    await (await world.as('odalys')).call('POST /api/events/:id/state', {
      params: { id: p.id },
      body: { move: 'call off', words: 'No boats.' },
    });
    await world.moveTo('2026-07-31T13:00:00.000Z');
    await world.moveTo('2026-08-07T13:00:00.000Z');
    expect(await written('tobias')).toEqual(before);
  });

  test('who stands in decides, and is written to, as long as the other is away', async () => {
    const marit = await deputyOf('tobias', 'Marit Solvang');
    expect(
      (await away('tobias', { from: '2026-08-24', until: '2026-08-15', deputyId: marit })).problem.fields,
    ).toMatchObject([{ path: 'absence.until' }]);
    expect(
      (await away('tobias', { from: '2026-08-15', until: '2026-08-24', deputyId: crypto.randomUUID() }))
        .problem.fields,
    ).toMatchObject([{ path: 'absence.deputyId', code: 'no-deputy' }]);
    expect((await away('piers', { from: '2026-08-15', until: '2026-08-24', deputyId: marit })).status).toBe(
      403,
    );
    expect((await away('tobias', { from: '2026-08-15', until: '2026-08-24', deputyId: marit })).status).toBe(
      200,
    );
    const tobias = await deputyOf('marit', 'Tobias Wren-Achebe');
    expect(
      (await away('marit', { from: '2026-08-24', until: '2026-08-26', deputyId: tobias })).problem.fields,
    ).toMatchObject([{ path: 'absence.deputyId', code: 'deputy-away' }]);

    const p = await plan(world, 'Stood in', {
      startsLocal: '2026-10-03T10:00',
      endsLocal: '2026-10-03T12:00',
    });
    await p.send();
    const safety = (await p.look()).steps[0]!.id;
    const decide = async () =>
      decideIt(await world.as('marit'), safety, { decision: 'clear', words: 'In his place.' });
    // He is there today.
    expect((await decide()).problem.code).toBe('not-your-step');
    await world.moveTo('2026-08-17T13:00:00.000Z');
    expect(await waiting('marit')).toContainEqual(['Stood in', 'Safety', 'Tobias Wren-Achebe']);
    const desk = (await (await world.as('marit')).call('GET /api/desk')).entries;
    expect(desk.filter((e) => e.subject === 'Stood in' && e.about === 'clearance')).toHaveLength(2);
    const before = await written('tobias');
    // Due on Friday 14 August, when he was still there; two working days later he is not.
    await world.moveTo('2026-08-18T13:00:00.000Z');
    expect(await written('tobias')).toEqual(before);
    expect((await decide()).status).toBe(201);
    expect((await p.look()).steps[0]).toMatchObject({ state: 'cleared', decidedBy: 'Marit Solvang' });
    await away('tobias', null);
    const again = await plan(world, 'Back', {
      startsLocal: '2026-10-10T10:00',
      endsLocal: '2026-10-10T12:00',
    });
    await again.send();
    expect(await waiting('marit')).toEqual([
      ['Stood in', 'Finance', null],
      ['Back', 'Finance', null],
    ]);
  });

  test('sees what changed since they looked, what was decided before, and what else is that day', async () => {
    const odalys = await world.as('odalys');
    const tobias = await world.as('tobias');
    const day = { startsLocal: '2026-11-14T10:00', endsLocal: '2026-11-14T12:00' };
    const first = await plan(world, 'Lantern Walk', day);
    await first.send();
    await first.decide('tobias', 'Safety', {
      decision: 'clear with conditions',
      conditions: [{ what: 'Lamps.', ownerId: null, dueOn: null, blocks: false }],
    });
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Lantern Walk', from: first.id, date: '2027-11-13' },
    });
    const around = (who: Caller, event: string) =>
      who.call('GET /api/events/:id/clearance/around', { params: { id: event } });
    const other = await plan(world, 'Band Practice', {
      startsLocal: '2027-11-13T11:00',
      endsLocal: '2027-11-13T18:00',
      venueId: null,
    });
    const now = await around(tobias, id);
    expect(now.seenAt).toBeNull();
    expect(now.before).toMatchObject([
      {
        title: 'Lantern Walk',
        steps: [
          { step: 'Safety', decidedBy: 'Tobias Wren-Achebe', conditions: ['Lamps.'] },
          { step: 'Finance' },
        ],
      },
    ]);
    expect(now.thatDay.map((e) => [e.title, e.samePlace])).toEqual([['Band Practice', false]]);
    expect(other.id).not.toBe(id);
    await tobias.call('POST /api/events/:id/clearance/seen', { params: { id } });
    expect((await around(tobias, id)).changes).toEqual([]);
    await world.moveTo('2026-09-01T13:00:00.000Z');
    await saveIt(odalys, id, { facts: answered('boats', 'minors') });
    expect((await around(tobias, id)).changes.map((c) => [c.field, c.actor])).toEqual([
      ['facts', 'Odalys Ferrant'],
    ]);
    // Each looks for themselves.
    expect((await around(await world.as('marit'), id)).changes).toEqual([]);
    expect(
      (await (await world.as('door')).try('GET /api/events/:id/clearance/around', { params: { id } })).status,
    ).toBe(403);
  });

  test('nobody is written to about what they may not see', async () => {
    const p = await plan(world, 'Quietly', {
      startsLocal: '2026-12-05T10:00',
      endsLocal: '2026-12-05T12:00',
    });
    await p.send();
    const { staff } = await (await world.as('odalys')).call('GET /api/staff');
    const ids = ['piers', 'tobias'].map((who) => staff.find((s) => s.email.startsWith(`${who}@`))!.id);
    await (await world.as('odalys')).call('POST /api/events/:id/clearance/words', {
      params: { id: p.id },
      body: { words: 'Who brings the lamps?', mentions: ids },
    });
    expect(await written('piers')).toEqual([]);
    expect((await written('tobias')).at(-1)).toBe('named in words');
  });
});

test('sent again with other facts, who cleared it before is asked and told, and a step that came between is waited for', async () => {
  const world = await makeWorld();
  const p = await plan(world, 'Between');
  await p.send();
  await p.decide('tobias', 'Safety', { decision: 'clear' });
  await p.decide('marit', 'Finance', { decision: 'send back', words: 'Too dear.' });
  const told = async () =>
    (await world.app.db.query("select 1 from messages where kind = 'to decide' and address like 'tobias@%'"))
      .length;
  expect(await told()).toBe(1);
  await world.moveTo('2026-07-10T13:00:00.000Z');
  // Meanwhile there is a step between the two; a word that is put right does not bring it in.
  const book = await rulesOf(world);
  const [safety, finance] = book.rules;
  const key = ruleLike(book, {
    step: 'Key',
    when: [[{ fact: 'boats', is: true }]],
    approves: 'premises',
    after: [safety!.id],
  });
  await putRules(world, () => ({ rules: [safety!, key, { ...finance!, after: [key.id] }] }));
  await p.save({ facts: answered('boats', 'minors') });
  await p.send();
  expect((await p.look()).steps.map((s) => [s.step, s.state, s.after])).toEqual([
    ['Safety', 'reopened', []],
    ['Finance', 'reopened', ['Key']],
    ['Key', 'waiting', ['Safety']],
  ]);
  // Five working days from Friday 10 July.
  expect((await p.look()).steps[0]!.dueOn).toBe('2026-07-17');
  expect(await told()).toBe(2);
  await putRules(world, () => ({ rules: [safety!, finance!] }));
  await p.save({ summary: 'Bring a lamp.' });
  expect((await p.look()).steps.map((s) => s.state)).toEqual(['reopened', 'reopened', 'waiting']);
  await p.save({ capacity: 13 });
  expect((await p.look()).steps.map((s) => s.state)).toEqual(['reopened', 'reopened', 'not needed']);
  await world.close();
});

test('a step whose approver left falls to a coordinator, who was not the one to send it', async () => {
  const world = await makeWorld();
  const odalys = await world.as('odalys');
  const { units } = await odalys.call('GET /api/choices');
  const p = await plan(world, 'Left behind', { unitId: units.find((u) => u.name === 'Small Boats')!.id });
  expect((await p.send('piers')).status).toBe(201);
  const safety = async (who: Who = 'odalys') => (await p.look(who)).steps.find((s) => s.step === 'Safety')!;
  expect(await safety()).toMatchObject({ orphaned: false, mayDecide: false });
  await world.app.db.query("update staff set resting = true where email like 'tobias%'");
  expect(await safety()).toMatchObject({ orphaned: true, mayDecide: true });
  expect((await odalys.call('GET /api/clearance/waiting')).map((s) => [s.title, s.step])).toEqual([
    ['Left behind', 'Safety'],
  ]);
  expect((await p.decide('piers', 'Safety', { decision: 'clear' })).status).toBe(403);
  expect((await p.decide('odalys', 'Safety', { decision: 'clear' })).status).toBe(201);
  expect(await safety()).toMatchObject({ state: 'cleared', orphaned: false });
  await world.close();
});
