import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plainQuestion } from '#core/questions/question.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';
import { wordsOf } from './wordsOf.ts';

const counting = { lateMinutes: 10, roundedTo: 15, rounded: 'nearest', hourValue: null } as const;

describe('shifts as they are planned', () => {
  let world: World;
  let event: OpenEvent;
  let imani: Caller;
  let odalys: Caller;
  beforeAll(async () => {
    world = await makeWorld();
    event = await openEvent(world, { title: 'Reed Cut' });
    imani = await world.as('imani');
    odalys = await world.as('odalys');
  });
  afterAll(() => world.close());
  const base = {
    role: 'Raking',
    place: 'East bank',
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T17:00',
    wished: 3,
  };
  const params = () => ({ id: event.id });
  const add = async (more: object = {}) =>
    (await imani.call('POST /api/events/:id/shifts', { params: params(), body: { ...base, ...more } })).id;
  const crew = () => imani.call('GET /api/events/:id/crew', { params: params() });
  const shift = async (id: string) => (await crew()).shifts.find((s) => s.id === id)!;
  const change = async (id: string, more: object) => {
    const { version, ...now } = await shift(id);
    return imani.try('PUT /api/shifts/:id', { params: { id }, body: { ...now, version, ...more } as never });
  };
  const person = async (given: string, more: object = {}) =>
    (
      await imani.call('POST /api/contacts', {
        body: { given, family: 'Shiftley', email: `${given.toLowerCase()}@shifts.example`, ...more },
      })
    ).id;
  const put = (id: string, contactId: string, overrideReason = '') =>
    imani.try('POST /api/shifts/:id/assignments', {
      params: { id },
      body: { contactId, overrideReason },
    });
  const mailTo = async (address: string) => {
    await world.runner.run();
    return world.app.db.query<{ subject: string; body: string }>(
      'select subject, body from standin_mail where address = $1 order by accepted_at, key',
      [address],
    );
  };

  test('it takes so many at least and as many as are wished, and is written as the register spells its role', async () => {
    const id = await add({
      role: 'rAKING',
      least: 1,
      importance: 'vital',
      name: 'Long one',
      briefing: 'Gloves.',
    });
    await add({ role: 'raking' });
    const { shifts } = await crew();
    expect(new Set(shifts.map((s) => s.role))).toEqual(new Set(['rAKING']));
    expect(await shift(id)).toMatchObject({
      least: 1,
      wished: 3,
      importance: 'vital',
      name: 'Long one',
      lead: null,
    });
    const wrong = await imani.try('POST /api/events/:id/shifts', {
      params: params(),
      body: { ...base, least: 4 },
    });
    expect(wrong.problem.fields).toMatchObject([
      { path: 'least', message: 'At least cannot be more than how many are wished.' },
    ]);
    for (const wished of [0, 10_000])
      expect(
        (await imani.try('POST /api/events/:id/shifts', { params: params(), body: { ...base, wished } }))
          .status,
      ).toBe(422);
  });

  test('many are added at once, or none, and each line says what is wrong with it', async () => {
    const before = (await crew()).shifts.length;
    const several = (shifts: object[]) =>
      imani.try('POST /api/events/:id/shifts/several', {
        params: params(),
        body: { shifts: shifts as never },
      });
    const refused = await several([
      base,
      { ...base, endsLocal: '2026-08-08T08:00' },
      { ...base, startsLocal: '2026-03-08T02:30', endsLocal: '2026-03-08T05:00' },
      { ...base, leadId: crypto.randomUUID() },
    ]);
    expect(refused.problem.fields!.map((f) => f.path)).toEqual([
      'shifts.1.endsLocal',
      'shifts.2.startsLocal',
      'shifts.3.leadId',
    ]);
    expect((await crew()).shifts.length).toBe(before);
    expect((await several([base, { ...base, role: 'Tea' }])).body.ids).toHaveLength(2);
    expect((await crew()).shifts.length).toBe(before + 2);
    expect((await several([])).status).toBe(422);
  });

  test('who is on a shift is told what it was and what it is; a word that is put right is told to nobody', async () => {
    const id = await add();
    const wen = await person('Wen');
    await put(id, wen);
    const count = (await mailTo('wen@shifts.example')).length;
    expect((await change(id, { briefing: 'Bring gloves.' })).body).toMatchObject({ told: 0 });
    const tried = await change(id, { startsLocal: '2026-08-08T10:00', trying: true });
    expect(tried.body).toMatchObject({ told: 1, on: [{ name: 'Wen Shiftley', against: [] }] });
    expect((await shift(id)).startsLocal).toBe('2026-08-08T09:00');
    expect((await mailTo('wen@shifts.example')).length).toBe(count);
    const done = await change(id, { startsLocal: '2026-08-08T10:00', place: 'West bank' });
    expect(done.body.told).toBe(1);
    const mail = (await mailTo('wen@shifts.example')).at(-1)!;
    expect(mail.subject).toBe('Your shift has changed: Reed Cut');
    expect(mail.body).toMatch(/is now rAKING, West bank, .*10:00.*It was rAKING, East bank, .*9:00/su);
    // Told or not is theirs to say.
    const quietly = await change(id, { place: 'East bank', tell: false });
    expect(quietly.body.told).toBe(0);
    expect((await mailTo('wen@shifts.example')).at(-1)).toEqual(mail);
  });

  test('two who change it at once: the second is told so; and nobody falls off', async () => {
    const id = await add();
    const { version, ...now } = await shift(id);
    const save = (body: object) =>
      imani.try('PUT /api/shifts/:id', { params: { id }, body: { ...now, version, ...body } as never });
    const both = await Promise.all([save({ name: 'One' }), save({ name: 'Other' })]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    for (const given of ['Ada', 'Bo']) await put(id, await person(given));
    const fewer = await change(id, { wished: 1, least: 1 });
    expect(fewer.problem.fields).toMatchObject([
      { path: 'wished', message: '2 people are on it; it cannot take fewer.' },
    ]);
  });

  test('what speaks against who is on it is said before it is moved', async () => {
    const one = await add({ startsLocal: '2026-08-08T08:00', endsLocal: '2026-08-08T10:00' });
    const two = await add({ startsLocal: '2026-08-08T12:00', endsLocal: '2026-08-08T14:00', role: 'Tea' });
    const cy = await person('Cy');
    await put(one, cy);
    expect((await put(two, cy)).body.assigned).toBe(true);
    const tried = await change(two, {
      startsLocal: '2026-08-08T09:00',
      endsLocal: '2026-08-08T11:00',
      trying: true,
    });
    expect(tried.body.on[0]!.against).toMatchObject([{ kind: 'overlap', text: /rAKING/u }]);
  });

  test('a long one is cut: who is on it keeps the first part, and the others are open', async () => {
    const id = await add({ name: 'All day', least: 2, briefing: 'Gloves.', importance: 'extra' });
    const dee = await person('Dee');
    await put(id, dee);
    const { version } = await shift(id);
    const cut = (body: object) =>
      imani.try('POST /api/shifts/:id/cut', { params: { id }, body: { version, parts: 3, ...body } });
    expect((await cut({ parts: 1 })).problem.fields![0]!.path).toBe('parts');
    expect((await cut({ version: version + 1 })).status).toBe(409);
    const done = await cut({ handover: 15 });
    expect(done.body).toMatchObject({ told: 1 });
    const parts = (await crew()).shifts.filter((s) => done.body.ids.includes(s.id));
    expect(parts.map((s) => [s.startsLocal.slice(11), s.endsLocal.slice(11), s.filled])).toEqual([
      ['09:00', '11:55', 1],
      ['11:40', '14:35', 0],
      ['14:20', '17:00', 0],
    ]);
    expect(parts.every((s) => s.name === 'All day' && s.least === 2 && s.briefing === 'Gloves.')).toBe(true);
    const short = await add({ endsLocal: '2026-08-08T09:40' });
    const refused = await imani.try('POST /api/shifts/:id/cut', {
      params: { id: short },
      body: { version: 1, parts: 3 },
    });
    expect(refused.problem.fields).toMatchObject([
      { path: 'parts', message: 'It is too short for that: 2 parts at most.' },
    ]);
  });

  test('through a night in which the clock changes, parts are as long as the hours that pass', async () => {
    const id = await add({
      startsLocal: '2026-10-31T22:00',
      endsLocal: '2026-11-01T06:00',
      role: 'Night watch',
    });
    await imani.call('POST /api/shifts/:id/cut', { params: { id }, body: { version: 1, parts: 3 } });
    const parts = (await crew()).shifts.filter((s) => s.role === 'Night watch');
    expect(parts.map((s) => (Date.parse(s.endsAt) - Date.parse(s.startsAt)) / 3_600_000)).toEqual([3, 3, 3]);
    expect(parts.map((s) => s.startsLocal.slice(11))).toEqual(['22:00', '01:00', '03:00']);
  });

  describe('roles that ask something', () => {
    let aid: string;
    const held = (contactId: string, body: object) =>
      imani.call('PUT /api/contacts/:id/skills/:skill', { params: { id: contactId, skill: aid }, body });
    const signUp = (id: string, given: string) =>
      world.anyone.try('POST /api/public/shifts/:id/sign-up', {
        params: { id },
        body: { given, family: 'Shiftley', email: `${given.toLowerCase()}@shifts.example` },
      });
    beforeAll(async () => {
      aid = (await imani.call('POST /api/skills', { body: { name: 'Water rescue', certificate: true } })).id;
      await imani.call('POST /api/roles', {
        body: { name: 'Rescue', needs: [aid], fromAge: 18, brief: 'Stay by the water.' },
      });
    });

    test('a name stands once in the register, whatever its letters', async () => {
      const again = await imani.try('POST /api/roles', { body: { name: 'rescue' } });
      expect(again.problem.fields).toMatchObject([
        { path: 'name', message: 'There is a role of this name already.' },
      ]);
      expect((await imani.try('POST /api/skills', { body: { name: 'WATER rescue' } })).status).toBe(422);
      const gone = await imani.try('POST /api/roles', {
        body: { name: 'Odd', needs: [crypto.randomUUID()] },
      });
      expect(gone.problem.fields![0]!.path).toBe('needs');
    });

    test('a stranger asks, and is on it only once the crew lead agreed; what is known of the person is told to nobody', async () => {
      const id = await add({ role: 'Rescue', wished: 1 });
      const [shown] = (
        await world.anyone.call('GET /api/public/events/:slug/shifts', { params: { slug: event.slug } })
      ).shifts.filter((s) => s.id === id);
      expect(shown).toMatchObject({
        brief: 'Stay by the water.',
        fromAge: 18,
        needs: ['Water rescue'],
        asked: true,
        filled: 0,
      });
      expect((await signUp(id, 'Elo')).body).toEqual({ done: true });
      expect((await signUp(id, 'Fay')).body).toEqual({ done: true });
      const asked = await shift(id);
      expect(asked.filled).toBe(0);
      expect(asked.assignments.map((a) => [a.name, a.state])).toEqual([
        ['Elo Shiftley', 'proposed'],
        ['Fay Shiftley', 'proposed'],
      ]);
      expect((await crew()).asked).toBeGreaterThanOrEqual(2);
      const [letter] = await mailTo('elo@shifts.example');
      expect(letter!.subject).toBe('You asked for a shift: Reed Cut');
      const token = /\/crew\/([\w-]+)/u.exec(letter!.body)![1]!;
      const own = await world.anyone.call('GET /api/public/crew/:token', { params: { token } });
      expect(own.shifts).toMatchObject([{ role: 'Rescue', state: 'proposed' }]);
      const calendar = String(
        await world.anyone.call('GET /api/public/crew/:token/calendar.ics', { params: { token } }),
      );
      expect(calendar).not.toContain('Rescue');
      // Nobody who only asked is reminded, and nobody who only asked has served.
      const page = await imani.call('GET /api/events/:id', { params: params() });
      expect(page.margin.some((n) => n.headline.includes('2 people ask for a shift'))).toBe(true);
      const decide = (n: number, state: 'agreed' | 'dropped' | 'served') =>
        imani.try('POST /api/assignments/:id/state', {
          params: { id: asked.assignments[n]!.id },
          body: { state },
        });
      expect((await decide(0, 'served')).status).toBe(409);
      expect((await decide(0, 'agreed')).status).toBe(201);
      expect((await decide(1, 'dropped')).status).toBe(201);
      expect(await shift(id)).toMatchObject({ filled: 1, assignments: [{ name: 'Elo Shiftley' }] });
      expect((await mailTo('elo@shifts.example')).at(-1)!.subject).toBe('Your shift: Reed Cut');
      expect((await mailTo('fay@shifts.example')).at(-1)!.subject).toBe('Not this shift: Reed Cut');
    });

    test('each thing that speaks against somebody is said in words, and decided with a reason', async () => {
      const id = await add({ role: 'Rescue' });
      const gil = await person('Gil');
      const said = async (contactId: string) =>
        (await put(id, contactId)).body.clashes.map((c: { text: string }) => c.text);
      expect(await said(gil)).toEqual([
        'no birth date on record; Rescue is from 18',
        'has no Water rescue on record',
      ]);
      await odalys.call('PATCH /api/contacts/:id', {
        params: { id: gil },
        body: { birthDate: '2010-01-01' },
      });
      await held(gil, { until: '2026-08-07', seen: true });
      expect(await said(gil)).toEqual([
        'is 16 on that day; Rescue is from 18',
        'Water rescue runs out on 7 Aug, before the shift ends',
      ]);
      await odalys.call('PATCH /api/contacts/:id', {
        params: { id: gil },
        body: { birthDate: '1990-01-01' },
      });
      await held(gil, { until: '2026-08-08' });
      expect(await said(gil)).toEqual(['says they have Water rescue; nobody has seen it']);
      await held(gil, { until: '2026-08-08', number: 'W-12', seen: true });
      expect((await put(id, gil)).body).toEqual({ assigned: true, clashes: [] });
      const skills = await imani.call('GET /api/contacts/:id/skills', { params: { id: gil } });
      expect(skills).toMatchObject([
        { name: 'Water rescue', number: 'W-12', until: '2026-08-08', seen: true, seenBy: 'Imani Okarro' },
      ]);
      // Also who has what is needed is looked at first: nobody finds out by their name what they can do.
      const hal = await person('Hal', {});
      await odalys.call('PATCH /api/contacts/:id', {
        params: { id: hal },
        body: { birthDate: '1990-01-01' },
      });
      await held(hal, { seen: true });
      await signUp(id, 'Hal');
      expect((await shift(id)).assignments.map((a) => [a.name, a.state])).toEqual([
        ['Gil Shiftley', 'agreed'],
        ['Hal Shiftley', 'proposed'],
      ]);
    });

    test('what the organization never overrides is not overridden, by nobody', async () => {
      await odalys.call('PUT /api/crew-rules', {
        body: { restHours: 10, neverOverridden: ['skill'], ...counting, asksToStepIn: false },
      });
      const id = await add({
        role: 'Rescue',
        startsLocal: '2026-08-09T09:00',
        endsLocal: '2026-08-09T12:00',
      });
      const ida = await person('Ida');
      await odalys.call('PATCH /api/contacts/:id', {
        params: { id: ida },
        body: { birthDate: '1990-01-01' },
      });
      const refused = await put(id, ida, 'she knows how');
      expect(refused.body).toMatchObject({ assigned: false, clashes: [{ kind: 'skill', absolute: true }] });
      expect((await shift(id)).filled).toBe(0);
      // Rest is that of the rules: from 13:00 to 23:00 lie ten hours.
      const late = await add({ role: 'Tea', startsLocal: '2026-08-10T08:00', endsLocal: '2026-08-10T13:00' });
      const night = await add({
        role: 'Tea',
        startsLocal: '2026-08-10T22:30',
        endsLocal: '2026-08-11T02:00',
      });
      await put(late, ida);
      expect((await put(night, ida)).body.clashes.map((c: { kind: string }) => c.kind)).toEqual([
        'short rest',
      ]);
      // Nor does a stranger find out by the count what stands in somebody's way.
      await odalys.call('PUT /api/crew-rules', {
        body: { restHours: 10, neverOverridden: ['short rest'], ...counting, asksToStepIn: false },
      });
      const open = await add({ role: 'Tea', startsLocal: '2026-08-10T22:30', endsLocal: '2026-08-11T02:00' });
      await put(late, await person('Jo'));
      await signUp(open, 'Jo');
      expect(await shift(open)).toMatchObject({ filled: 0, assignments: [{ state: 'proposed' }] });
      const { shifts } = await world.anyone.call('GET /api/public/events/:slug/shifts', {
        params: { slug: event.slug },
      });
      expect(shifts.find((s) => s.id === open)!.filled).toBe(1);
      await odalys.call('PUT /api/crew-rules', {
        body: { restHours: 8, neverOverridden: [], ...counting, asksToStepIn: false },
      });
      expect((await put(night, ida)).body).toMatchObject({ assigned: true });
    });

    test('a role has another name at once wherever it stands; taken away it stays on its shifts', async () => {
      const { roles } = await imani.call('GET /api/roles');
      const rescue = roles.find((r) => r.name === 'Rescue')!;
      expect(rescue.shifts).toBeGreaterThan(0);
      const save = (body: object) =>
        imani.call('PATCH /api/roles/:id', {
          params: { id: rescue.id },
          body: { ...rescue, ...body } as never,
        });
      await save({ name: 'Water rescue crew' });
      const names = async () => new Set((await crew()).shifts.map((s) => s.role));
      expect((await names()).has('Rescue')).toBe(false);
      expect((await names()).has('Water rescue crew')).toBe(true);
      await imani.call('DELETE /api/roles/:id', { params: { id: rescue.id } });
      const left = (await imani.call('GET /api/roles')).roles;
      expect(left.find((r) => r.id === rescue.id)).toMatchObject({ retired: true });
      expect((await names()).has('Water rescue crew')).toBe(true);
      // Added again it is the same.
      const again = await imani.call('POST /api/roles', { body: { name: 'Water rescue crew', needs: [] } });
      expect(again.id).toBe(rescue.id);
    });

    test('a skill taken out of the register is asked for by no role, and stays on record', async () => {
      const kit = await person('Kit');
      await held(kit, { seen: true });
      const skill = (await imani.call('GET /api/roles')).skills.find((s) => s.id === aid)!;
      await imani.call('PATCH /api/skills/:id', {
        params: { id: aid },
        body: { ...skill, name: 'Rescue from water' },
      });
      await imani.call('DELETE /api/skills/:id', { params: { id: aid } });
      const { roles, skills } = await imani.call('GET /api/roles');
      expect(skills.some((s) => s.id === aid)).toBe(false);
      expect(roles.every((r) => !r.needs.includes(aid))).toBe(true);
      expect(await imani.call('GET /api/contacts/:id/skills', { params: { id: kit } })).toMatchObject([
        { name: 'Rescue from water' },
      ]);
      await imani.call('DELETE /api/contacts/:id/skills/:skill', { params: { id: kit, skill: aid } });
      expect(await imani.call('GET /api/contacts/:id/skills', { params: { id: kit } })).toEqual([]);
    });
  });

  test('who could be put on is ranked: nothing against it first, then whoever has less to do, then whoever knows the role', async () => {
    const own = await openEvent(world, { title: 'Ranked Cut', unit: 'Small Boats' });
    const at = { params: { id: own.id } };
    const plan = async (more: object) =>
      (await imani.call('POST /api/events/:id/shifts', { ...at, body: { ...base, role: 'Ferry', ...more } }))
        .id;
    const past = await openEvent(world, {
      title: 'Ferry before',
      startsLocal: '2026-07-10T09:00',
      endsLocal: '2026-07-10T12:00',
    });
    const before = (
      await imani.call('POST /api/events/:id/shifts', {
        params: { id: past.id },
        body: { ...base, role: 'Ferry', startsLocal: '2026-07-10T09:00', endsLocal: '2026-07-10T12:00' },
      })
    ).id;
    const [lou, mo, nan] = [await person('Lou'), await person('Mo'), await person('Nan')];
    for (const who of [lou, mo]) await put(before, who);
    const morning = await plan({ startsLocal: '2026-08-08T06:00', endsLocal: '2026-08-08T11:00' });
    for (const who of [mo, nan]) await put(morning, who);
    const evening = await plan({ startsLocal: '2026-08-08T11:00', endsLocal: '2026-08-08T12:00' });
    const seen = async (caller: Caller, id: string, q = 'shiftley') =>
      caller.call('GET /api/shifts/:id/candidates', { params: { id }, query: { q } });
    const ranked = async (id: string) => (await seen(imani, id)).shown.map((one) => one.name.split(' ')[0]);
    const order = (names: readonly (string | undefined)[]) =>
      names.filter((n) => n === 'Lou' || n === 'Mo' || n === 'Nan');
    // Lou has nothing to do there yet; Mo and Nan have five hours each.
    expect(order(await ranked(evening))).toEqual(['Lou', 'Mo', 'Nan']);
    const { shown, free, all } = await seen(imani, evening, 'lou shift');
    expect(shown).toMatchObject([{ name: 'Lou Shiftley', hoursHere: 0, servedInRole: 0, against: [] }]);
    expect(free).toBeLessThanOrEqual(all);
    expect(all).toBeGreaterThanOrEqual(3);
    // Who is on it is not proposed for it, and whom something speaks against comes after.
    await put(evening, nan);
    expect(order(await ranked(evening))).toEqual(['Lou', 'Mo']);
    const meanwhile = await plan({ startsLocal: '2026-08-08T10:00', endsLocal: '2026-08-08T10:30' });
    expect(order(await ranked(meanwhile))).toEqual(['Lou', 'Mo', 'Nan']);
    const mos = (await seen(imani, meanwhile)).shown.find((one) => one.name === 'Mo Shiftley')!;
    expect(mos.against).toMatchObject([{ kind: 'overlap', text: 'at the same time as Ferry (Ranked Cut)' }]);
    // A unit lead sees whoever has to do with the unit, and nobody else.
    const piers = await world.as('piers');
    const theirs = (await seen(piers, evening)).shown.map((one) => one.name);
    expect(theirs).toContain('Mo Shiftley');
    expect(theirs).not.toContain('Lou Shiftley');
    // Whoever is erased meanwhile is nobody's candidate, and their places are open again.
    const filled = async (id: string) =>
      (await imani.call('GET /api/events/:id/crew', at)).shifts.find((s) => s.id === id)!.filled;
    expect(await filled(morning)).toBe(2);
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: mo },
      body: { name: 'Mo Shiftley' } as never,
    });
    expect(order(await ranked(meanwhile))).toEqual(['Lou', 'Nan']);
    expect(await filled(morning)).toBe(1);
  });

  test('from one place to another there is time: ten minutes, what the organization says, or the way to another ground', async () => {
    const own = await openEvent(world, { title: 'Long Way Cut' });
    const plan = async (place: string, from: string, to: string) =>
      (
        await imani.call('POST /api/events/:id/shifts', {
          params: { id: own.id },
          body: { ...base, place, startsLocal: `2026-08-08T${from}`, endsLocal: `2026-08-08T${to}` },
        })
      ).id;
    const early = await plan('Landing A', '08:00', '10:00');
    const after = await plan('Landing B', '10:00', '11:00');
    const later = await plan('Landing B', '10:10', '11:00');
    // Another place of the organization: some 600 metres from where the event is.
    const far = await plan('Reedhouse', '10:05', '11:00');
    const walker = await person('Wes');
    expect((await put(early, walker)).body).toMatchObject({ assigned: true });
    const said = async (id: string) =>
      (await put(id, walker)).body.clashes.map((c: { text: string }) => c.text);
    expect(await said(after)).toEqual(['has 0 minutes from rAKING (Long Way Cut); the way takes about 10']);
    const { rules } = await imani.call('GET /api/roles');
    await odalys.call('PUT /api/crew-rules', { body: { ...rules, placeMinutes: 0 } });
    const way = 'has 5 minutes from rAKING (Long Way Cut); the way takes about 10';
    expect(await said(far)).toEqual([way]);
    const seen = async (q: string) =>
      (await imani.call('GET /api/shifts/:id/candidates', { params: { id: far }, query: { q } })).shown[0]!
        .against;
    expect((await seen('wes shiftley')).map((a) => a.text)).toEqual([way]);
    expect(await said(after)).toEqual([]);
    await odalys.call('PUT /api/crew-rules', { body: { ...rules, placeMinutes: 10 } });
    const other = await person('Win');
    await put(early, other);
    expect((await put(later, other)).body).toMatchObject({ assigned: true });
  });

  test('where a role is usually served is kept with it', async () => {
    const places = ['Boat shed', 'Landing A'];
    const { id } = await imani.call('POST /api/roles', { body: { name: 'Bailing', places } });
    const role = async () => (await imani.call('GET /api/roles')).roles.find((r) => r.id === id)!;
    expect((await role()).places).toEqual(places);
    await imani.call('PATCH /api/roles/:id', {
      params: { id },
      body: { name: 'Bailing', places: ['Boat shed'] },
    });
    expect((await role()).places).toEqual(['Boat shed']);
    expect(
      (await imani.try('POST /api/roles', { body: { name: 'Scooping', places: [''] } })).problem.fields,
    ).toMatchObject([{ path: 'places.0' }]);
  });

  test('who helps is found by what they said and what is on record, as far as whoever asks sees it', async () => {
    const own = await openEvent(world, {
      title: 'Sought Cut',
      unit: 'Small Boats',
      questions: [
        {
          ...plainQuestion,
          id: crypto.randomUUID(),
          kind: 'one of',
          prompt: { en: 'Do you own waders?' },
          choices: ['yes, size 9', 'no'],
        },
        {
          ...plainQuestion,
          id: crypto.randomUUID(),
          prompt: { en: 'What stings you?' },
          sensitive: true,
        },
      ],
    });
    const at = { params: { id: own.id } };
    const id = (
      await imani.call('POST /api/events/:id/shifts', { ...at, body: { ...base, role: 'Scything' } })
    ).id;
    const past = (
      await imani.call('POST /api/events/:id/shifts', {
        ...at,
        body: { ...base, role: 'Stooking', startsLocal: '2026-08-08T05:00', endsLocal: '2026-08-08T06:00' },
      })
    ).id;
    const yves = await person('Yves');
    await put(past, yves);
    await odalys.call('POST /api/tags', { body: { tag: 'has a trailer', ids: [yves] } });
    const { id: callId, slug } = await imani.call('POST /api/calls', {
      body: {
        eventId: own.id,
        title: { en: 'Hands for hay' },
        words: { en: '' },
        asks: ['experience'],
        roles: [(await imani.call('GET /api/roles')).roles.find((r) => r.name === 'Scything')!.id],
        open: true,
      },
    });
    const roleId = (await imani.call('GET /api/roles')).roles.find((r) => r.name === 'Scything')!.id;
    await world.anyone.call('POST /api/public/calls/:slug', {
      params: { slug },
      body: {
        person: { given: 'Yves', family: 'Shiftley', email: 'yves@shifts.example' },
        said: { wishes: [{ roleId, weight: 2 }], experience: 'Grew up on a farm, drives a tractor' },
      } as never,
    });
    const { applications } = await imani.call('GET /api/calls/:id/applications', { params: { id: callId } });
    expect(applications).toHaveLength(1);
    const [waders, allergy] = own.questions;
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: own.slug },
      body: {
        ...orderFor(own, [{ given: 'Yves', family: 'Shiftley' }], { email: 'yves@shifts.example' }),
        attendees: [
          {
            given: 'Yves',
            family: 'Shiftley',
            birthDate: null,
            answers: { [waders!.id]: 'yes, size 9', [allergy!.id]: 'wasps' },
          },
        ],
      } as never,
    });
    const found = async (caller: Caller, q: string) => {
      const { shown } = await caller.call('GET /api/shifts/:id/candidates', {
        params: { id },
        query: { q },
      });
      return shown.filter((s) => s.name === 'Yves Shiftley').map((s) => s.found);
    };
    expect(await found(imani, 'yves')).toEqual([[]]);
    expect(await found(imani, 'TRACTOR yves')).toEqual([
      [{ in: 'experience', label: '', text: 'Grew up on a farm, drives a tractor' }],
    ]);
    expect(await found(imani, 'trailer')).toEqual([[{ in: 'tag', label: '', text: 'has a trailer' }]]);
    expect(await found(imani, 'tractor boat')).toEqual([]);
    // Answers of a registration are the coordinator's and the unit lead's to see, sensitive ones nobody's to search.
    const answer = [[{ in: 'registration', label: 'Do you own waders?', text: 'yes, size 9' }]];
    expect(await found(odalys, 'waders')).toEqual(answer);
    expect(await found(await world.as('piers'), 'waders')).toEqual(answer);
    expect(await found(imani, 'waders')).toEqual([]);
    // What was said at an event of another unit, or served there, is not a unit lead's to search.
    const { units } = await odalys.call('GET /api/choices');
    const other = units.find((u) => u.name === 'Mudlarks')!.id;
    await world.app.db.query('update events set unit_id = $2 where id = $1', [own.id, other]);
    const elsewhere = await openEvent(world, { title: 'Boats of the lead', unit: 'Small Boats' });
    const theirs = (
      await imani.call('POST /api/events/:id/shifts', {
        params: { id: elsewhere.id },
        body: { ...base, role: 'Scything' },
      })
    ).id;
    await imani.call('POST /api/shifts/:id/assignments', {
      params: { id: theirs },
      body: { contactId: yves, overrideReason: 'it is a test of reach' },
    });
    const there = (
      await imani.call('POST /api/events/:id/shifts', {
        params: { id: elsewhere.id },
        body: { ...base, role: 'Scything', startsLocal: '2026-08-08T18:00', endsLocal: '2026-08-08T19:00' },
      })
    ).id;
    const seenThere = async (caller: Caller, q: string) =>
      (
        await caller.call('GET /api/shifts/:id/candidates', { params: { id: there }, query: { q } })
      ).shown.map((one) => one.name);
    expect(await seenThere(await world.as('piers'), 'yves')).toEqual(['Yves Shiftley']);
    for (const word of ['waders', 'tractor'])
      expect(await seenThere(await world.as('piers'), word)).toEqual([]);
    expect(await seenThere(odalys, 'waders')).toEqual(['Yves Shiftley']);
    await world.app.db.query(
      "update events set unit_id = (select id from units where name = 'Small Boats') where id = $1",
      [own.id],
    );
    expect(await found(await world.as('piers'), 'trailer')).toEqual([]);
    for (const caller of [odalys, imani]) expect(await found(caller, 'wasps')).toEqual([]);
  });

  test('sheets on paper and as a table: everybody on a shift and every open place, but nobody who only asked', async () => {
    const own = await openEvent(world, { title: 'Printed Cut' });
    const at = { params: { id: own.id } };
    for (const [role, place] of [
      ['Stile', 'East'],
      ['Urn', 'West'],
    ])
      await imani.call('POST /api/events/:id/shifts', {
        ...at,
        body: { ...base, role: role!, place: place!, wished: 2 },
      });
    const { shifts } = await imani.call('GET /api/events/:id/crew', at);
    await put(shifts.find((s) => s.role === 'Stile')!.id, await person('Łucja'));
    const pdf = async (by: 'day' | 'role' | 'place' | 'person' | 'sign in') => {
      const file = await imani.call('GET /api/events/:id/crew.pdf', { ...at, query: { by } });
      const pages = await wordsOf(file as never as Buffer);
      return pages.join('\n');
    };
    const day = await pdf('day');
    expect(day).toContain('Printed Cut');
    expect(day).toMatch(/Saturday 8 August 2026.*Stile.*Łucja Shiftley.*– open –/su);
    expect((await pdf('role')).indexOf('Stile')).toBeLessThan((await pdf('role')).indexOf('Urn'));
    expect(await pdf('place')).toMatch(/East.*West/su);
    const people = await pdf('person');
    expect(people).toContain('Łucja Shiftley');
    expect(people).not.toContain('Urn');
    expect(await pdf('sign in')).toMatch(/In.*Out.*Łucja Shiftley.*– open –/su);
    const csv = String(await imani.call('GET /api/events/:id/crew.csv', at));
    const rows = csv.trim().split('\r\n');
    expect(rows).toHaveLength(5);
    expect(rows[1]).toBe('2026-08-08,09:00,17:00,8,Stile,,East,2,2,Łucja Shiftley,agreed,');
    expect(rows.filter((r) => r.endsWith(',open,'))).toHaveLength(3);
  });

  test('a copy of the event has its shifts as they are, without leads and without people', async () => {
    const own = await openEvent(world, { title: 'Copied Cut' });
    await imani.call('POST /api/events/:id/shifts', {
      params: { id: own.id },
      body: { ...base, least: 1, importance: 'extra', briefing: 'Boots.', name: 'Morning' },
    });
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Copied Cut again', from: own.id, date: '2026-09-12' },
    });
    const { shifts } = await imani.call('GET /api/events/:id/crew', { params: { id } });
    expect(shifts).toMatchObject([
      { least: 1, wished: 3, importance: 'extra', briefing: 'Boots.', name: 'Morning', leadId: null },
    ]);
  });
});
