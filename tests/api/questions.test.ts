import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import type { OrderBody } from '#contract/registration.ts';
import { plainQuestion } from '#core/questions/question.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, signedInAs, signs } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

type Asked = EventPlan['questions'][number];
const ask = (prompt: string, of: Partial<Asked> = {}): Asked => ({
  ...plainQuestion,
  id: crypto.randomUUID(),
  choices: [],
  prompt: { en: prompt },
  ...of,
});
const place = (event: OpenEvent, body: OrderBody, by: Caller = world.anyone) =>
  by.try('POST /api/public/events/:slug/orders', { params: { slug: event.slug }, body });
const rowsOf = async (event: OpenEvent) =>
  (await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })).rows;
const proposals = async (contactId: string) =>
  (await odalys.call('GET /api/proposals')).filter((p) => p.contactId === contactId);
const contactOf = (id: string) => odalys.call('GET /api/contacts/:id', { params: { id } });
const add = async (given: string, more: object = {}) =>
  (
    await odalys.call('POST /api/contacts', {
      body: { given, family: 'Tansy', email: `${given.toLowerCase()}@tansy.example`, ...more } as never,
    })
  ).id;
const keptIn = async (contactId: string, field: string) =>
  (
    await world.app.db.query<{ value: string }>(
      'select value from custom_values where contact_id = $1 and field_id = $2',
      [contactId, field],
    )
  )[0]?.value;

describe('what is asked', () => {
  test('what hangs on another answer has to be answered only then; what was typed before it was hidden is let go', async () => {
    const car = ask('Do you come by car?', { scope: 'order', kind: 'yes or no', required: true });
    const seats = ask('How many seats are free?', {
      scope: 'order',
      kind: 'number',
      required: true,
      least: 1,
      most: 8,
      shownIf: { questionId: car.id, is: ['yes'] },
    });
    const event = await openEvent(world, { title: 'Lift', questions: [car, seats] });
    const wrong = async (answers: OrderBody['answers']) =>
      (
        await place(event, orderFor(event, [{ given: 'Isa', family: 'Tansy' }], { answers }))
      ).problem?.fields?.map((f) => [f.path, f.code]);
    expect(await wrong({})).toEqual([[`answers.${car.id}`, 'answer-needed']]);
    expect(await wrong({ [car.id]: true })).toEqual([[`answers.${seats.id}`, 'answer-needed']]);
    expect(await wrong({ [car.id]: true, [seats.id]: '9' })).toEqual([
      [`answers.${seats.id}`, 'answer-most'],
    ]);
    expect(await wrong({ [car.id]: false, [seats.id]: '9' })).toBeUndefined();
    expect(await wrong({ [car.id]: true, [seats.id]: '3,0' })).toBeUndefined();
    expect((await rowsOf(event)).map((r) => Object.values(r.answers).map((a) => a.value))).toEqual([
      [false],
      [true, '3'],
    ]);
  });

  test('circles and what is never asked are refused while it is made; a copy hangs on its own questions', async () => {
    const a = ask('A', { kind: 'yes or no' });
    const b = ask('B', { kind: 'yes or no', shownIf: { questionId: a.id, is: ['yes'] } });
    const event = await openEvent(world, { title: 'Chain', questions: [a, b] });
    const save = async (questions: Asked[]) => {
      const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
      return odalys.try('PATCH /api/events/:id', {
        params: { id: event.id },
        body: { version, change: { questions } },
      });
    };
    const circle = await save([{ ...a, shownIf: { questionId: b.id, is: ['yes'] } }, b]);
    expect(circle.problem.fields!.map((f) => f.code)).toEqual(['shown-in-circle', 'shown-in-circle']);
    expect((await save([b])).problem.fields).toMatchObject([{ code: 'shown-by-nothing' }]);
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Chain', from: event.id, date: '2027-08-07' },
    });
    const [a2, b2] = (await odalys.call('GET /api/events/:id', { params: { id } })).plan.questions;
    expect(a2!.id).not.toBe(a.id);
    expect(b2!.shownIf).toEqual({ questionId: a2!.id, is: ['yes'] });
  });

  test('a consent is given, or it is not; nobody is told which field of a record an answer fills', async () => {
    const { id: field } = await odalys.call('POST /api/fields', { body: { name: 'Boots', kind: 'number' } });
    const agree = ask('I have read the rules of the marsh', { kind: 'consent', required: true });
    const boots = ask('Boot size', { kind: 'number', keeps: field });
    const event = await openEvent(world, { title: 'Consent', questions: [agree, boots] });
    const seen = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect(seen.questions.map((q) => q.keeps)).toEqual([null, null]);
    expect(JSON.stringify(seen.questions)).not.toMatch(/seenBy|sensitive/u);
    const body = orderFor(event, [{ given: 'Una', family: 'Tansy' }]);
    body.attendees[0]!.answers = { [agree.id]: false };
    expect((await place(event, body)).problem.fields).toMatchObject([{ code: 'consent-needed' }]);
    body.attendees[0]!.answers = { [agree.id]: true };
    expect((await place(event, body)).status).toBe(201);
  });
});

describe('what is kept on a record', () => {
  test('of somebody nobody knew it is written; of somebody we know it waits for a decision, a field of one’s own too', async () => {
    const { id: field } = await odalys.call('POST /api/fields', { body: { name: 'Paddle', kind: 'text' } });
    const questions = [
      ask('Telephone', { scope: 'order', keeps: 'phone', required: true }),
      ask('Street', { scope: 'order', keeps: 'street' }),
      ask('Language', {
        scope: 'order',
        kind: 'one of',
        choices: ['English', 'Français'],
        keeps: 'language',
      }),
      ask('Paddle', { keeps: field }),
      ask('Diet', { kind: 'long text', keeps: 'dietary', sensitive: true, seenBy: 'door' }),
      ask('Telephone on the day', { keeps: 'phone' }),
    ];
    const [, street, language, paddle, diet, mobile] = questions.map((q) => q.id);
    const event = await openEvent(world, { title: 'Records', questions });
    const order = (given: string, email: string, said: string) => {
      const body = orderFor(event, [{ given, family: 'Tansy' }], {
        email,
        answers: { [street!]: `${said} Lane 1`, [language!]: 'Français' },
      });
      body.buyer.phone = '902 555 0141';
      body.attendees[0]!.answers = { [paddle!]: said, [diet!]: `no ${said}`, [mobile!]: '902-555-0142' };
      return body;
    };
    const without = order('Nova', 'nova@tansy.example', 'Oak');
    without.buyer.phone = '';
    expect((await place(event, without)).problem.fields).toMatchObject([
      { path: 'buyer.phone', code: 'answer-needed' },
    ]);
    expect((await place(event, order('Nova', 'nova@tansy.example', 'Oak'))).status).toBe(201);
    const nova = (await rowsOf(event)).find((r) => r.given === 'Nova')!.contactId!;
    expect(await contactOf(nova)).toMatchObject({ street: 'Oak Lane 1', language: 'fr', dietary: 'no Oak' });
    expect(await keptIn(nova, field)).toBe('Oak');
    expect((await contactOf(nova)).phones.map((p) => p.phone)).toEqual(['+19025550141', '+19025550142']);
    expect(await proposals(nova)).toEqual([]);

    const wanda = await add('Wanda', { street: 'Elm Lane 2' });
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: wanda },
      body: { fields: { [field]: 'Elm' } } as never,
    });
    expect((await place(event, order('Wanda', 'wanda@tansy.example', 'Ash'))).status).toBe(201);
    expect((await rowsOf(event)).find((r) => r.given === 'Wanda')!.contactId).toBe(wanda);
    expect(await contactOf(wanda)).toMatchObject({ street: 'Elm Lane 2', language: 'en', dietary: null });
    const waiting = await proposals(wanda);
    expect(waiting.map((p) => [p.fieldName ?? p.field, p.before, p.after]).sort()).toEqual(
      [
        ['Paddle', 'Elm', 'Ash'],
        ['dietary', '', 'no Ash'],
        ['language', 'en', 'fr'],
        ['phone', '', '+19025550141'],
        ['phone', '', '+19025550142'],
        ['street', 'Elm Lane 2', 'Ash Lane 1'],
      ].sort(),
    );
    for (const p of waiting)
      await odalys.call('POST /api/proposals/:id/decide', {
        params: { id: p.id },
        body: { accept: p.field !== 'street' },
      });
    expect(await contactOf(wanda)).toMatchObject({ street: 'Elm Lane 2', language: 'fr', dietary: 'no Ash' });
    expect(await keptIn(wanda, field)).toBe('Ash');
    // Said again, what was left as it is does not come up once more.
    expect((await place(event, order('Wanda', 'wanda@tansy.example', 'Ash'))).status).toBe(201);
    expect(await proposals(wanda)).toEqual([]);
  });
});

describe('a file that answers', () => {
  const pdf = Buffer.from('%PDF-1.7 certificate').toString('base64');
  const bring = (event: OpenEvent, name: string, content = pdf) =>
    world.anyone.try('POST /api/public/events/:slug/files', {
      params: { slug: event.slug },
      body: { name, content },
    });

  test('is what its name says, belongs to one order, and is read by who reads answers', async () => {
    const first = ask('First aid certificate', { kind: 'file', required: true });
    const event = await openEvent(world, { title: 'Certificates', questions: [first] });
    const other = await openEvent(world, { title: 'No files' });
    expect((await bring(other, 'a.pdf')).status).toBe(404);
    const program = Buffer.from('MZ program').toString('base64');
    expect((await bring(event, 'a.pdf', program)).problem.fields).toMatchObject([
      { code: 'no-such-file-kind' },
    ]);
    expect((await bring(event, 'a.exe')).problem.fields).toMatchObject([{ code: 'no-such-file-kind' }]);
    const kept = (await bring(event, 'certificate.pdf')).body;
    const order = (given: string, file: string) => {
      const body = orderFor(event, [{ given, family: 'Tansy' }]);
      body.attendees[0]!.answers = { [first.id]: file };
      return body;
    };
    expect((await place(event, order('Ole', crypto.randomUUID()))).problem.code).toBe('file-gone');
    expect((await rowsOf(event)).length).toBe(0);
    expect((await place(event, order('Ole', kept.id))).status).toBe(201);
    // It is his, and nobody else's to name.
    expect((await place(event, order('Siv', kept.id))).problem.code).toBe('file-gone');
    const [row] = await rowsOf(event);
    expect(row!.answers).toEqual({
      [first.id]: { value: kept.id, file: { id: kept.id, name: 'certificate.pdf' } },
    });
    const read = (by: Caller, of: OpenEvent) =>
      by.try('GET /api/events/:id/answers/files/:file', { params: { id: of.id, file: kept.id } });
    const answer = await read(odalys, event);
    expect([answer.status, (answer.body as unknown as Buffer).toString()]).toEqual([
      200,
      '%PDF-1.7 certificate',
    ]);
    expect((await read(odalys, other)).status).toBe(404);
    expect([
      (await read(await world.as('door'), event)).status,
      (await read(world.anyone, event)).status,
    ]).toEqual([403, 401]);
    // One that no order named is let go of after a day.
    const loose = (await bring(event, 'loose.pdf')).body;
    const there = async () =>
      (await world.app.db.query('select 1 from answer_files where id = $1', [loose.id])).length;
    await world.runner.run();
    expect(await there()).toBe(1);
    await world.app.db.query("update answer_files set at = at - interval '25 hours' where id = $1", [
      loose.id,
    ]);
    await world.runner.run();
    expect([await there(), (await read(odalys, event)).status]).toEqual([0, 200]);
  });
});

describe('sets of questions', () => {
  test('are kept by name, replaced where that is said, and taken away; events keep what they ask', async () => {
    const a = ask('Coming from', { kind: 'one of', choices: ['near', 'far'] });
    const b = ask('By train?', {
      kind: 'yes or no',
      offerId: crypto.randomUUID(),
      shownIf: { questionId: a.id, is: ['far'] },
    });
    const keep = (name: string, questions: Asked[], replace = false) =>
      odalys.try('POST /api/question-sets', { body: { name, questions, replace } });
    const { id } = (await keep('Travel', [a, b])).body;
    expect((await keep('travel', [a])).problem.fields).toMatchObject([{ path: 'name', code: 'set-taken' }]);
    const sets = await odalys.call('GET /api/question-sets');
    expect(sets).toMatchObject([
      { id, name: 'Travel', questions: [{ id: a.id }, { id: b.id, offerId: null }] },
    ]);
    expect((await keep('travel', [a], true)).body).toEqual({ id });
    expect((await odalys.call('GET /api/question-sets'))[0]!.questions).toHaveLength(1);
    await odalys.call('DELETE /api/question-sets/:id', { params: { id } });
    expect(await odalys.call('GET /api/question-sets')).toEqual([]);
  });
});

describe('picked from the household', () => {
  test('whoever is signed in picks people of theirs, who are known by it; nobody else can, and nobody is told who is known', async () => {
    const event = await openEvent(world, { title: 'Household', so: ['minors'] });
    const ada = await add('Ada', { birthDate: '1984-03-09' });
    const [household] = await world.app.db.query<{ id: string }>(
      "insert into households (id, name, created_at) values (gen_random_uuid(), 'Tansy', now()) returning id",
    );
    const kit = await add('Kit', { email: undefined, birthDate: '2016-05-05' });
    const sol = await add('Sol', { birthDate: '1983-01-02' });
    const stranger = await add('Stranger', { birthDate: '1990-01-01' });
    await world.app.db.query('update contacts set household_id = $1 where id = any($2)', [
      household!.id,
      [ada, kit, sol],
    ]);
    await world.app.db.query(
      "insert into relationships (id, kind, from_contact, to_contact, created_at) values (gen_random_uuid(), 'guardian', $1, $2, now())",
      [ada, kit],
    );
    const page = (by: Caller) => by.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect((await page(world.anyone)).you).toBeNull();
    const by = await signedInAs(world.origin, 'ada@tansy.example');
    const { you } = await page(by);
    expect(you!.person).toEqual({ given: 'Ada', family: 'Tansy', email: 'ada@tansy.example' });
    // When her husband was born is not hers to read.
    expect(you!.people.map((p) => [p.contactId, p.given, p.birthDate, p.hasBirthDate])).toEqual([
      [ada, 'Ada', '1984-03-09', true],
      [sol, 'Sol', null, true],
      [kit, 'Kit', '2016-05-05', true],
    ]);
    const pick = (...ids: string[]): OrderBody => ({
      ...orderFor(event, [{ given: 'Ada', family: 'Tansy' }], { email: 'ada@tansy.example' }),
      lines: [{ offerId: event.offers[0]!.id, units: ids.length }],
      attendees: ids.map((contactId) => ({ given: '', family: '', contactId })),
    });
    for (const [who, ids] of [
      [by, [stranger]],
      [world.anyone, [kit]],
    ] as const)
      expect((await place(event, pick(...ids), who)).problem.fields).toMatchObject([
        { path: 'attendees.0.given', code: 'person-not-yours' },
      ]);
    expect((await place(event, pick(kit, kit), by)).problem.fields).toMatchObject([{ code: 'person-twice' }]);
    expect((await place(event, pick(ada, kit, sol), by)).status).toBe(201);
    expect((await rowsOf(event)).map((r) => [r.given, r.contactId, r.linkReasons])).toEqual(
      [
        ['Ada', ada],
        ['Kit', kit],
        ['Sol', sol],
      ].map(([given, id]) => [given, id, ['picked by somebody of their household who was signed in']]),
    );
    expect((await proposals(kit)).length + (await proposals(sol)).length).toBe(0);
  });
});

describe('one waiver for several', () => {
  test('a parent signs for themselves and every child in one go, each with a signature of their own, all or none', async () => {
    const event = await openEvent(world, {
      title: 'Signed at once',
      so: ['boats', 'minors'],
      waiver: 'On the water',
    });
    const placed = (
      await place(
        event,
        orderFor(event, [
          { given: 'Ylva', family: 'Tansy', birthDate: '1986-02-11' },
          { given: 'Per', family: 'Tansy', birthDate: '2015-05-02' },
          { given: 'Ove', family: 'Tansy', birthDate: '2017-09-30' },
          { given: 'Dag', family: 'Tansy', birthDate: '1985-01-01' },
        ]),
      )
    ).body;
    const look = () =>
      world.anyone.call('GET /api/public/orders/:token', { params: { token: placed.token } });
    const { seats, waivers } = await look();
    const sign = (of: typeof seats, relations: ('self' | 'guardian')[]) =>
      world.anyone.try('POST /api/public/orders/:token/signatures', {
        params: { token: placed.token },
        body: {
          seats: of.map((s, at) => ({ registrationId: s.id, relation: relations[at]! })),
          ...signs(waivers[0]!, 'Ylva Tansy'),
        },
      });
    const [ylva, per, ove, dag] = seats;
    // Dag is of age: nobody signs as his guardian, and then nothing of it is signed.
    expect((await sign([ylva!, per!, dag!], ['self', 'guardian', 'guardian'])).status).toBe(422);
    expect((await look()).seats.map((s) => s.waiver)).toEqual(['self', 'guardian', 'guardian', 'self']);
    const { signed } = (await sign([ylva!, per!, ove!], ['self', 'guardian', 'guardian'])).body;
    expect(signed.map((s) => s.registrationId)).toEqual([ylva!.id, per!.id, ove!.id]);
    expect(new Set(signed.map((s) => s.sha256)).size).toBe(3);
    expect((await look()).seats.map((s) => s.waiver)).toEqual(['signed', 'signed', 'signed', 'self']);
    const [kept] = await odalys.call('GET /api/registrations/:id/signatures', { params: { id: per!.id } });
    expect(kept!.text).toContain('as guardian of Per Tansy');
  });
});

describe('sensitive answers', () => {
  test('are read by who may read about health, and deleted some days after the event, with their files', async () => {
    const health = ask('Medicines', { sensitive: true });
    const scan = ask('Doctor’s note', { kind: 'file', sensitive: true });
    const boots = ask('Boot size');
    const event = await openEvent(world, {
      title: 'Sensitive',
      startsLocal: '2026-07-12T09:00',
      endsLocal: '2026-07-12T12:00',
      questions: [health, scan, boots],
    });
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { forgetDays: 3 } },
    });
    const note = await world.anyone.call('POST /api/public/events/:slug/files', {
      params: { slug: event.slug },
      body: { name: 'note.pdf', content: Buffer.from('%PDF-1.7 note').toString('base64') },
    });
    const body = orderFor(event, [{ given: 'Ragna', family: 'Tansy' }]);
    body.attendees[0]!.answers = { [health.id]: 'insulin', [scan.id]: note.id, [boots.id]: '39' };
    expect((await place(event, body)).status).toBe(201);
    expect((await rowsOf(event))[0]).toMatchObject({ care: true, answers: { [boots.id]: { value: '39' } } });
    const file = { params: { id: event.id, file: note.id } };
    const marit = await world.as('marit');
    expect((await odalys.try('GET /api/events/:id/answers/files/:file', file)).status).toBe(200);
    expect((await marit.try('GET /api/events/:id/answers/files/:file', file)).status).toBe(403);
    const reads = await world.app.db.query(
      "select 1 from care_reads where place = 'a file' and event_id = $1",
      [event.id],
    );
    expect(reads).toHaveLength(1);
    const left = async () =>
      (
        await world.app.db.query<{ n: number }>(
          'select count(*)::int as n from answers a join questions q on q.id = a.question_id where q.event_id = $1',
          [event.id],
        )
      )[0]!.n;
    await world.moveTo('2026-07-15T14:59:00.000Z');
    expect(await left()).toBe(3);
    await world.moveTo('2026-07-15T15:01:00.000Z');
    expect(await left()).toBe(1);
    expect(await world.app.db.query('select 1 from answer_files where id = $1', [note.id])).toEqual([]);
    const trail = await world.app.db.query(
      "select detail from audit where action = 'deleted sensitive answers'",
    );
    expect(trail).toEqual([{ detail: { answers: 2 } }]);
  });
});
