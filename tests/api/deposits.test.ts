import { beforeAll, expect, test } from 'vitest';
import { booksAstray } from './booksAstray.ts';
import { type Caller, linkTo } from './harness.ts';
import { Scene } from './messageLines.ts';

const scene = new Scene();
let imani: Caller;
let role = '';
beforeAll(async () => {
  imani = await scene.world.as('imani');
  role = (await imani.call('POST /api/roles', { body: { name: 'Bunting' } })).id;
});
const day = () => scene.begins.slice(0, 10);
const terms = { amount: 2000, back: 'share', noticeHours: 24 } as const;
type Terms = Omit<typeof terms, 'back'> & { back: 'share' | 'every' | 'any' };
/** A call for the event of this test. */
const callFor = (deposit: Terms | null = terms) =>
  imani.call('POST /api/calls', {
    body: {
      eventId: scene.event.id,
      title: { en: 'Hands for bunting', fr: 'Des mains pour les fanions' },
      words: { en: '' },
      asks: [],
      roles: [role],
      open: true,
      deposit,
    },
  });
const email = (given: string) => `${given.toLowerCase()}${scene.n}@deposit.example`;
const applied = async (callId: string) =>
  (await imani.call('GET /api/calls/:id/applications', { params: { id: callId } })).applications;
const of = async (callId: string, given: string) =>
  (await applied(callId)).find((a) => a.name.startsWith(`${given} `))!;
const decide = (ids: string[], to: 'accepted' | 'declined') =>
  imani.call('POST /api/applications/decide', { body: { ids, to } });
/** Somebody who applied and was accepted, with the link to their application. */
async function accepted(call: { id: string; slug: string }, given: string) {
  await scene.world.anyone.call('POST /api/public/calls/:slug', {
    params: { slug: call.slug },
    body: {
      person: { given, family: 'Leaver', email: email(given) },
      said: { wishes: [{ roleId: role, weight: 2 }] },
    } as never,
  });
  const { id, contactId } = await of(call.id, given);
  await decide([id], 'accepted');
  await scene.world.runner.run();
  const token = (await linkTo(scene.world.app, 'application', id)).split('/').at(-1)!;
  return { id, contactId, token };
}
const mailTo = async (given: string) => {
  await scene.world.runner.run();
  return scene.world.app.db.query<{ subject: string; body: string }>(
    'select subject, body from standin_mail where address = $1 order by accepted_at, key',
    [email(given)],
  );
};
const own = async (token: string) =>
  (await scene.world.anyone.call('GET /api/public/applications/:token', { params: { token } })).deposit;
const pay = (token: string, card = 1) =>
  scene.world.anyone.try('POST /api/public/applications/:token/deposit', {
    params: { token },
    body: { card: `9000 0000 0000 000${card}`, expiry: '08/29' },
  });
const shift = async (from: string, to: string) =>
  (
    await imani.call('POST /api/events/:id/shifts', {
      params: { id: scene.event.id },
      body: { role: 'Bunting', startsLocal: `${day()}T${from}`, endsLocal: `${day()}T${to}`, wished: 5 },
    })
  ).id;
const put = (id: string, contactId: string) =>
  imani.call('POST /api/shifts/:id/assignments', { params: { id }, body: { contactId } });
const marked = async (id: string, contactId: string, state: 'served' | 'missed' | 'dropped') => {
  const { shifts } = await imani.call('GET /api/events/:id/crew', { params: { id: scene.event.id } });
  const on = shifts.find((s) => s.id === id)!.assignments.find((a) => a.contactId === contactId)!;
  await imani.call('POST /api/assignments/:id/state', { params: { id: on.id }, body: { state } });
};
/** What stands on an account of the books for the event of this test, as it is said: what is owed or earned is above nought. */
const onAccount = async (account: string) =>
  (
    await scene.world.app.db.query<{ amount: number }>(
      `select coalesce(sum(e.amount), 0)::int as amount from postings p join entries e on e.posting_id = p.id
       where e.account = $1 and p.event_id = $2`,
      [account, scene.event.id],
    )
  )[0]!.amount;

test('whoever is accepted leaves a deposit, pays it by card, and is put on nothing before; by the share served it goes back', async () => {
  const call = await callFor();
  const { deposit } = await scene.world.anyone.call('GET /api/public/calls/:slug', {
    params: { slug: call.slug },
  });
  expect(deposit).toEqual({ ...terms, currency: 'CAD' });
  const ada = await accepted(call, 'Ada');
  const letter = (await mailTo('Ada')).find((m) => m.subject.startsWith('Your deposit of $20'))!;
  expect(letter.body).toMatch(/As much of it goes back as you have served[\s\S]+\/helping\//u);
  expect(await own(ada.token)).toMatchObject({ state: 'asked', payment: 'needed', amount: 2000 });
  const [long, short] = [await shift('09:00', '13:00'), await shift('14:00', '16:00')];
  expect((await put(long, ada.contactId)).clashes.map((c) => c.text)).toEqual([
    'has not left the deposit yet',
  ]);
  expect((await pay(ada.token, 2)).body).toMatchObject({ outcome: 'declined' });
  expect(await own(ada.token)).toMatchObject({ payment: 'declined' });
  expect((await pay(ada.token)).body).toMatchObject({ outcome: 'succeeded' });
  expect(await own(ada.token)).toMatchObject({ state: 'held', payment: null, received: 2000 });
  expect((await pay(ada.token)).problem.code).toBe('nothing-due');
  // It is owed to her, and nothing is earned.
  expect(await onAccount('deposits')).toBe(-2000);
  expect(await onAccount('cards')).toBe(2000);
  for (const id of [long, short]) expect((await put(id, ada.contactId)).assigned).toBe(true);
  expect(await of(call.id, 'Ada')).toMatchObject({
    deposit: { state: 'held', wouldGoBack: 2000, why: 'No shift came of it.' },
  });
  await scene.world.moveTo(scene.ahead(-8 * 60));
  await marked(long, ada.contactId, 'served');
  await marked(short, ada.contactId, 'missed');
  expect(await of(call.id, 'Ada')).toMatchObject({ deposit: { state: 'held', wouldGoBack: 1333 } });
  // Three days after the end, once hours were put right.
  await scene.world.moveTo(scene.later(2 * 24 * 60));
  expect(await own(ada.token)).toMatchObject({ state: 'held' });
  await scene.world.moveTo(scene.later(2 * 24 * 60));
  expect(await own(ada.token)).toMatchObject({
    state: 'part returned',
    received: 667,
    kept: 667,
    why: '4 of 6 hours were served.',
  });
  expect(await onAccount('deposits')).toBe(0);
  expect(await onAccount('kept')).toBe(-667);
  // The processor keeps its fee.
  expect((await onAccount('cards')) + (await onAccount('fees'))).toBe(667);
  const back = (await mailTo('Ada')).find((m) => m.subject === 'Your deposit: Hands for bunting')!;
  expect(back.body).toContain('Of your deposit, $13.33 goes back to you. 4 of 6 hours were served.');
  expect(await booksAstray(scene.world.app.db)).toEqual([]);
  const { totals, rows } = await (await scene.world.as('marit')).call('GET /api/ledger', {
    query: { kind: 'deposit', eventId: scene.event.id },
  });
  expect(totals).toMatchObject([{ deposits: 2000, refunds: 1333, net: 667 }]);
  expect(rows.map((r) => [r.name, r.kind, r.amount])).toEqual([['Ada Leaver', 'deposit', 2000]]);
  // What was only kept aside is no income of the event, and its going back is no refund of it.
  const figures = await scene.odalys.call('GET /api/events/:id/figures', { params: { id: scene.event.id } });
  expect(figures.money).toMatchObject({ seats: 0, donations: 0, refunds: 0 });
  expect(figures.checks.filter((c) => !c.holds)).toEqual([]);
});

test('by hand: it comes in cash, goes back in part with why, once, and is let off; nothing of it is another’s to see', async () => {
  const call = await callFor({ ...terms, back: 'every' });
  const [bea, cy] = [await accepted(call, 'Bea'), await accepted(call, 'Cy')];
  const idOf = async (given: string) => (await of(call.id, given)).deposit!.id;
  const received = async (given: string, by: Caller = imani) =>
    by.try('POST /api/deposits/:id/received', {
      params: { id: await idOf(given) },
      body: { method: 'cash' },
    });
  const settle = async (given: string, amount: number, more: object = {}) =>
    imani.try('POST /api/deposits/:id/settle', {
      params: { id: await idOf(given) },
      body: { amount, words: 'Left early.', ...more },
    });
  // The event is of no unit: a lead of one has no business there, nor has the door.
  const piers = await scene.world.as('piers');
  expect([403, 404]).toContain((await received('Bea', piers)).status);
  expect((await received('Bea', await scene.world.as('door'))).status).toBe(403);
  expect((await settle('Bea', 500)).problem.code).toBe('deposit-not-held');
  // While a charge has no answer, nothing is taken beside it.
  const { id: asked } = (await of(call.id, 'Bea')).deposit!;
  await scene.world.app.db.query(
    `insert into payment_attempts (id, deposit_id, amount, state, asked_at, words) values (gen_random_uuid(), $1, 2000, 'unknown', $2, '')`,
    [asked, scene.world.app.clock.now()],
  );
  expect((await received('Bea')).problem.code).toBe('payment-unknown');
  await scene.world.app.db.query(
    "update payment_attempts set state = 'declined', answered_at = asked_at where deposit_id = $1",
    [asked],
  );
  expect((await received('Bea')).status).toBe(201);
  expect((await received('Bea')).problem.code).toBe('deposit-not-asked');
  expect(await onAccount('cash')).toBe(2000);
  expect((await settle('Bea', 2001)).problem.code).toBe('too-much');
  expect((await settle('Bea', 500, { words: '' })).problem.fields).toMatchObject([{ path: 'words' }]);
  expect((await settle('Bea', 500)).status).toBe(201);
  expect(await own(bea.token)).toMatchObject({ state: 'part returned', kept: 1500, why: 'Left early.' });
  expect((await settle('Bea', 100)).problem.code).toBe('deposit-not-held');
  expect(await onAccount('cash')).toBe(1500);
  expect(await onAccount('kept')).toBe(-1500);
  const letOff = async () =>
    imani.try('POST /api/deposits/:id/let-off', { params: { id: await idOf('Cy') } });
  expect((await letOff()).status).toBe(201);
  expect((await letOff()).problem.code).toBe('deposit-not-asked');
  expect(await own(cy.token)).toMatchObject({ state: 'let off', payment: null });
  expect((await pay(cy.token)).problem.code).toBe('nothing-due');
  // Nothing keeps them from a shift any more.
  expect((await put(await shift('09:00', '10:00'), cy.contactId)).assigned).toBe(true);
});

test('who is declined after all gets it back, and who was accepted before it was asked for is asked then; once', async () => {
  const call = await callFor(null);
  const ask = (trying = false) =>
    imani.try('POST /api/calls/:id/deposits', { params: { id: call.id }, body: { trying } });
  const dan = await accepted(call, 'Dan');
  expect(await own(dan.token)).toBeNull();
  expect((await ask()).problem.code).toBe('no-deposit');
  const { version, ...is } = (
    await imani.call('GET /api/calls/:id/applications', { params: { id: call.id } })
  ).call;
  const body = { ...is, version, deposit: { ...terms, back: 'any' as const } };
  await imani.call('PUT /api/calls/:id', { params: { id: call.id }, body });
  expect((await ask(true)).body).toEqual({ asked: 1 });
  expect((await ask()).body).toEqual({ asked: 1 });
  expect((await ask()).body).toEqual({ asked: 0 });
  expect((await pay(dan.token)).body).toMatchObject({ outcome: 'succeeded' });
  await decide([dan.id], 'declined');
  expect(await own(dan.token)).toMatchObject({ state: 'returned', why: 'No shift came of it.' });
  expect((await mailTo('Dan')).map((m) => m.body).join('\n')).toContain(
    'Your deposit of $20 goes back to you. No shift came of it.',
  );
  // Accepted once more, they are not asked once more.
  await decide([dan.id], 'accepted');
  expect(await own(dan.token)).toMatchObject({ state: 'returned' });
});

test('a shift given back late is missed, in time it counts no more; an event called off gives all of it back', async () => {
  const call = await callFor({ ...terms, back: 'every' });
  const [eve, fay] = [await accepted(call, 'Eve'), await accepted(call, 'Fay')];
  for (const one of [eve, fay]) await pay(one.token);
  const id = await shift('09:00', '13:00');
  for (const one of [eve, fay]) await put(id, one.contactId);
  await scene.world.moveTo(scene.ahead(30 * 60));
  await marked(id, eve.contactId, 'dropped');
  await scene.world.moveTo(scene.ahead(3 * 60));
  await marked(id, fay.contactId, 'dropped');
  const would = async (given: string) => (await of(call.id, given)).deposit!;
  expect(await would('Eve')).toMatchObject({ wouldGoBack: 2000, why: 'No shift came of it.' });
  expect(await would('Fay')).toMatchObject({ wouldGoBack: 0, why: '1 of 1 shift was missed.' });
  await scene.odalys.call('POST /api/events/:id/state', {
    params: { id: scene.event.id },
    body: { move: 'call off', words: 'Storm' },
  });
  await scene.world.moveTo(scene.later(60));
  for (const one of [eve, fay])
    expect(await own(one.token)).toMatchObject({ state: 'returned', why: 'The event was called off.' });
  expect(await onAccount('deposits')).toBe(0);
});

test('a refund that does not reach the card is owed again, and a payment that the bank takes back is asked for again', async () => {
  const call = await callFor();
  const [gus, hal] = [await accepted(call, 'Gus'), await accepted(call, 'Hal')];
  await pay(gus.token, 7);
  const { id } = (await of(call.id, 'Gus')).deposit!;
  const settle = (by: 'cash' | null) =>
    imani.call('POST /api/deposits/:id/settle', {
      params: { id },
      body: { amount: 2000, by, words: 'Asked.' },
    });
  await settle(null);
  expect(await own(gus.token)).toMatchObject({ state: 'returned' });
  await scene.world.moveTo(scene.later(26 * 60));
  expect(await own(gus.token)).toMatchObject({ state: 'owed', received: 2000 });
  const { open } = await (await scene.world.as('marit')).call('GET /api/cards');
  expect(open.filter((o) => o.what === 'refund failed').map((o) => o.name)).toEqual(['Gus Leaver']);
  await settle('cash');
  expect(await own(gus.token)).toMatchObject({ state: 'returned', received: 0 });
  await pay(hal.token, 9);
  await scene.world.moveTo(scene.later(6 * 24 * 60));
  expect(await own(hal.token)).toMatchObject({ state: 'asked', received: 0 });
  expect(await booksAstray(scene.world.app.db)).toEqual([]);
});

test('whoever is erased gets back what they left, by its rule, and is asked for nothing more; the money stays in the books', async () => {
  const call = await callFor();
  const [ivy, jon] = [await accepted(call, 'Ivy'), await accepted(call, 'Jon')];
  await pay(ivy.token);
  for (const [one, given] of [
    [ivy, 'Ivy'],
    [jon, 'Jon'],
  ] as const)
    await scene.odalys.call('POST /api/contacts/:id/erase', {
      params: { id: one.contactId },
      body: { name: `${given} Leaver` } as never,
    });
  const rows = await scene.world.app.db.query<{ state: string; applicationId: string | null }>(
    'select state, application_id from deposits where contact_id = any($1) order by state',
    [[ivy.contactId, jon.contactId]],
  );
  expect(rows).toEqual([
    { state: 'let off', applicationId: null },
    { state: 'returned', applicationId: null },
  ]);
  expect(await onAccount('deposits')).toBe(0);
});
