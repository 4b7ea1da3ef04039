import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { WaiverToSign } from '#contract/waivers.ts';
import { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { asksAll, type OpenEvent, openEvent, orderFor, signs } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

/** What was sent to an address, in the order it left. */
const lettersTo = (address: string) =>
  world.app.db.query<{ subject: string; text: string }>(
    'select subject, body as text from standin_mail where address = $1 order by accepted_at, key',
    [address],
  );

/** A file as it came. */
const pdfOf = async (file: Promise<unknown>): Promise<Buffer> => (await file) as Buffer;

type Clause = { kind?: 'read' | 'agree' | 'initials' | 'choice'; text: string };
let made = 0;
const asked = (part: { required?: boolean; health?: boolean; prompt: string }) => ({
  id: crypto.randomUUID(),
  kind: 'text' as const,
  prompt: { en: part.prompt },
  help: { en: '' },
  required: part.required ?? false,
  choices: [],
  least: null,
  most: null,
  health: part.health ?? false,
});
type Added = Parameters<typeof textOf>[0];
const textOf = ({
  title,
  clauses = [{ text: 'I take care.' }],
  questions = [],
}: {
  title: string;
  clauses?: Clause[];
  questions?: ReturnType<typeof asked>[];
}) => ({
  title: { en: title },
  clauses: clauses.map(({ kind = 'agree', text }, at) => ({
    id: `c${at + 1}`,
    kind,
    heading: { en: '' },
    text: { en: text },
  })),
  questions,
});
const usual = {
  audience: 'everyone' as 'everyone' | 'minors' | 'adults',
  holds: { for: 'event' } as { for: 'event' } | { for: 'year' } | { for: 'until'; date: string },
  guardians: 1 as 1 | 2,
  forgetDays: 30,
  standing: false,
};
/** A waiver of its own. */
async function addWaiver(part: Partial<Added & typeof usual> = {}): Promise<string> {
  made += 1;
  const { title = `Form ${made}`, clauses, questions, ...settings } = part;
  const { id } = await odalys.call('POST /api/waivers', {
    body: {
      ...usual,
      ...settings,
      text: textOf({ title, ...(clauses && { clauses }), ...(questions && { questions }) }),
    },
  });
  return id;
}
/** An open event that asks everybody for a waiver. */
async function asking(waiverId: string, title: string, startsLocal = '2026-08-08T09:00'): Promise<OpenEvent> {
  const event = await openEvent(world, {
    title,
    startsLocal,
    endsLocal: `${startsLocal.slice(0, 10)}T18:00`,
  });
  expect((await saveIt(odalys, event.id, { waivers: [asksAll(waiverId)] })).status).toBe(200);
  return event;
}
const book = (
  event: OpenEvent,
  people: { given: string; family?: string; birthDate?: string }[],
  buyer?: { given: string; family: string; email: string },
) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(
        event,
        people.map((p) => ({ family: 'Reedham', birthDate: '1990-01-01', ...p })),
      ),
      ...(buyer && { buyer: { ...buyer, phone: '' } }),
    },
  });
const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
type Answers = Record<string, string>;
async function sign(
  token: string,
  typedName: string,
  more: Partial<ReturnType<typeof signs>> & { answers?: Answers[]; seats?: number[] } = {},
) {
  const order = await look(token);
  const { answers = [], seats: which, ...hand } = more;
  const seats = which ? order.seats.filter((_, at) => which.includes(at)) : order.seats;
  return world.anyone.try('POST /api/public/orders/:token/signatures', {
    params: { token },
    body: {
      ...signs(order.waivers[0]!, typedName),
      ...hand,
      seats: seats.map((s, at) => ({
        registrationId: s.id,
        relation: s.waiver === 'guardian' ? ('guardian' as const) : ('self' as const),
        answers: answers[at] ?? {},
      })),
    },
  });
}
const doorOf = async (event: OpenEvent, given: string) =>
  (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows.find(
    (r) => r.given === given,
  )!;
const signaturesOf = (id: string, query: { q?: string; state?: 'valid' | 'revoked' | 'expired' } = {}) =>
  odalys.call('GET /api/waivers/:id/signatures', { params: { id }, query });

describe('what a waiver says', () => {
  test('has versions: a correction asks nobody again, a change that matters asks for what is to come', async () => {
    const id = await addWaiver({ title: 'Night walks' });
    const event = await asking(id, 'Versions');
    const { token } = await book(event, [{ given: 'Vera' }]);
    const before = (await look(token)).waivers[0]!;
    expect((await sign(token, 'Vera Reedham')).status).toBe(201);
    const reword = (text: string, material: boolean, after: number) =>
      odalys.try('POST /api/waivers/:id/versions', {
        params: { id },
        body: { text: textOf({ title: 'Night walks', clauses: [{ text }] }), material, after },
      });
    expect((await reword('I take good care.', false, 1)).body.version).toBe(2);
    expect((await look(token)).seats[0]).toMatchObject({ waiver: 'signed' });
    // Somebody else has saved since.
    expect((await reword('I take no care.', false, 1)).problem.code).toBe('waiver-reworded');
    // The same again is no version.
    expect((await reword('I take good care.', true, 2)).body.version).toBe(2);
    expect((await reword('I carry a lamp.', true, 2)).body.version).toBe(3);
    const now = await look(token);
    expect(now.seats[0]).toMatchObject({ waiver: 'self', toSign: [id] });
    expect(now.waivers[0]!.clauses[0]!.text).toBe('I carry a lamp.');
    // What was read is not what is signed.
    const seat = now.seats[0]!.id;
    const late = await world.anyone.try('POST /api/public/orders/:token/signatures', {
      params: { token },
      body: {
        ...signs(before, 'Vera Reedham'),
        seats: [{ registrationId: seat, relation: 'self', answers: {} }],
      },
    });
    expect(late.problem.code).toBe('waiver-changed');
    expect((await sign(token, 'Vera Reedham')).status).toBe(201);
    const { rows } = await signaturesOf(id);
    expect(rows.map((r) => [r.version, r.state])).toEqual([
      [3, 'valid'],
      [1, 'superseded'],
    ]);
    const { versions } = await odalys.call('GET /api/waivers/:id', { params: { id } });
    expect(versions.map((v) => [v.version, v.material, v.signed])).toEqual([
      [3, true, 1],
      [2, false, 0],
      [1, true, 1],
    ]);
  });

  test('is checked where it is written, and titles are there once', async () => {
    await addWaiver({ title: 'Only one' });
    const bad = await odalys.try('POST /api/waivers', {
      body: {
        ...usual,
        audience: 'adults',
        guardians: 2,
        standing: true,
        text: textOf({ title: 'only one', clauses: [] }),
      },
    });
    expect(bad.problem.fields!.map((f) => `${f.path} ${f.code}`).sort()).toEqual([
      'guardians no-guardians-of-adults',
      'standing standing-needs-time',
      'text.clauses clause-needed',
      'text.title.en waiver-exists',
    ]);
    const over = await odalys.try('POST /api/waivers', {
      body: { ...usual, holds: { for: 'until', date: '2020-01-01' }, text: textOf({ title: 'Over' }) },
    });
    expect(over.problem.fields).toMatchObject([{ path: 'holds.date', code: 'in-the-past' }]);
  });

  test('closed, it is signed by nobody and chosen for no other event', async () => {
    const id = await addWaiver({ title: 'Winter paths', holds: { for: 'year' }, standing: true });
    const event = await asking(id, 'Closed Form');
    const { token } = await book(event, [{ given: 'Kira' }]);
    const close = (closed: boolean) =>
      odalys.call('POST /api/waivers/:id/closing', { params: { id }, body: { closed } });
    await close(true);
    await close(true);
    expect((await sign(token, 'Kira Reedham')).problem.code).toBe('waiver-closed');
    expect(
      (await world.anyone.call('GET /api/public/waivers/:slug', { params: { slug: 'winter-paths' } })).closed,
    ).toBe(true);
    const other = await openEvent(world, { title: 'Other Form' });
    expect((await saveIt(odalys, other.id, { waivers: [asksAll(id)] })).problem.fields).toMatchObject([
      { path: 'waivers.0.waiverId', code: 'waiver-is-closed' },
    ]);
    await close(false);
    expect((await sign(token, 'Kira Reedham')).status).toBe(201);
    expect((await odalys.call('GET /api/waivers')).find((w) => w.id === id)).toMatchObject({
      closed: false,
      signed: 1,
      events: 1,
    });
  });
});

describe('who is asked', () => {
  test('by ticket, age and answer; each that is said has to hold', async () => {
    const id = await addWaiver();
    const event = await openEvent(world, {
      title: 'Rules',
      questions: [
        {
          id: crypto.randomUUID(),
          scope: 'attendee',
          kind: 'yes or no',
          prompt: { en: 'Do you go out on the water?' },
          required: true,
        },
      ],
    });
    const [question] = (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan
      .questions;
    const rule = asksAll(id, { answered: { questionId: question!.id, is: ['yes'] }, fromAge: 12 });
    expect((await saveIt(odalys, event.id, { waivers: [rule] })).status).toBe(200);
    const order = orderFor(event, [
      { given: 'Wet', family: 'Reed', birthDate: '1990-01-01' },
      { given: 'Dry', family: 'Reed', birthDate: '1990-01-01' },
      { given: 'Small', family: 'Reed', birthDate: '2019-01-01' },
    ]);
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...order,
        attendees: order.attendees.map((a) => ({
          ...a,
          answers: { [question!.id]: a.given !== 'Dry' },
        })),
      },
    });
    expect((await look(token)).seats.map((s) => [s.given, s.waiver])).toEqual([
      ['Wet', 'self'],
      ['Dry', 'not asked'],
      ['Small', 'not asked'],
    ]);
  });

  test('goes along when an event is copied, by the tickets and questions of the copy', async () => {
    const id = await addWaiver();
    const event = await openEvent(world, { title: 'Copied Rules' });
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const offerId = plan.offers[0]!.id;
    await saveIt(odalys, event.id, { waivers: [asksAll(id, { offerIds: [offerId] })] });
    const copy = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Copied Rules Again', from: event.id },
    });
    const after = (await odalys.call('GET /api/events/:id', { params: { id: copy.id } })).plan;
    expect(after.waivers).toMatchObject([{ waiverId: id, offerIds: [after.offers[0]!.id] }]);
    expect(after.offers[0]!.id).not.toBe(offerId);
  });
});

describe('signing', () => {
  test('a guardian signs for several children in one go, each with answers of its own, all or none', async () => {
    const call = asked({ prompt: 'Whom do we call?', required: true });
    const ill = asked({ prompt: 'Allergies?', health: true });
    const id = await addWaiver({
      clauses: [
        { text: 'I agree.' },
        { kind: 'initials', text: 'Water.' },
        { kind: 'choice', text: 'Photos.' },
      ],
      questions: [call, ill],
    });
    const event = await asking(id, 'Family');
    const { token } = await book(event, [
      { given: 'Mai', family: 'Tarn' },
      { given: 'Linh', family: 'Tarn', birthDate: '2016-01-01' },
      { given: 'Théo', family: 'Tarn', birthDate: '2018-01-01' },
    ]);
    const answers = (more: Answers[] = []) =>
      [{ [call.id]: 'Mai' }, { [call.id]: 'Mai', [ill.id]: 'nuts' }, more[2] ?? {}] as Answers[];
    const hand = { initials: { c2: 'MT' }, chosen: { c3: false } };
    const half = await sign(token, 'Mai Tarn', { ...hand, answers: answers() });
    expect(half.problem.fields).toMatchObject([{ path: 'seats.2.answers.0', code: 'answer-needed' }]);
    expect((await look(token)).seats.map((s) => s.waiver)).toEqual(['self', 'guardian', 'guardian']);
    expect(
      (await sign(token, 'Mai Tarn', { ...hand, declared: false, answers: answers() })).problem.fields,
    ).toMatchObject([{ path: 'seats.2.answers.0' }, { path: 'declared', code: 'declaration-needed' }]);
    const done = await sign(token, 'Mai Tarn', {
      ...hand,
      answers: [...answers().slice(0, 2), { [call.id]: 'Grandma' }],
    });
    expect(done.status).toBe(201);
    expect((await look(token)).seats.map((s) => s.waiver)).toEqual(['signed', 'signed', 'signed']);
    const kept = await world.app.db.query<{
      participant: string;
      answers: { value: string; health: boolean }[];
      relation: string;
      forgetOn: string | null;
      text: string;
    }>(
      `select r.given_name as participant, g.answers, g.relation, g.forget_on::text as forget_on, g.signed_text as text from signatures g
         join registrations r on r.id = g.registration_id where g.waiver_id = $1 order by r.seat_number`,
      [id],
    );
    expect(kept.map((k) => [k.participant, k.relation, k.answers.map((a) => a.value)])).toEqual([
      ['Mai', 'self', ['Mai']],
      ['Linh', 'guardian', ['Mai', 'nuts']],
      ['Théo', 'guardian', ['Grandma']],
    ]);
    // What is about health has a day on which it goes, and stands in no text.
    expect(kept.map((k) => k.forgetOn)).toEqual([null, '2026-09-07', null]);
    expect(kept.every((k) => !k.text.includes('nuts') && k.text.includes('[no] Photos.'))).toBe(true);
    expect(kept[0]!.text).toContain('from 127.0.0.1');
  });

  test('where both guardians sign, each does it themselves, and the child comes in once both have', async () => {
    const id = await addWaiver({ audience: 'minors', guardians: 2 });
    const event = await asking(id, 'Both Parents');
    const { token } = await book(event, [{ given: 'Noor', family: 'Aster', birthDate: '2016-01-01' }]);
    expect((await sign(token, 'Ines Aster')).status).toBe(201);
    expect((await look(token)).seats[0]).toMatchObject({ waiver: 'guardian', toSign: [id], partly: [id] });
    expect((await doorOf(event, 'Noor')).missing).toEqual(['guardian']);
    expect((await sign(token, 'ines  aster')).problem.fields).toMatchObject([
      { path: 'typedName', code: 'other-guardian' },
    ]);
    expect((await sign(token, 'Omar Aster')).status).toBe(201);
    expect((await doorOf(event, 'Noor')).missing).toEqual([]);
  });

  test('whoever signs for a child is of age, as far as that is known', async () => {
    const id = await addWaiver({ audience: 'minors' });
    const event = await asking(id, 'Sister');
    const buyer = { given: 'Petra', family: 'Lindqvist', email: 'petra@lindqvist.example' };
    await book(event, [{ given: 'Petra', family: 'Lindqvist', birthDate: '2010-01-01' }], buyer);
    const { token } = await book(
      event,
      [{ given: 'Otto', family: 'Lindqvist', birthDate: '2017-01-01' }],
      buyer,
    );
    expect((await sign(token, 'Petra Lindqvist')).problem.fields).toMatchObject([
      { path: 'typedName', code: 'guardian-of-age' },
    ]);
  });

  test('is hashed with what was signed before: whatever is changed afterwards shows', async () => {
    const id = await addWaiver();
    const event = await asking(id, 'Chained');
    const { token } = await book(event, [{ given: 'Ada' }]);
    await sign(token, 'Ada Reedham');
    const whole = () => odalys.call('GET /api/signature-chain');
    expect((await whole()).breaks).toEqual([]);
    const [last] = await world.app.db.query<{ id: string; number: number; text: string }>(
      'select g.id, c.number, g.signed_text as text from signatures g join signature_chain c on c.signature_id = g.id order by c.number desc limit 1',
    );
    await world.app.db.query("update signatures set signed_text = signed_text || ' ' where id = $1", [
      last!.id,
    ]);
    expect((await whole()).breaks).toEqual([
      { number: last!.number, says: 'The text is not what was signed.' },
    ]);
    await world.app.db.query('update signatures set signed_text = $2 where id = $1', [last!.id, last!.text]);
    expect((await whole()).breaks).toEqual([]);
    await expect(
      world.app.db.query('update signature_chain set hash = before where number = $1', [last!.number]),
    ).rejects.toThrow(/stay in their chain/u);
  });

  test('two at once come into the chain one after the other', async () => {
    const id = await addWaiver();
    const event = await asking(id, 'At Once');
    const tokens = await Promise.all(
      ['Una', 'Duo', 'Tria'].map(async (given) => (await book(event, [{ given }])).token),
    );
    const done = await Promise.all(
      tokens.map((token, at) => sign(token, `${['Una', 'Duo', 'Tria'][at]} Reedham`)),
    );
    expect(done.map((d) => d.status)).toEqual([201, 201, 201]);
    expect((await odalys.call('GET /api/signature-chain')).breaks).toEqual([]);
    // Sent twice, it is signed once.
    const again = await asking(id, 'Twice');
    const { token } = await book(again, [{ given: 'Una' }]);
    const { seats, waivers } = await look(token);
    const send = () =>
      world.anyone.try('POST /api/public/orders/:token/signatures', {
        params: { token },
        body: {
          ...signs(waivers[0]!, 'Una Reedham'),
          seats: [{ registrationId: seats[0]!.id, relation: 'self', answers: {} }],
        },
      });
    expect((await send()).status).toBe(201);
    expect((await send()).problem.code).toBe('waiver-signed');
  });
});

describe('how long it holds', () => {
  const mai = { given: 'Solveig', family: 'Marsh', email: 'solveig@marsh.example' };
  test('whoever signed this year is not asked again, and a stranger in their name does not learn it', async () => {
    const id = await addWaiver({ holds: { for: 'year' } });
    const first = await asking(id, 'Spring Paddle');
    const { token } = await book(first, [{ given: 'Solveig', family: 'Marsh' }], mai);
    await sign(token, 'Solveig Marsh');
    const second = await asking(id, 'Autumn Paddle', '2026-10-03T09:00');
    const booked = await book(second, [{ given: 'Solveig', family: 'Marsh' }], mai);
    // Whose hand it was nobody knows yet: it counts for its own seat.
    expect((await doorOf(second, 'Solveig')).missing).toEqual(['signature']);

    // The copy goes to her address; whoever opens it reads what is sent there.
    await world.runner.run();

    const [copy] = (await lettersTo(mai.email)).filter((m) => /What you signed/u.test(m.subject));
    const link = /\/signed\/([\w-]+)/u.exec(copy!.text)![1]!;
    const page = await world.anyone.call('GET /api/public/signed/:token', { params: { token: link } });
    expect(page).toMatchObject({ typedName: 'Solveig Marsh', people: [{ holdsUntil: '2026-12-31' }] });
    await world.anyone.call('POST /api/public/signed/:token/seen', { params: { token: link } });
    expect((await doorOf(second, 'Solveig')).missing).toEqual([]);

    // On the page that whoever booked was shown, nothing tells that it is signed; by the link of the mail it does.
    const shown = await look(booked.token);
    expect([shown.seats[0]!.waiver, shown.toldSigned]).toEqual(['self', false]);
    const mails = (await lettersTo(mai.email)).map((m) => m.text).join('\n');
    const mailed = [...mails.matchAll(/\/m\/([\w-]+)/gu)]
      .map((m) => m[1]!)
      .find((t) => t.startsWith(booked.token))!;
    expect(mailed.length).toBeGreaterThan(booked.token.length);
    const told = await look(mailed);
    expect([told.seats[0]!.waiver, told.toldSigned]).toEqual(['signed', true]);
    // One whose end was made up leads nowhere.
    expect(
      (
        await world.anyone.try('GET /api/public/orders/:token', {
          params: { token: `${mailed.slice(0, -2)}AA` },
        })
      ).status,
    ).toBe(404);
    // Signing all the same is no error: it is one more.
    expect((await sign(booked.token, 'Solveig Marsh')).status).toBe(201);
  });

  test('whoever is signed in sees what they signed, and not what somebody signed whom they booked for', async () => {
    const id = await addWaiver({ holds: { for: 'year' } });
    const people = await Promise.all(
      ['Vigdis', 'Halvor'].map((given) =>
        odalys.call('POST /api/contacts', {
          body: {
            given,
            family: 'Sump',
            email: `${given.toLowerCase()}@sump.example`,
            birthDate: '1990-01-01',
          },
        }),
      ),
    );
    for (const [at, { id: contactId }] of people.entries())
      await odalys.call('POST /api/waivers/:id/paper', {
        params: { id },
        body: {
          contactId,
          relation: 'self',
          typedName: `${['Vigdis', 'Halvor'][at]} Sump`,
          signedOn: '2026-07-01',
          chosen: {},
          scan: { name: 'scan.pdf', content: Buffer.from('%PDF-1.4 scanned').toString('base64') },
        },
      });
    const event = await asking(id, 'Both Signed');
    const order = orderFor(event, [
      { given: 'Vigdis', family: 'Sump', birthDate: '1990-01-01' },
      { given: 'Halvor', family: 'Sump', birthDate: '1990-01-01' },
    ]);
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: { ...order, buyer: { given: 'Vigdis', family: 'Sump', email: 'vigdis@sump.example', phone: '' } },
    });
    const seats = await world.app.db.query<{ id: string }>(
      'select id from registrations where event_id = $1 order by seat_number',
      [event.id],
    );
    for (const [at, { id: seat }] of seats.entries())
      await world.app.db.query('update registrations set contact_id = $2 where id = $1', [
        seat,
        people[at]!.id,
      ]);
    expect((await doorOf(event, 'Halvor')).missing).toEqual([]);
    const vigdis = new Caller(world.origin);
    const { ticket } = await vigdis.call('POST /api/public/sign-in', {
      body: { email: 'vigdis@sump.example' },
    });
    await world.runner.run();
    const code = /\d{3} \d{3}/u.exec((await lettersTo('vigdis@sump.example')).at(-1)!.text)![0];
    await vigdis.call('POST /api/public/sign-in/code', { body: { ticket, code, contactId: null } });
    const mine = await vigdis.call('GET /api/public/mine');
    expect(
      mine!.seats
        .filter((s) => s.event.title === 'Both Signed')
        .map((s) => [s.name, s.toSign])
        .sort(),
    ).toEqual([
      ['Halvor Sump', true],
      ['Vigdis Sump', false],
    ]);
  });

  test('it counts elsewhere once somebody stood at the door, and not after its year', async () => {
    const id = await addWaiver({ holds: { for: 'year' } });
    const today = await asking(id, 'Door Paddle', '2026-07-09T09:00');
    const who = { given: 'Runa', family: 'Fenn', email: 'runa@fenn.example' };
    const { token } = await book(today, [{ given: 'Runa', family: 'Fenn' }], who);
    await sign(token, 'Runa Fenn');
    const later = await asking(id, 'Later Paddle', '2026-11-01T09:00');
    const next = await asking(id, 'Next Year', '2027-02-01T09:00');
    for (const event of [later, next]) await book(event, [{ given: 'Runa', family: 'Fenn' }], who);
    expect((await doorOf(later, 'Runa')).missing).toEqual(['signature']);
    const { registrationId } = await doorOf(today, 'Runa');
    await odalys.call('POST /api/registrations/:id/attendance', {
      params: { id: registrationId },
      body: { eventId: today.id, state: 'arrived', despite: 'early' },
    });
    expect((await doorOf(later, 'Runa')).missing).toEqual([]);
    expect((await doorOf(next, 'Runa')).missing).toEqual(['signature']);
  });
});

describe('on its own page', () => {
  const person = (given: string, birthDate: string) => ({ given, family: 'Quill', birthDate });
  async function standing(part: Partial<Added & typeof usual> = {}) {
    const id = await addWaiver({ holds: { for: 'year' }, standing: true, ...part });
    const { page } = await odalys.call('GET /api/waivers/:id', { params: { id } });
    return { id, slug: page!.split('/').at(-1)! };
  }
  const open = (slug: string): Promise<{ waiver: WaiverToSign }> =>
    world.anyone.call('GET /api/public/waivers/:slug', { params: { slug } });
  async function signThere(
    slug: string,
    part: {
      self?: boolean;
      children?: ReturnType<typeof person>[];
      birthDate?: string;
      typedName?: string;
    } = {},
  ) {
    const { waiver } = await open(slug);
    return world.anyone.try('POST /api/public/waivers/:slug/signatures', {
      params: { slug },
      body: {
        ...signs(waiver, part.typedName ?? 'Ebba Quill'),
        signer: { ...person('Ebba', part.birthDate ?? '1988-03-03'), email: 'ebba@quill.example' },
        self: part.self ?? true,
        answers: {},
        children: (part.children ?? []).map((c) => ({ ...c, answers: {} })),
      },
    });
  }

  test('somebody signs for themselves and two children without a booking, and is known at the next event', async () => {
    const { id, slug } = await standing();
    const done = await signThere(slug, {
      children: [person('Siv', '2015-04-04'), person('Ulf', '2017-05-05')],
    });
    expect(done.body.people).toBe(3);
    const { rows } = await signaturesOf(id);
    expect(rows.map((r) => [r.participant, r.relation, r.holdsUntil, r.known]).sort()).toEqual([
      ['Ebba Quill', 'self', '2026-12-31', false],
      ['Siv Quill', 'guardian', '2026-12-31', false],
      ['Ulf Quill', 'guardian', '2026-12-31', false],
    ]);
    await world.runner.run();
    const [copy] = await lettersTo('ebba@quill.example');
    const link = /\/signed\/([\w-]+)/u.exec(copy!.text)![1]!;
    await world.anyone.call('POST /api/public/signed/:token/seen', { params: { token: link } });
    const event = await asking(id, 'Known By Form');
    await book(
      event,
      [
        { given: 'Ebba', family: 'Quill', birthDate: '1988-03-03' },
        { given: 'Siv', family: 'Quill', birthDate: '2015-04-04' },
      ],
      { given: 'Ebba', family: 'Quill', email: 'ebba@quill.example' },
    );
    expect((await doorOf(event, 'Ebba')).missing).toEqual([]);
    expect((await doorOf(event, 'Siv')).missing).toEqual([]);

    // The PDF is ours, and tells nothing of who signed; one byte more, and it is not.
    const pdf = await pdfOf(
      world.anyone.call('GET /api/public/signed/:token/copy.pdf', { params: { token: link } }),
    );
    const hash = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
    const check = (sha256: string) =>
      world.anyone.call('POST /api/public/signatures/check', { body: { sha256 } });
    const { found } = await check(hash(pdf));
    expect(found).toMatchObject({ people: 3, valid: 3, version: 1 });
    expect(JSON.stringify(found)).not.toContain('Quill');
    expect((await check(hash(Buffer.concat([pdf, Buffer.from(' ')])))).found).toBeNull();

    // Whoever got the copy says that it was somebody else: nothing of it counts.
    await world.anyone.call('POST /api/public/signed/:token/revocation', { params: { token: link } });
    await world.anyone.call('POST /api/public/signed/:token/revocation', { params: { token: link } });
    expect((await doorOf(event, 'Siv')).missing).toEqual(['guardian']);
    expect((await signaturesOf(id, { state: 'revoked' })).rows).toHaveLength(3);
  });

  test('where both guardians sign, the other does by a link of the copy, for the same children, with another name', async () => {
    const { id, slug } = await standing({ audience: 'minors', guardians: 2 });
    await signThere(slug, { self: false, children: [person('Alva', '2016-06-06')] });
    await world.runner.run();
    const copies = await lettersTo('ebba@quill.example');
    const links = copies.map((c) => /\/signed\/([\w-]+)/u.exec(c.text)?.[1]).filter(Boolean);
    const pages = [];
    for (const token of links)
      pages.push(await world.anyone.call('GET /api/public/signed/:token', { params: { token: token! } }));
    const copy = pages.findIndex((p) => p.other !== null);
    const signed = { params: { token: links[copy]! } };
    await world.anyone.call('POST /api/public/signed/:token/seen', signed);
    const event = await asking(id, 'Both Of Them');
    await book(event, [{ given: 'Alva', family: 'Quill', birthDate: '2016-06-06' }], {
      given: 'Ebba',
      family: 'Quill',
      email: 'ebba@quill.example',
    });
    expect((await doorOf(event, 'Alva')).missing).toEqual(['guardian']);

    const token = pages[copy]!.other!.split('/').at(-1)!;
    const page = await world.anyone.call('GET /api/public/cosign/:token', { params: { token } });
    expect(page).toMatchObject({ by: 'Ebba Quill', people: [{ name: 'Alva Quill' }], closed: false });
    const cosign = (typedName: string, email = 'olof@quill.example') =>
      world.anyone.try('POST /api/public/cosign/:token', {
        params: { token },
        body: {
          ...signs(page.waiver, typedName),
          email,
          people: page.people.map(({ signatureId }) => ({ signatureId, answers: {} })),
        },
      });
    expect((await cosign('ebba quill')).problem.fields).toMatchObject([
      { path: 'typedName', code: 'other-guardian' },
    ]);
    expect((await cosign('Olof Quill', 'nothing')).problem.fields).toMatchObject([{ path: 'email' }]);
    expect((await cosign('Olof Quill')).body).toEqual({ people: 1 });
    expect((await cosign('Olof Quill')).problem.code).toBe('waiver-signed');
    // Whose hand it was is known once the copy is opened.
    expect((await doorOf(event, 'Alva')).missing).toEqual(['guardian']);
    await world.runner.run();
    const [other] = await lettersTo('olof@quill.example');
    await world.anyone.call('POST /api/public/signed/:token/seen', {
      params: { token: /\/signed\/([\w-]+)/u.exec(other!.text)![1]! },
    });
    expect((await doorOf(event, 'Alva')).missing).toEqual([]);
    expect((await world.anyone.call('GET /api/public/signed/:token', signed)).other).toBeNull();
    expect((await world.anyone.call('GET /api/public/cosign/:token', { params: { token } })).people).toEqual(
      [],
    );
  });

  test('says what is wrong beside whom it is about', async () => {
    const { slug } = await standing({ audience: 'minors' });
    const fields = async (part: Parameters<typeof signThere>[1]) =>
      (await signThere(slug, part)).problem.fields!.map((f) => `${f.path} ${f.code}`);
    expect(await fields({ self: false })).toEqual(['self nobody-signed-for']);
    expect(await fields({ self: true })).toContain('signer.birthDate waiver-not-for');
    expect(await fields({ self: false, children: [person('Old', '1990-01-01')] })).toEqual([
      'children.0.birthDate waiver-not-for',
    ]);
    expect(
      await fields({ self: false, birthDate: '2012-01-01', children: [person('Siv', '2016-01-01')] }),
    ).toEqual(['signer.birthDate signer-of-age']);
    expect(await fields({ self: false, children: [{ ...person('', '2016-01-01'), family: '' }] })).toContain(
      'children.0.given name-needed',
    );
    expect(
      await fields({ self: false, children: [person('Siv', '2016-01-01')], typedName: 'Siv Quill' }),
    ).toContain('typedName guardian-own-name');
  });

  test('is there only as long as it stands on its own, at the address it had', async () => {
    const { id, slug } = await standing({ title: 'Boat house' });
    const poster = await pdfOf(odalys.call('GET /api/waivers/:id/poster.pdf', { params: { id } }));
    expect(poster.subarray(0, 5).toString()).toBe('%PDF-');
    const set = (standingAlone: boolean) =>
      odalys.call('PATCH /api/waivers/:id', { params: { id }, body: { standing: standingAlone } });
    await set(false);
    expect((await world.anyone.try('GET /api/public/waivers/:slug', { params: { slug } })).status).toBe(404);
    await set(true);
    expect((await open(slug)).waiver.title).toBe('Boat house');
  });
});

describe('what the door is told of it', () => {
  const photos = { clauses: [{ text: 'I agree.' }, { kind: 'choice' as const, text: 'Photos of me.' }] };
  const told = async (event: OpenEvent, given: string) =>
    (await doorOf(event, given)).toKnow.filter((line) => line.startsWith('Said no'));
  const no = 'Said no to: Photos of me.';

  test('a no is told, the last word of a hand counts, and it is no reason to keep anybody out', async () => {
    const id = await addWaiver(photos);
    const event = await asking(id, 'Pictures', '2026-07-09T08:00');
    const { token } = await book(event, [{ given: 'Ilka' }, { given: 'Jory' }]);
    expect(await told(event, 'Ilka')).not.toContain(no);
    const say = (chosen: boolean, seats: number[], name: string) =>
      sign(token, name, { chosen: { c2: chosen }, seats });
    expect((await say(false, [0], 'Ilka Reedham')).status).toBe(201);
    expect((await say(true, [1], 'Jory Reedham')).status).toBe(201);
    expect(await doorOf(event, 'Ilka')).toMatchObject({ light: 'go', details: [] });
    expect(await told(event, 'Ilka')).toEqual([no]);
    expect(await told(event, 'Jory')).toEqual([]);
    // What was taken back is not told any more; signed again it is as she says now.
    const signature = (await signaturesOf(id, { q: 'Ilka' })).rows[0]!.id;
    await odalys.call('POST /api/signatures/:id/revocation', {
      params: { id: signature },
      body: { why: 'She ticked the wrong one.' },
    });
    expect(await told(event, 'Ilka')).toEqual([]);
    expect((await say(true, [0], 'Ilka Reedham')).status).toBe(201);
    expect(await told(event, 'Ilka')).toEqual([]);
  });

  test('a no given for the whole year is told at its events, until the same hand says yes to a later version', async () => {
    const id = await addWaiver({ ...photos, title: 'Year of pictures', holds: { for: 'year' } });
    const event = await asking(id, 'All Year', '2026-07-09T08:00');
    const { token } = await book(event, [{ given: 'Liv' }]);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    await odalys.call('POST /api/waivers/:id/paper', {
      params: { id },
      body: {
        contactId: rows[0]!.contactId!,
        eventId: null,
        relation: 'self',
        typedName: 'Liv Reedham',
        signedOn: '2026-07-01',
        chosen: { c2: false },
        scan: { name: 'scan.pdf', content: Buffer.from('%PDF-1.4 scanned').toString('base64') },
      },
    });
    expect(await told(event, 'Liv')).toEqual([no]);
    await odalys.call('POST /api/waivers/:id/versions', {
      params: { id },
      body: {
        text: textOf({
          title: 'Year of pictures',
          clauses: [{ text: 'I agree to more.' }, { kind: 'choice', text: 'Photos of me.' }],
        }),
        material: true,
        after: 1,
      },
    });
    expect((await sign(token, 'Liv Reedham', { chosen: { c2: true } })).status).toBe(201);
    expect(await told(event, 'Liv')).toEqual([]);
  });

  test('where one guardian says no and the other yes it is a no', async () => {
    const id = await addWaiver({ ...photos, guardians: 2 });
    const event = await asking(id, 'Both Parents', '2026-07-09T08:00');
    const { token } = await book(event, [{ given: 'Wren', birthDate: '2016-05-05' }]);
    expect((await sign(token, 'Ann Reedham', { chosen: { c2: false } })).status).toBe(201);
    expect((await sign(token, 'Bo Reedham', { chosen: { c2: true } })).status).toBe(201);
    expect(await told(event, 'Wren')).toContain(no);
  });
});

describe('what the team does', () => {
  test('a signature on paper is entered with its scan, and counts', async () => {
    const id = await addWaiver({ clauses: [{ text: 'I agree.' }, { kind: 'choice', text: 'Photos.' }] });
    const event = await asking(id, 'On Paper');
    await book(event, [{ given: 'Gerd' }]);
    const { rows: seats } = await odalys.call('GET /api/events/:id/registrations', {
      params: { id: event.id },
    });
    const contactId = seats[0]!.contactId!;
    const enter = (part: object = {}) =>
      odalys.try('POST /api/waivers/:id/paper', {
        params: { id },
        body: {
          contactId,
          eventId: event.id,
          relation: 'self',
          typedName: 'G. Reedham',
          signedOn: '2026-07-01',
          chosen: { c2: true },
          scan: { name: 'scan.pdf', content: Buffer.from('%PDF-1.4 scanned').toString('base64') },
          ...part,
        },
      });
    expect((await enter({ chosen: {} })).problem.fields).toMatchObject([
      { path: 'clauses.1', code: 'clause-not-chosen' },
    ]);
    expect((await enter({ signedOn: '2027-01-01' })).problem.fields).toMatchObject([
      { path: 'signedOn', code: 'in-the-future' },
    ]);
    expect((await enter({ eventId: null })).problem.fields).toMatchObject([{ path: 'eventId' }]);
    const other = await openEvent(world, { title: 'Not Theirs' });
    expect((await enter({ eventId: other.id })).problem.code).toBe('no-seat-there');
    const entered = await enter();
    expect(entered.status).toBe(201);
    expect((await doorOf(event, 'Gerd')).missing).toEqual([]);
    expect((await signaturesOf(id)).rows[0]).toMatchObject({ way: 'paper', scan: true, known: true });
    expect(
      (
        await pdfOf(odalys.call('GET /api/signatures/:id/scan', { params: { id: entered.body.id } }))
      ).toString(),
    ).toBe('%PDF-1.4 scanned');
    // The same once more is none; of a version that matters it is one.
    expect((await enter()).problem.code).toBe('waiver-signed');
    await odalys.call('POST /api/waivers/:id/versions', {
      params: { id },
      body: {
        text: textOf({
          title: (await odalys.call('GET /api/waivers/:id', { params: { id } })).text.title.en,
          clauses: [{ text: 'I agree to more.' }, { kind: 'choice', text: 'Photos.' }],
        }),
        material: true,
        after: 1,
      },
    });
    expect((await doorOf(event, 'Gerd')).missing).toEqual(['signature']);
    expect((await enter()).status).toBe(201);
    expect((await doorOf(event, 'Gerd')).missing).toEqual([]);
    // Whoever looks after seats and no more does not get at it.
    const door = await world.as('door');
    expect((await door.try('GET /api/signatures/:id/scan', { params: { id: entered.body.id } })).status).toBe(
      403,
    );
  });

  test('a signature is revoked with why, once, and is asked for again', async () => {
    const id = await addWaiver();
    const event = await asking(id, 'Revoked');
    const { token } = await book(event, [{ given: 'Rolf' }]);
    await sign(token, 'Rolf Reedham');
    const { rows } = await signaturesOf(id);
    const revoke = (why: string) =>
      odalys.try('POST /api/signatures/:id/revocation', { params: { id: rows[0]!.id }, body: { why } });
    expect((await revoke(' ')).problem.fields).toMatchObject([{ path: 'why' }]);
    await revoke('Signed in the wrong name.');
    await revoke('Again.');
    expect((await signaturesOf(id, { state: 'revoked' })).rows[0]!.revoked).toMatchObject({
      why: 'Signed in the wrong name.',
    });
    expect((await look(token)).seats[0]!.waiver).toBe('self');
    expect((await odalys.call('GET /api/signature-chain')).breaks).toEqual([]);
    const csv = String(await odalys.call('GET /api/waivers/:id/signatures.csv', { params: { id } }));
    expect(csv).toContain('Rolf Reedham');
    expect(csv).toContain('revoked');
  });

  test('who has not signed is asked by hand, one letter a booking; who signed is not', async () => {
    const id = await addWaiver();
    const event = await asking(id, 'Chase');
    const ask = { given: 'Hanne', family: 'Lund', email: 'hanne@lund.example' };
    const { token } = await book(
      event,
      [
        { given: 'Hanne', family: 'Lund' },
        { given: 'Per', family: 'Lund' },
      ],
      ask,
    );
    const other = await book(event, [{ given: 'Done' }]);
    await sign(other.token, 'Done Reedham');
    const list = () => odalys.call('GET /api/events/:id/signing', { params: { id: event.id } });
    const { rows } = await list();
    expect(rows.map((r) => [r.name, r.standing, r.lastAsked])).toEqual([
      ['Hanne Lund', 'self', null],
      ['Per Lund', 'self', null],
      ['Done Reedham', 'signed', null],
    ]);
    const asks = await odalys.call('POST /api/events/:id/signing/reminders', {
      params: { id: event.id },
      body: { keys: rows.map((r) => r.key) },
    });
    expect(asks).toEqual({ asked: 1, notReached: 0 });
    await world.runner.run();
    const letters = (await lettersTo(ask.email)).filter((m) => /Please sign/u.test(m.subject));
    expect(letters).toHaveLength(1);
    expect(letters[0]!.text).toContain(`/m/${token}`);
    expect((await list()).rows[0]!.lastAsked).not.toBeNull();
    await sign(token, 'Hanne Lund', { seats: [0] });
    expect((await list()).rows.map((r) => r.name)[0]).toBe('Per Lund');
  });

  test('the crew is asked by its roles', async () => {
    const id = await addWaiver();
    const event = await openEvent(world, { title: 'Crew Signs' });
    await saveIt(odalys, event.id, {
      waivers: [asksAll(id, { seats: false, crew: true, roles: ['Kitchen'] })],
    });
    const at = async (role: string, given: string) => {
      const shift = await odalys.call('POST /api/events/:id/shifts', {
        params: { id: event.id },
        body: {
          name: '',
          role,
          place: '',
          startsLocal: '2026-08-08T10:00',
          endsLocal: '2026-08-08T12:00',
          least: 1,
          wished: 1,
          importance: 'usual' as const,
          briefing: '',
          publicSignUp: false,
        },
      });
      const person = await odalys.call('POST /api/contacts', {
        body: { given, family: 'Crewe', email: `${given}@crewe.example` },
      });
      await odalys.call('POST /api/shifts/:id/assignments', {
        params: { id: shift.id },
        body: { contactId: person.id, overrideReason: 'asked them' },
      });
    };
    await at('Kitchen', 'Kai');
    await at('Leader', 'Lea');
    const { rows } = await odalys.call('GET /api/events/:id/signing', { params: { id: event.id } });
    expect(rows.map((r) => [r.name, r.part, r.standing])).toEqual([['Kai Crewe', 'crew', 'self']]);
    expect(
      await odalys.call('POST /api/events/:id/signing/reminders', {
        params: { id: event.id },
        body: { keys: rows.map((r) => r.key) },
      }),
    ).toEqual({ asked: 1, notReached: 0 });
  });

  test('what is about health is deleted when its time is up; the signature stays what was signed', async () => {
    const ill = asked({ prompt: 'Allergies?', health: true });
    const call = asked({ prompt: 'Whom do we call?' });
    const id = await addWaiver({ questions: [ill, call], forgetDays: 10 });
    const event = await asking(id, 'Forgotten', '2026-07-20T09:00');
    const { token } = await book(event, [{ given: 'Nils' }]);
    await sign(token, 'Nils Reedham', { answers: [{ [ill.id]: 'bees', [call.id]: 'Ane' }] });
    const answers = async () =>
      (
        await world.app.db.query<{ answers: { value: string }[] }>(
          'select answers from signatures where waiver_id = $1',
          [id],
        )
      )[0]!.answers.map((a) => a.value);
    expect(await answers()).toEqual(['bees', 'Ane']);
    // The door is told, and each reading is written down.
    const row = await doorOf(event, 'Nils');
    expect(row.care).toBe(true);
    const { notes } = await odalys.call('GET /api/registrations/:id/care', {
      params: { id: row.registrationId },
    });
    expect(notes).toEqual(['Allergies? bees', 'Whom do we call? Ane']);
    expect(
      await world.app.db.query('select 1 from care_reads where registration_id = $1', [row.registrationId]),
    ).toHaveLength(1);
    await world.moveTo('2026-07-29T12:00:00.000Z');
    expect(await answers()).toEqual(['bees', 'Ane']);
    await world.moveTo('2026-07-31T12:00:00.000Z');
    expect(await answers()).toEqual(['Ane']);
    expect((await odalys.call('GET /api/signature-chain')).breaks).toEqual([]);
  });
});
