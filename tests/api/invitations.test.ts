import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Caller } from './caller.ts';
import { linkTo, makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { bookFor, type OpenEvent, openEvent, orderFor, tableOf } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const order = (event: OpenEvent, people: string[]) => bookFor(world, event, people);
const tableAt = (event: OpenEvent) => tableOf(odalys, event);
const seatsOf = async (event: OpenEvent, ...given: string[]) =>
  (await tableAt(event)).rows.filter((r) => given.includes(r.given)).map((r) => r.id);

describe('an invitation', () => {
  test('is answered by its link: yes by booking for as many as it is for, no and perhaps where that is asked', async () => {
    const event = await openEvent(world, { title: 'For Those Invited' });
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await saveIt(odalys, event.id, {
      visibility: 'invited',
      french: { ...plan.french, publicTitle: 'Pour les invités' },
      admission: {
        ...plan.admission,
        reply: 'yes, perhaps or no',
        ways: [{ kind: 'invited', unitIds: [], opensLocal: null, closesLocal: null }],
      },
    });
    const before = await openEvent(world, { title: 'To Have Them On Record' });
    await order(before, ['Ida']);
    await order(before, ['Ole']);
    const [ida, ole] = (await tableAt(before)).rows.map((r) => r.contactId!);
    const params = { id: event.id };
    await odalys.call('POST /api/events/:id/invited', { params, body: { contactIds: [ida!, ole!] } });
    await odalys.call('PATCH /api/events/:id/invited/:contact', {
      params: { ...params, contact: ida! },
      body: { companions: 1 },
    });
    const told = await odalys.call('POST /api/events/:id/invited/letters/preview', {
      params,
      body: { words: 'There is cake.' },
    });
    expect(told).toMatchObject({ planned: 2, leftOut: [] });
    expect(told.sample!.body).toContain('There is cake.\n\nSay whether you come: [link to their invitation]');
    // Nobody is invited to what cannot be registered for.
    const send = () =>
      odalys.try('POST /api/events/:id/invited/letters', { params, body: { words: '', expect: 2 } });
    await odalys.call('POST /api/events/:id/state', { params, body: { move: 'close' } });
    expect((await send()).problem.code).toBe('not-open');
    await odalys.call('POST /api/events/:id/state', { params, body: { move: 'open' } });
    expect((await send()).status).toBe(201);
    const rows = await world.app.db.query<{ id: string; contactId: string }>(
      'select id, contact_id from event_invited where event_id = $1',
      [event.id],
    );
    const linkOf = async (contactId: string) =>
      (await linkTo(world.app, 'invited', rows.find((r) => r.contactId === contactId)!.id))
        .split('/')
        .at(-1)!;
    const [toIda, toOle] = [await linkOf(ida!), await linkOf(ole!)];
    // Nobody else sees the page; whoever has the link does, and learns of nobody but themselves.
    const slug = event.slug;
    const card = (token: string) =>
      world.anyone.call('GET /api/public/invitations/:token', { params: { token } });
    expect(await card(toIda)).toMatchObject({ given: 'Ida', event: { slug, title: 'For Those Invited' } });
    // The page is in the language they are written to in.
    await world.app.db.query("update contacts set language = 'fr' where id = $1", [ole!]);
    expect(await card(toOle)).toMatchObject({ given: 'Ole', event: { title: 'Pour les invités' } });
    expect((await world.anyone.try('GET /api/public/events/:slug', { params: { slug } })).status).toBe(404);
    const page = await world.anyone.call('GET /api/public/events/:slug', {
      params: { slug },
      query: { invited: toIda },
    });
    expect(page.admission).toMatchObject({ may: true, most: 2 });
    expect(page.you!.people.map((p) => [p.given, p.birthDate])).toEqual([['Ida', null]]);
    const book = (invited: string, ...people: string[]) =>
      world.anyone.try('POST /api/public/events/:slug/orders', {
        params: { slug },
        body: orderFor(
          event,
          people.map((given) => ({ given, family: 'Sedge' })),
          { invited },
        ),
      });
    expect((await book('', 'Siv')).status).toBe(404);
    expect((await book(toIda, 'Ida', 'Siv', 'Vera')).problem.fields?.map((f) => f.code)).toEqual([
      'invited-for',
    ]);
    const reply = (token: string, answer: 'no' | 'perhaps') =>
      world.anyone.try('POST /api/public/invitations/:token/answer', {
        params: { token },
        body: { answer, words: 'sorry' },
      });
    expect((await reply(toIda, 'perhaps')).status).toBe(201);
    expect((await book(toIda, 'Ida', 'Siv')).status).toBe(201);
    expect((await book(toIda, 'Ida')).problem.fields?.map((f) => f.code)).toEqual(['invited-used']);
    expect((await reply(toIda, 'no')).problem.code).toBe('invited-has-seats');
    expect((await reply(toOle, 'no')).status).toBe(201);
    const answers = async () =>
      (await odalys.call('GET /api/events/:id/invited', { params })).map((p) => [p.name, p.answer, p.seats]);
    expect(await answers()).toEqual([
      ['Ida Sedge', 'yes', 2],
      ['Ole Sedge', 'no', 0],
    ]);
    // Who has answered is not written to again; who gives everything up has said no.
    expect(
      (await odalys.call('POST /api/events/:id/invited/letters/preview', { params, body: {} })).planned,
    ).toBe(0);
    await odalys.call('POST /api/events/:id/seats/withdraw', {
      params,
      body: { seatIds: await seatsOf(event, 'Ida', 'Siv') },
    });
    expect((await answers())[0]).toEqual(['Ida Sedge', 'no', 0]);
    await odalys.call('DELETE /api/events/:id/invited/:contact', { params: { ...params, contact: ole! } });
    expect(
      (await world.anyone.try('GET /api/public/invitations/:token', { params: { token: toOle } })).status,
    ).toBe(404);
  });

  test('asks for no answer but yes where that is so', async () => {
    const event = await openEvent(world, { title: 'Only Yes' });
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await saveIt(odalys, event.id, { admission: { ...plan.admission, reply: 'yes' } });
    await order(event, ['Ida']);
    const [row] = (await tableAt(event)).rows;
    const params = { id: event.id };
    await odalys.call('POST /api/events/:id/invited', { params, body: { contactIds: [row!.contactId!] } });
    const [invited] = await world.app.db.query<{ id: string }>(
      'select id from event_invited where event_id = $1',
      [event.id],
    );
    const token = (await linkTo(world.app, 'invited', invited!.id)).split('/').at(-1)!;
    const page = await world.anyone.call('GET /api/public/invitations/:token', { params: { token } });
    expect(page).toMatchObject({ replies: ['yes'], seats: 1, companions: 0 });
    const no = await world.anyone.try('POST /api/public/invitations/:token/answer', {
      params: { token },
      body: { answer: 'no' },
    });
    expect(no.problem.code).toBe('reply-not-asked');
  });

  test('goes to everybody in a segment who has no seat, in the words of the organization', async () => {
    const event = await openEvent(world, { title: 'For A Segment' });
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await saveIt(odalys, event.id, { admission: { ...plan.admission, reply: 'yes' } });
    await order(event, ['Seated']);
    const [seated] = (await tableAt(event)).rows;
    const others: string[] = [];
    for (const given of ['Una', 'Vic'])
      others.push(
        (
          await odalys.call('POST /api/contacts', {
            body: { given, family: 'Segment', email: `${given.toLowerCase()}.segment@harbourpost.example` },
          })
        ).id,
      );
    const segment = await odalys.call('POST /api/segments', {
      body: { name: 'To be invited', ids: [seated!.contactId!, ...others] },
    });
    const params = { id: event.id };
    const all = { params, body: { segmentId: segment.id } };
    expect((await odalys.call('POST /api/events/:id/invited', all)).contactIds.sort()).toEqual(
      [...others].sort(),
    );
    expect(await odalys.call('POST /api/events/:id/invited', all)).toEqual({ contactIds: [] });
    // Taken back, and invited once more; who was written to stays invited.
    const back = { params, body: { contactIds: others, remove: true } };
    expect((await odalys.call('POST /api/events/:id/invited', back)).contactIds).toHaveLength(2);
    await odalys.call('POST /api/events/:id/invited', all);
    expect((await odalys.call('GET /api/events/:id/invited', { params })).map((i) => i.name)).toEqual([
      'Una Segment',
      'Vic Segment',
    ]);
    // Who leads an event invites whom they know by name, and reads no segment of everybody.
    const piers = await world.as('piers');
    const { id } = await openEvent(world, { title: 'Of Their Unit', unit: 'Small Boats' });
    const ask = (body: object) =>
      piers.try('POST /api/events/:id/invited', { params: { id }, body: body as never });
    expect((await ask({ contactIds: [others[0]!] })).status).toBe(201);
    expect((await ask(all.body)).status).toBe(403);

    const { version, said } = await odalys.call('GET /api/letters/:kind', {
      params: { kind: 'you are invited' },
    });
    await odalys.call('PUT /api/letters/:kind', {
      params: { kind: 'you are invited' },
      body: {
        version,
        said: {
          ...said,
          subject: { en: 'Do come: {{event}}' },
          body: { en: 'Dear {{name}}: {{invitation_link}}' },
        },
      },
    });
    await odalys.call('POST /api/events/:id/invited/letters', { params, body: { words: '', expect: 2 } });
    expect((await odalys.call('POST /api/events/:id/invited', back)).contactIds).toEqual([]);
    await world.runner.run();
    const [mail] = await world.app.db.query<{ subject: string; body: string }>(
      "select subject, body from standin_mail where address = 'una.segment@harbourpost.example'",
    );
    expect(mail!.subject).toBe('Do come: For A Segment');
    expect(mail!.body).toMatch(/^Dear Una: http\S+\/i\/\S+/u);
  });
});
