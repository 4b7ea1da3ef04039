import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { z } from 'zod';
import type { question } from '#contract/plan.ts';
import { readTable } from '#core/exchange/table.ts';
import { plainQuestion } from '#core/questions/question.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { bookFor, type OpenEvent, openEvent, orderFor, pay, tableOf } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const ask = (en: string, more: Partial<z.input<typeof question>>): z.input<typeof question> => ({
  ...plainQuestion,
  id: crypto.randomUUID(),
  prompt: { en },
  ...more,
});
const order = (event: OpenEvent, people: string[], more: object = {}) => bookFor(world, event, people, more);
const tableAt = (event: OpenEvent, who = odalys) => tableOf(who, event);
const seatsOf = async (event: OpenEvent, ...given: string[]) =>
  (await tableAt(event)).rows.filter((r) => given.includes(r.given)).map((r) => r.id);

describe('the table of seats', () => {
  const way = ask('How do you come?', { kind: 'one of', choices: ['by bus', 'on foot'] });
  const party = ask('What brings you?', { scope: 'order' });
  const secret = ask('What do you take?', { sensitive: true });
  let event: OpenEvent;
  beforeAll(async () => {
    event = await openEvent(world, {
      title: 'Tabled',
      price: 2500,
      questions: [way, party, secret],
      unit: 'Small Boats',
    });
    const body = orderFor(event, [
      { given: 'Ida', family: 'Sedge' },
      { given: 'Ole', family: 'Sedge' },
    ]);
    body.answers = { [party.id]: 'a friend' };
    body.attendees[0]!.answers = { [way.id]: 'by bus', [secret.id]: 'insulin' };
    body.attendees[1]!.answers = { [way.id]: 'on foot' };
    body.buyer.phone = '902-555-0142';
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body,
    });
    await pay(world, token);
    await order(event, ['Siv']).then(({ token }) => pay(world, token));
  });
  const csv = async (only = '', who = odalys) => {
    const { body, status } = await who.try('GET /api/events/:id/registrations.csv', {
      params: { id: event.id },
      query: { only },
    });
    expect(status).toBe(200);
    const { headings, rows } = readTable(Buffer.from(String(body)));
    return {
      head: headings,
      rows: rows.map((r) => Object.fromEntries(headings.map((h, at) => [h, r.cells[at] ?? '']))),
    };
  };

  test('every answer is a column; what is for the whole order is on each of its seats, and counted once', async () => {
    const { questions, rows } = await tableAt(event);
    expect(questions.map((q) => [q.prompt, q.scope])).toEqual([
      ['How do you come?', 'attendee'],
      ['What brings you?', 'order'],
    ]);
    expect(rows.map((r) => r.answers[party.id]?.value)).toEqual(['a friend', 'a friend', undefined]);
    expect(JSON.stringify(rows)).not.toContain('insulin');
    expect(rows[0]).toMatchObject({
      email: 'ida.sedge@harbourpost.example',
      phone: '+19025550142',
      care: true,
    });
    const file = await csv();
    expect(file.rows.map((r) => [r['Order due'], r['What brings you?'], r['How do you come?']])).toEqual([
      ['50.00', 'a friend', 'by bus'],
      ['', '', 'on foot'],
      ['25.00', '', ''],
    ]);
    expect(file.rows[0]).toMatchObject({
      Email: 'ida.sedge@harbourpost.example',
      Arrived: '',
      'What do you take?': 'insulin',
    });
  });

  test('is narrowed on the server as on the screen; what cannot be read is refused', async () => {
    const only = (column: string, is: string, ...values: string[]) =>
      JSON.stringify({ q: '', conditions: [{ column, is, values }] });
    expect((await csv(only(way.id, 'any of', 'on foot'))).rows.map((r) => r['First name'])).toEqual(['Ole']);
    expect((await csv(JSON.stringify({ q: 'siv', conditions: [] }))).rows).toHaveLength(1);
    // Who is shown first of their order carries its money.
    expect((await csv(only('name', 'holds', 'ole'))).rows[0]!['Order received']).toBe('50.00');
    for (const wrong of ['{', '[]', '{"conditions":[{"column":"x","is":"like","values":[]}]}'])
      expect(
        (
          await odalys.try('GET /api/events/:id/registrations.csv', {
            params: { id: event.id },
            query: { only: wrong },
          })
        ).status,
      ).toBe(422);
  });

  test('staff change some answers, and those they do not see stay', async () => {
    const [ida] = await seatsOf(event, 'Ida');
    const change = (answers: Record<string, string>) =>
      odalys.call('PATCH /api/registrations/:id', {
        params: { id: ida! },
        body: { given: 'Ida', family: 'Sedge', answers },
      });
    await change({ [way.id]: 'on foot' });
    const row = async () => (await csv()).rows[0]!;
    expect(await row()).toMatchObject({ 'How do you come?': 'on foot', 'What do you take?': 'insulin' });
    await change({ [way.id]: '' });
    expect(await row()).toMatchObject({ 'How do you come?': '', 'What do you take?': 'insulin' });
    await change({ [way.id]: 'by bus' });
  });

  test('the treasurer sees what was paid, and neither addresses nor answers', async () => {
    const marit = await world.as('marit');
    const { rows, questions } = await tableAt(event, marit);
    expect(questions).toEqual([]);
    expect(rows.map((r) => [r.email, r.phone, r.buyerEmail, r.answers])).toEqual(
      rows.map(() => [null, null, null, {}]),
    );
    const { head } = await csv('', marit);
    expect(head).toContain('Order received');
    expect(head.filter((h) => /mail|Telephone|come/.test(h))).toEqual([]);
  });

  test('views are kept by event, for oneself or the team; the same name changes one', async () => {
    const [piers, marit] = [await world.as('piers'), await world.as('marit')];
    const params = { id: event.id };
    const filter = { q: 'x', conditions: [{ column: 'offer', is: 'any of' as const, values: ['Canoe'] }] };
    const keep = (who: Caller, name: string, shared: boolean, of = filter) =>
      who.try('POST /api/events/:id/registration-views', { params, body: { name, shared, filter: of } });
    const seen = async (who: Caller) =>
      (await who.call('GET /api/events/:id/registration-views', { params })).map((v) => [v.name, v.mine]);
    expect((await keep(piers, 'By canoe', false)).status).toBe(201);
    expect((await keep(odalys, 'For all', true)).status).toBe(201);
    expect((await keep(odalys, 'for all', true, { ...filter, q: 'y' })).status).toBe(201);
    // Whoever only looks keeps views of their own.
    expect((await keep(marit, 'Everybody’s', true)).status).toBe(403);
    expect(await seen(piers)).toEqual([
      ['for all', false],
      ['By canoe', true],
    ]);
    expect(await seen(odalys)).toEqual([['for all', false]]);
    const [team] = await odalys.call('GET /api/events/:id/registration-views', { params });
    expect(team!.filter).toEqual({ ...filter, q: 'y' });
    const drop = (who: Caller, view: string, id = event.id) =>
      who.try('DELETE /api/events/:id/registration-views/:view', { params: { id, view } });
    expect((await drop(marit, team!.id)).status).toBe(403);
    const other = await openEvent(world, { title: 'Another' });
    expect((await drop(odalys, team!.id, other.id)).status).toBe(404);
    expect((await drop(odalys, team!.id)).status).toBe(200);
  });

  test('papers: name tags, a list for the door, a confirmation; nobody to print is said', async () => {
    const params = { id: event.id };
    const isPdf = (body: unknown) => (body as Buffer).subarray(0, 5).toString() === '%PDF-';
    const pages = (body: unknown) => (body as Buffer).toString('latin1').match(/\/Type \/Page\b/gu)!.length;
    const tags = (body: object) =>
      odalys.try('POST /api/events/:id/name-tags.pdf', {
        params,
        body: { lines: ['offer', 'code', way.id, secret.id], ...body },
      });
    for (const [format, n] of [
      ['one', 3],
      ['four', 1],
      ['folded', 3],
      ['labels', 1],
    ] as const) {
      const { body } = await tags({ format });
      expect([format, isPdf(body), pages(body)]).toEqual([format, true, n]);
    }
    const list = await odalys.try('POST /api/events/:id/door-list.pdf', { params, body: {} });
    expect(isPdf(list.body)).toBe(true);
    const { rows } = await tableAt(event);
    const paper = await odalys.try('GET /api/orders/:id/confirmation.pdf', {
      params: { id: rows[0]!.orderId },
    });
    expect(isPdf(paper.body)).toBe(true);
    expect((await tags({ seatIds: [] })).problem.code).toBe('nobody-to-print');
    expect((await tags({ pictureId: crypto.randomUUID() })).status).toBe(404);
    expect(
      (await (await world.as('door')).try('POST /api/events/:id/door-list.pdf', { params, body: {} })).status,
    ).toBe(403);
  });
});

describe('several at once', () => {
  test('withdrawn: told before and done alike; who came, and what is gone, is left', async () => {
    const event = await openEvent(world, { title: 'Given Up Together', price: 2000, capacity: 4 });
    await saveIt(odalys, event.id, {
      refunds: [
        { days: 60, percent: 100 },
        { days: 1, percent: 25 },
      ],
    });
    for (const people of [
      ['Ida', 'Ole'],
      ['Siv', 'Leif'],
    ])
      await pay(world, (await order(event, people)).token);
    const waits = await order(event, ['Vera']);
    expect(waits.standing).toBe('waitlisted');
    const [ida, ole, siv] = await seatsOf(event, 'Ida', 'Ole', 'Siv');
    await world.app.db.query(
      "update attendance set state = 'arrived', arrived_at = now() where registration_id = $1",
      [ole],
    );
    const params = { id: event.id };
    const body = { seatIds: [ida!, ole!, siv!], back: 'terms' as const };
    const told = await odalys.call('POST /api/events/:id/seats/withdraw/what-if', { params, body });
    expect(told).toEqual({
      seats: 2,
      orders: 2,
      kept: 3000,
      owed: 1000,
      offered: ['Vera Sedge'],
      left: [{ name: 'Ole Sedge', why: 'Somebody who has arrived cannot withdraw.' }],
    });
    expect((await tableAt(event)).rows.filter((r) => r.state === 'withdrawn')).toEqual([]);
    expect(await odalys.call('POST /api/events/:id/seats/withdraw', { params, body })).toEqual(told);
    const again = await odalys.call('POST /api/events/:id/seats/withdraw', { params, body });
    expect(again).toMatchObject({ seats: 0, kept: 0, owed: 0 });
    expect(again.left).toHaveLength(3);
    const letters = await world.app.db.query<{ name: string; body: string }>(
      "select name, body from messages where event_id = $1 and kind = 'given up' order by name",
      [event.id],
    );
    expect(
      letters.map((l) => [l.name, l.body.includes('$15 is kept'), l.body.includes('We pay $5 back')]),
    ).toEqual([
      ['Ida Sedge', true, true],
      ['Siv Sedge', true, true],
    ]);
    const other = await openEvent(world, { title: 'Elsewhere' });
    await order(other, ['Ida']);
    const foreign = await odalys.try('POST /api/events/:id/seats/withdraw', {
      params,
      body: { seatIds: await seatsOf(other, 'Ida') },
    });
    expect(foreign.problem.fields?.[0]?.code).toBe('seats-of-another');
  });

  test('moved: those for whom it cannot be are left with why, and the others go', async () => {
    const event = await openEvent(world, { title: 'Moved Together', price: 1000 });
    const [first] = event.offers;
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const second = {
      ...page.plan.offers[0]!,
      id: crypto.randomUUID(),
      name: 'Canoe',
      price: 1500,
      quantity: 1,
    };
    await saveIt(odalys, event.id, { offers: [...page.plan.offers, second] });
    for (const given of ['Ida', 'Ole']) await pay(world, (await order(event, [given])).token);
    const params = { id: event.id };
    const body = { seatIds: await seatsOf(event, 'Ida', 'Ole'), offerId: second.id };
    const told = await odalys.call('POST /api/events/:id/seats/move/what-if', { params, body });
    expect(told).toMatchObject({ seats: 1, more: 500, back: 0 });
    expect(told.left).toEqual([
      { name: 'Ole Sedge', why: '“Canoe” is full, or has no room for all of them.' },
    ]);
    expect(await odalys.call('POST /api/events/:id/seats/move', { params, body })).toEqual(told);
    expect((await tableAt(event)).rows.map((r) => r.offer)).toEqual(['Canoe', 'Guided paddle']);
    for (const wrong of [{ offerId: null }, { offerId: first!.id, eventId: event.id }])
      expect(
        (await odalys.try('POST /api/events/:id/seats/move', { params, body: { ...body, ...wrong } })).problem
          .fields?.[0]?.code,
      ).toBe('move-where');
  });

  test('written to: one copy an address, guests with their own link, whoever wants to hear nothing hears nothing', async () => {
    const event = await openEvent(world, { title: 'Written To' });
    const { token } = await order(event, ['Ida', '']);
    await order(event, ['Siv']);
    const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    await world.anyone.call('POST /api/public/orders/:token/seats/:seat/guest', {
      params: { token, seat: seats[1]!.id },
      body: { email: 'guest@reedbed.example' },
    });
    const { rows } = await tableAt(event);
    await world.app.db.query('update contacts set do_not_contact = true where id = $1', [
      rows.find((r) => r.given === 'Siv')!.contactId,
    ]);
    const params = { id: event.id };
    const letter = {
      seatIds: rows.map((r) => r.id),
      subject: 'Water for {{event}}',
      body: 'Hello {{name}}, {{manage_link}}',
    };
    const told = await odalys.call('POST /api/events/:id/letters/preview', { params, body: letter });
    expect(told).toMatchObject({
      planned: 2,
      leftOut: [{ people: 1, names: ['Siv Sedge'] }],
      sample: { subject: 'Water for Written To', body: 'Hello Ida, [link to their booking]' },
    });
    const send = (expects: number) =>
      odalys.try('POST /api/events/:id/letters', { params, body: { ...letter, expect: expects } });
    expect((await send(3)).problem.code).toBe('mailing-changed');
    expect((await send(2)).body).toEqual({ planned: 2, leftOut: 1 });
    const kept = await world.app.db.query<{ address: string; contactId: string | null; body: string }>(
      "select address, contact_id, body from messages where event_id = $1 and kind = 'letter' and why_not is null order by address",
      [event.id],
    );
    expect(kept.map((m) => m.address)).toEqual(['guest@reedbed.example', 'ida.sedge@harbourpost.example']);
    // The guest is nobody's record, and is led to their seat alone.
    expect(kept[0]!.contactId).toBeNull();
    expect(kept[0]!.body).toContain(`seat ${seats[1]!.id}`);
    const unknown = await odalys.try('POST /api/events/:id/letters/preview', {
      params,
      body: { ...letter, body: '{{telephone}}' },
    });
    expect(unknown.problem.fields?.[0]?.code).toBe('not-a-merge-field');
  });

  test('tasks come up on the Desk of whoever set them, one a person', async () => {
    const event = await openEvent(world, { title: 'To Be Called' });
    await order(event, ['Runa', '']);
    const { rows } = await tableAt(event);
    const done = await odalys.call('POST /api/events/:id/tasks', {
      params: { id: event.id },
      body: { seatIds: rows.map((r) => r.id), text: 'Ask about the ramp', dueOn: '2026-07-09' },
    });
    expect(done).toEqual({ tasks: 1, left: ['Runa Sedge'] });
    const desk = await odalys.call('GET /api/desk');
    expect(desk.entries.some((e) => e.subject === 'Runa Sedge' && e.text === 'Ask about the ramp')).toBe(
      true,
    );
  });
});

describe('links to give out', () => {
  test('count from looking at the page to a seat; a stopped one leads on and counts no more; nobody learns who', async () => {
    const event = await openEvent(world, { title: 'Given Out' });
    const params = { id: event.id };
    const made = await odalys.call('POST /api/events/:id/sources', { params, body: { name: 'Poster' } });
    expect(await odalys.call('POST /api/events/:id/sources', { params, body: { name: 'poster ' } })).toEqual(
      made,
    );
    const from = new URL(made.link).searchParams.get('from')!;
    const seen = (step: 'seen' | 'begun', code: string) =>
      world.anyone.call('POST /api/public/events/:slug/seen', {
        params: { slug: event.slug },
        body: { step, from: code },
      });
    await seen('seen', from);
    await seen('seen', from.toUpperCase());
    await seen('begun', from);
    await seen('seen', 'nosuch');
    await order(event, ['Ida', 'Ole'], { from });
    await order(event, ['Siv']);
    const look = () => odalys.call('GET /api/events/:id/sources', { params });
    expect(await look()).toEqual({
      sources: [
        {
          id: made.id,
          name: 'Poster',
          link: made.link,
          stopped: false,
          seen: 2,
          begun: 1,
          orders: 1,
          seats: 2,
        },
      ],
      others: { seen: 1, begun: 0, orders: 1, seats: 1 },
    });
    expect((await tableAt(event)).rows.map((r) => r.source)).toEqual(['Poster', 'Poster', null]);
    await odalys.call('DELETE /api/events/:id/sources/:source', { params: { ...params, source: made.id } });
    await seen('seen', from);
    await order(event, ['Vera'], { from });
    expect(await look()).toMatchObject({
      sources: [{ stopped: true, seen: 2, orders: 1 }],
      others: { seen: 2, orders: 2 },
    });
    // However often pages are looked at, bookings from the same address are not held up by it.
    const server = await makeWorld({ limits: { publicWrites: 3, signIns: 100 } });
    const busy = await openEvent(server, { title: 'Looked At' });
    for (let n = 0; n < 5; n++)
      await server.anyone.try('POST /api/public/events/:slug/seen', {
        params: { slug: busy.slug },
        body: { step: 'seen' },
      });
    const booked = await server.anyone.try('POST /api/public/events/:slug/orders', {
      params: { slug: busy.slug },
      body: orderFor(busy, [{ given: 'Ida', family: 'Sedge' }]),
    });
    expect(booked.status).toBe(201);
    await server.close();
    const columns = await world.app.db.query<{ name: string }>(
      "select column_name as name from information_schema.columns where table_name = 'page_views' order by 1",
    );
    expect(columns.map((c) => c.name)).toEqual(['begun', 'day', 'event_id', 'seen', 'source_id']);
  });
});
