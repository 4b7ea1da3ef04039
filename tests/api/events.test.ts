import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { answered } from '#core/clearance/facts.ts';
import { docOf } from '#core/text/doc.ts';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

describe('planning and clearance', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const begin = async (title: string, key?: string) =>
    (
      await (
        await world.as('odalys')
      ).call('POST /api/events', { body: { publicTitle: title } }, key ? { 'idempotency-key': key } : {})
    ).id;
  const save = async (id: string, change: object) => {
    const odalys = await world.as('odalys');
    const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
    return odalys.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
  };

  test('a new event has no date, and a repeated create makes one event', async () => {
    const [a, b] = await Promise.all([begin('Once', 'create-once-1'), begin('Once', 'create-once-1')]);
    expect(a).toBe(b);
    const page = await (await world.as('odalys')).call('GET /api/events/:id', { params: { id: a } });
    expect(page.plan).toMatchObject({ startsLocal: null, endsLocal: null, slug: 'once' });
    expect(page.lacks.filter((l) => l.stops).map((l) => l.text)).toEqual([
      'It has no date.',
      'Nothing can be registered for: it has no offer.',
    ]);
  });

  test('odd addresses, times and prices are refused beside their field, and nothing of the save is kept', async () => {
    const id = await begin('Odd');
    await begin('Taken');
    const path = async (change: object) =>
      (await save(id, change)).problem.fields?.map((f) => f.path.replace('change.', ''));
    expect(await path({ slug: 'taken', summary: 'not kept' })).toEqual(['slug']);
    for (const slug of ['With Spaces', 'CAPITALS', '🎉', '../../etc'])
      expect(await path({ slug })).toEqual(['slug']);
    expect(await path({ startsLocal: '2026-08-08T10:00', endsLocal: '2026-08-08T09:00' })).toEqual([
      'endsLocal',
    ]);
    expect(await path({ startsLocal: '2027-03-14T02:30' })).toEqual(['startsLocal']);
    expect(await path({ startsLocal: '2026-02-31T09:00' })).toEqual(['startsLocal']);
    const offer = { id: crypto.randomUUID(), name: 'Seat', price: -100, quantity: null };
    expect(await path({ offers: [offer] })).toEqual(['offers.0.price']);
    expect(
      await path({
        messages: [
          {
            id: crypto.randomUUID(),
            name: 'x',
            kind: 'reminder',
            moment: 'start',
            offsetDays: 0,
            offsetMinutes: 0,
            audience: 'orders',
            subject: { en: 'Hi {{nobody}}' },
            body: { en: 'x' },
          },
        ],
      }),
    ).toEqual(['messages.0.subject.en']);
    const page = await (await world.as('odalys')).call('GET /api/events/:id', { params: { id } });
    expect(page).toMatchObject({ version: 1, plan: { summary: '', slug: 'odd' } });
  });

  test('two who save the same plan do not overwrite one another', async () => {
    const id = await begin('Both');
    const odalys = await world.as('odalys');
    await odalys.call('PATCH /api/events/:id', {
      params: { id },
      body: { version: 1, change: { summary: 'first' } },
    });
    const second = await odalys.try('PATCH /api/events/:id', {
      params: { id },
      body: { version: 1, change: { summary: 'second' } },
    });
    expect(second.problem.code).toBe('changed-meanwhile');
  });

  test('facts choose the steps; nothing opens before it is cleared; a changed fact reopens only its step', async () => {
    const id = await begin('Boats');
    const odalys = await world.as('odalys');
    await save(id, {
      startsLocal: '2026-08-22T09:00',
      endsLocal: '2026-08-22T12:00',
      facts: answered('boats'),
      capacity: 20,
      offers: [{ id: crypto.randomUUID(), name: 'Seat', price: 500, quantity: null }],
    });
    const before = await odalys.call('GET /api/events/:id/clearance', { params: { id } });
    expect(before.steps.map((s) => s.step)).toEqual(['Safety', 'Finance']);
    // Cleared by Saturday 8 August, so Friday 7; five working days before it, with the holiday on 3 August, is 30 July.
    expect(before.deadline).toMatchObject({ date: '2026-07-30', daysLeft: 21 });
    expect(
      (await odalys.try('POST /api/events/:id/state', { params: { id }, body: { move: 'open' } })).problem
        .code,
    ).toBe('not-cleared');
    expect(
      (await world.anyone.try('GET /api/public/events/:slug', { params: { slug: 'boats' } })).status,
    ).toBe(404);
    const sent = await odalys.call('POST /api/events/:id/clearance', { params: { id } });
    const [safety, finance] = sent.steps;
    const tobias = await world.as('tobias');
    const marit = await world.as('marit');
    expect(
      (
        await tobias.try('POST /api/clearance-steps/:id/decision', {
          params: { id: finance!.id },
          body: { decision: 'clear' },
        })
      ).problem.code,
    ).toBe('not-your-step');
    expect(
      (
        await tobias.try('POST /api/clearance-steps/:id/decision', {
          params: { id: safety!.id },
          body: { decision: 'clear with conditions' },
        })
      ).problem.fields?.[0]?.path,
    ).toBe('conditions');
    expect((await tobias.call('GET /api/desk')).entries[0]).toMatchObject({
      subject: 'Boats',
      about: 'clearance',
    });
    await tobias.call('POST /api/clearance-steps/:id/decision', {
      params: { id: safety!.id },
      body: {
        decision: 'clear with conditions',
        conditions: [{ what: 'A second safety boat.', ownerId: null, dueOn: null, blocks: false }],
      },
    });
    expect(
      (await odalys.try('POST /api/events/:id/state', { params: { id }, body: { move: 'open' } })).problem
        .code,
    ).toBe('not-cleared');
    await marit.call('POST /api/clearance-steps/:id/decision', {
      params: { id: finance!.id },
      body: { decision: 'clear' },
    });
    expect((await save(id, { facts: answered('boats', 'minors') })).body.followed.reopened).toEqual([
      'Safety',
    ]);
    const after = await odalys.call('GET /api/events/:id/clearance', { params: { id } });
    expect(after.steps.map((s) => s.state)).toEqual(['reopened', 'cleared']);
    expect((await odalys.call('GET /api/events/:id', { params: { id } })).state).toBe('in clearance');
  });

  test('a plan that is sent back becomes a draft again with the words', async () => {
    const id = await begin('Back');
    const odalys = await world.as('odalys');
    await save(id, {
      startsLocal: '2026-08-29T09:00',
      facts: answered('tools'),
      offers: [{ id: crypto.randomUUID(), name: 'Seat', price: 0, quantity: null }],
    });
    const { steps } = await odalys.call('POST /api/events/:id/clearance', { params: { id } });
    await (await world.as('tobias')).call('POST /api/clearance-steps/:id/decision', {
      params: { id: steps[0]!.id },
      body: { decision: 'send back', words: 'Who holds the certificates?' },
    });
    const page = await odalys.call('GET /api/events/:id', { params: { id } });
    expect(page.state).toBe('draft');
    expect(page.margin[0]).toMatchObject({ tone: 'stop', text: 'Safety: Who holds the certificates?' });
    expect((await odalys.call('POST /api/events/:id/clearance', { params: { id } })).standing).toBe(
      'under way',
    );
  });

  test('a copy moves with its date and lists what it left behind', async () => {
    const event = await openEvent(world, { title: 'Original', price: 1500 });
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: {
        role: 'Canoe leader',
        startsLocal: '2026-08-08T08:30',
        endsLocal: '2026-08-08T12:30',
        wished: 2,
      },
    });
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Copy', from: event.id, date: '2027-08-07' },
    });
    const page = await odalys.call('GET /api/events/:id', { params: { id } });
    expect(page.plan).toMatchObject({
      startsLocal: '2027-08-07T09:00',
      endsLocal: '2027-08-07T16:30',
      offers: [{ name: 'Guided paddle', price: 1500 }],
    });
    expect(page.copiedFrom!.leftBehind.map((l) => [l.text.split(':')[0], l.stage])).toEqual([
      ['registrations, payments and attendance', null],
      ['clearance', 'clearance'],
      ['who was on the 1 shift', 'crew'],
    ]);
    expect((await odalys.call('GET /api/events/:id/crew', { params: { id } })).shifts[0]).toMatchObject({
      startsLocal: '2027-08-07T08:30',
      assignments: [],
    });
  });

  test('script in a title, a description and an answer stays text', async () => {
    const nasty = '<script>alert(1)</script>';
    const event = await openEvent(world, {
      title: `Nasty ${nasty}`,
      questions: [
        {
          id: crypto.randomUUID(),
          scope: 'order',
          kind: 'text',
          prompt: { en: 'Why?' },
          required: false,
          choices: [],
          offerId: null,
        },
      ],
    });
    await save(event.id, { description: nasty });
    const shown = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect(shown).toMatchObject({ title: `Nasty ${nasty}`, description: docOf(nasty) });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: nasty, family: '=cmd' }], {
        email: 'n@nasty.example',
        answers: { [event.questions[0]!.id]: '=SUM(A1)' },
      }),
    });
    const csv = await (await world.as('odalys')).try('GET /api/events/:id/registrations.csv', {
      params: { id: event.id },
    });
    expect(String(csv.body)).toContain("'=SUM(A1)");
    expect(String(csv.body)).toContain("'=cmd");
  });
});

describe('a plan in parts', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const pageOf = async (id: string) =>
    (await world.as('odalys')).call('GET /api/events/:id', { params: { id } });
  const save = async (id: string, change: object, version?: number) =>
    (await world.as('odalys')).try('PATCH /api/events/:id', {
      params: { id },
      body: { version: version ?? (await pageOf(id)).version, change },
    });
  const register = (event: { slug: string }, answers: object = {}) =>
    world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: { ...orderFor(event as never, [{ given: 'Petra', family: 'Parts' }]), answers } as never,
    });

  test('two people who write on different parts do not stand in one another’s way; on one part the second is told who was first', async () => {
    const event = await openEvent(world, { title: 'Two at once' });
    const { version } = await pageOf(event.id);
    expect((await save(event.id, { summary: 'first' }, version)).status).toBe(200);
    expect((await save(event.id, { capacity: 31 }, version)).status).toBe(200);
    const clash = await save(event.id, { publicTitle: 'Second' }, version);
    expect(clash.problem.code).toBe('changed-meanwhile');
    expect(clash.problem.title).toContain('Odalys Ferrant saved this part');
    const { plan } = await pageOf(event.id);
    expect(plan).toMatchObject({ summary: 'first', capacity: 31, publicTitle: 'Two at once' });
  });

  test('a question that was answered is retired with its answers, one that was not is gone; wanted again it comes back', async () => {
    const questions = ['Boot size', 'Shirt size'].map((en) => ({
      id: crypto.randomUUID(),
      offerId: null,
      scope: 'order' as const,
      kind: 'text' as const,
      prompt: { en },
      required: false,
      choices: [],
    }));
    const event = await openEvent(world, { title: 'Asked', questions: questions as never });
    await register(event, { [questions[0]!.id]: '42' });
    expect((await save(event.id, { questions: [] })).status).toBe(200);
    expect((await pageOf(event.id)).plan.questions).toEqual([]);
    const stored = await world.app.db.query<{ id: string; answers: number }>(
      'select q.id, (select count(*)::int from answers a where a.question_id = q.id) as answers from questions q where event_id = $1',
      [event.id],
    );
    expect(stored).toEqual([{ id: questions[0]!.id, answers: 1 }]);
    // Nobody is asked it any more, and what was answered is still in the list.
    const refused = await world.anyone.try('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor(event, [{ given: 'Late', family: 'Parts' }]),
        answers: { [questions[0]!.id]: '39' },
      } as never,
    });
    expect(refused.status).toBe(422);
    const table = await (await world.as('odalys')).call('GET /api/events/:id/registrations', {
      params: { id: event.id },
    });
    // What was answered stands there still, in the column of what was asked.
    const asked = table.questions.find((q) => q.prompt === 'Boot size')!;
    expect(table.rows[0]!.answers).toEqual({ [asked.id]: { value: '42', file: null } });
    expect((await save(event.id, { questions: [questions[0]!] })).status).toBe(200);
    expect((await pageOf(event.id)).plan.questions.map((q) => q.prompt.en)).toEqual(['Boot size']);
  });

  test('a step that was removed keeps what it sent, and what it planned is held back until it is wanted again', async () => {
    const event = await openEvent(world, { title: 'Steps' });
    await register(event);
    await world.runner.run();
    const { plan } = await pageOf(event.id);
    const [confirmation, ...others] = plan.messages;
    const of = () =>
      world.app.db.query<{ kind: string; state: string }>(
        'select kind, state from messages where event_id = $1 order by kind, state',
        [event.id],
      );
    const before = await of();
    expect(before).toContainEqual({ kind: 'registration made', state: 'sent' });
    expect((await save(event.id, { messages: [confirmation!] })).status).toBe(200);
    const after = await of();
    expect(after.length).toBe(before.length);
    expect(after.filter((m) => m.state === 'planned')).toEqual([]);
    expect((await save(event.id, { messages: [confirmation!, ...others] })).status).toBe(200);
    expect(await of()).toEqual(before);
    expect((await save(event.id, { messages: others })).status).toBe(200);
    expect((await of()).filter((m) => m.kind === 'registration made')).toEqual([
      { kind: 'registration made', state: 'sent' },
    ]);
  });

  test('an offer of which every seat was given up is retired; its seats keep their name', async () => {
    const event = await openEvent(world, { title: 'Offers' });
    const { token } = await register(event);
    const [offer] = (await pageOf(event.id)).plan.offers;
    const other = { ...offer!, id: crypto.randomUUID(), name: 'Other' };
    expect((await save(event.id, { offers: [other] })).status).toBe(422);
    const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: seats.map((s) => s.id) },
    });
    expect((await save(event.id, { offers: [other] })).status).toBe(200);
    expect((await pageOf(event.id)).plan.offers.map((o) => o.name)).toEqual(['Other']);
    const { rows } = await (await world.as('odalys')).call('GET /api/events/:id/registrations', {
      params: { id: event.id },
    });
    expect(rows.map((r) => r.offer)).toEqual(['Guided paddle']);
  });

  test('the questions of an offer go with it, and are not asked of everybody in a copy', async () => {
    const event = await openEvent(world, { title: 'Along' });
    const { token } = await register(event);
    const page = await pageOf(event.id);
    const question = {
      id: crypto.randomUUID(),
      offerId: page.plan.offers[0]!.id,
      scope: 'attendee' as const,
      kind: 'text' as const,
      prompt: { en: 'Paddle length' },
      required: true,
      choices: [],
    };
    expect((await save(event.id, { questions: [question] })).status).toBe(200);
    const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: seats.map((s) => s.id) },
    });
    const other = { ...page.plan.offers[0]!, id: crypto.randomUUID(), name: 'Other' };
    expect((await save(event.id, { offers: [other] })).status).toBe(200);
    expect((await pageOf(event.id)).plan.questions).toEqual([]);
    const { id } = await (await world.as('odalys')).call('POST /api/events', {
      body: { publicTitle: 'Along again', from: event.id, date: '2026-09-12' },
    });
    expect((await pageOf(id)).plan.questions).toEqual([]);
  });

  test('a version that is not there yet saves nothing', async () => {
    const event = await openEvent(world, { title: 'Ahead' });
    const { version } = await pageOf(event.id);
    expect((await save(event.id, { summary: 'ahead' }, version + 1)).problem.code).toBe('no-such-version');
    expect((await save(event.id, { summary: 'now' }, version)).status).toBe(200);
  });

  test('everything dated moves with the date, stays when the zone changes, and comes along in a copy', async () => {
    const event = await openEvent(world, { title: 'Dated' });
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: {
        role: 'Set up',
        place: '',
        startsLocal: '2026-08-07T18:00',
        endsLocal: '2026-08-07T20:00',
        wished: 1,
        publicSignUp: false,
      },
    });
    const stored = async (id: string) =>
      (
        await world.app.db.query<{ closes: string; at: string; shift: string; shiftAt: string }>(
          `select e.registration_closes_local as closes, e.registration_closes_at as at, s.starts_local as shift, s.starts_at as shift_at
           from events e join shifts s on s.event_id = e.id where e.id = $1`,
          [id],
        )
      )[0]!;
    expect((await save(event.id, { registrationClosesLocal: '2026-08-06T18:00' })).status).toBe(200);
    expect(await stored(event.id)).toEqual({
      closes: '2026-08-06T18:00',
      at: '2026-08-06T21:00:00.000Z',
      shift: '2026-08-07T18:00',
      shiftAt: '2026-08-07T21:00:00.000Z',
    });
    // Another zone: the wall times stay, the instants follow.
    expect((await save(event.id, { zone: 'America/Vancouver' })).status).toBe(200);
    expect(await stored(event.id)).toEqual({
      closes: '2026-08-06T18:00',
      at: '2026-08-07T01:00:00.000Z',
      shift: '2026-08-07T18:00',
      shiftAt: '2026-08-08T01:00:00.000Z',
    });
    // A week later, with everything that hangs on the date.
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Dated again', from: event.id, date: '2026-08-15' },
    });
    expect(await stored(id)).toMatchObject({ closes: '2026-08-13T18:00', shift: '2026-08-14T18:00' });
    expect(
      (
        await save(event.id, {
          startsLocal: '2026-08-22T09:00',
          endsLocal: '2026-08-22T16:30',
          registrationClosesLocal: '2026-08-20T18:00',
        })
      ).status,
    ).toBe(200);
    expect(await stored(event.id)).toMatchObject({
      shift: '2026-08-21T18:00',
      shiftAt: '2026-08-22T01:00:00.000Z',
    });
  });
});
