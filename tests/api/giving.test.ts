import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { GiftBody, GivingPageFields } from '#contract/giving.ts';
import { firstTextFor } from '#core/messages/firstTexts.ts';
import { plainLine } from '#core/messages/lines.ts';
import { type Caller, linkTo, makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
let marit: Caller;
let general: string;
let slug: string;
beforeAll(async () => {
  world = await makeWorld();
  marit = await world.as('marit');
  const { funds } = await marit.call('GET /api/giving/choices');
  general = funds.find((f) => f.name === 'General')!.id;
  ({ slug } = await marit.call('POST /api/giving/pages', { body: fields({ goal: 100_000 }) }));
});
afterAll(() => world.close());

const fields = (more: Partial<GivingPageFields> = {}): GivingPageFields => ({
  title: { en: 'A hide for everybody', fr: 'Un observatoire pour tous' },
  words: { en: 'It will stand by the reeds.' },
  thanks: { en: 'The herons thank you.', fr: 'Les hérons vous remercient.' },
  fundId: general,
  initiativeId: null,
  eventId: null,
  goal: null,
  untilOn: null,
  suggested: [5000, 2500],
  monthly: true,
  showsGivers: true,
  open: true,
  ...more,
});
let n = 0;
const body = (more: Partial<GiftBody> = {}): GiftBody => {
  n += 1;
  return {
    amount: 2500,
    giver: { given: `Gia${n}`, family: 'Verity', email: `gia${n}@fenmail.example` },
    ...more,
  };
};
const give = (more: Partial<GiftBody> = {}, to = slug) =>
  world.anyone.call('POST /api/public/giving/:slug/gifts', { params: { slug: to }, body: body(more) });
const pay = (token: string, ending = 1, expiry = '08/29') =>
  world.anyone.try('POST /api/public/gifts/:token/pay', {
    params: { token },
    body: { card: `9000 0000 0000 000${ending}`, expiry },
  });
const look = (token: string) => world.anyone.call('GET /api/public/gifts/:token', { params: { token } });
const page = (of = slug) => world.anyone.call('GET /api/public/giving/:slug', { params: { slug: of } });
const later = (days: number) =>
  world.moveTo(new Date(Date.parse(world.app.clock.now()) + days * 86_400_000).toISOString());
const mailTo = (address: string) =>
  world.app.db.query<{ subject: string; body: string }>(
    'select subject, body from standin_mail where address = $1 order by accepted_at, key',
    [address],
  );
const balances = async () =>
  Object.fromEntries(
    (await marit.call('GET /api/books', { query: {} })).flatMap((t) =>
      t.balances.map((b) => [b.fund ? `${b.account} ${b.fund}` : b.account, b.amount]),
    ),
  );

describe('a gift without an event', () => {
  test('is paid, thanked for in the words of the page, linked to a contact, and in the books', async () => {
    const before = await balances();
    const { token, number } = await give({ words: 'For the bitterns', language: 'fr' });
    expect(await look(token)).toMatchObject({
      number,
      state: 'open',
      payment: 'needed',
      amount: 2500,
      fund: 'General',
    });
    // Until it is paid it is no gift.
    expect(await balances()).toEqual(before);
    expect((await page()).gifts).toBe(0);
    expect((await pay(token)).body).toMatchObject({ outcome: 'succeeded' });
    expect(await look(token)).toMatchObject({
      state: 'given',
      payment: 'paid',
      thanks: 'Les hérons vous remercient.',
    });
    expect((await pay(token)).problem.code).toBe('nothing-due');
    await world.runner.run();
    const [thanks] = await mailTo(`gia${n}@fenmail.example`);
    expect(thanks!.subject).toBe('Merci de votre don');
    expect(thanks!.body).toContain('Les hérons vous remercient.');
    expect(thanks!.body).toContain('25\u00a0$');
    const after = await balances();
    expect((after['gifts General'] ?? 0) - (before['gifts General'] ?? 0)).toBe(-2500);
    expect((after.cards ?? 0) - (before.cards ?? 0)).toBe(2500);
    expect(await page()).toMatchObject({
      given: 2500,
      gifts: 1,
      goal: 100_000,
      givers: [{ name: `Gia${n} Verity`, words: 'For the bitterns' }],
    });
    const { rows } = await marit.call('GET /api/gifts', { query: {} });
    expect(rows[0]).toMatchObject({
      number,
      name: `Gia${n} Verity`,
      fund: 'General',
      received: 2500,
      method: 'card',
      state: 'given',
    });
    const contact = await marit.call('GET /api/contacts/:id', { params: { id: rows[0]!.contactId! } });
    expect(contact.given).toBe(`Gia${n}`);
    const { rows: ledger } = await marit.call('GET /api/ledger', { query: {} });
    expect(ledger[0]).toMatchObject({
      kind: 'donation',
      name: `Gia${n} Verity`,
      event: null,
      orderNumber: null,
      fund: 'General',
      amount: 2500,
    });
    expect(String(await marit.call('GET /api/books.csv', { query: {} }))).toContain(`Gia${n} Verity`);
    // The fee that the processor kept is told of a minute later.
    await later(1 / 200);
    expect((await marit.call('GET /api/cards')).standing[0]!.fees).toBe(85);
  });

  test('who wishes so is not named to anybody but the staff', async () => {
    const { token } = await give({
      anonymous: true,
      words: 'quietly',
      tribute: { kind: 'memory', to: 'Bo Reed' },
    });
    await pay(token);
    const shown = await page();
    expect(shown.givers[0]).toEqual({ name: null, words: 'quietly', tribute: 'in memory of Bo Reed' });
    expect(JSON.stringify(shown)).not.toContain(`Gia${n}`);
    const { rows } = await marit.call('GET /api/gifts', { query: {} });
    expect(rows[0]).toMatchObject({
      anonymous: true,
      name: `Gia${n} Verity`,
      tribute: 'memory',
      tributeTo: 'Bo Reed',
    });
  });

  test('the treasurer keeps a gift off its page, with its name and its words, and shows it again', async () => {
    const { token } = await give({ words: 'Buy my ladders' });
    await pay(token);
    const { givers, given, gifts } = await page();
    expect(givers[0]).toMatchObject({ name: `Gia${n} Verity`, words: 'Buy my ladders' });
    const [gift] = (await marit.call('GET /api/gifts', { query: {} })).rows;
    const hide = (who: Caller, hidden: boolean) =>
      who.try('PUT /api/gifts/:id/hidden', { params: { id: gift!.id }, body: { hidden } });
    for (const who of [await world.as('piers'), await world.as('tobias'), world.anyone])
      expect((await hide(who, true)).status).toBeGreaterThanOrEqual(401);
    expect((await page()).givers).toEqual(givers);
    for (const twice of [1, 2]) expect((await hide(marit, true)).status, `time ${twice}`).toBe(200);
    const shown = await page();
    expect(JSON.stringify(shown)).not.toContain('ladders');
    expect(JSON.stringify(shown)).not.toContain(`Gia${n} Verity`);
    // It is a gift all the same.
    expect(shown).toMatchObject({ given, gifts });
    expect((await marit.call('GET /api/gifts', { query: {} })).rows[0]).toMatchObject({ hidden: true });
    await hide(marit, false);
    expect((await page()).givers).toEqual(givers);
  });

  test('somebody may be told of it, and hears nothing of the amount', async () => {
    const { token } = await give({
      amount: 7700,
      tribute: { kind: 'honour', to: 'Mae Sedge', tellName: 'Mae', tellEmail: 'mae@fenmail.example' },
    });
    expect(await mailTo('mae@fenmail.example')).toEqual([]);
    await pay(token);
    await world.runner.run();
    const [told] = await mailTo('mae@fenmail.example');
    expect(told!.subject).toBe('A gift was made in honour of Mae Sedge');
    expect(told!.body).toContain(`Gia${n} Verity`);
    // The sum, however it is written; a link may hold the two digits.
    expect(told!.body).not.toMatch(/\$77|77[.,]00/u);
  });

  test('a giver we know is known again, and what a stranger says of them changes nothing', async () => {
    const first = await give();
    await pay(first.token);
    const email = `gia${n}@fenmail.example`;
    const again = await world.anyone.call('POST /api/public/giving/:slug/gifts', {
      params: { slug },
      body: body({ giver: { given: `Gia${n - 0}`, family: 'Verity', email, street: '1 New Street' } }),
    });
    await pay(again.token);
    const { rows } = await marit.call('GET /api/gifts', { query: {} });
    expect(rows[0]!.contactId).toBe(rows[1]!.contactId);
    const [kept] = await world.app.db.query<{ street: string | null }>(
      'select street from contacts where id = $1',
      [rows[0]!.contactId],
    );
    expect(kept!.street).toBeNull();
  });

  test('a card that is declined, wants a code, or answers late', async () => {
    const { token } = await give();
    expect((await pay(token, 2)).body).toMatchObject({ outcome: 'declined' });
    expect(await look(token)).toMatchObject({ payment: 'declined', state: 'open' });
    expect((await pay(token, 6)).body).toMatchObject({ outcome: 'step' });
    expect(await look(token)).toMatchObject({ payment: 'step' });
    const code = await world.anyone.call('POST /api/public/gifts/:token/pay/code', {
      params: { token },
      body: { code: '2468' },
    });
    expect(code.outcome).toBe('succeeded');
    expect(await look(token)).toMatchObject({ payment: 'paid' });
    const late = await give();
    expect((await pay(late.token, 3)).body).toMatchObject({ outcome: 'unknown' });
    expect(await look(late.token)).toMatchObject({ payment: 'unknown' });
    expect((await pay(late.token)).problem.code).toBe('payment-unknown');
    await later(1 / 100);
    expect(await look(late.token)).toMatchObject({ payment: 'paid' });
  });

  test('what is wrong is said beside its field, and nothing is begun', async () => {
    const [{ count: before } = { count: 0 }] = await world.app.db.query<{ count: number }>(
      'select count(*)::int as count from gifts',
    );
    for (const [more, path] of [
      [{ amount: 99 }, 'amount'],
      [{ amount: 10_000_001 }, 'amount'],
      [{ amount: 12.5 }, 'amount'],
      [{ giver: { given: 'A', family: 'B', email: 'nobody' } }, 'giver.email'],
      [{ giver: { given: 'A', family: 'B', email: 'a@fenmail.example', phone: 'call me' } }, 'giver.phone'],
      [{ tribute: { kind: 'memory', to: '' } }, 'tribute.to'],
      [{ tribute: { kind: 'memory', to: 'Bo', tellEmail: 'x' } }, 'tribute.tellEmail'],
    ] as const) {
      const reply = await world.anyone.try('POST /api/public/giving/:slug/gifts', {
        params: { slug },
        body: body(more as never),
      });
      expect([path, reply.status, reply.problem.fields?.map((f) => f.path)]).toEqual([path, 422, [path]]);
    }
    expect(
      (
        await world.anyone.try('POST /api/public/giving/:slug/gifts', {
          params: { slug: 'nowhere' },
          body: body(),
        })
      ).status,
    ).toBe(404);
    expect(
      (await world.anyone.try('GET /api/public/gifts/:token', { params: { token: 'x'.repeat(40) } })).status,
    ).toBe(404);
    const [{ count } = { count: 0 }] = await world.app.db.query<{ count: number }>(
      'select count(*)::int as count from gifts',
    );
    expect(count).toBe(before);
  });

  test('comes back in part or as a whole, to the card, and no longer counts as given', async () => {
    const { token } = await give({ amount: 6000 });
    await pay(token);
    const { rows } = await marit.call('GET /api/gifts', { query: {} });
    const back = (amount: number, by: 'cheque' | null = null) =>
      marit.try('POST /api/gifts/:id/refunds', {
        params: { id: rows[0]!.id },
        body: { amount, reason: 'a mistake', by },
      });
    const given = (await page()).given;
    expect((await back(6001)).problem.code).toBe('too-much');
    expect((await back(2000)).status).toBe(201);
    expect(await look(token)).toMatchObject({ state: 'part returned' });
    expect((await page()).given).toBe(given - 2000);
    await later(1 / 100);
    expect((await back(4000, 'cheque')).status).toBe(201);
    expect(await look(token)).toMatchObject({ state: 'returned', payment: 'over' });
    const sum = await world.app.db.query<{ sum: number }>(
      'select sum(amount)::int as sum from donations where gift_id = $1',
      [rows[0]!.id],
    );
    expect(sum[0]!.sum).toBe(0);
  });

  test('a refund that does not reach the card, and a payment that is contested and lost', async () => {
    const failing = await give({ amount: 3000 });
    await pay(failing.token, 7);
    const idOf = async () => (await marit.call('GET /api/gifts', { query: {} })).rows[0]!.id;
    await marit.call('POST /api/gifts/:id/refunds', {
      params: { id: await idOf() },
      body: { amount: 3000, reason: 'asked', by: null },
    });
    expect(await look(failing.token)).toMatchObject({ state: 'returned' });
    await later(1.1);
    expect(await look(failing.token)).toMatchObject({ state: 'given' });
    const lost = await give({ amount: 3100 });
    await pay(lost.token, 9);
    await later(5.1);
    expect(await look(lost.token)).toMatchObject({ state: 'returned' });
    const { standing, open } = await marit.call('GET /api/cards');
    expect(standing[0]!.here).toBe(standing[0]!.there);
    expect(open.filter((o) => o.what === 'disputed')).toEqual([]);
  });
});

describe('a gift every month', () => {
  const pledgeOf = async () => {
    const { pledges } = await marit.call('GET /api/giving');
    const mine = pledges.find((p) => p.name === `Gia${n} Verity`);
    return mine!;
  };
  /** Moves to half a minute before an instalment is asked for. */
  const shortlyBefore = async (id: string) => {
    const [due] = await world.app.db.query<{ nextAt: string }>('select next_at from pledges where id = $1', [
      id,
    ]);
    await world.moveTo(new Date(Date.parse(due!.nextAt) - 30_000).toISOString());
  };
  const tokenOf = async (id: string) => (await linkTo(world.app, 'pledge', id)).split('/').at(-1)!;

  test('keeps the card, and asks for it each month; the giver can change, pause and end it', async () => {
    const { token } = await give({ monthly: true, amount: 1500 });
    expect((await marit.call('GET /api/giving')).pledges.some((p) => p.name === `Gia${n} Verity`)).toBe(
      false,
    );
    expect((await pay(token)).body).toMatchObject({ outcome: 'succeeded' });
    const pledge = await pledgeOf();
    const day = pledge.day;
    expect(pledge).toMatchObject({
      state: 'running',
      amount: 1500,
      given: 1500,
      tries: 0,
      cardExpires: '2029-08',
    });
    const link = await tokenOf(pledge.id);
    const seen = () => world.anyone.call('GET /api/public/pledges/:token', { params: { token: link } });
    const change = (more: object) =>
      world.anyone.try('POST /api/public/pledges/:token', { params: { token: link }, body: more });
    expect(await seen()).toMatchObject({
      cardEnding: '0001',
      day,
      gifts: [{ amount: 1500, state: 'given' }],
    });
    await later(32);
    expect((await seen()).gifts).toHaveLength(2);
    expect((await change({ amount: 2000 })).status).toBe(201);
    await later(30);
    expect((await seen()).gifts.map((g) => g.amount)).toEqual([2000, 1500, 1500]);
    expect((await change({ state: 'paused' })).status).toBe(201);
    await later(62);
    expect(await seen()).toMatchObject({ state: 'paused', next: null });
    expect((await seen()).gifts).toHaveLength(3);
    // What was not asked for while it was paused is not asked for afterwards.
    await change({ state: 'running' });
    const { next } = await seen();
    expect(next! > world.app.clock.now().slice(0, 10)).toBe(true);
    expect((await change({ state: 'ended' })).status).toBe(201);
    expect((await change({ state: 'running' })).problem.code).toBe('pledge-ended');
    await later(62);
    expect((await seen()).gifts).toHaveLength(3);
    const subjects = (await mailTo(`gia${n}@fenmail.example`)).map((m) => m.subject);
    expect(subjects.filter((s) => s === 'Your monthly gift')).toHaveLength(1);
    expect(subjects.filter((s) => s === 'Thank you for your gift')).toHaveLength(3);
    expect(subjects.at(-1)).toBe('Your monthly gift has ended');
  });

  test('a card that runs out: told ahead, declined, tried again, missed; another card goes on at once', async () => {
    const now = world.app.clock.now();
    const expiry = `${now.slice(5, 7)}/${now.slice(2, 4)}`;
    const { token } = await give({ monthly: true, amount: 1100 });
    await pay(token, 1, expiry);
    const email = `gia${n}@fenmail.example`;
    const { id } = await pledgeOf();
    await world.runner.run();
    expect((await mailTo(email)).map((m) => m.subject)).toContain('Your card runs out before your next gift');
    await later(33);
    expect(await pledgeOf()).toMatchObject({ state: 'running', tries: 1 });
    await later(12);
    expect(await pledgeOf()).toMatchObject({ state: 'missed', next: null });
    const onDesk = async () =>
      (await marit.call('GET /api/desk')).entries.filter((e) => e.action.href === '/ledger?show=gifts');
    expect(await onDesk()).toMatchObject([{ text: expect.stringContaining('one monthly gift') }]);
    expect(
      (await (await world.as('piers')).call('GET /api/desk')).entries.filter(
        (e) => e.action.href === '/ledger?show=gifts',
      ),
    ).toEqual([]);
    const missed = (await mailTo(email)).filter((m) => m.subject === 'Your monthly gift did not go through');
    expect(missed).toHaveLength(3);
    expect(missed[0]!.body).toContain('We try again on');
    expect(missed[2]!.body).toContain('We do not try this card again.');
    const link = await tokenOf(id);
    const card = (digits: string, of: string) =>
      world.anyone.try('POST /api/public/pledges/:token/card', {
        params: { token: link },
        body: { card: digits, expiry: of },
      });
    expect((await card('9000 0000 0000 0001', expiry)).problem.fields?.[0]?.path).toBe('card');
    expect((await card('9000 0000 0000 0004', '08/31')).status).toBe(200);
    await world.runner.run();
    expect(await pledgeOf()).toMatchObject({ state: 'running', tries: 0, given: 2200 });
    expect(await onDesk()).toEqual([]);
  });

  test('a line of the organization speaks of one that stands still, as long as it does', async () => {
    const odalys = await world.as('odalys');
    const id = crypto.randomUUID();
    const { narrowed: _, ...plain } = plainLine;
    const { subject, body } = firstTextFor('pledge missed', 'pledgers');
    const line = {
      ...plain,
      name: 'A month on',
      moment: 'pledge missed' as const,
      offsetDays: 30,
      offsetMinutes: 0,
      topic: 'notice' as const,
      subject,
      body,
    };
    await odalys.call('PUT /api/year-round/:id', { params: { id }, body: { line, version: 0 } });
    const now = world.app.clock.now();
    const begin = async () => {
      const { token } = await give({ monthly: true, amount: 1300 });
      await pay(token, 1, `${now.slice(5, 7)}/${now.slice(2, 4)}`);
      return { n, id: (await pledgeOf()).id };
    };
    const [waits, goesOn] = [await begin(), await begin()];
    await later(45);
    const shown = async () => (await odalys.call('GET /api/year-round')).find((l) => l.line.id === id)!.shown;
    const rows = async () =>
      Object.fromEntries((await shown()).rows.map((r) => [r.name, [r.state, r.whyNot]]));
    const names = [`Gia${waits.n} Verity`, `Gia${goesOn.n} Verity`] as const;
    expect(await rows()).toEqual({ [names[0]]: ['planned', null], [names[1]]: ['planned', null] });
    // Whoever has the link can change the gift: it goes where the gift says, whatever else their record has by now.
    const record = (await shown()).rows.find((r) => r.name === names[0])!.contactId!;
    const emails = [{ email: `else${waits.n}@fenmail.example` }, { email: `gia${waits.n}@fenmail.example` }];
    await odalys.call('PATCH /api/contacts/:id', { params: { id: record }, body: { emails } });
    const link = await tokenOf(goesOn.id);
    const card = { card: '9000 0000 0000 0004', expiry: '08/31' };
    await world.anyone.call('POST /api/public/pledges/:token/card', { params: { token: link }, body: card });
    await world.runner.run();
    expect((await shown()).leftOut.map((l) => [l.name, l.whyNot])).toContainEqual([
      names[1],
      'the monthly gift waits for no card any more',
    ]);
    await world.anyone.call('POST /api/public/pledges/:token', {
      params: { token: link },
      body: { state: 'ended' },
    });
    await later(31);
    const told = async (of: number) =>
      (await mailTo(`gia${of}@fenmail.example`)).filter((m) => m.subject.includes('waits for another card'));
    expect(await told(goesOn.n)).toEqual([]);
    const [mail, ...more] = await told(waits.n);
    expect(more).toEqual([]);
    expect(mail!.body).toContain('gift of $13 (General)');
    expect(mail!.body).toContain(`/pledge/${await tokenOf(waits.id)}`);
    const { version } = (await odalys.call('GET /api/year-round')).find((l) => l.line.id === id)!;
    await odalys.call('POST /api/year-round/:id/remove', { params: { id }, body: { version } });
  });

  test('an instalment is asked for once, however often it is begun and wherever it is cut off', async () => {
    const { token } = await give({ monthly: true, amount: 1300 });
    await pay(token);
    const { id, given } = await pledgeOf();
    expect(given).toBe(1300);
    const odalys = await world.as('odalys');
    // The answer to the next one is lost, with the process, and so is what would tell of it.
    await shortlyBefore(id);
    await odalys.call('PUT /api/standins', {
      body: { service: 'cards', mode: 'answer lost', remaining: 1 },
    });
    await odalys.call('PUT /api/standins', { body: { service: 'notices', mode: 'lost', remaining: null } });
    await later(1 / 1000);
    const [asked] = await world.app.db.query<{ state: string }>(
      'select a.state from payment_attempts a join gifts g on g.id = a.gift_id where g.pledge_id = $1 order by a.asked_at desc limit 1',
      [id],
    );
    expect(asked!.state).toBe('unknown');
    await odalys.call('PUT /api/standins', { body: { service: 'notices', mode: 'works', remaining: null } });
    await later(1);
    expect(await pledgeOf()).toMatchObject({ state: 'running', given: 2600 });
    const gifts = await world.app.db.query('select 1 from gifts where pledge_id = $1', [id]);
    expect(gifts).toHaveLength(2);
    const charges = await world.app.db.query(
      "select 1 from standin_charges c join payment_attempts a on a.id::text = c.key join gifts g on g.id = a.gift_id where g.pledge_id = $1 and c.outcome = 'succeeded'",
      [id],
    );
    expect(charges).toHaveLength(2);
  });

  test('paused while its answer is still to come, or missed and gone on with: nothing is asked for twice', async () => {
    const { token } = await give({ monthly: true, amount: 1700 });
    await pay(token);
    const { id } = await pledgeOf();
    const link = await tokenOf(id);
    const change = (more: object) =>
      world.anyone.call('POST /api/public/pledges/:token', { params: { token: link }, body: more });
    const odalys = await world.as('odalys');
    // The answer is late, and whoever gives pauses before it comes.
    const { next } = await world.anyone.call('GET /api/public/pledges/:token', { params: { token: link } });
    await shortlyBefore(id);
    await odalys.call('PUT /api/standins', {
      body: { service: 'cards', mode: 'answer lost', remaining: 1 },
    });
    await later(1 / 1000);
    await change({ state: 'paused' });
    await later(1 / 12);
    const [paused] = await world.app.db.query<{ state: string; instalment: string }>(
      'select state, instalment from pledges where id = $1',
      [id],
    );
    expect(paused!.state).toBe('paused');
    expect(paused!.instalment > next!).toBe(true);
    await change({ state: 'running' });
    // Declined until it is missed; gone on with, it is asked for at once.
    const digits = (ending: number) =>
      world.app.db.query(
        'update standin_cards set digits = $2 where token = (select card_token from pledges where id = $1)',
        [id, `900000000000000${ending}`],
      );
    await digits(2);
    await later(62);
    expect(await pledgeOf()).toMatchObject({ state: 'missed' });
    await digits(1);
    await change({ state: 'running' });
    await world.runner.run();
    expect(await pledgeOf()).toMatchObject({ state: 'running', tries: 0, given: 5100 });
    // One whose card is gone from its record is not asked for.
    await world.app.db.query('update pledges set card_token = null, next_at = $2 where id = $1', [
      id,
      world.app.clock.now(),
    ]);
    await world.runner.run();
    expect(await pledgeOf()).toMatchObject({ next: null, given: 5100 });
  });

  test('a page may take gifts once only', async () => {
    const { slug: once } = await marit.call('POST /api/giving/pages', {
      body: fields({ monthly: false, title: { en: 'Once' } }),
    });
    const reply = await world.anyone.try('POST /api/public/giving/:slug/gifts', {
      params: { slug: once },
      body: body({ monthly: true }),
    });
    expect(reply.problem.fields?.[0]).toMatchObject({ path: 'monthly' });
  });
});

describe('what staff do', () => {
  test('a cheque, and a gift in kind with what it is and who said what it is worth', async () => {
    const before = await balances();
    const cheque = {
      contactId: null,
      person: { given: 'Ottoline', family: 'Marsh', email: 'ottoline@fenmail.example' },
      kind: 'money' as const,
      method: 'cheque' as const,
      amount: 12_000,
      fundId: general,
      reference: 'No. 118',
    };
    const { id, number } = await marit.call('POST /api/gifts', { body: cheque });
    const kind = await marit.call('POST /api/gifts', {
      body: {
        ...cheque,
        kind: 'in kind',
        amount: 80_000,
        thing: 'Two cedar canoes',
        appraisedBy: 'Harbour Boats',
      },
    });
    expect(kind.number).toBe(number + 1);
    const after = await balances();
    expect((after.cash ?? 0) - (before.cash ?? 0)).toBe(12_000);
    expect((after['in kind'] ?? 0) - (before['in kind'] ?? 0)).toBe(80_000);
    const moved = (await marit.call('GET /api/ledger', { query: {} })).rows;
    expect(
      moved
        .slice(0, 2)
        .map((r) => r.method)
        .sort(),
    ).toEqual(['cheque', 'in kind']);
    const { rows } = await marit.call('GET /api/gifts', { query: { fundId: general } });
    expect(rows[0]).toMatchObject({
      kind: 'in kind',
      thing: 'Two cedar canoes',
      method: 'in kind',
      received: 80_000,
    });
    expect(rows[0]!.contactId).toBe(rows[1]!.contactId);
    expect(rows[1]).toMatchObject({ id, method: 'cheque' });
    await world.runner.run();
    expect((await mailTo('ottoline@fenmail.example')).map((m) => m.body).join()).toContain(
      'Two cedar canoes',
    );
    for (const [more, path] of [
      [{ person: null }, 'person'],
      [{ kind: 'in kind' }, 'thing'],
      [{ advantage: 500 }, 'advantageWhat'],
      [{ amount: 10 }, 'amount'],
    ] as const) {
      const reply = await marit.try('POST /api/gifts', { body: { ...cheque, ...(more as object) } });
      expect([path, reply.problem.fields?.[0]?.path]).toEqual([path, path]);
    }
  });

  test('a page of an event is shown on it, counts for it, and closes', async () => {
    const event = await openEvent(world, {
      title: 'Supper of gifts',
      startsLocal: '2028-10-14T18:00',
      endsLocal: '2028-10-14T22:00',
    });
    const made = await marit.call('POST /api/giving/pages', {
      body: fields({ title: { en: 'Give to the supper' }, eventId: event.id, goal: 50_000 }),
    });
    const shown = async () =>
      (await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } })).giving;
    expect(await shown()).toEqual([
      { slug: made.slug, title: { en: 'Give to the supper' }, goal: 50_000, given: 0, currency: 'CAD' },
    ]);
    const { token } = await give({ amount: 4000 }, made.slug);
    await pay(token);
    expect((await shown())[0]!.given).toBe(4000);
    expect(await page(made.slug)).toMatchObject({ event: { slug: event.slug, title: 'Supper of gifts' } });
    const [own] = await marit.call('GET /api/books', { query: { eventId: event.id } });
    expect(own!.balances.find((b) => b.account === 'gifts')!.amount).toBe(-4000);
    const mine = (await marit.call('GET /api/giving')).pages.find((p) => p.id === made.id)!;
    const save = (more: object, version = mine.version) =>
      marit.try('PUT /api/giving/pages/:id', {
        params: { id: made.id },
        body: { ...fields({ title: { en: 'Give to the supper' }, eventId: event.id }), ...more, version },
      });
    expect((await save({ suggested: [500, 500] })).problem.fields?.[0]?.path).toBe('suggested');
    expect((await save({ title: { en: ' ' } })).problem.fields?.[0]?.path).toBe('title.en');
    expect((await save({ open: false })).body).toMatchObject({ version: 2 });
    expect((await save({ open: true })).problem.code).toBe('changed-by-somebody');
    expect(await shown()).toEqual([]);
    const reply = await world.anyone.try('POST /api/public/giving/:slug/gifts', {
      params: { slug: made.slug },
      body: body(),
    });
    expect(reply.problem.code).toBe('giving-closed');
    const { slug: other } = await marit.call('POST /api/giving/pages', {
      body: fields({ title: { en: 'Give to the supper' } }),
    });
    expect(other).toBe(`${made.slug}-2`);
    const { id: initiative } = await marit.call('POST /api/initiatives', {
      body: { name: 'Clear Water by 2028' },
    });
    expect(
      (await marit.try('POST /api/initiatives', { body: { name: 'Clear Water by 2028' } })).problem
        .fields?.[0]?.path,
    ).toBe('name');
    const toIt = await marit.call('POST /api/giving/pages', {
      body: fields({ title: { en: 'Clear water' }, initiativeId: initiative }),
    });
    expect((await page(toIt.slug)).initiative).toBe('Clear Water by 2028');
  });

  test('of an event that is hidden nothing is said on its page', async () => {
    const odalys = await world.as('odalys');
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Secret dinner' } });
    const { slug: hidden } = await marit.call('POST /api/giving/pages', {
      body: fields({ title: { en: 'Quiet page' }, eventId: id }),
    });
    expect((await page(hidden)).event).toBeNull();
  });

  test('the gifts of somebody who is erased stay, without them', async () => {
    const { token } = await give({ monthly: true, words: 'remember me' });
    await pay(token);
    const { rows } = await marit.call('GET /api/gifts', { query: {} });
    const mine = rows[0]!;
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: mine.contactId! },
      body: { name: mine.name },
    });
    const [row] = await world.app.db.query('select given, email, words, received from gifts where id = $1', [
      mine.id,
    ]);
    expect(row).toEqual({ given: 'Erased', email: null, words: '', received: 2500 });
    const [pledge] = await world.app.db.query(
      'select state, card_token from pledges where id = (select pledge_id from gifts where id = $1)',
      [mine.id],
    );
    expect(pledge).toEqual({ state: 'ended', cardToken: null });
    expect((await world.anyone.try('GET /api/public/gifts/:token', { params: { token } })).status).toBe(404);
  });
});
